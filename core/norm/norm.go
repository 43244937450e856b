// Package norm says what the team's screens do, and what departs from it.
//
// # The idea
//
// Whatever is decided in a screen is a case (package cases). For each thing that is decided, a
// small tree of contexts is grown over all screens: a branch needs screens on both sides and a
// gain above the Bayesian information criterion, and its path is the explanation. In each leaf
// "one habit, and slips at this workspace's own rate" competes with "two habits": the log odds
// of the two (beta-binomial against a binomial with any share) decide whether what departs is a
// stray or one side of an open question. A departure that its own surroundings share is their
// habit and no slip: each fact that a slip cannot change is asked how likely that is.
//
// Evidence is counted in screens: each has the weight one, shared by its distinct values.
//
// # By difference
//
// A changed document is read again; only the things for which its cases changed are judged
// again. The outcome is the same as judging everything anew, whatever the order of documents.
package norm

import (
	"math"

	"ubiquant/core/usage"
)

// The parameters, all in one place, with what each does.
const (
	// Fewer than LookFrom screens say nothing; fewer than FirmFrom say what is worth a look.
	LookFrom = 5
	FirmFrom = 14
	// A departure this likely to be a slip is a stray. Higher: more precision, less recall.
	StrayFrom = 0.45
	// A habit has at least this share of its leaf.
	leastShare = 0.6
	// What a team's rate of slips may be.
	leastSlips, mostSlips = 0.003, 0.15
	// A context has a habit of its own this often, beforehand, counted as so many contexts.
	ownHabit, ownScreens = 0.1, 3.0
	// What is seen on a single screen of its kind is that kind's own habit this often.
	ownAlone = 0.25
	// The same for how a field of a known type is written, and for what takes or shows it.
	ownFormat, ownComponent = 0.02, 0.12
	// A leaf's own rate of slips follows the workspace's as if that were so many screens.
	ownRate = 20.0
	// Departures always in one corner of a screen are its habit this often; so many facts are tried.
	ownCorner, factsTried = 0.05, 10.0
	// How often things of one kind have one habit is kept in steps of its log odds, and is at most so.
	oneSteps, mostOne = 4.0, 0.95
	// Two habits are asked about where the log odds of slips are below this.
	askBelow = 0.1
	// The rate of slips of a kind of thing follows its own leaves so many times as much as all others.
	kindWeight = 30
	// The two sides of a question cover at least this share …
	TwoCover = 0.85
	// … and at most this share of the smaller side's screens stands on both.
	Both = 0.25

	// For the mixes of spots, which help in choosing while a screen is made:
	Share    = 0.8  // a norm's value must be more common than this …
	Sure     = 0.95 // … with this probability
	Kappa    = 1.0  // weight of the more general spot's mix, in screens
	LeanFrom = 5    // screens from which a spot leans; fewer are only counted
	NormFrom = 13   // screens from which a norm may hold
	steps    = 32   // a prior is rounded to this part
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

// Settled is a spot and prop that a house rule has decided; it is no question
// any more and its departures are findings, not strays.
type Settled struct {
	Spot  string `json:"spot"`
	Where string `json:"where"`
	Prop  string `json:"prop"`
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
	return math.Round((c+Kappa*before)/(n+Kappa)*steps) / steps
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
