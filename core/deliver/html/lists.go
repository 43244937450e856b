package html

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/evanw/esbuild/pkg/api"

	"ubiquant/core/deliver"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Lists is the script by which the lists of a page act.
//
//go:embed lists.js
var Lists string

// script is TypeScript as a browser reads it.
func script(source string) (string, error) {
	out := api.Transform(
		source,
		api.TransformOptions{Loader: api.LoaderTS, Target: api.ES2022, Format: api.FormatESModule},
	)
	if len(out.Errors) > 0 {
		return "", fmt.Errorf("what pages share: %s", out.Errors[0].Text)
	}
	return string(out.Code), nil
}

// listsOf writes the script of a page whose lists follow its controls; empty where
// nothing does. up leads to the folder of the modules that it takes from.
func listsOf(in deliver.Input, d *screen.Document, root *screen.Element, params map[string]string, up string) string {
	names := resolve.NamesOf(root, in.Cat).On(d.Route)
	if !names.Spoken {
		return ""
	}
	models := map[string]bool{}
	code := func(source string, record, outer *sample.Model) (string, bool) {
		p, err := expr.Compile(source, names.In(deliver.Scope(in, record, outer)))
		if err != nil {
			return "undefined", false // found by the audit
		}
		text, said := p.TypeScript(deliver.ListName)
		maps.Copy(models, said.Lists)
		return text, p.Speaks()
	}
	var lists, follows []string
	list := func(e *screen.Element, name string) {
		r := e.Repeat
		m := in.Models[r.Model]
		if m == nil {
			return
		}
		models[m.ID] = true
		where := "true"
		if r.Where != "" {
			where, _ = code(r.Where, m, nil)
		}
		order := quoted(r.Sort)
		if source, computed := sample.Computed(r.Sort); computed {
			text, _ := code(source, nil, nil)
			order = "x.text(" + text + ")"
		}
		page := "1"
		if r.Page != "" && names.Kinds[resolve.Identifier(r.Page)] == expr.Number {
			page = "controls." + resolve.Identifier(r.Page)
		}
		lists = append(
			lists,
			fmt.Sprintf(
				"    %s: { acts: %t, key: %s, records: %s, where: record => %s, order: () => %s, size: %d, page: () => %s },\n",
				quoted(name),
				resolve.Acts(e, names),
				quoted(e.ID),
				deliver.ListName(m.ID),
				where,
				order,
				r.Limit,
				page,
			),
		)
	}
	var walk func(e *screen.Element, record, outer *sample.Model)
	walk = func(e *screen.Element, record, outer *sample.Model) {
		if e.Repeat != nil {
			name := e.Name
			if names.Repeats[resolve.Identifier(name)] != e {
				name = ""
			}
			if record == nil && (name != "" || resolve.Acts(e, names)) {
				if name = resolve.Identifier(name); name == "" {
					name = e.ID
				}
				list(e, name)
			}
			record, outer = sample.Over(e.Repeat.Model, record, in.Models), record
		}
		note := func(what, source string) {
			text, speaks := code(source, record, outer)
			if !speaks || outer != nil {
				return
			}
			if record == nil {
				follows = append(follows, fmt.Sprintf("    [%s, %s, () => %s],\n", quoted(e.ID), quoted(what), text))
			} else {
				models[record.ID] = true
				follows = append(follows, fmt.Sprintf("    [%s, %s, record => %s, %s],\n", quoted(e.ID), quoted(what), text, deliver.ListName(record.ID)))
			}
		}
		if e.Show != "" {
			note("show", e.Show)
		}
		if e.Text.Kind == screen.Expr {
			note("text", e.Text.Text)
		}
		def, _ := in.Cat.Component(e.Type)
		for _, p := range e.Props {
			if p.Value.Kind != screen.Expr || def == nil || def.Level == kit.Piece {
				continue
			}
			if prop, ok := def.Prop(p.Name); ok {
				note(prop.Attr, p.Value.Text)
			}
		}
		for _, c := range e.Children {
			walk(c, record, outer)
		}
	}
	walk(root, nil, nil)

	var b strings.Builder
	if up == "" {
		up = "./"
	}
	fmt.Fprintf(&b, "import { act } from '%[1]slists.js'\nimport * as x from '%[1]sx.js'\n", up)
	for _, id := range slices.Sorted(maps.Keys(models)) {
		fmt.Fprintf(&b, "import { %[1]s } from '%[2]sdata/%[1]s.js'\n", deliver.ListName(id), up)
	}
	usual := make(map[string]any, len(names.Controls))
	for name, c := range names.Controls {
		usual[name] = c.Usual
	}
	controls, _ := json.Marshal(usual) // texts, numbers and yes/no
	states := map[string]string{}
	for id := range in.Sources {
		states[id] = sample.Ready
	}
	sources, _ := json.Marshal(states)
	if params == nil && in.Records != nil {
		if param, ids := in.Records(d); len(ids) > 0 {
			params = map[string]string{param: ids[0]}
		}
	}
	given, _ := json.Marshal(params)
	fmt.Fprintf(
		&b,
		"\nconst today = %s\nconst controls = %s, count = {}, pages = {}, sources = %s, params = %s\n",
		quoted(in.Today),
		controls,
		sources,
		given,
	)
	fmt.Fprintf(
		&b,
		"act({\n  controls, count, pages,\n  lists: {\n%s  },\n  follows: [\n%s  ],\n})\n",
		strings.Join(lists, ""),
		strings.Join(follows, ""),
	)
	return b.String()
}

// data writes the records of a model as a module.
func data(in deliver.Input, id string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "export const %s = [\n", deliver.ListName(id))
	for _, r := range in.Set.Records[id] {
		line, _ := json.Marshal(map[string]any(r)) // records hold plain values
		b.WriteString("  " + string(line) + ",\n")
	}
	b.WriteString("]\n")
	return b.String()
}

func quoted(s string) string {
	b, _ := json.Marshal(s) // texts cannot fail
	return string(b)
}
