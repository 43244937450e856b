package kit

import (
	"slices"
	"strings"
)

// Rules are what a field can ask of what is typed or chosen in it. Libraries call the props that
// say so by few names; the table has them in small letters, without what parts their words.
const (
	Required = "required" // it must hold something
	Least    = "least"    // number, date or time
	Most     = "most"
	Shortest = "shortest" // text, in letters
	Longest  = "longest"
	Pattern  = "pattern" // a regular expression for the whole text
	Kind     = "kind"    // one of Kinds
)

var asking = map[string][]string{
	Required: {"required", "isrequired", "mandatory"},
	Least:    {"min", "minimum", "least", "minvalue", "mindate", "mintime"},
	Most:     {"max", "maximum", "most", "maxvalue", "maxdate", "maxtime"},
	Shortest: {"minlength"},
	Longest:  {"maxlength"},
	Pattern:  {"pattern"},
	Kind:     {"type", "kind", "inputtype"},
}

// Kinds are the kinds of text that HTML knows and that can be wrong.
var Kinds = []string{"email", "url", "number", "date", "time"}

// Asks are the props by which a control, or the field around one, says what it takes, by rule.
func (c *Component) Asks() map[string]*Prop {
	out := map[string]*Prop{}
	for rule, names := range asking {
		if p := c.called(names, func(p *Prop) bool {
			switch rule {
			case Required:
				return p.Type == Bool
			case Kind:
				return slices.ContainsFunc(Kinds, func(k string) bool { return p.Type == Text || slices.Contains(p.Values, k) })
			}
			return p.Type == Text || p.Type == Number
		}); p != nil {
			out[rule] = p
		}
	}
	return out
}

// Blame is how a component shows that what it holds is wrong: a prop that takes the words, and
// one that marks it, with the value that does; either may be missing.
type Blame struct {
	Words, Mark *Prop
	As          any // true, or a choice
}

// Blames tells how a component shows that something is wrong; false where it cannot.
func (c *Component) Blames() (Blame, bool) {
	text := func(p *Prop) bool { return p.Type == Text && !p.JSON && !p.Icon && !p.URL }
	out := Blame{
		Words: c.called([]string{
			"error", "errortext", "errormessage", "invalidtext", "invalidmessage",
			"validationmessage", "validationtext", "errormessages", "errors",
		}, text),
		Mark: c.called([]string{"invalid", "isinvalid", "error", "haserror", "iserror"}, func(p *Prop) bool { return p.Type == Bool }),
		As:   true,
	}
	if out.Mark == nil && c.Holds != "" { // elsewhere these say what kind of thing it is
		bad := []string{"error", "invalid", "danger", "critical"}
		looks := []string{"status", "state", "validationstate", "validationstatus", "validatestatus", "color", "tone"}
		out.Mark = c.called(looks, func(p *Prop) bool {
			return slices.ContainsFunc(bad, func(v string) bool { return slices.Contains(p.Values, v) })
		})
		if out.Mark != nil {
			out.As = bad[slices.IndexFunc(bad, func(v string) bool { return slices.Contains(out.Mark.Values, v) })]
		}
	}
	if out.Words == nil && out.Mark != nil { // its hint turns into what is wrong
		out.Words = c.called([]string{"helpertext", "helptext", "hint", "description", "help", "supportingtext", "message"}, text)
	}
	return out, out.Words != nil || out.Mark != nil
}

// unhyphened joins the words of a name. It is made once: the first use of a replacer is dear.
var unhyphened = strings.NewReplacer("-", "", "_", "")

// called is the first prop with one of some names that fits.
func (c *Component) called(names []string, fits func(*Prop) bool) *Prop {
	for _, name := range names {
		for i := range c.Props {
			p := &c.Props[i]
			if strings.EqualFold(unhyphened.Replace(p.Name), name) && fits(p) {
				return p
			}
		}
	}
	return nil
}

// meant are the settings that say the same in every library, as places in Component.Props from 1;
// 0 where there is none.
type meant struct{ required, disabled, label, sends, kind, tone int }

// tones are words for what a look says of a thing, by which a setting is known to hold them.
var tones = []string{
	"good", "bad", "success", "positive", "ok", "danger", "error", "negative", "critical", "destructive", "warning", "caution", "attention",
	"info", "informative", "notice", "neutral", "green", "red", "orange", "yellow", "blue", "gray", "grey",
}

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
	flag := func(name string) int {
		return at(c.called([]string{name, "is" + name, c.begins() + name}, func(p *Prop) bool { return p.Type == Bool }))
	}
	labels := []string{"label", "labeltext", "title", "arialabel", "placeholder"}
	if c.NameProp != "" {
		labels = append([]string{strings.ToLower(unhyphened.Replace(c.NameProp))}, labels...)
	}
	tone := at(c.called([]string{"tone"}, func(p *Prop) bool { return p.Type == Text || p.Type == Enum }))
	if tone == 0 && c.Role == "status" {
		tone = at(c.called([]string{"severity", "status", "intent", "state", "color", "colour", "colorscheme", "variant", "type", "theme", "kind"}, func(p *Prop) bool {
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
		required: flag("required"),
		disabled: flag("disabled"),
		label:    at(c.called(labels, func(p *Prop) bool { return p.Type == Text && !p.JSON })),
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

// IsForm tells whether a component is the form around controls.
func (c *Component) IsForm() bool {
	return c.Role == "form" || strings.HasSuffix(c.Tag, "-form") || c.Export == "Form"
}

// SentAt is the event at which a form was sent; empty of what is no form, and where it does not tell.
func (c *Component) SentAt() string {
	if !c.IsForm() {
		return ""
	}
	if at := c.event("submit", "finish"); at != "" || c.Export != "" {
		return at
	}
	return "submit" // what stands in it is the page's, and so is its event
}
