package into

import (
	"bytes"
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/shared"
	"ubiquant/server/assets"
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

// question is what the repository's own formatter is asked, answer what it says.
type question struct {
	Dir    string `json:"dir"`
	Format []text `json:"format"`
}

type text struct {
	Path string `json:"path"`
	Text string `json:"text"`
}

type answer struct {
	Prettier string   `json:"prettier"` // its version
	Texts    []text   `json:"texts"`
	Problems []string `json:"problems"`
}

// place is where something can be put into a file.
type place struct {
	What   string `json:"what"` // routes in a list, elements where they are such, entry of the application, or plugin
	Path   string `json:"path"`
	At     int    `json:"at"`
	Until  int    `json:"until"`  // where what is put around something ends; 0 for what stands by itself
	Import int    `json:"import"` // where an import statement can stand
	Before string `json:"before"` // what has to stand before it: a comma, say
	After  string `json:"after"`
	Double bool   `json:"double"` // texts stand in double quotes
	Semi   bool   `json:"semi"`
	Has    bool   `json:"has"` // it has settings of its own already
}

// places are those that Repo.Reader found.
type places struct {
	Places   []place  `json:"places"`
	Routes   []taken  `json:"routes"` // that the application has
	Problems []string `json:"problems"`
}

// taken is a route that the application has of its own.
type taken struct {
	Path string `json:"path"` // whole, each parameter as ":"
	Name string `json:"name,omitempty"`
	File string `json:"file"`
}

// find gives the first place of a kind; nil where there is none.
func (p *places) find(what string) *place {
	for i := range p.Places {
		if p.Places[i].What == what {
			return &p.Places[i]
		}
	}
	return nil
}

// node runs a script with a question in a process of its own.
func (r *Repo) node(ctx context.Context, question, answer any, script ...string) error {
	node := r.Node
	if node == "" {
		var err error
		if node, err = exec.LookPath("node"); err != nil {
			return fmt.Errorf("there is no Node here")
		}
	}
	in, err := json.Marshal(question)
	if err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, 2*time.Minute)
	defer cancel()
	cmd := exec.CommandContext(ctx, node, append([]string{"--max-old-space-size=1024"}, script...)...)
	cmd.Dir = r.Dir
	cmd.Stdin = bytes.NewReader(in)
	var stdout, stderr bytes.Buffer
	cmd.Stdout, cmd.Stderr = &stdout, &stderr
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("%w: %.300s", err, strings.TrimSpace(stderr.String()))
	}
	return json.Unmarshal(stdout.Bytes(), answer)
}

// ask has the repository's own formatter write texts.
func (r *Repo) ask(ctx context.Context, q question) (out answer, err error) {
	if q.Dir, err = filepath.Abs(r.Dir); err != nil {
		return out, err
	}
	if err := r.node(ctx, q, &out, "--input-type=module", "-e", string(tools)); err != nil {
		return out, fmt.Errorf("the repository's tools: %w", err)
	}
	return out, nil
}

// places looks where the repository keeps its routes and settings, once.
func (r *Repo) places(ctx context.Context) *places {
	if r.found == nil {
		r.found = &places{}
		if err := r.look(ctx); err != nil {
			r.found.Problems = append(r.found.Problems, err.Error())
		}
	}
	return r.found
}

func (r *Repo) look(ctx context.Context) error {
	reader, err := assets.Places()
	if err != nil {
		return err
	}
	dir, err := filepath.Abs(r.Dir)
	if err != nil {
		return err
	}
	own, err := os.MkdirTemp("", "ubiquant-places-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(own)
	script := filepath.Join(own, "places.cjs")
	if err := os.WriteFile(script, reader, 0o600); err != nil {
		return err
	}
	err = r.node(ctx, map[string]string{"dir": dir, "target": r.Target, "skip": r.Folder}, r.found, script)
	if err != nil {
		return fmt.Errorf("the reader of repositories: %w", err)
	}
	return nil
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
	out := append([]Addition{r.packages()}, r.versions()...)
	found := r.places(ctx)
	where := found.find("routes")
	if where == nil {
		where = found.find("elements")
	}
	out = append(out, r.routes(where, found.Problems))
	out = append(out, r.taken(found.Routes)...)
	if r.sets {
		out = append(out, r.once(found.find("entry")))
	}
	if r.Target == "vue" && len(r.Prefixes) > 0 {
		out = append(out, r.elements(found.find("plugin")))
	}
	if r.Target == "angular" && len(r.Styles) > 0 {
		out = append(out, r.styles())
	}
	r.tidy(ctx, out)
	out = append(out, r.fontFaces()...)
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
	looked, last := map[string]int{}, map[string]int{} // texts and additions by path
	for i := range list {
		a := &list[i]
		if a.Is == nil {
			continue
		}
		texts, k := by[a.Path], looked[a.Path]
		looked[a.Path] += 2
		if len(texts) > k+1 && texts[0] == string(r.read(a.Path)) {
			a.Is = []byte(texts[k+1])
		}
		if before, ok := last[a.Path]; ok { // what goes into the same file follows on it
			a.Was = list[before].Is
		}
		last[a.Path] = i
	}
}

// insert is a text that is put into a file, at a place of it as it stands.
type insert struct {
	at   int
	text string
}

// put has an addition put texts into a file, after all that others put there.
func (r *Repo) put(a *Addition, list ...insert) {
	src := r.read(a.Path)
	with := func(list []insert) []byte {
		var out bytes.Buffer
		last := 0
		for _, i := range list {
			out.Write(src[last:i.at])
			out.WriteString(i.text)
			last = i.at
		}
		out.Write(src[last:])
		return out.Bytes()
	}
	if r.inserts == nil {
		r.inserts = map[string][]insert{}
	}
	a.Was = with(r.inserts[a.Path])
	all := slices.Clone(r.inserts[a.Path])
	for _, i := range list {
		// Two names of one module are one statement.
		what, from, _ := strings.Cut(i.text, " } from ")
		same := func(b insert) bool { return from != "" && b.at == i.at && strings.HasSuffix(b.text, " } from "+from) }
		if k := slices.IndexFunc(all, same); k >= 0 {
			names := strings.TrimPrefix(strings.TrimSpace(what), "import { ")
			all[k].text = strings.Replace(all[k].text, " } from ", ", "+names+" } from ", 1)
			continue
		}
		all = append(all, i)
	}
	slices.SortStableFunc(all, func(a, b insert) int { return a.at - b.at })
	r.inserts[a.Path] = all
	a.Is = with(all)
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
			if len(have) > 0 && !bytes.Contains(src[at:have[0].end], []byte("\n")) { // all on one line
				line = " " + quoted(name) + ": " + quoted(add[name])
			}
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

// imports tells whether a file takes a name of a module.
func imports(src []byte, name, module string) bool {
	clause := regexp.MustCompile(`import\s*\{([^}]*)\}\s*from\s*['"]` + regexp.QuoteMeta(module) + `['"]`)
	for _, m := range clause.FindAllSubmatch(src, -1) {
		for one := range strings.SplitSeq(string(m[1]), ",") {
			if taken := strings.Fields(one); len(taken) > 0 && taken[0] == name {
				return true
			}
		}
	}
	return false
}

// take is the statement by which a file takes something of the folder under a name of its own.
func (p *place) take(what, as, module string) insert {
	statement := "import { " + what + " as " + as + " } from " + emit.Style{Double: p.Double}.Quote(module)
	if p.Semi {
		statement += ";"
	}
	if p.Import > 0 {
		return insert{p.Import, "\n" + statement}
	}
	return insert{0, statement + "\n"}
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
	module := r.from(p.Path)
	a.Path, a.Was = p.Path, r.read(p.Path)
	if a.Done = imports(a.Was, "routes", module); a.Done {
		return a
	}
	put := "..." + name
	if p.What == "elements" {
		put = "{" + name + "}"
	}
	r.put(&a, p.take("routes", name, module), insert{p.At, p.Before + put + p.After})
	return a
}

// taken tells of addresses and names of routes that the application has already: what stands first is
// shown, and by a name of two one of them is found.
func (r *Repo) taken(list []taken) (out []Addition) {
	parameter := regexp.MustCompile(`:\w+`)
	for _, s := range r.shown {
		for _, t := range list {
			if t.Path == parameter.ReplaceAllString(s.Route, ":") {
				out = append(out, Addition{
					What: fmt.Sprintf("the address %s of the screen %s for itself", s.Route, s.Title), Path: t.File,
					By: "the application has a route of its own there, and shows the one that comes first: give one of them another address",
				})
			}
			if r.Target == "vue" && t.Name == s.ID {
				out = append(out, Addition{
					What: fmt.Sprintf("the name %s of the route of the screen %s for itself", s.ID, s.Title), Path: t.File,
					By: "the application has a route of that name, and a name leads to one of them alone: give that route another name",
				})
			}
		}
	}
	return out
}

// once has the application do what the kit wants done before anything is shown.
func (r *Repo) once(p *place) Addition {
	name := emit.Camel(r.App) + "Setup"
	a := Addition{What: "what the kit wants done once, before the application begins"}
	if p == nil {
		call := "setup()"
		if r.Target == "vue" {
			call = "setup(app)"
		}
		a.By = fmt.Sprintf("import { setup } from '%s' where the application begins, and call %s there", r.from("src/main.ts"), call)
		return a
	}
	module := r.from(p.Path)
	a.Path, a.Was = p.Path, r.read(p.Path)
	if a.Done = imports(a.Was, "setup", module); a.Done {
		return a
	}
	taken := p.take("setup", name, module)
	if p.Until > 0 {
		r.put(&a, taken, insert{p.At, name + "("}, insert{p.Until, ")"})
		return a
	}
	end := "\n"
	if p.Semi {
		end = ";\n"
	}
	r.put(&a, taken, insert{p.At, name + "()" + end})
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
		a.By = ""
		r.put(&a, insert{p.At, "{ template: { compilerOptions: { " + setting + " } } }"})
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
