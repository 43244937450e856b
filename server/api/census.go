package api

import (
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/norm"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// QuestionView is an open question with an example of each side.
type QuestionView struct {
	norm.Question
	Component string     `json:"component"`
	Examples  []Fragment `json:"examples"` // one for each side, in the same order

	Asked   *audit.Ask     `json:"asked,omitempty"` // to whom it was put
	Answers []audit.Answer `json:"answers"`         // what people say to it
}

// StrayView is a stray with its key and screen.
type StrayView struct {
	norm.Stray
	Key     string          `json:"key"`
	Title   string          `json:"title"`
	Typical Fragment        `json:"typical"`         // an element that follows the norm
	Stand   *audit.LetStand `json:"stand,omitempty"` // what lets it stand
}

// FindingView is a finding with its key and screen.
type FindingView struct {
	audit.Finding
	Key   string          `json:"key"`
	Title string          `json:"title"`
	Stand *audit.LetStand `json:"stand,omitempty"` // what lets it stand
}

type censusOut struct {
	Questions []QuestionView `json:"questions"`
	Strays    []StrayView    `json:"strays"`
	Leans     []StrayView    `json:"leans"` // departures more likely meant

	LeansAll       int         `json:"leansAll"`       // how many there are; the likeliest slips are listed
	StandingStrays []StrayView `json:"standingStrays"` // let stand

	Findings []FindingView     `json:"findings"`
	Standing []FindingView     `json:"standing"`
	House    []audit.HouseRule `json:"house"`
	Stands   []audit.LetStand  `json:"stands"`
	Asks     []AskView         `json:"asks"` // that are open no longer
}

// mostLeans bounds how many leanings one answer lists.
const mostLeans = 200

func (s *Server) census(c *Call, _ *none) (*censusOut, error) {
	out := &censusOut{
		Questions: []QuestionView{},
		Strays:    []StrayView{},
		Leans:     []StrayView{},

		StandingStrays: []StrayView{},

		Findings: []FindingView{},
		Standing: []FindingView{},
		House:    []audit.HouseRule{},
		Stands:   []audit.LetStand{},
		Asks:     []AskView{},
	}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		titles := map[string]string{}
		for _, d := range l.W.Docs {
			titles[usage.DocKey(d)] = d.Title
		}
		asks := map[string]*audit.Ask{}
		for i := range l.W.Asks {
			asks[l.W.Asks[i].Key] = &l.W.Asks[i]
		}
		for _, q := range l.Questions() {
			v := QuestionView{Question: q, Asked: asks[q.ID], Answers: said(l, q.ID)}
			delete(asks, q.ID)
			v.Component, _, _ = strings.Cut(q.Spot, "~")
			for _, side := range q.Sides {
				v.Examples = append(v.Examples, beside(l, side.Like))
			}
			out.Questions = append(out.Questions, v)
		}
		for _, st := range l.Safe(l.Strays()) {
			out.Strays = append(out.Strays, StrayView{st, live.StrayKey(st), titles[st.Doc], beside(l, st.Like), nil})
		}
		for _, st := range l.StandingStrays() {
			out.StandingStrays = append(out.StandingStrays, StrayView{st, live.StrayKey(st), titles[st.Doc], Fragment{}, l.StandOf(live.StrayKey(st))})
		}
		leans := l.Leans()
		out.LeansAll = len(leans)
		for _, st := range l.Safe(leans[:min(len(leans), mostLeans)]) {
			out.Leans = append(out.Leans, StrayView{st, live.StrayKey(st), titles[st.Doc], beside(l, st.Like), nil})
		}
		open, standing := l.Findings()
		for _, f := range l.SafeFindings(open) {
			out.Findings = append(out.Findings, FindingView{f, f.Key(), titles[f.Doc], nil})
		}
		for _, f := range standing {
			out.Standing = append(out.Standing, FindingView{f, f.Key(), titles[f.Doc], l.StandOf(f.Key())})
		}
		for _, a := range l.W.Asks {
			if asks[a.Key] != nil {
				out.Asks = append(out.Asks, AskView{a, said(l, a.Key)})
			}
		}
		out.House = append(out.House, l.W.House...)
		out.Stands = append(out.Stands, l.W.Stands...)
		return nil
	})
	return out, err
}

// beside is an element with a little of what stands around it.
func beside(l *live.Live, p norm.Place) Fragment {
	kind, id, _ := strings.Cut(p.Doc, ":")
	d, ok := l.Index.Find(screen.DocKind(kind), id)
	if !ok {
		return Fragment{}
	}
	for _, u := range d.Uses {
		if u.Element.ID == p.Element {
			return Fragment{Doc: p.Doc, Element: p.Element, Up: upFor(l.Cat, d.Root, u.Element.ID)}
		}
	}
	return Fragment{}
}

// upFor is how far up an element's surroundings begin: a few elements around it,
// and never a part that cannot stand alone, as a row without its table.
func upFor(cat kit.Catalog, root *screen.Element, element string) int {
	path := root.Path(element)
	up := 0
	for i := len(path) - 1; i > 0; i-- {
		def, ok := cat.Component(path[i].Type)
		if path[i].Count() >= 4 && (!ok || len(def.Parents) == 0) {
			break
		}
		up++
	}
	return up
}

// CountRow is a component's uses on each screen.
type CountRow struct {
	Type  string         `json:"type"`
	Title string         `json:"title"`
	Uses  int            `json:"uses"`
	Docs  map[string]int `json:"docs"`
	Mix   []ValueView    `json:"mix"` // of its most varied prop
	Prop  string         `json:"prop"`
}

type countOut struct {
	Docs []named    `json:"docs"`
	Rows []CountRow `json:"rows"`
}

func (s *Server) count(c *Call, _ *none) (*countOut, error) {
	out := &countOut{Docs: []named{}, Rows: []CountRow{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		uses := map[string]map[string]int{}
		for _, d := range l.Index.Docs() {
			key := usage.DocKey(d.Document)
			out.Docs = append(out.Docs, named{key, d.Title})
			for _, u := range d.Uses {
				if uses[u.Element.Type] == nil {
					uses[u.Element.Type] = map[string]int{}
				}
				uses[u.Element.Type][key]++
			}
		}
		for typ, docs := range uses {
			row := CountRow{Type: typ, Title: typ, Docs: docs, Mix: []ValueView{}}
			if def, ok := l.Cat.Component(typ); ok {
				row.Title = def.Title
			}
			if root, ok := l.Index.Root(typ); ok {
				row.Uses = root.Uses
				most := 1
				for _, m := range root.Mixes {
					if len(m.Values) > most {
						most, row.Prop, row.Mix = len(m.Values), m.Prop, nil
						for _, v := range m.Sorted() {
							row.Mix = append(row.Mix, ValueView{Value: v.Value, Uses: v.Uses, Screens: len(v.Docs)})
						}
					}
				}
			}
			out.Rows = append(out.Rows, row)
		}
		slices.SortFunc(out.Rows, func(a, b CountRow) int {
			if a.Uses != b.Uses {
				return b.Uses - a.Uses
			}
			return strings.Compare(a.Type, b.Type)
		})
		return nil
	})
	return out, err
}

// RuleView is a rule as the catalogue shows it.
type RuleView struct {
	ID       string   `json:"id"`
	Title    string   `json:"title"`
	Severity string   `json:"severity"`
	Purpose  string   `json:"purpose"`
	Why      string   `json:"why"`
	Bad      []string `json:"bad"`
	Good     []string `json:"good"`
	Findings int      `json:"findings"`

	Settings []audit.Setting `json:"settings"`
	Tuning   *audit.Tuning   `json:"tuning,omitempty"` // how the team holds it, where otherwise
}

type rulesOut struct {
	Signing RuleView      `json:"signing"` // what a sign-off asks for
	Own     []OwnRuleView `json:"own"`
	Rules   []RuleView    `json:"rules"`
}

func (s *Server) ruleList(c *Call, _ *none) (*rulesOut, error) {
	out := &rulesOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		open, _ := l.Findings()
		out.Own = ownRules(l, open)
		for _, r := range append(rules.All(), rules.Signing) {
			v := RuleView{
				ID:       r.ID,
				Title:    r.Title,
				Severity: string(r.Severity),
				Purpose:  r.Purpose,
				Why:      r.Why,
				Bad:      orList(r.Bad),
				Good:     orList(r.Good),
				Settings: orList(r.Settings),
			}
			for _, t := range l.W.Tunings {
				if t.Rule == r.ID {
					v.Tuning = &t
				}
			}
			for _, f := range open {
				if f.Rule == r.ID {
					v.Findings++
				}
			}
			if r == rules.Signing {
				out.Signing = v
				continue
			}
			out.Rules = append(out.Rules, v)
		}
		return nil
	})
	return out, err
}

func orList[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}
