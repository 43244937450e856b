package api

import (
	"context"

	"ubiquant/core/screen"
	"ubiquant/core/workspace"
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
func (s *Server) inverses(ctx context.Context, doc string, seq int64) ([]workspace.Change, error) {
	rows, err := s.Live.Since(ctx, doc, seq)
	if err != nil {
		return nil, err
	}
	out := make([]workspace.Change, len(rows))
	for i, r := range rows {
		if out[i], err = workspace.ReadChange(r.Inverse, true); err != nil {
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
	var till []workspace.Change
	if in.Till > 0 {
		if till, err = s.inverses(c.Context(), key, in.Till); err != nil {
			return nil, err
		}
	}
	out := &pastOut{}
	err = s.Live.Read(c.Context(), func(l *workspace.Live, _ int64) error {
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
		out.Before, out.After = pageOf(l, was, was.Root, workspace.View{}), pageOf(l, is, is.Root, workspace.View{})
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
	return s.takePlan(c, in.Seen, func(l *workspace.Live) (workspace.Change, error) {
		was, err := l.Was(key, from)
		if err != nil {
			return workspace.Change{}, err
		}
		return l.Restore(was, in.Elements, in.Title)
	})
}
