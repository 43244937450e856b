package api

import (
	"context"
	"encoding/json"
	"maps"
	"slices"
	"strconv"
	"strings"
	"sync"

	"github.com/Masterminds/semver/v3"

	"ubiquant/core/snippet"

	"ubiquant/core/audit"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/expr"
	"ubiquant/core/find"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/norm"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

type choicesIn struct {
	Kind    string `path:"kind"`
	ID      string `path:"id"`
	Element string `query:"element"`
	Spot    string `query:"spot"` // a wider spot; empty takes the most telling one
	State   string `query:"state"`
}

// SpotView is a spot with its evidence.
type SpotView struct {
	Name    string `json:"name"`
	Words   string `json:"words"`
	Uses    int    `json:"uses"`
	Screens int    `json:"screens"`
}

// ValueView is one value of a prop with how often it stands in the spot.
type ValueView struct {
	Value   string `json:"value"`
	Uses    int    `json:"uses"`
	Screens int    `json:"screens"`
	Words   string `json:"words,omitempty"` // the value said, where it does not say itself
}

// Choice is one prop of an element with its norm.
type Choice struct {
	Prop       string       `json:"prop"`
	Type       string       `json:"type"`
	Summary    string       `json:"summary"`
	Set        bool         `json:"set"`
	Filled     bool         `json:"filled"`
	Value      string       `json:"value"` // effective
	Kind       string       `json:"kind"`  // literal, expr, token
	Default    string       `json:"default"`
	Required   bool         `json:"required"`
	Deprecated string       `json:"deprecated,omitempty"`
	Values     []ValueView  `json:"values"` // choices in the kit's order, or values met
	Verdict    norm.Verdict `json:"verdict"`
	Varies     bool         `json:"varies"` // worth showing at once
	House      string       `json:"house,omitempty"`
	Responsive bool         `json:"responsive"`
	Icon       bool         `json:"icon"`
	URL        bool         `json:"url"`
	Picture    bool         `json:"picture"`   // is the address of a picture
	Describes  bool         `json:"describes"` // says in words what the picture shows
}

type choicesOut struct {
	Element   string            `json:"element"`
	Type      string            `json:"type"`
	Title     string            `json:"title"`
	Summary   string            `json:"summary"`
	TakesText bool              `json:"takesText"`
	Slots     []kit.Slot        `json:"slots"`
	Spots     []SpotView        `json:"spots"` // from the specific to the general
	Spot      int               `json:"spot"`  // the one the norms are of
	Choices   []Choice          `json:"choices"`
	Findings  []audit.Finding   `json:"findings"`
	Strays    []norm.Stray      `json:"strays"`
	Code      map[string]string `json:"code"`
	Makes     []making          `json:"makes"` // what can be put on the screen to be opened
	// Pagers are the names of the screen's controls that hold a number; Pager is the
	// component that can hold the page of a list.
	Pagers []string `json:"pagers"`
	Pager  string   `json:"pager,omitempty"`
	// Over are the lists that the record around holds, as a repeat names them.
	Over []string `json:"over"`
	// Tells are what a use of a piece tells the document of what its controls hold, as
	// expressions write it; of one without a name, what it could.
	Tells []string `json:"tells"`
}

func (s *Server) choices(c *Call, in *choicesIn) (*choicesOut, error) {
	var out *choicesOut
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		doc, ok := l.Index.Find(screen.DocKind(in.Kind), in.ID)
		if !ok {
			return missing(in.Kind + ":" + in.ID)
		}
		root, _ := screen.In(doc.Document, in.State, l.Cat)
		el, _ := root.Find(in.Element)
		if el == nil {
			return missing("element " + in.Element)
		}
		spots := doc.SpotsOf(in.Element)
		if spots == nil { // it is there in this state only; what is known is of all its kind
			any, ok := l.Index.Root(el.Type)
			if !ok {
				any = l.Index.Bare(el.Type)
			}
			spots = []*usage.Spot{any}
		}
		out = &choicesOut{
			Element:  el.ID,
			Type:     el.Type,
			Slots:    []kit.Slot{},
			Choices:  []Choice{},
			Findings: []audit.Finding{},
			Strays:   []norm.Stray{},
			Code:     map[string]string{},
			Makes:    []making{},
			Pagers:   []string{},
			Over:     held(l, root, el),
			Tells:    tellsOf(l, root, el),
		}
		if el.Repeat != nil && in.Kind != string(screen.ShellDoc) {
			for name, control := range resolve.NamesOf(root, l.Cat).Controls {
				switch {
				case control.Kind != expr.Number:
				case control.Use != nil:
					out.Pagers = append(out.Pagers, name)
				default:
					out.Pagers = append(out.Pagers, control.Element.Name)
				}
			}
			slices.Sort(out.Pagers)
			for i := range l.Kit.Components {
				if def := l.Kit.Components[i]; def.Holds == "page" {
					if _, ok := def.Prop("pages"); ok {
						out.Pager = def.Tag
					}
				}
			}
		}
		for i, sp := range spots {
			out.Spots = append(out.Spots, SpotView{sp.Name(), l.Words(sp), sp.Uses, sp.Docs})
			if sp.Name() == in.Spot {
				out.Spot = i
			}
		}
		if in.Spot == "" {
			out.Spot = telling(spots)
		}
		findings, strays := l.Of(usage.DocKey(doc.Document))
		for _, f := range findings {
			if f.Element == el.ID {
				out.Findings = append(out.Findings, f)
			}
		}
		for _, st := range strays {
			if st.Element == el.ID {
				out.Strays = append(out.Strays, st)
			}
		}
		def, ok := l.Cat.Component(el.Type)
		if !ok {
			out.Title = el.Type
			return nil
		}
		out.Title, out.Summary, out.TakesText, out.Slots = def.Title, def.Summary, def.TakesText(), def.Slots
		for i := range def.Props {
			ch := choiceOf(l, spots[out.Spot], &def.Props[i], el)
			ch.Picture, ch.Describes = def.ShowsPicture(ch.Prop), def.Picture != nil && def.Picture.Alt == ch.Prop
			// What tells the element, and what something is held against, shows at once.
			ch.Varies = ch.Varies || slices.Contains(def.Telling, ch.Prop) || ch.Prop == def.NameProp ||
				slices.ContainsFunc(out.Findings, func(f audit.Finding) bool { return f.Prop == ch.Prop })
			out.Choices = append(out.Choices, ch)
		}
		if _, ok := def.Prop(kit.Does); ok {
			ch := doing(l, doc.Document, root, el, def)
			ch.Varies = ch.Varies ||
				slices.ContainsFunc(out.Findings, func(f audit.Finding) bool { return f.Prop == ch.Prop })
			out.Choices = append(out.Choices, ch)
			out.Makes = makings(l)
		}
		// Settings of other widths stand beside their base.
		for _, p := range el.Props {
			if base, _, wide := strings.Cut(p.Name, "@"); wide {
				if bp, ok := def.Prop(base); ok {
					ch := choiceOf(l, spots[out.Spot], bp, el)
					ch.Prop, ch.Set, ch.Value, ch.Varies = p.Name, true, p.Value.Text, true
					out.Choices = append(out.Choices, ch)
				}
			}
		}
		slices.SortStableFunc(out.Choices, func(a, b Choice) int {
			if a.Varies != b.Varies {
				if a.Varies {
					return -1
				}
				return 1
			}
			return 0
		})
		out.Code = targets.Code(l.Kit, l.Cat, el)
		return nil
	})
	return out, err
}

// held are the lists and references of the record around an element.
func held(l *live.Live, root, el *screen.Element) []string {
	out := []string{}
	scope := expr.Scope{Models: l.Models()}
	for _, e := range root.Path(el.ID) {
		if e.Repeat != nil && e != el {
			scope = scope.Enter(e.Repeat.Model)
		}
	}
	if scope.Record != nil {
		for _, f := range scope.Record.Fields {
			if f.Type == sample.Texts || f.Type == sample.Refs {
				out = append(out, "record."+f.Name)
			}
		}
	}
	return out
}

// telling picks the spot whose norms to show: the most specific one with
// evidence enough to lean, else the place.
func telling(spots []*usage.Spot) int {
	for i, sp := range spots {
		if sp.Docs > norm.LeanFrom {
			return i
		}
	}
	return len(spots) - 1
}

func choiceOf(l *live.Live, sp *usage.Spot, p *kit.Prop, el *screen.Element) Choice {
	ch := Choice{
		Prop:       p.Name,
		Type:       p.Type.String(),
		Summary:    p.Summary,
		Default:    p.Default,
		Value:      p.Default,
		Kind:       "literal",
		Required:   p.Required,
		Deprecated: p.Deprecated,
		Values:     []ValueView{},
		Responsive: p.Responsive,
		Icon:       p.Icon,
		URL:        p.URL,
	}
	if p.Tokens != "" {
		ch.Type = "token"
	}
	for _, set := range el.Props {
		if set.Name == p.Name {
			ch.Set, ch.Filled, ch.Value = true, set.Filled, set.Value.Text
			ch.Kind = map[screen.Kind]string{screen.Expr: "expr", screen.Token: "token"}[set.Value.Kind]
			if ch.Kind == "" {
				ch.Kind = "literal"
			}
		}
	}
	met := map[string]ValueView{}
	if m, ok := sp.Mix(p.Name); ok {
		for _, v := range m.Values {
			met[v.Value] = ValueView{Value: v.Value, Uses: v.Uses, Screens: len(v.Docs)}
		}
		ch.Verdict, _ = norm.For(sp, p.Name, ch.Value) // the element's own screen is left out
		ch.Varies = len(m.Values) > 1
	}
	values := p.Values
	switch {
	case p.Type == kit.Bool:
		values = []string{"false", "true"}
	case p.Tokens != "":
		values = l.Kit.Tokens.Steps(p.Tokens)
		values = append(slices.Clone(p.Values), values...)
		if p.Default == "" {
			values = append([]string{""}, values...)
		}
	}
	for _, v := range values {
		view := met[v]
		view.Value = v
		ch.Values = append(ch.Values, view)
		delete(met, v)
	}
	for _, v := range met {
		ch.Values = append(ch.Values, v)
	}
	if len(values) == 0 {
		slices.SortFunc(ch.Values, func(a, b ValueView) int { return b.Uses - a.Uses })
		ch.Values = ch.Values[:min(len(ch.Values), 8)]
	}
	for _, h := range l.W.House {
		if h.Prop == p.Name {
			for s := sp; s != nil; s = s.Parent {
				if s.Name() == h.Spot {
					ch.House = h.Value
				}
			}
		}
	}
	ch.Varies = ch.Varies || ch.Set || ch.Required
	return ch
}

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

type snippetIn struct {
	ID  string `query:"id"`
	App string `query:"app"`
	Doc string `query:"doc"` // where it is to stand; it takes none of the names there
	// Parent is the element that it is to stand in, for what comes to stand in its rows too.
	Parent string `query:"parent"`
	State  string `query:"state"`
}

type snippetOut struct {
	Tree   json.RawMessage `json:"tree"`
	Beside json.RawMessage `json:"beside,omitempty"` // comes to stand at the end of Into
	Into   string          `json:"into,omitempty"`
}

// snippet makes a whole arrangement; its ids are for the client to replace.
func (s *Server) snippet(c *Call, in *snippetIn) (*snippetOut, error) {
	out := &snippetOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		tree, err := snippet.Make(l, in.ID, in.App, in.Doc)
		if d, ok := l.W.Doc(in.Doc); err != nil && ok {
			root, _ := screen.In(d, in.State, l.Cat)
			if parent, _ := root.Find(in.Parent); parent != nil {
				var beside *screen.Element
				if tree, beside, out.Into, err = snippet.Field(l, in.ID, parent); beside != nil {
					var w screen.Writer
					w.Element(beside)
					out.Beside = w.B
				}
			}
		}
		if err != nil {
			return bad("%s", err)
		}
		var w screen.Writer
		w.Element(tree)
		out.Tree = w.B
		return nil
	})
	return out, err
}

type kitOut struct {
	Name       string           `json:"name"`
	Title      string           `json:"title"`
	Version    string           `json:"version"`
	Families   []kit.Family     `json:"families"`
	Components []componentHead  `json:"components"`
	Pieces     []componentHead  `json:"pieces"` // the team's own
	Icons      []kit.Icon       `json:"icons"`
	Tokens     []kit.Token      `json:"tokens"`
	Themes     []string         `json:"themes"`
	Code       kit.Code         `json:"code"`
	Layouts    []*kit.Component `json:"layouts"`
	Chosen     map[string]used  `json:"chosen"`         // tokens that elements are set to, by path
	Page       []string         `json:"page"`           // custom properties that the kit's style sheet itself uses
	Next       string           `json:"next,omitempty"` // the version that came after it
}

type used struct {
	Uses    int `json:"uses"`
	Screens int `json:"screens"`
}

type componentHead struct {
	*kit.Component
	Uses    int           `json:"uses"`
	Screens int           `json:"screens"`
	Reasons []live.Reason `json:"reasons"` // why it cannot be used now; none where it can
	Made    []string      `json:"made"`    // components that its example is made of, and those it draws in itself
}

// headOf is a component at a glance.
func headOf(l *live.Live, u *live.Usability, def *kit.Component) componentHead {
	n := l.Index.CountOf(def.Tag)
	return componentHead{def, n.Uses, n.Screens, u.Reasons(def), def.MadeOf()}
}

func (s *Server) kit(c *Call, _ *none) (*kitOut, error) {
	out := &kitOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		k := l.Kit
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		*out = kitOut{
			Name:     k.Name,
			Title:    k.Title,
			Version:  k.Version,
			Families: k.Families,
			Icons:    k.Icons,
			Tokens:   k.Tokens.List,
			Themes:   k.Tokens.Themes,
			Code:     k.Code,
			Layouts:  kit.Layouts(),
			Chosen:   chosenTokens(l),
			Page:     kit.Mentioned(b.Sheet()),
		}
		u := l.Usability(b.Package, b.Sheet())
		for _, def := range k.Components {
			out.Components = append(out.Components, headOf(l, u, def))
		}
		out.Pieces = []componentHead{}
		for _, def := range l.Cat.Candidates() {
			if def.Level == kit.Piece {
				out.Pieces = append(out.Pieces, headOf(l, u, def))
			}
		}
		next, err := s.newer(c.Context(), l.Kit)
		if err != nil {
			return err
		}
		if next != nil {
			out.Next = next.Version
		}
		return nil
	})
	return out, err
}

// chosenTokens counts the elements that are set to a step of a token group.
func chosenTokens(l *live.Live) map[string]used {
	docs := map[string]map[int32]bool{}
	out := map[string]used{}
	for _, def := range l.Cat.Candidates() {
		root, ok := l.Index.Root(def.Tag)
		if !ok {
			continue
		}
		for i := range root.Mixes {
			p, ok := def.Prop(root.Mixes[i].Prop)
			if !ok || p.Tokens == "" {
				continue
			}
			for _, v := range root.Mixes[i].Values {
				path := p.Tokens + "." + v.Value
				if docs[path] == nil {
					docs[path] = map[int32]bool{}
				}
				for _, d := range v.Docs {
					docs[path][d] = true
				}
				out[path] = used{out[path].Uses + v.Uses, len(docs[path])}
			}
		}
	}
	return out
}

type componentIn struct {
	Tag string `path:"tag"`
}

// UseView is one element somewhere.
type UseView struct {
	Doc     string `json:"doc"`
	Title   string `json:"title"`
	Element string `json:"element"`
	Words   string `json:"words"`
}

// CellView is a combination of two props' values with its uses.
type CellView struct {
	Row  string `json:"row"`
	Col  string `json:"col"`
	Uses int    `json:"uses"`
}

type componentOut struct {
	Component componentHead          `json:"component"`
	Mixes     map[string][]ValueView `json:"mixes"`
	Cells     map[string][]CellView  `json:"cells"` // by "row|col" props
	Uses      []UseView              `json:"uses"`
	House     []audit.HouseRule      `json:"house"`
	Findings  []FindingView          `json:"findings"`
	Needs     needs                  `json:"needs"`
	Rules     []aboutRule            `json:"rules"` // those that look at it in particular
	Checked   []live.Need            `json:"checked"`
	Versions  []versionView          `json:"versions"` // newest first
	Families  []kit.Family           `json:"families"`
	Said      *kit.Correction        `json:"said,omitempty"` // what the team says in place of what was proposed
}

// aboutRule is a rule at a glance.
type aboutRule struct {
	ID      string `json:"id"`
	Title   string `json:"title"`
	Purpose string `json:"purpose"`
}

// versionView is a version of the kit with what it changes for a component.
type versionView struct {
	Version string           `json:"version"`
	InUse   bool             `json:"inUse"`
	Changes []kit.Difference `json:"changes"`
	Words   []string         `json:"words"` // the same, said
}

// newer is the version of the kit that came after the one in use, where one is stored.
func (s *Server) newer(ctx context.Context, is *kit.Kit) (*kit.Kit, error) {
	rows, err := s.Store.Kits(ctx)
	if err != nil {
		return nil, err
	}
	in, err := semver.NewVersion(is.Version)
	if err != nil {
		return nil, nil // what tells no order has nothing that came after it
	}
	var best *semver.Version
	hash := ""
	for _, row := range rows {
		v, err := semver.NewVersion(row.Version)
		if err == nil && row.Name == is.Name && row.LeftAt == nil && v.GreaterThan(in) && (best == nil || v.GreaterThan(best)) {
			best, hash = v, row.Hash
		}
	}
	if best == nil {
		return nil, nil
	}
	b, err := s.Store.Kit(ctx, model.KitRef{Hash: hash})
	if err != nil {
		return nil, err
	}
	return b.Kit, nil
}

// versions lists the kit's versions as they concern a component: itself and the
// tokens that its styles speak of.
func (s *Server) versions(ctx context.Context, l *live.Live, def *kit.Component) ([]versionView, error) {
	out := []versionView{}
	next, err := s.newer(ctx, l.Kit)
	if err != nil {
		return nil, err
	}
	if next != nil {
		v := versionView{Version: next.Version, Changes: []kit.Difference{}, Words: []string{}}
		for _, d := range kit.Compare(l.Kit.Bare(), next) {
			path, _, _ := strings.Cut(d.Name, " ")
			tok, isToken := l.Kit.Tokens.Find(path)
			if d.Component == def.Tag || d.What == "token" && isToken && slices.Contains(def.Tokens, tok.CSS) {
				v.Changes = append(v.Changes, d)
				v.Words = append(v.Words, d.String())
			}
		}
		out = append(out, v)
	}
	return append(
		out,
		versionView{Version: l.Kit.Version, InUse: true, Changes: []kit.Difference{}, Words: []string{}},
	), nil
}

// needs is what code with a component cannot do without.
type needs struct {
	Package string   `json:"package"` // name@version
	Import  string   `json:"import"`
	Styles  string   `json:"styles"`
	Theme   string   `json:"theme"`   // where a theme is set
	Parents []string `json:"parents"` // it stands only in these
	Labels  string   `json:"labels"`  // what names it
}

func (s *Server) component(c *Call, in *componentIn) (*componentOut, error) {
	var out *componentOut
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		def, ok := l.Cat.Component(in.Tag)
		if !ok {
			return missing("component " + in.Tag)
		}
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		versions, err := s.versions(c.Context(), l, def)
		if err != nil {
			return err
		}
		u := l.Usability(b.Package, b.Sheet())
		out = &componentOut{
			Component: headOf(l, u, def),
			Checked:   u.Needs(def),
			Versions:  versions,
			Families:  l.Kit.Families,
			Mixes:     map[string][]ValueView{},
			Cells:     map[string][]CellView{},
			Uses:      []UseView{},
			House:     []audit.HouseRule{},
			Findings:  []FindingView{},
			Needs: needs{
				l.Kit.PackageOf(def),
				l.Kit.ImportOf(def),
				l.Kit.CodeOf(def).Styles,
				"data-theme",
				orList(def.Parents),
				def.LabelledBy,
			},
		}
		if i := slices.IndexFunc(l.W.Own.Corrections, func(c kit.Correction) bool { return c.Tag == def.Tag }); i >= 0 {
			said := l.W.Own.Corrections[i]
			out.Said = &said
		}
		out.Rules = []aboutRule{}
		for _, r := range l.Rules() {
			if r.Looks != nil && r.Looks(def) {
				out.Rules = append(out.Rules, aboutRule{r.ID, r.Title, r.Purpose})
			}
		}
		open, _ := l.Findings()
		byElement := map[string][]audit.Finding{}
		for _, f := range open {
			byElement[f.Doc+"#"+f.Element] = append(byElement[f.Doc+"#"+f.Element], f)
		}
		if root, ok := l.Index.Root(in.Tag); ok {
			for _, m := range root.Mixes {
				for _, v := range m.Sorted() {
					out.Mixes[m.Prop] = append(
						out.Mixes[m.Prop],
						ValueView{Value: v.Value, Uses: v.Uses, Screens: len(v.Docs)},
					)
				}
			}
		}
		cells := map[string]map[[2]string]int{}
		var axes []string
		for i := range def.Props {
			if def.Props[i].Type == kit.Enum {
				axes = append(axes, def.Props[i].Name)
			}
		}
		for _, d := range l.Index.Docs() {
			for _, u := range d.Uses {
				if u.Element.Type != in.Tag {
					continue
				}
				key := usage.DocKey(d.Document)
				out.Uses = append(out.Uses, UseView{key, d.Title, u.Element.ID, l.Words(u.Spots[usage.ByRole])})
				for _, f := range byElement[key+"#"+u.Element.ID] {
					out.Findings = append(out.Findings, FindingView{f, f.Key(), d.Title, nil})
				}
				for _, a := range axes {
					for _, b := range axes {
						if a == b {
							continue
						}
						pa, _ := def.Prop(a)
						pb, _ := def.Prop(b)
						va, okA := usage.Effective(u.Element, a, pa.Default)
						vb, okB := usage.Effective(u.Element, b, pb.Default)
						if okA && okB {
							if cells[a+"|"+b] == nil {
								cells[a+"|"+b] = map[[2]string]int{}
							}
							cells[a+"|"+b][[2]string{va, vb}]++
						}
					}
				}
			}
		}
		for axis, counts := range cells {
			for pair, uses := range counts {
				out.Cells[axis] = append(out.Cells[axis], CellView{pair[0], pair[1], uses})
			}
		}
		for _, h := range l.W.House {
			if component, _, _ := strings.Cut(h.Spot, "~"); component == in.Tag {
				out.House = append(out.House, h)
			}
		}
		return nil
	})
	return out, err
}

type codeIn struct {
	Tree json.RawMessage `json:"tree"`
}

type codeOut struct {
	Code map[string]string `json:"code"`
}

func (s *Server) code(c *Call, in *codeIn) (*codeOut, error) {
	el := &screen.Element{}
	if err := el.UnmarshalJSON(in.Tree); err != nil {
		return nil, err
	}
	out := &codeOut{map[string]string{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		out.Code = targets.Code(l.Kit, l.Cat, el)
		return nil
	})
	return out, err
}

type findIn struct {
	Query string `query:"q"`
	Only  string `query:"only"` // "kit" leaves out screens, elements and findings
}

type findOut struct {
	Matches []find.Match `json:"matches"`
}

func (s *Server) find(c *Call, in *findIn) (*findOut, error) {
	out := &findOut{Matches: []find.Match{}}
	var ix *find.Index
	err := s.Live.Read(c.Context(), func(l *live.Live, seq int64) error {
		ix = s.found.index(l, seq, in.Only == "kit")
		if in.Only != "kit" {
			out.Matches = append(out.Matches, addressed(l, in.Query)...)
		}
		return nil
	})
	if err == nil {
		for _, m := range ix.Search(in.Query, 60) {
			if !slices.ContainsFunc(out.Matches, func(had find.Match) bool { return had.Kind == m.Kind && had.ID == m.ID }) {
				out.Matches = append(out.Matches, m)
			}
		}
	}
	return out, err
}

// mostAddressed is how many elements one address may mean.
const mostAddressed = 12

// addressed finds what a query names as reports print it: screen:tickets#tickets-5, #tickets-5, or
// the line of a file that a screen was read from.
func addressed(l *live.Live, query string) (out []find.Match) {
	for word := range strings.FieldsSeq(query) {
		word = strings.Trim(word, ":,;()[]")
		doc, element, hasDoc := strings.Cut(word, "#")
		file, line := placeIn(word)
		if !hasDoc && file == "" {
			continue
		}
		for _, d := range l.W.Docs {
			if d.Removed || hasDoc && doc != "" && usage.DocKey(d) != doc {
				continue
			}
			d.Root.Walk(func(e, parent *screen.Element) bool {
				named := hasDoc && e.ID == element
				inCode := file != "" && e.FromCode() && strings.HasSuffix("/"+e.Origin.File, "/"+file) && strings.HasPrefix(e.Origin.Range+":", line+":")
				// A report names files beneath the folder that was audited.
				inCode = inCode || file != "" && e.FromCode() && strings.HasSuffix(file, "/"+e.Origin.File) && strings.HasPrefix(e.Origin.Range+":", line+":")
				if (named || inCode) && len(out) < mostAddressed {
					title := e.Text.Text
					if title == "" {
						title = titleOf(l, e)
					}
					out = append(out, find.Match{
						Entry: find.Entry{Kind: "element", ID: usage.DocKey(d) + "#" + e.ID, Title: title, Hint: standing(l, d, e, parent)}, Score: 1000, Why: "its address",
					})
				}
				return true
			})
		}
	}
	return out
}

// placeIn takes a place in a file apart: "src/Orders.tsx:16:43".
func placeIn(word string) (file, line string) {
	parts := strings.Split(word, ":")
	if len(parts) < 2 || !strings.Contains(parts[0], ".") {
		return "", ""
	}
	if _, err := strconv.Atoi(parts[1]); err != nil {
		return "", ""
	}
	return strings.TrimPrefix(parts[0], "./"), strings.Join(parts[1:min(len(parts), 3)], ":")
}

func titleOf(l *live.Live, e *screen.Element) string {
	if def, ok := l.Cat.Component(e.Type); ok {
		return def.Title
	}
	return e.Type
}

// standing says where an element stands, so that like ones are told apart.
func standing(l *live.Live, d *screen.Document, e, parent *screen.Element) string {
	out := d.Title + ", " + titleOf(l, e)
	if parent != nil {
		if e.Slot != "" {
			out += " in the " + e.Slot + " of a " + titleOf(l, parent)
		} else {
			out += " in a " + titleOf(l, parent)
		}
	}
	return out
}

// searchable keeps what is searched until the workspace changes: people type
// faster than they edit.
type searchable struct {
	mu  sync.Mutex
	seq int64
	by  map[bool]*find.Index // true is the kit alone
}

func (f *searchable) index(l *live.Live, seq int64, kitOnly bool) *find.Index {
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.by == nil || f.seq != seq {
		f.seq, f.by = seq, map[bool]*find.Index{}
	}
	if f.by[kitOnly] == nil {
		entries := find.Kit(l.Kit, l.Cat.Candidates(), func(typ string) int { return l.Index.CountOf(typ).Uses })
		if !kitOnly {
			entries = append(entries, workspaceEntries(l)...)
		}
		f.by[kitOnly] = find.New(entries)
	}
	return f.by[kitOnly]
}

func workspaceEntries(l *live.Live) []find.Entry {
	var out []find.Entry
	for _, d := range l.W.Docs {
		if d.Removed {
			continue
		}
		key := usage.DocKey(d)
		out = append(
			out,
			find.Entry{
				Kind:  string(d.Kind),
				ID:    key,
				Title: d.Title,
				Hint:  d.Route,
				Uses:  40,
				Fields: []find.Field{
					{What: "name", Text: d.Title, Weight: 12},
					{What: "route", Text: d.Route, Weight: 6},
					{What: "owner", Text: d.Owner, Weight: 2},
				},
			},
		)
		d.Root.Walk(func(e, parent *screen.Element) bool {
			if e.Text.Kind == screen.Literal || e.Name != "" {
				out = append(
					out,
					find.Entry{
						Kind:  "element",
						ID:    key + "#" + e.ID,
						Title: e.Text.Text,
						Hint:  standing(l, d, e, parent),
						Fields: []find.Field{
							{What: "text", Text: e.Text.Text, Weight: 3},
							{What: "name", Text: e.Name, Weight: 5},
						},
					},
				)
			}
			return true
		})
	}
	open, _ := l.Findings()
	for _, f := range open {
		out = append(
			out,
			find.Entry{
				Kind:  "finding",
				ID:    f.Key(),
				Title: f.Message,
				Hint:  f.Doc + "#" + f.Element,
				Fields: []find.Field{
					{What: "finding", Text: f.Message, Weight: 2},
					{What: "rule", Text: f.Rule, Weight: 3},
				},
			},
		)
	}
	return out
}

type whereIn struct {
	Selector string `query:"selector"`
	Doc      string `query:"doc"` // only there
}

type whereOut struct {
	Uses  []UseView `json:"uses"`
	Total int       `json:"total"`
}

func (s *Server) where(c *Call, in *whereIn) (*whereOut, error) {
	sel, err := screen.ParseSelector(in.Selector)
	if err != nil {
		return nil, bad("%s", err)
	}
	out := &whereOut{Uses: []UseView{}}
	err = s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		l.Where(sel, func(d *screen.Document, e *screen.Element) {
			if in.Doc != "" && usage.DocKey(d) != in.Doc {
				return
			}
			out.Total++
			if len(out.Uses) < 500 {
				out.Uses = append(out.Uses, UseView{usage.DocKey(d), d.Title, e.ID, e.Type})
			}
		})
		return nil
	})
	return out, err
}
