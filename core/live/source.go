package live

import "ubiquant/core/sample"

// Fetched is what a source gave.
type Fetched struct {
	Status  string // see sample.Ready
	Records []sample.Record
}

// liveSet is the usual set with what sources gave in place of their models' records.
func (l *Live) liveSet(given map[string]Fetched) (*sample.Set, map[string]string) {
	usual := sample.Set{ID: "live", Name: "Live"}
	if len(l.W.Sets) > 0 {
		usual.Records = l.W.Sets[0].Records
	}
	states := map[string]string{}
	for model, f := range given {
		usual = usual.With(model, f.Records)
		states[model] = f.Status
	}
	usual = l.W.Queried(usual, l.Today)
	return &usual, states
}
