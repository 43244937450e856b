package norm

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"ubiquant/core/usage"
)

// Stray is an element that departs from a norm.
type Stray struct {
	Doc      string  `json:"doc"` // kind:id
	Element  string  `json:"element"`
	Prop     string  `json:"prop"`
	Value    string  `json:"value"`
	Norm     string  `json:"norm"`
	Spot     string  `json:"spot"`
	Words    string  `json:"words"`
	Screens  int     `json:"screens"`  // on the norm's side
	Of       int     `json:"of"`       // screens that count
	Surprise float64 `json:"surprise"` // bits; larger is more certain
	Twins    int     `json:"twins"`    // screens with an element alike in all else; counted up to LeanFrom
}

// hit is what is held against one element of a document.
type hit struct {
	element string
	prop    int
	value   string
	norm    string
	spot    *usage.Spot
}

// lookAt finds what is held against the elements of a document that changed.
func (n *Norms) lookAt(doc int32) {
	n.count -= len(n.hits[doc])
	delete(n.hits, doc)
	d := n.ix.Doc(doc)
	if d == nil {
		return
	}
	for i := range d.Uses {
		u := &d.Uses[i]
		for level := usage.ByPlace; int(level) < len(u.Spots); level++ {
			s := u.Spots[level]
			if s.Number >= len(n.records) {
				continue
			}
			for j := range n.records[s.Number].opinions {
				if o := &n.records[s.Number].opinions[j]; n.against(o) {
					n.weigh(doc, u, o.prop, o.value)
				}
			}
		}
	}
}

// lookFor looks again at all uses in a spot that have a value.
func (n *Norms) lookFor(a about) {
	for _, v := range a.spot.Mixes[a.prop].Values {
		if v.Value != a.value {
			continue
		}
		for _, doc := range v.Docs {
			d := n.ix.Doc(doc)
			for i := range d.Uses {
				if u := &d.Uses[i]; u.Spots[a.spot.Level] == a.spot {
					n.weigh(doc, u, a.prop, a.value)
				}
			}
		}
	}
}

// weigh decides whether a use strays with the value of a prop. The finest spot
// with a norm decides, unless a still finer one with evidence of its own says
// otherwise: then the element follows a habit of that spot.
func (n *Norms) weigh(doc int32, u *usage.Use, prop int, value string) {
	name := u.Spots[0].Mixes[prop].Prop
	if v, ok := usage.Effective(u.Element, name, u.Spots[0].Default(name)); !ok || v != value {
		return
	}
	var found *hit
	want := "" // what finer spots do
look:
	for level := len(u.Spots) - 1; level > int(usage.ByComponent); level-- {
		s := u.Spots[level]
		if n.isSettled(s, name) {
			break
		}
		switch o := n.opinion(s, prop, value); {
		case o.says == usual || o.says == second || o.says == minds, want != "" && o.norm != "" && o.norm != want:
			break look
		case n.against(&o):
			found = &hit{u.Element.ID, prop, value, o.norm, s}
			break look
		case o.says == other || o.says == strays:
			want = o.norm
		}
	}
	at := slices.IndexFunc(n.hits[doc], func(h hit) bool { return h.element == u.Element.ID && h.prop == prop })
	switch {
	case at >= 0 && found == nil:
		n.hits[doc] = slices.Delete(n.hits[doc], at, at+1)
		n.count--
	case at >= 0:
		n.hits[doc][at] = *found
	case found != nil:
		n.hits[doc] = append(n.hits[doc], *found)
		n.count++
	}
}

// Count is the number of strays without listing them.
func (n *Norms) Count() int { return n.count }

// Has reports whether an element of a document strays in a prop.
func (n *Norms) Has(doc int32, element, prop string) bool {
	return slices.ContainsFunc(
		n.hits[doc],
		func(h hit) bool { return h.element == element && h.spot.Mixes[h.prop].Prop == prop },
	)
}

// Strays lists the elements that depart from a norm, most certain first.
func (n *Norms) Strays(words func(*usage.Spot) string) []Stray {
	named := map[*usage.Spot]string{}
	once := func(s *usage.Spot) string {
		if _, ok := named[s]; !ok {
			named[s] = words(s)
		}
		return named[s]
	}
	out := make([]Stray, 0, n.count)
	for doc := range n.hits {
		out = n.describe(doc, once, out)
	}
	sortStrays(out)
	return out
}

// Of lists the strays of one document, most certain first.
func (n *Norms) Of(doc int32, words func(*usage.Spot) string) []Stray {
	out := n.describe(doc, words, nil)
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

// describe adds the evidence to what is held against a document.
func (n *Norms) describe(doc int32, words func(*usage.Spot) string, out []Stray) []Stray {
	d := n.ix.Doc(doc)
	key := ""
	if d != nil {
		key = usage.DocKey(d.Document)
	}
	for _, h := range n.hits[doc] {
		m := &h.spot.Mixes[h.prop]
		twins := n.twins(doc, &h)
		// Surprise is the information in meeting the value, in bits, by the
		// smoothed mix without this document.
		rest := float64(m.Screens-1) + Kappa
		others := float64(screensOf(m, h.value) - 1)
		surprise := -math.Log2((others + Kappa*prior(h.spot.Parent, h.prop, h.value) + 0.05) / rest)
		if twins >= LeanFrom {
			surprise *= TwinWeight
		}
		out = append(
			out,
			Stray{
				Doc:      key,
				Element:  h.element,
				Prop:     m.Prop,
				Value:    h.value,
				Norm:     h.norm,
				Spot:     h.spot.Name(),
				Words:    words(h.spot),
				Screens:  screensOf(m, h.norm),
				Of:       m.Screens,
				Surprise: surprise,
				Twins:    twins,
			},
		)
	}
	return out
}

func screensOf(m *usage.Mix, value string) int {
	for i := range m.Values {
		if m.Values[i].Value == value {
			return len(m.Values[i].Docs)
		}
	}
	return 0
}

// twins counts the screens on which an element of the spot has the norm's value
// and is alike in all other tracked props. LeanFrom of them are enough.
func (n *Norms) twins(doc int32, h *hit) int {
	var stray *usage.Use
	d := n.ix.Doc(doc)
	for i := range d.Uses {
		if d.Uses[i].Element.ID == h.element {
			stray = &d.Uses[i]
		}
	}
	count := 0
	for _, v := range h.spot.Mixes[h.prop].Values {
		if v.Value != h.norm {
			continue
		}
		for i, other := range v.Docs {
			if i >= 24 || count >= LeanFrom { // keeps the cost flat
				break
			}
			if slices.ContainsFunc(n.ix.Doc(other).Uses, func(u usage.Use) bool {
				return u.Spots[h.spot.Level] == h.spot && u.Element != stray.Element &&
					alike(stray, &u, h.spot, h.prop)
			}) {
				count++
			}
		}
	}
	return count
}

func alike(a, b *usage.Use, s *usage.Spot, except int) bool {
	for i := range s.Mixes {
		if i == except {
			continue
		}
		p := s.Mixes[i].Prop
		def := s.Default(p)
		x, okX := usage.Effective(a.Element, p, def)
		y, okY := usage.Effective(b.Element, p, def)
		if okX && okY && x != y {
			return false
		}
	}
	return true
}
