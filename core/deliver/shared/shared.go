// Package shared writes what delivered applications of all frameworks have in common:
// the types of records, where they come from, the runtime of expressions, styles.
package shared

import (
	"bytes"
	"embed"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"
	"text/template"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/expr"
	"ubiquant/core/render"
	"ubiquant/core/sample"
)

//go:embed files
var files embed.FS

// Options are what differs between frameworks and those who build them.
type Options struct {
	// Sampled is the condition under which samples are part of a build, as code; Reference
	// what types it needs.
	Sampled   emit.Expr
	Reference string
}

// Fill writes a text file of a target: {{.Name}} and the like stand for what data holds.
func Fill(fs embed.FS, name string, data any) (string, error) {
	src, err := fs.ReadFile(name)
	if err != nil {
		return "", err
	}
	if !bytes.Contains(src, []byte("{{")) {
		return string(src), nil
	}
	t, err := template.New(path.Base(name)).Funcs(template.FuncMap{"inner": inner}).Parse(string(src))
	if err != nil {
		return "", fmt.Errorf("%s: %w", name, err)
	}
	var b bytes.Buffer
	if err := t.Execute(&b, data); err != nil {
		return "", fmt.Errorf("%s: %w", name, err)
	}
	return b.String(), nil
}

// inner is a text as it stands between single quotes.
func inner(s string) string {
	quoted := emit.Plain.Quote(s)
	return strings.ReplaceAll(strings.ReplaceAll(quoted[1:len(quoted)-1], `\'`, "'"), "'", `\'`)
}

// Info is what text files speak of.
type Info struct {
	Name, Title, Theme string
	Dark, Light        string // marks by which the kit knows a theme; empty for none
	ThemeAttr          string // attributes of the root that say so
	Texts              bool   // texts have files of their own
	Language           string // that they are written in
}

// Files are those inside the folder of what is delivered.
func Files(p *lower.Program, o Options) ([]deliver.File, error) {
	in := p.In
	var out []deliver.File
	add := func(name, text string) { out = append(out, deliver.File{Path: name, Data: []byte(text)}) }
	info := InfoOf(in)
	for to, from := range map[string]string{"data/store.ts": "store.ts", "lib/page.ts": "page.ts", "data/data.ts": "data.ts"} {
		text, err := Fill(files, "files/"+from, info)
		if err != nil {
			return nil, err
		}
		out = append(out, deliver.File{Path: to, Data: []byte(text), Own: from == "data.ts"})
	}
	if slices.ContainsFunc(p.Models, func(m *lower.Model) bool { return m.Source != nil }) {
		text, err := Fill(files, "files/service.ts", info)
		if err != nil {
			return nil, err
		}
		add("data/service.ts", text)
	}
	if slices.ContainsFunc(slices.Concat(p.Screens, p.Shells, p.Pieces), func(c *lower.Component) bool { return len(c.Checks) > 0 }) {
		text, err := Fill(files, "files/forms.ts", info)
		if err != nil {
			return nil, err
		}
		add("lib/forms.ts", text)
		add("lib/faults.ts", render.Faults)
	}
	layout, err := Fill(files, "files/layout.css", info)
	if err != nil {
		return nil, err
	}
	used := classes(p)
	sheet, err := Sheet(layout+render.Sheet(in.Kit), func(class string) bool { return used[class] })
	if err != nil {
		return nil, err
	}
	add("layout.css", sheet)
	add("lib/values.ts", expr.Runtime)
	if t := in.Texts; t != nil {
		text, err := Fill(files, "files/texts.ts.tmpl", textsInfo(t))
		if err != nil {
			return nil, err
		}
		add("lib/texts.ts", text)
		out = append(out, t.Files()...)
	}
	add("lib/elements.ts", elements(p))
	add("data/models.ts", models(p))
	add("data/lists.ts", lists(p))
	add("data/samples/index.ts", samples(p, o))
	for _, m := range p.Models {
		if sampled(m) {
			add("data/samples/"+m.List+".ts", records(m))
		}
	}
	return out, nil
}

func sampled(m *lower.Model) bool { return m.Query == nil && m.Source == nil }

func print(list ...emit.Doc) string { return strings.TrimRight(emit.Lines(list...), "\n") + "\n" }

func models(p *lower.Program) string {
	var b strings.Builder
	b.WriteString("// The records that screens show. Money is in minor units; dates are YYYY-MM-DD.\n")
	for _, m := range p.Models {
		fmt.Fprintf(&b, "\nexport interface %s {\n", m.Type)
		for _, f := range m.Fields {
			name, optional := f.Name, ""
			if !emit.IsIdentifier(name) {
				name = emit.Plain.Quote(name)
			}
			if f.Optional {
				optional = "?"
			}
			typ := f.Type
			if f.Optional {
				typ += " | undefined"
			}
			fmt.Fprintf(&b, "  %s%s: %s\n", name, optional, typ)
		}
		b.WriteString("}\n")
	}
	b.WriteString("\n/** The kinds of records, by the names of their lists. */\n")
	if len(p.Models) == 0 { // none yet: the first that comes makes it an interface
		b.WriteString("export type Records = Record<string, { id: string }>\n")
		return b.String()
	}
	b.WriteString("export interface Records {\n")
	for _, m := range p.Models {
		fmt.Fprintf(&b, "  %s: %s\n", m.List, m.Type)
	}
	b.WriteString("}\n")
	return b.String()
}

// elements is what is known of the properties of the kit's elements.
func elements(p *lower.Program) string {
	used := Used(p)
	if len(used) == 0 {
		return "/** The kit's elements by their tags, with their properties: it has none. */\nexport type KitElements = Record<never, never>\n"
	}
	var b strings.Builder
	b.WriteString("/** The kit's elements by their tags, with their properties. */\nexport interface KitElements {\n")
	for _, c := range used {
		fmt.Fprintf(&b, "  '%s': {\n", c.Tag)
		for i := range c.Props {
			if prop := &c.Props[i]; prop.Name != "className" {
				b.WriteString(TypeLine(2, Key(prop.Name)+":", PropertyType(prop)))
			}
		}
		b.WriteString("  }\n")
	}
	b.WriteString("}\n")
	return strings.ReplaceAll(b.String(), ": {\n  }", ": object")
}

// Module is the file that a name is taken from; up leads to the folder of the delivery.
func Module(t emit.Taken, up string) string {
	switch {
	case t.Module == lower.Values && t.Name == "active":
		return up + "lib/page"
	case t.Module == lower.Values:
		return up + "lib/values"
	case t.Module == lower.Texts:
		return up + "lib/texts"
	}
	return t.Module
}

// Code puts an expression into a module: what it takes from others is imported, lists are
// read by their names.
func Code(p *lower.Program, e emit.Expr, imports *emit.Imports, values string, list func(name string) emit.Expr) emit.Expr {
	names := map[string]string{}
	for _, m := range p.Models {
		names[m.ID] = m.List
	}
	return emit.Map(e, func(e emit.Expr) emit.Expr {
		switch x := e.(type) {
		case emit.Taken:
			module := x.Module
			if module == lower.Values {
				module = values
			}
			return emit.Name(imports.Value(module, x.Name, ""))
		case emit.Read:
			if x.What == "list" {
				return list(names[x.Name])
			}
		}
		return e
	})
}

func lists(p *lower.Program) string {
	var names emit.Names
	names.Keep("lists", "bases", "record")
	imports := emit.NewImports(&names)
	imports.Type("./store", "Definitions")
	code := func(e emit.Expr) emit.Expr {
		return Code(p, e, imports, "../lib/values", func(name string) emit.Expr { return emit.Member{Of: emit.Name("all"), Name: name} })
	}
	byID := map[string]*lower.Model{}
	for _, m := range p.Models {
		byID[m.ID] = m
	}
	needs := func(ids []string) emit.Expr {
		list := emit.List{}
		for _, id := range ids {
			if m := byID[id]; m != nil {
				list.Of = append(list.Of, emit.Str(m.List))
			}
		}
		return list
	}
	var fields []emit.Field
	bases := map[string]string{}
	for _, m := range p.Models {
		def := emit.Object{}
		set := func(key string, v emit.Expr) { def.Fields = append(def.Fields, emit.Field{Key: key, Value: v}) }
		if m.Source != nil {
			bases[m.Source.Base] = m.Source.Address
			set("load", service(m, imports))
		}
		if len(m.Computed) > 0 {
			if len(m.Needs) > 0 {
				set("needs", needs(m.Needs))
			}
			made := emit.Object{Fields: []emit.Field{{Key: "record"}}}
			params := []string{"record", "all"}
			speaks := false
			for _, c := range m.Computed {
				made.Fields = append(made.Fields, emit.Field{Key: c.Name, Value: code(c.Code)})
				speaks = speaks || len(m.Needs) > 0
			}
			if !speaks {
				params = params[:1]
			}
			set("complete", complete(m, made, params))
		}
		if q := m.Query; q != nil {
			set("needs", needs(append([]string{q.From}, m.Needs...)))
			set("make", emit.Arrow{Params: []string{"all"}, Of: query(q, byID[q.From], imports, code)})
		}
		fields = append(fields, emit.Field{Key: m.List, Value: def})
	}
	var out []emit.Doc
	if len(bases) > 0 {
		base := emit.Object{}
		for _, name := range slices.Sorted(maps.Keys(bases)) {
			base.Fields = append(base.Fields, emit.Field{Key: name, Value: emit.Call{
				Fn: emit.Name(imports.Value("./bases", "baseOf", "")), Args: []emit.Expr{emit.Str(name), emit.Str(bases[name])},
			}})
		}
		out = append(out, emit.Statements(emit.Remark("Addresses that data comes from; bases.ts says others."), emit.Const{Name: "bases", Is: base}), "")
	}
	body := emit.Statements(
		emit.Remark("How each list comes about."),
		emit.Const{Export: true, Name: "lists", Type: "Definitions", Is: emit.Object{Fields: fields}},
	)
	return print(append([]emit.Doc{imports.Doc(emit.Plain), ""}, append(out, body)...)...)
}

// complete is the function that adds what is computed: later fields see earlier ones.
func complete(m *lower.Model, made emit.Object, params []string) emit.Expr {
	if len(m.Computed) == 1 {
		return emit.Arrow{Params: params, Of: made}
	}
	body := []emit.Stmt{emit.Const{Name: "made", Is: emit.Object{Fields: []emit.Field{{Key: "record"}}}}}
	for _, f := range made.Fields[1:] {
		value := emit.Map(f.Value, func(e emit.Expr) emit.Expr {
			if e == emit.Expr(emit.Name("record")) {
				return emit.Name("made")
			}
			return e
		})
		body = append(body, emit.Do{Of: emit.Binary{Op: "=", L: emit.Member{Of: emit.Name("made"), Name: f.Key}, R: value}})
	}
	return emit.Arrow{Params: params, Body: append(body, emit.Return{Of: emit.Name("made")})}
}

func query(q *lower.Query, from *lower.Model, imports *emit.Imports, code func(emit.Expr) emit.Expr) emit.Expr {
	fn := func(e emit.Expr) emit.Expr { return emit.Arrow{Params: []string{q.Item}, Of: e} }
	group := emit.Object{}
	for _, g := range q.Group {
		group.Fields = append(group.Fields, emit.Field{Key: g.Name, Value: fn(code(g.Code))})
	}
	each := emit.List{}
	for _, a := range q.Each {
		o := emit.Object{Fields: []emit.Field{{Key: "name", Value: emit.Str(a.Name)}, {Key: "do", Value: emit.Str(a.Do)}}}
		if a.Of != nil {
			o.Fields = append(o.Fields, emit.Field{Key: "of", Value: fn(code(a.Of))})
		}
		if a.Whole {
			o.Fields = append(o.Fields, emit.Field{Key: "whole", Value: emit.Name("true")})
		}
		each.Of = append(each.Of, o)
	}
	where := emit.Expr(emit.Arrow{Of: emit.Name("true")})
	if q.Where != nil {
		where = fn(code(q.Where))
	}
	return emit.Call{Fn: emit.Name(imports.Value("../lib/values", "query", "")), Args: []emit.Expr{
		emit.Member{Of: emit.Name("all"), Name: from.List},
		emit.Object{Fields: []emit.Field{
			{Key: "where", Value: where}, {Key: "group", Value: group}, {Key: "each", Value: each},
			{Key: "order", Value: emit.Str(q.Sort)}, {Key: "limit", Value: lower.Literal(float64(q.Limit))},
		}},
	}}
}

var columnTypes = map[sample.FieldType]string{
	sample.Number: "number", sample.Money: "money", sample.YesNo: "yes/no", sample.Date: "date", sample.Texts: "list", sample.Refs: "list",
}

func service(m *lower.Model, imports *emit.Imports) emit.Expr {
	src := m.Source
	parts := []emit.Expr{emit.Member{Of: emit.Name("bases"), Name: src.Base}}
	rest := src.Path
	for _, p := range src.Parameters() {
		before, after, _ := strings.Cut(rest, "{"+p+"}")
		if before != "" {
			parts = append(parts, emit.Str(before))
		}
		parts = append(parts, emit.Call{
			Fn:   emit.Name(imports.Value("./service", "part", "")),
			Args: []emit.Expr{emit.Index{Of: emit.Name("params"), At: emit.Str(p)}},
		})
		rest = after
	}
	if rest != "" {
		parts = append(parts, emit.Str(rest))
	}
	address := emit.Arrow{Of: emit.Template{Parts: parts}}
	if len(src.Parameters()) > 0 {
		address.Params = []string{"params"}
	}
	columns := emit.List{}
	for _, f := range m.Fields {
		typ, pointer := "text", src.Fields[f.Name]
		if pointer == "" {
			pointer = "/" + f.Name
		}
		o := []emit.Field{{Key: "name", Value: emit.Str(f.Name)}, {Key: "at", Value: emit.Str(pointer)}}
		if f.Of != nil {
			if f.Of.Compute != "" {
				continue
			}
			if t := columnTypes[f.Of.Type]; t != "" {
				typ = t
			}
		}
		o = append(o, emit.Field{Key: "type", Value: emit.Str(typ)})
		if f.Of != nil && f.Of.Type == sample.Money && f.Of.Currency != "" {
			o = append(o, emit.Field{Key: "decimals", Value: lower.Literal(float64(sample.CurrencyOf(f.Of.Currency).Decimals))})
		}
		columns.Of = append(columns.Of, emit.Object{Fields: o})
	}
	return emit.Call{
		Fn:   emit.Name(imports.Value("./service", "fromService", "")),
		Args: []emit.Expr{address, emit.Str(src.List), columns},
	}
}

func samples(p *lower.Program, o Options) string {
	list := emit.Object{}
	for _, m := range p.Models {
		if !sampled(m) {
			continue
		}
		list.Fields = append(list.Fields, emit.Field{Key: m.List, Value: emit.Arrow{Async: true, Of: emit.Member{
			Of: emit.Name("(await import('./" + m.List + "'))"), Name: m.List,
		}}})
	}
	head := ""
	if o.Reference != "" {
		head = o.Reference + "\n"
	}
	return head + print(
		emit.Statements(emit.Text("import type { Loaders } from '../store'"), emit.Blank{},
			emit.Remark("Records to look at while there is no service yet; a production build has none."),
			emit.Const{Export: true, Name: "samples", Type: "Loaders", Is: emit.Cond{If: o.Sampled, Then: list, Else: emit.Object{}}}),
	)
}

func records(m *lower.Model) string {
	list := emit.List{}
	for _, r := range m.Sample {
		o := emit.Object{}
		computed := func(name string) bool {
			return slices.ContainsFunc(m.Computed, func(c lower.Computed) bool { return c.Name == name })
		}
		for _, f := range m.Fields {
			if v, ok := r[f.Name]; ok && v != nil && !computed(f.Name) {
				o.Fields = append(o.Fields, emit.Field{Key: f.Name, Value: lower.Literal(v)})
			}
		}
		list.Of = append(list.Of, o)
	}
	return print(emit.Statements(
		emit.Text(fmt.Sprintf("import type { %s } from '../models'", m.Type)), emit.Blank{},
		emit.Const{Export: true, Name: m.List, Type: m.Type + "[]", Is: list},
	))
}

// Bases is the file with the addresses that data comes from: the team's own.
func Bases(env string) string {
	return "// Addresses that data comes from. This file is yours: it was written once and is never\n// written again.\n" + env
}
