package api

import (
	"ubiquant/core/workspace"
)

func (s *Server) proposePiece(c *Call, in *workspace.Run) (*workspace.Extraction, error) {
	var out *workspace.Extraction
	err := s.Live.Read(c.Context(), func(l *workspace.Live, _ int64) error {
		var err error
		if out, err = l.ProposePiece(*in); err != nil {
			return bad("%s", err)
		}
		return nil
	})
	return out, err
}

// seen says what the window that asks for a change shows, as changeIn does.
type seen struct {
	Client string `json:"client,omitempty"`
	View   string `json:"view,omitempty"`
	Set    string `json:"set,omitempty"`
	State  string `json:"state,omitempty"`
	Known  int    `json:"known,omitempty"`
}

// takePlan takes a change that the core works out.
func (s *Server) takePlan(
	c *Call,
	in seen,
	plan func(l *workspace.Live) (workspace.Change, error),
) (*changeOut, error) {
	return s.take(
		c,
		&changeIn{Client: in.Client, View: in.View, Set: in.Set, State: in.State, Known: in.Known},
		0,
		func(l *workspace.Live) (workspace.Change, error) {
			change, err := plan(l)
			if err != nil {
				return change, bad("%s", err)
			}
			return change, nil
		},
	)
}

type extractIn struct {
	Order workspace.PieceOrder `json:"order"`
	Seen  seen                 `json:"seen"`
}

func (s *Server) extractPiece(c *Call, in *extractIn) (*changeOut, error) {
	return s.takePlan(c, in.Seen, func(l *workspace.Live) (workspace.Change, error) { return l.Extract(in.Order) })
}

type looseIn struct {
	Doc     string `json:"doc"`
	Element string `json:"element"`
	Seen    seen   `json:"seen"`
}

func (s *Server) loosePiece(c *Call, in *looseIn) (*changeOut, error) {
	return s.takePlan(
		c,
		in.Seen,
		func(l *workspace.Live) (workspace.Change, error) { return l.Loose(in.Doc, in.Element) },
	)
}
