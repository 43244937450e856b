package into

import (
	"bytes"
	"context"
	_ "embed"
	"fmt"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/shared"
	"ubiquant/core/source"
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
	if f := r.folders(); f != nil {
		out = append(out, r.page(f))
		out = append(out, r.taken(r.pages())...)
	} else {
		out = append(out, r.connections(ctx)...)
	}
	if r.Target == "angular" && len(r.Styles) > 0 {
		out = append(out, r.styles()...)
	}
	r.tidy(ctx, out)
	out = append(out, r.resets()...)
	out = append(out, r.fontFaces()...)
	return append(out, r.pictures()...)
}

// connections have the screens be part of an application that lists its routes.
func (r *Repo) connections(ctx context.Context) []Addition {
	found := r.places(ctx)
	where := found.find("routes")
	if where == nil {
		where = found.find("elements")
	}
	out := append([]Addition{r.routes(where, found.Problems)}, r.taken(found.Routes)...)
	if r.sets {
		out = append(out, r.once(found.find("entry")))
	}
	if r.Target == "vue" && len(r.Prefixes) > 0 {
		out = append(out, r.elements(found.find("plugin")))
	}
	return out
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

// styles lists style sheets where an Angular application does. A library that the application gives its
// styles already keeps those: another of its themes would come over the team's own.
func (r *Repo) styles() (out []Addition) {
	var list []string
	was := r.read("angular.json")
	for _, s := range r.Styles {
		if strings.HasPrefix(s, "./") {
			list = append(list, path.Join(r.Folder, s))
			continue
		}
		pkg := source.PackageOf(s)
		if by := r.bringing(pkg, was); by != "" && !bytes.Contains(was, []byte(fmt.Sprintf("%q", s))) {
			out = append(out, Addition{What: fmt.Sprintf("styles of %s, which %s brings", pkg, by), Done: true})
			continue
		}
		list = append(list, s)
	}
	return append(out, r.listed(list, was))
}

// bringing is the file of the application that brings styles of a package: a sheet or a page that speaks of
// it, or the settings of its build, which list one; empty where none does.
func (r *Repo) bringing(pkg string, builds []byte) string {
	speaks := regexp.MustCompile(`["'(~/]` + regexp.QuoteMeta(pkg) + `["'/)]`)
	if speaks.Match(builds) {
		return "angular.json"
	}
	for _, s := range r.stylesAndPages() {
		if speaks.Match(s.text) {
			return s.path
		}
	}
	return ""
}

// listed lists style sheets in the settings of a build.
func (r *Repo) listed(list []string, was []byte) Addition {
	a := Addition{What: "the style sheets of the kit and of the layouts", Path: "angular.json", Was: was}
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
