package live

import (
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/norm"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// standing is what is let stand today: by key, and what reaches further than one element.
type standing struct {
	live  *Live
	exact map[string]bool
	wide  []audit.LetStand
}

// standing gathers what is let stand and whose date to look again has not come.
func (l *Live) standing() *standing {
	out := &standing{live: l, exact: map[string]bool{}}
	for _, s := range l.W.Stands {
		switch {
		case s.Due(l.Today):
		case s.Scope == "":
			out.exact[s.Key] = true
		default:
			out.wide = append(out.wide, s)
		}
	}
	return out
}

func (s *standing) nothing() bool { return len(s.exact) == 0 && len(s.wide) == 0 }

// holds reports whether what a key names is let stand.
func (s *standing) holds(key string) bool {
	return s.exact[key] || slices.ContainsFunc(s.wide, func(w audit.LetStand) bool { return s.live.Covers(&w, key) })
}

func (s *standing) stray(st norm.Stray) bool { return !s.nothing() && s.holds(StrayKey(st)) }

func (s *standing) finding(f *audit.Finding) bool { return !s.nothing() && s.holds(f.Key()) }

// Covers reports whether what is let stand reaches to what a key names, whatever the date.
func (l *Live) Covers(s *audit.LetStand, key string) bool {
	if s.Key == key {
		return true
	}
	is, of := audit.ParseKey(key), audit.ParseKey(s.Key)
	if is.Rule != of.Rule || s.Scope == "" {
		return false
	}
	switch s.Scope {
	case audit.InDoc:
		return is.Doc == of.Doc && is.Prop == of.Prop
	case audit.InSpot:
		return is.Prop == of.Prop && s.Spot != "" && l.SpotOf(is.Doc, is.Element) == s.Spot
	case audit.Everywhere:
		return true
	}
	return false
}

// StandOf is what lets a finding or a stray stand today; nil where nothing does.
func (l *Live) StandOf(key string) *audit.LetStand {
	for i := range l.W.Stands {
		if s := &l.W.Stands[i]; !s.Due(l.Today) && l.Covers(s, key) {
			return s
		}
	}
	return nil
}

// SpotOf is the address of the spot in which an element stands, by its role; empty where
// there is no such element.
func (l *Live) SpotOf(doc, element string) string {
	if sp := l.spot(doc, element); sp != nil {
		return sp.Key.String()
	}
	return ""
}

func (l *Live) spot(doc, element string) *usage.Spot {
	kind, id, _ := strings.Cut(doc, ":")
	d, ok := l.Index.Find(screen.DocKind(kind), id)
	if !ok {
		return nil
	}
	for i := range d.Uses {
		if d.Uses[i].Element.ID == element {
			return d.Uses[i].Spots[usage.ByRole]
		}
	}
	return nil
}
