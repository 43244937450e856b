package api

import (
	"ubiquant/core/assemble"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
)

type assembleIn struct {
	Screen  string `path:"id" json:"-"`
	ID      string `json:"id"`
	Title   string `json:"title"`
	Route   string `json:"route"`
	Preview bool   `json:"preview,omitempty"` // nothing is made; what would not come along is told
	Client  string `json:"client,omitempty"`
}

type assembleOut struct {
	Change   *changeOut      `json:"change"`   // none in a preview
	Elements int             `json:"elements"` // of the new screen
	Lists    []string        `json:"lists"`    // models that are made or get fields, by name
	Left     []assemble.Left `json:"left"`
}

// assemble makes of a screen that was read from code one that is assembled here.
func (s *Server) assemble(c *Call, in *assembleIn) (*assembleOut, error) {
	out := &assembleOut{Lists: []string{}}
	take := func(l *live.Live) (change.Change, error) {
		made, left, err := assemble.Take(l, assemble.Order{
			Doc: string(screen.ScreenDoc) + ":" + in.Screen, ID: in.ID, Title: in.Title, Route: in.Route, Seed: 1,
		})
		out.Left, out.Lists, out.Elements = left, out.Lists[:0], 0
		for _, step := range made.Steps {
			switch step := step.(type) {
			case *change.PutModel:
				out.Lists = append(out.Lists, step.Model.Name)
			case *change.Create:
				out.Elements = step.Document.Root.Count()
			}
		}
		if err != nil {
			return made, bad("%s", err)
		}
		return made, nil
	}
	if in.Preview {
		err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
			made, err := take(l)
			if err == nil {
				_, _, err = change.Apply(l.W, made, l.Cat, l)
			}
			if err != nil {
				return bad("%s", err)
			}
			return nil
		})
		return out, err
	}
	var err error
	out.Change, err = s.take(c, &changeIn{Client: in.Client}, take)
	return out, err
}
