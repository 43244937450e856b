// Package norm says what the team's screens do: for each spot and prop whether
// there is a norm, a leaning or an open question, and which elements stray.
//
// # The idea
//
// Evidence is counted in screens. In a spot with n screens, of which a value has
// the weight c, the value's share has a Beta posterior. Its prior is the mix of
// the next more general spot, smoothed the same way (a Dirichlet prior of weight
// Kappa): what is known of any button speaks, softly, for the button in a page
// header. A norm holds when the share is above Share with probability Sure.
//
// The document of the element being judged is left out of the evidence. Thousands
// of spots are tested at once, so the Benjamini–Hochberg procedure (Benjamini and
// Hochberg, 1995) bounds the share of false norms by FDR.
package norm

import (
	"math"
	"slices"
	"strings"

	"ubiquant/core/usage"
)

// The parameters, all in one place.
const (
	Share      = 0.8  // a norm's value must be more common than this …
	Sure       = 0.95 // … with this probability
	Kappa      = 1.0  // weight of the more general spot's mix, in screens
	LeanFrom   = 5    // screens from which a spot leans; fewer are only counted
	NormFrom   = 13   // screens from which a norm may hold
	AloneUpTo  = 2    // a stray's value stands on at most so many screens
	SideFrom   = 3    // each side of an open question stands on at least so many
	SideShare  = 0.15 // … and holds at least this share
	TwoCover   = 0.85 // the two largest sides cover at least this share
	Both       = 0.25 // at most this share of the smaller side's screens stands on both sides
	Explained  = 0.9  // a mix is explained where the finer spots agree to this share
	FDR        = 0.05 // accepted share of false norms among all
	TwinWeight = 1.5  // an otherwise identical configuration makes a stray this much more certain
)

// Standing is what the evidence in a spot amounts to.
type Standing string

const (
	Counted Standing = "counted" // too few screens to say more
	Leaning Standing = "leaning"
	Norm    Standing = "norm"
	Mixed   Standing = "mixed"
)

// Verdict is what a spot says of one prop.
type Verdict struct {
	Standing Standing `json:"standing"`
	Value    string   `json:"value"` // the most common one
	Sure     float64  `json:"sure"`  // probability that its share is above Share
	Screens  int      `json:"screens"`
}

// share is the smoothed share of a value in a spot, the mix of the more general
// spot standing in as prior.
func share(s *usage.Spot, prop int, value string) float64 {
	if s == nil {
		return 0
	}
	m := &s.Mixes[prop]
	prior := share(s.Parent, prop, value)
	if s.Parent == nil {
		// The most general spot leans on nothing but even chances among its values.
		prior = 1 / float64(max(2, len(m.Values)))
	}
	c, n := 0.0, 0.0
	for i := range m.Values {
		n += m.Values[i].Weight
		if m.Values[i].Value == value {
			c = m.Values[i].Weight
		}
	}
	return (c + Kappa*prior) / (n + Kappa)
}

// judge computes the verdict for a prop with one document's evidence taken away
// where it held the value without.
func judge(s *usage.Spot, prop int, without string) Verdict {
	m := &s.Mixes[prop]
	n, best, top := 0.0, 0.0, ""
	for i := range m.Values {
		w := m.Values[i].Weight
		if without != "" && m.Values[i].Value == without {
			w = max(0, w-1)
		}
		n += w
		if w > best || (w == best && m.Values[i].Value < top) {
			best, top = w, m.Values[i].Value
		}
	}
	v := Verdict{Standing: Counted, Value: top, Screens: int(math.Round(n))}
	if v.Screens < LeanFrom {
		return v
	}
	prior := 0.5
	if s.Parent != nil {
		prior = share(s.Parent, prop, top)
	}
	v.Sure = 1 - betaCDF(Share, best+Kappa*prior, n-best+Kappa*(1-prior))
	switch {
	case v.Sure >= Sure && v.Screens >= NormFrom:
		v.Standing = Norm
	case best/n > 0.5 && v.Sure >= 0.5:
		v.Standing = Leaning
	default:
		v.Standing = Mixed
	}
	return v
}

// Stray is an element that departs from a norm.
type Stray struct {
	Doc      string   `json:"doc"` // kind:id
	Element  string   `json:"element"`
	Prop     string   `json:"prop"`
	Value    string   `json:"value"`
	Norm     string   `json:"norm"`
	Spot     string   `json:"spot"`
	Words    string   `json:"words"`
	Screens  int      `json:"screens"`  // on the norm's side
	Of       int      `json:"of"`       // screens that count
	Surprise float64  `json:"surprise"` // bits; larger is more certain
	Twins    int      `json:"twins"`    // elements alike in all else
	verdict  *verdict `json:"-"`
}

// Question is a spot where the screens are of two minds.
type Question struct {
	Spot  string `json:"spot"`
	Words string `json:"words"`
	Prop  string `json:"prop"`
	Sides []Side `json:"sides"`
}

// Side is one answer to an open question.
type Side struct {
	Value   string   `json:"value"`
	Uses    int      `json:"uses"`
	Screens int      `json:"screens"`
	Docs    []string `json:"docs"`
}

// Settled is a spot and prop that a house rule has decided; it is no question
// any more and its departures are findings, not strays.
type Settled struct {
	Spot string `json:"spot"`
	Prop string `json:"prop"`
}

// verdict is kept for each spot, prop and rare value.
type verdict struct {
	spot  *usage.Spot
	prop  int
	value string // the rare one
	norm  Verdict
	p     float64 // of the norm being none
}

// Norms keeps the verdicts of an index up to date.
type Norms struct {
	ix      *usage.Index
	rare    map[*usage.Spot][]verdict
	mixed   map[*usage.Spot]bool
	tested  map[*usage.Spot][]float64
	settled map[Settled]bool
}

// New judges all spots of an index.
func New(ix *usage.Index) *Norms {
	n := &Norms{ix: ix, rare: map[*usage.Spot][]verdict{}, mixed: map[*usage.Spot]bool{}, tested: map[*usage.Spot][]float64{}, settled: map[Settled]bool{}}
	ix.Dirty()
	for _, s := range ix.Spots() {
		n.spot(s)
	}
	return n
}

// Settle tells which spots are decided by house rules.
func (n *Norms) Settle(list []Settled) {
	clear(n.settled)
	for _, s := range list {
		n.settled[s] = true
	}
}

// Update judges again what changed in the index.
func (n *Norms) Update() {
	dirty := n.ix.Dirty()
	for _, s := range dirty {
		n.spot(s)
	}
}

// spot judges one spot. A spot that did not change itself keeps its verdict when
// only the more general one moved: the prior weighs as Kappa screens, far below
// NormFrom, and moves by less than 1/n for one edit.
func (n *Norms) spot(s *usage.Spot) {
	delete(n.rare, s)
	delete(n.mixed, s)
	delete(n.tested, s)
	if s.Docs < LeanFrom {
		return
	}
	for i := range s.Mixes {
		m := &s.Mixes[i]
		if len(m.Values) < 2 {
			continue
		}
		sides := 0
		for _, v := range m.Values {
			if len(v.Docs) >= SideFrom {
				sides++
			}
		}
		if sides >= 2 {
			n.mixed[s] = true
		}
		// What is rare for a component anywhere may be usual in its place: the most
		// general spot informs the finer ones and accuses nobody.
		if s.Level == usage.ByComponent || m.Screens <= NormFrom {
			continue
		}
		for _, v := range m.Values {
			if len(v.Docs) > AloneUpTo {
				continue
			}
			norm := judge(s, i, v.Value)
			n.tested[s] = append(n.tested[s], 1-norm.Sure)
			if norm.Standing == Norm && norm.Value != v.Value {
				n.rare[s] = append(n.rare[s], verdict{s, i, v.Value, norm, 1 - norm.Sure})
			}
		}
	}
}

// threshold is the largest p accepted by Benjamini–Hochberg over all tests made.
func (n *Norms) threshold() float64 {
	var ps []float64
	for _, list := range n.tested {
		ps = append(ps, list...)
	}
	slices.Sort(ps)
	limit := 0.0
	for i, p := range ps {
		if p <= FDR*float64(i+1)/float64(len(ps)) {
			limit = p
		}
	}
	return limit
}

// Strays lists the elements that depart from a norm, most certain first. An
// element and prop strays only in the most specific spot that has a norm, and
// not where a finer spot with evidence of its own says otherwise.
func (n *Norms) Strays(words func(*usage.Spot) string) []Stray {
	limit := n.threshold()
	best := map[[3]string]Stray{}
	for _, list := range n.rare {
		for i := range list {
			v := &list[i]
			if v.p > limit {
				continue
			}
			m := &v.spot.Mixes[v.prop]
			if n.settled[Settled{v.spot.Name(), m.Prop}] {
				continue
			}
			for _, val := range m.Values {
				if val.Value != v.value {
					continue
				}
				for _, docNumber := range val.Docs {
					n.straysOn(n.ix.Doc(docNumber), v, m, best, words)
				}
			}
		}
	}
	out := make([]Stray, 0, len(best))
	for _, s := range best {
		out = append(out, s)
	}
	slices.SortFunc(out, func(a, b Stray) int {
		switch {
		case a.Surprise > b.Surprise:
			return -1
		case a.Surprise < b.Surprise:
			return 1
		}
		return strings.Compare(a.Doc+a.Element+a.Prop, b.Doc+b.Element+b.Prop)
	})
	return out
}

func (n *Norms) straysOn(d *usage.Doc, v *verdict, m *usage.Mix, best map[[3]string]Stray, words func(*usage.Spot) string) {
	if d == nil {
		return
	}
	for i := range d.Uses {
		u := &d.Uses[i]
		if u.Spots[v.spot.Level] != v.spot {
			continue
		}
		value, ok := usage.Effective(u.Element, m.Prop, v.spot.Default(m.Prop))
		if !ok || value != v.value || n.excused(u, v, m.Prop) {
			continue
		}
		doc := usage.DocKey(d.Document)
		key := [3]string{doc, u.Element.ID, m.Prop}
		if old, ok := best[key]; ok && old.verdict.spot.Level >= v.spot.Level {
			continue
		}
		twins := n.twins(u, v, m.Prop)
		// Surprise is the information in meeting the value, in bits, by the
		// smoothed mix without this document.
		surprise := -math.Log2(max(1e-9, (Kappa*share(v.spot.Parent, v.prop, v.value)+0.05)/(float64(v.norm.Screens)+Kappa)))
		if twins >= LeanFrom {
			surprise *= TwinWeight
		}
		best[key] = Stray{Doc: doc, Element: u.Element.ID, Prop: m.Prop, Value: value, Norm: v.norm.Value, Spot: v.spot.Name(), Words: words(v.spot), Screens: screensOf(m, v.norm.Value), Of: m.Screens, Surprise: surprise, Twins: twins, verdict: v}
	}
}

func screensOf(m *usage.Mix, value string) int {
	for _, v := range m.Values {
		if v.Value == value {
			return len(v.Docs)
		}
	}
	return 0
}

// excused reports whether a finer spot of the element, with evidence of its own,
// does not share the norm: then the element follows a habit of that spot.
func (n *Norms) excused(u *usage.Use, v *verdict, prop string) bool {
	for level := len(u.Spots) - 1; level > int(v.spot.Level); level-- {
		finer := u.Spots[level]
		m, ok := finer.Mix(prop)
		if !ok {
			continue
		}
		if n.settled[Settled{finer.Name(), prop}] {
			return true
		}
		if screensOf(m, v.value) >= 2 && screensOf(m, v.value) > screensOf(m, v.norm.Value) {
			return true
		}
		if m.Screens > LeanFrom {
			if j := judge(finer, v.prop, v.value); j.Value != v.norm.Value || j.Standing == Mixed {
				return true
			}
		}
	}
	return false
}

// twins counts elements of the spot that have the norm's value and are alike in
// all other tracked props.
func (n *Norms) twins(u *usage.Use, v *verdict, prop string) int {
	m := &v.spot.Mixes[v.prop]
	count := 0
	for _, val := range m.Values {
		if val.Value != v.norm.Value {
			continue
		}
		for i, docNumber := range val.Docs {
			if i >= 24 { // enough to be sure; keeps the cost flat
				break
			}
			d := n.ix.Doc(docNumber)
			for j := range d.Uses {
				o := &d.Uses[j]
				if o.Spots[v.spot.Level] == v.spot && o != u && alike(u, o, v.spot, prop) {
					count++
					break
				}
			}
		}
	}
	return count
}

func alike(a, b *usage.Use, s *usage.Spot, except string) bool {
	for i := range s.Mixes {
		p := s.Mixes[i].Prop
		x, okX := usage.Effective(a.Element, p, s.Default(p))
		y, okY := usage.Effective(b.Element, p, s.Default(p))
		if p != except && okX && okY && x != y {
			return false
		}
	}
	return true
}

// Questions lists the spots where the screens are of two minds. Each is asked
// once, in the most general spot whose mix its finer spots do not explain.
func (n *Norms) Questions(words func(*usage.Spot) string) []Question {
	var out []Question
	for s := range n.mixed {
		for i := range s.Mixes {
			m := &s.Mixes[i]
			if !open(m) || n.settledAt(s, m.Prop) || explained(s, i) || n.askedAbove(s, i) {
				continue
			}
			q := Question{Spot: s.Name(), Words: words(s), Prop: m.Prop}
			for _, v := range m.Sorted() {
				side := Side{Value: v.Value, Uses: v.Uses, Screens: len(v.Docs)}
				for _, d := range v.Docs {
					if doc := n.ix.Doc(d); doc != nil {
						side.Docs = append(side.Docs, usage.DocKey(doc.Document))
					}
				}
				slices.Sort(side.Docs)
				q.Sides = append(q.Sides, side)
			}
			out = append(out, q)
		}
	}
	slices.SortFunc(out, func(a, b Question) int {
		size := func(q Question) int { return q.Sides[0].Screens + q.Sides[1].Screens }
		if d := size(b) - size(a); d != 0 {
			return d
		}
		return strings.Compare(a.Spot+a.Prop, b.Spot+b.Prop)
	})
	return out
}

// open reports whether a mix has two sides that each stand on several screens
// and together cover nearly all.
func open(m *usage.Mix) bool {
	if m.Screens < 2*SideFrom {
		return false
	}
	values := slices.Clone(m.Values)
	slices.SortFunc(values, func(a, b usage.Value) int { return len(b.Docs) - len(a.Docs) })
	if len(values) < 2 || len(values[1].Docs) < SideFrom {
		return false
	}
	total := m.Total()
	both := 0
	for _, d := range values[1].Docs {
		if _, found := slices.BinarySearch(values[0].Docs, d); found {
			both++
		}
	}
	if float64(both) > Both*float64(len(values[1].Docs)) {
		return false // screens that use both make a difference by it, they do not disagree
	}
	return values[1].Weight/total >= SideShare && (values[0].Weight+values[1].Weight)/total >= TwoCover
}

func (n *Norms) settledAt(s *usage.Spot, prop string) bool {
	for ; s != nil; s = s.Parent {
		if n.settled[Settled{s.Name(), prop}] {
			return true
		}
	}
	return false
}

// explained reports whether the finer spots each agree with themselves: then the
// mix comes from different places or roles, not from two minds.
func explained(s *usage.Spot, prop int) bool {
	m := &s.Mixes[prop]
	total := m.Total()
	return len(s.Kids) > 0 && total > 0 && agreement(s, prop)/total >= Explained
}

// agreement is the weight of screens that follow the majority, in the spot itself
// or in the finer ones, whichever explains more. One screen always agrees with
// itself; that explains nothing.
func agreement(s *usage.Spot, prop int) float64 {
	m := &s.Mixes[prop]
	if m.Screens < 2 {
		return 0
	}
	top, finer := 0.0, 0.0
	for _, v := range m.Values {
		top = max(top, v.Weight)
	}
	for _, k := range s.Kids {
		finer += agreement(k, prop)
	}
	// Finer spots of one screen each count it once; shares of it must not add up
	// to more than there is.
	return max(top, min(finer, m.Total()))
}

// askedAbove reports whether a more general spot asks the same question already.
func (n *Norms) askedAbove(s *usage.Spot, prop int) bool {
	for p := s.Parent; p != nil; p = p.Parent {
		if n.mixed[p] && open(&p.Mixes[prop]) && !explained(p, prop) {
			return true
		}
	}
	return false
}

// For returns the verdict of a spot on a prop, without one document's evidence
// where it held the value without ("" leaves nothing out).
func For(s *usage.Spot, prop, without string) (Verdict, bool) {
	for i := range s.Mixes {
		if s.Mixes[i].Prop == prop {
			return judge(s, i, without), true
		}
	}
	return Verdict{}, false
}
