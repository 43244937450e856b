package api

import (
	"time"

	"ubiquant/server/live"
)

type hereIn struct {
	Client  string `json:"client"`
	Doc     string `json:"doc"` // empty when the window goes
	Element string `json:"element,omitempty"`
}

// here notes where a window looks. It lives in this process only and is forgotten by
// itself: presence is a courtesy, never a lock.
func (s *Server) here(c *Call, in *hereIn) (*none, error) {
	if in.Client == "" || len(in.Client) > 64 || len(in.Doc) > 200 || len(in.Element) > 64 {
		return nil, bad("a window says where it is in short")
	}
	s.Hub.Arrive(live.Here{Client: in.Client, Name: c.User.FullName, Doc: in.Doc, Element: in.Element}, time.Now())
	return &none{}, nil
}
