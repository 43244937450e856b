package rules

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// byHand is a choice between values for the choices of one field.
var (
	byHand = regexp.MustCompile(`^\s*(?:record\.\w+\s*==\s*'[^'\\]*'\s*\?\s*'[^'\\]*'\s*:\s*)+'[^'\\]*'\s*$`)
	branch = regexp.MustCompile(`record\.(\w+)\s*==\s*'([^'\\]*)'\s*\?\s*'([^'\\]*)'`)
)

var _ = add(&audit.Rule{
	ID: "meaning-by-hand", Title: "Meaning said anew", Severity: audit.Warning,
	Purpose: "What the choices of a field mean is said once, at the field, and shown by it everywhere.",
	Why:     "Two places that say it apart come to differ: what is green here is blue there.",
	Bad: []string{
		`{"id":"a","type":"sorrel-chip","text":"x","repeat":{"model":"beds"},"props":{"tone":{"expr":"record.moisture == 'dry' ? 'bad' : 'good'"}}}`,
		`{"id":"a","type":"sorrel-text","text":{"expr":"record.moisture == 'dry' ? 'Water it' : record.moisture == 'wet' ? 'Too wet' : 'Fine'"},"repeat":{"model":"beds"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-chip","text":"x","repeat":{"model":"beds"},"props":{"tone":{"expr":"tone(record.moisture)"}}}`,
		`{"id":"a","type":"sorrel-chip","text":"x","repeat":{"model":"beds"},"props":{"shape":{"expr":"record.moisture == 'dry' ? 'square' : 'round'"}}}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		m := recordModel(p, n)
		if m == nil {
			return
		}
		literalTone(p, n, m)
		eachExpression(n, func(prop, source string) {
			if !byHand.MatchString(source) {
				return
			}
			list := branch.FindAllStringSubmatch(source, -1)
			f, ok := m.Field(list[0][1])
			if !ok || f.Type != sample.Choice || len(f.Meanings) == 0 {
				return
			}
			aspect := aspectOf(n, f, prop)
			if aspect == "" {
				return
			}
			differs := ""
			for _, b := range list {
				if b[1] != f.Name {
					return
				}
				if means, _ := f.Meaning(b[2]); means.Of(aspect) != b[3] && differs == "" {
					differs = fmt.Sprintf(
						"; “%s” is %s here and %s at the field",
						b[2],
						orNothing(b[3]),
						orNothing(means.Of(aspect)),
					)
				}
			}
			says := screen.Value{Kind: screen.Expr, Text: aspect + "(record." + f.Name + ")"}
			fix := screen.Edit{Op: screen.Set, ID: n.ID, Prop: prop, Value: says}
			if prop == "text" {
				fix = screen.Edit{Op: screen.SetText, ID: n.ID, Value: says}
			}
			p.Report(n, prop, fmt.Sprintf("what %s means is said by hand%s", f.Name, differs), "Show "+says.Text, fix)
		})
	},
})

// aspectOf is what of a meaning a prop shows: its words where it is the text, its tone or
// icon where the prop can take those; empty where it is about something else.
func aspectOf(n *audit.Node, f *sample.Field, prop string) string {
	if prop == "text" {
		for _, m := range f.Meanings {
			if m.Words != "" {
				return "words"
			}
		}
		return ""
	}
	if n.Def == nil {
		return ""
	}
	def, ok := n.Def.Prop(prop)
	if !ok {
		return ""
	}
	if strings.Contains(strings.ToLower(prop), "icon") {
		return "icon"
	}
	tones := 0
	for _, m := range f.Meanings {
		for _, v := range def.Values {
			if m.Tone != "" && v == m.Tone {
				tones++
			}
		}
	}
	if tones == 0 {
		return ""
	}
	return "tone"
}

func orNothing(s string) string {
	if s == "" {
		return "nothing"
	}
	return s
}

// literalTone tells of a tone that is set by hand where the field that is shown says its own.
func literalTone(p *audit.Pass, n *audit.Node, m *sample.Model) {
	shown := shownField.FindStringSubmatch(n.Text.Text)
	if n.Text.Kind != screen.Expr || shown == nil {
		return
	}
	f, ok := m.Field(shown[2])
	if !ok || f.Type != sample.Choice || len(f.Meanings) == 0 {
		return
	}
	by := n.Def.ToneBy()
	if v := value(n, by); v.Kind == screen.None || !v.Known() || !slices.Contains(by.Values, v.Text) {
		return
	}
	v := value(n, by)
	if !slices.ContainsFunc(f.Meanings, func(m sample.Meaning) bool { return m.Tone != "" && m.Tone != v.Text }) {
		return
	}
	p.Report(n, by.Name, fmt.Sprintf("%s is always %s here; its choices have tones of their own", f.Name, v.Text),
		"Show tone(record."+f.Name+")",
		screen.Edit{Op: screen.Set, ID: n.ID, Prop: by.Name, Value: screen.Value{Kind: screen.Expr, Text: "tone(record." + f.Name + ")"}})
}
