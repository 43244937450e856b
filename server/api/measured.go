package api

import (
	"ubiquant/core/geometry"
	"ubiquant/core/live"
	"ubiquant/core/screen"
)

// measurable is a screen that was not measured since it last changed, with how it is looked at.
type measurable struct {
	Doc   string      `json:"doc"`
	Title string      `json:"title"`
	Drawn string      `json:"drawn"` // names the way it is drawn now
	Looks []live.Look `json:"looks"`
}

type unmeasuredOut struct {
	Screens  int          `json:"screens"`  // that are drawn here
	Findings int          `json:"findings"` // on those that were measured
	Open     []measurable `json:"open"`
}

// unmeasured tells what is left to measure.
func (s *Server) unmeasured(c *Call, _ *none) (*unmeasuredOut, error) {
	out := &unmeasuredOut{Open: []measurable{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		for _, d := range l.W.Docs {
			if d.Kind == screen.ScreenDoc && !d.Removed && d.Source == "" {
				out.Screens++
			}
		}
		out.Findings = len(l.Measured())
		for _, d := range l.Unmeasured() {
			out.Open = append(out.Open, measurable{d.Address(), d.Title, l.Drawn(d), l.Looks(d)})
		}
		return nil
	})
	return out, err
}

// looked is a screen as it was drawn in one way.
type looked struct {
	Look  live.Look      `json:"look"`
	Boxes []geometry.Box `json:"boxes"`
	Inks  []live.Ink     `json:"inks"`
}

type measuredIn struct {
	Doc   string   `json:"doc"`
	Drawn string   `json:"drawn"` // as it was named when it was to be measured
	Looks []looked `json:"looks"`
}

type measuredOut struct {
	Findings []live.Seen `json:"findings"`
	Again    bool        `json:"again"` // it changed meanwhile, and nothing was kept
}

const (
	maxLooks = 200
	maxBoxes = 60_000
	maxInks  = 2_000
)

// measured judges a screen that was drawn in all ways of looking at it, and keeps what is found
// for the worklist until the screen changes.
func (s *Server) measured(c *Call, in *measuredIn) (*measuredOut, error) {
	if len(in.Looks) > maxLooks {
		return nil, bad("at most %d ways of looking at a screen are measured", maxLooks)
	}
	for _, k := range in.Looks {
		if len(k.Boxes) > maxBoxes || len(k.Inks) > maxInks || k.Look.Width < 1 || k.Look.Width > 20_000 {
			return nil, bad("%s: up to %d boxes and %d colours on a page of 1 to 20,000 pixels are judged", k.Look, maxBoxes, maxInks)
		}
	}
	out := &measuredOut{Findings: []live.Seen{}}
	var found live.Gathered
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		d, ok := l.W.Doc(in.Doc)
		if !ok || d.Kind != screen.ScreenDoc {
			return missing(in.Doc)
		}
		for _, k := range in.Looks {
			root, _ := screen.In(d, k.Look.State, l.Cat)
			n, _ := l.ResolveTree(d, root, live.View{Set: k.Look.Set, State: k.Look.State})
			list := geometry.Judge(n, root, k.Boxes, float64(k.Look.Width))
			found.Add(d, k.Look, append(list, live.Faint(n, k.Inks)...))
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return out, s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		d, ok := l.W.Doc(in.Doc)
		if !ok {
			return missing(in.Doc)
		}
		out.Findings = append(out.Findings, found.Seen()...)
		out.Again = !l.TakeMeasured(d, in.Drawn, out.Findings)
		return nil
	})
}
