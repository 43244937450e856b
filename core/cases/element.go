package cases

import (
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

const (
	longestWords = 40 // longer texts are read, not decided
	mostSiblings = 12 // among more, no orders are told
)

const (
	fewestInSentence = 4 // words; fewer are a label
	longestJoin      = 3 // letters of words that join what stands around them: or, and
)

// decidedEnd reports whether the mark that a text ends with was decided: other questions are asked,
// a word with a dot is shortened, and in a text that goes on by itself the dots say so.
func decidedEnd(text, end string, prose bool) bool {
	switch end {
	case "?":
		return Sense(strings.TrimRight(text, "? ")) != 0
	case ".":
		return !prose || strings.Contains(text, " ")
	case "…", "...":
		return !prose
	}
	return true
}

// saidFreely are props whose words explain, and name nothing.
var saidFreely = map[string]bool{
	"help": true, "hint": true, "note": true, "placeholder": true, "message": true, "description": true, "summary": true,
}

// vague are ways of leading on that say nothing of what for.
var vague = map[string]bool{
	"leads top": true, "leads out": true, "leads :": true, "leads home": true, "does go": true, "does open": true, "leads here": true,
}

// element reads the cases of one element.
func (in *reading) element(use int32) {
	e, c := in.doc.Uses[use].Element, in.comps[use]
	if c.def == nil {
		return
	}
	if c.def.Plain {
		if c.level { // what it arranges has an order all the same
			full := &in.ctx[use]
			ctx := in.context(full)
			in.orders(use, c, full, ctx)
			in.spaces(use, e, c, full, ctx)
		}
		return
	}
	// All cases of an element have one context. What tells of the decision itself explains nothing,
	// and is left out when the case is judged.
	full := &in.ctx[use]
	ctx := in.context(full)
	in.props(use, e, c, full, ctx)
	in.words(use, e, c, full, ctx)
	in.fieldCases(use, e, c, full, ctx)
	in.orders(use, c, full, ctx)
	if c.acts && full[Does] != 0 && !vague[in.Text(full[Does])] {
		in.slotCase(use, full, ctx)
	}
	if by := c.tone; by != "" && !c.acts {
		v, ok := e.Prop(by)
		says := ""
		switch {
		case e.Text.Kind == screen.Literal:
			says = e.Text.Text
		case e.Text.Kind == screen.None && !c.def.TakesText():
			says = NameOf(c.def, e)
		}
		if word := strings.ToLower(strings.TrimSpace(says)); ok && v.Kind == screen.Literal && word != "" && len(strings.Fields(word)) <= 2 {
			in.add(Group{Kind: Tone, Comp: c.number, A: in.Word(word)}, in.Word(v.Text), ctx, use)
		}
	}
	in.parts(use, e, c, ctx)
	in.spaces(use, e, c, full, ctx)
}

// stepClass are classes for steps of space, as frameworks of utility classes write them: what has the space,
// and how much.
var stepClass = regexp.MustCompile(`^-?(gap-x|gap-y|space-x|space-y|gap|[pm][xytrblse]?|g[xy]?)-(\d+(\.\d+)?|px|\[[^\]]*\])$`)

// spaces are the steps of space that an element of code has by its classes: a component for itself, a plain
// one that arranges for the component that it stands right in.
func (in *reading) spaces(use int32, e *screen.Element, c *component, full *Context, ctx int32) {
	if in.doc.Source == "" || e.Origin == nil || e.Origin.Look == "" {
		return
	}
	g := Group{Kind: Space, Comp: c.number}
	if c.def.Plain {
		up := in.doc.Uses[use].Up
		if up < 0 || in.comps[up].def == nil || in.comps[up].def.Plain || in.comps[up].level || in.comps[up].def.Level == kit.Piece {
			return // further in, and on a page, there is all sorts
		}
		g.Comp, g.B = full[Place], in.Word("place")
	}
	had := map[string]bool{}
	for _, class := range strings.Fields(e.Origin.Look) {
		m := stepClass.FindStringSubmatch(class)
		if m == nil || had[m[1]] {
			continue
		}
		had[m[1]] = true
		g.A = in.Word(m[1])
		in.add(g, in.Word(class), ctx, use)
	}
}

// slotCase tells in which slot of the component around it an action stands.
func (in *reading) slotCase(use int32, full *Context, ctx int32) {
	place, slot, _ := strings.Cut(in.Text(full[Place]), ".")
	if place == "page" || place == "" {
		return
	}
	in.add(Group{Kind: Slot, Comp: in.Word(place), A: full[Does]}, in.Word(slot), ctx, use)
}

// props are choices, looks and steps.
func (in *reading) props(use int32, e *screen.Element, c *component, full *Context, ctx int32) {
	for i := range c.tracked {
		t := &c.tracked[i]
		value, ok := usage.Effective(e, t.name, t.def)
		if !ok {
			continue
		}
		v := t.defN
		if value != t.def {
			v = in.Word(value)
		}
		group := t.group
		if slices.Contains(t.looks, value) {
			group = t.heads
		}
		in.out = append(in.out, Case{group, v, ctx, use})
		if p, ok := c.def.Prop(t.name); ok && p.Icon && value != "" && full[Says] != 0 {
			// One icon for two meanings shows from the icon's side.
			in.add(Group{Kind: Meaning, Comp: c.number, A: v}, full[Says], ctx, use)
		}
	}
}

// words are the texts that people read.
func (in *reading) words(use int32, e *screen.Element, c *component, full *Context, ctx int32) {
	to := ""
	if v, ok := e.Prop(c.leads); ok {
		to = Address(v)
	}
	text := func(prop *spokenProp, v screen.Value) {
		t := strings.TrimSpace(v.Text)
		if v.Kind != screen.Literal || t == "" || strings.ContainsAny(t, "\n") {
			return
		}
		p := prop.number
		if end := endOf(t); decidedEnd(t, end, c.prose) {
			group := prop.end
			if prop.sentence != 0 && len(strings.Fields(t)) >= fewestInSentence {
				group = prop.sentence
			}
			in.out = append(in.out, Case{group, in.Word(end), ctx, use})
		}
		if len(t) > longestWords || prop.freely {
			return
		}
		if s := StyleOf(t); s != "" && (s != "small" || !c.prose || len([]rune(strings.TrimRight(t, ".:"))) > longestJoin) {
			in.out = append(in.out, Case{prop.style, in.Word(s), ctx, use})
		}
		if full[Field] != 0 && !c.acts {
			g := Group{Kind: Label, Comp: c.number, A: p, B: full[Field]}
			in.add(g, in.Word(strings.ToLower(strings.TrimRight(t, ":*. "))), ctx, use)
			return
		}
		pattern, _ := in.pattern(t, to)
		action := c.acts
		does := int32(0)
		if action {
			// Words compare where something tells what is done.
			if does = full[Does]; does == 0 || vague[in.Text(does)] {
				return
			}
			if first, _, more := strings.Cut(pattern, " "); more && in.Text(does) == "leads new" && Sense(first) != 0 {
				pattern = first + " " + Open // a thing that no model tells of
			}
		}
		in.add(Group{Kind: Words, Comp: c.number, A: p, B: does}, in.Word(pattern), ctx, use)
	}
	for i := range c.texts {
		p := &c.texts[i]
		if p.name == "text" && c.def.TakesText() {
			text(p, e.Text)
		} else if v, ok := e.Prop(p.name); ok {
			text(p, v)
		}
	}
}

// fieldCases are what is decided about one field of a record: what takes it, what shows it, how
// it is written, whether it must be there.
func (in *reading) fieldCases(use int32, e *screen.Element, c *component, full *Context, ctx int32) {
	if full[Field] == 0 {
		return
	}
	about := full[Field]
	typ := full[Type]
	if typ != 0 {
		about = in.pair(in.Word("type"), typ)
	}
	control := c.control
	if control {
		value := c.number
		if full[Says] != 0 {
			value = in.pair(value, full[Says])
		}
		in.add(Group{Kind: Control, A: about}, value, ctx, use)
	}
	if by := c.def.RequiredBy(); by != nil && (!control || full[Parent] == 0 || c.def.LabelledBy == "") {
		if v, set := e.Prop(by.Name); v.Known() && (set || !e.Spread) {
			value := in.Word("false")
			if v.Text == "true" {
				value = in.Word("true")
			}
			asked := full[Field]
			if f := in.field(in.Text(full[Field])); f != nil {
				asked = in.Word(map[bool]string{true: "(required)", false: "(optional)"}[f.Required])
			}
			in.add(Group{Kind: Required, Comp: c.number, A: asked}, value, ctx, use)
		}
	}
	if control {
		return
	}
	field := in.Text(full[Field])
	if _, expr := Written(c.def, e, field); expr != "" {
		if format := formatOf(expr, field); format != "" {
			in.add(Group{Kind: Format, A: about}, in.Word(format), ctx, use)
		}
	}
	if e.Text.Kind == screen.Expr && fieldIn(e.Text.Text) == field && c.def.Heading == nil && c.def.Level != kit.Composite {
		in.add(Group{Kind: Shows, A: about}, c.number, ctx, use)
	}
}

func (in *reading) field(name string) *sample.Field {
	if in.model == nil {
		return nil
	}
	f, _ := in.model.Field(name)
	return f
}

// orders tell which of two comes first among siblings that can be named.
func (in *reading) orders(use int32, c *component, full *Context, ctx int32) {
	kids := in.kids[use]
	if len(kids) < 2 {
		return
	}
	type named struct{ key, use int32 }
	slots := map[string][]named{}
	for _, k := range kids {
		if in.doc.Uses[k].Element.Slot == "" && c.level && full[Place] == 0 {
			continue
		}
		if key := in.siblingKey(k); key != 0 {
			slot := in.doc.Uses[k].Element.Slot
			slots[slot] = append(slots[slot], named{key, k})
		}
	}
	for slot, list := range slots {
		if len(list) < 2 || len(list) > mostSiblings {
			continue
		}
		parent := in.pair(c.number, in.Word(slot))
		if c.level {
			parent = full[Place]
		}
		for i, a := range list {
			for _, b := range list[i+1:] {
				if a.key == b.key {
					continue
				}
				x, y := a.key, b.key
				value := in.Word("first")
				if in.Text(x) > in.Text(y) {
					x, y, value = y, x, in.Word("second")
				}
				g := Group{Kind: Order, Comp: parent, A: x, B: y}
				if in.model != nil && strings.HasPrefix(in.Text(x), "field.") && strings.HasPrefix(in.Text(y), "field.") {
					g.Kind, g.Comp = Fields, in.Word(in.model.ID)
				} else if !in.comps[in.within(a.use)].acts {
					// Heads and names have an order within one thing.
					if g.Kind, g.Comp = Fields, in.Word(in.doc.App+" "+thing(in.doc.Route)); in.comps[in.within(a.use)].def.Level == kit.Composite {
						g.Kind, g.Comp = Order, parent
					}
				}
				in.add(g, value, ctx, b.use)
			}
		}
	}
}

// within is the action that an element holds and nothing else, as what closes a dialog holds the
// button for it; else the element itself.
func (in *reading) within(use int32) int32 {
	for inner := use; !in.comps[inner].acts && len(in.kids[inner]) == 1 && in.doc.Uses[inner].Element.Text.Kind == screen.None; {
		if inner = in.kids[inner][0]; in.comps[inner].acts {
			return inner
		}
	}
	return use
}

// siblingKey names an element among its siblings over the screens: what it does or says, the
// field it is about, or its kind.
func (in *reading) siblingKey(use int32) int32 {
	use = in.within(use)
	c, x := in.comps[use], &in.ctx[use]
	if c.def == nil {
		return 0
	}
	if c.acts {
		if x[Does] != 0 && !vague[in.Text(x[Does])] {
			return x[Does]
		}
		if name := NameOf(c.def, in.doc.Uses[use].Element); name != "" && len(name) <= longestWords {
			pattern, _ := in.pattern(name, "")
			return in.Word("says " + pattern)
		}
		return 0
	}
	if x[Field] != 0 {
		return in.pair(in.Word("field"), x[Field])
	}
	if c.level {
		return 0
	}
	if len(c.def.Parents) > 0 {
		if name := NameOf(c.def, in.doc.Uses[use].Element); name != "" && len(name) <= longestWords {
			return in.Word("says " + strings.ToLower(name))
		}
		return 0
	}
	return c.number
}

// Filled is the part of what has something in its main slot, whatever it is.
const Filled = "filled"

// parts are what an element has in it, and which of its texts are set.
func (in *reading) parts(use int32, e *screen.Element, c *component, ctx int32) {
	// What more a part of the team's is set to is not known; what is put in it is.
	if e.Spread && c.def.Level != kit.Piece || c.level || len(c.def.Slots) == 0 && len(c.texts) == 0 {
		return
	}
	var keys []string
	for i := range c.texts {
		p := &c.texts[i]
		if v, ok := e.Prop(p.name); ok && !p.required && (!v.Known() || v.Text != "") {
			keys = append(keys, "="+p.name)
		}
	}
	if c.def.TakesText() && c.def.Level == kit.Composite && e.Text.Kind != screen.None {
		keys = append(keys, "=text")
	}
	loose := 0 // what stands in its main slot
	for _, k := range in.kids[use] {
		if in.doc.Uses[k].Element.Slot == "" {
			loose++
		}
	}
	if loose > 0 {
		keys = append(keys, Filled)
	}
	var visit func(use int32, slot string)
	visit = func(at int32, slot string) {
		for _, k := range in.kids[at] {
			kc := in.comps[k]
			s := slot
			if at == use {
				s = in.doc.Uses[k].Element.Slot
			}
			if kc.level {
				visit(k, s)
				continue
			}
			if kc.def == nil || kc.def.Plain || len(kc.def.Parents) > 0 || kc.control {
				continue
			}
			key := "+" + s + ":" + in.doc.Uses[k].Element.Type
			if kc.acts && kc.def.Role != "link" {
				if name := in.siblingKey(k); name != 0 {
					key += ":" + in.Text(name)
				}
			}
			keys = append(keys, key)
		}
	}
	visit(use, "")
	in.addParts(c.number, keys, ctx, use)
}

func (in *reading) addParts(comp int32, keys []string, ctx, use int32) {
	slices.Sort(keys)
	set := in.Word(strings.Join(slices.Compact(keys), "\n"))
	in.add(Group{Kind: Whole, Comp: comp}, set, ctx, use)
}

// WholeScreen stands for a component where parts of a whole screen are meant.
const WholeScreen = "(screen)"

// screenParts are the components that a screen has at all, and its states.
func (in *reading) screenParts() {
	if in.doc.Kind != screen.ScreenDoc {
		return
	}
	seen := map[string]bool{}
	for i := range in.doc.Uses {
		// What stands only in another part is that part's matter.
		if c := in.comps[i]; c.def != nil && !c.level && !c.def.Plain && len(c.def.Parents) == 0 && in.Text(in.ctx[i][Place]) == "page" {
			seen["+:"+in.doc.Uses[i].Element.Type] = true
		}
	}
	if len(seen) == 0 && in.doc.Source != "" {
		return // it only sends one on, or is made of nothing that is counted here
	}
	for _, s := range in.doc.States {
		seen["state:"+s.Name] = true
	}
	keys := make([]string, 0, len(seen))
	for k := range seen {
		keys = append(keys, k)
	}
	whole := in.base
	whole[Place] = in.Word("page")
	in.addParts(in.Word(WholeScreen), keys, in.context(&whole), 0)
}
