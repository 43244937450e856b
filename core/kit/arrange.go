package kit

import "strings"

// arrange gives a kit whose notes have no arrangements those that its components allow: a form of a
// model, a list of its records as cards. Components are told by what they are called, as those of
// most libraries are; what a library has not, an arrangement does without, and one that would be
// nothing is not offered.
func (k *Kit) arrange() {
	for _, of := range []func() (Snippet, bool){k.formOf, k.cardsOf} {
		if s, ok := of(); ok && s.check(k) == nil {
			k.Snippets = append(k.Snippets, s)
		}
	}
}

// called finds the component with the first of some titles that fits; parts of others and what is not
// to be used any more do not.
func (k *Kit) called(fits func(*Component) bool, titles ...string) *Component {
	for _, title := range titles {
		for _, c := range k.Components {
			if strings.EqualFold(c.Title, title) && c.Deprecated == "" && len(c.Parents) == 0 && len(c.Within) == 0 && fits(c) {
				return c
			}
		}
	}
	return nil
}

func holds(c *Component) bool  { return c.Holds != "" }
func whatever(*Component) bool { return true }

// field is a control for one kind of value as a template, with the types of fields that it is for.
func (k *Kit) field(only []string, settings map[string]string, titles ...string) (Template, bool) {
	c := k.called(holds, titles...)
	if c == nil {
		return Template{}, false
	}
	t := Template{Type: c.Tag, Only: only, Props: map[string]string{}}
	set := func(prop, to string) {
		if p, ok := c.Prop(prop); ok && (len(p.Values) == 0 || p.Takes(to) || strings.Contains(to, "{")) {
			t.Props[p.Name] = to
		}
	}
	for rule, to := range settings {
		if p := c.Asks()[rule]; p != nil {
			set(p.Name, to)
		}
	}
	for _, name := range append([]string{strings.ToLower(unhyphened.Replace(c.NameProp))}, labels...) {
		if p := c.called([]string{name}, func(p *Prop) bool { return p.Type == Text && !p.JSON }); p != nil {
			t.Props[p.Name] = "{label}"
			break
		}
		if name == "labeltext" && c.TakesText() { // what people read is better than what only screen readers say
			t.Text = "{label}"
			break
		}
	}
	if p := c.Asks()[Required]; p != nil {
		set(p.Name, "{required}")
	}
	if _, ok := c.Prop("name"); ok {
		set("name", "{field}")
	} else {
		t.Name = "{field}"
	}
	if only[0] == "choice" { // a text takes one as well, where there is nothing to choose with
		p, ok := c.Prop("options")
		if !ok {
			p, ok = c.Prop("items")
		}
		switch {
		case !ok:
			return t, false // what may be chosen stands in it, in a way of its own
		case !p.JSON && p.Type == Text:
			set(p.Name, "{choices}")
		case strings.Contains(p.Shape, "string[]") || strings.Contains(p.Shape, "Array<string>"):
			set(p.Name, "{choiceList}")
		case strings.Contains(p.Shape, "value") && strings.Contains(p.Shape, "label"):
			set(p.Name, "{choicePairs}")
		default:
			return t, false
		}
	}
	return t, true
}

// formOf is a form of a model, whose main button adds a record.
func (k *Kit) formOf() (Snippet, bool) {
	text, ok := k.field([]string{"text", "link", "time", "list", "long text", "number", "money", "date", "choice", "reference"}, nil,
		"labeled input", "labelled input", "text field", "text input", "input", "input text", "textfield", "form input", "input field")
	button := k.called(func(c *Component) bool { return c.Answers != "" }, "button")
	if !ok || button == nil {
		return Snippet{}, false
	}
	kinds := func(kind string) bool {
		c, _ := k.Component(text.Type)
		p := c.Asks()[Kind]
		return p != nil && (len(p.Values) == 0 || p.Takes(kind))
	}
	var fields []Template
	add := func(only []string, settings map[string]string, titles ...string) bool {
		t, ok := k.field(only, settings, titles...)
		if ok {
			fields = append(fields, t)
		}
		return ok
	}
	limits := map[string]string{Least: "{least}", Most: "{most}"}
	numbers := []string{"number field", "number input", "input number", "numeric input", "numeric field"}
	if !add([]string{"number", "money"}, limits, numbers...) && kinds("number") {
		add([]string{"number", "money"}, map[string]string{Kind: "number", Least: "{least}", Most: "{most}"}, k.title(text.Type))
	}
	if !add([]string{"date"}, limits, "date field", "date input", "date picker", "datepicker", "input date") && kinds("date") {
		add([]string{"date"}, map[string]string{Kind: "date", Least: "{least}", Most: "{most}"}, k.title(text.Type))
	}
	add([]string{"choice", "reference"}, nil,
		"labeled select", "select", "native select", "select field", "dropdown", "form select", "combobox", "combo box")
	add([]string{"long text"}, nil, "labeled textarea", "text area", "textarea", "input textarea", "multiline input", "form textarea")
	fields = append(fields, text)

	main := Template{Type: button.Tag, Props: map[string]string{Does: "add {model}"}}
	if button.TakesText() {
		main.Text = "Save"
	} else if p, ok := button.Prop(button.NameProp); ok {
		main.Props[p.Name] = "Save"
	}
	if button.Main != nil {
		main.Props[button.Main.Prop] = button.Main.Value
	}
	tree := Template{Type: "stack", Children: []Template{
		{Each: "fields", Except: []string{"picture", "yes/no", "references", "computed"}, Children: fields},
	}}
	for _, titles := range [][]string{{"switch", "toggle", "toggle switch"}, {"checkbox", "form check"}} {
		if t, ok := k.field([]string{"yes/no"}, nil, titles...); ok {
			t.Each, t.Except = "fields", []string{"computed"}
			tree.Children = append(tree.Children, t)
			break
		}
	}
	tree.Children = append(tree.Children, Template{Type: "stack", Props: map[string]string{"direction": "across"}, Children: []Template{main}})
	return Snippet{
		ID: "form", Title: "form of a {one}", Of: "model",
		Words: []string{"fields", "enter", "edit", "new", "input"}, Tree: tree,
	}, true
}

func (k *Kit) title(tag string) string {
	c, _ := k.Component(tag)
	return c.Title
}

// cardsOf are the records of a model as cards, each with its name and what else it says in words.
func (k *Kit) cardsOf() (Snippet, bool) {
	card := k.called(whatever, "card", "tile", "paper", "panel")
	words := k.called((*Component).TakesText, "text", "typography", "paragraph", "body text", "label")
	if card == nil || words == nil {
		return Snippet{}, false
	}
	if slot, ok := card.Slot(""); !ok || slot.Closed {
		return Snippet{}, false
	}
	heading := k.called((*Component).TakesText, "heading", "title", "headline")
	if heading == nil {
		heading = words
	}
	status := k.called((*Component).TakesText, "tag", "chip", "badge", "pill")
	if status == nil {
		status = words
	}
	inside := []Template{
		{Each: "fields", Only: []string{"text"}, Take: 1, Type: heading.Tag, Value: true},
		{Each: "fields", Only: []string{"text"}, Skip: 1, Type: words.Tag, Value: true},
		{Each: "fields", Except: []string{"text", "choice", "picture"}, Type: words.Tag, Value: true},
		{Each: "fields", Only: []string{"choice"}, Type: status.Tag, Value: true},
	}
	return Snippet{
		ID: "cards", Title: "cards of {many}", Of: "model", Words: []string{"grid", "tiles", "gallery", "records"},
		Tree: Template{Type: "grid", Props: map[string]string{"columns": "fit"}, Children: []Template{
			{Type: card.Tag, Repeat: true, Children: []Template{{Type: "stack", Children: inside}}},
		}},
	}, true
}
