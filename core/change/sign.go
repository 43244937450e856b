package change

import (
	"fmt"
	"slices"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Sign signs a document off, or takes that back.
type Sign struct {
	Doc    string          `json:"doc"`
	Signed *screen.SignOff `json:"signed"` // who and when is the server's to say; none takes it back
}

var _ = add[Sign](Kind{Name: "sign", Does: "sign a document off, or take that back", Role: model.Builder})

func (s *Sign) stamp(by, when string) {
	if s.Signed != nil {
		s.Signed = &screen.SignOff{By: by, When: when}
	}
}

// allowed: a document is signed off by its owner, when it meets what the team asks for.
func (s *Sign) allowed(c *Circumstances) error {
	d, ok := c.W.Doc(s.Doc)
	if !ok {
		return nil // applying it says so
	}
	if d.Owner != c.Person && c.Role != model.Keeper {
		return denied("a screen is signed off by its owner, %s", d.Owner)
	}
	if s.Signed == nil || c.Restores || c.Unmet == nil {
		return nil
	}
	if open := c.Unmet(s.Doc); len(open) > 0 {
		more := ""
		if len(open) > 1 {
			more = fmt.Sprintf(" (and %d more)", len(open)-1)
		}
		return fmt.Errorf("%s: %s%s", d.Title, open[0], more)
	}
	return nil
}

func (s *Sign) sets() []string { return []string{s.Doc + " signed"} }

func (s *Sign) apply(t *taking) error {
	d, old, err := t.doc(s.Doc)
	if err != nil {
		return err
	}
	if s.Signed != nil {
		signed := *s.Signed
		if signed.Revision == 0 {
			signed.Revision = d.Revision
		}
		d.Signed = &signed
	} else {
		d.Signed = nil
	}
	t.undo(&Sign{Doc: s.Doc, Signed: old.Signed})
	return nil
}

// SignOff is the change that signs a document off. What the tool filled in on it
// is kept: from then on it counts as what the team does.
func SignOff(d *screen.Document) Change {
	c := Change{Title: "Sign off " + d.Title}
	var keep []screen.Edit
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if slices.ContainsFunc(e.Props, func(p screen.Prop) bool { return p.Filled }) {
			keep = append(keep, screen.Edit{Op: screen.Keep, ID: e.ID})
		}
		return true
	})
	if len(keep) > 0 {
		c.Steps = append(c.Steps, &Edit{Doc: d.Address(), Edits: keep})
	}
	c.Steps = append(c.Steps, &Sign{Doc: d.Address(), Signed: &screen.SignOff{}})
	return c
}
