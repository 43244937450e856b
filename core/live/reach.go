package live

import (
	"slices"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// Reach is what a change of tokens shows on.
type Reach struct {
	Tokens     []string     `json:"tokens"` // those given, and those whose value depends on them
	Components []ReachedTag `json:"components"`
	Docs       []ReachedDoc `json:"docs"` // most elements first
	Elements   int          `json:"elements"`
}

// ReachedTag is a component whose own look depends on the tokens, with its uses.
type ReachedTag struct {
	Tag     string `json:"tag"`
	Title   string `json:"title"`
	Uses    int    `json:"uses"`
	Screens int    `json:"screens"`
}

// ReachedDoc is a document with elements that the tokens reach.
type ReachedDoc struct {
	Doc      string   `json:"doc"`
	Title    string   `json:"title"`
	Elements []string `json:"elements"` // their ids, in the order they stand
}

// Reach tells which components and which elements on which screens a change of
// the tokens at paths shows on: through the styles of a component, through those of
// components inside it, and through elements set to a step of a scale.
func (l *Live) Reach(paths ...string) Reach {
	out := Reach{Tokens: l.Kit.Tokens.Reached(paths...), Components: []ReachedTag{}, Docs: []ReachedDoc{}}
	names, steps := map[string]bool{}, map[string]bool{}
	for _, p := range out.Tokens {
		steps[p] = true
		if tok, ok := l.Kit.Tokens.Find(p); ok {
			names[tok.CSS] = true
		}
	}
	styled := l.styledBy(names)
	for _, c := range l.Kit.Components {
		if styled[c.Tag] {
			n := l.Index.CountOf(c.Tag)
			out.Components = append(out.Components, ReachedTag{c.Tag, c.Title, n.Uses, n.Screens})
		}
	}
	slices.SortStableFunc(out.Components, func(a, b ReachedTag) int { return b.Uses - a.Uses })
	for _, d := range l.Index.Docs() {
		if d.Removed {
			continue
		}
		var elements []string
		for i := range d.Uses {
			el := d.Uses[i].Element
			if styled[el.Type] || l.steppedBy(el, steps) {
				elements = append(elements, el.ID)
			}
		}
		if len(elements) > 0 {
			out.Docs = append(out.Docs, ReachedDoc{usage.DocKey(d.Document), d.Title, elements})
			out.Elements += len(elements)
		}
	}
	slices.SortStableFunc(out.Docs, func(a, b ReachedDoc) int { return len(b.Elements) - len(a.Elements) })
	return out
}

// styledBy lists the components whose styles, or those of components inside them,
// speak of a custom property.
func (l *Live) styledBy(names map[string]bool) map[string]bool {
	out := map[string]bool{}
	speaks := func(c *kit.Component) bool {
		return slices.ContainsFunc(c.Tokens, func(n string) bool { return names[n] }) ||
			slices.ContainsFunc(c.Inside, func(tag string) bool { return out[tag] })
	}
	for grown := true; grown; {
		grown = false
		for _, c := range l.Kit.Components {
			if !out[c.Tag] && speaks(c) {
				out[c.Tag], grown = true, true
			}
		}
	}
	return out
}

// steppedBy reports whether an element stands at a step of a scale, set or by default.
func (l *Live) steppedBy(el *screen.Element, steps map[string]bool) bool {
	def, ok := l.Cat.Component(el.Type)
	if !ok {
		return false
	}
	for i := range def.Props {
		p := &def.Props[i]
		if p.Tokens == "" {
			continue
		}
		if v, set := el.Prop(p.Name); set && steps[p.Tokens+"."+v.Text] ||
			!set && p.Default != "" && steps[p.Tokens+"."+p.Default] {
			return true
		}
		for _, w := range kit.Breakpoints {
			if v, set := el.Prop(p.Name + "@" + w); p.Responsive && set && steps[p.Tokens+"."+v.Text] {
				return true
			}
		}
	}
	return slices.ContainsFunc(
		el.Props,
		func(p screen.Prop) bool { return p.Value.Kind == screen.Token && steps[p.Value.Text] },
	)
}
