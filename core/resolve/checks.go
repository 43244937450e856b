package resolve

import (
	"maps"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/go-json-experiment/json"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Checks is what comes before what is sent, as it is drawn: a list of Check, as JSON. Where a
// field does not hold what it is asked for, nothing that stands behind it happens.
const Checks = "check"

// Check is what is asked of one control.
type Check struct {
	Key   string         `json:"key"` // of the control
	Holds string         `json:"holds"`
	Label string         `json:"label"`
	Asks  map[string]Ask `json:"asks"`            // by the rules of kits, and "choices"
	Words *Setting       `json:"words,omitempty"` // takes what is wrong, in words
	Mark  *Setting       `json:"mark,omitempty"`  // shows that something is
}

// Ask is a value, or the setting of an element that has it at any time.
type Ask struct {
	Is any      `json:"is,omitempty"`
	Of *Setting `json:"of,omitempty"`
}

// Setting is a prop of an element, by its key; As is what it is set to, where that is known.
type Setting struct {
	Key  string `json:"key"`
	Prop string `json:"prop"`
	Attr string `json:"attr,omitempty"`
	As   any    `json:"as,omitempty"`
}

func (n *Node) prop(name string) any {
	for _, p := range n.Props {
		if p.Name == name {
			return p.Value
		}
	}
	return nil
}

// checked has forms, and what adds a record, look at their fields first.
func (r *resolver) checked(roots []*Node) {
	fields, order := map[string]*Check{}, map[string]int{}
	alone, sent := map[*Node]bool{}, false
	var count func(n *Node) int
	count = func(n *Node) (controls int) {
		sent = sent || len(n.Does) > 0 || n.Component != nil && n.Component.IsForm()
		if n.Component != nil && n.Component.Holds != "" {
			controls, order[n.Key] = 1, len(order)
		}
		for _, c := range n.Children {
			controls += count(c)
		}
		alone[n] = controls == 1
		return controls
	}
	var read func(n *Node, around []*Node)
	read = func(n *Node, around []*Node) {
		around = append(around, n)
		if _, ok := order[n.Key]; ok {
			fields[n.Key] = checkOf(around, alone)
		}
		for _, c := range n.Children {
			read(c, around)
		}
	}
	for _, n := range roots {
		count(n)
	}
	if len(order) == 0 || !sent {
		return
	}
	for _, n := range roots {
		read(n, nil)
	}
	var under func(n *Node, list []*Check) []*Check
	under = func(n *Node, list []*Check) []*Check {
		if c := fields[n.Key]; c != nil {
			list = append(list, c)
		}
		for _, c := range n.Children {
			if c.Component == nil || !c.Component.IsForm() {
				list = under(c, list)
			}
		}
		return list
	}
	var guard func(n *Node, form []*Check)
	guard = func(n *Node, form []*Check) {
		def := n.Component
		isForm := def != nil && def.IsForm()
		if isForm {
			form = under(n, nil)
		}
		for _, c := range n.Children {
			guard(c, form)
		}
		if def == nil || def.Answers == "" {
			return
		}
		var list []*Check
		if isForm && def.SentAt() != "" || len(n.Does) > 0 && n.sends() {
			list = slices.Clone(form)
		}
		for _, a := range n.Does {
			list = r.ofModel(a, fields, list)
		}
		list = slices.DeleteFunc(list, func(c *Check) bool { return len(c.Asks) == 0 })
		if len(list) == 0 {
			return
		}
		slices.SortStableFunc(list, func(a, b *Check) int { return order[a.Key] - order[b.Key] })
		if written, err := json.Marshal(list, json.Deterministic(true)); err == nil { // texts, numbers and flags
			n.Does = append([]screen.Action{{Verb: Checks, To: string(written)}}, n.Does...)
		}
	}
	for _, n := range roots {
		guard(n, nil)
	}
}

// sends tells whether a press sends the form around: by what it is told to do, or by its kind.
func (n *Node) sends() bool {
	return slices.ContainsFunc(n.Does, func(a screen.Action) bool { return a.Verb == screen.Submit }) ||
		slices.ContainsFunc(n.Props, func(p Prop) bool { return Sends(p.Name, p.Value) })
}

// Sends tells whether a setting makes a button send the form around it.
func Sends(prop string, value any) bool {
	return (prop == "type" || prop == "action" || prop == "htmlType") && value == screen.Submit
}

// ofModel has the fields of a record that is added ask what their model says of them, too.
func (r *resolver) ofModel(a screen.Action, fields map[string]*Check, list []*Check) []*Check {
	var touch sample.Touch
	if a.Verb != Touches || json.Unmarshal([]byte(a.To), &touch) != nil || !touch.Add {
		return list
	}
	for name, at := range touch.From {
		c := fields[at[0]]
		f, ok := r.Models[touch.List].Field(name)
		if c == nil || !ok {
			continue
		}
		of := *c
		of.Asks = map[string]Ask{}
		for rule, is := range FieldAsks(f) {
			of.Asks[rule] = Ask{Is: is}
		}
		maps.Copy(of.Asks, c.Asks) // the screen's own word counts
		list = append(slices.DeleteFunc(list, func(o *Check) bool { return o.Key == of.Key }), &of)
	}
	return list
}

// FieldAsks are the rules that a field of a model brings along.
func FieldAsks(f *sample.Field) map[string]any {
	out := map[string]any{}
	if f.Required && f.Type != sample.YesNo {
		out[kit.Required] = true
	}
	least, most := kit.Least, kit.Most
	switch f.Type {
	case sample.Number, sample.Money:
		out[kit.Kind] = "number"
	case sample.Date:
		out[kit.Kind] = "date"
	case sample.Time:
		out[kit.Kind] = "time"
	case sample.Text, sample.LongText:
		least, most = kit.Shortest, kit.Longest
	default:
		least, most = "", ""
	}
	if least != "" && f.Least != "" {
		out[least] = f.Least
	}
	if most != "" && f.Most != "" {
		out[most] = f.Most
	}
	if len(f.Choices) > 0 {
		out["choices"] = f.Choices
	}
	return out
}

// Part is an element on the way from a form down to a control: Has tells whether a prop is set,
// Alone whether no other control stands in it.
type Part struct {
	Def   *kit.Component
	Has   func(prop string) bool
	Alone bool
}

// At is a prop of one of the parts.
type At struct {
	Part int
	Prop *kit.Prop
}

// Field is what a control and the field around it ask, and how they show what is wrong.
type Field struct {
	Label       *At // nil where none has a name
	Asks        map[string]At
	Words, Mark *At
	As          any // what the mark is set to
}

// FieldOf reads the last of the parts as a control.
func FieldOf(around []Part) Field {
	out := Field{Asks: map[string]At{}}
	control := len(around) - 1
	for i := control; i >= 0; i-- {
		at := around[i]
		if at.Def == nil || !at.Alone {
			continue
		}
		blame, blames := at.Def.Blames()
		if i < control && !blames && at.Def.Tag != around[control].Def.LabelledBy {
			continue
		}
		for _, name := range []string{at.Def.NameProp, "label"} {
			if p, ok := at.Def.Prop(name); ok && out.Label == nil && at.Has(p.Name) {
				out.Label = &At{i, p}
			}
		}
		for rule, p := range at.Def.Asks() {
			if _, had := out.Asks[rule]; !had && at.Has(p.Name) && (i == control || rule != kit.Kind) {
				out.Asks[rule] = At{i, p}
			}
		}
		if blames && out.Words == nil {
			if out.Mark == nil && blame.Mark != nil {
				out.Mark, out.As = &At{i, blame.Mark}, blame.As
			}
			if blame.Words != nil {
				out.Words = &At{i, blame.Words}
			}
		}
	}
	return out
}

// checkOf is what a control asks, the last of those around it.
func checkOf(around []*Node, alone map[*Node]bool) *Check {
	parts := make([]Part, len(around))
	for i, n := range around {
		parts[i] = Part{n.Component, func(prop string) bool { return n.prop(prop) != nil }, alone[n]}
	}
	f := FieldOf(parts)
	at := func(a At) *Setting { return &Setting{Key: around[a.Part].Key, Prop: a.Prop.Name, Attr: a.Prop.Attr} }
	n := around[len(around)-1]
	out := &Check{Key: n.Key, Holds: n.Component.Holds, Label: n.Text, Asks: map[string]Ask{}}
	if f.Label != nil {
		out.Label, _ = around[f.Label.Part].prop(f.Label.Prop.Name).(string)
	}
	if out.Label = strings.TrimSpace(out.Label); out.Label == "" {
		name, _ := n.prop("name").(string)
		out.Label = Called(name)
	}
	for rule, a := range f.Asks {
		out.Asks[rule] = Ask{Of: at(a)}
	}
	if f.Words != nil {
		out.Words = at(*f.Words)
	}
	if f.Mark != nil {
		out.Mark = at(*f.Mark)
		out.Mark.As = f.As
	}
	return out
}

var joints = regexp.MustCompile(`(\p{Ll}|\d)(\p{Lu})|[-_.]+`)

// Called is what a field without a label is called where something is wrong with it: the name of
// its control, in words.
func Called(name string) string {
	words := strings.Fields(strings.ToLower(joints.ReplaceAllString(name, "$1 $2")))
	if len(words) == 0 {
		return "A field"
	}
	first, size := utf8.DecodeRuneInString(words[0])
	words[0] = string(unicode.ToUpper(first)) + words[0][size:]
	return strings.Join(words, " ")
}
