package server

import (
	"slices"
	"time"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/source"
)

// theRepository is who decides what a repository's settings and comments say.
const theRepository = "the repository"

// decided are the steps that give a workspace what a repository's settings decided, changed and lifted
// since they were read last, and what comments in its code let stand now. What people decided here
// otherwise stays, and is said, and so is what does not hold here.
func decided(w *model.Workspace, cat kit.Catalog, past change.Past, base, file *source.Settings, now []audit.LetStand) (steps []change.Step, said []string) {
	mine, _ := source.DecidedIn(w, func(string) bool { return true })
	merged, both := mine.Merge(base, file)
	for _, b := range both {
		said = append(said, b+": decided otherwise here and in the repository; what was decided here stays")
	}
	when := time.Now().Format(time.DateOnly)
	take := func(words string, list ...change.Step) {
		next, _, err := change.Apply(w, change.Change{Steps: list}, cat, past)
		if err != nil {
			said = append(said, words+" is not taken from the repository: "+err.Error())
			return
		}
		w = next
		steps = append(steps, list...)
	}
	was := *w
	want := &model.Workspace{}
	merged.Decide(want)
	for _, s := range now {
		if s.InCode() {
			want.Stands = append(want.Stands, s)
		}
	}

	sameHouse := func(a, b audit.HouseRule) bool { return a.Spot == b.Spot && a.Where == b.Where && a.Prop == b.Prop }
	for _, h := range was.House {
		if !slices.ContainsFunc(want.House, func(o audit.HouseRule) bool { return sameHouse(h, o) }) {
			take("lifting the house rule about "+h.Words, &change.DropHouse{House: h})
		}
	}
	for _, h := range want.House {
		h.By, h.When = theRepository, when
		i := slices.IndexFunc(was.House, func(o audit.HouseRule) bool { return sameHouse(h, o) })
		if i < 0 {
			take("the house rule about "+h.Words, &change.PutHouse{House: h})
		} else if o := was.House[i]; o.Value != h.Value || o.Reason != h.Reason {
			h.ID = o.ID
			take("the house rule about "+h.Words, &change.DropHouse{House: o}, &change.PutHouse{House: h})
		}
	}
	for _, o := range was.OwnRules {
		if !slices.ContainsFunc(want.OwnRules, func(n audit.OwnRule) bool { return n.ID == o.ID }) {
			take("taking away the rule “"+o.Title+"”", &change.DropOwnRule{Rule: o})
		}
	}
	for _, o := range want.OwnRules {
		o.By, o.When = theRepository, when
		if !slices.ContainsFunc(was.OwnRules, func(n audit.OwnRule) bool {
			n.By, n.When = o.By, o.When
			return n == o
		}) {
			take("the rule “"+o.Title+"”", &change.PutOwnRule{Rule: o})
		}
	}
	for _, t := range was.Tunings {
		if !slices.ContainsFunc(want.Tunings, func(n audit.Tuning) bool { return n.Rule == t.Rule }) {
			take("how the rule "+t.Rule+" is held", &change.Tune{Tuning: audit.Tuning{Rule: t.Rule}})
		}
	}
	for _, t := range want.Tunings {
		if !slices.ContainsFunc(was.Tunings, func(n audit.Tuning) bool { return n.Alike(&t) }) {
			t.By, t.When = theRepository, when
			take("how the rule "+t.Rule+" is held", &change.Tune{Tuning: t})
		}
	}
	sameStand := func(a, b audit.LetStand) bool {
		return a.InCode() == b.InCode() && a.Key == b.Key && a.Scope == b.Scope && a.Spot == b.Spot && a.Reason == b.Reason && a.Until == b.Until
	}
	for _, s := range was.Stands {
		if !slices.ContainsFunc(want.Stands, func(n audit.LetStand) bool { return sameStand(s, n) }) {
			take("no longer letting "+s.Key+" stand", &change.DropStand{Stand: s})
		}
	}
	for _, s := range want.Stands {
		if slices.ContainsFunc(was.Stands, func(n audit.LetStand) bool { return sameStand(s, n) }) {
			continue
		}
		if s.When = when; !s.InCode() {
			s.By = theRepository
		}
		take("letting "+s.Key+" stand", &change.PutStand{Stand: s})
	}
	return steps, said
}
