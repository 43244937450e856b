package api

import (
	"ubiquant/core/geometry"
	"ubiquant/core/live"
	"ubiquant/core/screen"
)

type geometryIn struct {
	Doc   string         `json:"doc"`
	Set   string         `json:"set"`
	State string         `json:"state,omitempty"`
	Width float64        `json:"width"`
	Boxes []geometry.Box `json:"boxes"` // as a frame measured them
}

type geometryOut struct {
	Findings []geometry.Finding `json:"findings"`
}

// geometry judges a screen that was measured.
func (s *Server) geometry(c *Call, in *geometryIn) (*geometryOut, error) {
	if len(in.Boxes) > 60_000 || in.Width < 1 || in.Width > 20_000 {
		return nil, bad("up to 60,000 boxes on a page of 1 to 20,000 pixels are judged")
	}
	out := &geometryOut{}
	view, _, err := s.live(c.Context(), in.Doc, live.View{Set: in.Set, State: in.State})
	if err != nil {
		return nil, err
	}
	err = s.onScene(c.Context(), func(l *live.Scene) error {
		d, ok := l.W.Doc(in.Doc)
		if !ok {
			return missing(in.Doc)
		}
		root, _ := screen.In(d, in.State, l.Cat)
		n, _ := l.ResolveTree(d, root, view)
		out.Findings = geometry.Judge(n, root, in.Boxes, in.Width)
		return nil
	})
	return out, err
}
