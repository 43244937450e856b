package describe

import (
	"maps"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/kit"
)

// reference names a declaration of a module of the manifest.
type reference struct{ name, module, pkg string }

// Manifest reads a Custom Elements Manifest. Superclasses and mixins are followed across
// its modules; attributes are taken as they are written, beside members or with them.
// Older forms are read as well: a list "tags" of the experimental schema or of editors'
// custom data, and lists "components" that builders print. where names the file.
func (c *Catalog) Manifest(src []byte, where string) error {
	doc, err := document(src)
	if err != nil {
		return err
	}
	switch {
	case doc.get("modules").is():
		c.modules(doc, where)
	case doc.get("tags").is():
		c.tags(doc.list("tags"), where)
	case doc.get("components").is():
		c.tags(doc.list("components"), where)
	default:
		c.left(where, "it has no modules, tags or components; accepted: a Custom Elements Manifest")
	}
	return nil
}

// declared is a class, mixin or function of a manifest while it is read.
type declared struct {
	node
	module string
	entry  Entry
	done   bool
}

func (c *Catalog) modules(doc node, where string) {
	byRef := map[reference]*declared{}
	byName := map[string][]*declared{}
	var order []*declared
	type definition struct {
		tag  string
		of   reference
		at   string
		file string
	}
	var defines []definition
	for _, m := range doc.list("modules") {
		file := m.str("path")
		for _, d := range m.list("declarations") {
			name := d.str("name")
			x := &declared{node: d, module: file}
			order = append(order, x)
			if name != "" {
				byRef[reference{name: name, module: trimModule(file)}] = x
				byName[name] = append(byName[name], x)
			}
		}
		for _, e := range m.list("exports") {
			if e.str("kind") != "custom-element-definition" {
				continue
			}
			to := e.get("declaration")
			module := to.str("module")
			if module == "" {
				module = file
			}
			defines = append(defines, definition{e.str("name"), reference{name: to.str("name"), module: trimModule(module)}, e.at, file})
		}
	}
	unknown := map[string]int{}
	find := func(r reference) (*declared, bool) {
		if x, ok := byRef[reference{name: r.name, module: trimModule(r.module)}]; ok {
			return x, true
		}
		if list := byName[r.name]; len(list) == 1 { // paths are written in many ways; a name that is there once is enough
			return list[0], true
		}
		return nil, false
	}
	var fill func(x *declared, depth int)
	fill = func(x *declared, depth int) {
		if x.done {
			return
		}
		x.done = true // cycles end here
		x.entry = c.declaration(x.node, where)
		if depth > 32 {
			c.left(where+"#"+x.at, "its parents are more than 32 deep; the rest is left out")
			return
		}
		above := append([]node{}, x.list("mixins")...)
		if s := x.get("superclass"); s.is() {
			above = append(above, s)
		}
		for _, s := range above {
			ref := reference{name: s.str("name"), module: s.str("module"), pkg: s.str("package")}
			if ref.name == "" {
				continue
			}
			if ref.module == "" {
				ref.module = x.module
			}
			parent, ok := find(ref)
			if !ok {
				if ref.pkg == "" && !baseClasses[ref.name] && !strings.HasPrefix(ref.module, "global:") {
					unknown[ref.name]++
				}
				continue
			}
			fill(parent, depth+1)
			x.entry.inherit(&parent.entry)
		}
	}
	taken := map[string]bool{}
	take := func(x *declared, tag, at string) {
		if !tagName.MatchString(tag) {
			c.left(where+"#"+at, "%q cannot be a tag; accepted: a lower-case name with a dash", tag)
			return
		}
		if taken[tag] {
			return // declared, and exported under the same tag
		}
		taken[tag] = true
		fill(x, 0)
		e := x.entry.clone()
		e.ID, e.Tag, e.Module, e.From = tag, tag, x.module, FromManifest
		e.Class = x.str("name")
		c.Entries = append(c.Entries, e)
	}
	for _, x := range order {
		if tag := x.str("tagName"); tag != "" {
			if _, again := c.Find(tag); again {
				c.left(where+"#"+x.at, "the tag %s is declared again; the first one counts", tag)
				continue
			}
			take(x, tag, x.at)
		}
	}
	for _, d := range defines {
		if e, ok := c.Find(d.tag); ok && d.file != "" {
			e.Module = d.file // what registers it, not what declares its class
		}
		if d.tag == "" || taken[d.tag] {
			continue
		}
		x, ok := find(d.of)
		if !ok {
			c.left(where+"#"+d.at, "<%s> is defined as %s, which the manifest does not describe", d.tag, d.of.name)
			x = &declared{node: node{v: map[string]any{"name": d.of.name}, at: d.at}, module: d.of.module}
		}
		take(x, d.tag, d.at)
		if e, ok := c.Find(d.tag); ok && d.file != "" {
			e.Module = d.file
		}
	}
	for _, name := range slices.Sorted(maps.Keys(unknown)) {
		c.left(where, "%d classes build on %s, which the manifest does not describe: what they take from it is not known from here", unknown[name], name)
	}
}

// baseClasses are the browser's and the common bases', which say nothing of a component.
var baseClasses = map[string]bool{"HTMLElement": true, "LitElement": true, "ReactiveElement": true, "FASTElement": true, "Element": true, "EventTarget": true, "Object": true}

func trimModule(file string) string {
	file = strings.TrimPrefix(path.Clean("/"+file), "/")
	for _, ext := range []string{".d.ts", ".ts", ".tsx", ".js", ".mjs", ".jsx"} {
		if s, ok := strings.CutSuffix(file, ext); ok {
			return s
		}
	}
	return file
}

func (e *Entry) clone() Entry {
	out := *e
	out.Props, out.Slots, out.Events = slices.Clone(e.Props), slices.Clone(e.Slots), slices.Clone(e.Events)
	out.Parts, out.CSS = slices.Clone(e.Parts), slices.Clone(e.CSS)
	if out.Props == nil {
		out.Props = []Prop{}
	}
	if out.Slots == nil {
		out.Slots = []Slot{}
	}
	return out
}

// inherit takes over what a parent has and the entry does not say itself. What both say
// in part is put together.
func (e *Entry) inherit(from *Entry) {
	for _, p := range from.Props {
		own, ok := e.Prop(p.Name)
		if !ok {
			e.Props = append(e.Props, p)
			continue
		}
		own.fillFrom(&p)
	}
	e.Slots = with(e.Slots, from.Slots)
	e.Events = with(e.Events, from.Events)
	e.Parts = with(e.Parts, from.Parts)
	e.CSS = with(e.CSS, from.CSS)
}

// with adds to a list what it does not name yet, and sentences that it lacks.
func with(list, more []Slot) []Slot {
	for _, s := range more {
		i := slices.IndexFunc(list, func(o Slot) bool { return o.Name == s.Name })
		if i < 0 {
			list = append(list, s)
			continue
		}
		if list[i].Summary == "" {
			list[i].Summary = s.Summary
		}
		if list[i].Default == "" {
			list[i].Default = s.Default
		}
	}
	return list
}

// fillFrom takes from another statement of the same prop what this one lacks.
func (p *Prop) fillFrom(o *Prop) {
	if p.Summary == "" {
		p.Summary = o.Summary
	}
	if p.Default == "" {
		p.Default = o.Default
	}
	if p.Deprecated == "" {
		p.Deprecated = o.Deprecated
	}
	if p.Attr == "" {
		p.Attr = o.Attr
	}
	if vague(p) && !vague(o) {
		p.Type, p.Values, p.Open, p.Numbers, p.Shape = o.Type, o.Values, o.Open, o.Numbers, o.Shape
		p.From = o.From
	}
}

// vague tells of a prop whose type says nothing: a text that was declared as something
// else, or as nothing.
func vague(p *Prop) bool {
	return p.Type == "" || p.Type == "text" && p.Shape != "string" || p.Type == "data"
}

func (c *Catalog) declaration(d node, where string) Entry {
	e := Entry{Summary: d.str("summary", "description"), Deprecated: d.deprecated(), Props: []Prop{}, Slots: []Slot{}}
	// Attributes that stand apart from members tell which fields have one.
	byField := map[string]node{}
	attrs := d.list("attributes")
	for _, a := range attrs {
		field := a.str("fieldName")
		if field == "" {
			field = camel(a.str("name"))
		}
		byField[field] = a
	}
	seen := map[string]bool{}
	for _, m := range d.list("members") {
		kind, name := m.str("kind"), m.str("name")
		if kind != "field" && kind != "" || name == "" {
			continue
		}
		if m.yes("static") || m.yes("readonly") || strings.ContainsAny(name[:1], "_#") {
			continue
		}
		if p := m.str("privacy"); p == "private" || p == "protected" {
			continue
		}
		p := Prop{Name: name, From: FromManifest}
		attr, apart := byField[name]
		seen[name] = true
		switch a := m.get("attribute").v.(type) {
		case string:
			p.Attr = a
		case bool:
			if a {
				p.Attr = strings.ToLower(name)
			}
		default:
			if apart {
				p.Attr = attr.str("name")
			} else if m.get("attribute").is() || m.yes("reflects") {
				p.Attr = strings.ToLower(name)
			}
		}
		if p.Attr == "" && m.str("description", "summary") == "" {
			continue // a field nobody wrote a word about is the component's own affair
		}
		c.described(&p, m, where)
		if apart {
			of := Prop{From: FromManifest}
			c.described(&of, attr, where)
			p.fillFrom(&of)
		}
		e.add(c, p, where+"#"+m.at)
	}
	for _, a := range attrs {
		field, name := a.str("fieldName"), a.str("name")
		if field == "" {
			field = camel(name)
		}
		if name == "" || seen[field] {
			continue
		}
		p := Prop{Name: field, Attr: name, From: FromManifest}
		c.described(&p, a, where)
		e.add(c, p, where+"#"+a.at)
	}
	e.Slots = named(d.list("slots"), FromManifest, func(n string) string {
		if n == "default" || n == "(default)" || n == "-" {
			return ""
		}
		return n
	})
	e.Events = named(d.list("events"), FromManifest, nil)
	e.Parts = named(d.list("cssParts", "cssparts", "parts"), FromManifest, nil)
	e.CSS = named(d.list("cssProperties", "cssproperties", "styles"), FromManifest, nil)
	for _, n := range d.list("inside") { // not of the standard: an analyzer can add it
		e.Inside = append(e.Inside, n.text())
	}
	return e
}

// add takes a prop, or says why not.
func (e *Entry) add(c *Catalog, p Prop, where string) {
	switch {
	case !propName.MatchString(p.Name):
		c.left(where, "%q cannot be a prop", p.Name)
		return
	case never(p.Name) || p.Attr != "" && never(p.Attr):
		c.left(where, "the prop %s is left out: it could run or replace something", p.Name)
		return
	case p.Attr != "" && !attrName.MatchString(p.Attr):
		c.left(where, "%q cannot be an attribute", p.Attr)
		return
	case strings.HasPrefix(strings.ToLower(p.Attr), "on") && nativeHandler[strings.ToLower(p.Attr)]:
		c.left(where, "the attribute %s runs its text as code", p.Attr)
		return
	case len(e.Props) >= MaxProps:
		c.left(where, "more than %d props; %s is left out", MaxProps, p.Name)
		return
	}
	if old, ok := e.Prop(p.Name); ok {
		old.fillFrom(&p)
		return
	}
	e.Props = append(e.Props, p)
}

var notLower = regexp.MustCompile(`-([a-z0-9])`)

// camel is the property by the name of an attribute: "help-text" is "helpText".
func camel(attr string) string {
	return notLower.ReplaceAllStringFunc(attr, func(s string) string { return strings.ToUpper(s[1:]) })
}

// named reads a list of things with a name and a sentence.
func named(list []node, from string, rename func(string) string) []Slot {
	out := []Slot{}
	for _, n := range list {
		s := Slot{Name: n.str("name"), Summary: n.str("description", "docs", "summary"), Default: n.str("default"), From: from}
		if rename != nil {
			s.Name = rename(s.Name)
		}
		if s.Name == "" && rename == nil || slices.ContainsFunc(out, func(o Slot) bool { return o.Name == s.Name }) {
			continue
		}
		out = append(out, s)
	}
	return out
}

// described fills a prop with what a member or an attribute says of it.
func (c *Catalog) described(p *Prop, n node, where string) {
	p.Summary = n.str("description", "summary", "docs")
	p.Deprecated = n.deprecated()
	p.Required = n.yes("required")
	text := ""
	// What analyzers resolve of an alias stands beside the type as written.
	for _, key := range []string{"parsedType", "expandedType", "resolvedType", "inferredType", "type", "complexType"} {
		t := n.get(key)
		if s := t.text(); s != "" {
			text = s
		} else if s := t.str("text", "resolved", "original"); s != "" {
			text = s
		}
		if text != "" {
			break
		}
	}
	p.typed(text)
	var values []string
	for _, v := range n.list("values") {
		if s := v.str("name", "value"); s != "" {
			values = append(values, s)
		} else if s := v.text(); s != "" {
			values = append(values, s)
		}
	}
	if len(values) > 1 && len(values) <= MaxValues && vague(p) {
		p.Type, p.Values = "choice", values
	}
	if d := n.get("default"); d.is() {
		switch v := d.v.(type) {
		case string:
			p.Default = plainDefault(v)
		case bool:
			p.Default = strconv.FormatBool(v)
		}
	}
	p.settleDefault()
}

// settleDefault drops a default that is no value of the prop: computed ones, "undefined".
func (p *Prop) settleDefault() {
	switch p.Type {
	case "yes/no":
		if p.Default != "true" && p.Default != "false" {
			p.Default = ""
		}
	case "choice":
		if !p.Open && !slices.Contains(p.Values, p.Default) {
			p.Default = ""
		}
	case "number":
		if !number.MatchString(p.Default) {
			p.Default = ""
		}
	}
}

var number = regexp.MustCompile(`^-?\d+(\.\d+)?$`)

// typed reads a TypeScript type text into the prop.
func (p *Prop) typed(text string) {
	text = strings.TrimSpace(text)
	t, values, optional := kit.ParseType(text)
	p.Shape = ""
	switch {
	case t == kit.Enum && len(values) > MaxValues:
		p.Type, p.Shape = "text", clip(text, 200)
	case t == kit.Enum && len(values) == 1 && (values[0] == "" || values[0] == "true"):
		p.Type = "yes/no" // "" | undefined: an attribute that is there or not
	case t == kit.Enum:
		p.Type, p.Values, p.Numbers = "choice", values, allNumbers(values) && !strings.ContainsAny(text, `'"`)
	case t == kit.Bool:
		p.Type = "yes/no"
	case t == kit.Number:
		p.Type = "number"
	default:
		p.Type = "text"
		switch known, loose := looseUnion(text); {
		case len(known) > 1 && len(known) <= MaxValues && loose:
			p.Type, p.Values, p.Open = "choice", known, true
		case structured.MatchString(text):
			p.Type = "data"
		}
		p.Shape = clip(text, 200)
	}
	if optional {
		p.Required = false
	}
}

// structured tells a type text that a text cannot stand for.
var structured = regexp.MustCompile(`\[\]|\bArray<|\bRecord<|\bMap<|\bSet<|^\{|=>|^object$|\bDate\b|\bHTMLElement\b|\bFile\b`)

func allNumbers(values []string) bool {
	return !slices.ContainsFunc(values, func(v string) bool { return !number.MatchString(v) })
}

// looseUnion reads "'a' | 'b' | string": values that are named, and any other.
func looseUnion(text string) (values []string, loose bool) {
	depth := 0
	start := 0
	parts := []string{}
	for i, r := range text {
		switch r {
		case '(', '<', '{', '[':
			depth++
		case ')', '>', '}', ']':
			depth--
		case '|':
			if depth == 0 {
				parts = append(parts, text[start:i])
				start = i + 1
			}
		}
	}
	for _, p := range append(parts, text[start:]) {
		p = strings.TrimSpace(p)
		switch {
		case p == "string" || p == "(string & {})" || p == "string & {}" || p == "(string & Record<never, never>)":
			loose = true
		case p == "undefined" || p == "null" || p == "":
		case len(p) >= 2 && (p[0] == '\'' || p[0] == '"') && p[len(p)-1] == p[0]:
			values = append(values, p[1:len(p)-1])
		default:
			return nil, false
		}
	}
	return values, loose
}

// plainDefault is a default as the text it stands for; what is computed is none.
func plainDefault(s string) string {
	s = strings.TrimSpace(s)
	if len(s) >= 2 && strings.ContainsRune("'\"`", rune(s[0])) && s[len(s)-1] == s[0] {
		return clip(s[1:len(s)-1], 200)
	}
	switch {
	case s == "undefined" || s == "null" || s == "''":
		return ""
	case s == "true" || s == "false" || number.MatchString(s):
		return s
	case strings.ContainsAny(s, "(){}[]=>") || strings.Contains(s, "this."):
		return ""
	}
	return clip(s, 200)
}

// tags reads older lists: the experimental schema, editors' custom data, and what
// builders print of their components.
func (c *Catalog) tags(list []node, where string) {
	for _, t := range list {
		tag := t.str("tag", "name", "tagName")
		if !tagName.MatchString(tag) {
			c.left(where+"#"+t.at, "%q cannot be a tag; accepted: a lower-case name with a dash", clip(tag, 60))
			continue
		}
		if _, again := c.Find(tag); again {
			c.left(where+"#"+t.at, "the tag %s is declared again; the first one counts", tag)
			continue
		}
		e := Entry{
			ID: tag, Tag: tag, Module: t.str("path", "filePath"), From: FromManifest,
			Summary: described(t), Deprecated: t.deprecated(), Props: []Prop{}, Slots: []Slot{},
		}
		for _, key := range []string{"properties", "props"} {
			for _, n := range t.list(key) {
				p := Prop{Name: n.str("name"), Attr: n.str("attribute", "attr"), From: FromManifest}
				if p.Name == "" {
					continue
				}
				c.described(&p, n, where)
				e.add(c, p, where+"#"+n.at)
			}
		}
		for _, n := range t.list("attributes") {
			p := Prop{Name: camel(n.str("name")), Attr: n.str("name"), From: FromManifest}
			if p.Name == "" {
				continue
			}
			c.described(&p, n, where)
			p.Summary = described(n)
			e.add(c, p, where+"#"+n.at)
		}
		// Properties of the older form often stand beside an attribute of the same name.
		e.Slots = named(t.list("slots"), FromManifest, func(n string) string { return n })
		e.Events = named(t.list("events"), FromManifest, nil)
		e.Parts = named(t.list("cssParts", "parts"), FromManifest, nil)
		e.CSS = named(t.list("cssProperties", "styles"), FromManifest, nil)
		c.Entries = append(c.Entries, e)
	}
}

// described is a sentence that is a text or marked-up text.
func described(n node) string {
	if s := n.str("description", "docs", "summary"); s != "" {
		return s
	}
	return n.get("description").str("value")
}
