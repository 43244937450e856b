package byhand

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/core/source"
)

func isClass(name string) bool { return name == "class" || name == "className" }

func classList(n *node) []string {
	for _, name := range []string{"class", "className"} {
		if a := n.attr(name); a != nil && a.Kind == text {
			return strings.Fields(a.Value.Value)
		}
	}
	return nil
}

// layout is what the classes of an element set on a layout, and those that set nothing.
func layout(n *node, def *kit.Component) (set map[string]screen.Value, strange []string) {
	set = map[string]screen.Value{}
	for _, name := range classList(n) {
		if name == "u-"+def.Tag {
			continue
		}
		rest, ok := strings.CutPrefix(name, "u-")
		rest, width, wide := strings.Cut(rest, "@")
		i := strings.LastIndexByte(rest, '-')
		if !ok || i < 0 {
			strange = append(strange, name)
			continue
		}
		base, value := rest[:i], rest[i+1:]
		p, ok := def.Prop(base)
		if !ok || wide && !p.Responsive {
			strange = append(strange, name)
			continue
		}
		full := base
		if wide {
			full += "@" + width
		}
		switch {
		case p.Type == kit.Bool:
			set[full] = screen.FlagValue(true)
		case p.Type == kit.Number:
			set[full] = screen.Value{Kind: screen.Num, Text: value}
		case p.Tokens != "" && !slices.Contains(p.Values, value):
			set[full] = screen.Value{Kind: screen.Token, Text: p.Tokens + "." + value}
		default:
			set[full] = screen.Lit(value)
		}
	}
	if p, ok := def.Prop("region"); ok && p.Takes(n.Name) {
		set["region"] = screen.Lit(n.Name)
	}
	return set, strange
}

// prop is the setting that an attribute is, or why it is none.
func prop(def *kit.Component, name string) (*kit.Prop, string) {
	bare := Named(strings.TrimLeft(name, ":[("))
	switch {
	case strings.HasPrefix(name, "@"), strings.HasPrefix(name, "("), strings.HasPrefix(name, "on"):
		for i := range def.Props { // a setting may be called so
			if Named(def.Props[i].Name) == bare {
				return &def.Props[i], ""
			}
		}
		return nil, "what happens at an event stands in own code, or is chosen in the screen"
	case name == "data-name", name == "ref":
		return nil, "names are given in the screen"
	case isClass(name) && def.Styled():
		name, bare = kit.ClassProp, kit.ClassProp
	case isClass(name), name == "style":
		return nil, "own styles stand in the file for them"
	}
	for i := range def.Props {
		p := &def.Props[i]
		if (def.Plain || p.Handed) && p.Name == kit.AttributeName(strings.Trim(name, ":[]")) {
			return p, ""
		}
		if p.Name != kit.Does && (Named(p.Name) == bare || p.Attr != "" && Named(p.Attr) == bare) {
			return p, ""
		}
	}
	return nil, def.Title + " has no such setting"
}

// valueOf is the value of an attribute as a screen has it, or why it has none. code is what it is
// computed by.
func valueOf(v *source.Value, code string, p *kit.Prop) (screen.Value, string) {
	switch v.Kind {
	case text, "number", "flag":
		switch {
		case p.Type == kit.Bool:
			if v.Kind == text && v.Value != "" && v.Value != "true" && v.Value != "false" {
				return screen.Value{}, fmt.Sprintf("%s is yes or no", p.Name)
			}
			return screen.FlagValue(v.Value != "false"), ""
		case p.Type == kit.Number:
			return screen.Value{Kind: screen.Num, Text: v.Value}, ""
		}
		return screen.Lit(v.Value), ""
	case "handler":
		return screen.Value{}, "what happens at an event stands in own code, or is chosen in the screen"
	}
	if inner, ok := strings.CutPrefix(code, "url("); ok && p.URL {
		code = strings.TrimSuffix(inner, ")")
	}
	if e, ok := expression(code); ok {
		return screen.Value{Kind: screen.Expr, Text: e}, ""
	}
	return screen.Value{}, "it is computed in a way that the screen cannot say"
}

var (
	ofRecord = regexp.MustCompile(`(^|[^\w.$'"])([A-Za-z_$][\w$]*)(\(\))?\??\.([A-Za-z_$])`)
	optional = regexp.MustCompile(`\?\.`)
)

// expression is a guess at what code says in the words of expressions; whether it is right is
// seen in the code that is made of it.
func expression(code string) (string, bool) {
	code = strings.TrimSpace(code)
	if code == "" || strings.Contains(code, "=>") {
		return "", code == ""
	}
	if inner, ok := strings.CutPrefix(code, "`"); ok && strings.HasSuffix(inner, "`") {
		return template(strings.TrimSuffix(inner, "`"))
	}
	out := ofRecord.ReplaceAllStringFunc(code, func(s string) string {
		m := ofRecord.FindStringSubmatch(s)
		switch m[2] {
		case "controls", "count", "pages", "route", "sources":
			return m[1] + m[2] + "." + m[4]
		}
		return m[1] + "record." + m[4]
	})
	out = optional.ReplaceAllString(out, ".")
	return strings.NewReplacer("===", "==", "!==", "!=").Replace(out), true
}

// template is a text with values in it.
func template(code string) (string, bool) {
	var parts []string
	for code != "" {
		words, rest, more := strings.Cut(code, "${")
		if words != "" {
			parts = append(parts, quoted(words))
		}
		if !more {
			break
		}
		inner, after, closed := strings.Cut(rest, "}")
		if !closed {
			return "", false
		}
		e, ok := expression(inner)
		if !ok {
			return "", false
		}
		parts = append(parts, e)
		code = after
	}
	return strings.Join(parts, " + "), len(parts) > 0
}

func quoted(s string) string {
	return "'" + strings.NewReplacer(`\`, `\\`, `'`, `\'`, "\n", `\n`).Replace(s) + "'"
}

// says is what the words of an element say.
func (r *reader) says(t *node) (v screen.Value, words string, ok bool) {
	var parts, plain []string
	literal := true
	behind := false
	for _, c := range t.kids {
		if !c.says() {
			behind = true
			continue
		}
		if behind { // a text stands before what stands in it
			return v, "", false
		}
		if c.Kind == text && c.Value.Kind == text {
			s := c.Value.Value
			plain, parts = append(plain, s), append(parts, quoted(s))
			continue
		}
		literal = false
		e, ok := expression(c.computed())
		if !ok {
			return v, "", false
		}
		parts = append(parts, e)
	}
	switch {
	case len(parts) == 0:
		return screen.Value{}, "taken away", true
	case literal:
		v = screen.Lit(strings.Join(plain, " "))
	default:
		v = screen.Value{Kind: screen.Expr, Text: strings.Join(parts, " + ")}
	}
	return v, shown(v), true
}

// typeOf is what an element of the code is in a screen; empty for nothing.
func (r *reader) typeOf(t *node) string {
	for _, name := range classList(t) {
		if typ, ok := strings.CutPrefix(name, "u-"); ok {
			if def, ok := r.k.Cat.Component(typ); ok && def.Level == kit.Layout && !def.Plain {
				return typ
			}
		}
	}
	if id, ok := r.k.Pieces[Named(strings.TrimPrefix(t.Name, "app-"))]; ok {
		return screen.PiecePrefix + id
	}
	local, of, _ := strings.Cut(t.Name, ".")
	name, from, imported := local, "", false
	for _, i := range r.f.Theirs.Module.Imports {
		if i.Local == local {
			name, from, imported = i.Name, i.From, true
		}
	}
	if of != "" {
		name += "." + of
	}
	for _, def := range r.k.Components {
		switch {
		case def.Export == "" && def.Tag == t.Name:
			return def.Tag
		case def.Export == "":
		case imported && def.Export == name && r.gives(def, from):
			return def.Tag
		case imported && def.Default && name == "default" && r.gives(def, from):
			return def.Tag
		case slices.ContainsFunc(kit.ParseSelector(def.Selector), func(s kit.Selector) bool {
			lacks := func(name string) bool { return t.attr(name) == nil }
			return len(s.Classes) == 0 && (s.Tag == "" || s.Tag == t.Name) && !slices.ContainsFunc(s.Attrs, lacks)
		}):
			return def.Tag
		}
	}
	return ""
}

// gives tells whether a component comes from a module.
func (r *reader) gives(def *kit.Component, module string) bool {
	if def.Module != "" {
		return def.Module == module
	}
	return r.k.Name == module
}

// slotOf is a slot of an element by its name, however a framework writes it.
func (r *reader) slotOf(parent, slot string) string {
	e, _ := r.root.Find(parent)
	if e == nil {
		return slot
	}
	if def, ok := r.k.Cat.Component(e.Type); ok {
		for _, s := range def.Slots {
			if Named(s.Name) == Named(slot) {
				return s.Name
			}
		}
	}
	return slot
}
