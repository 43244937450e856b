package api

import (
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/live"
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
