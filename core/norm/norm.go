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
