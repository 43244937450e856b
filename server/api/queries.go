package api

import (
	"ubiquant/core/expr"
	"ubiquant/core/live"
	"ubiquant/core/sample"
)

type queryIn struct {
	Query sample.Query `json:"query"`
	Set   string       `json:"set,omitempty"`
}

type queryOut struct {
	Fields  []sample.Field  `json:"fields"`
	Records []sample.Record `json:"records"` // the first ones
	Count   int             `json:"count"`
	Problem string          `json:"problem,omitempty"`
}

// maxPreview bounds the records that a preview shows.
const maxPreview = 50

// previewQuery computes a query that is not kept yet.
func (s *Server) previewQuery(c *Call, in *queryIn) (*queryOut, error) {
	out := &queryOut{Fields: []sample.Field{}, Records: []sample.Record{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		set := l.SampleSet(in.Set)
		if set == nil {
			set = &sample.Set{}
		}
		models := l.W.ModelMap()
		m, err := expr.QueryModel(&in.Query, models)
		if err != nil {
			out.Problem = err.Error()
			return nil
		}
		out.Fields = m.Fields
		list, err := expr.RunQuery(&in.Query, models, set.Records, l.Today)
		if err != nil {
			out.Problem = err.Error()
			return nil
		}
		out.Count = len(list)
		out.Records = append(out.Records, list[:min(len(list), maxPreview)]...)
		return nil
	})
	return out, err
}
