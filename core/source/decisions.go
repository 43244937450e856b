package source

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/model"
)

// Decide gives a workspace the decisions of the settings: house rules, the team's own rules, how
// rules are held, and what is let stand.
func (s *Settings) Decide(w *model.Workspace) {
	for _, h := range s.House {
		words := h.Words
		if words == "" {
			words = h.Spot
		}
		w.House = append(w.House, audit.HouseRule{
			ID: named("settled", h.key()), Spot: h.Spot, Where: h.Where, Words: words, Prop: h.Prop, Value: h.Value, Reason: h.Reason,
		})
	}
	w.OwnRules = append(w.OwnRules, s.Own...)
	w.Tunings = append(w.Tunings, s.Held...)
	for _, l := range s.Let {
		w.Stands = append(w.Stands, audit.LetStand{
			ID: named("stands", l.id()), Key: l.Key, Scope: l.Scope, Spot: l.Spot, Reason: l.Reason, Until: l.Until,
		})
	}
}

// named is an id that says the same of the same wherever it is read.
func named(kind, of string) string {
	sum := sha256.Sum256([]byte(of))
	return kind + "-" + hex.EncodeToString(sum[:4])
}

func (h *HouseRule) key() string { return strings.Join([]string{h.Spot, h.Where, h.Prop}, "\n") }

func (l *LetStand) id() string { return strings.Join([]string{l.Key, string(l.Scope), l.Spot}, "\n") }

// DecidedIn are the decisions of a workspace as settings of a repository keep them. What is let stand
// of documents that the repository does not have is left out, and so is what comments in its
// code say: they stand there already.
func DecidedIn(w *model.Workspace, read func(doc string) bool) (s Settings, left []string) {
	for _, h := range w.House {
		s.House = append(s.House, HouseRule{Spot: h.Spot, Where: h.Where, Words: h.Words, Prop: h.Prop, Value: h.Value, Reason: h.Reason})
	}
	for _, o := range w.OwnRules {
		o.By, o.When = "", ""
		s.Own = append(s.Own, o)
	}
	for _, t := range w.Tunings {
		t.By, t.When = "", ""
		s.Held = append(s.Held, t)
	}
	for _, l := range w.Stands {
		doc := audit.ParseKey(l.Key).Doc
		switch {
		case l.InCode():
		case (l.Scope == "" || l.Scope == audit.InDoc) && !read(doc):
			left = append(left, fmt.Sprintf("%s is let stand on %s, which is not in the repository", audit.ParseKey(l.Key).Rule, doc))
		default:
			s.Let = append(s.Let, LetStand{Key: l.Key, Scope: l.Scope, Spot: l.Spot, Reason: l.Reason, Until: l.Until})
		}
	}
	return s, left
}

// Merge brings decisions of two sides together, by what both began with: what one side decided,
// changed or lifted since counts; where both did, and not the same, mine stays and that is said. The
// rest of the settings is mine.
func (s *Settings) Merge(base, theirs *Settings) (merged Settings, both []string) {
	merged = *s
	merged.House = rulesSettled.merge(s.House, base.House, theirs.House, &both)
	merged.Own = rulesWritten.merge(s.Own, base.Own, theirs.Own, &both)
	merged.Held = rulesHeld.merge(s.Held, base.Held, theirs.Held, &both)
	merged.Let = letStand.merge(s.Let, base.Let, theirs.Let, &both)
	return merged, both
}

// Since tells in words what settings decide that others do not, or not so, and what they no longer do.
func (s *Settings) Since(was *Settings) (brings, lifts []string) {
	rulesSettled.since(was.House, s.House, &brings, &lifts)
	rulesWritten.since(was.Own, s.Own, &brings, &lifts)
	rulesHeld.since(was.Held, s.Held, &brings, &lifts)
	letStand.since(was.Let, s.Let, &brings, &lifts)
	return brings, lifts
}

// decision is how decisions of a kind are told apart, compared and named.
type decision[T any] struct {
	key   func(*T) string
	same  func(a, b *T) bool
	words func(*T) string
}

var (
	rulesSettled = decision[HouseRule]{(*HouseRule).key, sameRule, func(h *HouseRule) string {
		words, value := h.Words, h.Value
		if words == "" {
			words = h.Spot
		}
		if value == "" {
			value = "not set"
		}
		return fmt.Sprintf("%s of %s is %s", h.Prop, words, value)
	}}
	rulesWritten = decision[audit.OwnRule]{func(o *audit.OwnRule) string { return o.ID }, sameOwn, func(o *audit.OwnRule) string {
		return "the rule “" + o.Title + "”"
	}}
	rulesHeld = decision[audit.Tuning]{func(t *audit.Tuning) string { return t.Rule }, (*audit.Tuning).Alike, func(t *audit.Tuning) string {
		return "how the rule " + t.Rule + " is held"
	}}
	letStand = decision[LetStand]{(*LetStand).id, func(a, b *LetStand) bool { return *a == *b }, func(l *LetStand) string {
		k := audit.ParseKey(l.Key)
		words := k.Rule
		switch l.Scope {
		case audit.Everywhere:
			return words + " let stand everywhere: " + l.Reason
		case audit.InSpot:
			words += " let stand in " + l.Spot
		case audit.InDoc:
			words += " let stand on " + k.Doc
		default:
			words += " let stand on " + k.Doc + "#" + k.Element
		}
		return words + ": " + l.Reason
	}}
)

// sameRule compares without the words for the spot: they say the same of it.
func sameRule(a, b *HouseRule) bool {
	x, y := *a, *b
	x.Words, y.Words = "", ""
	return x == y
}

func sameOwn(a, b *audit.OwnRule) bool {
	x, y := *a, *b
	x.By, x.When, y.By, y.When = "", "", "", ""
	return x == y
}

func (d *decision[T]) by(list []T) map[string]*T {
	out := map[string]*T{}
	for i := range list {
		out[d.key(&list[i])] = &list[i]
	}
	return out
}

func (d *decision[T]) alike(a, b *T) bool {
	return a == nil && b == nil || a != nil && b != nil && d.same(a, b)
}

func (d *decision[T]) merge(mine, base, theirs []T, both *[]string) []T {
	m, b, t := d.by(mine), d.by(base), d.by(theirs)
	var out []T
	done := map[string]bool{}
	for _, list := range [][]T{mine, theirs, base} {
		for i := range list {
			k := d.key(&list[i])
			if done[k] {
				continue
			}
			done[k] = true
			take := m[k]
			switch {
			case d.alike(m[k], t[k]):
			case d.alike(m[k], b[k]):
				take = t[k]
			case !d.alike(t[k], b[k]):
				*both = append(*both, d.words(&list[i]))
			}
			if take != nil {
				out = append(out, *take)
			}
		}
	}
	return out
}

func (d *decision[T]) since(was, is []T, brings, lifts *[]string) {
	before, after := d.by(was), d.by(is)
	for i := range is {
		if k := d.key(&is[i]); !d.alike(before[k], after[k]) {
			*brings = append(*brings, d.words(&is[i]))
		}
	}
	for i := range was {
		if after[d.key(&was[i])] == nil {
			*lifts = append(*lifts, d.words(&was[i]))
		}
	}
}
