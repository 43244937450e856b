package api

import (
	"ubiquant/core/live"
	"ubiquant/core/render"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

type heldIn struct {
	Doc   string `json:"doc"`
	Set   string `json:"set,omitempty"`
	State string `json:"state,omitempty"`
	// Language that the texts are shown in; empty is the one that they are written in.
	Language string         `json:"language,omitempty"`
	From     map[string]any `json:"from"` // what the controls held: texts, numbers, yes/no
	To       map[string]any `json:"to"`   // what they hold now
	// What presses did to records, before and now.
	Touched []sample.Touch `json:"touched,omitempty"`
	Touches []sample.Touch `json:"touches,omitempty"`
}

type heldOut struct {
	Patches []render.Patch `json:"patches"`
	Page    *Page          `json:"page,omitempty"` // where patches cannot say it
	// Problems are what sources could not give.
	Problems []string `json:"problems"`
}

const (
	maxHeld     = 200
	maxHeldText = 10_000
	maxTouches  = 1_000
)

// held tells what of a screen follows when somebody uses its controls.
func (s *Server) held(c *Call, in *heldIn) (*heldOut, error) {
	for _, list := range []map[string]any{in.From, in.To} {
		if len(list) > maxHeld {
			return nil, bad("at most %d controls are followed", maxHeld)
		}
		for name, v := range list {
			switch x := v.(type) {
			case string:
				if len(x) > maxHeldText {
					return nil, bad("%s holds more than %d letters", name, maxHeldText)
				}
			case float64, bool:
			default:
				return nil, bad("%s holds neither a text nor a number nor yes or no", name)
			}
		}
	}
	if len(in.Touches) > maxTouches || len(in.Touched) > maxTouches {
		return nil, bad("at most %d changes of records are followed; begin the preview anew", maxTouches)
	}
	out := &heldOut{Patches: []render.Patch{}, Problems: []string{}}
	before, _, err := s.live(c.Context(), in.Doc, live.View{Set: in.Set, State: in.State, Controls: in.From, Touched: in.Touched})
	if err != nil {
		return nil, err
	}
	after, told, err := s.live(c.Context(), in.Doc, live.View{Set: in.Set, State: in.State, Controls: in.To, Touched: in.Touches})
	if err != nil {
		return nil, err
	}
	err = s.onScene(c.Context(), func(l *live.Scene) error {
		l = l.In(in.Language)
		if at := len(in.Touches) - 1; at >= len(in.Touched) && in.Touches[at].Add {
			m := l.W.ModelMap()[in.Touches[at].List]
			if m == nil {
				return missing("model " + in.Touches[at].List)
			}
			_, what := in.Touches[at].Taken(m)
			out.Problems = append(out.Problems, what...)
		}
		d, ok := l.W.Doc(in.Doc)
		if !ok {
			return missing(in.Doc)
		}
		root, _ := screen.In(d, in.State, l.Cat)
		from, _ := l.ResolveTree(d, root, before)
		to, _ := l.ResolveTree(d, root, after)
		for _, p := range told {
			out.Problems = append(out.Problems, p.Message)
		}
		if patches, ok := render.Diff(l.Kit, from, to); ok {
			out.Patches = append(out.Patches, patches...)
			return nil
		}
		p := pageOf(l, d, root, after)
		out.Page = &p
		return nil
	})
	return out, err
}
