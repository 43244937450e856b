package kit

import (
	"cmp"
	"slices"
	"strings"
	"unicode"
)

// meant are the settings that say the same in every library, as places in Component.Props from 1;
// 0 where there is none.
type meant struct{ required, disabled, label, sends, kind, tone int }

// tones are words for what a look says of a thing, by which a setting is known to hold them.
var tones = []string{
	"good", "bad", "success", "positive", "ok", "danger", "error", "negative", "critical", "destructive", "warn", "warning", "caution", "attention",
	"info", "informative", "notice", "neutral", "green", "red", "orange", "yellow", "blue", "gray", "grey",
}

// saysState reports whether a look says that something is good, bad or to be seen, in words or by a
// colour that is taken for it everywhere; grey and neutral say nothing.
func saysState(look string) bool {
	look = strings.ToLower(look)
	return slices.Contains(tones, look) && look != "neutral" && look != "gray" && look != "grey"
}

// dangers are the values by which a library says that something takes away for good, the plainest
// word first: what warns of an error in a message does so of what is pressed.
var dangers = []string{"danger", "destructive", "negative", "critical", "error", "warn"}

// DangerBy is the setting by which something can say that it takes away for good, with the value
// that says so; nil where it has none.
func (c *Component) DangerBy() (*Prop, string) {
	for _, word := range dangers {
		for i := range c.Props {
			p := &c.Props[i]
			if p.Type == Bool && strings.EqualFold(unhyphened.Replace(p.Name), word) {
				return p, "true"
			}
			for _, v := range p.Values {
				if strings.EqualFold(v, word) {
					return p, v
				}
			}
		}
	}
	return nil, ""
}

// emphases are what libraries call the settings by which a part of a text stands out.
var emphases = []string{"weight", "fontweight", "bold", "strong", "italic", "underline", "textdecoration", "highlight", "mark"}

// Tells reports whether a look says something by itself, so that one that differs is hardly a slip: the
// tone of a badge that says a state, and what makes a text of no other purpose stand out.
func (c *Component) Tells(prop, look string) bool {
	if by := c.ToneBy(); c.Role == "status" {
		return by != nil && by.Name == prop && saysState(look)
	}
	return c.Role == "" && c.TakesText() && slices.Contains(emphases, c.bare()(prop))
}

// Prose reports whether it is a text of no other purpose: a label in one place, sentences in another.
func (c *Component) Prose() bool {
	named := func(s Slot) bool { return s.Name != "" }
	return c.Role == "" && c.TakesText() && c.Heading == nil && len(c.Parents) == 0 && !slices.ContainsFunc(c.Slots, named)
}

// steps are what libraries call the setting by which a text is in one of the sizes that they set texts in.
var steps = []string{"size", "fontsize", "textsize", "variant", "textstyle", "type", "scale"}

// StepBy is the setting by which a text of no other purpose is in one of the library's sizes; nil where it has none.
func (c *Component) StepBy() *Prop {
	if !c.Prose() {
		return nil
	}
	return c.called(steps, func(p *Prop) bool { return len(p.Values) > 2 && !slices.ContainsFunc(p.Values, saysState) })
}

// toned are what libraries call the setting of a status that holds one of them.
var toned = []string{"severity", "status", "intent", "state", "color", "colour", "colorscheme", "variant", "type", "theme", "kind"}

// labels are what libraries call the words by which people know something, the plainest first.
var labels = []string{"label", "labeltext", "title", "arialabel", "placeholder"}

// means finds them.
func (c *Component) means() meant {
	at := func(p *Prop) int {
		for i := range c.Props {
			if &c.Props[i] == p {
				return i + 1
			}
		}
		return 0
	}
	flag := func(names []string) int {
		return at(c.called(append(slices.Clone(names), c.begins()+names[0]), func(p *Prop) bool { return p.Type == Bool }))
	}
	tone := at(c.called([]string{"tone"}, func(p *Prop) bool { return p.Type == Text || p.Type == Enum }))
	if tone == 0 && c.Role == "status" {
		tone = at(c.called(toned, func(p *Prop) bool {
			meaning := 0
			for _, v := range p.Values {
				if slices.Contains(tones, strings.ToLower(v)) {
					meaning++
				}
			}
			return meaning >= 2
		}))
	}
	return meant{
		tone: tone,
		kind: at(c.called(asking[Kind], func(p *Prop) bool {
			return p.Type == Text || slices.ContainsFunc(Kinds, func(k string) bool { return slices.Contains(p.Values, k) })
		})),
		required: flag(asking[Required]),
		disabled: flag([]string{"disabled", "isdisabled"}),
		label:    at(c.called(append([]string{strings.ToLower(unhyphened.Replace(c.NameProp))}, labels...), func(p *Prop) bool { return p.Type == Text && !p.JSON })),
		sends: at(c.called([]string{"action", "type", "htmltype", "nativetype", "buttontype"}, func(p *Prop) bool {
			return slices.Contains(p.Values, "submit") || len(p.Values) == 0 && p.Type == Text && p.Name != "action"
		})),
	}
}

func (c *Component) at(i int) *Prop {
	if i == 0 || i > len(c.Props) {
		return nil
	}
	return &c.Props[i-1]
}

// RequiredBy is the flag that says that a control must be filled in; nil where it has none.
func (c *Component) RequiredBy() *Prop { return c.at(c.meant.required) }

// DisabledBy is the flag that says that nothing can be done with it; nil where it has none.
func (c *Component) DisabledBy() *Prop { return c.at(c.meant.disabled) }

// LabelBy is the setting with the words by which people know it; nil where it has none.
func (c *Component) LabelBy() *Prop { return c.at(c.meant.label) }

// SendsBy is the setting that says, by "submit", that it sends the form around it; nil where it has
// none.
func (c *Component) SendsBy() *Prop { return c.at(c.meant.sends) }

// ToneBy is the setting that says whether what it tells is good, bad or neither; nil where it has none.
func (c *Component) ToneBy() *Prop { return c.at(c.meant.tone) }

// KindBy is the setting of a control that says what kind of text it takes; nil where it has none.
func (c *Component) KindBy() *Prop { return c.at(c.meant.kind) }

// OpenFlags are what libraries call the flag that opens something, without dashes and in small
// letters. The later ones say as much of what only shows, so that an event must tell of its closing.
var OpenFlags = []string{"open", "opened", "isopen", "visible", "isvisible", "show", "isshown", "modelvalue"}

// sureFlags is how many of them mean nothing else.
const sureFlags = 3

// ClosesSaying reports whether the event by which it tells of its closing says whether it is open: it
// may tell that it was opened, too.
func (c *Component) ClosesSaying() bool {
	plain := c.bare()
	flag, said := plain(c.OpensBy), strings.TrimPrefix(plain(c.Closes), "on")
	return flag != "" && (said == flag+"change" || said == "update"+flag || said == "update:"+flag)
}

// begins is what the names of all settings begin with, in small letters, where a library has them so:
// "ac" of acTitle and acOpen.
func (c *Component) begins() string {
	if len(c.Props) < 3 {
		return ""
	}
	first := c.Props[0].Name
	n := strings.IndexFunc(first, unicode.IsUpper)
	if n < 1 || n > 3 {
		return ""
	}
	for i := range c.Props {
		rest, ok := strings.CutPrefix(c.Props[i].Name, first[:n])
		if !ok || rest == "" || !unicode.IsUpper(rune(rest[0])) {
			return ""
		}
	}
	return first[:n]
}

// bare gives names without dashes, capitals, and what all of the component's begin with.
func (c *Component) bare() func(name string) string {
	begins := c.begins()
	return func(name string) string {
		return strings.TrimPrefix(strings.ToLower(strings.ReplaceAll(name, "-", "")), begins)
	}
}

// opening finds the flag that opens a component and the event that tells that it was closed.
func (c *Component) opening() (flag, closes string) {
	plain := c.bare()
	for i, name := range OpenFlags {
		at := slices.IndexFunc(c.Props, func(p Prop) bool { return p.Type == Bool && plain(p.Name) == name })
		if at < 0 {
			continue
		}
		flag = c.Props[at].Name
		tells := func(words ...string) string {
			at := slices.IndexFunc(c.Events, func(e Named) bool { return slices.Contains(words, plain(e.Name)) })
			if at < 0 {
				return ""
			}
			return c.Events[at].Name
		}
		// What goes with the flag as a framework has it comes first: some tell that they closed only
		// once they were told to.
		closes = cmp.Or(tells("update:"+name, name+"change"), c.event("close", "hide"), tells("onclose", "onhide"),
			tells("on"+name+"change", "onupdate"+name, "onupdate:"+name), c.event("toggle", "dismiss", "cancel"), tells("ondismiss", "oncancel"))
		if i < sureFlags || closes != "" && c.Role != "control" && c.Role != "action" && c.Role != "link" {
			return flag, closes
		}
	}
	return "", ""
}

// Place are the settings of a place in a navigation: where it leads, and the flag that marks it as the
// one that is shown. A link is one that has both, and so is a part of a whole, such as a tab.
func (c *Component) Place() (to, active *Prop, ok bool) {
	if c.Role != "link" && (c.Role != "" || len(c.Parents) == 0) {
		return nil, nil, false
	}
	if active, ok = c.Prop("active"); !ok || active.Type != Bool {
		return nil, nil, false
	}
	to, ok = c.Prop(c.LeadsBy())
	return to, active, ok
}

// loaded are settings that hold the address of what is shown or sent, and lead nowhere.
var loaded = map[string]bool{"src": true, "srcset": true, "poster": true, "action": true, "formaction": true, "cite": true, "data": true}

// Leads tells whether a setting says where an element leads.
func (c *Component) Leads(p *Prop) bool {
	name := strings.ToLower(strings.ReplaceAll(p.Name, "-", ""))
	return name == "href" || name == "to" && p.Type == Text || p.URL && !loaded[name] && !c.ShowsPicture(p.Name)
}

// LeadsBy is the setting that says where a component leads; empty where it has none.
func (c *Component) LeadsBy() string {
	for _, name := range []string{"to", "href"} {
		if p, ok := c.Prop(name); ok && c.Leads(p) {
			return name
		}
	}
	for i := range c.Props {
		if c.Leads(&c.Props[i]) {
			return c.Props[i].Name
		}
	}
	return ""
}

// Leads reports whether a place leads to where somebody is: its own route, or one below. Of places beside
// each other the nearest does: one that another of them lies below leaves what is there to that.
func Leads(at, to string, beside []string) bool {
	below := func(at, to string) bool { return at == to || to != "/" && strings.HasPrefix(at, to+"/") }
	return to != "" && below(at, to) && !slices.ContainsFunc(beside, func(o string) bool { return o != to && below(o, to) && below(at, o) })
}
