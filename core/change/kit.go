package change

import (
	"errors"

	"ubiquant/core/jsonread"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// TakeKit puts the workspace on a kit: a newer version of its own, or another one. Steps
// before it are held against the kit that was, steps after it against the one that is.
//
// Docs are the documents as they are on that kit. They may hold what the kit does not
// know: what has no counterpart stays written, and is a finding at its element.
type TakeKit struct {
	Kit  model.KitRef    `json:"kit"`
	Docs []model.Carried `json:"docs"`
}

var _ = add[TakeKit](Kind{Name: "kit", Does: "put the workspace on another version of its kit, or on another kit", Role: model.Keeper})

// Kits finds kits by what names them. What gives the past of a workspace may know them.
type Kits interface {
	FindKit(ref model.KitRef) (*kit.Kit, error)
}

func (s *TakeKit) sets() []string { return []string{"kit"} }

func (s *TakeKit) apply(t *taking) error {
	kits, ok := t.past.(Kits)
	if !ok {
		return errors.New("kits cannot be changed here")
	}
	bare, err := kits.FindKit(s.Kit)
	if err != nil {
		return err
	}
	old := t.w.Kit
	w := t.part(model.BaseKit)
	w.Kit = s.Kit
	dressed, _ := w.Own.Dress(bare) // what no longer fits is told where the kit is looked at
	t.cat, t.stale = model.NewCatalog(dressed, w), false
	back := &TakeKit{Kit: old}
	for _, c := range s.Docs {
		d, was, err := t.doc(c.Doc)
		if err != nil {
			return err
		}
		d.Root, d.States = c.Root, c.States
		d.Revision++
		if err := model.CheckSize(d); err != nil {
			return err
		}
		if err := w.CheckPiece(d); err != nil {
			return err
		}
		back.Docs = append(back.Docs, model.Carried{Doc: c.Doc, Root: was.Root, States: was.States})
	}
	t.undo(back)
	return nil
}

func readCarried(r *jsonread.Reader, _ bool) (list []model.Carried, err error) {
	err = r.Array(func(int) error {
		var c model.Carried
		err := r.Object(func(key string) error {
			var err error
			switch key {
			case "doc":
				c.Doc, err = r.String()
			case "root":
				c.Root, err = screen.ReadElement(r)
			case "states":
				err = r.Array(func(int) error {
					s, err := model.ReadState(r)
					c.States = append(c.States, s)
					return err
				})
			default:
				err = r.Unknown(key, "doc", "root", "states")
			}
			return err
		})
		if err == nil && (c.Doc == "" || c.Root == nil) {
			err = r.Fail("a doc and a root", "a document is carried without saying which, or without its tree")
		}
		list = append(list, c)
		return err
	})
	return list, err
}

func writeCarried(out *screen.Writer, list []model.Carried) {
	out.Open('[')
	for i := range list {
		out.Open('{')
		out.Field("doc", list[i].Doc)
		out.Key("root")
		out.Element(list[i].Root)
		if len(list[i].States) > 0 {
			out.Key("states")
			out.Open('[')
			for j := range list[i].States {
				model.WriteState(out, &list[i].States[j])
			}
			out.Close(']')
		}
		out.Close('}')
	}
	out.Close(']')
}
