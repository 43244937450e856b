package api

import (
	"encoding/json"
	"time"

	"ubiquant/server/stream"
)

type hereIn struct {
	Client  string `json:"client"`
	Doc     string `json:"doc"` // empty when the window goes
	Element string `json:"element,omitempty"`
}

// here notes where a window looks, and tells the other processes on the database. It is
// kept nowhere and is forgotten by itself: presence is a courtesy, never a lock.
func (s *Server) here(c *Call, in *hereIn) (*none, error) {
	if in.Client == "" || len(in.Client) > 64 || len(in.Doc) > 200 || len(in.Element) > 64 {
		return nil, bad("a window says where it is in short")
	}
	h := stream.Here{Client: in.Client, Name: c.User.FullName, Doc: in.Doc, Element: in.Element}
	s.Hub.Arrive(h, time.Now())
	text, err := json.Marshal(h)
	if err == nil {
		err = s.Store.Say(c.Context(), string(text))
	}
	if err != nil {
		s.Log.Warn("where somebody looks was not told to other servers", "error", err)
	}
	return &none{}, nil
}

// Heard takes what another process said in passing.
func (s *Server) Heard(text string) {
	var h stream.Here
	if err := json.Unmarshal([]byte(text), &h); err == nil && h.Client != "" {
		s.Hub.Arrive(h, time.Now())
	}
}
