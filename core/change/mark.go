package change

import (
	"fmt"
	"strings"

	"ubiquant/core/model"
)

// Mark gives a document as it stands now the change's title as a version; nothing changes.
type Mark struct {
	Doc string `json:"doc"`
}

var _ = add[Mark](Kind{Name: "mark", Does: "name a document as it stands as a version", Role: model.Builder})

func (s *Mark) sets() []string { return nil }

func (s *Mark) apply(t *taking) error {
	if _, _, err := t.doc(s.Doc); err != nil {
		return err
	}
	if strings.TrimSpace(t.Applied.Title) == "" {
		return fmt.Errorf("a version has a name")
	}
	t.undo(&Mark{Doc: s.Doc})
	return nil
}
