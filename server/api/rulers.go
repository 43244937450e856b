package api

import (
	"slices"
	"strings"

	"ubiquant/core/live"
	"ubiquant/core/screen"
)

type rulersIn struct {
	Kind string `path:"kind"`
	ID   string `path:"id"`
}

// rulersOut is the page margin that the screens of an application share: the padding
// of most of their outermost elements at each width from which it holds.
type rulersOut struct {
	Margins []margin `json:"margins"` // by the width they hold from, the least first
}

type margin struct {
	From    int               `json:"from"`  // px
	Step    string            `json:"step"`  // of the spacing tokens; empty for none
	Sizes   map[string]string `json:"sizes"` // what the step comes to, by theme, as CSS says it
	Screens int               `json:"screens"`
	Of      int               `json:"of"`
}

var rulerWidths = []struct {
	from int
	name string
}{{0, ""}, {640, "640"}, {960, "960"}, {1280, "1280"}}

func (s *Server) rulers(c *Call, in *rulersIn) (*rulersOut, error) {
	out := &rulersOut{Margins: []margin{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		d, ok := l.W.Doc(in.Kind + ":" + in.ID)
		if !ok {
			return missing(in.Kind + ":" + in.ID)
		}
		for i, w := range rulerWidths {
			counts, of := map[string]int{}, 0
			for _, o := range l.W.Docs {
				if o.Kind != screen.ScreenDoc || o.Removed || d.App != "" && o.App != d.App {
					continue
				}
				of++
				step := ""
				for _, name := range rulerWidths[:i+1] { // the widest that is set holds
					if v, ok := o.Root.Prop(strings.TrimSuffix("padding@"+name.name, "@")); ok {
						step = v.Text
					}
				}
				counts[step]++
			}
			m := margin{From: w.from, Of: of}
			for step, n := range counts {
				if n > m.Screens || n == m.Screens && step < m.Step {
					m.Step, m.Screens = step, n
				}
			}
			if m.Step != "" {
				step := m.Step[strings.LastIndexByte(m.Step, '.')+1:]
				if tok, ok := l.Kit.Tokens.Find("space." + step); ok {
					m.Step, m.Sizes = step, tok.Values
				}
			}
			if last := len(out.Margins) - 1; last < 0 || out.Margins[last].Step != m.Step {
				out.Margins = append(out.Margins, m)
			}
		}
		out.Margins = slices.DeleteFunc(out.Margins, func(m margin) bool { return m.Sizes == nil })
		return nil
	})
	return out, err
}
