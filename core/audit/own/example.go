package own

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// Example is an element with what it stands in, from the root down to itself.
type Example []*screen.Element

func (x Example) element() *screen.Element { return x[len(x)-1] }

// ByExample proposes a rule that one element keeps and the other does not: of what they have in
// common in what they stand in, that must hold in which they differ. It is a proposal, to be
// changed; errors say why there is none.
func ByExample(cat kit.Catalog, like, unlike Example) (*audit.OwnRule, error) {
	if len(like) == 0 || len(unlike) == 0 {
		return nil, errors.New("two elements are wanted")
	}
	good, bad := like.element(), unlike.element()
	if good != bad && (slices.Contains(like, bad) || slices.Contains(unlike, good)) {
		return nil, errors.New("one of the two stands in the other")
	}
	def, ok := cat.Component(bad.Type)
	if !ok {
		return nil, fmt.Errorf("the kit does not know %s", bad.Type)
	}
	o := &audit.OwnRule{Severity: audit.Warning, Where: bad.Type, Good: written(like), Bad: written(unlike)}
	title := strings.ToLower(def.Title)
	if around := shared(cat, like, unlike); around != "" {
		o.Where = around + " " + bad.Type
		if in, ok := cat.Component(around); ok {
			title += " in " + strings.ToLower(in.Title)
		}
	}
	if good.Type != bad.Type {
		instead := good.Type
		if d, ok := cat.Component(good.Type); ok {
			instead = strings.ToLower(d.Title)
		}
		o.Must, o.Title = "false", fmt.Sprintf("No %s", title)
		o.Message = fmt.Sprintf("here stands a %s, not a %s", instead, strings.ToLower(def.Title))
		return o, nil
	}
	var must, words []string
	for i := range def.Props {
		p := &def.Props[i]
		g, known := literal(good, p)
		b, knownToo := literal(bad, p)
		// What is written for people differs from use to use; a choice is one of a few.
		if !known || !knownToo || g == b || p.Type != kit.Bool && p.Type != kit.Number && len(p.Values) == 0 {
			continue
		}
		value := fmt.Sprintf("%q", g)
		switch {
		case p.Type == kit.Bool:
			value = fmt.Sprint(g == "true")
		case p.Type == kit.Number && g != "":
			value = g
		}
		must = append(must, fmt.Sprintf("props[%q] == %s", p.Name, value))
		words = append(words, strings.TrimSpace(p.Name+" "+g))
		if o.Prop == "" {
			o.Prop, o.Value = p.Name, g
		}
	}
	if len(must) == 0 && good.Text.Kind == screen.Literal && bad.Text.Kind == screen.Literal && good.Text.Text != bad.Text.Text {
		must = []string{fmt.Sprintf("text == %q", good.Text.Text)}
		words = []string{"“" + good.Text.Text + "”"}
	}
	if len(must) == 0 {
		return nil, errors.New("the two are set alike; say by an expression what must hold")
	}
	if len(must) > 1 {
		o.Prop, o.Value = "", "" // one setting is not the repair of several
	}
	o.Must = strings.Join(must, " && ")
	o.Title = fmt.Sprintf("%s: %s", capital(title), strings.Join(words, ", "))
	o.Message = fmt.Sprintf("a %s has %s", title, strings.Join(words, " and "))
	return o, nil
}

func capital(s string) string {
	r := []rune(s)
	if len(r) > 0 {
		r[0] = []rune(strings.ToUpper(string(r[0])))[0]
	}
	return string(r)
}

func literal(e *screen.Element, p *kit.Prop) (string, bool) {
	v, ok := e.Prop(p.Name)
	if !ok {
		return p.Default, true
	}
	return v.Text, v.Kind == screen.Literal
}

// shared is the innermost component that both stand in; what only lays out says little.
func shared(cat kit.Catalog, a, b Example) string {
	for i := len(a) - 2; i > 0; i-- {
		def, ok := cat.Component(a[i].Type)
		if !ok || def.Level == kit.Layout {
			continue
		}
		if slices.ContainsFunc(b[:len(b)-1], func(e *screen.Element) bool { return e.Type == a[i].Type }) {
			return a[i].Type
		}
	}
	return ""
}

// written is an element with what it stands in as JSON, without what stands beside and in it.
func written(x Example) string {
	var inner *screen.Element
	for _, e := range slices.Backward(x) {
		alone := *e
		alone.Origin, alone.Children = nil, nil
		if inner != nil {
			alone.Children = []*screen.Element{inner}
		}
		inner = &alone
	}
	text, err := inner.MarshalJSON()
	if err != nil {
		return ""
	}
	return string(text)
}

// Tried tells what a rule makes of its own examples: whether the good one keeps it, and whether
// the bad one is found. An example that is not given is as it should be.
func Tried(o *audit.OwnRule, k *kit.Kit, cat kit.Catalog) (goodKept, badFound bool, err error) {
	r, err := Compile(o)
	if err != nil {
		return false, false, err
	}
	finds := func(src string) (bool, error) {
		root := &screen.Element{}
		if err := root.UnmarshalJSON([]byte(src)); err != nil {
			return false, fmt.Errorf("the example: %w", err)
		}
		ix := usage.New(cat)
		d := &screen.Document{Kind: screen.ScreenDoc, ID: "example", Root: root}
		ix.Put(d)
		counted, ok := ix.Find(d.Kind, d.ID)
		if !ok {
			return false, nil
		}
		e := audit.NewEngine(k, cat, []*audit.Rule{r})
		e.Context(nil, nil, nil, nil)
		return len(e.Check(counted).Findings()) > 0, nil
	}
	goodKept, badFound = true, true
	if o.Good != "" {
		found, err := finds(o.Good)
		if err != nil {
			return false, false, err
		}
		goodKept = !found
	}
	if o.Bad != "" {
		badFound, err = finds(o.Bad)
	}
	return goodKept, badFound, err
}
