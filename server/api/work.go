package api

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
)

type workOut struct {
	Work []live.Work `json:"work"`
}

func (s *Server) work(c *Call, _ *none) (*workOut, error) {
	out := &workOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		out.Work = l.Worklist()
		return nil
	})
	return out, err
}

type letStandIn struct {
	Keys   []string    `json:"keys"`
	Scope  audit.Scope `json:"scope,omitempty"` // how far it reaches; empty is the element alone
	Reason string      `json:"reason"`
	Until  string      `json:"until,omitempty"` // date to look again
	Drop   bool        `json:"drop,omitempty"`  // take the let-stand back
	Client string      `json:"client,omitempty"`
}

func (s *Server) letStand(c *Call, in *letStandIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		// What stood under a key gives way, so that one reason counts.
		var steps []change.Step
		taken := map[string]bool{}
		for _, st := range l.W.Stands {
			taken[st.ID] = true
			if slices.Contains(in.Keys, st.Key) {
				steps = append(steps, &change.DropStand{Stand: st})
			}
		}
		if in.Drop {
			if len(steps) == 0 {
				return change.Change{}, missing("let-stand for " + strings.Join(in.Keys, ", "))
			}
			return change.Change{Title: "No longer let stand", Steps: steps}, nil
		}
		if len(in.Keys) == 0 {
			return change.Change{}, bad("nothing is named to let stand")
		}
		for _, key := range in.Keys {
			stand := audit.LetStand{
				ID: screen.FreeName(taken, "stand"), Key: key, Scope: in.Scope, Reason: in.Reason, Until: in.Until,
			}
			if in.Scope == audit.InSpot {
				k := audit.ParseKey(key)
				if stand.Spot = l.SpotOf(k.Doc, k.Element); stand.Spot == "" {
					return change.Change{}, missing(key)
				}
			}
			steps = append(steps, &change.PutStand{Stand: stand})
		}
		return change.Change{Title: "Let stand: " + in.Reason, Steps: steps}, nil
	})
}

type assignIn struct {
	Keys   []string `json:"keys"`
	To     string   `json:"to"`             // user name; empty takes it back
	Note   string   `json:"note,omitempty"` // what is to be done, or asked
	Due    string   `json:"due,omitempty"`  // date
	Client string   `json:"client,omitempty"`
}

func (s *Server) assign(c *Call, in *assignIn) (*changeOut, error) {
	people, err := s.Store.Users(c.Context())
	if err != nil {
		return nil, err
	}
	name := ""
	for _, p := range people {
		if p.Name == in.To {
			name = p.FullName
		}
	}
	if in.To != "" && name == "" {
		return nil, missing("person " + in.To)
	}
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		var steps []change.Step
		taken := map[string]bool{}
		for _, a := range l.W.Assignments {
			taken[a.ID] = true
			if slices.Contains(in.Keys, a.Key) {
				steps = append(steps, &change.DropAssignment{Assignment: a})
			}
		}
		if in.To == "" {
			if len(steps) == 0 {
				return change.Change{}, bad("nothing of it is given to anybody")
			}
			return change.Change{Title: "Take back what was given", Steps: steps}, nil
		}
		if len(in.Keys) == 0 {
			return change.Change{}, bad("nothing is named to see to")
		}
		for _, key := range in.Keys {
			steps = append(steps, &change.PutAssignment{Assignment: audit.Assignment{
				ID: screen.FreeName(taken, "given"), Key: key, To: in.To, Note: in.Note, Due: in.Due,
			}})
		}
		return change.Change{Title: fmt.Sprintf("Give %d to %s", len(in.Keys), name), Steps: steps}, nil
	})
}
