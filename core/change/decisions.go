package change

import (
	"slices"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/source"
)

// Decisions are the steps that give a workspace what a repository's settings decided, changed and lifted
// since they were read last, and what comments in its code, among stands, let stand now; taken is how
// many decisions that are. by and when say who decided it, and on which day. What people decided here
// otherwise stays, and is said, and so is what does not hold here.
func Decisions(
	w *model.Workspace, cat kit.Catalog, past Past, base, file *source.Settings, stands []audit.LetStand, by, when string,
) (steps []Step, taken int, said []string) {
	mine, _ := source.DecidedIn(w, func(string) bool { return true })
	merged, both := mine.Merge(base, file)
	for _, b := range both {
		said = append(said, b+": decided otherwise here and in the repository; what was decided here stays")
	}
	take := func(words string, list ...Step) {
		next, _, err := Apply(w, Change{Steps: list}, cat, past)
		if err != nil {
			said = append(said, words+" is not taken from the repository: "+err.Error())
			return
		}
		w = next
		steps = append(steps, list...)
		taken++
	}
	was := *w
	want := &model.Workspace{}
	merged.Decide(want)
	for _, s := range stands {
		if s.InCode() {
			want.Stands = append(want.Stands, s)
		}
	}

	sameHouse := func(a, b audit.HouseRule) bool { return a.Spot == b.Spot && a.Where == b.Where && a.Prop == b.Prop }
	for _, h := range was.House {
		if !slices.ContainsFunc(want.House, func(o audit.HouseRule) bool { return sameHouse(h, o) }) {
			take("lifting the house rule about "+h.Words, &DropHouse{House: h})
		}
	}
	for _, h := range want.House {
		h.By, h.When = by, when
		i := slices.IndexFunc(was.House, func(o audit.HouseRule) bool { return sameHouse(h, o) })
		if i < 0 {
			take("the house rule about "+h.Words, &PutHouse{House: h})
		} else if o := was.House[i]; o.Value != h.Value || o.Reason != h.Reason {
			h.ID = o.ID
			take("the house rule about "+h.Words, &DropHouse{House: o}, &PutHouse{House: h})
		}
	}
	for _, o := range was.OwnRules {
		if !slices.ContainsFunc(want.OwnRules, func(n audit.OwnRule) bool { return n.ID == o.ID }) {
			take("taking away the rule “"+o.Title+"”", &DropOwnRule{Rule: o})
		}
	}
	for _, o := range want.OwnRules {
		o.By, o.When = by, when
		if !slices.ContainsFunc(was.OwnRules, func(n audit.OwnRule) bool {
			n.By, n.When = o.By, o.When
			return n == o
		}) {
			take("the rule “"+o.Title+"”", &PutOwnRule{Rule: o})
		}
	}
	for _, t := range was.Tunings {
		if !slices.ContainsFunc(want.Tunings, func(n audit.Tuning) bool { return n.Rule == t.Rule }) {
			take("how the rule "+t.Rule+" is held", &Tune{Tuning: audit.Tuning{Rule: t.Rule}})
		}
	}
	for _, t := range want.Tunings {
		if !slices.ContainsFunc(was.Tunings, func(n audit.Tuning) bool { return n.Alike(&t) }) {
			t.By, t.When = by, when
			take("how the rule "+t.Rule+" is held", &Tune{Tuning: t})
		}
	}
	sameStand := func(a, b audit.LetStand) bool {
		return a.InCode() == b.InCode() && a.Key == b.Key && a.Scope == b.Scope && a.Spot == b.Spot && a.Reason == b.Reason && a.Until == b.Until
	}
	for _, s := range was.Stands {
		if !slices.ContainsFunc(want.Stands, func(n audit.LetStand) bool { return sameStand(s, n) }) {
			take("no longer letting "+s.Key+" stand", &DropStand{Stand: s})
		}
	}
	for _, s := range want.Stands {
		if slices.ContainsFunc(was.Stands, func(n audit.LetStand) bool { return sameStand(s, n) }) {
			continue
		}
		if s.When = when; !s.InCode() {
			s.By = by
		}
		take("letting "+s.Key+" stand", &PutStand{Stand: s})
	}
	return steps, taken, said
}
