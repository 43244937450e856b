package rules

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// rowLooks are settings that neighbours share where they form a row.
var rowLooks = regexp.MustCompile(`(?i)^(size|gap|padding|span|width|height|gutter|cols|columns|offset|density|spacing|shape|radius|(label)?align(ment)?|justify|layout|direction)$`)

const (
	fewestInRow = 4 // neighbours of one kind
	fewestMixed = 5 // where the setting is one that rows often mix, as how wide a column is
)

// commonLooks are those that rows hardly ever mix.
var commonLooks = []string{"size", "gap", "padding"}

var _ = add(&audit.Rule{
	ID: "odd-one-out", Title: "One of a row is otherwise", Severity: audit.Note,
	Code:    true,
	Purpose: "Neighbours of one kind have one size, and one room inside and between; fields beside each other are labelled alike.",
	Why:     "Four buttons and one that is a little smaller look like a mistake, because it is one.",
	Bad: []string{
		`{"id":"g","type":"sorrel-button-group","children":[{"id":"a","type":"sorrel-button","text":"One","props":{"to":"/"}},{"id":"b","type":"sorrel-button","text":"Two","props":{"to":"/x","size":"s"}},{"id":"c","type":"sorrel-button","text":"Three","props":{"to":"/tickets"}},{"id":"d","type":"sorrel-button","text":"Four","props":{"to":"/export"}}]}`,
		`{"id":"g","type":"grid","children":[{"id":"a","type":"stack","props":{"gap":"3"}},{"id":"b","type":"stack","props":{"gap":"3"}},{"id":"c","type":"stack","props":{"gap":"5"}},{"id":"d","type":"stack","props":{"gap":"3"}}]}`,
		`{"id":"g","type":"stack","children":[{"id":"a","type":"sorrel-field","props":{"label":"Name"},"children":[{"id":"ax","type":"sorrel-text-input"}]},{"id":"b","type":"sorrel-field","children":[{"id":"bx","type":"sorrel-text-input"}]},{"id":"c","type":"sorrel-field","props":{"label":"Bed"},"children":[{"id":"cx","type":"sorrel-text-input"}]},{"id":"d","type":"sorrel-field","props":{"label":"Soil"},"children":[{"id":"dx","type":"sorrel-text-input"}]}]}`,
		`{"id":"g","type":"stack","children":[{"id":"a","type":"sorrel-field","props":{"label":"Name"},"children":[{"id":"ax","type":"sorrel-text-input"}]},{"id":"b","type":"sorrel-field","props":{"label":"Height:"},"children":[{"id":"bx","type":"sorrel-text-input"}]},{"id":"c","type":"sorrel-field","props":{"label":"Bed"},"children":[{"id":"cx","type":"sorrel-text-input"}]},{"id":"d","type":"sorrel-field","props":{"label":"Soil"},"children":[{"id":"dx","type":"sorrel-text-input"}]}]}`,
		`{"id":"g","type":"stack","children":[{"id":"a","type":"sorrel-field","props":{"label":"Name"},"children":[{"id":"ax","type":"sorrel-text-input"}]},{"id":"b","type":"sorrel-text-input","props":{"placeholder":"Height"}},{"id":"c","type":"sorrel-field","props":{"label":"Bed"},"children":[{"id":"cx","type":"sorrel-text-input"}]},{"id":"d","type":"sorrel-field","props":{"label":"Soil"},"children":[{"id":"dx","type":"sorrel-text-input"}]}]}`,
	},
	Good: []string{
		`{"id":"g","type":"stack","children":[{"id":"a","type":"sorrel-field","props":{"label":"Name"},"children":[{"id":"ax","type":"sorrel-text-input"}]},{"id":"b","type":"sorrel-field","props":{"label":"Height"},"children":[{"id":"bx","type":"sorrel-text-input"}]},{"id":"c","type":"sorrel-field","props":{"label":"Bed"},"children":[{"id":"cx","type":"sorrel-text-input"}]},{"id":"d","type":"sorrel-field","props":{"label":"Soil"},"children":[{"id":"dx","type":"sorrel-text-input"}]},{"id":"e","type":"sorrel-field","children":[{"id":"f","type":"sorrel-button","text":"Save","props":{"to":"/"}}]}]}`,
		`{"id":"g","type":"stack","children":[{"id":"a","type":"sorrel-field","props":{"label":"Name:"},"children":[{"id":"ax","type":"sorrel-text-input"}]},{"id":"b","type":"sorrel-field","props":{"label":"Height:"},"children":[{"id":"bx","type":"sorrel-text-input"}]},{"id":"c","type":"sorrel-field","props":{"label":"Bed:"},"children":[{"id":"cx","type":"sorrel-text-input"}]},{"id":"d","type":"sorrel-field","props":{"label":"Soil:"},"children":[{"id":"dx","type":"sorrel-text-input"}]}]}`,
		// The first and the last may be meant to stand out.
		`{"id":"g","type":"grid","children":[{"id":"a","type":"stack","props":{"gap":"5"}},{"id":"b","type":"stack","props":{"gap":"3"}},{"id":"c","type":"stack","props":{"gap":"3"}},{"id":"d","type":"stack","props":{"gap":"3"}}]}`,
		`{"id":"g","type":"grid","children":[{"id":"a","type":"stack","props":{"gap":"5"}},{"id":"b","type":"stack","props":{"gap":"3"}},{"id":"c","type":"stack","props":{"gap":"5"}},{"id":"d","type":"stack","props":{"gap":"3"}}]}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		if len(n.Children) < fewestInRow {
			return
		}
		// Neighbours of one kind stand side by side, in one slot.
		for from := 0; from < len(n.Children); {
			to := from + 1
			for to < len(n.Children) && n.Children[to].Type == n.Children[from].Type && n.Children[to].Slot == n.Children[from].Slot {
				to++
			}
			if to-from >= fewestInRow {
				oddOf(p, n, n.Children[from:to])
			}
			from = to
		}
		oddFields(p, n)
	},
})

func oddOf(p *audit.Pass, parent *audit.Node, row []*screen.Element) {
	def, ok := p.Cat.Component(row[0].Type)
	if !ok {
		return
	}
	for i := range def.Props {
		prop := &def.Props[i]
		if !rowLooks.MatchString(prop.Name) || len(row) < fewestMixed && !slices.Contains(commonLooks, prop.Name) {
			continue
		}
		values, odd := map[string]int{}, map[string]*screen.Element{}
		computed := false
		for _, e := range row {
			v, known := usage.Effective(e, prop.Name, prop.Default)
			computed = computed || !known || e.Repeat != nil
			values[v]++
			odd[v] = e
		}
		if computed || len(values) != 2 {
			continue
		}
		for v, count := range values {
			e := odd[v]
			if count != 1 || e == row[0] || e == row[len(row)-1] {
				continue
			}
			usual := ""
			for other := range values {
				if other != v {
					usual = other
				}
			}
			p.Report(&audit.Node{Element: e, Def: def, Parent: parent}, prop.Name,
				fmt.Sprintf("%s is %s here and %s on its %d neighbours", prop.Name, orDefault(v), orDefault(usual), len(row)-1),
				"As its neighbours", screen.SetTo(prop, e, usual))
		}
	}
}

// oddFields looks at the fields that stand beside each other, with others between or not: at what
// holds one control each.
func oddFields(p *audit.Pass, parent *audit.Node) {
	fields, bare := map[string][]*screen.Element{}, []*screen.Element{}
	held := map[string]bool{} // kinds of control that stand in fields
	for _, e := range parent.Children {
		def, ok := p.Cat.Component(e.Type)
		switch {
		case !ok || e.Repeat != nil:
		case def.Role == "control":
			if e.Text.Kind == screen.None {
				bare = append(bare, e)
			}
		default:
			if f, control := fieldIn(p, e); f != nil {
				fields[f.Type] = append(fields[f.Type], f)
				held[control.Type] = true
			}
		}
	}
	for _, typ := range slices.Sorted(maps.Keys(fields)) {
		list := fields[typ]
		def, _ := p.Cat.Component(typ)
		if len(list) >= fewestInRow-1 && len(bare) == 1 && held[bare[0].Type] && !def.Plain {
			inner, _ := p.Cat.Component(bare[0].Type)
			if label := inner.LabelBy(); label == nil || label.Name == "placeholder" || !sets(bare[0], label.Name) {
				p.Report(&audit.Node{Element: bare[0], Def: inner, Parent: parent}, "",
					fmt.Sprintf("%s stands by itself here; its %d neighbours each stand in their %s", inner.Title, len(list), def.Title), "")
			}
		}
		label := def.LabelBy()
		if label == nil || len(list) < fewestInRow {
			continue
		}
		var without, colon, plain []*screen.Element
		known := true
		for _, e := range list {
			switch v, ok := e.Prop(label.Name); {
			case ok && !v.Known():
			case ok && strings.HasSuffix(v.Text, ":"):
				colon = append(colon, e)
			case ok:
				plain = append(plain, e)
			case e.Spread || slices.ContainsFunc(e.Children, func(c *screen.Element) bool { return c.Slot == label.Name }):
				known = false
			default:
				without = append(without, e)
			}
		}
		one := func(e *screen.Element, message string) {
			p.Report(&audit.Node{Element: e, Def: def, Parent: parent}, label.Name, message, "")
		}
		if known && len(without) == 1 {
			one(without[0], fmt.Sprintf("it has no %s; its %d neighbours have one", label.Name, len(list)-1))
		}
		switch others := len(list) - len(without) - 1; {
		case len(colon) == 1 && len(plain) >= fewestInRow-1:
			one(colon[0], fmt.Sprintf("its %s ends with a colon; those of its %d neighbours do not", label.Name, others))
		case len(plain) == 1 && len(colon) >= fewestInRow-1:
			one(plain[0], fmt.Sprintf("its %s has no colon; those of its %d neighbours end with one", label.Name, others))
		}
	}
}

// fieldIn is what holds one control and nothing else, with that: an element, or what stands in it alone.
func fieldIn(p *audit.Pass, e *screen.Element) (field, control *screen.Element) {
	const deepest = 3 // a column of a grid, and the like
	for range deepest {
		var only *screen.Element
		for _, c := range e.Children {
			if c.Slot == "" {
				if only != nil {
					return nil, nil
				}
				only = c
			}
		}
		if only == nil {
			return nil, nil
		}
		if def, ok := p.Cat.Component(only.Type); ok && def.Role == "control" {
			return e, only
		}
		e = only
	}
	return nil, nil
}

// sets reports whether an element is set to something, by its prop or by more than is known.
func sets(e *screen.Element, prop string) bool {
	_, ok := e.Prop(prop)
	return ok || e.Spread
}
