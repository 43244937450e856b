package api

import (
	"context"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
)

type pastIn struct {
	Kind string `path:"kind"`
	ID   string `path:"id"`
	Seq  int64  `query:"seq"`  // the document as it was after this change
	Till int64  `query:"till"` // beside how it was after this one; 0 is now
}

type pastOut struct {
	Differences []screen.Difference `json:"differences"`
	Before      Page                `json:"before"`
	After       Page                `json:"after"`
}

// inverses are what takes back all that was done to a document after a change.
func (s *Server) inverses(ctx context.Context, doc string, seq int64) ([]change.Change, error) {
	rows, err := s.Live.Since(ctx, doc, seq)
	if err != nil {
		return nil, err
	}
	out := make([]change.Change, len(rows))
	for i, r := range rows {
		if out[i], err = change.Read(r.Inverse, true); err != nil {
			return nil, err
		}
	}
	return out, nil
}

func (s *Server) past(c *Call, in *pastIn) (*pastOut, error) {
	key := in.Kind + ":" + in.ID
	from, err := s.inverses(c.Context(), key, in.Seq)
	if err != nil {
		return nil, err
	}
	var till []change.Change
	if in.Till > 0 {
		if till, err = s.inverses(c.Context(), key, in.Till); err != nil {
			return nil, err
		}
	}
	out := &pastOut{}
	err = s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		was, err := l.Was(key, from)
		if err != nil {
			return bad("%s", err)
		}
		is, err := l.Was(key, till)
		if err != nil {
			return bad("%s", err)
		}
		out.Differences = screen.Differences(was.Root, is.Root, func(e *screen.Element) string {
			title := e.Type
			if def, ok := l.Cat.Component(e.Type); ok {
				title = def.Title
			}
			if e.Text.Kind == screen.Literal && e.Text.Text != "" {
				title += " “" + e.Text.Text + "”"
			}
			return title
		})
		out.Before, out.After = pageOf(l.Scene(), was, was.Root, live.View{}), pageOf(l.Scene(), is, is.Root, live.View{})
		return nil
	})
	return out, err
}

type restoreIn struct {
	Kind     string   `path:"kind" json:"-"`
	ID       string   `path:"id" json:"-"`
	Seq      int64    `json:"seq"`
	Title    string   `json:"title"`
	Elements []string `json:"elements,omitempty"` // only these; none is all
	Seen     seen     `json:"seen"`
}

func (s *Server) restore(c *Call, in *restoreIn) (*changeOut, error) {
	key := in.Kind + ":" + in.ID
	from, err := s.inverses(c.Context(), key, in.Seq)
	if err != nil {
		return nil, err
	}
	return s.takePlan(c, in.Seen, func(l *live.Live) (change.Change, error) {
		was, err := l.Was(key, from)
		if err != nil {
			return change.Change{}, err
		}
		return l.Restore(was, in.Elements, in.Title)
	})
}
