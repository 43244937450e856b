package norm

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"unicode"

	"ubiquant/core/cases"
	"ubiquant/core/screen"
)

// Certainty is how much weight a departure has.
type Certainty string

const (
	Departs Certainty = "stray" // departs from a habit
	Look    Certainty = "look"  // so few screens that it is only worth a look
	Lean    Certainty = "lean"  // more likely meant than not
)

// Stray is an element that departs from what the others do.
type Stray struct {
	Doc       string        `json:"doc"` // kind:id
	Element   string        `json:"element"`
	Prop      string        `json:"prop"`  // a prop, "text", or with @ what else is decided
	Kind      string        `json:"kind"`  // what sort of thing is decided
	Value     string        `json:"value"` // as it is here
	Norm      string        `json:"norm"`  // as it is on the others
	Spot      string        `json:"spot"`
	Where     string        `json:"where,omitempty"` // what else must hold, where a house rule can hold it
	Rule      bool          `json:"rule,omitempty"`  // whether one can
	Words     string        `json:"words"`           // where, in words
	What      string        `json:"what"`            // what is decided, in words
	Why       string        `json:"why"`             // in one sentence
	Screens   int           `json:"screens"`         // that do as the others
	Of        int           `json:"of"`              // screens that count
	Certainty Certainty     `json:"certainty"`
	Odds      float64       `json:"odds"`     // how likely it is a slip, from 0 to 1
	Surprise  float64       `json:"surprise"` // the same in bits, for ordering
	Like      Place         `json:"like"`     // an element that does as the others
	FixTitle  string        `json:"fixTitle,omitempty"`
	Fix       []screen.Edit `json:"fix,omitempty"`
	Needs     string        `json:"needs,omitempty"` // why no repair is offered: what it would bring
}

// Place is an element of a document.
type Place struct {
	Doc     string `json:"doc"`
	Element string `json:"element"`
}

// certainty is what a departure counts as.
func (n *Norms) certainty(d *departure) Certainty {
	switch {
	case d.leaf.verdict != habit || n.likely(d) < StrayFrom:
		return Lean
	case n.evidence < FirmFrom || d.leaf.screens < LookFrom:
		return Look
	}
	return Departs
}

// likely is how likely a departure is a slip, what its screen is called considered: that may change
// while all that is decided on it stays.
func (n *Norms) likely(d *departure) float64 {
	if d.leaf.group.Kind == cases.Prop && n.isAbout(d.doc, n.book.Text(d.value)) {
		return d.sure * screenSays
	}
	return d.sure
}

// isAbout tells whether a screen says by its name or route what a setting on it does: a result
// that is "403" on the page /403 is what that page is for.
func (n *Norms) isAbout(number int32, value string) bool {
	d := n.docs[number]
	if d == nil || len(value) < shortestSaid {
		return false
	}
	words := strings.FieldsFunc(strings.ToLower(d.ID+" "+d.Title+" "+d.Route), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r)
	})
	return slices.Contains(words, strings.ToLower(value))
}

// gather finds what is held against one document, one departure for each cause.
func (n *Norms) gather(number int32) {
	n.recount[number] = true
	n.count -= n.counted[number]
	delete(n.counted, number)
	delete(n.hits, number)
	if n.docs[number] == nil {
		delete(n.byDoc, number)
		return
	}
	var list []*departure
	for _, d := range n.byDoc[number] {
		if d.leaf.verdict != habit || d.leaf.group.Kind == cases.Part && d.value == 1 {
			continue // what one screen has besides is its own matter
		}
		if d.leaf.group.Kind == cases.Part && !n.couldLead(number, d.leaf.group.part) {
			continue
		}
		list = append(list, d)
	}
	if len(list) > 0 {
		n.hits[number] = n.causes(number, list)
		n.counted[number] = n.told(n.hits[number])
		n.count += n.counted[number]
	}
}

// couldLead tells whether a part that leads somewhere would lead to a screen.
func (n *Norms) couldLead(number int32, part string) bool {
	_, shape, ok := strings.Cut(part, ":leads ")
	switch {
	case !ok, shape == "up", shape == "home", shape == "here", shape == "top":
		return true
	}
	d := n.docs[number]
	first, _, _ := strings.Cut(strings.TrimPrefix(d.Route, "/"), "/")
	return n.routes["screen "+d.App+" "+cases.Bare("/"+first+"/"+shape)] > 0
}

// told counts what is told of.
func (n *Norms) told(list []*departure) int {
	count := 0
	for _, d := range list {
		if n.certainty(d) != Lean {
			count++
		}
	}
	return count
}

// rank orders what a slip of one kind brings with it: the first explains the later ones.
var rank = map[cases.Kind]int{
	cases.Control: 0, cases.Shows: 0, cases.Format: 1, cases.Required: 1, cases.Prop: 1, cases.Label: 1,
	cases.Words: 2, cases.Part: 3, cases.Order: 4, cases.Fields: 4, cases.Meaning: 5, cases.Style: 6, cases.End: 6, cases.Slot: 1, cases.Tone: 1, cases.Space: 1,
}

// causes leaves one departure for each cause: an element of another kind has other props, and a
// part that is missing stands in no order.
func (n *Norms) causes(number int32, list []*departure) []*departure {
	d := n.docs[number]
	use := func(x *departure) int32 { return n.caseOf(x).Use }
	moves := map[[2]int32]int{} // how many orders an element is out of
	for _, x := range list {
		if ordered(x) && n.certainty(x) != Lean {
			moves[[2]int32{d.Uses[use(x)].Up, use(x)}]++
		}
	}
	slices.SortFunc(list, func(a, b *departure) int {
		firmA, firmB := n.certainty(a) == Lean, n.certainty(b) == Lean
		if firmA != firmB {
			return map[bool]int{true: 1, false: -1}[firmA]
		}
		if ordered(a) && ordered(b) {
			if c := cmp.Compare(moves[[2]int32{d.Uses[use(b)].Up, use(b)}], moves[[2]int32{d.Uses[use(a)].Up, use(a)}]); c != 0 {
				return c
			}
		}
		return cmp.Or(
			cmp.Compare(rank[a.leaf.group.Kind], rank[b.leaf.group.Kind]),
			cmp.Compare(n.likely(b), n.likely(a)),
			cmp.Compare(use(a), use(b)),
			strings.Compare(n.propOf(a.leaf.group), n.propOf(b.leaf.group)),
			strings.Compare(n.what(a.leaf.group), n.what(b.leaf.group)),
		)
	})
	type about struct {
		use  int32
		what string
	}
	taken := map[about]bool{}
	var out []*departure
	for _, x := range list {
		g, u := x.leaf.group, use(x)
		up := d.Uses[u].Up
		keys := []about{{u, n.propOf(g)}}
		switch g.Kind {
		case cases.Control, cases.Shows:
			keys = append(keys, about{u, "@all"})
		case cases.Order, cases.Fields:
			keys = []about{{up, "@order " + d.Uses[u].Element.Slot}}
		case cases.Meaning:
			keys = append(keys, about{u, "@icon"})
		case cases.Prop:
			if def := d.Uses[u].Spots[0].Def(); def != nil {
				if p, ok := def.Prop(n.book.Text(g.A)); ok && p.Icon {
					keys = append(keys, about{u, "@icon"})
				}
			}
		case cases.Part:
			keys = append(keys, about{-2, partName(g.part)})
		}
		if taken[about{u, "@all"}] || slices.ContainsFunc(keys, func(k about) bool { return taken[k] }) {
			continue
		}
		for _, k := range keys {
			taken[k] = true
		}
		out = append(out, x)
	}
	return out
}

func ordered(d *departure) bool {
	return d.leaf.group.Kind == cases.Order || d.leaf.group.Kind == cases.Fields
}

// propOf names what a group decides, as part of a stray's key.
func (n *Norms) propOf(g *group) string {
	switch g.Kind {
	case cases.Prop, cases.Words, cases.Style, cases.End, cases.Label:
		return n.book.Text(g.A)
	case cases.Format:
		return "text"
	case cases.Required:
		if def := n.def(n.book.Text(g.Comp)); def != nil && def.RequiredBy() != nil {
			return def.RequiredBy().Name
		}
		return "required"
	case cases.Tone:
		if def := n.def(n.book.Text(g.Comp)); def != nil && def.ToneBy() != nil {
			return def.ToneBy().Name
		}
		return "tone"
	case cases.Space:
		return "@class " + n.book.Text(g.A)
	case cases.Slot:
		return "@slot"
	case cases.Control, cases.Shows:
		return "@kind"
	case cases.Order, cases.Fields:
		return "@order"
	case cases.Part:
		if p, ok := strings.CutPrefix(g.part, "="); ok {
			return p
		}
		return "@part " + strings.ReplaceAll(g.part, "|", "/")
	}
	return "@meaning"
}

// partName is the component that a part is, or the prop.
func partName(part string) string {
	if p, ok := strings.CutPrefix(part, "+"); ok {
		_, typ, _ := strings.Cut(p, ":")
		return typ
	}
	return part
}

// Count is the number of strays without listing them, and without those that known says are told
// of elsewhere. changed are the documents for which known may say otherwise than before.
func (n *Norms) Count(changed []string, known func(doc, element, prop string) bool) int {
	n.mu.Lock()
	defer n.mu.Unlock()
	for _, key := range changed {
		kind, id, _ := strings.Cut(key, ":")
		if d, ok := n.ix.Find(screen.DocKind(kind), id); ok {
			n.recount[d.Number] = true
		}
	}
	for number := range n.recount {
		n.knownSum -= n.known[number]
		delete(n.known, number)
		for _, d := range n.hits[number] {
			if n.certainty(d) != Lean && known(n.docs[number].key, n.element(d).ID, n.propOf(d.leaf.group)) {
				n.known[number]++
				n.knownSum++
			}
		}
	}
	clear(n.recount)
	return n.count - n.knownSum
}

// Has reports whether an element of a document strays in a prop.
func (n *Norms) Has(number int32, element, prop string) bool {
	n.mu.Lock()
	defer n.mu.Unlock()
	return slices.ContainsFunc(n.hits[number], func(d *departure) bool {
		return n.certainty(d) != Lean && n.propOf(d.leaf.group) == prop && n.element(d).ID == element
	})
}

func (n *Norms) element(d *departure) *screen.Element {
	return n.docs[d.doc].Uses[n.caseOf(d).Use].Element
}

// caseOf is the case that departs.
func (n *Norms) caseOf(d *departure) cases.Case { return n.docs[d.doc].of(d.leaf.group.number)[d.at] }

// Strays lists the elements that depart from a habit, most certain first.
func (n *Norms) Strays() []Stray {
	out := append(n.list(Departs), n.list(Look)...)
	sortStrays(out)
	return out
}

// Leans lists the departures that are more likely meant.
func (n *Norms) Leans() []Stray { return n.list(Lean) }

func (n *Norms) list(c Certainty) []Stray {
	n.mu.Lock()
	defer n.mu.Unlock()
	out := []Stray{}
	for doc := range n.hits {
		out = n.describe(doc, c, out)
	}
	sortStrays(out)
	return out
}

// Of lists the strays of one document, most certain first.
func (n *Norms) Of(number int32) []Stray {
	n.mu.Lock()
	defer n.mu.Unlock()
	out := n.describe(number, Look, n.describe(number, Departs, nil))
	sortStrays(out)
	return out
}

func sortStrays(list []Stray) {
	slices.SortFunc(list, func(a, b Stray) int {
		if c := cmp.Compare(b.Surprise, a.Surprise); c != 0 {
			return c
		}
		return cmp.Or(
			strings.Compare(a.Doc, b.Doc),
			strings.Compare(a.Element, b.Element),
			strings.Compare(a.Prop, b.Prop),
		)
	})
}

func (n *Norms) describe(number int32, c Certainty, out []Stray) []Stray {
	for _, d := range n.hits[number] {
		if n.certainty(d) == c {
			out = append(out, n.stray(d, c))
		}
	}
	return out
}

// stray tells of a departure, with its repair.
func (n *Norms) stray(d *departure, c Certainty) Stray {
	l, doc := d.leaf, n.docs[d.doc]
	use, sure := n.caseOf(d).Use, n.likely(d)
	s := Stray{
		Doc: doc.key, Element: doc.Uses[use].Element.ID, Prop: n.propOf(l.group), Kind: kindNames[l.group.Kind],
		Value: n.word(l.group, d.value), Norm: n.word(l.group, l.sides[0].value),
		Spot: doc.Uses[use].Spots[0].Name(), Screens: len(l.sides[0].docs), Of: int(l.screens),
		Certainty: c, Odds: sure,
		Surprise: math.Round(-1000*math.Log2(1-min(sure, 0.999999))) / 1000,
	}
	if s.Rule = l.group.Kind == cases.Prop && l.group.B == 0; s.Rule {
		s.Where = n.conditions(l)
	}
	s.What = n.what(l.group)
	s.Words = n.where(l)
	s.Why = n.why(d, &s)
	s.Like = n.like(d)
	s.Fix, s.FixTitle = n.repair(d, &s)
	return s
}

// like finds an element that does as the others: on the screen that has most in common.
func (n *Norms) like(d *departure) Place {
	own := n.book.Context(n.caseOf(d).Context)
	best, found, first := -1, Place{}, int32(0)
	for i, number := range d.leaf.sides[0].docs {
		if i >= 40 { // keeps the cost flat
			break
		}
		doc := n.docs[number]
		for _, c := range doc.of(d.leaf.group.number) {
			x := n.book.Context(c.Context)
			if !n.same(d.leaf.group, c.Value, d.leaf.sides[0].value) || !follows(d.leaf.path, x) {
				continue
			}
			alike := 0
			for k := range x {
				if x[k] == own[k] {
					alike++
				}
			}
			// Where several on one screen are as much alike, the first of them.
			if alike > best || alike == best && found.Doc == doc.key && c.Use < first {
				best, found, first = alike, Place{doc.key, doc.Uses[c.Use].Element.ID}, c.Use
			}
		}
	}
	return found
}

// same tells whether the value of a case is an answer of a group; a part's are there or not.
func (n *Norms) same(g *group, value, answer int32) bool {
	if g.Kind != cases.Part {
		return value == answer
	}
	return slices.Contains(strings.Split(n.book.Text(value), "\n"), g.part) == (answer == 1)
}
