package describe

import (
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit"
)

// Families that proposals sort components into, in the order of a shelf.
var Families = []kit.Family{
	{ID: "navigation", Name: "Bars and navigation"},
	{ID: "actions", Name: "Actions"},
	{ID: "forms", Name: "Forms"},
	{ID: "data", Name: "Data"},
	{ID: "identity", Name: "Identity and status"},
	{ID: "content", Name: "Content"},
	{ID: "feedback", Name: "Feedback"},
	{ID: "layout", Name: "Layout"},
	{ID: IconFamily, Name: "Icons"},
	{ID: "others", Name: "Not sorted"},
	{ID: "helpers", Name: "Helpers without a look"},
}

// sort is what a name suggests: the words that a name ends with, or has, and what a
// component of that name is.
type suggestion struct {
	words  string // any of these, separated by blanks; dashes join words of a name
	family string
	role   string
	level  kit.Level
	text   string // an example's words
	alias  string
}

// suggestions are tried in order; what ends a name counts before what is in it, and more
// words of it before fewer. The words are the trade's.
var suggestions = []suggestion{
	{words: "icon-button fab floating-action-button toggle-button split-button copy-button close-button button btn", family: "actions", role: "action", text: "Save changes"},
	{words: "button-group button-toolbar action-bar speed-dial", family: "actions", level: kit.Composite},
	{words: "dropdown drop-down dropdown-menu action-menu context-menu menu", family: "actions", level: kit.Composite},
	{words: "menu-item dropdown-item action-item menu-option", family: "actions", text: "Edit"},
	{words: "radio-group checkbox-group radio-button-group choice-group", family: "forms", role: "control", level: kit.Composite, alias: "choose one of"},
	{words: "text-field text-input textfield input number-input number-field numeric-input textarea text-area password password-input search search-input search-field searchbar search-box select native-select multi-select multiselect list-box listbox combobox combo-box autocomplete auto-complete checkbox check radio radio-button switch toggle slider range rating rate date-picker datepicker date-input time-picker timepicker date-time-picker calendar-input color-picker colorpicker file-input file-upload upload uploader dropzone pin-input otp-input mentions mention cascader transfer tree-select chips-input tags-input knob editor segmented segmented-control segmented-button segment form-input form-select form-textarea form-text-area form-check form-checkbox form-radio form-switch form-range labeled-input labelled-input labeled-select labeled-textarea", family: "forms", role: "control"},
	{words: "form fieldset field-set form-group", family: "forms", level: kit.Composite},
	{words: "form-item form-field field form-control form-row form-label label", family: "forms", text: "Height"},
	{words: "option select-option item-option", family: "forms", text: "North bank"},
	{words: "navbar nav-bar app-bar appbar top-bar header-bar page-header toolbar sidebar side-bar side-nav sidenav navigation-bar navigation-drawer navigation-rail nav-drawer header footer tab-bar bottom-navigation bar", family: "navigation", role: "bar", level: kit.Composite},
	{words: "nav navigation tabs tab-list tab-group breadcrumb breadcrumbs pagination paginator pager stepper steps tree-nav anchor-nav", family: "navigation", level: kit.Composite},
	{words: "link nav-link nav-item anchor hyperlink breadcrumb-item back-link", family: "navigation", role: "link", text: "All beds"},
	{words: "tab step breadcrumb-page", family: "navigation", text: "Overview"},
	{words: "tab-panel tab-pane tab-content tab-panels", family: "navigation", text: "What is known."},
	{words: "table data-table data-grid datagrid grid-table list list-view listview tree tree-view timeline calendar virtual-list descriptions description-list feed organization-chart chart", family: "data", level: kit.Composite},
	{words: "list-item tree-item timeline-item table-row row-item cell table-cell table-head table-body table-header th td tr statistic stat meter sparkline figure-value", family: "data", text: "Lime walk"},
	{words: "badge tag chip pill status status-light presence-badge indicator label-tag counter presence", family: "identity", role: "status", text: "Thriving"},
	{words: "avatar avatar-group persona profile user", family: "identity", text: "NA"},
	{words: "dialog modal drawer sheet side-panel popover popconfirm popup overlay tour hover-card offcanvas", family: "feedback", level: kit.Composite},
	{words: "alert banner callout notification toast snackbar message inline-message notice toaster result empty empty-state", family: "feedback", text: "The watering round was saved."},
	{words: "tooltip hint help-text", family: "feedback", text: "Also by the key S"},
	{words: "progress progress-bar progress-ring progress-indicator progress-spinner circular-progress linear-progress spinner loader loading loading-indicator skeleton skeleton-text ghost busy", family: "feedback"},
	{words: "heading headline title subtitle h1 h2 h3 h4 h5 h6 display", family: "content", text: "Specimens"},
	{words: "text paragraph typography caption body-text blockquote quote mark highlight code kbd kbd-key prose lead", family: "content", text: "Planted in spring, on the north bank."},
	{words: "card panel tile paper surface accordion accordion-group collapse collapsible expander details disclosure expansion-panel carousel slideshow gallery media", family: "content", level: kit.Composite, text: "Lime walk"},
	{words: "accordion-item collapse-item accordion-panel carousel-item slide carousel-slide", family: "content", text: "Lime walk"},
	{words: "image img picture thumbnail video icon svg-icon figure qrcode qr-code watermark logo animated-image", family: "content"},
	{words: "divider separator rule hr", family: "content"},
	{words: "stack hstack vstack row col column grid simple-grid flex box container center space spacer layout group columns section aspect-ratio view page main content split splitter resizable scroll-area scroll-view masonry bento wrap inline cluster surface-layout", family: "layout"},
	{words: "provider config-provider theme theme-provider context portal transition fade grow zoom slide-transition animation focus-trap focus-lock visually-hidden screen-reader-only css-baseline global-styles no-ssr client-only resize-observer intersection-observer mutation-observer observer click-away-listener ripple focus-ring elevation format-date format-number format-bytes relative-time affix backdrop include cropper hydration error-boundary", family: "helpers"},
}

// part are last words of names that say: it is a part of what stands before it.
var partWords = []string{"item", "option", "panel", "pane", "tab", "step", "header", "footer", "body", "content", "title", "description", "trigger", "actions", "action", "list", "row", "cell", "column", "col", "label", "indicator", "group", "section", "slide", "page", "media", "image", "icon", "link", "separator", "divider", "th", "td", "tr", "thead", "tbody", "head", "control", "overlay", "close", "track", "range", "thumb", "root", "node", "toggle", "text", "button", "card-actions", "summary", "details"}

// Propose fills in what no source says of components: family, role, level, the prop with
// the label, the value that makes an action the main one, props worth showing on a line,
// where a part belongs, and an example with sensible content. Each is noted with its
// certainty, between 0 and 1, and why. A component for which skip is true stays as it is:
// its makers' notes speak of it.
func Propose(list []*kit.Component, skip func(tag string) bool) {
	p := proposer{
		byName: map[string]*kit.Component{}, icons: map[*kit.Component]bool{}, parts: map[*kit.Component][]*kit.Component{},
		of: map[*kit.Component]*kit.Component{}, begins: map[string]int{},
	}
	for _, c := range list {
		p.byName[p.name(c)] = c
	}
	for _, c := range icons(list, p.name, propNames) {
		p.icons[c] = true
	}
	for _, c := range list {
		words := strings.Split(p.name(c), "-")
		for n := 1; n < len(words); n++ {
			p.begins[strings.Join(words[:n], "-")]++
		}
	}
	for _, c := range list {
		if p.icons[c] {
			continue
		}
		if parent, ok := p.parent(c); ok {
			p.of[c] = parent
			p.parts[parent] = append(p.parts[parent], c)
		}
	}
	for _, c := range list {
		if skip == nil || !skip(c.Tag) {
			p.component(c)
		}
	}
	for _, c := range list {
		if skip == nil || !skip(c.Tag) {
			p.example(c)
		}
	}
}

type proposer struct {
	byName map[string]*kit.Component
	parts  map[*kit.Component][]*kit.Component
	of     map[*kit.Component]*kit.Component
	icons  map[*kit.Component]bool
	begins map[string]int // how many names begin with a name and go on
}

// name is a component's name in lower case with dashes, without the library's.
func (p *proposer) name(c *kit.Component) string { return withoutLibrary(c.Tag) }

func withoutLibrary(tag string) string {
	_, short, _ := strings.Cut(tag, "-")
	return strings.Trim(short, "-")
}

// parent is the component that one is a part of, by its name: "tabs.list" of "tabs",
// "menu-item" of "menu", "tab-panel" of "tabs".
func (p *proposer) parent(c *kit.Component) (*kit.Component, bool) {
	if root, _, ok := cutLast(c.Export, "."); ok {
		if parent, ok := p.byName[Kebab(root)]; ok && parent != c {
			return parent, true
		}
	}
	words := strings.Split(p.name(c), "-")
	if len(words) > 1 && words[len(words)-1] == "root" {
		return nil, false // it is the whole
	}
	for n := len(words) - 1; n > 0; n-- { // where a root stands beside it, that is what it is in
		if root, ok := p.byName[strings.Join(words[:n], "-")+"-root"]; ok && root != c {
			return root, true
		}
	}
	for n := len(words) - 1; n > 0; n-- {
		if !slices.Contains(partWords, words[n]) && !slices.Contains(partWords, strings.Join(words[n:], "-")) {
			break
		}
		base := strings.Join(words[:n], "-")
		for _, name := range []string{base, base + "s", base + "-group", strings.TrimSuffix(base, "s"), base + "-list"} {
			if parent, ok := p.byName[name]; ok && parent != c {
				return parent, true
			}
		}
	}
	// Of three and more that begin with one's name, those that are nothing else by theirs
	// are its parts.
	if _, sure, _ := suggest(p.name(c)); sure < 0.95 {
		for n := len(words) - 1; n > 0; n-- {
			base := strings.Join(words[:n], "-")
			if parent, ok := p.byName[base]; ok && parent != c && p.begins[base] >= 3 {
				return parent, true
			}
		}
	}
	for _, name := range inside[strings.Join(words, "-")] {
		if parent, ok := p.byName[name]; ok && parent != c {
			return parent, true
		}
	}
	if len(words) == 1 { // "tab" of "tabs"
		for _, name := range []string{words[0] + "s", words[0] + "-group"} {
			if parent, ok := p.byName[name]; ok && slices.Contains([]string{"tab", "step", "option", "accordion-item", "timeline-item", "breadcrumb"}, words[0]) {
				return parent, true
			}
		}
	}
	return nil, false
}

// inside are components that stand in others whose names do not begin theirs.
var inside = map[string][]string{
	"option": {"select", "listbox", "list-box", "combobox"}, "option-group": {"select", "listbox"}, "opt-group": {"select"},
	"sub-menu": {"menu"}, "submenu": {"menu"}, "menu-item-group": {"menu"}, "split-panel": {"splitter"}, "splitter-panel": {"splitter"},
	"td": {"table-row", "table"}, "th": {"table-row", "table"}, "tr": {"table-body", "table"}, "panel": {"accordion", "tabs"},
}

func cutLast(s, sep string) (before, after string, ok bool) {
	i := strings.LastIndex(s, sep)
	if i < 0 {
		return s, "", false
	}
	return s[:i], s[i+len(sep):], true
}

// suggest finds what a name suggests: the longest words that end it, then those in it.
func suggest(name string) (s suggestion, certainty float64, why string) {
	best := 0
	for _, each := range suggestions {
		for _, w := range strings.Fields(each.words) {
			switch {
			case name == w:
				if 1000+len(w) > best {
					s, certainty, best, why = each, 0.95, 1000+len(w), fmt.Sprintf("it is called %s", w)
				}
			case strings.HasSuffix(name, "-"+w):
				if 500+len(w) > best {
					s, certainty, best, why = each, 0.85, 500+len(w), fmt.Sprintf("its name ends with %s", w)
				}
			case strings.HasPrefix(name, w+"-") || strings.Contains(name, "-"+w+"-"):
				if len(w) > best {
					s, certainty, best, why = each, 0.5, len(w), fmt.Sprintf("its name has %s in it", w)
				}
			}
		}
	}
	return s, certainty, why
}

func (p *proposer) component(c *kit.Component) {
	name := p.name(c)
	note := func(what, value string, certainty float64, why string) {
		c.Guesses = append(c.Guesses, kit.Guess{What: what, Value: value, Certainty: certainty, Why: why})
	}
	if p.icons[c] {
		c.Family, c.Level, c.Telling = IconFamily, kit.Basic, p.telling(c)
		note("family", IconFamily, 0.9, "it is called and set as many others are that are icons")
		return
	}
	s, certainty, why := suggest(name)
	if parent := p.of[c]; parent != nil && certainty < 0.9 {
		// A part goes where the whole goes.
		if of, sure, _ := suggest(p.name(parent)); sure > 0 {
			why = "it is a part of " + parent.Title
			s = suggestion{family: of.family, role: s.role, level: kit.Basic, text: s.text}
			certainty = 0.7
			if s.role == "control" || s.role == "bar" {
				s.role = ""
			}
		}
	}
	if s.family == "" {
		s.family, certainty, why = "others", 0.2, "its name says nothing of what it is"
		if hasProp(c, "checked", "value") && len(c.Events) > 0 && hasProp(c, "disabled") {
			s.family, s.role, certainty, why = "forms", "control", 0.5, "it has a value, can be disabled and tells of changes"
		}
	}
	if s.family == "forms" && s.role == "" && tellsItsValue(c) {
		s.role, certainty, why = "control", min(certainty, 0.8), why+", has a value and tells of changes"
	}
	// A thing that can be disabled and is pressed, or that leads somewhere, acts.
	c.Family, c.Role, c.Level = s.family, s.role, kit.Basic
	if s.level != "" {
		c.Level = s.level
	}
	note("family", s.family, certainty, why)
	if s.role != "" {
		note("role", s.role, certainty, why)
	}
	if s.alias != "" {
		c.Aliases = append(c.Aliases, s.alias)
	}
	if prop, sure := p.label(c, s); prop != "" {
		if s.role == "control" {
			c.NameProp = prop
			note("label", prop, sure, "a control with a prop of this name is labelled by it")
		}
	} else if s.role == "action" || s.role == "link" {
		if c.TakesText() {
			c.Labelled = true
			note("label", "its text", 0.8, "what is pressed says what it does")
		}
	}
	c.Telling = p.telling(c)
	if s.role == "action" {
		if main := p.main(c); main != nil {
			c.Main = main
			note("main", main.Prop+" "+main.Value, 0.8, "libraries call the main action so")
		}
		for _, acts := range []string{"href", "to"} {
			if hasProp(c, acts) {
				c.Acts = append(c.Acts, acts)
			}
		}
	}
	if s.family == "content" && s.text == "Specimens" {
		h := &kit.Heading{}
		switch {
		case len(name) == 2 && name[0] == 'h' && name[1] >= '1' && name[1] <= '6':
			h.Level = int(name[1] - '0')
		default:
			for _, level := range []string{"level", "order", "heading-level", "headingLevel", "as", "tag"} {
				if pr, ok := c.Prop(level); ok && pr.Type != kit.Bool {
					h.LevelProp = level
					break
				}
			}
		}
		if h.Level > 0 || h.LevelProp != "" {
			c.Heading = h
			note("heading", firstOf(h.LevelProp, name), 0.7, "it is called as headings are")
		}
	}
	if hasProp(c, "src") && hasProp(c, "alt") {
		c.Picture = &kit.Picture{Src: "src", Alt: "alt"}
		note("picture", "src", 0.9, "it has src and alt")
	}
	if c.Deprecated != "" && c.Replacement == "" {
		c.Replacement = p.replacement(c)
	}
	for i := range c.Props {
		pr := &c.Props[i]
		if n := strings.ToLower(pr.Name); (n == "icon" || strings.HasSuffix(n, "icon") || c.Family == "content" && name == "icon" && n == "name") && pr.Type == kit.Text && !pr.JSON {
			pr.Icon = false // which names there are only the library knows
		}
	}
	if whole := p.of[c]; whole != nil {
		note("part of", whole.Tag, 0.75, "its name begins with that")
	}
}

// tellsItsValue tells whether a component has a value of its own, and an event by that name: nothing
// stands in it that could have it instead.
func tellsItsValue(c *kit.Component) bool {
	if _, takes := c.Slot(""); takes {
		return false
	}
	plain := func(s string) string { return strings.ToLower(strings.ReplaceAll(s, "-", "")) }
	return slices.ContainsFunc([]string{"value", "checked", "modelValue", "model-value"}, func(name string) bool {
		return hasProp(c, name) && slices.ContainsFunc(c.Events, func(e kit.Named) bool {
			said := strings.TrimPrefix(plain(e.Name), "on")
			return said == plain(name)+"change" || said == "update:"+plain(name)
		})
	})
}

func propNames(c *kit.Component) []string {
	names := make([]string, 0, len(c.Props))
	for _, p := range c.Props {
		names = append(names, p.Name)
	}
	return names
}

func hasProp(c *kit.Component, names ...string) bool {
	return slices.ContainsFunc(c.Props, func(p kit.Prop) bool { return slices.Contains(names, p.Name) })
}

// label is the prop with a component's words.
func (p *proposer) label(c *kit.Component, s suggestion) (string, float64) {
	for i, name := range []string{"label", "labelText", "label-text", "fieldLabel", "legend", "ariaLabel", "aria-label", "accessibleName"} {
		if pr, ok := own(c, name); ok && pr.Type == kit.Text {
			return pr.Name, 0.9 - 0.05*float64(i)
		}
	}
	if s.role != "control" && !c.TakesText() {
		for _, name := range []string{"text", "title", "heading", "header", "content", "message"} {
			if pr, ok := own(c, name); ok && pr.Type == kit.Text {
				return pr.Name, 0.6
			}
		}
	}
	return "", 0
}

func own(c *kit.Component, name string) (*kit.Prop, bool) {
	i := slices.IndexFunc(c.Props, func(p kit.Prop) bool { return p.Name == name })
	if i < 0 {
		return nil, false
	}
	return &c.Props[i], true
}

// looks are the props that libraries use for the look of a component, the most telling
// first.
var looks = []string{"variant", "emphasis", "appearance", "kind", "type", "mode", "fill", "view", "theme", "color", "colour", "intent", "tone", "status", "severity", "size", "shape", "level", "orientation", "label"}

func (p *proposer) telling(c *kit.Component) []string {
	out := []string{}
	for _, name := range looks {
		if pr, ok := own(c, name); ok && (pr.Type == kit.Enum || name == "label") && len(out) < 3 {
			out = append(out, name)
		}
	}
	return out
}

func (p *proposer) main(c *kit.Component) *kit.Choice {
	for _, prop := range looks {
		pr, ok := own(c, prop)
		if !ok || pr.Type != kit.Enum {
			continue
		}
		for _, value := range []string{"primary", "strong", "filled", "contained", "cta", "accent", "solid", "brand", "elevated"} {
			if slices.Contains(pr.Values, value) {
				return &kit.Choice{Prop: prop, Value: value}
			}
		}
	}
	for _, flag := range []string{"primary", "cta", "raised"} {
		if pr, ok := own(c, flag); ok && pr.Type == kit.Bool {
			return &kit.Choice{Prop: flag, Value: "true"}
		}
	}
	return nil
}

// replacement is the component that a note of deprecation names.
func (p *proposer) replacement(c *kit.Component) string {
	for _, w := range strings.FieldsFunc(c.Deprecated, func(r rune) bool {
		return !strings.ContainsRune("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-.", r)
	}) {
		for _, name := range []string{Kebab(w), strings.ToLower(w)} {
			for _, o := range p.byName {
				if o != c && (o.Tag == name || p.name(o) == name && strings.ContainsAny(w, "ABCDEFGHIJKLMNOPQRSTUVWXYZ-")) {
					return o.Tag
				}
			}
		}
	}
	return ""
}

// words are what examples say in props, by name; all of it is made up.
var words = map[string]string{
	"label": "Height", "title": "Lime walk", "heading": "Lime walk", "header": "Lime walk", "name": "Noor Abadi",
	"placeholder": "by name", "description": "Planted in spring.", "message": "The watering round was saved.",
	"text": "Thriving", "content": "Thriving", "alt": "A lime tree", "legend": "Condition", "summary": "Care",
	"helperText": "In metres", "helpText": "In metres", "help-text": "In metres", "initials": "NA", "tooltip": "Also by the key S",
	"caption": "Beds", "subtitle": "North bank", "subheader": "North bank",
}

// example makes up a use that shows something.
func (p *proposer) example(c *kit.Component) {
	name := p.name(c)
	s, _, _ := suggest(name)
	ex := kit.Example{Props: map[string]string{}}
	for i := range c.Props {
		pr := &c.Props[i]
		if value, ok := p.value(c, pr, s); ok {
			ex.Props[pr.Name] = value
		}
	}
	if c.Family == "feedback" && c.Level == kit.Composite {
		for _, open := range append(slices.Clone(kit.OpenFlags), "defaultopen") {
			at := slices.IndexFunc(c.Props, func(pr kit.Prop) bool {
				return pr.Type == kit.Bool && strings.ToLower(strings.ReplaceAll(pr.Name, "-", "")) == open
			})
			if at >= 0 {
				ex.Props[c.Props[at].Name] = "true"
				break
			}
		}
	}
	c.Within = p.within(c)
	parts := p.children(c)
	picture, slot := p.picture(c, name)
	switch {
	case p.icons[c]: // says nothing, and nothing stands in it
	case picture != nil:
		ex.Children = []kit.Example{{Type: picture.Tag, Slot: slot}}
	case c.TakesText() && (c.Family == "helpers" || p.wantsElement(name)) && p.byName["button"] != nil && p.byName["button"] != c:
		ex.Children = []kit.Example{{Type: p.byName["button"].Tag, Text: "Open"}}
	case len(parts) > 0:
		ex.Children = parts
	case c.TakesText() && c.Family != "forms" && !(c.Family == "layout" && c.Level == kit.Basic) && !noText(name):
		ex.Text = firstOf(s.text, sentence(c.Title))
	case c.TakesText() && c.Family == "forms" && (slices.Contains([]string{"", "action"}, c.Role) || labelInText(name) && c.NameProp == ""):
		ex.Text = firstOf(s.text, sentence(c.Title))
	}
	if len(ex.Props) == 0 {
		ex.Props = nil
	}
	c.Example = ex
	c.Guesses = append(c.Guesses, kit.Guess{What: "example", Value: "made up", Certainty: 0.5, Why: "no source shows a use"})
}

// picture is an icon of the library's for a button that shows one alone, and its slot.
func (p *proposer) picture(c *kit.Component, name string) (icon *kit.Component, slot string) {
	if len(p.icons) == 0 || name != "icon-button" && !strings.HasSuffix(name, "-icon-button") {
		return nil, ""
	}
	for _, of := range []string{"icon", ""} {
		if _, ok := c.Slot(of); !ok {
			continue
		}
		for _, common := range []string{"edit", "add", "plus", "search", "settings", "star"} {
			for _, called := range []string{common + "-icon", "icon-" + common} {
				if found := p.byName[called]; p.icons[found] {
					return found, of
				}
			}
		}
	}
	return nil, ""
}

// within lists what a part is drawn in: its whole, and where that has a root of its own,
// that.
func (p *proposer) within(c *kit.Component) []kit.Example {
	var out []kit.Example
	at := c
	for range 4 {
		whole := p.of[at]
		if whole == nil || whole == c || slices.ContainsFunc(out, func(e kit.Example) bool { return e.Type == whole.Tag }) {
			break
		}
		next := whole
		if root, ok := p.byName[p.name(whole)+"-root"]; ok && root != c {
			whole = root
		}
		name := p.name(whole)
		holds := strings.HasSuffix(name, "group") || strings.HasSuffix(name, "-root") || name == "select"
		if _, takes := whole.Slot(""); !takes || whole.Role == "control" && !holds {
			break
		}
		e := kit.Example{Type: whole.Tag, Props: map[string]string{}}
		s, _, _ := suggest(p.name(whole))
		for i := range whole.Props {
			if pr := &whole.Props[i]; pr.Required {
				if value, ok := p.value(whole, pr, s); ok {
					e.Props[pr.Name] = value
				}
			}
		}
		out = append([]kit.Example{e}, out...)
		at = next
	}
	return out
}

// wantsElement tells of components that do something to the one element in them.
func (p *proposer) wantsElement(name string) bool {
	for _, w := range []string{"target", "trigger", "activator", "tooltip", "popconfirm", "hover-card", "ripple", "badge-wrapper", "affix", "focus-trap"} {
		if name == w || strings.HasSuffix(name, "-"+w) {
			return true
		}
	}
	return false
}

func labelInText(name string) bool {
	for _, w := range []string{"checkbox", "radio", "switch", "check", "toggle"} {
		if name == w || strings.HasSuffix(name, "-"+w) {
			return true
		}
	}
	return false
}

// noText tells of components in which words have no place.
func noText(name string) bool {
	for _, w := range []string{"divider", "separator", "hr", "spinner", "loader", "skeleton", "progress", "image", "img", "icon", "spacer", "avatar-group", "circular-progress", "linear-progress", "progress-bar", "progress-ring", "rating", "video", "input", "slider", "pagination", "ripple", "elevation", "focus-ring"} {
		if name == w || strings.HasSuffix(name, "-"+w) {
			return true
		}
	}
	return false
}

var isoDate = regexp.MustCompile(`\b\d{4}-\d{2}-\d{2}\b`)

// value is what an example sets a prop to, where it sets it at all.
func (p *proposer) value(c *kit.Component, pr *kit.Prop, s suggestion) (string, bool) {
	label := pr.Name == c.NameProp
	switch {
	case pr.Deprecated != "":
		return "", false
	case label:
		return words["label"], true
	case pr.JSON:
		if list := dataOf(pr); list != "" && (pr.Required || slices.Contains([]string{"options", "items", "data", "dataSource", "columns", "suggestions", "steps", "model", "value"}, pr.Name) && pr.Name != "value" || pr.Required) {
			return list, true
		}
		return "", false
	case pr.URL:
		if pr.Required && pr.Name != "src" {
			return "#", true
		}
		return "", false
	case pr.Type == kit.Text && pr.Name == "value" && isoDate.MatchString(pr.Summary): // a day that is chosen shows more
		return isoDate.FindString(pr.Summary), true
	case pr.Type == kit.Text && len(pr.Values) == 0:
		if w, ok := words[pr.Name]; ok && (pr.Required || !c.TakesText() || slices.Contains([]string{"label", "placeholder", "title", "heading", "header", "legend", "summary"}, pr.Name)) && (pr.Name != "title" || !c.TakesText() || c.Level == kit.Composite || slices.ContainsFunc(c.Slots, func(sl kit.Slot) bool { return sl.Name == "title" })) && (pr.Name != "name" || s.family == "identity") && (pr.Name != "alt" || pr.Required) {
			return w, true
		}
		if pr.Required {
			return sentence(strings.ReplaceAll(Kebab(pr.Name), "-", " ")), true
		}
	case pr.Required && pr.Type == kit.Enum && pr.Default == "" && len(pr.Values) > 0:
		return pr.Values[0], true
	case pr.Type == kit.Number && pr.Required:
		return "3", true
	case pr.Type == kit.Number && slices.Contains([]string{"value", "percent", "percentage", "progress"}, pr.Name) && s.family == "feedback":
		return "60", true
	case pr.Type == kit.Number && slices.Contains([]string{"total", "count", "pageCount", "page-count", "totalRecords", "pageSize"}, pr.Name) && s.family == "navigation":
		return "8", true
	}
	return "", false
}

// dataOf is a made-up list for a prop that takes one, by what its declared type names.
func dataOf(pr *kit.Prop) string {
	shape := pr.Shape
	list := strings.Contains(shape, "[]") || strings.Contains(shape, "Array") || strings.Contains(shape, "List")
	if !list && !strings.Contains(shape, "any") && shape != "" && !strings.Contains(shape, "Options") {
		return ""
	}
	var rows []map[string]any
	switch {
	case strings.HasPrefix(shape, "string[]") || shape == "Array<string>":
		b, _ := json.Marshal([]string{"North bank", "Lime walk", "Pond side"})
		return string(b)
	case strings.HasPrefix(shape, "number[]"):
		return "[20, 60]"
	case pr.Name == "columns":
		for _, n := range [][2]string{{"Bed", "bed"}, {"Trees", "trees"}} {
			rows = append(rows, map[string]any{"title": n[0], "label": n[0], "header": n[0], "name": n[0], "field": n[1], "dataIndex": n[1], "key": n[1], "prop": n[1]})
		}
	case slices.Contains([]string{"data", "dataSource", "rows"}, pr.Name):
		for i, n := range []string{"North bank", "Lime walk"} {
			rows = append(rows, map[string]any{"key": i + 1, "id": i + 1, "bed": n, "trees": 14 + 8*i, "label": n, "value": n})
		}
	default:
		for _, n := range [][2]string{{"North bank", "north"}, {"Lime walk", "lime"}, {"Pond side", "pond"}} {
			rows = append(rows, map[string]any{"label": n[0], "value": n[1], "key": n[1], "title": n[0], "name": n[0], "text": n[0]})
		}
	}
	b, _ := json.Marshal(rows)
	return string(b)
}

// children are the parts that stand in a component, twice where there are more of a kind.
func (p *proposer) children(c *kit.Component) []kit.Example {
	if _, ok := c.Slot(""); !ok {
		return nil
	}
	var items []*kit.Component
	for _, part := range p.parts[c] {
		n := p.name(part)
		switch last := n[strings.LastIndex(n, "-")+1:]; last {
		case "item", "option", "step", "tab", "slide", "breadcrumb":
			items = append(items, part)
		}
	}
	labels := []string{"Overview", "Care", "History"}
	one := func(part *kit.Component, i int) kit.Example {
		e := kit.Example{Type: part.Tag, Props: map[string]string{}}
		said := false
		for _, name := range []string{"label", "title", "header", "text", "heading"} {
			if pr, ok := own(part, name); ok && pr.Type == kit.Text && !pr.JSON {
				e.Props[name], said = labels[i], true
				break
			}
		}
		for _, name := range []string{"value", "name", "itemKey", "eventKey", "panel", "id"} {
			if pr, ok := own(part, name); ok && pr.Type == kit.Text && (pr.Required || name == "value") {
				e.Props[name] = strings.ToLower(labels[i])
				break
			}
		}
		if part.TakesText() && (!said || strings.HasSuffix(p.name(part), "panel") || strings.HasSuffix(p.name(part), "item") && p.of[part] != nil && c.Family == "content") {
			e.Text = labels[i]
			if said {
				e.Text = "What is known."
			}
		}
		if len(e.Props) == 0 {
			e.Props = nil
		}
		return e
	}
	var out []kit.Example
	if len(items) > 0 {
		for i := range labels[:2] {
			out = append(out, one(items[0], i))
		}
	}
	return out
}

func sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
