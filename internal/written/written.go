// Package written writes workspaces as code, the way teams write screens by hand, so that what
// is read of code can be held against what was written. It is plain on purpose: one file a
// screen, a table of routes, components imported from one package.
package written

import (
	"fmt"
	"html"
	"regexp"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Dialects are the frameworks that are written.
var Dialects = []string{"react", "vue", "angular", "html"}

// Package is what the components are imported from.
const Package = "@acme/kit"

// Mark is the attribute that carries the id an element has in the workspace.
const Mark = "data-was"

// Export is the name that a component is imported under.
func Export(tag string) string {
	short := tag
	if _, rest, ok := strings.Cut(tag, "-"); ok {
		short = rest
	}
	var b strings.Builder
	for part := range strings.SplitSeq(short, "-") {
		b.WriteString(strings.ToUpper(part[:1]) + part[1:])
	}
	return b.String()
}

// Catalog describes a kit and the layouts as a package of components would.
func Catalog(k *kit.Kit, dialect string) *describe.Catalog {
	c := &describe.Catalog{Format: describe.Format, Name: Package, Version: "1.0.0", Drawn: dialect}
	elements := dialect == "angular" || dialect == "html"
	if elements {
		c.Drawn = describe.Elements
	}
	for _, def := range append(kit.Layouts(), k.Components...) {
		e := describe.Entry{ID: tagOf(def.Tag), Export: Export(tagOf(def.Tag)), Module: Package, From: describe.FromTypes, Deprecated: def.Deprecated}
		if elements {
			e.Tag, e.Export = tagOf(def.Tag), ""
		}
		for _, p := range def.Props {
			q := describe.Prop{Name: p.Name, Attr: p.Attr, Default: p.Default, Required: p.Required, Open: p.Open, Values: p.Values, From: describe.FromTypes}
			q.Type = map[kit.Type]string{kit.Text: "text", kit.Bool: "yes/no", kit.Number: "number", kit.Enum: "choice"}[p.Type]
			if p.Tokens != "" {
				q.Type, q.Open, q.Values = "choice", true, append([]string{"1", "2", "3", "4", "5", "6"}, p.Values...)
			}
			e.Props = append(e.Props, q)
		}
		for _, s := range def.Slots {
			e.Slots = append(e.Slots, describe.Slot{Name: s.Name})
		}
		c.Entries = append(c.Entries, e)
	}
	return c
}

// tagOf is the tag of a component; layouts are components of the same package.
func tagOf(typ string) string {
	if strings.Contains(typ, "-") {
		return typ
	}
	return "sorrel-" + typ
}

// Repository writes the screens of a workspace as a repository.
func Repository(w *model.Workspace, k *kit.Kit, dialect string) map[string][]byte {
	out := map[string][]byte{"package.json": []byte(`{"name":"written","dependencies":{"` + Package + `":"1.0.0"}}`)}
	var routes, imports strings.Builder
	for _, d := range w.Docs {
		if d.Kind != screen.ScreenDoc || d.Removed {
			continue
		}
		name := Export("x-" + d.ID)
		p := &printer{dialect: dialect, kit: k, used: map[string]bool{}}
		p.element(d.Root, 2)
		body := p.b.String()
		switch dialect {
		case "react":
			out["src/screens/"+name+".tsx"] = []byte(p.imports() + "\nexport function " + name + "() {\n  return (\n" + body + "  )\n}\n")
			fmt.Fprintf(&imports, "import { %s } from './screens/%s'\n", name, name)
			fmt.Fprintf(&routes, "  { path: '%s', element: <%s /> },\n", d.Route, name)
		case "vue":
			out["src/screens/"+name+".vue"] = []byte("<script setup lang=\"ts\">\n" + p.imports() + "</script>\n\n<template>\n" + body + "</template>\n")
			fmt.Fprintf(&routes, "  { path: '%s', component: () => import('./screens/%s.vue') },\n", d.Route, name)
		case "angular":
			file := "src/app/" + d.ID + ".component"
			out[file+".html"] = []byte(body)
			out[file+".ts"] = []byte("import { Component } from '@angular/core'\n\n@Component({ selector: 'app-" + d.ID + "', templateUrl: './" + d.ID + ".component.html' })\nexport class " + name + " {}\n")
			fmt.Fprintf(&routes, "  { path: '%s', loadComponent: () => import('./app/%s.component').then(m => m.%s) },\n", strings.TrimPrefix(d.Route, "/"), d.ID, name)
		case "html":
			out[page(d)] = []byte("<!doctype html>\n<html><head><title>" + html.EscapeString(d.Title) + "</title></head><body>\n" + body + "</body></html>\n")
		}
	}
	switch dialect {
	case "react":
		out["src/routes.tsx"] = []byte(imports.String() + "\nexport const routes = [\n" + routes.String() + "]\n")
	case "vue", "angular":
		out["src/routes.ts"] = []byte("export const routes = [\n" + routes.String() + "]\n")
	}
	return out
}

// page is the file of a plain page: where its route is.
func page(d *screen.Document) string {
	p := strings.Trim(parameter.ReplaceAllString(d.Route, "one"), "/")
	if p == "" {
		p = "index"
	}
	return p + "/" + d.ID + ".html"
}

var parameter = regexp.MustCompile(`:\w+`)

type printer struct {
	dialect string
	kit     *kit.Kit
	b       strings.Builder
	used    map[string]bool
	parent  string // type of what the element stands in
}

// said reports whether elements say themselves in which slot they stand: in plain markup, and
// where the component has a prop of the slot's name.
func (p *printer) said(parent, slot string) bool {
	if p.dialect == "angular" || p.dialect == "html" {
		return true
	}
	if def, ok := p.kit.Component(parent); ok && p.dialect == "react" {
		_, taken := def.Prop(slot)
		return taken
	}
	return false
}

func (p *printer) imports() string {
	var names []string
	for n := range p.used {
		names = append(names, n)
	}
	if len(names) == 0 {
		return ""
	}
	// In whatever order: imports have none that counts.
	return "import { " + strings.Join(names, ", ") + " } from '" + Package + "'\n"
}

var record = regexp.MustCompile(`\brecord\.`)

// code is an expression as code would have it.
func code(expr string) string {
	s := strings.NewReplacer(`"`, "'", "<", " lt ", ">", " gt ").Replace(record.ReplaceAllString(expr, "item."))
	return strings.ReplaceAll(strings.ReplaceAll(s, "{", "("), "}", ")")
}

func (p *printer) element(e *screen.Element, depth int) {
	pad := strings.Repeat("  ", depth)
	b := &p.b
	defer func(was string) { p.parent = was }(p.parent)
	list := e.Repeat != nil && p.dialect != "html"
	if p.dialect == "react" && list {
		fmt.Fprintf(b, "%s{%s.map(item => (\n", pad, plain(e.Repeat.Model))
	}
	if p.dialect == "angular" && list {
		fmt.Fprintf(b, "%s@for (item of %s; track item.id) {\n", pad, plain(e.Repeat.Model))
	}
	tag := tagOf(e.Type)
	if p.dialect == "react" || p.dialect == "vue" {
		tag = Export(tag)
		p.used[tag] = true
	}
	fmt.Fprintf(b, "%s<%s %s=\"%s\"", pad, tag, Mark, e.ID)
	if p.dialect == "vue" && list {
		fmt.Fprintf(b, ` v-for="item in %s" :key="item.id"`, plain(e.Repeat.Model))
	}
	for _, prop := range e.Props {
		b.WriteString(" " + p.attribute(prop.Name, prop.Value))
	}
	above := p.parent
	p.parent = e.Type
	inner := map[string][]*screen.Element{}
	order := []string{""}
	for _, c := range e.Children {
		slot := c.Slot
		if p.said(e.Type, slot) {
			slot = "" // said by each
		}
		if _, had := inner[slot]; !had && slot != "" {
			order = append(order, slot)
		}
		inner[slot] = append(inner[slot], c)
	}
	if e.Slot != "" && p.said(above, e.Slot) {
		fmt.Fprintf(b, ` slot="%s"`, e.Slot)
	}
	if p.dialect == "react" {
		for _, slot := range order[1:] {
			fmt.Fprintf(b, "\n%s  %s={\n%s    <>\n", pad, slot, pad)
			for _, c := range inner[slot] {
				p.element(c, depth+3)
			}
			fmt.Fprintf(b, "%s    </>\n%s  }", pad, pad)
		}
	}
	b.WriteString(">")
	if e.Text.Kind != screen.None {
		b.WriteString(p.text(e.Text))
	}
	if len(e.Children) > 0 {
		b.WriteString("\n")
		for _, c := range inner[""] {
			p.element(c, depth+1)
		}
		if p.dialect == "vue" {
			for _, slot := range order[1:] {
				fmt.Fprintf(b, "%s  <template #%s>\n", pad, slot)
				for _, c := range inner[slot] {
					p.element(c, depth+2)
				}
				fmt.Fprintf(b, "%s  </template>\n", pad)
			}
		}
		b.WriteString(pad)
	}
	fmt.Fprintf(b, "</%s>\n", tag)
	if p.dialect == "react" && list {
		fmt.Fprintf(b, "%s))}\n", pad)
	}
	if p.dialect == "angular" && list {
		fmt.Fprintf(b, "%s}\n", pad)
	}
}

func plain(name string) string {
	return strings.Map(func(r rune) rune {
		if r == '-' || r == ' ' {
			return '_'
		}
		return r
	}, name)
}

func (p *printer) text(v screen.Value) string {
	switch {
	case v.Kind == screen.Expr && p.dialect == "react":
		return "{" + code(v.Text) + "}"
	case v.Kind == screen.Expr:
		return "{{ " + code(v.Text) + " }}"
	case p.dialect == "react" && strings.ContainsAny(v.Text, "{}<>&"):
		return fmt.Sprintf("{%q}", v.Text)
	}
	return html.EscapeString(v.Text)
}

func (p *printer) attribute(name string, v screen.Value) string {
	switch {
	case v.Kind == screen.Flag && v.Text == "true":
		return name
	case v.Kind == screen.Expr || v.Kind == screen.Flag || v.Kind == screen.Num:
		switch p.dialect {
		case "react":
			return name + "={" + code(v.Text) + "}"
		case "vue":
			return ":" + name + `="` + code(v.Text) + `"`
		case "angular":
			return "[" + name + `]="` + code(v.Text) + `"`
		}
		if v.Kind == screen.Expr {
			return name + `="{{ ` + code(v.Text) + ` }}"`
		}
	case p.dialect == "react" && strings.ContainsAny(v.Text, "\"&"):
		return fmt.Sprintf("%s={%q}", name, v.Text)
	}
	return name + `="` + html.EscapeString(v.Text) + `"`
}
