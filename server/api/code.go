package api

import (
	"errors"

	"ubiquant/core/change"
	"ubiquant/core/code"
	"ubiquant/core/live"
	"ubiquant/core/screen"
)

type docCodeOut struct {
	Code     string `json:"code"`
	Revision int    `json:"revision"`
}

// docCode is a document's tree as markup that people edit.
func (s *Server) docCode(c *Call, in *docIn) (*docCodeOut, error) {
	out := &docCodeOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		d, ok := l.W.Doc(in.key())
		if !ok {
			return missing(in.key())
		}
		out.Code, out.Revision = code.Write(d.Root), d.Revision
		return nil
	})
	return out, err
}

type putCodeIn struct {
	Kind     string `path:"kind" json:"-"`
	ID       string `path:"id" json:"-"`
	Code     string `json:"code"`
	Revision int    `json:"revision"` // that the code was written from
	Seen     seen   `json:"seen"`
}

// putCode takes edited code as the edits that lie between it and the tree.
func (s *Server) putCode(c *Call, in *putCodeIn) (*changeOut, error) {
	key := in.Kind + ":" + in.ID
	return s.takePlan(c, in.Seen, func(l *live.Live) (change.Change, error) {
		d, ok := l.W.Doc(key)
		if !ok {
			return change.Change{}, errors.New("there is no " + key)
		}
		if d.Revision != in.Revision {
			return change.Change{}, errors.New(
				"the screen was changed meanwhile; copy your code, look at the new one, and put yours in there",
			)
		}
		then, err := code.Read([]byte(in.Code), d.Root, l.Cat)
		if err != nil {
			return change.Change{}, err
		}
		edits := screen.Between(d.Root, then)
		for i := range edits {
			edits[i] = screen.Checked(edits[i])
		}
		if len(edits) == 0 {
			return change.Change{}, errors.New("nothing in it differs from the screen")
		}
		return change.Change{
			Title: "Edit " + d.Title + " as code",
			Steps: []change.Step{&change.Edit{Doc: key, Edits: edits}},
		}, nil
	})
}
