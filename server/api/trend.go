package api

import (
	"context"
	"sync"
	"time"

	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/server/store"
)

// TrendPoint is what there was to say at the end of a day.
type TrendPoint struct {
	live.Point
	Day string `json:"day"` // YYYY-MM-DD
	Seq int64  `json:"seq"` // the last change by then
}

// TrendMark is a decision, or another version of the kit.
type TrendMark struct {
	Day   string `json:"day"`
	Kind  string `json:"kind"` // rule, kit
	Title string `json:"title"`
	By    string `json:"by"`
}

type trendOut struct {
	Points []TrendPoint `json:"points"` // the oldest first; the last is now
	Marks  []TrendMark  `json:"marks"`
	Done   bool         `json:"done"`            // else more of the past is still counted
	Since  string       `json:"since,omitempty"` // why the past before the first point is not counted
}

// How far back is counted: so many changes, and so many days on which something changed.
const (
	trendChanges = 5_000
	trendDays    = 120
)

// trend counts the past anew by taking the history back, change by change, beside the workspace
// in use. It is begun by who first asks, and kept for the state that it was begun from.
type trend struct {
	mu      sync.Mutex
	seq     int64
	day     string
	running bool
	out     trendOut
}

func (s *Server) trendOf(c *Call, _ *none) (*trendOut, error) {
	var w *model.Workspace
	var bare *kit.Kit
	var now TrendPoint
	var kits func(model.KitRef) (*kit.Kit, error)
	err := s.Live.Read(c.Context(), func(l *live.Live, seq int64) error {
		w, bare, kits = l.W, l.Kit.Bare(), l.Kits
		now = TrendPoint{Day: l.Today, Seq: seq}
		return nil
	})
	if err != nil {
		return nil, err
	}
	t := &s.trend
	t.mu.Lock()
	defer t.mu.Unlock()
	if !t.running && (t.seq != now.Seq || t.day != now.Day || len(t.out.Points) == 0) {
		t.seq, t.day, t.running, t.out = now.Seq, now.Day, true, trendOut{}
		// It goes on when whoever asked has gone.
		go t.count(context.WithoutCancel(c.Context()), s.Live, w, bare, kits, now)
	}
	out := t.out
	out.Done = !t.running
	return &out, nil
}

func (t *trend) count(
	ctx context.Context,
	stored *store.Live,
	w *model.Workspace,
	bare *kit.Kit,
	kits func(model.KitRef) (*kit.Kit, error),
	now TrendPoint,
) {
	l := live.Open(w, bare, now.Day)
	l.Kits = kits
	put := func(day string, seq int64) {
		l.SetToday(day)
		p := TrendPoint{Point: l.Point(), Day: day, Seq: seq}
		t.mu.Lock()
		t.out.Points = append([]TrendPoint{p}, t.out.Points...)
		t.mu.Unlock()
	}
	end := func(why string) {
		t.mu.Lock()
		t.out.Since, t.running = why, false
		t.mu.Unlock()
	}
	put(now.Day, now.Seq)
	day, days, till := now.Day, 1, now.Seq
	for counted := 0; counted < trendChanges; {
		rows, err := stored.Back(ctx, till, 200)
		if err != nil {
			end("the history could not be read: " + err.Error())
			return
		}
		if len(rows) == 0 {
			end("")
			return
		}
		for _, r := range rows {
			if at := r.At.Local().Format(time.DateOnly); at != day {
				if days++; days > trendDays {
					end("")
					return
				}
				// All that was done later is taken back by now.
				put(at, r.Seq)
				day = at
			}
			t.mark(&r, day)
			inverse, err := change.Read(r.Inverse, true)
			if err == nil {
				_, err = l.Take(inverse)
			}
			if err != nil {
				end("what was before “" + r.Title + "” cannot be told any more: " + err.Error())
				return
			}
			till = r.Seq - 1
			counted++
		}
	}
	end("")
}

// mark notes a change that decided something.
func (t *trend) mark(r *store.ChangeRow, day string) {
	c, err := change.Read(r.Body, true)
	if err != nil || r.Undone || r.Undoes > 0 {
		return
	}
	for _, step := range c.Steps {
		kind := ""
		switch step.(type) {
		case *change.PutHouse, *change.PutOwnRule, *change.Tune:
			kind = "rule"
		case *change.TakeKit:
			kind = "kit"
		default:
			continue
		}
		t.mu.Lock()
		t.out.Marks = append([]TrendMark{{day, kind, r.Title, r.Author}}, t.out.Marks...)
		t.mu.Unlock()
		return
	}
}
