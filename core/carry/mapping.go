// Package carry takes screens from one kit to another: to a newer version of their own,
// or to another library. What corresponds is proposed from roles, families, names, props
// and values, each pair with its certainty and what it loses; a person decides, and the
// decision is an open file. Carrying over is then computed: settings that have a
// counterpart move to it, and nothing is dropped. What has none stays written on its
// element, is listed, and is a finding there until somebody repairs it.
package carry

import (
	"cmp"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit"
)

// Format is the version of mapping files.
const Format = "ubiquant.kit-mapping/1"

// Mapping says what becomes of a kit's components in another.
type Mapping struct {
	Format     string      `json:"format"`
	From       string      `json:"from"` // name and version
	To         string      `json:"to"`
	Components []Component `json:"components"`
}

// Component says what becomes of one component.
type Component struct {
	From string `json:"from"`
	// To is its counterpart; empty where it has none.
	To        string  `json:"to"`
	Certainty float64 `json:"certainty"`
	Why       string  `json:"why,omitempty"`
	Decided   string  `json:"decided,omitempty"` // by whom; empty for a proposal
	Props     []Prop  `json:"props,omitempty"`
	Slots     []Slot  `json:"slots,omitempty"`
	// Text is the prop that takes the words of the element, where its counterpart has no
	// place for them; Words is the prop whose words become those of the element.
	Text  string `json:"text,omitempty"`
	Words string `json:"words,omitempty"`
	// Others are further candidates, the best first.
	Others []string `json:"others,omitempty"`
}

// Prop says what becomes of a prop; To is empty where it has no counterpart.
type Prop struct {
	From      string            `json:"from"`
	To        string            `json:"to"`
	Certainty float64           `json:"certainty"`
	Why       string            `json:"why,omitempty"`
	Values    map[string]string `json:"values,omitempty"` // those that are called otherwise
	Lost      []string          `json:"lost,omitempty"`   // values without a counterpart
}

// Slot says what becomes of a slot.
type Slot struct {
	From string `json:"from"`
	To   string `json:"to"`
	Lost bool   `json:"lost,omitempty"` // there is no place for what stands in it
}

// Find gives what becomes of a component.
func (m *Mapping) Find(from string) (*Component, bool) {
	i := slices.IndexFunc(m.Components, func(c Component) bool { return c.From == from })
	if i < 0 {
		return nil, false
	}
	return &m.Components[i], true
}

// Write gives the mapping as a file.
func (m *Mapping) Write() []byte {
	m.Format = Format
	b, err := json.MarshalIndent(m, "", " ")
	if err != nil { // texts and lists alone
		panic(err)
	}
	return append(b, '\n')
}

// Read reads a mapping file and holds it against the kits. What names something that
// neither kit has is an error, by place.
func Read(src []byte, from, to *kit.Kit) (*Mapping, error) {
	var m Mapping
	if len(src) > 8<<20 {
		return nil, fmt.Errorf("a mapping has at most 8 MB")
	}
	if err := json.Unmarshal(src, &m); err != nil {
		return nil, err
	}
	if m.Format != Format {
		return nil, fmt.Errorf("/format: %q cannot be read; accepted: %q", m.Format, Format)
	}
	for i, c := range m.Components {
		at := fmt.Sprintf("/components/%d", i)
		was, ok := from.Component(c.From)
		if !ok {
			return nil, fmt.Errorf("%s/from: %s has no component %q", at, from.Title, c.From)
		}
		if c.To == "" {
			continue
		}
		is, ok := to.Component(c.To)
		if !ok {
			return nil, fmt.Errorf("%s/to: %s has no component %q", at, to.Title, c.To)
		}
		for j, p := range c.Props {
			if _, ok := was.Prop(p.From); !ok {
				return nil, fmt.Errorf("%s/props/%d/from: %s has no prop %q", at, j, c.From, p.From)
			}
			if p.To != "" {
				if _, ok := is.Prop(p.To); !ok {
					return nil, fmt.Errorf("%s/props/%d/to: %s has no prop %q", at, j, c.To, p.To)
				}
			}
		}
	}
	return &m, nil
}

// Loose reads of a mapping file what can be read, whatever kits it speaks of.
func Loose(src []byte) *Mapping {
	var m Mapping
	if len(src) > 8<<20 || json.Unmarshal(src, &m) != nil {
		return &Mapping{}
	}
	return &m
}

// With lays decisions over a proposal: what somebody decided counts, also where it was
// decided for an earlier version, as far as both kits still have what it names.
func (m Mapping) With(decided *Mapping, from, to *kit.Kit) Mapping {
	m.Components = slices.Clone(m.Components)
	for _, d := range decided.Components {
		if d.Decided == "" {
			continue
		}
		if _, ok := to.Component(d.To); !ok && d.To != "" {
			continue
		}
		if own, ok := m.Find(d.From); ok {
			*own = pair(from, to, d.From, d.To)
			own.Decided, own.Why, own.Certainty = d.Decided, "decided", 1
			for _, p := range d.Props {
				if i := slices.IndexFunc(own.Props, func(q Prop) bool { return q.From == p.From }); i >= 0 {
					own.Props[i] = p
				}
			}
		}
	}
	return m
}

// Propose proposes what becomes of every component. notes are the newer kit's own account
// of its changes, where it is a version of the same library; they may be empty.
func Propose(from, to *kit.Kit, notes string) Mapping {
	m := Mapping{Format: Format, From: from.Name + " " + from.Version, To: to.Name + " " + to.Version}
	renamed := renames(notes)
	for _, c := range from.Components {
		if is, ok := own(to, c.Tag); ok && from.Name == to.Name {
			p := pair(from, to, c.Tag, is.Tag)
			p.Certainty, p.Why = 1, "it is called the same"
			p.told(c, is, renamed)
			m.Components = append(m.Components, p)
			continue
		}
		m.Components = append(m.Components, best(from, to, c, renamed))
	}
	return m
}

func own(k *kit.Kit, tag string) (*kit.Component, bool) {
	c, ok := k.Component(tag)
	return c, ok && c.Level != kit.Layout
}

var (
	renamePattern = regexp.MustCompile("[`\"“]?([A-Za-z][\\w.:-]*)[`\"”]?\\s*(?:→|->|=>|is now(?: called)?|was renamed(?: to)?|renamed to|is called|becomes|has become)\\s*[`\"“]?([A-Za-z][\\w.:-]*)[`\"”]?")
	renamedTo     = regexp.MustCompile("(?i)renam\\w*\\s+[`\"“]?([A-Za-z][\\w.:-]*)[`\"”]?\\s+(?:to|into|as)\\s+[`\"“]?([A-Za-z][\\w.:-]*)[`\"”]?")
)

// renames reads in a library's notes what it says of new names.
func renames(notes string) map[string]string {
	out := map[string]string{}
	for _, line := range strings.Split(notes, "\n") {
		if len(line) > 2_000 {
			continue
		}
		for _, re := range []*regexp.Regexp{renamedTo, renamePattern} {
			for _, m := range re.FindAllStringSubmatch(line, 8) {
				if m[1] != m[2] {
					out[strings.TrimRight(m[1], ".")] = strings.TrimRight(m[2], ".")
				}
			}
		}
	}
	return out
}

// told takes over what the notes say of props and values that are gone.
func (c *Component) told(was, is *kit.Component, renamed map[string]string) {
	for i := range c.Props {
		p := &c.Props[i]
		if to := renamed[p.From]; p.To == "" && to != "" {
			if _, ok := is.Prop(to); ok {
				*p = propPair(was, is, p.From, to)
				p.Certainty, p.Why = 0.95, "its notes say so"
			}
		}
		def, ok := is.Prop(p.To)
		if !ok {
			continue
		}
		p.Lost = slices.DeleteFunc(p.Lost, func(v string) bool {
			to := renamed[v]
			if to == "" || !slices.Contains(def.Values, to) {
				return false
			}
			if p.Values == nil {
				p.Values = map[string]string{}
			}
			p.Values[v] = to
			return true
		})
	}
}

// short is a component's name without its library's.
func short(c *kit.Component) string {
	_, name, _ := strings.Cut(c.Tag, "-")
	return strings.Trim(name, "-")
}

// alike are names of the trade for one thing. The first is only the first.
var alike = [][]string{
	strings.Fields("button btn"),
	strings.Fields("text-field text-input textfield input input-text string-field"),
	strings.Fields("text-area textarea multiline-input"),
	strings.Fields("number-field number-input input-number numeric-input"),
	strings.Fields("select dropdown-select native-select combobox combo-box listbox picker"),
	strings.Fields("checkbox check tick check-box"),
	strings.Fields("radio radio-button"),
	strings.Fields("radio-group choice-group radios"),
	strings.Fields("switch toggle toggle-switch"),
	strings.Fields("slider range"),
	strings.Fields("date-picker datepicker date-input date-field"),
	strings.Fields("search search-box search-input search-field searchbar"),
	strings.Fields("chip tag pill label badge lozenge"),
	strings.Fields("badge counter count indicator"),
	strings.Fields("avatar persona initials"),
	strings.Fields("dialog modal"),
	strings.Fields("drawer side-panel sheet offcanvas"),
	strings.Fields("notice alert banner callout message inline-message"),
	strings.Fields("toast snackbar notification"),
	strings.Fields("tooltip hint tip"),
	strings.Fields("popover popup hover-card"),
	strings.Fields("progress progress-bar linear-progress meter"),
	strings.Fields("spinner loader progress-ring circular-progress busy loading"),
	strings.Fields("skeleton placeholder ghost"),
	strings.Fields("navbar nav-bar app-bar appbar header top-bar bar header-bar"),
	strings.Fields("side-nav sidebar side-bar sidenav navigation-drawer rail nav"),
	strings.Fields("nav-item nav-link menu-link navigation-item"),
	strings.Fields("breadcrumbs breadcrumb trail"),
	strings.Fields("crumb breadcrumb-item breadcrumbs-item"),
	strings.Fields("tabs tab-group tab-bar tab-list"),
	strings.Fields("tab tab-item tab-panel"),
	strings.Fields("pager pagination paginator"),
	strings.Fields("steps stepper wizard"),
	strings.Fields("table data-table data-grid datagrid grid-table"),
	strings.Fields("row table-row tr"),
	strings.Fields("cell table-cell td"),
	strings.Fields("column table-column th header-cell"),
	strings.Fields("card panel tile paper"),
	strings.Fields("heading title headline"),
	strings.Fields("text paragraph typography body-text"),
	strings.Fields("link anchor hyperlink"),
	strings.Fields("divider separator rule hr"),
	strings.Fields("picture image img"),
	strings.Fields("field form-field form-item form-control form-row"),
	strings.Fields("form form-layout"),
	strings.Fields("list list-view"),
	strings.Fields("list-item item list-row"),
	strings.Fields("menu dropdown dropdown-menu action-menu"),
	strings.Fields("menu-item dropdown-item action-item"),
	strings.Fields("accordion collapse expander disclosure details"),
	strings.Fields("stat statistic figure metric kpi"),
	strings.Fields("page-header header-page title-bar"),
	strings.Fields("empty-state empty no-data blank-slate"),
	strings.Fields("icon svg-icon symbol"),
	strings.Fields("icon-button action-icon button-icon"),
}

// nearness of two names, 0 to 1.
func nearness(a, b string) float64 {
	if a == b {
		return 1
	}
	for _, group := range alike {
		if slices.Contains(group, a) && slices.Contains(group, b) {
			return 0.85
		}
	}
	x, y := strings.Split(a, "-"), strings.Split(b, "-")
	same := 0
	for _, w := range x {
		if slices.Contains(y, w) {
			same++
		}
	}
	all := len(x) + len(y) - same
	return 0.7 * float64(same) / float64(all)
}

// best chooses the counterpart of a component: by role, family, name and props.
func best(from, to *kit.Kit, c *kit.Component, renamed map[string]string) Component {
	type candidate struct {
		tag   string
		score float64
		why   string
	}
	var list []candidate
	for _, o := range to.Components {
		if o.Family == "helpers" {
			continue
		}
		name := nearness(short(c), short(o))
		score := 0.6 * name
		var why []string
		switch {
		case name == 1:
			why = append(why, "called the same")
		case name >= 0.85:
			why = append(why, "the trade's other name for it")
		case name > 0.2:
			why = append(why, "a similar name")
		}
		if c.Role == o.Role && c.Role != "" {
			score += 0.12
			why = append(why, "both have the role "+c.Role)
		} else if c.Role != "" && o.Role != "" {
			score -= 0.15
		}
		if c.Family == o.Family && c.Family != "others" && c.Family != "all" {
			score += 0.1
			why = append(why, "same family")
		}
		if share := overlap(c, o); share > 0 {
			score += 0.15 * share
			if share > 0.3 {
				why = append(why, fmt.Sprintf("%d %% of its props have a counterpart", int(share*100+0.5)))
			}
		}
		if c.Replacement == o.Tag || renamed[short(c)] == short(o) || renamed[c.Tag] == o.Tag || renamed[c.Export] == o.Export && o.Export != "" {
			score, why = 0.97, []string{"its notes say so"}
		}
		if name > 0.2 || score >= 0.9 {
			list = append(list, candidate{o.Tag, min(score, 0.97), strings.Join(why, ", ")})
		}
	}
	slices.SortStableFunc(list, func(a, b candidate) int {
		return cmp.Or(cmp.Compare(b.score, a.score), cmp.Compare(len(a.tag), len(b.tag)))
	})
	if len(list) == 0 || list[0].score < 0.4 {
		out := stand(from, to, c)
		for _, l := range list[:min(3, len(list))] {
			out.Others = append(out.Others, l.tag)
		}
		return out
	}
	out := pair(from, to, c.Tag, list[0].tag)
	out.Certainty, out.Why = list[0].score, list[0].why
	if is, ok := to.Component(out.To); ok {
		out.told(c, is, renamed)
	}
	for _, l := range list[1:min(4, len(list))] {
		out.Others = append(out.Others, l.tag)
	}
	return out
}

// stand is what stands in place of a component without a counterpart: a layout that holds
// what stood in it, so that a screen stays readable, or nothing.
func stand(from, to *kit.Kit, c *kit.Component) Component {
	none := "nothing there is called alike or does the same"
	slot, ok := c.Slot("")
	in := ""
	switch {
	case ok && !slot.Closed && (slot.Accepts == nil || len(slot.Accepts) > 0):
		if in = "stack"; across.MatchString(short(c)) {
			in = "row"
		}
	case ok && slot.Text:
		in = "markup"
	}
	if in == "" {
		return Component{From: c.Tag, Why: none}
	}
	out := pair(from, to, c.Tag, in)
	out.Props = nil // a layout's settings are others
	for i := range c.Props {
		out.Props = append(out.Props, Prop{From: c.Props[i].Name})
	}
	out.Certainty, out.Why = 0.3, none+"; what stands in it stays, in a layout"
	return out
}

// across are names of what holds things beside each other.
var across = regexp.MustCompile(`(^|-)(row|group|bar|crumbs|breadcrumbs|steps|pager|actions)$`)

// Stand tells that a component has a layout in its place, and no counterpart.
func (c *Component) Stand() bool {
	return c.To == "stack" || c.To == "row" || c.To == "markup"
}

// overlap is the share of a component's props that have a counterpart in another.
func overlap(c, o *kit.Component) float64 {
	if len(c.Props) == 0 {
		return 0
	}
	n := 0
	for i := range c.Props {
		if counterpart(&c.Props[i], o, nil) != "" {
			n++
		}
	}
	return float64(n) / float64(len(c.Props))
}

// alikeProps are names of the trade for one setting.
var alikeProps = [][]string{
	strings.Fields("emphasis variant appearance kind fill look view type"),
	strings.Fields("intent color colour tone severity status scheme"),
	strings.Fields("size scale"),
	strings.Fields("disabled isDisabled"),
	strings.Fields("to href url link"),
	strings.Fields("open opened visible show isOpen modelValue shown"),
	strings.Fields("checked on isSelected selected value modelValue"),
	strings.Fields("value modelValue defaultValue initialValue"),
	strings.Fields("label text title caption legend"),
	strings.Fields("heading title header label text"),
	strings.Fields("help helperText helpText hint description assistiveText"),
	strings.Fields("error errorMessage errorText invalid validationMessage"),
	strings.Fields("placeholder hint"),
	strings.Fields("required isRequired mandatory"),
	strings.Fields("options items data choices"),
	strings.Fields("busy loading pending isLoading"),
	strings.Fields("level order as"),
	strings.Fields("min minValue least"),
	strings.Fields("max maxValue most"),
	strings.Fields("pages total count pageCount"),
	strings.Fields("page current active activePage"),
	strings.Fields("icon name lead startIcon leftIcon"),
	strings.Fields("dense compact density"),
	strings.Fields("align textAlign alignment justify"),
	strings.Fields("src source image url"),
	strings.Fields("rows minRows lines"),
	strings.Fields("selected active current"),
}

// plainName is a name without what ways of writing put between its words.
func plainName(s string) string {
	out := make([]byte, 0, len(s))
	for i := range len(s) {
		switch c := s[i]; {
		case c == '-' || c == '_' || c == ':':
		case c >= 'A' && c <= 'Z':
			out = append(out, c+'a'-'A')
		default:
			out = append(out, c)
		}
	}
	return string(out)
}

// groupsOf are the groups of names for one setting that a name belongs to, by index.
var groupsOf = func() map[string][]int {
	out := map[string][]int{}
	for i, group := range alikeProps {
		for _, n := range group {
			if p := plainName(n); !slices.Contains(out[p], i) {
				out[p] = append(out[p], i)
			}
		}
	}
	return out
}()

// counterpart is the prop of another component that a prop becomes; empty for none. taken
// are those that are spoken for.
func counterpart(p *kit.Prop, o *kit.Component, taken map[string]bool) string {
	fits := func(q *kit.Prop) bool {
		if taken[q.Name] {
			return false
		}
		if q.JSON && !p.JSON {
			return listing(p) // a list that is written as a text can be written as one
		}
		return p.Type == q.Type || p.Type == kit.Enum && q.Type == kit.Text || p.Type == kit.Text && q.Type == kit.Enum && q.Open ||
			p.Type == kit.Number && q.Type == kit.Text || p.Type == kit.Text && q.Type == kit.Text
	}
	own := plainName(p.Name)
	byName := make(map[string]*kit.Prop, len(o.Props))
	for i := range o.Props {
		q := &o.Props[i]
		if name := plainName(q.Name); byName[name] == nil {
			byName[name] = q
		}
	}
	if q := byName[own]; q != nil && !taken[q.Name] {
		return q.Name
	}
	for _, g := range groupsOf[own] {
		for _, name := range alikeProps[g] {
			if q := byName[plainName(name)]; q != nil {
				if !fits(q) {
					continue
				}
				// Two choices that share no value are two settings.
				if p.Type == kit.Enum && q.Type == kit.Enum && !q.Open && len(valuesOf(p, q).shared) == 0 {
					continue
				}
				return q.Name
			}
		}
	}
	return ""
}

// listing tells of a text that lists things, by the trade's names for that.
func listing(p *kit.Prop) bool {
	return p.Type == kit.Text && slices.Contains([]string{"options", "items", "choices", "values", "steps", "suggestions"}, p.Name)
}

// listed writes "oak, elm" as the list that a prop takes, by its declared type; ok is
// false where it takes something else.
func listed(q *kit.Prop, text string) (out string, ok bool) {
	var words []string
	for _, w := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == '\n' }) {
		if w = strings.TrimSpace(w); w != "" {
			words = append(words, w)
		}
	}
	var list any = words
	switch {
	case strings.HasPrefix(q.Shape, "string[]") || strings.HasPrefix(q.Shape, "Array<string>"):
	case strings.Contains(q.Shape, "label") && strings.Contains(q.Shape, "value"):
		rows := []map[string]string{}
		for _, w := range words {
			rows = append(rows, map[string]string{"label": w, "value": w})
		}
		list = rows
	default:
		return "", false
	}
	b, err := json.Marshal(list)
	return string(b), err == nil
}

// alikeValues are names of the trade for one value.
var alikeValues = [][]string{
	strings.Fields("xs x-small extra-small tiny mini"),
	strings.Fields("s sm small"),
	strings.Fields("m md medium default normal middle regular"),
	strings.Fields("l lg large"),
	strings.Fields("xl x-large extra-large huge"),
	strings.Fields("strong primary filled solid contained cta brand accent"),
	strings.Fields("soft secondary outlined outline tonal light default quiet"),
	strings.Fields("bare quiet text link ghost plain tertiary subtle transparent borderless"),
	strings.Fields("danger error destructive critical negative red bad"),
	strings.Fields("success positive ok good thriving green"),
	strings.Fields("warning warn caution watch yellow orange"),
	strings.Fields("info informative information notice blue told"),
	strings.Fields("neutral plain default grey gray none secondary"),
	strings.Fields("start left begin leading"),
	strings.Fields("end right trailing"),
	strings.Fields("center centre middle"),
	strings.Fields("across horizontal row inline"),
	strings.Fields("down vertical column block"),
}

type matched struct {
	shared  map[string]string // every value that has a counterpart
	renamed map[string]string // those called otherwise
	lost    []string
}

func valuesOf(p, q *kit.Prop) matched {
	out := matched{shared: map[string]string{}, renamed: map[string]string{}}
	for _, v := range p.Values {
		to, ok := valueFor(v, q)
		switch {
		case !ok:
			out.lost = append(out.lost, v)
		default:
			out.shared[v] = to
			if to != v {
				out.renamed[v] = to
			}
		}
	}
	return out
}

func valueFor(v string, q *kit.Prop) (string, bool) {
	if slices.Contains(q.Values, v) {
		return v, true
	}
	for _, w := range q.Values {
		if plainName(w) == plainName(v) {
			return w, true
		}
	}
	for _, group := range alikeValues {
		if slices.Contains(group, strings.ToLower(v)) {
			for _, name := range group {
				for _, w := range q.Values {
					if strings.ToLower(w) == name {
						return w, true
					}
				}
			}
		}
	}
	return "", q.Open
}

// pair puts two components beside each other: props, values, slots and words.
func pair(from, to *kit.Kit, a, b string) Component {
	out := Component{From: a, To: b}
	was, ok := from.Component(a)
	is, found := to.Component(b)
	if !ok || !found {
		return out
	}
	taken := map[string]bool{}
	// What is called the same comes first, so that nothing else takes its place.
	for _, exact := range []bool{true, false} {
		for i := range was.Props {
			p := &was.Props[i]
			name := counterpart(p, is, taken)
			same := name != "" && plainName(name) == plainName(p.Name)
			if exact == same && (exact || !slices.ContainsFunc(out.Props, func(q Prop) bool { return q.From == p.Name })) {
				if name != "" {
					taken[name] = true
				}
				out.Props = append(out.Props, propPair(was, is, p.Name, name))
			}
		}
	}
	slices.SortStableFunc(out.Props, func(x, y Prop) int {
		index := func(n string) int { return slices.IndexFunc(was.Props, func(p kit.Prop) bool { return p.Name == n }) }
		return index(x.From) - index(y.From)
	})
	for _, s := range was.Slots {
		pair := Slot{From: s.Name}
		switch {
		case has(is, s.Name):
			pair.To = s.Name
		case slotAlike(s.Name, is) != "":
			pair.To = slotAlike(s.Name, is)
		case has(is, ""):
			pair.To = ""
		default:
			pair.Lost = true
		}
		out.Slots = append(out.Slots, pair)
	}
	if was.TakesText() && !is.TakesText() {
		for _, name := range append([]string{is.NameProp}, "label", "text", "title", "heading", "header", "children") {
			if p, ok := is.Prop(name); ok && name != "" && p.Type == kit.Text && !taken[name] {
				out.Text = p.Name
				break
			}
		}
	}
	if !was.TakesText() && is.TakesText() {
		for i := range out.Props {
			p := &out.Props[i]
			if p.To == "" && slices.Contains([]string{"label", "text", "title", "heading", "caption"}, p.From) {
				out.Words = p.From
				p.To, p.Certainty, p.Why = "(its words)", 0.8, "its words stand inside"
				break
			}
		}
	}
	return out
}

func has(c *kit.Component, slot string) bool { _, ok := c.Slot(slot); return ok }

var alikeSlots = [][]string{
	strings.Fields("lead prefix start icon leading left before leftSection startIcon"),
	strings.Fields("trail suffix end trailing right after rightSection endIcon"),
	strings.Fields("actions footer action buttons extra"),
	strings.Fields("header title heading label"),
	strings.Fields("footer actions foot"),
	strings.Fields("brand logo start title header"),
	strings.Fields("picture media cover image"),
}

func slotAlike(name string, c *kit.Component) string {
	for _, group := range alikeSlots {
		if !slices.Contains(group, name) {
			continue
		}
		for _, n := range group {
			if has(c, n) {
				return n
			}
		}
	}
	return ""
}

func propPair(was, is *kit.Component, a, b string) Prop {
	out := Prop{From: a, To: b}
	p, ok := was.Prop(a)
	q, found := is.Prop(b)
	if !ok || !found {
		return out
	}
	switch {
	case a == b:
		out.Certainty, out.Why = 1, "called the same"
	case plainName(a) == plainName(b):
		out.Certainty, out.Why = 0.95, "written otherwise"
	default:
		out.Certainty, out.Why = 0.75, "the trade's other name for it"
	}
	if p.Type == kit.Enum && q.Type == kit.Enum {
		v := valuesOf(p, q)
		if len(v.renamed) > 0 {
			out.Values = v.renamed
		}
		out.Lost = v.lost
		if len(p.Values) > 0 {
			out.Certainty *= 0.6 + 0.4*float64(len(v.shared))/float64(len(p.Values))
		}
	}
	return out
}

// Coverage is how far a mapping reaches.
type Coverage struct {
	Components   int      `json:"components"`
	Corresponds  int      `json:"corresponds"`
	Decided      int      `json:"decided"`
	Unsure       int      `json:"unsure"` // proposed with less than 0.6
	Counterparts []string `json:"-"`
	Without      []string `json:"without"` // components without a counterpart
	Uses         int      `json:"uses"`    // elements on screens
	Carried      int      `json:"carried"` // of them, those whose component has a counterpart
}

// Cover counts a mapping, with how often each component is used.
func (m *Mapping) Cover(uses map[string]int) Coverage {
	out := Coverage{Components: len(m.Components), Without: []string{}}
	for _, c := range m.Components {
		n := uses[c.From]
		out.Uses += n
		switch {
		case c.To == "" || c.Stand():
			out.Without = append(out.Without, c.From)
			continue
		case c.Decided == "" && c.Certainty < 0.6:
			out.Unsure++
		}
		out.Corresponds++
		out.Carried += n
		if c.Decided != "" {
			out.Decided++
		}
	}
	return out
}
