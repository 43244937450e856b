// Package data computes what changes of models and records lead to: where screens speak
// of a field, and what becomes of records, lists and expressions when it changes.
package data

import (
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"ubiquant/core/expr"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Spoken is where a screen speaks of a model or one of its fields.
type Spoken struct {
	Doc     string `json:"doc"`
	Title   string `json:"title"`
	Element string `json:"element"`
	Words   string `json:"words"`
}

// Speaking lists where screens, shells and pieces speak of a model, or of a field of it
// where one is given.
func Speaking(w *model.Workspace, of, field string) []Spoken {
	out := []Spoken{}
	named := FieldOf(of, field, w.ModelMap())
	name := regexp.MustCompile(`\b` + regexp.QuoteMeta(of) + `\b`)
	for _, d := range w.Docs {
		if d.Removed {
			continue
		}
		EachExpression(d.Root, w.ModelMap(), func(e *screen.Element, around, source, what string) {
			says := around == of && what == "each"
			switch {
			case what == "sort":
				says = around == of &&
					(field == "" || slices.ContainsFunc(sample.Keys(source), func(k sample.Key) bool { return k.Field == field }))
			case field == "":
				says = says || what != "each" && name.MatchString(source)
			default:
				says = what != "each" && named.speaks(source, around)
			}
			if says {
				out = append(
					out,
					Spoken{d.Address(), d.Title, e.ID, strings.TrimSpace(what + " " + source)},
				)
			}
		})
	}
	return out
}

// EachExpression calls found for every expression of a tree: at which element, with the
// model of the records around it (those of the nearest repeat, around where there is
// none), and what it is for: a prop, "text", "if", "each" where a repeat is over a model,
// "over" where it is over a field of the record around, "where" or "sort".
func EachExpression(
	root *screen.Element,
	models map[string]*sample.Model,
	found func(e *screen.Element, around, source, what string),
) {
	eachExpression(root, "", models, found)
}

func eachExpression(
	root *screen.Element,
	around string,
	models map[string]*sample.Model,
	found func(e *screen.Element, around, source, what string),
) {
	if r := root.Repeat; r != nil {
		if _, ofField := sample.OverField(r.Model); ofField {
			found(root, around, r.Model, "over")
			if m := sample.Over(r.Model, models[around], models); m != nil {
				around = m.ID
			}
		} else {
			around = r.Model
			found(root, around, r.Model, "each")
		}
		if r.Where != "" {
			found(root, around, r.Where, "where")
		}
		if _, computed := sample.Computed(r.Sort); r.Sort != "" && !computed {
			found(root, around, r.Sort, "sort")
		}
	}
	if root.Show != "" {
		found(root, around, root.Show, "if")
	}
	if root.Text.Kind == screen.Expr {
		found(root, around, root.Text.Text, "text")
	}
	for _, p := range root.Props {
		if p.Value.Kind == screen.Expr {
			found(root, around, p.Value.Text, p.Name)
		}
	}
	for _, c := range root.Children {
		eachExpression(c, around, models, found)
	}
}

// FieldPattern finds a field of a model in expressions.
type FieldPattern struct {
	model, field  string
	models        map[string]*sample.Model
	record, found *regexp.Regexp
}

// FieldOf is the pattern of a field. With the models, as they are named in the expressions,
// expressions are read; without, and where one cannot be, names are searched for.
func FieldOf(model, field string, models map[string]*sample.Model) FieldPattern {
	f, m := regexp.QuoteMeta(field), regexp.QuoteMeta(model)
	return FieldPattern{
		model, field, models,
		regexp.MustCompile(`\b(record\.)` + f + `\b`),
		regexp.MustCompile(`\b(find\(\s*` + m + `\s*,[^()]*(?:\([^()]*\)[^()]*)*\)\.)` + f + `\b`),
	}
}

// mentions are the places of an expression that name the field, in characters; around is the model
// of the record around it.
func (p FieldPattern) mentions(source, around string) (at []int, ok bool) {
	if p.models[p.model] == nil || around != "" && p.models[around] == nil {
		return nil, false
	}
	list, ok := expr.Mentions(source, expr.Scope{Record: p.models[around], Models: p.models})
	for _, m := range list {
		if m.Model == p.model && m.Field == p.field {
			at = append(at, m.At)
		}
	}
	return at, ok
}

func (p FieldPattern) speaks(source, around string) bool {
	if at, ok := p.mentions(source, around); ok {
		return len(at) > 0
	}
	return around == p.model && p.record.MatchString(source) || p.found.MatchString(source)
}

// Rename renames the field in an expression; around is the model of the record around it.
func (p FieldPattern) Rename(source, to, around string) string {
	if at, ok := p.mentions(source, around); ok {
		letters := []rune(source)
		slices.Sort(at)
		for _, i := range slices.Backward(slices.Compact(at)) {
			letters = slices.Replace(letters, i, i+utf8.RuneCountInString(p.field), []rune(to)...)
		}
		return string(letters)
	}
	if around == p.model {
		source = p.record.ReplaceAllString(source, "${1}"+to)
	}
	return p.found.ReplaceAllString(source, "${1}"+to)
}
