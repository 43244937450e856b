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
			if !p.Handed && strings.EqualFold(unhyphened.Replace(p.Name), name) && fits(p) {
				return p
			}
		}
	}
	return nil
}

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
