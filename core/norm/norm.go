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
//
// # By difference
//
// What a spot says of a value is kept as an opinion, and what is held against an
// element as a hit of its document. An edit changes the mixes of a few spots;
// only where such a mix changes an opinion are the elements with that value
// looked at again. The outcome is the same as judging everything anew.
package norm

import (
	"math"
	"slices"

	"ubiquant/core/usage"
)

// The parameters, all in one place.
const (
	Share      = 0.8  // a norm's value must be more common than this …
	Sure       = 0.95 // … with this probability
	Kappa      = 1.0  // weight of the more general spot's mix, in screens
	LeanFrom   = 5    // screens from which a spot leans; fewer are only counted
	NormFrom   = 13   // screens from which a norm may hold
	AloneUpTo  = 2    // a stray's value stands on at most so many screens …
	AloneShare = 0.05 // … or, in a large team, on at most this share of them
	OddShare   = 0.1  // odd ones among alike elements stand on at most this share of the screens …
	OddWeight  = 0.05 // … and weigh at most this share
	SideFrom   = 3    // each side of an open question stands on at least so many
	SideShare  = 0.15 // … and holds at least this share
	TwoCover   = 0.85 // the two largest sides cover at least this share
	Both       = 0.25 // at most this share of the smaller side's screens stands on both sides
	Explained  = 0.9  // a mix is explained where the finer spots agree to this share
	FDR        = 0.05 // accepted share of false norms among all
	TwinWeight = 1.5  // an otherwise identical configuration makes a stray this much more certain
	priorSteps = 32   // a prior is rounded to this part, so that it seldom moves
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

// prior is the smoothed share of a value in a spot, the mix of the more general
// spot standing in as prior. No spot is more general than all: there the values
// met have even chances.
func prior(s *usage.Spot, prop int, value string) float64 {
	if s == nil {
		return 0.5
	}
	m := &s.Mixes[prop]
	before := 1 / float64(max(2, len(m.Values)))
	if s.Parent != nil {
		before = prior(s.Parent, prop, value)
	}
	c, n := 0.0, 0.0
	for i := range m.Values {
		n += m.Values[i].Weight
		if m.Values[i].Value == value {
			c = m.Values[i].Weight
		}
	}
	return math.Round((c+Kappa*before)/(n+Kappa)*priorSteps) / priorSteps
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
	before := prior(s.Parent, prop, top)
	v.Sure = 1 - betaCDF(Share, best+Kappa*before, n-best+Kappa*(1-before))
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

// Settled is a spot and prop that a house rule has decided; it is no question
// any more and its departures are findings, not strays.
type Settled struct {
	Spot string `json:"spot"`
	Prop string `json:"prop"`
}

// Norms keeps what the spots of an index say up to date.
type Norms struct {
	ix      *usage.Index
	records []record // by the spots' numbers
	tests   []float64
	limit   float64 // of the tests, by Benjamini–Hochberg
	hits    map[int32][]hit
	count   int
	open    map[*usage.Spot][]int // props whose mix wants an answer
	settled map[Settled]bool
}

// New judges all spots of an index.
func New(ix *usage.Index) *Norms {
	n := &Norms{ix: ix, hits: map[int32][]hit{}, open: map[*usage.Spot][]int{}, settled: map[Settled]bool{}}
	ix.Changed()
	spots := ix.Spots()
	n.judge(spots)
	n.lookForAll()
	for _, s := range spots {
		n.ask(s)
	}
	return n
}

// Update judges again what changed in the index.
func (n *Norms) Update() {
	spots, docs := n.ix.Changed()
	changed := n.judge(spots)
	for _, doc := range docs {
		n.lookAt(doc)
	}
	for _, c := range changed {
		n.lookFor(c)
	}
	for _, s := range spots {
		n.ask(s)
	}
}

// Settle tells which spots are decided by house rules.
func (n *Norms) Settle(list []Settled) {
	clear(n.settled)
	for _, s := range list {
		n.settled[s] = true
	}
	n.lookForAll()
}

// lookForAll finds everything that is held against elements, from nothing.
func (n *Norms) lookForAll() {
	clear(n.hits)
	n.count = 0
	for number := range n.records {
		r := &n.records[number]
		for i := range r.opinions {
			if o := &r.opinions[i]; n.against(o) {
				n.lookFor(about{r.spot, o.prop, o.value})
			}
		}
	}
}

func (n *Norms) isSettled(s *usage.Spot, prop string) bool {
	return len(n.settled) > 0 && n.settled[Settled{s.Name(), prop}]
}

// threshold is the largest p accepted by Benjamini–Hochberg over sorted tests.
func threshold(tests []float64) float64 {
	for i := len(tests) - 1; i >= 0; i-- {
		if tests[i] <= FDR*float64(i+1)/float64(len(tests)) {
			return tests[i]
		}
	}
	return -1
}

func insert(tests []float64, p float64) []float64 {
	i, _ := slices.BinarySearch(tests, p)
	return slices.Insert(tests, i, p)
}

func remove(tests []float64, p float64) []float64 {
	if i, ok := slices.BinarySearch(tests, p); ok {
		return slices.Delete(tests, i, i+1)
	}
	return tests
}
