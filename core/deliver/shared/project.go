package shared

import (
	"embed"
	"encoding/json"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// InfoOf is what text files say of an application.
func InfoOf(in deliver.Input) Info {
	info := Info{Name: in.Name, Title: emit.EscapeHTML(in.Name), Theme: in.Kit.Tokens.Themes[0], Dark: in.Dark, Light: in.Light}
	info.Texts, info.Language = in.Texts != nil, in.Language()
	info.ThemeAttr = ` data-theme="` + emit.EscapeHTML(info.Theme) + `"`
	if texts.Direction(info.Language) == "rtl" {
		info.ThemeAttr += ` dir="rtl"`
	}
	if in.Light != "" {
		name, value, _ := strings.Cut(in.Light, "=")
		info.ThemeAttr += " " + name + `="` + emit.EscapeHTML(value) + `"`
	}
	return info
}

// Copy fills the files below a folder of a target, without the ending .tmpl of those that
// are no code before. One of which nothing is left is none.
func Copy(from embed.FS, dir string, data any) ([]deliver.File, error) {
	var out []deliver.File
	list, err := from.ReadDir(dir)
	for _, d := range list {
		name := dir + "/" + d.Name()
		if d.IsDir() {
			inner, err := Copy(from, name, data)
			if err != nil {
				return nil, err
			}
			for _, f := range inner {
				f.Path = d.Name() + "/" + f.Path
				out = append(out, f)
			}
			continue
		}
		text, err := Fill(from, name, data)
		if err != nil {
			return nil, err
		}
		if strings.TrimSpace(text) != "" {
			out = append(out, deliver.File{Path: strings.TrimSuffix(d.Name(), ".tmpl"), Data: []byte(text)})
		}
	}
	return out, err
}

// SetUp is what an application does once for a kit: statements to import, those with
// names, and those to run.
type SetUp struct {
	Imports, Named, Statements []string
}

// Setup says it, with the files that belong to it.
func Setup(in deliver.Input) (SetUp, []deliver.File) {
	var s SetUp
	plain := func(line string) string { return strings.TrimSuffix(strings.TrimSpace(line), ";") }
	if in.Kit.OwnElements() {
		if in.Kit.Code.Import != "" {
			s.Imports = append(s.Imports, plain(in.Kit.Code.Import))
		} else {
			s.Imports = append(s.Imports, "import "+emit.Plain.Quote(in.Kit.Name))
		}
	}
	style := func(list []string, code kit.Code) {
		if len(list) == 0 && code.Styles != "" {
			list = []string{code.Styles}
		}
		for _, l := range list {
			if !strings.HasPrefix(l, "import") {
				l = "import " + emit.Plain.Quote(l)
			}
			s.Imports = append(s.Imports, plain(l))
		}
	}
	if in.Kit.Folder() == "" { // the application around it has its own styles
		style(in.Styles, in.Kit.Code)
	}
	setup := in.Setup
	var ties strings.Builder
	for _, p := range in.Parts {
		if p.Drawn == "" {
			s.Imports = append(s.Imports, plain(p.Code.Import))
		}
		style(p.Styles, p.Code)
		setup = append(setup[:len(setup):len(setup)], p.Setup...)
		ties.WriteString(p.Ties)
	}
	files, sheet, module := deliver.Own(in, "", in.Kit.Name)
	s.Imports = append(s.Imports, "import './layout.css'")
	tied := ""
	if ties.Len() > 0 {
		tied = deliver.Ties
		files = append(files, deliver.File{Path: tied, Data: []byte(ties.String())})
	}
	for _, name := range []string{sheet, tied, module} {
		if name != "" {
			s.Imports = append(s.Imports, "import './"+name+"'")
		}
	}
	for _, l := range setup {
		if strings.HasPrefix(strings.TrimSpace(l), "import ") {
			s.Named = append(s.Named, plain(l))
		} else {
			s.Statements = append(s.Statements, plain(l))
		}
	}
	return s, files
}

// Sheets are the style sheets that an application needs: of packages, and below the folder
// those that begin with "./".
func Sheets(in deliver.Input) []string {
	s, _ := Setup(in)
	var out []string
	for _, l := range s.Imports {
		if name := kit.Specifier(l); strings.HasSuffix(name, ".css") {
			out = append(out, name)
		}
	}
	return out
}

// Lost is the screen that is shown where nothing is; nil where the application has none.
func Lost(p *lower.Program) *lower.Component {
	for _, c := range p.Screens {
		if c.ID == "not-found" || c.Route == "/not-found" || c.Route == "/404" {
			return c
		}
	}
	return nil
}

// First is the route of the screen that one begins with.
func First(p *lower.Program) string {
	for _, c := range p.Screens {
		if c.Route == "/" {
			return "/"
		}
	}
	for _, c := range p.Screens {
		if len(c.Params) == 0 {
			return c.Route
		}
	}
	return "/"
}

// Key is a name as a key of a type or an object.
func Key(name string) string {
	if emit.IsIdentifier(name) {
		return name
	}
	return emit.Plain.Quote(name)
}

// TypeLine is a field of a type as a formatter writes it, so many steps in.
func TypeLine(depth int, head, typ string) string {
	pad := strings.Repeat("  ", depth)
	if len(pad)+len(head)+1+len(typ) <= emit.Plain.Width {
		return pad + head + " " + typ + "\n"
	}
	if len(pad)+2+len(typ) <= emit.Plain.Width {
		return pad + head + "\n" + pad + "  " + typ + "\n"
	}
	return pad + head + "\n" + pad + "  | " + strings.Join(strings.Split(typ, " | "), "\n"+pad+"  | ") + "\n"
}

// Used are the kit's components that a delivery uses, by their tags.
func Used(p *lower.Program) []*kit.Component {
	found := map[string]*kit.Component{}
	var walk func(list []lower.Node)
	walk = func(list []lower.Node) {
		for _, n := range list {
			switch x := n.(type) {
			case *lower.Each:
				walk(x.Body)
			case *lower.El:
				if x.Tag.Custom {
					found[x.Tag.Name] = x.Tag.Def
				}
				walk(x.Kids)
				for _, f := range x.Fills {
					walk(f.Kids)
				}
			}
		}
	}
	for _, c := range slices.Concat(p.Screens, p.Shells, p.Pieces) {
		walk(c.Root)
		if c.Kind == screen.PieceDoc { // a use may put another kind in its place
			for _, k := range p.In.Kit.Components {
				if Any(c.Root) && found[k.Tag] == nil && k.Export == "" {
					found[k.Tag] = k
				}
			}
		}
	}
	out := make([]*kit.Component, 0, len(found))
	for _, tag := range slices.Sorted(maps.Keys(found)) {
		out = append(out, found[tag])
	}
	return out
}

// Any tells whether an element's kind is chosen where a piece is used.
func Any(list []lower.Node) bool {
	return slices.ContainsFunc(list, func(n lower.Node) bool {
		switch x := n.(type) {
		case *lower.Each:
			return Any(x.Body)
		case *lower.El:
			return x.Tag.Any != nil || Any(x.Kids)
		}
		return false
	})
}

// Events are those of a kit's element that are not the browser's own.
func Events(c *kit.Component) []string {
	var out []string
	add := func(name string) {
		if name != "" && strings.Contains(name, "-") && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	for _, e := range c.Events {
		add(e.Name)
	}
	add(c.Answers)
	add(c.HoldsAt)
	add(c.Closes)
	return out
}

// AttributeType is what an attribute of a kit's element takes.
func AttributeType(p *kit.Prop) string {
	switch p.Type {
	case kit.Bool:
		return "boolean"
	case kit.Number:
		return "number | string"
	case kit.Enum:
		quoted := make([]string, 0, len(p.Values)+1)
		for _, v := range p.Values {
			quoted = append(quoted, emit.Plain.Quote(v))
		}
		if _, err := strconv.ParseFloat(strings.Join(p.Values[:min(1, len(p.Values))], ""), 64); err == nil {
			quoted = append(quoted, "number")
		}
		return strings.Join(append(quoted, "(string & {})"), " | ")
	}
	return "string | number"
}

// PropertyType is what a property of a kit's element holds.
func PropertyType(p *kit.Prop) string {
	switch {
	case p.JSON:
		return "unknown"
	case p.Type == kit.Bool:
		return "boolean"
	case p.Type == kit.Number:
		return "number"
	case p.Type == kit.Text:
		return "string"
	}
	return AttributeType(p)
}

// Begins is code that asks whether a text begins with one of these and a dash.
func Begins(text string, prefixes []string) string {
	if len(prefixes) == 1 {
		return text + ".startsWith(" + emit.Plain.Quote(prefixes[0]+"-") + ")"
	}
	quoted := make([]string, len(prefixes))
	for i, p := range prefixes {
		quoted[i] = regexp.QuoteMeta(p)
	}
	return "/^(" + strings.Join(quoted, "|") + ")-/.test(" + text + ")"
}

// Speaks tells whether code asks for a prefix as Begins does, or by its words.
func Speaks(code []byte, prefix string) bool {
	return regexp.MustCompile(`(^|[^\w-])` + regexp.QuoteMeta(prefix) + `(-|\||\)-)`).Match(code)
}

// Manifest is the package.json of an application, with the kit's package where it travels
// along.
func Manifest(in deliver.Input, t deliver.Target, scripts map[string]string) ([]byte, []deliver.File, error) {
	dependencies, more, err := deliver.Dependencies(in, t)
	if err != nil {
		return nil, nil, err
	}
	phone, err := Phone(in, "public/")
	if err != nil {
		return nil, nil, err
	}
	more = append(more, phone...)
	text, err := json.MarshalIndent(map[string]any{
		"name": emit.Kebab(in.Name), "private": true, "version": "0.1.0", "type": "module",
		"scripts": scripts, "dependencies": dependencies, "devDependencies": t.DevNeeds,
	}, "", "  ")
	if err != nil {
		return nil, nil, err
	}
	return append(text, '\n'), more, nil
}
