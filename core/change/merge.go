package change

import (
	"slices"

	"ubiquant/core/jsonread"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Stored is a document or a part of a workspace in its JSON form.
type Stored struct {
	Name string `json:"name"` // address, or the part's key
	Text string `json:"text"`
}

// Merge puts documents and parts in place of what stood, as merging two workspaces made them: whoever
// makes one holds all of it together against what a workspace must be.
type Merge struct {
	Docs  []Stored `json:"docs"`
	Gone  []string `json:"gone"`  // documents that are taken away for good
	Order []string `json:"order"` // of all documents then
	Parts []Stored `json:"parts"`
}

var _ = add[Merge](Kind{Name: "merge", Does: "put what merging made in place of what stood", Role: model.Keeper, Log: true})

func (s *Merge) sets() []string {
	var out []string
	for _, list := range [][]Stored{s.Docs, s.Parts} {
		for _, d := range list {
			out = append(out, d.Name)
		}
	}
	return append(out, s.Gone...)
}

func (s *Merge) apply(t *taking) error {
	back := &Merge{}
	for _, d := range t.w.Docs {
		back.Order = append(back.Order, d.Address())
	}
	for _, p := range s.Parts {
		part := model.Part(p.Name)
		back.Parts = append(back.Parts, Stored{p.Name, string(t.w.Stored(part))})
		if err := t.part(part).Replace(part, []byte(p.Text)); err != nil {
			return err
		}
	}
	w := t.part(model.Order)
	stored := func(d *screen.Document) Stored {
		var out screen.Writer
		model.WriteDocument(&out, d)
		return Stored{d.Address(), string(out.B)}
	}
	for _, address := range s.Gone {
		at, err := t.place(address)
		if err != nil {
			return err
		}
		back.Docs = append(back.Docs, stored(w.Docs[at]))
		t.touch(w.Docs[at])
		w.Docs = slices.Delete(w.Docs, at, at+1)
	}
	for _, one := range s.Docs {
		kind, _, _ := screen.ParseAddress(one.Name)
		r, err := jsonread.New([]byte(one.Text), jsonread.DefaultLimits)
		if err != nil {
			return err
		}
		d, err := model.ReadDocument(r, kind)
		if err != nil {
			return err
		}
		if err := model.CheckSize(d); err != nil {
			return err
		}
		at, err := t.place(one.Name)
		if err != nil { // it is new here
			w.Docs = append(w.Docs, d)
			t.touch(d)
			t.Before[one.Name] = nil
			back.Gone = append(back.Gone, one.Name)
			continue
		}
		back.Docs = append(back.Docs, stored(w.Docs[at]))
		t.touch(w.Docs[at])
		w.Docs[at] = d
	}
	rank := map[string]int{}
	for i, address := range s.Order {
		rank[address] = i
	}
	slices.SortStableFunc(w.Docs, func(a, b *screen.Document) int { return rank[a.Address()] - rank[b.Address()] })
	t.stale, t.Routes = true, true
	t.undo(back)
	return nil
}
