// Package html delivers plain pages: one file a screen, with the kit's module,
// styles and fonts beside them. They need no build and no server.
package html

import (
	"encoding/json"
	"fmt"
	"maps"
	"net/url"
	"path"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// Target is the HTML target.
var Target = deliver.Target{
	ID: "html", Title: "HTML", Purpose: "Plain pages with the kit's module and styles; no build needed.",
	Inside: func(in deliver.Input) ([]deliver.File, []deliver.Note, error) {
		files, err := write(in)
		notes := untouched(in)
		if in.Texts != nil {
			notes = append(notes, in.Texts.Notes...)
		}
		return files, notes, err
	},
	Around:  func(deliver.Target, deliver.Input, string) ([]deliver.File, error) { return nil, nil },
	Element: element,
}

// untouched are the presses that would touch a record: plain pages keep none.
func untouched(in deliver.Input) (notes []deliver.Note) {
	look := func(d *screen.Document) {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			v, _ := e.Prop(kit.Does)
			list, _ := screen.ParseActions(v.Text)
			for _, a := range list {
				if a.Records() || a.Verb == screen.AddRecord {
					notes = append(notes, deliver.Note{
						Doc: d.Address(), Element: e.ID, Message: fmt.Sprintf("it cannot %s: plain pages keep no records", a),
					})
				}
			}
			return true
		})
	}
	for _, d := range in.Screens {
		look(d)
	}
	for _, id := range slices.Sorted(maps.Keys(in.Pieces)) {
		look(in.Pieces[id])
	}
	return notes
}

// sheetLink and scriptLink bring a file of the site into a page.
func sheetLink(file string) string {
	return `<link rel="stylesheet" href="%s` + strings.ReplaceAll(file, "%", "%%") + `">`
}

func scriptLink(file string) string {
	return `<script type="module" src="%s` + strings.ReplaceAll(file, "%", "%%") + `"></script>`
}

// besides are the files of a part from elsewhere below a folder, and what a page's head says of them.
func besides(p deliver.Part, folder string) (files []deliver.File, head []string) {
	for _, name := range slices.Sorted(maps.Keys(p.Pages)) {
		files = append(files, deliver.File{Path: folder + name, Data: p.Pages[name]})
		switch path.Ext(name) {
		case ".css":
			head = append(head, sheetLink(folder+name))
		case ".js":
			head = append(head, scriptLink(folder+name))
		}
	}
	if p.Ties != "" {
		files = append(files, deliver.File{Path: folder + deliver.Ties, Data: []byte(p.Ties)})
		head = append(head, sheetLink(folder+deliver.Ties))
	}
	return files, head
}

// write makes the pages.
func write(in deliver.Input) ([]deliver.File, error) {
	var files []deliver.File
	add := func(path, text string) { files = append(files, deliver.File{Path: path, Data: []byte(text)}) }
	pkg, err := kit.ReadPackage(in.KitFiles["package.json"])
	if err != nil {
		return nil, err
	}
	sheet, _ := pkg.File(kit.Specifier(in.Kit.Code.Styles))
	module, styles := "", ""
	for path, data := range in.KitFiles {
		switch path {
		case pkg.Module:
			module = "kit/" + strings.TrimPrefix(path, "dist/")
		case sheet:
			styles = "kit/" + strings.TrimPrefix(path, "dist/")
		}
		if rest, ok := strings.CutPrefix(path, "dist/"); ok && !strings.HasPrefix(rest, "types/") &&
			(path == pkg.Module || !strings.HasSuffix(path, ".js")) {
			files = append(files, deliver.File{Path: "kit/" + rest, Data: data})
		}
	}
	pages := map[string]string{}
	for _, d := range in.Screens {
		pages[d.Route] = fileOf(d, "", "")
		param, ids := recordsOf(in, d)
		for _, id := range ids {
			pages[strings.Replace(d.Route, ":"+param, id, 1)] = fileOf(d, "", id)
		}
	}
	if module == "" {
		return nil, fmt.Errorf("the kit's package holds no module in dist")
	}
	own, ownSheet, ownModule := deliver.Own(in, "", "./"+module)
	files = append(files, own...)
	var head []string
	for i, p := range in.Parts {
		more, lines := besides(p, fmt.Sprintf("kit/part-%d/", i+1))
		files, head = append(files, more...), append(head, lines...)
	}
	if ownSheet != "" {
		head = append(head, sheetLink(ownSheet))
	}
	if ownModule != "" {
		head = append(head, scriptLink(ownModule))
	}
	add(
		"layout.css",
		"html, body { margin: 0; min-height: 100%; }\n[data-waits] { visibility: hidden; }\n"+render.Sheet(in.Kit),
	)
	routes, err := json.MarshalIndent(pages, "", "  ")
	if err != nil {
		return nil, err
	}
	add(
		"pages.js",
		fmt.Sprintf(
			"// Routes of the application and the pages that stand for them.\nconst pages = %s\nconst pageOf = to => pages[to] ?? Object.entries(pages).find(([route]) => new RegExp('^' + route.replace(/:[^/]+/g, '[^/]+') + '$').test(to))?.[1]\naddEventListener(%q, event => {\n  const page = pageOf(event.detail.to.split(/[?#]/)[0])\n  if (page) { event.preventDefault(); location.href = page }\n})\n",
			routes,
			in.Kit.Code.Go,
		),
	)
	for name, source := range map[string]string{"asks.js": render.Asks, "faults.js": render.Faults} {
		text, err := script(source)
		if err != nil {
			return nil, err
		}
		add(name, text)
	}
	add("acts.js", "import { asking, elements } from './asks.js'\n"+render.Acts+fmt.Sprintf(start, in.Kit.Tokens.Themes[0]))
	about := &site{styles: styles, module: module, head: head, acting: map[string]bool{}}
	if in.Texts != nil {
		about.languages = append([]string{in.Texts.Written}, in.Texts.Others...)
	}
	written, err := about.pages(in, "")
	if err != nil {
		return nil, err
	}
	files = append(files, written...)
	if in.Texts != nil {
		files = append(files, in.Texts.Files()...)
		for _, language := range in.Texts.Others {
			if written, err = about.pages(*in.In(language), "../"); err != nil {
				return nil, err
			}
			for _, f := range written {
				f.Path = language + "/" + f.Path
				files = append(files, f)
			}
		}
	}
	if len(about.acting) > 0 {
		x, err := script(expr.Runtime)
		if err != nil {
			return nil, err
		}
		add("x.js", x)
		add("lists.js", Lists)
		for id := range about.acting {
			add("data/"+deliver.ListName(id)+".js", data(in, id))
		}
	}
	slices.SortFunc(files, func(a, b deliver.File) int { return strings.Compare(a.Path, b.Path) })
	return files, nil
}

// site is what the pages of all languages share.
type site struct {
	styles, module string
	acting         map[string]bool // models whose records pages need
	languages      []string        // the first is at the site's root, others in folders
	head           []string        // further links and scripts, with %s for the way to the site
}

// pages are those of one language, with their scripts; up is the way from them to what the site
// shares.
func (about *site) pages(in deliver.Input, up string) ([]deliver.File, error) {
	var files []deliver.File
	add := func(path, text string) { files = append(files, deliver.File{Path: path, Data: []byte(text)}) }
	shared := ""
	for _, line := range about.head {
		shared += "\n    " + fmt.Sprintf(line, up)
	}
	marks := ` lang="` + deliver.Escape(in.Language()) + `"`
	if texts.Direction(in.Language()) == "rtl" {
		marks += ` dir="rtl"`
	}
	write := func(d *screen.Document, state, states, param, id string) {
		extra, waits := shared, ""
		var params map[string]string
		if id != "" {
			params = map[string]string{param: id}
		}
		name := fileOf(d, state, id)
		if script := listsOf(in, d, in.Root(d, state), params, up); script != "" {
			lists := strings.TrimSuffix(name, ".html") + ".lists.js"
			add(lists, script)
			extra += fmt.Sprintf("\n    <script type=\"module\" src=\"%s\"></script>", lists)
			waits = " data-waits"
			for id := range in.Models {
				if strings.Contains(script, "/data/"+deliver.ListName(id)+".js'") {
					about.acting[id] = true
				}
			}
		}
		for _, other := range about.languages {
			if other != in.Language() {
				extra += fmt.Sprintf("\n    <link rel=\"alternate\" hreflang=\"%s\" href=\"%s\">", other, about.way(up, other)+name)
			}
		}
		add(name, fmt.Sprintf(`<!doctype html>
<html%[1]s data-theme="%[2]s">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>%[3]s · %[4]s</title>
    <link rel="stylesheet" href="%[5]s%[6]s">
    <link rel="stylesheet" href="%[5]slayout.css">
    <script type="module" src="%[5]s%[7]s"></script>
    <script src="%[5]spages.js"></script>
    <script type="module" src="%[5]sacts.js"></script>%[8]s
  </head>
  <body%[9]s>
    <div class="u-screen"%[10]s>%[11]s</div>
  </body>
</html>
`, marks, in.Kit.Tokens.Themes[0], deliver.Escape(d.Title), deliver.Escape(in.Name), up, about.styles, about.module, extra, states, waits, in.Page(d, state, params)))
	}
	for _, d := range in.Screens {
		// A record that a screen is shown for has a page, and so has a state, reached by what
		// brings the screen into it.
		param, ids := recordsOf(in, d)
		for _, id := range append([]string{""}, ids...) {
			states := ""
			if len(d.States) > 0 {
				pages := map[string]string{"ready": fileOf(d, "", id)}
				for _, s := range d.States {
					pages[s.Name] = fileOf(d, s.Name, id)
				}
				list, err := json.Marshal(pages)
				if err != nil {
					return nil, err
				}
				states = ` data-states="` + deliver.Escape(string(list)) + `"`
			}
			write(d, "", states, param, id)
			for _, s := range d.States {
				write(d, s.Name, states, param, id)
			}
		}
	}
	return files, nil
}

// way leads to the pages of a language.
func (about *site) way(up, language string) string {
	if language == about.languages[0] {
		return up
	}
	return up + language + "/"
}

// plain are ids that a file can be called by.
var plain = regexp.MustCompile(`^[\w-]{1,64}$`)

// maxRecords bounds the pages of one screen.
const maxRecords = 200

// recordsOf are the records that a screen has a page for each of: those whose ids a file can
// be called by.
func recordsOf(in deliver.Input, d *screen.Document) (param string, ids []string) {
	if in.Records == nil {
		return "", nil
	}
	param, ids = in.Records(d)
	ids = slices.DeleteFunc(ids, func(id string) bool { return !plain.MatchString(id) })
	return param, ids[:min(len(ids), maxRecords)]
}

// fileOf is the page of a screen in a state, for a record where there is one.
func fileOf(d *screen.Document, state, id string) string {
	name := d.ID
	if id != "" {
		name += "@" + id
	}
	if state == "" {
		return name + ".html"
	}
	return name + "." + url.PathEscape(strings.ReplaceAll(strings.ToLower(state), " ", "-")) + ".html"
}

const start = `
const usual = %q
const states = JSON.parse(document.body.dataset.states ?? '{}')
const find = key => document.querySelector('[data-e="' + CSS.escape(key) + '"]')
const tell = (verb, to, on) => {
  const page = verb === 'go' ? pageOf(to.split(/[?#]/)[0]) : verb === 'state' ? states[to] : ''
  if (page) location.href = page
  const { dataset } = document.documentElement
  if (verb === 'theme') dataset.theme = turned(dataset.theme, to, usual, on)
}
hear(document, find, tell, asking(elements(find)))()
`

// element writes one element with its literal settings.
func element(k *kit.Kit, cat kit.Catalog, e *screen.Element) string {
	var b strings.Builder
	var write func(e *screen.Element, depth int)
	write = func(e *screen.Element, depth int) {
		b.WriteString(strings.Repeat("  ", depth) + "<" + e.Type)
		if e.Slot != "" && depth > 0 {
			fmt.Fprintf(&b, " slot=%q", e.Slot)
		}
		def, _ := cat.Component(e.Type)
		for _, p := range e.Props {
			if p.Name == kit.Does {
				continue // acts.js does it
			}
			name := p.Name
			if def != nil {
				if prop, ok := def.Prop(p.Name); ok {
					name = prop.Attr
				}
			}
			if p.Value.Kind == screen.Flag {
				if p.Value.Text == "true" {
					b.WriteString(" " + name)
				}
				continue
			}
			b.WriteString(" " + name + `="` + deliver.Escape(p.Value.Text) + `"`)
		}
		b.WriteString(">" + deliver.Escape(e.Text.Text))
		if len(e.Children) > 0 {
			b.WriteString("\n")
			for _, c := range e.Children {
				write(c, depth+1)
			}
			b.WriteString(strings.Repeat("  ", depth))
		}
		b.WriteString("</" + e.Type + ">\n")
	}
	write(e, 0)
	return strings.TrimSpace(b.String())
}
