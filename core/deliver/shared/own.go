package shared

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
)

// OwnShape says how a framework hands what a screen has to own code.
type OwnShape struct {
	Imports  *emit.Imports
	Element  func(r lower.Ref) string                 // the type of an element
	Params   func(object string) string               // of the parameters of the route
	State    func(union string) []string              // fields
	Kept     func(name, what, object string) []string // fields: what controls hold, what is open
	Settings func(r lower.Ref) string                 // what a component can be set to; empty for one that cannot
}

// OwnFiles are those beside a screen: the types that own code works with, own code and own
// styles.
func OwnFiles(c *lower.Component, s OwnShape) []deliver.File {
	own := c.Own()
	var b strings.Builder
	list := func(title, remark string, fields []string) {
		fmt.Fprintf(&b, "\n/** %s */\n", remark)
		if len(fields) == 0 {
			fmt.Fprintf(&b, "export type %s = Record<never, never>\n", title)
			return
		}
		fmt.Fprintf(&b, "export interface %s {\n  %s\n}\n", title, strings.ReplaceAll(strings.Join(fields, "\n"), "\n", "\n  "))
	}
	var values, takes []string
	for _, f := range c.Forms {
		var fields []string
		for _, field := range f.Fields {
			fields = append(fields, Key(field.Name)+": "+field.Type)
		}
		values = append(values, Key(f.Name)+": "+object(fields, "Record<string, never>"))
		takes = append(takes, fmt.Sprintf("%s?: (values: %sValues[%s], event: unknown) => void", Key(f.Name), own, emit.Plain.Quote(f.Name)))
	}
	list(own+"Values", "What its forms hand over.", values)
	var parts []string
	part := func(remark string, fields ...string) {
		parts = append(parts, "/** "+remark+" */")
		parts = append(parts, fields...)
	}
	if len(c.Refs) > 0 {
		var fields []string
		for _, r := range c.Refs {
			fields = append(fields, Key(r.Var)+": "+s.Element(r))
		}
		part("Elements by their stable names.", "elements: "+object(fields, ""))
	}
	if len(c.Params) > 0 {
		part("Parameters of the route.", "params: "+s.Params("{ "+strings.Join(c.Params, ": string; ")+": string }"))
	}
	if c.Stateful {
		part("What it shows.", s.State(StateType(c))...)
	}
	if len(c.Controls) > 0 {
		var fields []string
		for _, ctl := range c.Controls {
			fields = append(fields, Key(ctl.Name)+": "+ctl.Type)
		}
		part("What its controls hold.", s.Kept("controls", "hold", object(fields, ""))...)
	}
	if len(c.Targets) > 0 {
		var fields []string
		for _, t := range c.Targets {
			fields = append(fields, Key(t.Key)+": "+OpenType(t))
		}
		part("What is open.", s.Kept("opened", "open", object(fields, ""))...)
	}
	if len(c.Faults) > 0 {
		var fields []string
		for _, name := range c.Faults {
			fields = append(fields, emit.Plain.Quote(name))
		}
		part("Has a field say what is wrong with it, until the form is sent again.",
			"blame: (field: "+strings.Join(fields, " | ")+", words: string) => void")
	}
	list(own+"Parts", "What own code of the screen works with.", parts)
	var gives, settings []string
	if len(takes) > 0 {
		gives = append(gives, "/** Takes what a form hands over once it is sent. */", "submit?: "+object(takes, ""))
	}
	for _, r := range c.Refs {
		if typ := s.Settings(r); typ != "" {
			settings = append(settings, Key(r.Var)+"?: "+typ)
		}
	}
	if len(settings) > 0 {
		gives = append(gives, "/** Sets components by their stable names: props, and listeners as onEvent. */", "set?: "+object(settings, ""))
	}
	list(own+"Own", "What own code gives to the screen.", gives)
	fmt.Fprintf(&b, "\nexport type Use%s = (screen: %sParts) => %sOwn\n", own, own, own)
	head := emit.Print(s.Imports.Doc(emit.Plain), emit.Plain.Width)
	dir, title := c.Folder+"/"+own, strings.ReplaceAll(strings.Join(strings.Fields(c.Title), " "), "*/", "* /")
	return []deliver.File{
		{Path: dir + ".parts.ts", Data: []byte(emit.Tidy(head + b.String())), Doc: c.Address()},
		{Path: dir + ".own.ts", Own: true, Doc: c.Address(), Data: []byte(fmt.Sprintf(
			"// Own behaviour of the screen %s. This file is yours: it was written once and is never\n// written again. What you can work with is said in %s.parts.ts.\nimport type { Use%s } from './%s.parts'\n\nexport const use%s: Use%s = () => ({})\n",
			title, own, own, own, own, own))},
		{Path: dir + ".own.css", Own: true, Doc: c.Address(), Data: []byte(fmt.Sprintf(
			"/* Own styles of the screen %s. This file is yours: it was written once and is never written\n   again. Below the screen, elements go by their stable names: [data-name='…']. */\n[data-screen='%s'] {\n}\n",
			title, c.ID))},
	}
}

// object is a type with fields, one a line.
func object(fields []string, empty string) string {
	if len(fields) == 0 {
		return empty
	}
	return "{\n  " + strings.ReplaceAll(strings.Join(fields, "\n"), "\n", "\n  ") + "\n}"
}

// StateType is the type of a screen's state.
func StateType(c *lower.Component) string {
	var states []string
	for _, s := range c.States {
		states = append(states, emit.Plain.Quote(s))
	}
	if len(states) == 0 {
		return emit.Plain.Quote(lower.Usual)
	}
	return strings.Join(states, " | ")
}

// OpenType is that of what is kept of something that opens.
func OpenType(t *lower.Target) string {
	switch {
	case t.Each:
		return "Record<string, boolean | undefined>"
	case t.Fixed:
		return "boolean"
	}
	return "boolean | undefined"
}

// Opened is what is open at first.
func Opened(c *lower.Component) emit.Expr {
	o := emit.Object{}
	for _, t := range c.Targets {
		var usual emit.Expr
		switch {
		case t.Each:
			usual = emit.As{Of: emit.Object{}, Type: OpenType(t)}
		case t.Fixed:
			usual = t.Usual
		default:
			usual = emit.As{Of: emit.Name("undefined"), Type: OpenType(t)}
		}
		o.Fields = append(o.Fields, emit.Field{Key: t.Key, Value: usual})
	}
	return o
}

// Kept is what controls hold at first; of those that are given and told from outside, what is
// given, as given says it.
func Kept(c *lower.Component, given func(lower.Control) emit.Expr) emit.Object {
	o := emit.Object{}
	for _, ctl := range c.Controls {
		is := ctl.Usual
		if ctl.Prop != "" {
			if is = given(ctl); is == nil {
				continue
			}
		}
		o.Fields = append(o.Fields, emit.Field{Key: ctl.Name, Value: is})
	}
	return o
}

// Told are the controls that are given and told from outside, with what does it.
func Told(c *lower.Component, does func(lower.Control) emit.Expr) emit.Object {
	o := emit.Object{}
	for _, ctl := range c.Controls {
		if ctl.Prop != "" {
			o.Fields = append(o.Fields, emit.Field{Key: ctl.Name, Value: does(ctl)})
		}
	}
	return o
}

// Holds are the properties of a form's controls that hold what is filled in, by name.
func Holds(f *lower.Form) emit.Expr {
	o := emit.Object{}
	for _, field := range f.Fields {
		is := emit.Expr(emit.Str(field.Holds))
		if field.Read {
			is = emit.List{Of: []emit.Expr{is, emit.Str("number")}}
		}
		o.Fields = append(o.Fields, emit.Field{Key: field.Name, Value: is})
	}
	return o
}

// Said and Asked are remarks at what forms look at.
const (
	Said  = "What fields say that do not hold what they are asked for."
	Asked = "What is asked of fields before they are sent."
)

// Guarded are statements that come only where fields hold what they are asked for: fine is the
// function that looks, of is what stands before what is asked, blame takes what fields say.
func Guarded(fine string, c *lower.Check, event, of, blame string, list []emit.Stmt) []emit.Stmt {
	looks := emit.Call{Fn: emit.Name(fine), Args: []emit.Expr{emit.Name(event), emit.Name(of + c.Name), emit.Name(blame)}}
	if len(list) == 0 {
		return []emit.Stmt{emit.Do{Of: looks}}
	}
	return append([]emit.Stmt{emit.If{If: emit.Unary{Op: "!", Of: looks}, Then: []emit.Stmt{emit.Return{}}}}, list...)
}

// Faults is what is kept of what fields say once they were sent: nothing, at first.
func Faults(c *lower.Component) emit.Expr {
	o := emit.Object{}
	for _, name := range c.Faults {
		o.Fields = append(o.Fields, emit.Field{Key: name, Value: emit.Str("")})
	}
	return o
}

// ListOf is the name of a model's list.
func ListOf(p *lower.Program, model string) string {
	for _, m := range p.Models {
		if m.ID == model {
			return m.List
		}
	}
	return model
}

// Settable tells whether own code may set one of a screen's elements: a framework's
// component.
func Settable(c *lower.Component) bool {
	return slices.ContainsFunc(c.Refs, func(r lower.Ref) bool { return r.Tag.Module != "" })
}

// SlotOf is the slot that something stands in.
func SlotOf(n lower.Node) string {
	switch x := n.(type) {
	case *lower.El:
		return x.Slot
	case *lower.Outlet:
		return x.Slot
	case *lower.Each:
		for _, k := range x.Body {
			if s := SlotOf(k); s != "" {
				return s
			}
		}
	}
	return ""
}

// BySlot sorts what stands in a component of a framework by slots.
func BySlot(kids []lower.Node) map[string][]lower.Node {
	by := map[string][]lower.Node{}
	for _, k := range kids {
		by[SlotOf(k)] = append(by[SlotOf(k)], k)
	}
	return by
}
