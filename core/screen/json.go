package screen

import (
	"maps"
	"slices"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/jsonread"
)

// ReadValue reads a value: a text, number or yes/no literal, {"token": path},
// {"expr": text} or {"bound": source}.
func ReadValue(r *jsonread.Reader) (v Value, err error) {
	const accepts = `a text, a number, true or false, {"token": …}, {"expr": …} or {"bound": …}`
	switch r.Kind() {
	case '"':
		v.Kind = Literal
		v.Text, err = r.String()
	case '0':
		v.Kind = Num
		v.Text, err = r.Number()
	case 't', 'f':
		var b bool
		b, err = r.Bool()
		v = FlagValue(b)
	case '{':
		err = r.Object(func(key string) error {
			var err error
			switch key {
			case "token":
				v.Kind = Token
				v.Text, err = r.String()
			case "expr":
				v.Kind = Expr
				v.Text, err = r.String()
			case "bound":
				v.Kind = Bound
				v.Text, err = r.String()
			default:
				err = r.Unknown(key, "token", "expr", "bound")
			}
			return err
		})
		if err == nil && v.Kind == None {
			err = r.Fail(accepts, "the value is empty")
		}
	default:
		if _, err = r.Raw(); err == nil {
			err = r.Fail(accepts, "this cannot be a value")
		}
	}
	return v, err
}

// FlagValue makes a yes/no value.
func FlagValue(b bool) Value {
	if b {
		return Value{Flag, "true"}
	}
	return Value{Flag, "false"}
}

var elementKeys = []string{
	"id",
	"type",
	"slot",
	"name",
	"text",
	"props",
	"filled",
	"show",
	"repeat",
	"children",
	"origin",
	"spread",
}

// ReadElement reads an element with all below it.
func ReadElement(r *jsonread.Reader) (*Element, error) {
	e := &Element{Offset: r.Offset()}
	var filled []string
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "id":
			e.ID, err = r.String()
		case "type":
			e.Type, err = r.String()
		case "slot":
			e.Slot, err = r.String()
		case "name":
			e.Name, err = r.String()
		case "text":
			e.Text, err = ReadValue(r)
		case "props":
			e.Props = make([]Prop, 0, 4)
			err = r.Object(func(name string) error {
				v, err := ReadValue(r)
				e.Props = append(e.Props, Prop{Name: name, Value: v})
				return err
			})
			SortProps(e.Props)
		case "filled":
			filled, err = r.Strings()
		case "show":
			e.Show, err = r.String()
		case "repeat":
			e.Repeat, err = readRepeat(r)
		case "children":
			e.Children = make([]*Element, 0, 4)
			err = r.Array(func(int) error {
				c, err := ReadElement(r)
				e.Children = append(e.Children, c)
				return err
			})
			if err == nil {
				e.Children = bySlot(e.Children)
			}
		case "origin":
			e.Origin = &Origin{}
			err = r.Object(func(key string) error {
				var err error
				switch key {
				case "behind":
					e.Origin.Behind, err = r.Int()
					return err
				case "besides":
					return r.Object(func(name string) error {
						v, err := ReadValue(r)
						e.Origin.Besides = append(e.Origin.Besides, Prop{Name: name, Value: v})
						return err
					})
				}
				target, ok := map[string]*string{"file": &e.Origin.File, "range": &e.Origin.Range, "hash": &e.Origin.Hash, "look": &e.Origin.Look}[key]
				if !ok {
					return r.Unknown(key, "file", "range", "hash", "look", "behind", "besides")
				}
				*target, err = r.String()
				return err
			})
		case "spread":
			e.Spread, err = r.Bool()
		default:
			err = r.Unknown(key, elementKeys...)
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	if e.ID == "" {
		return nil, r.Fail("an object with id and type", "the element has no id")
	}
	if e.Type == "" {
		return nil, r.Fail("an object with id and type", "the element %s has no type", e.ID)
	}
	for _, name := range filled {
		for i := range e.Props {
			if e.Props[i].Name == name {
				e.Props[i].Filled = true
			}
		}
	}
	return e, nil
}

func readRepeat(r *jsonread.Reader) (*Repeat, error) {
	var p Repeat
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "model":
			p.Model, err = r.String()
		case "where":
			p.Where, err = r.String()
		case "sort":
			p.Sort, err = r.String()
		case "limit":
			p.Limit, err = r.Int()
		case "page":
			p.Page, err = r.String()
		default:
			err = r.Unknown(key, "model", "where", "sort", "limit", "page")
		}
		return err
	})
	if err == nil && p.Model == "" {
		err = r.Fail("a model's id", "the repeat names no model")
	}
	return &p, err
}

// Writer appends canonical JSON: keys in a fixed order, empty ones left out.
type Writer struct {
	B     []byte
	comma bool
}

func (w *Writer) sep() {
	if w.comma {
		w.B = append(w.B, ',')
	}
	w.comma = false
}

// Open begins an object or list.
func (w *Writer) Open(c byte) { w.sep(); w.B = append(w.B, c) }

// Close ends it.
func (w *Writer) Close(c byte) { w.B = append(w.B, c); w.comma = true }

// Key writes a key of an object.
func (w *Writer) Key(k string) {
	w.sep()
	w.B, _ = jsontext.AppendQuote(w.B, k)
	w.B = append(w.B, ':')
}

// String writes a text.
func (w *Writer) String(s string) {
	w.sep()
	w.B, _ = jsontext.AppendQuote(w.B, strings.ToValidUTF8(s, "\uFFFD"))
	w.comma = true
}

// Raw writes a value that is JSON already.
func (w *Writer) Raw(s string) { w.sep(); w.B = append(w.B, s...); w.comma = true }

// Field writes a key and a text, nothing where the text is empty.
func (w *Writer) Field(k, s string) {
	if s != "" {
		w.Key(k)
		w.String(s)
	}
}

// Int writes a key and a number, nothing where it is zero.
func (w *Writer) Int(k string, n int) {
	if n != 0 {
		w.Key(k)
		w.Raw(strconv.Itoa(n))
	}
}

// Flag writes a key and true, nothing where it is false.
func (w *Writer) Flag(k string, b bool) {
	if b {
		w.Key(k)
		w.Raw("true")
	}
}

// Value writes a value.
func (w *Writer) Value(v Value) {
	switch v.Kind {
	case Literal:
		w.String(v.Text)
	case Num, Flag:
		w.Raw(v.Text)
	case Token, Expr, Bound:
		w.Open('{')
		w.Field(map[Kind]string{Token: "token", Expr: "expr", Bound: "bound"}[v.Kind], v.Text)
		w.Close('}')
	default:
		w.Raw("null")
	}
}

// Element writes an element with all below it.
func (w *Writer) Element(e *Element) { w.since(e, nil) }

// ElementSince is Element for a reader that holds an earlier tree: of each subtree
// that stands there unchanged only the id is written, and "same".
func (w *Writer) ElementSince(e, before *Element) {
	was := map[string]*Element{}
	before.Walk(func(e, _ *Element) bool { was[e.ID] = e; return true })
	w.since(e, was)
}

func (w *Writer) since(e *Element, was map[string]*Element) {
	w.Open('{')
	w.Field("id", e.ID)
	if was[e.ID] == e {
		w.Flag("same", true)
		w.Close('}')
		return
	}
	w.Field("type", e.Type)
	w.Field("slot", e.Slot)
	w.Field("name", e.Name)
	if e.Text.Kind != None {
		w.Key("text")
		w.Value(e.Text)
	}
	if len(e.Props) > 0 {
		w.Key("props")
		w.Open('{')
		anyFilled := false
		for _, p := range e.Props {
			w.Key(p.Name)
			w.Value(p.Value)
			anyFilled = anyFilled || p.Filled
		}
		w.Close('}')
		if anyFilled {
			w.Key("filled")
			w.Open('[')
			for _, p := range e.Props {
				if p.Filled {
					w.String(p.Name)
				}
			}
			w.Close(']')
		}
	}
	w.Field("show", e.Show)
	if e.Repeat != nil {
		w.Key("repeat")
		w.repeat(e.Repeat)
	}
	if len(e.Children) > 0 {
		w.Key("children")
		w.Open('[')
		for _, c := range e.Children {
			w.since(c, was)
		}
		w.Close(']')
	}
	if e.Origin != nil {
		w.Key("origin")
		w.Open('{')
		w.Field("file", e.Origin.File)
		w.Field("range", e.Origin.Range)
		w.Field("hash", e.Origin.Hash)
		w.Field("look", e.Origin.Look)
		if e.Origin.Behind > 0 {
			w.Int("behind", e.Origin.Behind)
		}
		if len(e.Origin.Besides) > 0 {
			w.Key("besides")
			w.Open('{')
			for _, p := range e.Origin.Besides {
				w.Key(p.Name)
				w.Value(p.Value)
			}
			w.Close('}')
		}
		w.Close('}')
	}
	w.Flag("spread", e.Spread)
	w.Close('}')
}

func (w *Writer) repeat(p *Repeat) {
	w.Open('{')
	w.Field("model", p.Model)
	w.Field("where", p.Where)
	w.Field("sort", p.Sort)
	w.Int("limit", p.Limit)
	w.Field("page", p.Page)
	w.Close('}')
}

// ReadEdit reads one edit. trusted admits edits that restore what stood before,
// as the log holds them; from outside they are refused.
func ReadEdit(r *jsonread.Reader, trusted bool) (e Edit, err error) {
	names := make([]string, len(Ops))
	for i, op := range Ops {
		names[i] = string(op)
	}
	readMap := func(into *map[string]string) error {
		*into = map[string]string{}
		return r.Object(func(key string) error {
			s, err := r.String()
			(*into)[key] = s
			return err
		})
	}
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "op":
			var s string
			s, err = r.OneOf(names...)
			e.Op = Op(s)
		case "id":
			e.ID, err = r.String()
		case "parent":
			e.Parent, err = r.String()
		case "slot":
			e.Slot, err = r.String()
		case "after":
			e.After, err = r.String()
		case "tree":
			e.Tree, err = ReadElement(r)
		case "ids":
			err = readMap(&e.IDs)
		case "many":
			e.Many, err = r.Strings()
		case "prop":
			e.Prop, err = r.String()
		case "value":
			if r.Kind() == 'n' {
				return r.Skip()
			}
			e.Value, err = ReadValue(r)
		case "filled":
			e.Filled, err = r.Bool()
		case "name":
			e.Name, err = r.String()
		case "repeat":
			if r.Kind() == 'n' {
				return r.Skip()
			}
			e.Repeat, err = readRepeat(r)
		case "slots":
			err = readMap(&e.Slots)
		case "restores":
			e.exact, err = r.Bool()
			if err == nil && !trusted {
				err = r.Fail("an edit of your own", "only the log restores")
			}
		default:
			err = r.Unknown(
				key,
				"op",
				"id",
				"parent",
				"slot",
				"after",
				"tree",
				"ids",
				"many",
				"prop",
				"value",
				"filled",
				"name",
				"repeat",
				"slots",
			)
		}
		return err
	})
	if err == nil && e.Op == "" {
		err = r.Fail("an object with op", "the edit does not say what it does")
	}
	return e, err
}

// Edit writes an edit.
func (w *Writer) Edit(e Edit) {
	writeMap := func(key string, m map[string]string) {
		if len(m) == 0 {
			return
		}
		w.Key(key)
		w.Open('{')
		for _, k := range slices.Sorted(maps.Keys(m)) {
			w.Key(k)
			w.String(m[k])
		}
		w.Close('}')
	}
	w.Open('{')
	w.Field("op", string(e.Op))
	w.Field("id", e.ID)
	w.Field("parent", e.Parent)
	w.Field("slot", e.Slot)
	w.Field("after", e.After)
	if e.Tree != nil {
		w.Key("tree")
		w.Element(e.Tree)
	}
	writeMap("ids", e.IDs)
	if len(e.Many) > 0 {
		w.Key("many")
		w.Open('[')
		for _, id := range e.Many {
			w.String(id)
		}
		w.Close(']')
	}
	w.Field("prop", e.Prop)
	if e.Value.Kind != None {
		w.Key("value")
		w.Value(e.Value)
	}
	w.Flag("filled", e.Filled)
	w.Field("name", e.Name)
	if e.Repeat != nil {
		w.Key("repeat")
		w.repeat(e.Repeat)
	}
	writeMap("slots", e.Slots)
	w.Flag("restores", e.exact)
	w.Close('}')
}

// MarshalJSON writes the edit in its canonical form.
func (e Edit) MarshalJSON() ([]byte, error) {
	var w Writer
	w.Edit(e)
	return w.B, nil
}

// UnmarshalJSON reads an edit from outside.
func (e *Edit) UnmarshalJSON(src []byte) error {
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return err
	}
	*e, err = ReadEdit(r, false)
	return err
}

// MarshalJSON writes the element with all below it.
func (e *Element) MarshalJSON() ([]byte, error) {
	var w Writer
	w.Element(e)
	return w.B, nil
}

// UnmarshalJSON reads an element with all below it.
func (e *Element) UnmarshalJSON(src []byte) error {
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return err
	}
	read, err := ReadElement(r)
	if err == nil {
		*e = *read
	}
	return err
}

// MarshalJSON writes the value as it stands in a workspace.
func (v Value) MarshalJSON() ([]byte, error) {
	var w Writer
	w.Value(v)
	return w.B, nil
}
