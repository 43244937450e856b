package norm

import (
	"hash/maphash"
	"math"
	"slices"

	"ubiquant/core/usage"
)

// opinion is what a spot with evidence of its own says of one value.
type opinion struct {
	prop   int
	value  string
	says   says
	norm   string  // what the spot does instead
	p      float64 // of there being no norm
	tested bool    // whether p counts among the tests
}

type says uint8

const (
	silent says = iota // too little is known
	usual              // the value is what is done here
	other              // something else is done here, so far as one can tell
	second             // something else is done here, and now and then the value
	strays             // the value departs from a norm
	minds              // the spot is of several minds
)

// record is what is kept of a spot.
type record struct {
	spot     *usage.Spot
	prints   []uint64 // of its mixes as they were judged
	priors   []uint64 // of what they tell the finer spots
	screens  []int    // of each mix as it was judged
	opinions []opinion
}

// about names the uses of a spot that have a value.
type about struct {
	spot  *usage.Spot
	prop  int
	value string
}

var seed = maphash.MakeSeed()

// fingerprint tells mixes apart without regard to the order of their values.
func fingerprint(m *usage.Mix) uint64 {
	sum := uint64(len(m.Values))
	for i := range m.Values {
		v := &m.Values[i]
		sum += spread(maphash.String(seed, v.Value) ^ spread(math.Float64bits(v.Weight)^uint64(len(v.Docs))<<40))
	}
	return sum
}

// spread is the finalizer of MurmurHash3: every bit of the outcome depends on all.
func spread(h uint64) uint64 {
	h = (h ^ h>>33) * 0xff51afd7ed558ccd
	h = (h ^ h>>33) * 0xc4ceb9fe1a85ec53
	return h ^ h>>33
}

// judge forms the opinions of spots anew where their mixes changed, or what they
// are told by more general ones, and returns what to look for again.
func (n *Norms) judge(spots []*usage.Spot) []about {
	var changed []about
	for _, s := range spots {
		for len(n.records) <= s.Number {
			n.records = append(n.records, record{})
		}
		r := &n.records[s.Number]
		if r.spot == nil {
			*r = record{spot: s, prints: make([]uint64, 2*len(s.Mixes))}
			r.prints, r.priors = r.prints[:len(s.Mixes):len(s.Mixes)], r.prints[len(s.Mixes):]
			r.screens = make([]int, len(s.Mixes))
		}
		for prop := range s.Mixes {
			if p := fingerprint(&s.Mixes[prop]); p != r.prints[prop] {
				r.prints[prop] = p
				changed = n.mix(s, prop, changed)
			}
		}
	}
	// One more or less test may move the line for all.
	if limit := threshold(n.tests); limit != n.limit {
		from, to := min(limit, n.limit), max(limit, n.limit)
		n.limit = limit
		for i := range n.records {
			for _, o := range n.records[i].opinions {
				if o.says == strays && o.p > from && o.p <= to {
					changed = append(changed, about{n.records[i].spot, o.prop, o.value})
				}
			}
		}
	}
	return changed
}

// mix judges one mix, and those of the finer spots when their prior moves.
func (n *Norms) mix(s *usage.Spot, prop int, changed []about) []about {
	changed = n.form(s, prop, changed)
	r := &n.records[s.Number]
	told := uint64(0)
	for i := range s.Mixes[prop].Values {
		v := s.Mixes[prop].Values[i].Value
		told += spread(maphash.String(seed, v) ^ math.Float64bits(prior(s, prop, v)))
	}
	if told == r.priors[prop] {
		return changed
	}
	r.priors[prop] = told
	for _, kid := range s.Kids {
		// A finer spot not yet met will be judged in its turn.
		if kid.Uses > 0 && kid.Number < len(n.records) && n.records[kid.Number].spot != nil &&
			n.records[kid.Number].prints[prop] != 0 {
			changed = n.mix(kid, prop, changed)
		}
	}
	return changed
}

// form replaces the opinions on one mix and notes those that changed.
func (n *Norms) form(s *usage.Spot, prop int, changed []about) []about {
	r := &n.records[s.Number]
	var old []opinion
	r.opinions = slices.DeleteFunc(r.opinions, func(o opinion) bool {
		if o.prop != prop {
			return false
		}
		old = append(old, o)
		if o.tested {
			n.tests = remove(n.tests, o.p)
		}
		return true
	})
	m := &s.Mixes[prop]
	if len(m.Values) > 1 && m.Screens > LeanFrom {
		for i := range m.Values {
			o := opine(s, prop, &m.Values[i])
			if o.tested {
				n.tests = insert(n.tests, o.p)
			}
			r.opinions = append(r.opinions, o)
		}
	}
	for i := range m.Values {
		value := m.Values[i].Value
		before, now := kept(old, prop, value, r.screens[prop]), kept(r.opinions, prop, value, m.Screens)
		// What small spots say is not kept: it may have changed.
		if before.says == silent || now.says == silent || before.says != now.says || before.norm != now.norm ||
			n.against(before) != n.against(now) {
			changed = append(changed, about{s, prop, value})
		}
	}
	r.screens[prop] = m.Screens
	return changed
}

// kept is the opinion on a value as it was kept. A spot with evidence of its own
// and no opinions has one value only, which is usual there.
func kept(list []opinion, prop int, value string, screens int) *opinion {
	if o := findOpinion(list, prop, value); o != nil {
		return o
	}
	if screens > LeanFrom {
		return &opinion{says: usual, norm: value}
	}
	return &opinion{}
}

func opine(s *usage.Spot, prop int, v *usage.Value) opinion {
	m := &s.Mixes[prop]
	verdict := judge(s, prop, v.Value)
	o := opinion{prop: prop, value: v.Value, norm: verdict.Value, p: 1 - verdict.Sure}
	// What is rare for a component anywhere may be usual in its place: the most
	// general spot informs the finer ones and accuses nobody.
	mayAccuse := s.Level != usage.ByComponent && m.Screens > NormFrom
	o.tested = mayAccuse && alone(m, v)
	switch {
	case verdict.Standing == Mixed:
		o.says = minds
	case verdict.Value == v.Value:
		o.says = usual
	case !alone(m, v):
		o.says = second
	case o.tested && verdict.Standing == Norm:
		o.says = strays
	default:
		o.says = other
	}
	return o
}

// alone reports whether so few screens have a value that they are slips rather
// than a second habit.
func alone(m *usage.Mix, v *usage.Value) bool {
	docs, screens := float64(len(v.Docs)), float64(m.Screens)
	return docs <= max(AloneUpTo, AloneShare*screens) || docs <= OddShare*screens && v.Weight <= OddWeight*screens
}

func findOpinion(list []opinion, prop int, value string) *opinion {
	for i := range list {
		if list[i].prop == prop && list[i].value == value {
			return &list[i]
		}
	}
	return nil
}

// against reports whether an opinion holds something against its value.
func (n *Norms) against(o *opinion) bool { return o != nil && o.says == strays && o.p <= n.limit }

// opinion is what a spot says of a value; small spots are judged on the spot.
func (n *Norms) opinion(s *usage.Spot, prop int, value string) opinion {
	m := &s.Mixes[prop]
	if len(m.Values) < 2 || m.Screens <= LeanFrom {
		here, most := 0, 0
		for i := range m.Values {
			if m.Values[i].Value == value {
				here = len(m.Values[i].Docs)
			} else {
				most = max(most, len(m.Values[i].Docs))
			}
		}
		if here >= 2 && here > most {
			return opinion{says: usual}
		}
		return opinion{}
	}
	if s.Number < len(n.records) {
		if o := findOpinion(n.records[s.Number].opinions, prop, value); o != nil {
			return *o
		}
	}
	return opinion{}
}
