package bringin

import (
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// build makes the element of a recognised kind; nil where it is left out.
func (r *reader) build(f *found, c *kit.Component, n *html.Node, in scope) *screen.Element {
	switch f.kind.name {
	case "button", "icon button":
		return r.button(f, c, n, in)
	case "icon":
		return r.iconElement(f, c, n)
	case "checkbox", "switch":
		return r.tick(f, c, n)
	case "radio group":
		return r.radios(f, c, n, n)
	case "radio":
		return r.radios(f, c, n, radioScope(n))
	case "control":
		return r.control(f, c, n, in)
	case "field":
		return r.field(c, n)
	case "table":
		return r.table(f, c, n)
	case "pager":
		return r.pager(f, c, n)
	case "tabs":
		return r.tabs(f, c, n)
	case "avatar":
		return r.avatar(f, c, n)
	case "picture":
		return r.picture(f, c, n)
	case "badge":
		e := &screen.Element{ID: r.idOf(n, ""), Type: c.Tag}
		r.set(e, c, "count", strings.Trim(text(n), "+ "))
		return e
	case "stat":
		return r.stat(f, c, n)
	case "facts":
		return r.facts(f, c, n)
	case "heading":
		e := r.generic(c, n, f)
		level := strings.TrimPrefix(n.Data, "h")
		if n.Data[0] != 'h' {
			level = attr(n, "aria-level")
		}
		if c.Heading != nil && !r.set(e, c, c.Heading.LevelProp, level) {
			if p, ok := c.Prop(c.Heading.LevelProp); ok && len(p.Values) > 0 && level > p.Values[len(p.Values)-1] {
				r.put(e, p, p.Values[len(p.Values)-1], true)
			}
		}
		return e
	case "link", "nav item", "crumb", "menu item", "list item", "step":
		return r.linked(f, c, n)
	case "nav group":
		return r.group(f, c, n)
	case "menu":
		return r.menu(f, c, n)
	case "progress":
		e := r.begin(f, c, n)
		if max, err := strconv.ParseFloat(attr(n, "max"), 64); err == nil && max > 0 && max != 100 {
			if v, err := strconv.ParseFloat(attr(n, "value"), 64); err == nil {
				r.set(e, c, "value", strconv.FormatFloat(100*v/max, 'f', -1, 64))
			}
		}
		if s := text(n); s != "" {
			r.set(e, c, "label", s)
		}
		return e
	case "key":
		e := &screen.Element{ID: r.idOf(n, ""), Type: c.Tag}
		if !r.set(e, c, "keys", text(n)) {
			e.Text = screen.Lit(text(n))
		}
		return e
	case "spinner":
		e := &screen.Element{ID: r.idOf(n, ""), Type: c.Tag}
		s := attr(n, "aria-label")
		if s == "" {
			s = text(n)
		}
		r.set(e, c, "label", s)
		return e
	}
	return r.generic(c, n, f)
}

func (r *reader) button(f *found, c *kit.Component, n *html.Node, in scope) *screen.Element {
	e := r.begin(f, c, n)
	if n.Data == "input" {
		label := attr(n, "value")
		if label == "" {
			label = strings.ToUpper(attr(n, "type")[:1]) + attr(n, "type")[1:]
		}
		e.Text = screen.Lit(label)
		e.Props = slices.DeleteFunc(e.Props, func(p screen.Prop) bool { return p.Name == "value" })
	}
	typ := strings.ToLower(attr(n, "type"))
	if typ == "submit" || typ == "reset" || n.Data == "button" && typ == "" && in.kind == "form" {
		if typ == "" {
			typ = "submit"
		}
		r.set(e, c, "action", typ)
	}
	if i := r.iconIn(n); i != nil {
		if name := r.icon(iconWords(i)); name == "" {
			r.needs(
				"an icon for "+short(text(n)+attr(n, "aria-label"), 24),
				"the kit has none called "+strings.Join(iconWords(i), ", "),
			)
			r.used[i] = true
		} else if p, ok := c.Prop("icon"); ok && p.Icon {
			r.put(e, p, name, true)
			r.used[i] = true
		}
	} else if c.NameProp != "" && f.kind.name == "icon button" {
		if name := r.icon(strings.Fields(strings.ToLower(attr(n, "aria-label")))); name != "" {
			r.set(e, c, "icon", name)
		}
	}
	if f.kind.name == "icon button" {
		if _, ok := e.Prop("label"); !ok {
			r.needs("a name for an icon button", "nothing says what it does")
		}
		return e
	}
	if n.Data != "input" {
		if r.onlyInline(n) {
			e.Text = screen.Lit(text(n))
			for _, ch := range elements(n) { // an icon beside the words
				if k := r.recognise(ch, scope{}); k != nil && k.kind.name == "icon" && !r.used[ch] {
					for _, el := range r.node(ch, scope{c, f.kind.name}) {
						r.place(e, c, el, "lead")
					}
				}
			}
			if e.Text.Text == "" {
				e.Text = screen.Value{}
			}
		} else {
			r.fill(e, c, n, "", f.kind.name)
		}
	}
	if e.Text.Text == "" {
		if s := attr(n, "aria-label") + attr(n, "title"); s != "" && c.TakesText() {
			e.Text = screen.Lit(s)
		}
	}
	return e
}

func (r *reader) iconElement(f *found, c *kit.Component, n *html.Node) *screen.Element {
	words := iconWords(n)
	name := r.icon(words)
	if name == "" {
		r.needs("the icon "+strings.Join(words, " "), "the kit has none of that name or meaning")
		if s := text(n); s != "" {
			return r.textElement(n, s)
		}
		return nil
	}
	e := r.begin(f, c, n)
	for i := range c.Props {
		if c.Props[i].Icon {
			r.put(e, &c.Props[i], name, true)
			break
		}
	}
	return e
}

// tick builds a checkbox or switch with the words beside it.
func (r *reader) tick(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := r.begin(f, c, n)
	input := n
	if n.Data != "input" {
		if input = some(n, "input"); input != nil {
			r.dress(e, c, input, f)
		}
	}
	e.Props = slices.DeleteFunc(e.Props, func(p screen.Prop) bool { return p.Name == "value" })
	said := text(n)
	if said == "" && input != nil {
		said = r.labelOf(input)
	}
	if said == "" {
		said = attr(n, "aria-label")
	}
	if said != "" && c.TakesText() {
		e.Text = screen.Lit(said)
	} else if said == "" {
		r.needs("words for a "+c.Title, "nothing says what it is for")
	}
	return e
}

// radioScope is the nearest element around a radio that holds its fellows.
func radioScope(n *html.Node) *html.Node {
	name := attr(n, "name")
	top := n
	for p := n.Parent; p != nil && p.Data != "body" && p.Data != "form"; p = p.Parent {
		if count(p, func(c *html.Node) bool { return attr(c, "type") == "radio" && attr(c, "name") != name }) > 0 ||
			count(p, isControl) > count(p, func(c *html.Node) bool { return attr(c, "type") == "radio" }) {
			break
		}
		top = p
	}
	return top
}

// radios builds one group of the radios that stand in n; as is what it is made of.
func (r *reader) radios(f *found, c *kit.Component, as, n *html.Node) *screen.Element {
	var options []string
	chosen, name := "", ""
	e := &screen.Element{ID: r.idOf(as, ""), Type: c.Tag}
	r.dress(e, c, n, f)
	said := func(o *html.Node) string {
		if s := r.labelOf(o); s != "" {
			return s
		}
		for p := o.Parent; p != nil && p != n.Parent; p = p.Parent {
			if p.Data == "label" {
				return text(p)
			}
		}
		for s := o.NextSibling; s != nil; s = s.NextSibling {
			if t := text(s); t != "" {
				r.used[s] = true
				return t
			}
			if s.Type == html.ElementNode && isControl(s) {
				break
			}
		}
		return attr(o, "value")
	}
	visit := func(o *html.Node) {
		if r.used[o] || attr(o, "type") != "radio" && attr(o, "role") != "radio" {
			return
		}
		r.used[o] = true
		s := said(o)
		if o.Data != "input" {
			s = text(o)
		}
		s = strings.ReplaceAll(s, ",", " ")
		options = append(options, s)
		name = attr(o, "name")
		if has(o, "checked") || attr(o, "aria-checked") == "true" {
			chosen = s
		}
	}
	visit(n)
	count(n, func(o *html.Node) bool { visit(o); return false })
	if len(options) == 0 {
		return nil
	}
	r.set(e, c, "options", strings.Join(options, ", "))
	r.set(e, c, "value", chosen)
	r.set(e, c, "name", name)
	if legend := some(n, "legend"); legend != nil {
		r.set(e, c, "label", text(legend))
	}
	return e
}

// labelOf is what labels a control from elsewhere; the label is taken in by it.
func (r *reader) labelOf(n *html.Node) string {
	l := r.labels[attr(n, "id")]
	if attr(n, "id") == "" || l == nil {
		p := n.PrevSibling
		for p != nil && p.Type == html.TextNode && strings.TrimSpace(p.Data) == "" {
			p = p.PrevSibling
		}
		if p == nil || p.Type != html.ElementNode || p.Data != "label" || attr(p, "for") != "" ||
			count(p, isControl) > 0 {
			return ""
		}
		l = p
	}
	r.used[l] = true
	return text(l)
}

var inputKinds = map[string][]string{
	"email":          {"email"},
	"password":       {"password"},
	"search":         {"search"},
	"date":           {"date"},
	"tel":            {"tel", "phone", "text"},
	"url":            {"url", "text"},
	"number":         {"number"},
	"time":           {"time", "text"},
	"month":          {"month", "date"},
	"datetime-local": {"date"},
}

func (r *reader) control(f *found, c *kit.Component, n *html.Node, in scope) *screen.Element {
	e := r.begin(f, c, n)
	for _, k := range inputKinds[strings.ToLower(attr(n, "type"))] {
		if r.set(e, c, "kind", k) {
			break
		}
	}
	if n.Data == "select" {
		var options []string
		count(n, func(o *html.Node) bool {
			if o.Data != "option" {
				return false
			}
			s := strings.ReplaceAll(text(o), ",", " ")
			if attr(o, "value") == "" && has(o, "value") && len(options) == 0 {
				r.set(e, c, "placeholder", s)
				return false
			}
			options = append(options, s)
			if has(o, "selected") {
				r.set(e, c, "value", s)
			}
			return false
		})
		r.set(e, c, "options", strings.Join(options, ", "))
	}
	if n.Data == "textarea" {
		r.set(e, c, "value", strings.TrimSpace(text(n)))
	}
	if _, ok := e.Prop("name"); !ok && attr(n, "id") != "" {
		r.set(e, c, "name", attr(n, "id"))
	}
	if in.kind == "field" {
		return e
	}
	label := r.labelOf(n)
	holder, ok := r.k.Component(c.LabelledBy)
	if label == "" {
		_, own := e.Prop("label")
		if !own && attr(n, "placeholder") != "" {
			r.set(e, c, "label", attr(n, "placeholder"))
			r.needs(
				"a label for "+orWord(attr(n, "name"), attr(n, "placeholder")),
				"only its placeholder says what goes in",
			)
		} else if !own {
			r.needs("a label for "+orWord(attr(n, "name"), "a field"), "nothing says what goes in")
		}
		return e
	}
	if !ok {
		r.set(e, c, "label", label)
		return e
	}
	around := &screen.Element{ID: e.ID + "f", Type: holder.Tag, Children: []*screen.Element{e}}
	r.labelled(around, holder, label, has(n, "required"))
	for s := n.NextSibling; s != nil; s = s.NextSibling { // help beside it
		if s.Type == html.TextNode && strings.TrimSpace(s.Data) == "" {
			continue
		}
		if s.Type == html.ElementNode {
			r.aside(around, holder, s)
		}
		break
	}
	return around
}

func orWord(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

func (r *reader) labelled(e *screen.Element, c *kit.Component, label string, required bool) {
	bare := strings.TrimRight(strings.TrimSpace(label), "*: ")
	r.set(e, c, "label", bare)
	if required || strings.HasSuffix(strings.TrimSpace(label), "*") {
		r.set(e, c, "required", "true")
	}
}

// aside takes in the help or error that stands beside a control.
func (r *reader) aside(e *screen.Element, c *kit.Component, n *html.Node) bool {
	_, parts := classes(n)
	is := func(words ...string) bool {
		return slices.ContainsFunc(parts, func(p string) bool { return slices.Contains(words, p) })
	}
	switch {
	case !r.onlyInline(n) || text(n) == "":
		return false
	case is("error", "invalid", "feedback", "danger"):
		r.set(e, c, "error", text(n))
	case is("help", "hint", "description", "note", "text", "muted") || n.Data == "small":
		r.set(e, c, "help", text(n))
	default:
		return false
	}
	r.used[n] = true
	return true
}

func (r *reader) field(c *kit.Component, n *html.Node) *screen.Element {
	e := &screen.Element{ID: r.idOf(n, "f"), Type: c.Tag}
	var label string
	var control *html.Node
	var walk func(*html.Node)
	walk = func(p *html.Node) {
		for _, ch := range elements(p) {
			_, parts := classes(ch)
			switch {
			case isControl(ch):
				control = ch
			case ch.Data == "label" || ch.Data == "legend" || slices.Contains(parts, "label"):
				if s := textExcept(ch, isControl); s != "" && label == "" {
					label = s
				}
				r.used[ch] = count(ch, isControl) == 0
				walk(ch)
			case r.aside(e, c, ch):
			case count(ch, isControl) > 0:
				walk(ch)
			case label == "" && r.onlyInline(ch) && text(ch) != "" && control == nil:
				label = text(ch)
				r.used[ch] = true
			}
		}
	}
	walk(n)
	if label == "" && n.Data == "label" {
		label = textExcept(n, func(c *html.Node) bool { return isControl(c) || r.used[c] })
	}
	if control == nil {
		return nil
	}
	if label == "" {
		label = r.labelOf(control)
	}
	r.used[control] = false
	for _, el := range r.node(control, scope{c, "field"}) {
		r.place(e, c, el, "")
	}
	r.used[control] = true
	r.labelled(e, c, label, has(control, "required"))
	// Buttons and icons beside the control.
	var rest func(*html.Node)
	rest = func(p *html.Node) {
		for _, ch := range elements(p) {
			if r.used[ch] || ch == control || ch.Data == "label" && count(ch, isControl) == 0 {
				continue
			}
			if count(ch, isControl) > 0 {
				rest(ch)
				continue
			}
			if s := text(ch); s != "" && s != label && !strings.Contains(label, s) {
				r.spilt = append(r.spilt, r.node(ch, scope{})...)
			}
		}
	}
	rest(n)
	return e
}

// textExcept is what an element says without some of what stands in it.
func textExcept(n *html.Node, skip func(*html.Node) bool) string {
	var out []string
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		switch {
		case c.Type == html.TextNode:
			out = append(out, strings.Fields(c.Data)...)
		case c.Type == html.ElementNode && !skip(c):
			out = append(out, strings.Fields(textExcept(c, skip))...)
		}
	}
	return strings.Join(out, " ")
}

func isRow(n *html.Node) bool { return n.Data == "tr" || attr(n, "role") == "row" }

func isHead(n *html.Node) bool { return n.Data == "th" || attr(n, "role") == "columnheader" }

func (r *reader) table(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := r.begin(f, c, n)
	if caption := some(n, "caption"); caption != nil {
		r.set(e, c, "label", text(caption))
	}
	row, cell, column := r.component("row"), r.component("cell"), r.component("column")
	if row == nil || cell == nil {
		return r.plain(n, scope{}, "the kit's table has no rows")
	}
	var rows []*html.Node
	var walk func(*html.Node)
	walk = func(p *html.Node) {
		for _, ch := range elements(p) {
			if isRow(ch) {
				rows = append(rows, ch)
			} else if ch.Data != "table" {
				walk(ch)
			}
		}
	}
	walk(n)
	slot := ""
	if column != nil {
		for _, s := range c.Slots {
			if _, ok := kit.Accepts(r.k, c, s.Name, column); ok {
				slot = s.Name
				break
			}
		}
	}
	var columns []*screen.Element
	for i, tr := range rows {
		cells := elements(tr)
		head := len(cells) > 0 &&
			(tr.Parent.Data == "thead" || i == 0 && !slices.ContainsFunc(cells, func(c *html.Node) bool { return !isHead(c) }))
		if head && column != nil && columns == nil {
			for _, th := range cells {
				col := &screen.Element{ID: r.idOf(th, ""), Type: column.Tag, Slot: slot}
				if s := text(th); s != "" {
					col.Text = screen.Lit(s)
				} else {
					r.needs("a heading for a column", "the header is empty")
				}
				r.dress(col, column, th, &found{kind: &kind{}})
				columns = append(columns, col)
			}
			continue
		}
		out := &screen.Element{ID: r.idOf(tr, ""), Type: row.Tag}
		r.dress(out, row, tr, &found{kind: &kind{}})
		for j, td := range cells {
			el := &screen.Element{ID: r.idOf(td, ""), Type: cell.Tag}
			if r.onlyInline(td) {
				if s := text(td); s != "" {
					el.Text = screen.Lit(s)
				}
			} else {
				r.fill(el, cell, td, "", "cell")
			}
			if j < len(columns) && i > 0 && i <= 2 {
				r.columnKind(columns[j], column, td, el)
			}
			r.place(out, row, el, "")
		}
		if len(out.Children) > 0 {
			r.place(e, c, out, "")
		}
	}
	e.Children = append(e.Children, columns...)
	return e
}

// columnKind tells numbers and actions from texts by what stands in a column.
func (r *reader) columnKind(col *screen.Element, def *kit.Component, td *html.Node, cell *screen.Element) {
	_, parts := classes(td)
	s := strings.Trim(text(td), "€$£% kgcmML")
	switch {
	case number(s) && len(cell.Children) == 0 || slices.Contains(parts, "num") || slices.Contains(parts, "number"):
		r.set(col, def, "kind", "number")
	case text(td) == "" && len(cell.Children) > 0:
		r.set(col, def, "kind", "actions")
	}
}

func current(n *html.Node) bool {
	whole, _ := classes(n)
	return attr(n, "aria-current") != "" && attr(n, "aria-current") != "false" ||
		attr(n, "aria-selected") == "true" ||
		slices.Contains(whole, "active") ||
		slices.Contains(whole, "current") ||
		slices.Contains(whole, "is-active") ||
		slices.Contains(whole, "selected")
}

func (r *reader) pager(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := r.begin(f, c, n)
	most, at := 0, 0
	count(n, func(p *html.Node) bool {
		if v, err := strconv.Atoi(text(p)); err == nil {
			most = max(most, v)
			if current(p) {
				at = v
			}
		}
		return false
	})
	for _, w := range strings.Fields(text(n)) { // "Page 2 of 7"
		if v, err := strconv.Atoi(w); err == nil {
			most = max(most, v)
			if at == 0 {
				at = v
			}
		}
	}
	if most > 0 {
		r.set(e, c, "pages", strconv.Itoa(most))
	} else {
		r.needs("how many pages there are", "the markup does not say")
	}
	if at > 1 {
		r.set(e, c, "page", strconv.Itoa(at))
	}
	return e
}

func (r *reader) tabs(f *found, c *kit.Component, n *html.Node) *screen.Element {
	tab := r.component("tab")
	if tab == nil {
		return r.generic(c, n, f)
	}
	e := &screen.Element{ID: r.idOf(n, ""), Type: c.Tag}
	list := n
	if attr(n, "role") != "tablist" {
		count(n, func(p *html.Node) bool {
			if attr(p, "role") == "tablist" && list == n {
				list = p
			}
			return false
		})
		if ul := some(n, "ul", "ol"); list == n && ul != nil {
			list = ul
		}
	}
	var heads, panels []*html.Node
	var gather func(*html.Node)
	gather = func(p *html.Node) {
		for _, ch := range elements(p) {
			if attr(ch, "role") == "tab" || len(elements(ch)) == 0 || ch.Data == "a" || ch.Data == "button" {
				heads = append(heads, ch)
			} else {
				gather(ch)
			}
		}
	}
	gather(list)
	isPanel := func(p *html.Node) bool {
		_, parts := classes(p)
		return attr(p, "role") == "tabpanel" || slices.Contains(parts, "pane") || slices.Contains(parts, "panel")
	}
	around := n
	if n.Parent != nil && count(n, isPanel) == 0 {
		around = n.Parent
	}
	count(around, func(p *html.Node) bool {
		if isPanel(p) && !slices.ContainsFunc(panels, func(o *html.Node) bool { return o == p.Parent }) {
			panels = append(panels, p)
		}
		return false
	})
	for i, h := range heads {
		el := &screen.Element{ID: r.idOf(h, ""), Type: tab.Tag}
		if !r.set(el, tab, "label", text(h)) {
			el.Text = screen.Lit(text(h))
		}
		panel := r.byID[strings.TrimPrefix(orWord(attr(h, "aria-controls"), strings.TrimPrefix(attr(h, "href"), "#")), "#")]
		if panel == nil && i < len(panels) {
			panel = panels[i]
		}
		if panel != nil && !r.used[panel] {
			r.used[panel] = true
			for _, in := range r.children(panel, scope{tab, "tab"}) {
				r.place(el, tab, in, "")
			}
		}
		if current(h) && i > 0 {
			r.set(e, c, "shown", strconv.Itoa(i+1))
		}
		r.place(e, c, el, "")
	}
	return e
}

func (r *reader) avatar(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := r.begin(f, c, n)
	img := n
	if n.Data != "img" {
		img = some(n, "img")
	}
	if img != nil {
		r.dress(e, c, img, f)
		r.set(e, c, "name", attr(img, "alt"))
	}
	if _, ok := e.Prop("name"); !ok {
		s := orWord(orWord(attr(n, "title"), attr(n, "aria-label")), text(n))
		if !r.set(e, c, "name", s) {
			r.needs("a name for an avatar", "nothing says whose it is")
		}
	}
	return e
}

func (r *reader) picture(f *found, c *kit.Component, n *html.Node) *screen.Element {
	img := n
	if n.Data != "img" {
		img = some(n, "img")
	}
	e := &screen.Element{ID: r.idOf(n, ""), Type: c.Tag}
	r.dress(e, c, img, f)
	if attr(img, "alt") == "" {
		if has(img, "alt") {
			r.set(e, c, "decorative", "true")
		} else {
			r.needs("what the picture "+short(attr(img, "src"), 30)+" shows", "it has no alternative text")
		}
	}
	if cap := some(n, "figcaption"); cap != nil && n.Data == "figure" {
		r.used[cap] = true
		if s := text(cap); s != "" {
			r.spilt = append(r.spilt, r.textElement(cap, s))
		}
	}
	return e
}

func (r *reader) stat(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := r.begin(f, c, n)
	var leaves []*html.Node
	var walk func(*html.Node)
	walk = func(p *html.Node) {
		if r.onlyInline(p) && text(p) != "" {
			leaves = append(leaves, p)
			return
		}
		for _, ch := range elements(p) {
			walk(ch)
		}
	}
	for _, ch := range elements(n) {
		walk(ch)
	}
	digits := func(s string) bool { return strings.ContainsAny(s, "0123456789") }
	var rest []string
	for _, l := range leaves {
		_, parts := classes(l)
		_, valued := e.Prop("value")
		_, labelled := e.Prop("label")
		switch s := text(l); {
		case !valued && (slices.Contains(parts, "value") || slices.Contains(parts, "number") || digits(s)):
			r.set(e, c, "value", s)
		case !labelled:
			r.set(e, c, "label", s)
		default:
			rest = append(rest, s)
		}
	}
	r.set(e, c, "note", strings.Join(rest, " "))
	return e
}

func (r *reader) facts(f *found, c *kit.Component, n *html.Node) *screen.Element {
	fact := r.component("fact")
	if fact == nil {
		return r.plain(n, scope{}, "the kit has no facts")
	}
	e := r.begin(f, c, n)
	var name string
	var walk func(*html.Node)
	walk = func(p *html.Node) {
		for _, ch := range elements(p) {
			switch ch.Data {
			case "dt":
				name = text(ch)
			case "dd":
				el := &screen.Element{ID: r.idOf(ch, ""), Type: fact.Tag}
				r.set(el, fact, "name", name)
				r.set(el, fact, "value", text(ch))
				r.place(e, c, el, "")
			default:
				walk(ch)
			}
		}
	}
	walk(n)
	return e
}

// linked builds what leads somewhere, be it a link itself or an item that holds one.
func (r *reader) linked(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := r.begin(f, c, n)
	a := n
	if n.Data != "a" {
		a = nil
		if b := some(n, "button"); b != nil && f.kind.name == "menu item" && count(n, isLink) == 0 {
			a = b
		} else if count(n, isLink) == 1 {
			a = some(n, "a")
			r.dress(e, c, a, f)
		}
	}
	if current(n) || a != nil && current(a) || n.Parent.Data == "li" && current(n.Parent) {
		r.set(e, c, "active", "true")
	}
	if f.kind.name == "crumb" && a == nil {
		e.Props = slices.DeleteFunc(e.Props, func(p screen.Prop) bool { return p.Name == "to" })
	}
	if p, ok := c.Prop("icon"); ok && p.Icon {
		if i := r.iconIn(n); i != nil {
			if name := r.icon(iconWords(i)); name != "" {
				r.put(e, p, name, true)
			} else {
				r.needs("the icon "+strings.Join(iconWords(i), " "), "the kit has none of that name or meaning")
			}
			r.used[i] = true
		}
	}
	if _, ok := c.Prop("count"); ok {
		count(n, func(b *html.Node) bool {
			if k := r.recognise(b, scope{}); k != nil && (k.kind.name == "badge" || k.kind.name == "chip") &&
				number(text(b)) &&
				!r.used[b] {
				r.set(e, c, "count", text(b))
				r.used[b] = true
			}
			return false
		})
	}
	if r.onlyInlineOf(n, a) {
		if s := textExcept(n, func(c *html.Node) bool { return r.used[c] || c.Data == "svg" }); s != "" &&
			c.TakesText() {
			e.Text = screen.Lit(s)
			return e
		}
	}
	from := n
	if a != nil && a != n && len(elements(n)) == 1 {
		from = a
	}
	r.fillItem(e, c, from, a, f.kind.name)
	return e
}

// onlyInlineOf is onlyInline for an item beside the link that it is.
func (r *reader) onlyInlineOf(n, a *html.Node) bool {
	if a == nil || a == n {
		return r.onlyInline(n)
	}
	return r.onlyInline(a) &&
		count(
			n,
			func(c *html.Node) bool { return c != a && !inline[c.Data] && !isAncestor(c, a) && !isAncestor(a, c) },
		) == 0
}

func isAncestor(p, n *html.Node) bool {
	for ; n != nil; n = n.Parent {
		if n == p {
			return true
		}
	}
	return false
}

// fillItem fills an item; the link that it is itself adds no link of its own.
func (r *reader) fillItem(e *screen.Element, c *kit.Component, n, a *html.Node, kindName string) {
	if a != nil && a != n {
		if s := text(a); s != "" && r.onlyInline(a) && c.TakesText() {
			e.Text = screen.Lit(s)
			r.used[a] = true
		}
	}
	r.fill(e, c, n, "", kindName)
}

// group builds a navigation group: its first words are its label.
func (r *reader) group(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := r.begin(f, c, n)
	list := some(n, "ul", "ol")
	if s := textExcept(n, func(c *html.Node) bool { return c == list }); s != "" {
		r.set(e, c, "label", s)
	}
	in := "side navigation"
	r.fill(e, c, list, "", in)
	return e
}

// menu builds a menu: what opens it is its label.
func (r *reader) menu(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := r.begin(f, c, n)
	var list *html.Node
	count(n, func(p *html.Node) bool {
		_, parts := classes(p)
		if list == nil &&
			(attr(p, "role") == "menu" || p.Data == "ul" || slices.Contains(parts, "menu") || slices.Contains(parts, "content")) &&
			count(p, func(c *html.Node) bool { return c.Data == "a" || c.Data == "button" || c.Data == "li" }) > 0 {
			list = p
		}
		return false
	})
	if list == nil {
		list = n
	} else {
		for _, ch := range elements(n) {
			if ch != list && text(ch) != "" && !isAncestor(ch, list) {
				r.set(e, c, "label", text(ch))
				break
			}
		}
	}
	r.fill(e, c, list, "", "menu")
	return e
}
