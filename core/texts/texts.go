// Package texts is what a workspace says in words: every text of its screens, shells and
// pieces as a message with a key that says where it stands, and the same workspace in
// another language.
package texts

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Input is what texts are taken from.
type Input struct {
	Docs    []*screen.Document
	Models  map[string]*sample.Model // with those of lists made of others
	Sourced []string                 // models whose records are live
	Cat     kit.Catalog
	Around  map[string]*sample.Model // of the record around each piece, by its id
}

// Text is one text of a document.
type Text struct {
	Key     string `json:"key"` // "screens.tickets.button-7.text"
	Doc     string `json:"doc"` // its address
	State   string `json:"state,omitempty"`
	Element string `json:"element,omitempty"` // empty of a title
	Prop    string `json:"prop"`              // "text", "title", or the name of a prop
	// Message is what it says, as ICU writes messages.
	Message string  `json:"message"`
	Values  []Value `json:"values"`

	value screen.Value // as it stands in the document
	words Message
	stem  string // the key without the kind of the element, which may change
}

// Value is what stands in the document.
func (t *Text) Value() screen.Value { return t.value }

// Value is what is put into a text.
type Value struct {
	Name string `json:"name"`
	// Source is the expression that gives it, Of its kind: a text, a number, or yes or no.
	Source string    `json:"source"`
	Of     expr.Kind `json:"-"`
}

// Left is something that people read and that is no text of its own here, and why.
type Left struct {
	Doc     string `json:"doc"`
	Element string `json:"element"`
	Prop    string `json:"prop"`
	Says    string `json:"says"`
	Why     string `json:"why"`
}

// List is every text of what is given, in the order of the documents and their elements, and
// what is left out of it.
func List(in Input) ([]Text, []Left) {
	w := newWalk(in)
	for _, d := range in.Docs {
		w.document(d, nil)
	}
	return w.texts, w.left
}

// walk goes over all values that may be texts.
type walk struct {
	Input
	pieces map[string]*screen.Document
	texts  []Text
	left   []Left
	keys   map[string]bool
}

func newWalk(in Input) *walk {
	w := &walk{Input: in, pieces: map[string]*screen.Document{}, keys: map[string]bool{}}
	for _, d := range in.Docs {
		if d.Kind == screen.PieceDoc && !d.Removed {
			w.pieces[d.ID] = d
		}
	}
	return w
}

// turn gives a value instead of another; it may give the same.
type turn func(t *Text, v screen.Value) screen.Value

// document is a document with its texts turned: the same where none is.
func (w *walk) document(d *screen.Document, to turn) *screen.Document {
	if d.Removed || d.Source != "" {
		return d
	}
	in := reading{w: w, doc: d, to: to, base: expr.Scope{Models: w.Models, Sources: w.Sourced}}
	if d.Kind == screen.PieceDoc {
		in.base.Record = w.Around[d.ID]
	}
	if d.Kind != screen.ShellDoc {
		in.base = resolve.NamesOf(d.Root, w.Cat).On(d.Route).In(in.base)
	}
	out := *d
	if d.Kind == screen.ScreenDoc {
		out.Title = in.value(nil, "title", screen.Lit(d.Title), in.base).Text
	}
	out.Root = in.tree(d.Root, in.base)
	for i, s := range d.States {
		edits := in.edits(s)
		if in.turned {
			out.States = slices.Clone(out.States)
			out.States[i].Edits = edits
		}
	}
	if !in.turned {
		return d
	}
	return &out
}

// reading is one document being gone over.
type reading struct {
	w      *walk
	doc    *screen.Document
	state  string
	to     turn
	base   expr.Scope
	turned bool
}

// tree is an element with all below it, turned.
func (r *reading) tree(e *screen.Element, scope expr.Scope) *screen.Element {
	if e.Repeat != nil {
		scope = scope.Enter(e.Repeat.Model)
	}
	out := *e
	if e.Text.Kind != screen.None {
		out.Text = r.value(e, "", e.Text, scope)
	}
	for i, p := range e.Props {
		if v := r.value(e, p.Name, p.Value, scope); v != p.Value {
			if &out.Props[0] == &e.Props[0] {
				out.Props = slices.Clone(e.Props)
			}
			out.Props[i].Value = v
		}
	}
	same := out.Text == e.Text && (len(e.Props) == 0 || &out.Props[0] == &e.Props[0])
	children := make([]*screen.Element, len(e.Children))
	for i, c := range e.Children {
		children[i] = r.tree(c, scope)
		same = same && children[i] == c
	}
	if same {
		return e
	}
	if len(children) > 0 {
		out.Children = children
	}
	return &out
}

// edits are those of a state, turned. What they speak of stands in the tree as the ones before
// have left it.
func (r *reading) edits(s screen.State) []screen.Edit {
	r.state = s.Name
	root, out := r.doc.Root, slices.Clone(s.Edits)
	for i, e := range s.Edits {
		at := e.ID
		switch e.Op {
		case screen.Insert:
			at = e.Parent
		case screen.Wrap:
			if len(e.Many) > 0 {
				at = e.Many[0]
			}
		}
		path := root.Path(at)
		scope := r.base
		for _, up := range path {
			if up.Repeat != nil {
				scope = scope.Enter(up.Repeat.Model)
			}
		}
		if e.Tree != nil {
			out[i].Tree = r.tree(e.Tree, scope)
		}
		if len(path) > 0 {
			switch el := path[len(path)-1]; e.Op {
			case screen.Set:
				out[i].Value = r.value(el, e.Prop, e.Value, scope)
			case screen.SetText:
				out[i].Value = r.value(el, "", e.Value, scope)
			}
		}
		if next, _, err := screen.Apply(root, e, r.w.Cat); err == nil {
			root = next
		}
	}
	return out
}

// reads tells whether people read what a prop of an element holds, the text where prop is empty;
// whole is its definition.
func (w *walk) reads(e *screen.Element, prop string, depth int) (yes bool, whole *kit.Prop) {
	if prop == "" {
		return true, nil
	}
	def, ok := w.Cat.Component(e.Type)
	if !ok || def.Level == kit.Layout || depth > deepest {
		return false, nil
	}
	if id, is := strings.CutPrefix(e.Type, screen.PiecePrefix); is && w.pieces[id] != nil {
		piece := w.pieces[id]
		alone := &screen.Element{ID: e.ID, Type: e.Type, Props: []screen.Prop{{Name: prop, Value: screen.Lit("x")}}}
		for inner, list := range resolve.Overrides(piece, alone, w.Cat) {
			el, _ := piece.Root.Find(inner)
			for _, p := range list {
				if el == nil || strings.HasPrefix(p.Name, "@") {
					continue
				}
				if yes, whole := w.reads(el, p.Name, depth+1); yes || whole != nil {
					return yes, whole
				}
			}
		}
		return false, nil
	}
	p, ok := def.Prop(prop)
	if !ok {
		return false, nil
	}
	return def.HoldsWords(p), p
}

// value is one value, turned where it is a text.
func (r *reading) value(e *screen.Element, prop string, v screen.Value, scope expr.Scope) screen.Value {
	if v.Kind != screen.Literal && v.Kind != screen.Expr || v.Text == "" {
		return v
	}
	if e != nil {
		yes, def := r.w.reads(e, prop, 0)
		if !yes {
			if why := leaves(def, v); why != "" {
				r.leave(e, prop, v, why)
			}
			return v
		}
	}
	t := Text{Doc: r.doc.Address(), State: r.state, Prop: prop, value: v, Values: []Value{}}
	if e != nil {
		t.Element = e.ID
	}
	if prop == "" {
		t.Prop = "text"
	}
	if v.Kind == screen.Literal {
		t.words = Message{{Words: v.Text}}
	} else {
		p, err := expr.Compile(v.Text, scope)
		if err != nil {
			r.leave(e, prop, v, err.Error())
			return v
		}
		m := maker{t: &t}
		m.say(p.Root())
		t.words = m.out
		if m.inside != "" {
			r.leave(e, prop, v, m.inside)
		}
	}
	if !t.words.spoken() {
		return v
	}
	t.Message = t.words.String()
	r.key(&t, e)
	r.w.texts = append(r.w.texts, t)
	if r.to == nil {
		return v
	}
	now := r.to(&t, v)
	r.turned = r.turned || now != v
	return now
}

func (r *reading) leave(e *screen.Element, prop string, v screen.Value, why string) {
	l := Left{Doc: r.doc.Address(), Prop: prop, Says: v.Text, Why: why}
	if e != nil {
		l.Element = e.ID
	}
	if prop == "" {
		l.Prop = "text"
	}
	r.w.left = append(r.w.left, l)
}

// leaves says why a value that holds words is no text; empty where it holds none.
func leaves(def *kit.Prop, v screen.Value) string {
	if def == nil || def.Type != kit.Text || def.URL || def.Icon || def.Name == kit.Does || v.Kind != screen.Literal ||
		!strings.ContainsFunc(v.Text, unicode.IsLetter) || !strings.ContainsAny(v.Text, " ,") {
		return ""
	}
	if def.JSON || strings.Contains(v.Text, ",") {
		return "it is a list whose values code goes by"
	}
	return "nothing says that people read this prop"
}

// key gives a text its key: of which kind and document, in which state, at which element.
func (r *reading) key(t *Text, e *screen.Element) {
	at := string(r.doc.Kind) + "s." + r.doc.ID
	if r.state != "" {
		at += "@" + slug(r.state)
	}
	if e == nil {
		t.stem, t.Key = at+"."+t.Prop, at+"."+t.Prop
		return
	}
	id := slug(strings.TrimPrefix(e.ID, r.doc.ID+"-"))
	t.stem = at + "." + id + "." + t.Prop
	t.Key = at + "." + r.w.kindOf(e) + "-" + id + "." + t.Prop
	for n := 2; r.w.keys[t.Key]; n++ {
		t.Key = at + "." + r.w.kindOf(e) + "-" + id + "-" + strconv.Itoa(n) + "." + t.Prop
	}
	r.w.keys[t.Key] = true
}

// kindOf is what an element is, in a key.
func (w *walk) kindOf(e *screen.Element) string {
	if id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix); ok {
		return slug(id)
	}
	if def, ok := w.Cat.Component(e.Type); ok && def.Title != "" {
		return slug(def.Title)
	}
	return slug(e.Type)
}

var unsaid = regexp.MustCompile(`[^\p{L}\p{N}]+`)

// slug is a word as it stands in a key.
func slug(s string) string {
	return strings.Trim(strings.ToLower(unsaid.ReplaceAllString(s, "-")), "-")
}
