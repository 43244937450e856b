package api

import (
	"encoding/json"

	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/snippet"
)

type snippetIn struct {
	ID  string `query:"id"`
	App string `query:"app"`
	Doc string `query:"doc"` // where it is to stand; it takes none of the names there
	// Parent is the element that it is to stand in, for what comes to stand in its rows too.
	Parent string `query:"parent"`
	State  string `query:"state"`
}

type snippetOut struct {
	Tree   json.RawMessage `json:"tree"`
	Beside json.RawMessage `json:"beside,omitempty"` // comes to stand at the end of Into
	Into   string          `json:"into,omitempty"`
}

// snippet makes a whole arrangement; its ids are for the client to replace.
func (s *Server) snippet(c *Call, in *snippetIn) (*snippetOut, error) {
	out := &snippetOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		tree, err := snippet.Make(l, in.ID, in.App, in.Doc)
		if d, ok := l.W.Doc(in.Doc); err != nil && ok {
			root, _ := screen.In(d, in.State, l.Cat)
			if parent, _ := root.Find(in.Parent); parent != nil {
				var beside *screen.Element
				if tree, beside, out.Into, err = snippet.Field(l, in.ID, parent); beside != nil {
					var w screen.Writer
					w.Element(beside)
					out.Beside = w.B
				}
			}
		}
		if err != nil {
			return bad("%s", err)
		}
		var w screen.Writer
		w.Element(tree)
		out.Tree = w.B
		return nil
	})
	return out, err
}
