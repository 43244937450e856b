package live

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// Point is what there was to say of the screens at one time.
type Point struct {
	Screens    int       `json:"screens"`
	Score      float64   `json:"score"` // mean consistency of the screens, 0 to 100
	Errors     int       `json:"errors"`
	Warnings   int       `json:"warnings"`
	Notes      int       `json:"notes"`
	Strays     int       `json:"strays"`
	Questions  int       `json:"questions"`
	Causes     int       `json:"causes"`     // what stands behind errors, warnings and strays
	Stood      int       `json:"stood"`      // let stand
	Elements   int       `json:"elements"`   // of components, the kit's or not, on screens
	FromKit    int       `json:"fromKit"`    // of these from the kit, or a piece made of it
	Deprecated int       `json:"deprecated"` // of these that the kit no longer wants used
	Owners     []Portion `json:"owners"`
	Folders    []Portion `json:"folders"` // of screens that were read from code
}

// Portion is a point for some of the screens: those of one owner, or of one folder.
type Portion struct {
	Of       string  `json:"of"`
	Screens  int     `json:"screens"`
	Score    float64 `json:"score"`
	Elements int     `json:"elements"`
	FromKit  int     `json:"fromKit"`
}

// Point counts what there is to say now.
func (l *Live) Point() Point {
	p := Point{}
	open, stood := l.Findings()
	strays := l.Strays()
	p.Strays, p.Questions, p.Stood = len(strays), l.Norms.CountQuestions(), len(stood)+len(l.StandingStrays())
	byDoc, strayAt := map[string][]audit.Finding{}, map[string][]string{}
	for _, f := range open {
		byDoc[f.Doc] = append(byDoc[f.Doc], f)
		switch f.Severity {
		case audit.Error:
			p.Errors++
		case audit.Warning:
			p.Warnings++
		default:
			p.Notes++
		}
	}
	for _, s := range strays {
		strayAt[s.Doc] = append(strayAt[s.Doc], s.Element)
	}
	causes := map[string]bool{}
	for _, w := range l.Worklist() {
		if w.Stood == nil && (w.Kind == OpenStray || w.Kind == OpenFinding && w.Severity != audit.Note) {
			causes[w.Cause] = true
		}
	}
	p.Causes = len(causes)
	owners, folders := map[string]*Portion{}, map[string]*Portion{}
	portion := func(of map[string]*Portion, name string) *Portion {
		if of[name] == nil {
			of[name] = &Portion{Of: name}
		}
		return of[name]
	}
	for _, d := range l.Index.Docs() {
		if d.Kind != screen.ScreenDoc || d.Removed {
			continue
		}
		score, _ := audit.Score(d.Root.Count(), byDoc[usage.DocKey(d.Document)], strayAt[usage.DocKey(d.Document)])
		parts := []*Portion{portion(owners, d.Owner)}
		if d.Source != "" {
			parts = append(parts, portion(folders, path.Dir(d.Source)))
		}
		p.Screens++
		p.Score += float64(score)
		for _, o := range parts {
			o.Screens++
			o.Score += float64(score)
		}
		for i := range d.Uses {
			counts, fromKit, deprecated := l.adopted(d.Uses[i].Element.Type)
			if !counts {
				continue
			}
			p.Elements++
			if fromKit {
				p.FromKit++
			}
			for _, o := range parts {
				o.Elements++
				if fromKit {
					o.FromKit++
				}
			}
			if deprecated {
				p.Deprecated++
			}
		}
	}
	if p.Screens > 0 {
		p.Score /= float64(p.Screens)
	}
	p.Owners, p.Folders = largest(owners), largest(folders)
	return p
}

// largest lists portions, those with most screens first.
func largest(of map[string]*Portion) []Portion {
	out := make([]Portion, 0, len(of))
	for _, o := range of {
		o.Score /= float64(o.Screens)
		out = append(out, *o)
	}
	slices.SortFunc(out, func(a, b Portion) int {
		return cmp.Or(cmp.Compare(b.Screens, a.Screens), strings.Compare(a.Of, b.Of))
	})
	return out
}

// adopted tells whether a type counts as a component, whether it comes from the kit, and whether
// the kit no longer wants it used. What only lays out is neither.
func (l *Live) adopted(typ string) (counts, fromKit, deprecated bool) {
	def, ok := l.Cat.Component(typ)
	switch {
	case !ok:
		return true, false, false
	case def.Plain:
		return true, false, false
	case def.Level == "layout":
		return false, false, false
	}
	return true, true, def.Deprecated != ""
}
