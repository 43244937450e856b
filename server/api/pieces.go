package api

import (
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/piece"
)

func (s *Server) proposePiece(c *Call, in *piece.Run) (*piece.Extraction, error) {
	var out *piece.Extraction
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		var err error
		if out, err = piece.Propose(l, *in); err != nil {
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
	plan func(l *live.Live) (change.Change, error),
) (*changeOut, error) {
	return s.take(
		c,
		&changeIn{Client: in.Client, View: in.View, Set: in.Set, State: in.State, Known: in.Known},
		func(l *live.Live) (change.Change, error) {
			change, err := plan(l)
			if err != nil {
				return change, bad("%s", err)
			}
			return change, nil
		},
	)
}

type extractIn struct {
	Order piece.Order `json:"order"`
	Seen  seen        `json:"seen"`
}

func (s *Server) extractPiece(c *Call, in *extractIn) (*changeOut, error) {
	return s.takePlan(c, in.Seen, func(l *live.Live) (change.Change, error) { return piece.Extract(l, in.Order) })
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
		func(l *live.Live) (change.Change, error) { return piece.Loose(l, in.Doc, in.Element) },
	)
}

type surroundIn struct {
	Doc     string `json:"doc"`
	Element string `json:"element"`
}

func (s *Server) proposeShell(c *Call, in *surroundIn) (*piece.Surroundings, error) {
	var out *piece.Surroundings
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		var err error
		if out, err = piece.Surround(l, in.Doc, in.Element); err != nil {
			return bad("%s", err)
		}
		return nil
	})
	return out, err
}

type shellIn struct {
	Order piece.ShellOrder `json:"order"`
	Seen  seen             `json:"seen"`
}

func (s *Server) makeShell(c *Call, in *shellIn) (*changeOut, error) {
	return s.takePlan(c, in.Seen, func(l *live.Live) (change.Change, error) { return piece.Shell(l, in.Order) })
}
