package api

import (
	"context"
	"errors"
	"fmt"
	"io"
	"mime"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"time"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/server/outward"
)

// What one answer of a source may cost.
const (
	maxAnswer  = 2 << 20
	freshFor   = 20 * time.Second
	maxAnswers = 200
)

// patience is how long a source may take.
var patience = 5 * time.Second

// fetcher asks sources, from the addresses that a keeper has allowed and no others.
type fetcher struct {
	mu      sync.Mutex
	answers map[string]answer
	// instead are addresses that stand in for those of bases, by name.
	instead map[string]string
}

type answer struct {
	status string // see sample.Ready
	why    string
	body   []byte
	at     time.Time
}

// fetch asks one address. allowed are the hosts, with their ports, that may be asked.
func (f *fetcher) fetch(ctx context.Context, address string, allowed map[string]bool) answer {
	f.mu.Lock()
	known, ok := f.answers[address]
	f.mu.Unlock()
	if ok && time.Since(known.at) < freshFor {
		return known
	}
	a := ask(ctx, address, allowed)
	a.at = time.Now()
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.answers == nil || len(f.answers) >= maxAnswers {
		f.answers = map[string]answer{}
	}
	f.answers[address] = a
	return a
}

func ask(ctx context.Context, address string, allowed map[string]bool) answer {
	failed := func(format string, args ...any) answer {
		return answer{status: sample.Failed, why: fmt.Sprintf(format, args...)}
	}
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	client := outward.Client(allowed, patience)
	defer client.CloseIdleConnections()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return failed("%s is no address", address)
	}
	r.Header.Set("Accept", "application/json")
	out, err := client.Do(r)
	if err != nil {
		if errors.Is(ctx.Err(), context.DeadlineExceeded) {
			return failed("it took longer than %s", patience)
		}
		return failed("%s", outward.Reason(err))
	}
	defer out.Body.Close()
	switch {
	case out.StatusCode == http.StatusUnauthorized || out.StatusCode == http.StatusForbidden:
		return answer{status: sample.Refused, why: "it refuses: " + out.Status}
	case out.StatusCode < 200 || out.StatusCode > 299:
		return failed("it answers %s", out.Status)
	}
	if kind, _, err := mime.ParseMediaType(out.Header.Get("Content-Type")); err != nil ||
		kind != "application/json" && !strings.HasSuffix(kind, "+json") {
		return failed("it calls itself %q, not JSON", out.Header.Get("Content-Type"))
	}
	body, err := io.ReadAll(io.LimitReader(out.Body, maxAnswer+1))
	switch {
	case errors.Is(ctx.Err(), context.DeadlineExceeded):
		return failed("it took longer than %s", patience)
	case err != nil:
		return failed("its answer broke off: %s", err)
	case len(body) > maxAnswer:
		return failed("its answer is larger than %d MiB", maxAnswer>>20)
	}
	return answer{status: sample.Ready, body: body}
}

// StandIn has an address stand in for that of a base.
func (s *Server) StandIn(base, address string) {
	if s.sources.instead == nil {
		s.sources.instead = map[string]string{}
	}
	s.sources.instead[base] = address
}

// base is an address as it is asked from here.
func (f *fetcher) base(b sample.Base) sample.Base {
	if at, ok := f.instead[b.Name]; ok {
		b.Address = at
	}
	return b
}

type asked struct {
	source sample.Source
	base   sample.Base
	model  sample.Model
	url    string
}

// told is what came of asking a source.
type told struct {
	Model    string
	Fetched  live.Fetched
	Problems []string
}

func (s *Server) read(ctx context.Context, a asked, allowed map[string]bool) told {
	out := told{Model: a.model.ID}
	got := s.sources.fetch(ctx, a.url, allowed)
	out.Fetched.Status = got.status
	if got.status != sample.Ready {
		out.Problems = []string{got.why}
		return out
	}
	records, problems, err := a.source.Read(&a.model, got.body)
	if err != nil {
		out.Fetched.Status, out.Problems = sample.Failed, []string{err.Error()}
		return out
	}
	out.Fetched.Records, out.Problems = records, problems
	return out
}

// allowedBy lists the hosts that a workspace's keepers have allowed.
func (f *fetcher) allowedBy(w *model.Workspace) map[string]bool {
	out := map[string]bool{}
	for _, b := range w.Bases {
		if u, err := url.Parse(f.base(b).Address); err == nil {
			out[outward.Host(u)] = true
		}
	}
	return out
}

// isLive reports whether a set is none of samples but what sources give: "live", or
// "live-" and the state that they are to be in.
func isLive(set string) (forced string, ok bool) {
	rest, ok := strings.CutPrefix(set, "live")
	if !ok || rest != "" && !strings.HasPrefix(rest, "-") {
		return "", false
	}
	return strings.TrimPrefix(rest, "-"), true
}

// live has what sources give in a view, where that is wanted. It asks before anything is
// held up by it.
func (s *Server) live(ctx context.Context, doc string, v live.View) (live.View, []resolve.Problem, error) {
	forced, ok := isLive(v.Set)
	if !ok {
		return v, nil, nil
	}
	v.Set, v.Live = "", map[string]live.Fetched{}
	var list []asked
	var allowed map[string]bool
	root := ""
	err := s.Live.Read(ctx, func(l *live.Live, _ int64) error {
		d, found := l.W.Doc(doc)
		if !found {
			return nil
		}
		tree, _ := screen.In(d, v.State, l.Cat)
		root = tree.ID
		controls, _ := resolve.Lent(resolve.Input{Screen: tree, Catalog: l.Cat, Controls: v.Controls})
		for _, src := range l.W.Sources {
			_, base, _ := l.W.Source(src.Model)
			m := l.W.ModelMap()[src.Model]
			if base == nil || m == nil {
				continue
			}
			b := s.sources.base(*base)
			list = append(list, asked{src, b, *m, src.URL(b, controls)})
		}
		allowed = s.sources.allowedBy(l.W)
		return nil
	})
	if err != nil {
		return v, nil, err
	}
	var problems []resolve.Problem
	results := make([]told, len(list))
	var wait sync.WaitGroup
	for i, a := range list {
		switch forced {
		case sample.Loading, sample.Refused, sample.Failed:
			results[i] = told{Model: a.model.ID, Fetched: live.Fetched{Status: forced}}
		case "empty":
			results[i] = told{Model: a.model.ID, Fetched: live.Fetched{Status: sample.Ready}}
		default:
			wait.Go(func() { results[i] = s.read(ctx, a, allowed) })
		}
	}
	wait.Wait()
	for _, r := range results {
		v.Live[r.Model] = r.Fetched
		if len(r.Problems) > 0 {
			more := ""
			if len(r.Problems) > 1 {
				more = fmt.Sprintf(" and %d more", len(r.Problems)-1)
			}
			problems = append(
				problems,
				resolve.Problem{Element: root, Message: "live " + r.Model + ": " + r.Problems[0] + more},
			)
		}
	}
	return v, problems, nil
}

type sourceIn struct {
	Source sample.Source  `json:"source"`
	Params map[string]any `json:"params"`
}

type sourceOut struct {
	URL      string          `json:"url"`
	Status   string          `json:"status"`
	Fields   []sample.Field  `json:"fields"`
	Records  []sample.Record `json:"records"` // the first ones
	Count    int             `json:"count"`
	Problems []string        `json:"problems"`
}

// previewSource asks a source that is not kept yet.
func (s *Server) previewSource(c *Call, in *sourceIn) (*sourceOut, error) {
	var a asked
	var allowed map[string]bool
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		_, _, err := change.Apply(
			l.W,
			change.Change{Title: "look", Steps: []change.Step{&change.PutSource{Source: in.Source}}},
			l.Cat,
			l,
		)
		if err != nil {
			return bad("%s", errors.Unwrap(err))
		}
		for _, b := range l.W.Bases {
			if b.Name == in.Source.Base {
				a = asked{source: in.Source, base: s.sources.base(b), model: *l.W.ModelMap()[in.Source.Model]}
			}
		}
		allowed = s.sources.allowedBy(l.W)
		return nil
	})
	if err != nil {
		return nil, err
	}
	a.url = a.source.URL(a.base, in.Params)
	got := s.read(c.Context(), a, allowed)
	out := &sourceOut{
		URL:      a.url,
		Status:   got.Fetched.Status,
		Fields:   a.model.Fields,
		Count:    len(got.Fetched.Records),
		Records:  []sample.Record{},
		Problems: []string{},
	}
	out.Records = append(out.Records, got.Fetched.Records[:min(out.Count, maxPreview)]...)
	out.Problems = append(out.Problems, got.Problems[:min(len(got.Problems), 20)]...)
	return out, nil
}
