package change

import (
	"fmt"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Remove takes a document away, recoverably.
type Remove struct {
	Doc string `json:"doc"`
}

// Restore brings a removed document back.
type Restore struct {
	Doc string `json:"doc"`
}

var (
	_ = add[Remove](Kind{Name: "remove", Does: "take a document away, recoverably", Role: model.Builder})
	_ = add[Restore](Kind{Name: "restore", Does: "bring a removed document back", Role: model.Builder})
)

func (s *Remove) sets() []string  { return []string{s.Doc + " removed"} }
func (s *Restore) sets() []string { return []string{s.Doc + " removed"} }

func (s *Remove) apply(t *taking) error {
	d, old, err := t.doc(s.Doc)
	if err != nil {
		return err
	}
	if old.Removed {
		return fmt.Errorf("%s is already so", s.Doc)
	}
	if user := t.w.UserOf(old); old.Kind != screen.ScreenDoc && user != "" {
		return fmt.Errorf("%s is in use by %s", s.Doc, user)
	}
	d.Removed = true
	t.Routes = true
	t.undo(&Restore{Doc: s.Doc})
	return nil
}

func (s *Restore) apply(t *taking) error {
	d, old, err := t.doc(s.Doc)
	if err != nil {
		return err
	}
	if !old.Removed {
		return fmt.Errorf("%s is already so", s.Doc)
	}
	if err := t.w.CheckMeta(old, s.Doc); err != nil {
		return err
	}
	d.Removed = false
	t.Routes = true
	t.undo(&Remove{Doc: s.Doc})
	return nil
}
