package change

import (
	"fmt"
	"slices"

	"ubiquant/core/model"
)

// Install says what an application has installed.
type Install struct {
	App      string            `json:"app"`
	Packages map[string]string `json:"packages"` // versions asked for, by name; none: nobody said
}

var _ = add[Install](Kind{Name: "install", Does: "say what an application has installed", Role: model.Builder})

func (s *Install) sets() []string { return []string{"install:" + s.App} }

func (s *Install) apply(t *taking) error {
	w := t.part(model.Applications)
	i := slices.IndexFunc(w.Apps, func(a model.App) bool { return a.ID == s.App })
	if i < 0 {
		return fmt.Errorf("there is no application %q", s.App)
	}
	t.undo(&Install{s.App, w.Apps[i].Packages})
	w.Apps[i].Packages = s.Packages
	return nil
}
