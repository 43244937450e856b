package shared

import (
	"cmp"
	"embed"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/kit/pack"
)

// Vite is how applications that Vite builds leave samples out of a production build.
const Vite = `/// <reference types="vite/client" />`

// Parts are what a framework adds to what all have in common.
type Parts struct {
	Options   Options
	Files     embed.FS // its own files, below files/inside
	At        func(c *lower.Component) string
	Component func(p *lower.Program, c *lower.Component, at map[string]string) []deliver.File
	Routes    func(p *lower.Program, at map[string]string) string
	Index     func(s SetUp) string
	Elements  func(p *lower.Program) string // types of the kit's elements; nil for none
}

// Inside writes what stands in the folder of a delivery.
func Inside(in deliver.Input, f Parts) ([]deliver.File, []deliver.Note, error) {
	p := lower.Lower(in)
	out, err := Files(p, f.Options)
	if err != nil {
		return nil, nil, err
	}
	add := func(name, text string) { out = append(out, deliver.File{Path: name, Data: []byte(text)}) }
	info := struct {
		Info
		Go, Wrap, Kit string
		WrapTheme     *pack.WrapTheme
	}{InfoOf(in), cmp.Or(in.Kit.Code.Go, "click"), in.Wrap, in.Kit.Name, in.WrapTheme}
	copied, err := Copy(f.Files, "files/inside", info, "data/bases.ts")
	if err != nil {
		return nil, nil, err
	}
	for _, file := range copied {
		if file.Path != "data/bases.ts" || len(in.Sources) > 0 {
			out = append(out, file)
		}
	}
	at := map[string]string{}
	components := slices.Concat(p.Screens, p.Shells, p.Pieces)
	for _, c := range components {
		at[c.Name] = f.At(c)
	}
	for _, c := range components {
		out = append(out, f.Component(p, c, at)...)
	}
	add("routes.ts", f.Routes(p, at))
	setup, more := Setup(in)
	out = append(out, more...)
	add("index.ts", f.Index(setup))
	if in.Kit.HasElements() && f.Elements != nil {
		add("kit-elements.d.ts", f.Elements(p))
	}
	if in.Texts != nil {
		p.Notes = append(p.Notes, in.Texts.Notes...)
	}
	return out, p.Notes, nil
}

// Index is what an application takes of the folder, where it is handed nothing.
func Index(s SetUp) string {
	var b strings.Builder
	for _, l := range append(slices.Clone(s.Imports), s.Named...) {
		b.WriteString(l + "\n")
	}
	b.WriteString("\nexport { missing, routes } from './routes'\n\n" +
		"/** Makes an application ready for the screens: what the kit wants done once. */\nexport function setup(): void {\n")
	for _, l := range s.Statements {
		b.WriteString("  " + l + "\n")
	}
	if len(s.Statements) == 0 {
		b.WriteString("  // Importing this module is all that the kit wants.\n")
	}
	b.WriteString("}\n")
	return b.String()
}
