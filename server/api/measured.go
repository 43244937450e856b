package api

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/subtle"
	"sync"

	"ubiquant/core/geometry"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/server/store"
)

// measurable is a screen that was not measured since it last changed, with how it is looked at.
type measurable struct {
	Doc   string      `json:"doc"`
	Title string      `json:"title"`
	Drawn string      `json:"drawn"` // names the way it is drawn now
	Looks []live.Look `json:"looks"`
	// Failed says why it could not be measured as it is drawn now; empty where that was not tried
	// several times.
	Failed string `json:"failed,omitempty"`
}

type unmeasuredOut struct {
	Screens  int          `json:"screens"`  // that are drawn here
	Findings int          `json:"findings"` // on those that were measured
	Open     []measurable `json:"open"`
	// Background says whether screens are measured without anybody asking: "off", "waiting" for
	// nothing to change for a while, or "measuring".
	Background string `json:"background"`
}

// What the server does about screens that changed since they were measured.
const (
	MeasuringOff     = "off"
	MeasuringWaits   = "waiting"
	MeasuringScreens = "measuring"
)

// behindScenes is what measures screens without anybody asking: a browser of the server's own,
// which signs in as no person.
type behindScenes struct {
	sync.Mutex
	token  string
	state  string
	failed map[string]failure // by document
}

// failure is why a screen could not be measured as it was drawn, and how often.
type failure struct {
	drawn, why string
	times      int
}

// mostTries is how often a screen is tried as it is: a machine that had much else to do draws late.
const mostTries = 3

// machine is who a browser of the server's own is.
var machine = store.User{FullName: "The server", Role: store.Builder}

// machineMay are the routes besides those for readers that a browser of the server's own may use.
var machineMay = []string{"/api/census/measured"}

// MachineSession is the cookie by which a browser of the server's own is known, and its value.
// It may see what readers see and tell what it measured, and ends with the server.
func (s *Server) MachineSession() (name, value string) {
	s.measuring.Lock()
	defer s.measuring.Unlock()
	if s.measuring.token == "" {
		s.measuring.token = rand.Text()
	}
	return cookieName, s.measuring.token
}

// MeasureFor has a server stand beside another for its browser: what that tells it is told to both.
func (s *Server) MeasureFor(other *Server) { s.measuring = other.measuring }

// ofMachine tells whether a session is that of a browser of the server's own.
func (s *Server) ofMachine(cookie string) bool {
	s.measuring.Lock()
	defer s.measuring.Unlock()
	return s.measuring.token != "" && subtle.ConstantTimeCompare([]byte(cookie), []byte(s.measuring.token)) == 1
}

// Measuring notes what is done about screens that changed since they were measured.
func (s *Server) Measuring(state string) {
	s.measuring.Lock()
	s.measuring.state = state
	s.measuring.Unlock()
}

// ToMeasure counts the screens that were not measured since they last changed, without those that
// could not be as they are now. seq is that of the last change.
func (s *Server) ToMeasure(ctx context.Context) (count int, seq int64, err error) {
	err = s.Live.Read(ctx, func(l *live.Live, at int64) error {
		seq = at
		for _, d := range l.Unmeasured() {
			if s.failedAs(d.Address(), l.Drawn(d)) == "" {
				count++
			}
		}
		return nil
	})
	return count, seq, err
}

func (s *Server) failedAs(doc, drawn string) string {
	s.measuring.Lock()
	defer s.measuring.Unlock()
	if f := s.measuring.failed[doc]; f.drawn == drawn && f.times >= mostTries {
		return f.why
	}
	return ""
}

// unmeasured tells what is left to measure.
func (s *Server) unmeasured(c *Call, _ *none) (*unmeasuredOut, error) {
	s.measuring.Lock()
	out := &unmeasuredOut{Open: []measurable{}, Background: cmp.Or(s.measuring.state, MeasuringOff)}
	s.measuring.Unlock()
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		for _, d := range l.W.Docs {
			if d.Kind == screen.ScreenDoc && !d.Removed && d.Source == "" {
				out.Screens++
			}
		}
		out.Findings = len(l.Measured())
		for _, d := range l.Unmeasured() {
			out.Open = append(out.Open, measurable{d.Address(), d.Title, l.Drawn(d), l.Looks(d), s.failedAs(d.Address(), l.Drawn(d))})
		}
		return nil
	})
	return out, err
}

// looked is a screen as it was drawn in one way.
type looked struct {
	Look  live.Look      `json:"look"`
	Boxes []geometry.Box `json:"boxes"`
	Inks  []live.Ink     `json:"inks"`
}

type measuredIn struct {
	Doc   string   `json:"doc"`
	Drawn string   `json:"drawn"` // as it was named when it was to be measured
	Looks []looked `json:"looks"`
	// Failed says why it could not be measured; nothing is judged then.
	Failed string `json:"failed,omitempty"`
}

type measuredOut struct {
	Findings []live.Seen `json:"findings"`
	Again    bool        `json:"again"` // it changed meanwhile, and nothing was kept
}

// couldNot keeps why a screen could not be measured, as long as it is drawn as it is.
func (s *Server) couldNot(c *Call, in *measuredIn) error {
	if len(in.Failed) > maxReason {
		return bad("a reason has at most %d bytes", maxReason)
	}
	return s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		if d, ok := l.W.Doc(in.Doc); !ok || d.Kind != screen.ScreenDoc {
			return missing(in.Doc)
		}
		s.measuring.Lock()
		defer s.measuring.Unlock()
		if s.measuring.failed == nil {
			s.measuring.failed = map[string]failure{}
		}
		f := failure{in.Drawn, in.Failed, 1}
		if was := s.measuring.failed[in.Doc]; was.drawn == in.Drawn {
			f.times += was.times
		}
		s.measuring.failed[in.Doc] = f
		return nil
	})
}

const (
	maxReason = 500
	maxLooks  = 200
	maxBoxes  = 60_000
	maxInks   = 2_000
)

// measured judges a screen that was drawn in all ways of looking at it, and keeps what is found
// for the worklist until the screen changes.
func (s *Server) measured(c *Call, in *measuredIn) (*measuredOut, error) {
	if len(in.Looks) > maxLooks {
		return nil, bad("at most %d ways of looking at a screen are measured", maxLooks)
	}
	for _, k := range in.Looks {
		if len(k.Boxes) > maxBoxes || len(k.Inks) > maxInks || k.Look.Width < 1 || k.Look.Width > 20_000 {
			return nil, bad("%s: up to %d boxes and %d colours on a page of 1 to 20,000 pixels are judged", k.Look, maxBoxes, maxInks)
		}
	}
	out := &measuredOut{Findings: []live.Seen{}}
	if in.Failed != "" {
		return out, s.couldNot(c, in)
	}
	var found live.Gathered
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		d, ok := l.W.Doc(in.Doc)
		if !ok || d.Kind != screen.ScreenDoc {
			return missing(in.Doc)
		}
		for _, k := range in.Looks {
			root, _ := screen.In(d, k.Look.State, l.Cat)
			n, _ := l.ResolveTree(d, root, live.View{Set: k.Look.Set, State: k.Look.State})
			list := geometry.Judge(n, root, k.Boxes, float64(k.Look.Width))
			found.Add(d, k.Look, append(list, live.Faint(n, k.Inks)...))
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return out, s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		d, ok := l.W.Doc(in.Doc)
		if !ok {
			return missing(in.Doc)
		}
		out.Findings = append(out.Findings, found.Seen()...)
		out.Again = !l.TakeMeasured(d, in.Drawn, out.Findings)
		return nil
	})
}
