package shared

import (
	"cmp"
	"embed"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/kit/pack"
)

// Built are the options of a framework that Vite builds, or what builds the application around.
func Built(in deliver.Input) Options {
	if in.Home.NoVite {
		return Options{
			Sampled:   emit.Binary{Op: "!==", L: emit.Name("process.env.NODE_ENV"), R: emit.Str("production")},
			Reference: "declare const process: { readonly env: { readonly NODE_ENV?: string } }",
		}
	}
	return Options{
		Sampled:   emit.Binary{Op: "||", L: emit.Name("import.meta.env.DEV"), R: emit.Name("import.meta.env['VITE_SAMPLES']")},
		Reference: `/// <reference types="vite/client" />`,
	}
}

// Router is the package that React's router is taken from.
func Router(in deliver.Input) string { return cmp.Or(in.Home.Router, "react-router") }

// Parts are what a framework adds to what all have in common.
type Parts struct {
	Options   Options
	Files     embed.FS // its own files, below files/inside
	At        func(c *lower.Component) string
	Component func(p *lower.Program, c *lower.Component, at map[string]string) []deliver.File
	Routes    func(p *lower.Program, at map[string]string) []deliver.File
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
		Go, Wrap, Kit, Router string
		Elements, Folders     bool
		WrapTheme             *pack.WrapTheme
	}{InfoOf(in), cmp.Or(in.Kit.Code.Go, "click"), in.Wrap, in.Kit.Name, Router(in), in.Home.Elements, in.Home.Folders, in.WrapTheme}
	copied, err := Copy(f.Files, "files/inside", info)
	if err != nil {
		return nil, nil, err
	}
	out = append(out, copied...)
	if len(in.Sources) > 0 {
		name := "bases.ts"
		if strings.Contains(f.Options.Reference, "vite/client") {
			name = "bases.vite.ts"
		}
		text, err := files.ReadFile("files/" + name)
		if err != nil {
			return nil, nil, err
		}
		out = append(out, deliver.File{Path: "data/bases.ts", Data: text, Own: true})
	}
	at := map[string]string{}
	components := slices.Concat(p.Screens, p.Shells, p.Pieces)
	for _, c := range components {
		at[c.Name] = f.At(c)
	}
	for _, c := range components {
		out = append(out, f.Component(p, c, at)...)
	}
	out = append(out, f.Routes(p, at)...)
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

// Routes are the routes in the usual file.
func Routes(write func(p *lower.Program, at map[string]string) string) func(*lower.Program, map[string]string) []deliver.File {
	return func(p *lower.Program, at map[string]string) []deliver.File {
		return []deliver.File{{Path: "routes.ts", Data: []byte(write(p, at))}}
	}
}

// Index is what an application takes of the folder, where it is handed nothing.
func Index(s SetUp) string {
	var b strings.Builder
	for _, l := range append(slices.Clone(s.Imports), s.Named...) {
		b.WriteString(l + "\n")
	}
	if b.Len() > 0 {
		b.WriteString("\n")
	}
	b.WriteString("export { missing, routes } from './routes'\n\n" +
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
