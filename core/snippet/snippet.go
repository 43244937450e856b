// Package snippet makes whole arrangements of a model or of the screens: a form, a table,
// a catalogue, a bar, as the kit's notes describe them.
package snippet

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"ubiquant/core/data"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/norm"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// work is the workspace that snippets are made in.
type work struct{ *live.Live }

// Offers lists the snippets of the kit for every model and application.
func Offers(l *live.Live) []Offer { return work{l}.offers() }

// Make makes a snippet for a document of an application.
func Make(l *live.Live, id, app, doc string) (*screen.Element, error) {
	return work{l}.snippet(id, app, doc)
}

// Preset is what a component is usually set to at a place; see work.preset.
func Preset(l *live.Live, def *kit.Component, place, slot string) map[string]string {
	return work{l}.preset(def, place, slot)
}

// FieldOffers lists what can be made of the fields of the records that an element shows.
func FieldOffers(l *live.Live, e *screen.Element) []Offer { return work{l}.fieldOffers(e) }

// Field makes what FieldOffers offered: a tree, what comes beside it, and where to.
func Field(l *live.Live, id string, e *screen.Element) (tree, beside *screen.Element, into string, err error) {
	return work{l}.field(id, e)
}

// Offer is a snippet that can be made here.
type Offer struct {
	ID    string // of the snippet, and of the model where it is of one: "form:tickets"
	Title string
	Words []string
	Root  *kit.Component // what it stands as
}

// offers lists the snippets.
func (l work) offers() []Offer {
	var out []Offer
	for i := range l.Kit.Snippets {
		s := &l.Kit.Snippets[i]
		root, ok := l.Kit.Component(s.Tree.Type)
		if !ok {
			continue
		}
		if s.Of == "field" {
			continue // see FieldOffers
		}
		if s.Of == "routes" {
			out = append(out, Offer{s.ID, s.Title, s.Words, root})
			continue
		}
		figures := s.Tree.Any(func(t *kit.Template) bool { return t.Says("{figure}") })
		offer := func(m *sample.Model) {
			if _, figure := figureOf(m); figures && !figure || !fills(&s.Tree, m) {
				return
			}
			out = append(
				out,
				Offer{
					s.ID + ":" + m.ID,
					kit.Fill(s.Title, modelWords(m)),
					append([]string{m.ID, m.Name}, s.Words...),
					root,
				},
			)
		}
		for j := range l.W.Models {
			offer(&l.W.Models[j])
		}
		// What is made of records is shown, and neither filled in nor searched.
		if s.Page > 0 || !s.Tree.Any(func(t *kit.Template) bool { return t.Repeat }) {
			continue
		}
		for j := range l.W.Queries {
			if m := l.Models()[l.W.Queries[j].ID]; m != nil {
				offer(m)
			}
		}
	}
	return out
}

// fits tells whether a template that is made for each field is made for one.
func fits(t *kit.Template, f *sample.Field) bool {
	return !slices.Contains(t.Except, string(f.Type)) &&
		(f.Compute == "" || !slices.Contains(t.Except, "computed")) &&
		(len(t.Only) == 0 || slices.Contains(t.Only, string(f.Type)))
}

// fills tells whether a model has a field for an arrangement of fields: records of pictures alone
// say nothing in words.
func fills(tree *kit.Template, m *sample.Model) bool {
	each := func(t *kit.Template) bool { return t.Each == "fields" }
	return !tree.Any(each) || tree.Any(func(t *kit.Template) bool {
		return each(t) && slices.ContainsFunc(m.Fields, func(f sample.Field) bool { return fits(t, &f) })
	})
}

// Snippet makes an offer into a tree for an application, to be put on the document with
// a key such as "screen:beds", whose names it takes none of. Its ids are s1, s2, …;
// settings that are the norm where an element comes to stand are filled in.
func (l work) snippet(id, app, doc string) (*screen.Element, error) {
	name, model, _ := strings.Cut(id, ":")
	i := slices.IndexFunc(l.Kit.Snippets, func(s kit.Snippet) bool { return s.ID == name && s.Of != "field" })
	if i < 0 {
		return nil, fmt.Errorf("there is no snippet %q", name)
	}
	b := &snippetMaker{
		l:     l,
		app:   app,
		page:  l.Kit.Snippets[i].Page,
		names: map[string]string{},
		taken: map[string]bool{},
	}
	if d, ok := l.W.Doc(doc); ok {
		note := func(e, _ *screen.Element) bool { b.taken[resolve.Identifier(e.Name)] = true; return true }
		d.Root.Walk(note)
		for _, s := range d.States {
			root, _ := screen.In(d, s.Name, l.Cat)
			root.Walk(note)
		}
	}
	words := map[string]string{}
	if l.Kit.Snippets[i].Of == "model" {
		m, ok := l.Models()[model]
		if !ok {
			return nil, fmt.Errorf("there is no model %q", model)
		}
		b.model = m
		maps.Copy(words, modelWords(m))
		words["naming"] = "record." + namingOf(m)
		if f, ok := figureOf(m); ok {
			words["figure"] = b.plain(f)
		}
		if b.page > 0 {
			words["list"], words["page"], words["orders"] = b.name(
				"list",
			), b.name(
				"page",
			), strings.Join(
				b.orders(),
				", ",
			)
			if orders := b.orders(); len(orders) > 0 {
				words["firstOrder"] = orders[0]
			}
		}
	}
	words["workspace"] = l.W.Name
	made := b.make(&l.Kit.Snippets[i].Tree, words, nil, "page")
	if len(made) != 1 {
		return nil, fmt.Errorf("the snippet %q makes %d elements", name, len(made))
	}
	if b.page > 0 {
		b.act(made[0])
	}
	return made[0], nil
}

// figureOf is the first number that records of a model hold.
func figureOf(m *sample.Model) (*sample.Field, bool) {
	for i := range m.Fields {
		if f := &m.Fields[i]; f.Type == sample.Number || f.Type == sample.Money {
			return f, true
		}
	}
	return nil, false
}

// namingOf is the field by which records of a model are called.
func namingOf(m *sample.Model) string {
	for _, types := range [][]sample.FieldType{{sample.Text}, {sample.Choice, sample.Date, sample.Ref}} {
		for _, f := range m.Fields {
			if slices.Contains(types, f.Type) {
				return f.Name
			}
		}
	}
	return "id"
}

// modelWords are the words for a model's records: "ticket", "Tickets".
func modelWords(m *sample.Model) map[string]string {
	return map[string]string{
		"model":     m.ID,
		"one":       strings.ToLower(m.Name),
		"many":      sentence(m.ID),
		"manyLower": strings.ToLower(sentence(m.ID)),
	}
}

// sentence makes words of a name in code: "onDisplay" is "On display".
func sentence(name string) string {
	var b strings.Builder
	for i, r := range name {
		switch {
		case i == 0:
			b.WriteRune(unicode.ToUpper(r))
		case unicode.IsUpper(r):
			b.WriteRune(' ')
			b.WriteRune(unicode.ToLower(r))
		case r == '-' || r == '_':
			b.WriteRune(' ')
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}

type snippetMaker struct {
	l     work
	app   string
	model *sample.Model
	count int
	page  int               // records on a page; 0 where lists do not act
	names map[string]string // by what was wished
	taken map[string]bool
	// What the controls that were made filter by.
	searched []string
	filters  []*sample.Field
}

// make makes the elements that a template stands for. place is the component that
// they come to stand in.
func (b *snippetMaker) make(
	t *kit.Template,
	words map[string]string,
	field *sample.Field,
	place string,
) []*screen.Element {
	switch t.Each {
	case "fields":
		var out []*screen.Element
		at := 0
		for i := range b.model.Fields {
			f := &b.model.Fields[i]
			if !fits(t, f) {
				continue
			}
			if at++; at <= t.Skip || t.Take > 0 && at > t.Skip+t.Take {
				continue
			}
			as := t
			if t.Type == "" { // the one that is for its type
				i := slices.IndexFunc(t.Children, func(c kit.Template) bool { return slices.Contains(c.Only, string(f.Type)) })
				if i < 0 {
					continue
				}
				as = &t.Children[i]
			}
			out = append(out, b.one(as, b.fieldWords(words, f), f, place))
		}
		return out
	case "routes":
		var out []*screen.Element
		for _, d := range b.places() {
			own := maps.Clone(words)
			own["route"], own["title"] = d.Route, d.Title
			out = append(out, b.one(t, own, nil, place))
		}
		return out
	}
	if b.bare(t, words) {
		return nil
	}
	return []*screen.Element{b.one(t, words, field, place)}
}

// bare tells whether the model has nothing for a setting that a component needs: a choice of
// orders where there is none is no choice.
func (b *snippetMaker) bare(t *kit.Template, words map[string]string) bool {
	def, ok := b.l.Kit.Component(t.Type)
	if !ok {
		return false
	}
	for i := range def.Props {
		wish := t.Props[def.Props[i].Name]
		if def.Props[i].Required && wish != "" && kit.Fill(wish, words) == "" {
			return true
		}
	}
	return false
}

// fromRecords is what a reference chooses from, computed from the records that there are; empty where
// the wish is another, or their texts would be taken for several.
func (b *snippetMaker) fromRecords(wish string, f *sample.Field) string {
	if wish != "{choices}" || f == nil || f.Type != sample.Ref && f.Type != sample.Refs {
		return ""
	}
	shown := b.l.Models()[f.Model].FirstText()
	set, ok := b.l.W.Set("")
	if !ok || shown == "" || strings.Contains(f.Model, "-") { // which an expression takes for a subtraction
		return ""
	}
	for _, r := range set.Records[f.Model] {
		if text, _ := r[shown].(string); strings.Contains(text, ",") {
			return ""
		}
	}
	return fmt.Sprintf("joined(values(%s, '%s'), ', ')", f.Model, shown)
}

func (b *snippetMaker) fieldWords(words map[string]string, f *sample.Field) map[string]string {
	own := maps.Clone(words)
	own["field"], own["label"], own["required"] = f.Name, sentence(f.Name), strconv.FormatBool(f.Required)
	own["labelLower"] = strings.ToLower(own["label"])
	choices := f.Choices
	if f.Type == sample.Ref || f.Type == sample.Refs {
		if set, ok := b.l.W.Set(""); ok {
			if shown := b.l.Models()[f.Model].FirstText(); shown != "" {
				for _, r := range set.Records[f.Model] {
					if text, ok := r[shown].(string); ok && len(choices) < 12 {
						choices = append(choices, strings.ReplaceAll(text, ",", " "))
					}
				}
			}
		}
	}
	own["choices"] = strings.Join(choices, ", ")
	own["choiceList"], own["choicePairs"] = "", ""
	if len(choices) > 0 {
		pairs := make([]map[string]string, len(choices))
		for i, c := range choices {
			pairs[i] = map[string]string{"value": c, "label": c}
		}
		list, failed := json.Marshal(choices)
		both, failed2 := json.Marshal(pairs)
		if failed == nil && failed2 == nil { // texts
			own["choiceList"], own["choicePairs"] = string(list), string(both)
		}
	}
	own["least"], own["most"], own["limits"] = f.Least, f.Most, limits(f)
	own["currency"], own["decimals"] = "", ""
	if f.Type == sample.Money {
		c := sample.CurrencyOf(f.Currency)
		own["currency"], own["decimals"] = c.Name, strconv.Itoa(c.Decimals)
	}
	return own
}

// limits says in words what a field holds its values to.
func limits(f *sample.Field) string {
	least, most, unit := f.Least, f.Most, ""
	switch f.Type {
	case sample.Date:
		least, most = expr.FormatDay(least), expr.FormatDay(most)
	case sample.Text, sample.LongText:
		unit = " letters"
	case sample.Texts:
		if least == "" && most == "" {
			return "Parted by commas"
		}
		unit = ", parted by commas"
	}
	switch {
	case least != "" && most != "":
		return "From " + least + " to " + most + unit
	case least != "":
		return "At least " + least + unit
	case most != "":
		return "At most " + most + unit
	}
	return ""
}

// places lists the screens of the application that one goes to without knowing a
// record, at most one level deep, in their order.
func (b *snippetMaker) places() []*screen.Document {
	var out []*screen.Document
	for _, d := range b.l.W.Docs {
		if d.Kind == screen.ScreenDoc && !d.Removed && d.App == b.app && !strings.Contains(d.Route, ":") &&
			strings.Count(strings.Trim(d.Route, "/"), "/") == 0 &&
			d.Shell != "" {
			out = append(out, d)
		}
	}
	return out[:min(len(out), 9)]
}

func (b *snippetMaker) one(
	t *kit.Template,
	words map[string]string,
	field *sample.Field,
	place string,
) *screen.Element {
	b.count++
	e := &screen.Element{ID: "s" + strconv.Itoa(b.count), Type: t.Type, Slot: t.Slot}
	def, _ := b.l.Cat.Component(t.Type)
	wish := ""
	if t.Name != "" {
		wish = kit.Fill(t.Name, words)
		e.Name = b.name(wish)
		words = maps.Clone(words)
		words["name"] = e.Name
	}
	if text := kit.Fill(t.Text, words); text != "" {
		e.Text = typedValue(text)
	}
	for _, name := range slices.Sorted(maps.Keys(t.Props)) {
		text := kit.Fill(t.Props[name], words)
		p, ok := def.Prop(name)
		if !ok || text == "" || text == p.Default ||
			len(p.Values) > 0 && !strings.HasPrefix(text, "=") && !p.Takes(text) {
			continue
		}
		v := typedValue(text)
		if from := b.fromRecords(t.Props[name], field); from != "" && p.Type == kit.Text && !p.JSON {
			v = screen.Value{Kind: screen.Expr, Text: from}
		}
		if p.Type == kit.Bool && (text == "true" || text == "false") {
			v = screen.FlagValue(text == "true")
		}
		e.Props = append(e.Props, screen.Prop{Name: name, Value: v})
	}
	for name, value := range b.l.preset(def, place, t.Slot) {
		if _, set := e.Prop(name); !set && t.Props[name] == "" {
			v := screen.Lit(value)
			if value == "true" || value == "false" {
				v = screen.FlagValue(value == "true")
			}
			e.Props = append(e.Props, screen.Prop{Name: name, Value: v, Filled: true})
		}
	}
	screen.SortProps(e.Props)
	if t.Name != "" {
		switch {
		case wish == "search":
			for _, f := range b.model.Fields {
				if f.Type == sample.Text && len(b.searched) < 2 {
					b.searched = append(b.searched, f.Name)
				}
			}
		case field != nil && wish == field.Name:
			b.filters = append(b.filters, field)
		}
	}
	if t.Repeat {
		e.Repeat = &screen.Repeat{Model: b.model.ID}
	}
	if t.Over != "" {
		e.Repeat = &screen.Repeat{Model: kit.Fill(t.Over, words)}
	}
	if t.Without && b.model != nil {
		e.Show = "size(" + b.model.ID + ") == 0"
		if b.page > 0 {
			e.Show = "count." + b.name("list") + " == 0"
		}
	}
	if t.Value && field != nil {
		b.show(e, def, field)
	}
	inside := place
	if def.Level != kit.Layout {
		inside = t.Type
	}
	taken := false // of children for one type of field the first is taken
	for i := range t.Children {
		c := &t.Children[i]
		if c.Each == "" && len(c.Only) > 0 && field != nil {
			if taken || !slices.Contains(c.Only, string(field.Type)) {
				continue
			}
			taken = true
		}
		e.Children = append(e.Children, b.make(c, words, field, inside)...)
	}
	return e
}

func typedValue(text string) screen.Value {
	if source, ok := strings.CutPrefix(text, "="); ok {
		return screen.Value{Kind: screen.Expr, Text: strings.TrimSpace(source)}
	}
	return screen.Lit(text)
}

// show lets an element show a field's value as the team's screens show it: as a text
// of its own, or by an element inside where they use one.
func (b *snippetMaker) show(e *screen.Element, def *kit.Component, f *sample.Field) {
	seen := b.l.shownAs(b.model, f)
	if seen == nil && f.Type == sample.Choice {
		seen = b.l.shownLike(b.model, f, e.Type)
	}
	if seen != nil && seen.Type != e.Type {
		if inner, ok := b.l.Cat.Component(seen.Type); ok {
			if _, may := kit.Accepts(b.l.Cat, def, "", inner); may {
				b.count++
				child := *seen
				child.ID, child.Slot, child.Name = "s"+strconv.Itoa(b.count), "", ""
				e.Children = append(e.Children, &child)
				return
			}
		}
	} else if seen != nil {
		e.Text = seen.Text
		for _, p := range seen.Props { // its colour and icon say the value as well
			if _, set := e.Prop(p.Name); !set && p.Value.Kind == screen.Expr {
				e.Props = append(e.Props, p)
			}
		}
		screen.SortProps(e.Props)
		b.ifThere(e, def, f)
		return
	}
	e.Text = screen.Value{Kind: screen.Expr, Text: b.plain(f)}
	b.ifThere(e, def, f)
}

// ifThere leaves an element out for records that lack the value, where words would stand
// alone without it; what has a place among others, as a cell has, stays.
func (b *snippetMaker) ifThere(e *screen.Element, def *kit.Component, f *sample.Field) {
	if !f.Required && f.Compute == "" && len(def.Parents) == 0 &&
		strings.TrimSpace(e.Text.Text) != "record."+f.Name &&
		e.Show == "" {
		e.Show = "has(record." + f.Name + ")"
	}
}

// plain is how a value is shown where nobody has shown it yet.
func (b *snippetMaker) plain(f *sample.Field) string {
	record := "record." + f.Name
	switch f.Type {
	case sample.Number:
		return "number(" + record + ", 0)"
	case sample.Money:
		return "money(" + record + ")"
	case sample.Date:
		return "day(" + record + ")"
	case sample.YesNo:
		return record + " ? 'yes' : 'no'"
	case sample.Texts:
		return "joined(" + record + ", ', ')"
	case sample.Refs:
		return "size(" + record + ")"
	case sample.Ref:
		if shown := b.l.Models()[f.Model].FirstText(); shown != "" {
			return "find(" + f.Model + ", " + record + ")." + shown
		}
	}
	return record
}

// computed counts the settings that an element computes.
func computed(e *screen.Element) int {
	n := 0
	for _, p := range e.Props {
		if p.Value.Kind == screen.Expr {
			n++
		}
	}
	return n
}

// shownAs is the element by which the screens most often show a field of a model:
// one without children whose text speaks of that field alone, with what its settings
// say of the record. nil where none does.
func (l work) shownAs(m *sample.Model, f *sample.Field) *screen.Element {
	type seen struct {
		el   *screen.Element
		docs map[int32]bool
	}
	met := map[string]*seen{}
	var keys []string
	l.eachShown(func(doc int32, el, _ *screen.Element, of, field string) {
		if of != m.ID || field != f.Name {
			return
		}
		key := el.Type + "\x00" + el.Text.Text
		if met[key] == nil {
			met[key] = &seen{el, map[int32]bool{}}
			keys = append(keys, key)
		}
		met[key].docs[doc] = true
		// The one that says most of the value by more than its text: its colour, its icon.
		if computed(el) > computed(met[key].el) {
			met[key].el = el
		}
	})
	slices.SortStableFunc(keys, func(a, b string) int { return len(met[b].docs) - len(met[a].docs) })
	for _, key := range keys {
		el := met[key].el
		if _, err := expr.Compile(el.Text.Text, expr.Scope{Models: l.Models(), Record: m}); err == nil {
			out := &screen.Element{Type: el.Type, Text: el.Text}
			for _, p := range el.Props {
				if def, ok := l.Cat.Component(el.Type); ok {
					known, ok := def.Prop(p.Name)
					// An address that is the same for every record would be wrong for all but
					// one; a value that is a slip is not handed on.
					if ok &&
						(p.Value.Kind == screen.Expr || !known.URL && (len(known.Values) == 0 || slices.Contains(known.Values, p.Value.Text))) {
						out.Props = append(out.Props, p)
					}
				}
			}
			return out
		}
	}
	return nil
}

// eachShown finds the elements without children whose text speaks of one field of the record around:
// in which document, in what they stand, and of which model and field.
func (l work) eachShown(found func(doc int32, el, up *screen.Element, of, field string)) {
	for _, d := range l.Index.Docs() {
		repeats := make([]string, len(d.Uses)) // the model in force at each use
		for i := range d.Uses {
			u := &d.Uses[i]
			el, up := u.Element, u.Element
			if u.Up >= 0 {
				repeats[i], up = repeats[u.Up], d.Uses[u.Up].Element
			}
			if el.Repeat != nil {
				repeats[i] = el.Repeat.Model
			}
			if len(el.Children) > 0 || el.Repeat != nil || el.Text.Kind != screen.Expr {
				continue
			}
			if named := fieldsIn(el.Text.Text); len(named) == 1 {
				found(d.Number, el, up, repeats[i], named[0])
			}
		}
	}
}

// shownLike is the element by which most screens show fields of a type in a component, as the chip of
// a choice in a cell, with another model's field in place of theirs. nil where no habit is clear.
func (l work) shownLike(m *sample.Model, f *sample.Field, in string) *screen.Element {
	met, all := map[string]map[int32]bool{}, map[int32]bool{}
	most := map[string]*screen.Element{}
	models := l.Models()
	l.eachShown(func(doc int32, el, up *screen.Element, of, field string) {
		if el.Type != in && up.Type != in || models[of] == nil {
			return
		}
		if named, ok := models[of].Field(field); !ok || named.Type != f.Type {
			return
		}
		as := *el
		was := data.FieldOf(of, field, nil)
		as.Text.Text = was.Rename(el.Text.Text, f.Name, of)
		as.Props = slices.Clone(el.Props)
		for i, p := range as.Props {
			if p.Value.Kind == screen.Expr {
				as.Props[i].Value.Text = was.Rename(p.Value.Text, f.Name, of)
			}
		}
		if met[el.Type] == nil {
			met[el.Type] = map[int32]bool{}
		}
		met[el.Type][doc], all[doc] = true, true
		if most[el.Type] == nil || computed(&as) > computed(most[el.Type]) {
			most[el.Type] = &as
		}
	})
	for _, key := range slices.Sorted(maps.Keys(met)) {
		if key == in || len(met[key]) < 3 || 2*len(met[key]) <= len(all) {
			continue
		}
		el := most[key]
		holds := func(v screen.Value) bool {
			_, err := expr.Compile(v.Text, expr.Scope{Models: models, Record: m})
			return v.Kind != screen.Expr || err == nil
		}
		if !holds(el.Text) {
			return nil
		}
		out := &screen.Element{Type: key, Text: el.Text}
		for _, p := range el.Props {
			if def, ok := l.Cat.Component(key); ok {
				// Words are about the other field.
				if known, ok := def.Prop(p.Name); ok && holds(p.Value) &&
					(p.Value.Kind == screen.Expr && !known.URL || slices.Contains(known.Values, p.Value.Text)) {
					out.Props = append(out.Props, p)
				}
			}
		}
		return out
	}
	return nil
}

// fieldsIn lists the fields of the record that an expression speaks of.
func fieldsIn(source string) []string {
	var out []string
	for {
		_, rest, ok := strings.Cut(source, "record.")
		if !ok {
			return out
		}
		end := strings.IndexFunc(
			rest,
			func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '_' },
		)
		if end < 0 {
			end = len(rest)
		}
		if name := rest[:end]; !slices.Contains(out, name) {
			out = append(out, name)
		}
		source = rest[end:]
	}
}

// Preset is what a new element starts with where it comes to stand: the clear
// majority's settings in that place, where they are not the default anyway.
func (l work) preset(def *kit.Component, place, slot string) map[string]string {
	out := map[string]string{}
	sp, ok := l.Index.Spot(def.Tag + "~" + place + "." + slot)
	if !ok {
		return out
	}
	for i := range def.Props {
		p := &def.Props[i]
		if !usage.Tracked(p) || p.Icon || p.Deprecated != "" {
			continue
		}
		v, ok := norm.For(sp, p.Name, "")
		if ok && (v.Standing == norm.Norm || v.Standing == norm.Leaning) && v.Value != p.Default && v.Value != "" {
			out[p.Name] = v.Value
		}
	}
	return out
}
