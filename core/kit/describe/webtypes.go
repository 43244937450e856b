package describe

import (
	"regexp"
	"slices"
	"strings"
)

// WebTypes reads a web-types.json: elements, or components of Vue. where names the file.
// prefix begins the ids of components that are no elements.
func (c *Catalog) WebTypes(src []byte, where, prefix string) error {
	doc, err := document(src)
	if err != nil {
		return err
	}
	html := doc.get("contributions").get("html")
	if !html.is() {
		c.left(where, "it has no contributions.html; accepted: web-types")
		return nil
	}
	for _, key := range []string{"elements", "tags", "vue-components"} {
		for _, n := range html.list(key) {
			c.webType(n, key, where, prefix)
		}
	}
	return nil
}

// CallAs calls components as another catalog of the same library does, where that leaves out a word
// that all of them begin with: "LoAlert" is its "Alert".
func (c *Catalog) CallAs(o *Catalog) {
	known := map[string]*Entry{}
	for i := range o.Entries {
		known[o.Entries[i].Export] = &o.Entries[i]
	}
	word, same := "", 0
	for _, e := range c.Entries {
		if known[e.Export] != nil {
			same++
		}
		first := firstWord.FindString(e.Export)
		if word != "" && first != word {
			return
		}
		word = first
	}
	less := 0
	for _, e := range c.Entries {
		if known[strings.TrimPrefix(e.Export, word)] != nil {
			less++
		}
	}
	if word == "" || less <= same {
		return
	}
	for i := range c.Entries {
		if e := known[strings.TrimPrefix(c.Entries[i].Export, word)]; e != nil {
			c.Entries[i].Export, c.Entries[i].ID = e.Export, e.ID
		}
	}
}

var firstWord = regexp.MustCompile(`^[A-Z][a-z0-9]*`)

func (c *Catalog) webType(n node, key, where, prefix string) {
	name := n.str("name")
	e := Entry{
		ID: name, Tag: name, From: FromWebTypes, Summary: n.str("description"), Deprecated: n.deprecated(),
		Props: []Prop{}, Slots: []Slot{},
	}
	symbol := n.get("source").str("symbol")
	if c.Drawn != Elements {
		e.Tag, e.Export = "", symbol
		if symbol == "" || symbol == "default" {
			e.Export = pascal(name)
		}
		e.ID = prefix + "-" + Kebab(strings.TrimPrefix(e.Export, pascal(prefix)))
		e.Export = strings.TrimSpace(e.Export)
	}
	if !tagName.MatchString(e.ID) {
		c.left(where+"#"+n.at, "%q cannot name a component", clip(name, 60))
		return
	}
	if _, again := c.Find(e.ID); again {
		c.left(where+"#"+n.at, "%s is described again; the first one counts", name)
		return
	}
	js := n.get("js")
	for _, list := range [][]node{n.list("props"), js.list("properties"), n.list("attributes")} {
		for _, m := range list {
			p := Prop{Name: m.str("name"), From: FromWebTypes, Summary: m.str("description"), Required: m.yes("required"), Deprecated: m.deprecated()}
			if p.Name == "" {
				continue
			}
			if c.Drawn == Elements {
				p.Attr, p.Name = p.Name, camel(p.Name)
			} else {
				p.Name = camel(p.Name)
			}
			p.valued(m)
			if d := m.str("default"); d != "" {
				p.Default = plainDefault(d)
			} else if d := m.get("value").str("default"); d != "" {
				p.Default = plainDefault(d)
			}
			p.settleDefault()
			e.add(c, p, where+"#"+m.at)
		}
	}
	e.Slots = named(n.list("slots"), FromWebTypes, func(s string) string {
		if s == "default" {
			return ""
		}
		return s
	})
	for _, from := range []node{n, js} {
		e.Events = with(e.Events, named(from.list("events"), FromWebTypes, nil))
	}
	css := n.get("css")
	e.Parts = with(named(n.list("parts"), FromWebTypes, nil), named(css.list("parts"), FromWebTypes, nil))
	e.CSS = named(css.list("properties"), FromWebTypes, nil)
	if c.Drawn == Elements && !slices.ContainsFunc([]string{"elements", "tags"}, func(k string) bool { return k == key }) {
		c.left(where+"#"+n.at, "%s is a component of a framework, and this library's are elements", name)
		return
	}
	c.Entries = append(c.Entries, e)
}

// valued reads the value of a prop: a type text, a list of texts, or named values.
func (p *Prop) valued(m node) {
	value := m.get("value")
	var parts []string
	for _, t := range []node{value.get("type"), m.get("type")} {
		switch v := t.v.(type) {
		case string:
			parts = append(parts, v)
		case []any:
			for _, x := range v {
				if s, ok := x.(string); ok {
					parts = append(parts, s)
				}
			}
		}
		if len(parts) > 0 {
			break
		}
	}
	p.typed(strings.Join(parts, " | "))
	var names []string
	for _, list := range [][]node{m.list("values"), m.list("attribute-value-values")} {
		for _, v := range list {
			if s := v.str("name"); s != "" {
				names = append(names, s)
			}
		}
	}
	if len(names) > 1 && len(names) <= MaxValues && vague(p) {
		p.Type, p.Values = "choice", names
	}
	if value.str("kind") == "no-value" {
		p.Type = "yes/no"
	}
}

// pascal writes "date-picker" and "datePicker" as "DatePicker".
func pascal(name string) string {
	var b strings.Builder
	for _, w := range strings.Split(Kebab(name), "-") {
		if w != "" {
			b.WriteString(strings.ToUpper(w[:1]) + w[1:])
		}
	}
	return b.String()
}
