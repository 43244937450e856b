package api

import (
	"maps"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/snippet"

	"ubiquant/core/find"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

type nextIn struct {
	Kind   string `path:"kind"`
	ID     string `path:"id"`
	Parent string `query:"parent"`
	Slot   string `query:"slot"`
	After  string `query:"after"`
	Query  string `query:"q"`
	State  string `query:"state"`
}

// Suggestion is something that may be put at a place.
type Suggestion struct {
	Type        string            `json:"type"`
	Title       string            `json:"title"`
	Summary     string            `json:"summary"`
	Family      string            `json:"family"`
	Probability float64           `json:"probability"`
	Screens     int               `json:"screens"`
	Why         string            `json:"why,omitempty"`
	Preset      map[string]string `json:"preset"` // the norm's settings there
	TakesText   bool              `json:"takesText"`
	AsksText    bool              `json:"asksText"`        // its text is what one writes next
	About       string            `json:"about,omitempty"` // the prop that says what it is about
	AboutNumber bool              `json:"aboutNumber,omitempty"`
	AboutFirst  bool              `json:"aboutFirst,omitempty"` // what it is about is what it needs first: one text says that
	AboutUsual  string            `json:"aboutUsual,omitempty"` // what it is about where nothing else is said, as on the other screens
	AboutIcon   string            `json:"aboutIcon,omitempty"`  // the prop that names its icon
	LeadProp    string            `json:"leadProp,omitempty"`   // the prop that says where it leads
	Leads       []snippet.Lead    `json:"leads,omitempty"`      // screens of the record around, that it may lead to
	Slot        string            `json:"slot"`                 // of the parent, where it would stand
	Snippet     string            `json:"snippet,omitempty"`    // a whole arrangement, to be asked for by this
	Other       bool              `json:"other,omitempty"`      // the slot is not the one asked for, which does not take it
	Around      []wrapping        `json:"around,omitempty"`     // what makes it right here, the outermost first
}

// wrapping is a new element around another, and the slot that this stands in.
type wrapping struct {
	Type  string `json:"type"`
	Title string `json:"title"`
	Slot  string `json:"slot"`
}

type nextOut struct {
	Suggestions []Suggestion `json:"suggestions"`
	Elsewhere   []Suggestion `json:"elsewhere"` // match, but may not stand here; Why says so
}

func (s *Server) next(c *Call, in *nextIn) (*nextOut, error) {
	out := &nextOut{Suggestions: []Suggestion{}, Elsewhere: []Suggestion{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		d, ok := l.W.Doc(in.Kind + ":" + in.ID)
		if !ok {
			return missing(in.Kind + ":" + in.ID)
		}
		root, _ := screen.In(d, in.State, l.Cat)
		parent, _ := root.Find(in.Parent)
		if parent == nil {
			return missing("element " + in.Parent)
		}
		pc, _ := l.Cat.Component(parent.Type)
		// A suggestion says in which slot of the parent it would stand: any, where all are
		// asked for; else the one asked for, unless the screens put what
		// is asked for by name in another.
		slots := []string{in.Slot}
		if in.Slot == "*" {
			slots = slots[:0]
		}
		if pc != nil && (in.Slot == "*" || in.Query != "") {
			for _, slot := range pc.Slots {
				if slot.Name != in.Slot {
					slots = append(slots, slot.Name)
				}
			}
		}
		prev, prevSlot := "", ""
		if after, _ := root.Find(in.After); after != nil {
			prev, prevSlot = after.Type, after.Slot
		}
		candidates := l.Cat.Candidates()
		chance, slotOf := map[string]usage.Next{}, map[string]string{}
		for i, slot := range slots {
			before := ""
			if slot == prevSlot {
				before = prev
			}
			for _, n := range l.Index.ComesNext(parent, slot, before, candidates) {
				old, ok := chance[n.Type]
				if in.Slot != "*" && i > 0 && (!ok || n.Screens == 0 || n.Probability < 4*old.Probability) {
					continue
				}
				if !ok || n.Probability > old.Probability {
					chance[n.Type], slotOf[n.Type] = n, slot
				}
			}
		}
		entries := find.Kit(l.Kit, candidates, func(typ string) int { return l.Index.CountOf(typ).Uses })
		matches := find.Search(entries, in.Query, 0)
		leads := snippet.Leads(l, root, parent, d.App)
		for _, m := range matches {
			if m.Kind != "component" {
				continue
			}
			def, _ := l.Cat.Component(m.ID)
			if def == nil || (def.Deprecated != "" && in.Query == "") {
				continue
			}
			sg := Suggestion{
				Type:        def.Tag,
				Title:       def.Title,
				Summary:     def.Summary,
				Family:      def.Family,
				Why:         m.Why,
				TakesText:   def.TakesText(),
				AsksText:    def.Labelled,
				About:       titleProp(def),
				AboutNumber: numbers(def, titleProp(def)),
				AboutFirst:  requires(def, titleProp(def)),
				AboutIcon:   iconProp(def),
				Preset:      map[string]string{},
				Slot:        slotOf[def.Tag],
			}
			if sg.LeadProp = snippet.LeadProp(def); sg.LeadProp != "" {
				sg.Leads = leads
			}
			n, stands := chance[m.ID]
			if !stands {
				if in.Query != "" && pc != nil && len(out.Elsewhere) < 4 {
					slot := strings.Trim(in.Slot, "*")
					sg.Why, _ = kit.Accepts(l.Cat, pc, slot, def)
					if other, ok := kit.SlotFor(l.Cat, pc, def); ok { // the parent has another place for it
						sg.Slot, sg.Other, sg.Preset = other, true, preset(l, root, parent, other, def)
					} else {
						sg.Around, sg.Slot = madeRight(l, pc, slot, def), slot
					}
					out.Elsewhere = append(out.Elsewhere, sg)
				}
				continue
			}
			sg.Probability, sg.Screens, sg.Other = n.Probability, n.Screens, in.Slot != "*" && sg.Slot != in.Slot
			if in.Query != "" {
				// The match leads, what comes next here decides between equals.
				sg.Probability = m.Score/100 + n.Probability
				// Its very name, or the beginning of it, is likelier than anything.
				switch q := strings.ToLower(strings.TrimSpace(in.Query)); {
				case def.Title == q:
					sg.Probability += 2
				case strings.HasPrefix(def.Title, q):
					sg.Probability += 1 + float64(len(q))/float64(len(def.Title))
				}
			}
			sg.Preset = preset(l, root, parent, sg.Slot, def)
			maps.Copy(sg.Preset, wanted(def, in.Query))
			if sg.About != "" && d.Kind == screen.ScreenDoc && l.Index.Titled(def.Tag, sg.About) &&
				!holdsType(root, def.Tag) {
				sg.AboutUsual = d.Title
			}
			out.Suggestions = append(out.Suggestions, sg)
		}
		if in.Query != "" {
			fields := snippet.FieldOffers(l, parent)
			offered := append(fields, snippet.Offers(l)...)
			entries := make([]find.Entry, len(offered))
			for i, o := range offered {
				entries[i] = find.Entry{
					Kind:   "snippet",
					ID:     strconv.Itoa(i),
					Title:  o.Title,
					Fields: []find.Field{{What: "name", Text: o.Title, Weight: 10}},
				}
				for _, w := range o.Words {
					entries[i].Fields = append(entries[i].Fields, find.Field{What: "also called", Text: w, Weight: 6})
				}
			}
			for _, m := range find.Search(entries, in.Query, 6) {
				i, err := strconv.Atoi(m.ID)
				if err != nil {
					continue
				}
				o := offered[i]
				if _, stands := chance[o.Root.Tag]; stands {
					score, why := m.Score/100, "a whole arrangement"
					if i < len(fields) {
						why = "head and cell"
					}
					if q := strings.ToLower(strings.TrimSpace(in.Query)); strings.HasPrefix(
						strings.ToLower(o.Title),
						q,
					) {
						score += 1 + float64(len(q))/float64(len(o.Title))
					}
					out.Suggestions = append(
						out.Suggestions,
						Suggestion{
							Type:        o.Root.Tag,
							Title:       o.Title,
							Summary:     "Made of what the team has",
							Family:      "snippets",
							Probability: score,
							Why:         why,
							Preset:      map[string]string{},
							Slot:        slotOf[o.Root.Tag],
							Snippet:     o.ID,
						},
					)
				}
			}
		}
		slices.SortStableFunc(out.Suggestions, func(a, b Suggestion) int {
			switch {
			case a.Probability > b.Probability:
				return -1
			case a.Probability < b.Probability:
				return 1
			}
			return strings.Compare(a.Title, b.Title)
		})
		out.Suggestions = out.Suggestions[:min(len(out.Suggestions), 40)]
		for i := range out.Suggestions {
			if out.Suggestions[i].Snippet != "" {
				out.Suggestions[i].Probability = 0
				continue
			}
			out.Suggestions[i].Probability = chance[out.Suggestions[i].Type].Probability
		}
		return nil
	})
	return out, err
}

// wanted are the settings that a query names beside the component: "strong button" asks
// for the strong one.
func wanted(def *kit.Component, query string) map[string]string {
	out := map[string]string{}
	words := strings.Fields(strings.ToLower(query))
	if len(words) < 2 {
		return out
	}
	for _, w := range words {
		if slices.Contains(strings.Fields(strings.ToLower(def.Title)), w) {
			continue
		}
		for i := range def.Props {
			p := &def.Props[i]
			switch {
			case p.Type == kit.Enum && slices.Contains(p.Values, w) && p.Deprecated == "":
				out[p.Name] = w
			case p.Type == kit.Bool && strings.ToLower(p.Name) == w && p.Deprecated == "":
				out[p.Name] = "true"
			}
		}
	}
	return out
}

// requires tells whether a component cannot do without a prop.
func requires(def *kit.Component, prop string) bool {
	p, ok := def.Prop(prop)
	return ok && p.Required
}

func holdsType(root *screen.Element, typ string) bool {
	found := false
	root.Walk(func(e, _ *screen.Element) bool {
		found = found || e.Type == typ
		return !found
	})
	return found
}

// titleProp is the prop in which a component says what it is about: its heading, or
// the name by which it is known.
func titleProp(def *kit.Component) string {
	for _, name := range append([]string{"heading", def.NameProp, "label"}, def.Telling...) {
		if p, ok := def.Prop(name); ok && name != "" && (p.Type == kit.Text || p.Type == kit.Number) && !p.URL &&
			!p.Icon {
			return p.Name
		}
	}
	return ""
}

// iconProp is the prop that names a component's icon, or nothing.
func iconProp(def *kit.Component) string {
	for i := range def.Props {
		if def.Props[i].Icon {
			return def.Props[i].Name
		}
	}
	return ""
}

// numbers tells whether a prop holds a number.
func numbers(def *kit.Component, prop string) bool {
	p, ok := def.Prop(prop)
	return ok && p.Type == kit.Number
}

// madeRight is what would have to stand around a component so that it may stand in a
// slot.
func madeRight(l *live.Live, parent *kit.Component, slot string, def *kit.Component) []wrapping {
	tags := kit.Around(l.Cat, parent, slot, def, l.Kit.Components)
	out := make([]wrapping, 0, len(tags))
	for i, tag := range tags {
		inner := def
		if i+1 < len(tags) {
			inner, _ = l.Cat.Component(tags[i+1])
		}
		w, ok := l.Cat.Component(tag)
		if !ok || inner == nil {
			return nil
		}
		in, _ := kit.SlotFor(l.Cat, w, inner)
		out = append(out, wrapping{tag, w.Title, in})
	}
	return out
}

// preset is what a new element starts with: the clear majority's settings in the
// place it goes to, where they are not the default anyway.
func preset(l *live.Live, root, parent *screen.Element, slot string, def *kit.Component) map[string]string {
	place, placeSlot := "page", ""
	child := slot
	path := root.Path(parent.ID)
	for i := len(path) - 1; i >= 0; i-- {
		if c, ok := l.Cat.Component(path[i].Type); !ok || c.Level != kit.Layout {
			place, placeSlot = path[i].Type, child
			break
		}
		child = path[i].Slot
	}
	return snippet.Preset(l, def, place, placeSlot)
}
