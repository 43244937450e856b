package into

import (
	"bytes"
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"maps"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/shared"
)

// Addition is the smallest change to the team's own files that has the screens be part of
// the application.
type Addition struct {
	What string `json:"what"` // in words
	Path string `json:"path,omitempty"`
	Done bool   `json:"done"` // it is there
	// By says how to do it by hand; empty where Is does it.
	By  string `json:"by,omitempty"`
	Was []byte `json:"-"`
	Is  []byte `json:"-"`
}

//go:embed tools.mjs
var tools []byte

// question is what the repository's own tools are asked, answer what they say.
type question struct {
	Dir    string `json:"dir"`
	Format []text `json:"format,omitempty"`
	Places string `json:"places,omitempty"` // target whose routes and settings are looked for
	Skip   string `json:"skip,omitempty"`
}

type text struct {
	Path string `json:"path"`
	Text string `json:"text"`
}

type answer struct {
	Prettier string   `json:"prettier"` // its version; empty where there is none
	Texts    []text   `json:"texts"`
	Places   []place  `json:"places"`
	Problems []string `json:"problems"`
}

// place is where something can be put into a file.
type place struct {
	What   string `json:"what"` // routes or plugin
	Path   string `json:"path"`
	At     int    `json:"at"`
	Import int    `json:"import"` // where an import statement can stand
	Before string `json:"before"` // what has to stand before it: a comma, say
	After  string `json:"after"`
	Double bool   `json:"double"` // texts stand in double quotes
	Semi   bool   `json:"semi"`
	Has    bool   `json:"has"` // it has settings of its own already
}

// ask runs the repository's own formatter and parser in a process of its own.
func (r *Repo) ask(ctx context.Context, q question) (answer, error) {
	var out answer
	node := r.Node
	if node == "" {
		var err error
		if node, err = exec.LookPath("node"); err != nil {
			return out, fmt.Errorf("there is no Node here")
		}
	}
	dir, err := filepath.Abs(r.Dir)
	if err != nil {
		return out, err
	}
	q.Dir = dir
	in, err := json.Marshal(q)
	if err != nil {
		return out, err
	}
	ctx, cancel := context.WithTimeout(ctx, 2*time.Minute)
	defer cancel()
	cmd := exec.CommandContext(ctx, node, "--max-old-space-size=1024", "--input-type=module", "-e", string(tools))
	cmd.Dir = dir
	cmd.Stdin = bytes.NewReader(in)
	var stdout, stderr bytes.Buffer
	cmd.Stdout, cmd.Stderr = &stdout, &stderr
	if err := cmd.Run(); err != nil {
		said := strings.TrimSpace(stderr.String())
		return out, fmt.Errorf("the repository's tools: %w: %.300s", err, said)
	}
	if err := json.Unmarshal(stdout.Bytes(), &out); err != nil {
		return out, fmt.Errorf("the repository's tools: %w", err)
	}
	return out, nil
}

// formatted writes code as the repository's own formatter does; where it has none, as it
// is. note says what was done or could not be.
func (r *Repo) formatted(ctx context.Context, files []deliver.File) (out []deliver.File, note string) {
	if r.Folder == "." || r.read("node_modules/prettier/package.json") == nil {
		return files, ""
	}
	q := question{}
	for _, f := range files {
		switch path.Ext(f.Path) {
		case ".ts", ".tsx", ".vue", ".css", ".html", ".json", ".md":
			q.Format = append(q.Format, text{r.at(f.Path), string(f.Data)})
		}
	}
	a, err := r.ask(ctx, q)
	if err != nil {
		return files, "The code is not formatted by the repository's prettier: " + err.Error()
	}
	by := map[string]string{}
	for _, t := range a.Texts {
		by[t.Path] = t.Text
	}
	out = slices.Clone(files)
	for i, f := range out {
		if t, ok := by[r.at(f.Path)]; ok {
			out[i].Data = []byte(t)
		}
	}
	note = fmt.Sprintf("Formatted by the repository's prettier %s.", a.Prettier)
	if len(a.Problems) > 0 {
		note += " Not formatted: " + strings.Join(a.Problems, "; ")
	}
	return out, note
}

// additions are what the application needs besides the folder.
func (r *Repo) additions(ctx context.Context) []Addition {
	out := []Addition{r.packages()}
	a, err := r.ask(ctx, question{Places: r.Target, Skip: r.Folder})
	if err != nil {
		a.Problems = append(a.Problems, err.Error())
	}
	find := func(what string) *place {
		for i := range a.Places {
			if a.Places[i].What == what {
				return &a.Places[i]
			}
		}
		return nil
	}
	out = append(out, r.routes(find("routes"), a.Problems))
	if r.Target == "vue" && len(r.Prefixes) > 0 {
		out = append(out, r.elements(find("plugin")))
	}
	if r.Target == "angular" && len(r.Styles) > 0 {
		out = append(out, r.styles())
	}
	r.tidy(ctx, out)
	return append(out, r.pictures()...)
}

// pictures puts what the screens show where the application serves files from. The names hold
// what is in them, so that one that is there is the same.
func (r *Repo) pictures() (out []Addition) {
	for _, f := range r.Pictures {
		a := Addition{What: "the picture " + path.Base(f.Path), Path: f.Path, Done: r.read(f.Path) != nil}
		if !a.Done {
			a.Is = f.Data
		}
		out = append(out, a)
	}
	return out
}

// tidy formats what is added to a file that was formatted before.
func (r *Repo) tidy(ctx context.Context, list []Addition) {
	q := question{}
	for _, a := range list {
		if a.Is != nil {
			q.Format = append(q.Format, text{a.Path, string(a.Was)}, text{a.Path, string(a.Is)})
		}
	}
	if len(q.Format) == 0 || r.read("node_modules/prettier/package.json") == nil {
		return
	}
	got, err := r.ask(ctx, q)
	if err != nil {
		return // what formats the code says so
	}
	by := map[string][]string{}
	for _, t := range got.Texts {
		by[t.Path] = append(by[t.Path], t.Text)
	}
	for i, a := range list {
		if texts := by[a.Path]; a.Is != nil && len(texts) == 2 && texts[0] == string(a.Was) {
			list[i].Is = []byte(texts[1])
		}
	}
}

// packages adds what code needs to package.json, as far as it is not there.
func (r *Repo) packages() Addition {
	a := Addition{What: "the packages that the screens need", Path: "package.json"}
	m, err := r.manifest()
	if err != nil {
		a.By = err.Error() + "; the screens need " + strings.Join(slices.Sorted(maps.Keys(r.Needs)), ", ")
		return a
	}
	missing := map[string]string{}
	for name, version := range r.Needs {
		if m.has(name) == "" {
			missing[name] = version
		}
	}
	if len(missing) == 0 {
		a.Done = true
		return a
	}
	a.What += ": " + strings.Join(slices.Sorted(maps.Keys(missing)), ", ")
	a.Was = r.read("package.json")
	is, err := withDependencies(a.Was, missing)
	if err != nil {
		a.By = fmt.Sprintf("add them to the dependencies (%s)", err)
		return a
	}
	a.Is = is
	return a
}

// withDependencies puts packages into a package.json, in their order; everything else
// stays as it is written.
func withDependencies(src []byte, add map[string]string) ([]byte, error) {
	dec := jsontext.NewDecoder(bytes.NewReader(src))
	if t, err := dec.ReadToken(); err != nil || t.Kind() != '{' {
		return nil, fmt.Errorf("it is no object")
	}
	begin := dec.InputOffset()
	indent := "  "
	if rest := src[begin:]; len(rest) > 0 && rest[0] == '\n' {
		line := rest[1:]
		indent = string(line[:len(line)-len(bytes.TrimLeft(line, " \t"))])
	}
	quoted := func(s string) string { b, _ := json.Marshal(s); return string(b) } // texts cannot fail
	for dec.PeekKind() != '}' {
		key, err := dec.ReadToken()
		if err != nil {
			return nil, err
		}
		if key.String() != "dependencies" {
			if err := dec.SkipValue(); err != nil {
				return nil, err
			}
			continue
		}
		if t, err := dec.ReadToken(); err != nil || t.Kind() != '{' {
			return nil, fmt.Errorf("dependencies is no object")
		}
		at := dec.InputOffset() // each goes before the first that follows it
		type entry struct {
			name string
			end  int64
		}
		have := []entry{}
		for dec.PeekKind() != '}' {
			name, err := dec.ReadToken()
			if err != nil {
				return nil, err
			}
			text := name.String()
			if err := dec.SkipValue(); err != nil {
				return nil, err
			}
			have = append(have, entry{text, dec.InputOffset()})
		}
		puts := map[int64]string{}
		for _, name := range slices.Sorted(maps.Keys(add)) {
			where, after := at, false
			for _, h := range have {
				if h.name < name {
					where, after = h.end, true
				}
			}
			line := "\n" + indent + indent + quoted(name) + ": " + quoted(add[name])
			switch {
			case after:
				puts[where] += "," + line
			case len(have) > 0:
				puts[where] += line + ","
			case puts[where] != "":
				puts[where] += "," + line
			default:
				puts[where] += line
			}
		}
		if len(have) == 0 {
			puts[at] += "\n" + indent
		}
		out := []byte{}
		last := int64(0)
		for _, where := range slices.Sorted(maps.Keys(puts)) {
			out = append(append(out, src[last:where]...), puts[where]...)
			last = where
		}
		if len(have) == 0 { // what stood between the braces was room
			if end := bytes.IndexByte(src[last:], '}'); end >= 0 {
				last += int64(end)
			}
		}
		return append(out, src[last:]...), nil
	}
	var b strings.Builder
	b.WriteString("\n" + indent + `"dependencies": {`)
	for i, name := range slices.Sorted(maps.Keys(add)) {
		if i > 0 {
			b.WriteString(",")
		}
		b.WriteString("\n" + indent + indent + quoted(name) + ": " + quoted(add[name]))
	}
	b.WriteString("\n" + indent + "},")
	return append(append(slices.Clone(src[:begin]), b.String()...), src[begin:]...), nil
}

// from is the way from a file to the folder, as an import says it.
func (r *Repo) from(file string) string {
	rel, err := filepath.Rel(filepath.FromSlash(path.Dir(file)), filepath.FromSlash(r.Folder))
	if err != nil {
		return "./" + r.Folder
	}
	rel = filepath.ToSlash(rel)
	if !strings.HasPrefix(rel, ".") {
		rel = "./" + rel
	}
	return rel
}

// routes puts the screens' routes among those of the application.
func (r *Repo) routes(p *place, problems []string) Addition {
	name := emit.Camel(r.App) + "Routes"
	a := Addition{What: "the routes of the screens among those of the application"}
	if p == nil {
		a.By = fmt.Sprintf("import { routes } from '%s' where the application's routes are, and add ...routes to them", r.from("src/router.ts"))
		if len(problems) > 0 {
			a.By += " (" + strings.Join(problems, "; ") + ")"
		}
		return a
	}
	a.Path, a.Was = p.Path, r.read(p.Path)
	style := emit.Style{Double: p.Double}
	module := style.Quote(r.from(p.Path))
	if bytes.Contains(a.Was, []byte("from "+module)) {
		a.Done = true
		return a
	}
	statement := "import { routes as " + name + " } from " + module
	if p.Semi {
		statement += ";"
	}
	line := statement + "\n"
	if p.Import > 0 {
		line = "\n" + statement
	}
	spread := p.Before + "..." + name + p.After
	src := string(a.Was)
	if p.At < p.Import {
		a.Is = []byte(src[:p.At] + spread + src[p.At:p.Import] + line + src[p.Import:])
	} else {
		a.Is = []byte(src[:p.Import] + line + src[p.Import:p.At] + spread + src[p.At:])
	}
	return a
}

// elements says to the compiler of templates which tags are the kit's elements.
func (r *Repo) elements(p *place) Addition {
	setting := "isCustomElement: tag => " + shared.Begins("tag", r.Prefixes)
	a := Addition{What: "the kit's elements, which are the browser's own, in the settings of templates", By: "set template.compilerOptions." + setting + " of the Vue plugin"}
	if p == nil {
		return a
	}
	a.Path, a.Was = p.Path, r.read(p.Path)
	switch {
	case bytes.Contains(a.Was, []byte("isCustomElement")):
		lacks := slices.DeleteFunc(slices.Clone(r.Prefixes), func(p string) bool { return shared.Speaks(a.Was, p) })
		if a.Done, a.By = len(lacks) == 0, ""; !a.Done {
			a.By = "let isCustomElement take " + shared.Begins("tag", lacks) + " as well"
		}
	case !p.Has:
		if p.Double {
			setting = strings.ReplaceAll(setting, "'", `"`)
		}
		src := string(a.Was)
		a.By = ""
		a.Is = []byte(src[:p.At] + "{ template: { compilerOptions: { " + setting + " } } }" + src[p.At:])
	}
	return a
}

// styles lists style sheets where an Angular application does.
func (r *Repo) styles() Addition {
	var list []string
	for _, s := range r.Styles {
		if strings.HasPrefix(s, "./") {
			s = path.Join(r.Folder, s)
		}
		list = append(list, s)
	}
	a := Addition{What: "the style sheets of the kit and of the layouts", Path: "angular.json", Was: r.read("angular.json")}
	missing := slices.DeleteFunc(slices.Clone(list), func(s string) bool { return bytes.Contains(a.Was, []byte(fmt.Sprintf("%q", s))) })
	if len(missing) == 0 && a.Was != nil {
		a.Done = true
		return a
	}
	a.By = "list them as styles of the build in angular.json: " + strings.Join(missing, ", ")
	at, empty, ok := stylesOf(a.Was)
	if !ok {
		return a
	}
	var b strings.Builder
	for i, s := range missing {
		if i > 0 || !empty {
			b.WriteString(", ")
		}
		fmt.Fprintf(&b, "%q", s)
	}
	a.By = ""
	a.Is = append(append(slices.Clone(a.Was[:at]), b.String()...), a.Was[at:]...)
	return a
}

// stylesOf is where the list of styles of the first build in angular.json ends.
func stylesOf(src []byte) (at int64, empty, ok bool) {
	dec := jsontext.NewDecoder(bytes.NewReader(src))
	for {
		t, err := dec.ReadToken()
		if err != nil {
			return 0, false, false
		}
		pointer := string(dec.StackPointer())
		if t.Kind() == '[' && strings.HasSuffix(pointer, "/build/options/styles") {
			end := dec.InputOffset()
			empty := true
			for dec.PeekKind() != ']' {
				if err := dec.SkipValue(); err != nil {
					return 0, false, false
				}
				end, empty = dec.InputOffset(), false
			}
			return end, empty, true
		}
	}
}
