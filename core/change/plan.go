package change

import (
	"fmt"

	"ubiquant/core/model"
	"ubiquant/core/picture"
)

// PutPicture keeps a picture that a screen is planned from or shows.
type PutPicture struct {
	Picture picture.Kept `json:"picture"`
	At      *int         `json:"at" do:"log"`
}

// DropPicture takes a picture away that no plan is of.
type DropPicture struct {
	Picture picture.Kept `json:"picture" do:"key=id"` // of which the id counts
}

// PutPlan says what is to become of a picture on a screen.
type PutPlan struct {
	Plan picture.Plan `json:"plan"`
	At   *int         `json:"at" do:"log"`
	Raw  bool         `json:"raw" do:"log"` // its picture or screen comes back by another step
}

// DropPlan takes a screen's plan away; the screen stays.
type DropPlan struct {
	Plan picture.Plan `json:"plan" do:"key=screen"` // of which the screen counts
}

var (
	_ = add[PutPicture](Kind{Name: "picture", Does: "keep a picture to plan from or to show", Role: model.Builder})
	_ = add[DropPicture](Kind{Name: "unpicture", Does: "take a picture away", Role: model.Builder})
	_ = add[PutPlan](Kind{Name: "plan", Does: "plan a screen from a picture", Role: model.Builder})
	_ = add[DropPlan](Kind{Name: "unplan", Does: "take a plan away", Role: model.Builder})
)

var (
	pictures = entries[picture.Kept]{
		part: model.Pictures,
		in:   func(w *model.Workspace) *[]picture.Kept { return &w.Pictures },
		key:  func(k *picture.Kept) string { return k.ID },
		put:  func(k picture.Kept, at *int, _ bool) Step { return &PutPicture{k, at} },
		drop: func(k picture.Kept) Step { return &DropPicture{k} },
	}
	plans = entries[picture.Plan]{
		part: model.Plans,
		in:   func(w *model.Workspace) *[]picture.Plan { return &w.Plans },
		key:  func(p *picture.Plan) string { return p.Screen },
		put:  func(p picture.Plan, at *int, raw bool) Step { return &PutPlan{p, at, raw} },
		drop: func(p picture.Plan) Step { return &DropPlan{p} },
	}
)

func (s *PutPicture) stamp(by, when string) { s.Picture.By, s.Picture.When = by, when }

func (s *PutPicture) sets() []string  { return []string{"picture:" + s.Picture.ID} }
func (s *DropPicture) sets() []string { return []string{"picture:" + s.Picture.ID} }
func (s *PutPlan) sets() []string     { return []string{"plan:" + s.Plan.Screen} }
func (s *DropPlan) sets() []string    { return []string{"plan:" + s.Plan.Screen} }

// maxPictures bounds what a workspace carries with it.
const maxPictures = 120

func (s *PutPicture) apply(t *taking) error {
	if err := s.Picture.Check(); err != nil {
		return err
	}
	if _, known := t.w.Picture(s.Picture.ID); !known && len(t.w.Pictures) >= maxPictures {
		return fmt.Errorf("the workspace keeps %d pictures already; take one away that nothing needs any more", maxPictures)
	}
	pictures.set(t, s.Picture, s.At, false)
	return nil
}

func (s *DropPicture) apply(t *taking) error {
	for i := range t.w.Plans {
		if p := &t.w.Plans[i]; p.Picture == s.Picture.ID {
			return fmt.Errorf("the screen %s is planned from this picture", p.Screen)
		}
	}
	if shown := t.w.Shown()[s.Picture.ID]; len(shown) > 0 {
		return fmt.Errorf("%s shows this picture", shown[0])
	}
	if _, ok := pictures.take(t, s.Picture.ID); !ok {
		return fmt.Errorf("there is no picture %s", s.Picture.ID)
	}
	return nil
}

func (s *PutPlan) apply(t *taking) error {
	if !s.Raw {
		if err := t.w.CheckPlan(&s.Plan); err != nil {
			return err
		}
	}
	plans.set(t, s.Plan, s.At, s.Raw)
	return nil
}

func (s *DropPlan) apply(t *taking) error {
	if _, ok := plans.take(t, s.Plan.Screen); !ok {
		return fmt.Errorf("%s is planned from no picture", s.Plan.Screen)
	}
	return nil
}
