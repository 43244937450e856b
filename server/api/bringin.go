package api

import (
	"encoding/json"
	"errors"

	"ubiquant/core/bringin"
	"ubiquant/core/live"
	"ubiquant/core/screen"
)

type bringIn struct {
	HTML   string            `json:"html"`
	Doc    string            `json:"doc"`              // it is to go into; its names are taken
	Chosen map[string]string `json:"chosen,omitempty"` // types decided, by element
}

type bringOut struct {
	bringin.Result
	Trees []json.RawMessage `json:"trees"`
	Page  Page              `json:"page"` // how it looks
}

// bringIn reads markup as elements, to look at; nothing is put anywhere.
func (s *Server) bringIn(c *Call, in *bringIn) (*bringOut, error) {
	out := &bringOut{Trees: []json.RawMessage{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		taken := map[string]bool{}
		if d, ok := l.W.Doc(in.Doc); ok {
			d.Root.Walk(func(e, _ *screen.Element) bool { taken[e.Name] = true; return true })
		}
		res, err := bringin.Read(
			[]byte(in.HTML),
			l.Kit,
			bringin.Options{Prefix: "m", Chosen: in.Chosen, Taken: taken},
		)
		var own *bringin.Error
		if errors.As(err, &own) {
			return bad("%s", own.Reason)
		}
		if err != nil {
			return err
		}
		out.Result = *res
		for _, e := range res.Roots {
			var w screen.Writer
			w.Element(e)
			out.Trees = append(out.Trees, w.B)
		}
		root := &screen.Element{
			ID:       "root",
			Type:     "section",
			Props:    []screen.Prop{{Name: "padding", Value: screen.Lit("3")}},
			Children: res.Roots,
		}
		out.Page = pageOf(l.Scene(), &screen.Document{Kind: screen.PieceDoc, ID: "tile", Root: root}, root, live.View{})
		return nil
	})
	return out, err
}
