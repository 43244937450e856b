package main

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/norm"
	"ubiquant/core/screen"
	"ubiquant/internal/generate"
)

// judged is how the judge did on one workspace, or on several together.
type judged struct {
	claims, true_, top, topTrue int
	planted, found              int
	knowable, foundKnowable     int
	fixed                       int
	questions, questionsTrue    int
	minds, mindsFound           int
	moving, movingTrue          int // questions that are told as a move, and are one
	screens                     int
	missed                      map[string]int
	wrong                       map[string]int
}

// goals are what the judge is held to at a number of screens.
var goals = []struct {
	screens, teams    int
	precision, recall float64
}{{12, 12, 0.9, 0.4}, {30, 8, 0.95, 0.7}, {100, 4, 0.95, 0.85}, {300, 2, 0.95, 0.85}}

// heldOut is added to the seed, so that what is measured was not tuned on.
const heldOut = 5000

// teams states how the judge does on workspaces as several people make them, with and without
// slips: what it claims, what it finds, what it repairs, what it asks.
func (m *meter) teams(bundle *pack.Bundle, seed uint64) {
	for _, g := range goals {
		for _, share := range []float64{0, 0.01, 0.03, 0.1} {
			j := &judged{missed: map[string]int{}, wrong: map[string]int{}}
			for i := range g.teams {
				judgeTeam(bundle, generate.NewTeam(generate.Options{
					Screens: g.screens, Slips: share, Seed: heldOut + seed*100 + uint64(i),
				}), j, nil)
			}
			m.judged(j, g.precision, g.recall, fmt.Sprintf("team of %d screens, %g %% slips", g.screens, share*100), share == 0)
		}
	}
}

func part(a, of int) float64 {
	if of == 0 {
		return 1
	}
	return float64(a) / float64(of)
}

func (m *meter) judged(j *judged, precision, recall float64, name string, clean bool) {
	if clean {
		m.add(figure{
			What: "false claims on 50 clean screens, " + name, Value: 50 * float64(j.claims) / float64(j.screens), Budget: 1,
			Details: fmt.Sprintf("%d on %d screens", j.claims, j.screens),
		})
		return
	}
	m.add(figure{
		What: "precision of strays, " + name, Value: part(j.true_, j.claims), Budget: precision, Least: true,
		Details: fmt.Sprintf("of the first 20: %.2f; %d claims; false: %s", part(j.topTrue, j.top), j.claims, most(j.wrong)),
	})
	m.add(figure{
		What: "recall of all planted, " + name, Value: part(j.found, j.planted), Budget: recall, Least: true,
		Details: fmt.Sprintf("%d planted; missed: %s", j.planted, most(j.missed)),
	})
	m.add(figure{What: "repaired exactly of those found, " + name, Value: part(j.fixed, j.found), Budget: 0.9, Least: true})
	m.add(figure{
		What: "precision of questions, " + name, Value: part(j.questionsTrue, j.questions), Budget: 0.75, Least: true,
		Details: fmt.Sprintf("recall %.2f of %d, %d asked; %d told as a move, %d of them one", part(j.mindsFound, j.minds), j.minds, j.questions, j.moving, j.movingTrue),
	})
}

// most lists what there is most of.
func most(counts map[string]int) string {
	keys := slices.SortedFunc(maps.Keys(counts), func(a, b string) int {
		if counts[a] != counts[b] {
			return counts[b] - counts[a]
		}
		return strings.Compare(a, b)
	})
	var out []string
	for _, k := range keys[:min(3, len(keys))] {
		out = append(out, fmt.Sprintf("%d %s", counts[k], k))
	}
	if out == nil {
		return "none"
	}
	return strings.Join(out, ", ")
}

// judgeTeam compares what is told of a team's workspace with what is true of it.
func judgeTeam(bundle *pack.Bundle, t *generate.Team, j *judged, show func(string)) {
	l := live.Open(t.Workspace, bundle.Kit, today())
	told := l.Norms.Strays()
	slices.SortStableFunc(told, func(a, b norm.Stray) int { return int(1e6 * (b.Odds - a.Odds)) })
	found := make([]bool, len(t.Planted))
	fixes := make([]bool, len(t.Planted))
	bad := make([]string, len(t.Planted))
	j.screens += len(t.Docs)
	for i, s := range told {
		hit := -1
		for k, p := range t.Planted {
			if p.Doc == s.Doc && slices.Contains(p.Elements, s.Element) && plausible(p.Kind, s) {
				hit = k
				break
			}
		}
		j.claims++
		if i < 20 {
			j.top++
		}
		if hit < 0 {
			j.wrong[s.Kind+" "+s.Prop]++
			if show != nil {
				show(fmt.Sprintf("FALSE %.2f %s#%s %s", s.Odds, s.Doc, s.Element, s.Why))
			}
			continue
		}
		j.true_++
		if i < 20 {
			j.topTrue++
		}
		found[hit] = true
		if repairs(l, t, &s) {
			fixes[hit] = true
		} else {
			bad[hit] = " " + s.Why + " / " + s.FixTitle
		}
	}
	for k, p := range t.Planted {
		j.planted++
		if p.Knowable {
			j.knowable++
		}
		switch {
		case found[k]:
			j.found++
			if p.Knowable {
				j.foundKnowable++
			}
			if fixes[k] {
				j.fixed++
			} else if show != nil {
				show("UNFIXED " + p.Kind + " " + p.Doc + "#" + strings.Join(p.Elements, ",") + bad[k])
			}
		default:
			j.missed[p.Kind]++
			if show != nil {
				why := ""
				for _, s := range l.Norms.Leans() {
					if s.Doc == p.Doc && slices.Contains(p.Elements, s.Element) && plausible(p.Kind, s) {
						why += fmt.Sprintf(" LEAN %.2f %s", s.Odds, s.Why)
					}
				}
				for _, q := range l.Questions() {
					if plausible(p.Kind, norm.Stray{Prop: q.Prop, Kind: q.Kind}) {
						why += " Q " + q.What + q.Words
					}
				}
				show("MISSED " + p.Kind + " " + p.Doc + "#" + strings.Join(p.Elements, ",") + why)
			}
		}
	}
	asked := l.Questions()
	for _, q := range asked {
		j.questions++
		ok := slices.ContainsFunc(slices.Concat(t.Minds, t.Habits), func(m generate.Minds) bool {
			return strings.HasPrefix(q.Prop, m.Prop) && strings.HasPrefix(q.Spot, m.Comp)
		})
		if ok {
			j.questionsTrue++
		} else if show != nil {
			show(fmt.Sprintf("ASKED %s, %s: %v %v", q.What, q.Words, q.Sides[0].Words, q.Sides[1].Words))
		}
	}
	for _, q := range asked {
		if q.Moving != nil {
			j.moving++
			if slices.ContainsFunc(t.Minds, func(m generate.Minds) bool { return q.Prop == m.Prop && strings.HasPrefix(q.Spot, m.Comp) }) {
				j.movingTrue++
			} else if show != nil {
				show(fmt.Sprintf("MOVING %s, %s: to %s since %s, %d of %d", q.What, q.Words, q.Moving.Words, q.Moving.Since, q.Moving.Done, q.Moving.Of))
			}
		}
	}
	for _, m := range t.Minds {
		j.minds++
		if slices.ContainsFunc(asked, func(q norm.Question) bool { return q.Prop == m.Prop && strings.HasPrefix(q.Spot, m.Comp) }) {
			j.mindsFound++
		}
	}
}

// plausible tells whether a claim can be about a kind of slip: what it says must fit.
func plausible(kind string, s norm.Stray) bool {
	want, ok := map[string]string{
		"main emphasis": "emphasis", "cancel emphasis": "emphasis", "page padding": "padding", "page gap": "gap",
		"header size": "size", "field layout": "layout", "density": "density", "heading level": "level",
		"row action size": "size", "wrong icon": "icon", "number column": "kind", "required mark": "required",
	}[kind]
	if ok {
		return s.Prop == want || kind == "wrong icon" && s.Kind == "meaning"
	}
	kinds := map[string][]string{
		"submit words": {"words"}, "new words": {"words"}, "label words": {"label", "words"}, "capitals": {"capitals", "label", "words"},
		"action order": {"order"}, "field order": {"order"}, "no crumbs": {"part"}, "no empty state": {"part"}, "no pager": {"part"},
		"wrong control": {"control"}, "raw format": {"format"}, "plain state": {"component", "part"},
	}[kind]
	return slices.Contains(kinds, s.Kind)
}

// repairs tells whether a claim's repair brings back what stood there without the slip.
func repairs(l *live.Live, t *generate.Team, s *norm.Stray) bool {
	if len(s.Fix) == 0 {
		return false
	}
	d, _ := t.Doc(s.Doc)
	c, _ := t.Clean.Doc(s.Doc)
	after, _, err := screen.ApplyAll(d.Root, s.Fix, l.Cat)
	if err != nil {
		return false
	}
	want := linesOf(c.Root, l.Cat)
	was, now := beyond(linesOf(d.Root, l.Cat), want), beyond(linesOf(after, l.Cat), want)
	missing, missingNow := beyond(want, linesOf(d.Root, l.Cat)), beyond(want, linesOf(after, l.Cat))
	for k := range now {
		if !was[k] {
			return false
		}
	}
	for k := range missingNow {
		if !missing[k] {
			return false
		}
	}
	return len(now) < len(was) || len(missingNow) < len(missing)
}

// linesOf writes what is set on each element with its way from the root, without ids and
// without what is set as it is anyway.
func linesOf(root *screen.Element, cat kit.Catalog) map[string]bool {
	out := map[string]bool{}
	var walk func(e *screen.Element, path string)
	walk = func(e *screen.Element, path string) {
		out[path+" "+e.Text.Fixed()] = true
		def, _ := cat.Component(e.Type)
		for _, p := range e.Props {
			if kp, ok := def.Prop(p.Name); !ok || kp.Default != p.Value.Text {
				out[path+" "+p.Name+"="+p.Value.Fixed()] = true
			}
		}
		nth := map[string]int{}
		for _, c := range e.Children {
			kind := c.Slot + "." + c.Type
			nth[kind]++
			walk(c, fmt.Sprintf("%s/%s %d", path, kind, nth[kind]))
		}
	}
	walk(root, root.Type)
	return out
}

func beyond(a, b map[string]bool) map[string]bool {
	out := maps.Clone(a)
	for k := range b {
		delete(out, k)
	}
	return out
}
