package intake

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"strings"
	"sync"

	"github.com/evanw/esbuild/pkg/api"

	"ubiquant/core/kit/pack"
)

// single is what was made of a single file.
type single struct {
	JS   string
	TS   bool
	CSS  []string
	Left []string
	Why  string
}

// singles has Vue's single files made modules: all that give components at once, others as they are met.
func (l *library) singles(b api.PluginBuild, rel func(string) (string, bool)) {
	if l.single == nil {
		l.single = map[string]*single{}
	}
	var one sync.Mutex
	load := func(file string) (*single, error) {
		one.Lock()
		defer one.Unlock()
		if made := l.single[file]; made != nil {
			return made, nil
		}
		list := []string{file}
		for _, spec := range l.specs {
			if in := l.inside(spec); in != file && l.single[in] == nil && strings.HasSuffix(spec, ".vue") {
				list = append(list, in)
			}
		}
		if err := l.compile(list); err != nil {
			return nil, err
		}
		return l.single[file], nil
	}
	b.OnLoad(api.OnLoadOptions{Filter: `\.vue$`, Namespace: "file"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		made, err := load(a.Path)
		if err == nil && made.Why != "" {
			err = errors.New(made.Why)
		}
		if err != nil { // told at the file itself
			return api.OnLoadResult{Errors: []api.Message{{Text: err.Error(), Location: &api.Location{File: relativeTo(l.App.Dir, a.Path), Line: 1}}}}, nil
		}
		name, _ := rel(a.Path)
		for _, what := range made.Left {
			l.miss(pack.Missing{What: name + ": " + what, Remedy: "they are left out of what is drawn"})
		}
		text, loader := made.JS, api.LoaderJS
		if made.TS {
			loader = api.LoaderTS
		}
		if len(made.CSS) > 0 {
			q, _ := json.Marshal("styles-of:" + a.Path)
			text += "import " + string(q) + "\n"
		}
		return api.OnLoadResult{Contents: &text, Loader: loader, ResolveDir: filepath.Dir(a.Path)}, nil
	})
	b.OnResolve(api.OnResolveOptions{Filter: `^styles-of:`}, func(a api.OnResolveArgs) (api.OnResolveResult, error) {
		return api.OnResolveResult{Path: strings.TrimPrefix(a.Path, "styles-of:"), Namespace: "styles-of"}, nil
	})
	b.OnLoad(api.OnLoadOptions{Filter: ".*", Namespace: "styles-of"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		made, err := load(a.Path)
		if err != nil {
			return api.OnLoadResult{}, err
		}
		text := strings.Join(made.CSS, "\n")
		if name, _ := rel(a.Path); madeOfClasses.MatchString(text) {
			if text, err = l.ofClasses(a.Path, name, text); err != nil {
				l.miss(pack.Missing{What: fmt.Sprintf("%s is drawn without its styles: %s", name, err), Remedy: "what they say of classes is left out"})
			}
		}
		return api.OnLoadResult{Contents: &text, Loader: api.LoaderCSS, ResolveDir: filepath.Dir(a.Path)}, nil
	})
}

// from is where a script says what it imports.
var from = regexp.MustCompile(`((?:from|@use|@import|@forward)\s+["'])([^."'\s][^"'\n]*)(["'])`)

// nearer writes what a single file imports of the repository by paths, which types are followed by.
func (l *library) nearer(file, text string) string {
	if l.App.Paths == nil {
		return text
	}
	in := relativeTo(l.App.Dir, file)
	return from.ReplaceAllStringFunc(text, func(whole string) string {
		m := from.FindStringSubmatch(whole)
		for p := range l.App.Paths(in, m[2]) {
			for _, end := range endings {
				if l.App.file(p+end) == "" {
					continue
				}
				to := relativeTo(path.Dir(in), p)
				if !strings.HasPrefix(to, ".") {
					to = "./" + to
				}
				return m[1] + to + m[3]
			}
		}
		return whole
	})
}

func relativeTo(dir, file string) string {
	out, err := filepath.Rel(dir, file)
	if err != nil {
		return file
	}
	return filepath.ToSlash(out)
}

// compiled is what the script of single files and sheets answers.
type compiled struct {
	Files  []*single
	Sheets []struct {
		CSS, Why string
		Left     []string
	}
}

// compileAll has modules made of single files, and CSS of sheets that are written in Sass.
func (l *library) compileAll(files, sheets []string) (*compiled, error) {
	if len(l.App.Single) == 0 {
		return nil, errors.New("this program was built without what makes modules of single files, and sheets of Sass")
	}
	at, done, err := script(l.App.Single, "single.cjs")
	if err != nil {
		return nil, err
	}
	defer done()
	type asked struct {
		File string `json:"file"`
		Text string `json:"text"`
	}
	ask := map[string]any{"dir": l.App.Dir, "before": l.before(), "paths": l.App.SheetPaths}
	for what, list := range map[string][]string{"files": files, "sheets": sheets} {
		var of []asked
		for _, file := range list {
			src, err := readFile(file, 1<<20)
			if err != nil {
				return nil, err
			}
			of = append(of, asked{file, l.nearer(file, string(src))})
		}
		ask[what] = of
	}
	out, err := l.runNode(context.Background(), at, ask)
	if err != nil {
		return nil, err
	}
	var answer compiled
	if err := json.Unmarshal(out, &answer); err != nil || len(answer.Files) != len(files) || len(answer.Sheets) != len(sheets) {
		return nil, errors.Join(err, errors.New("what was answered is not of these files"))
	}
	return &answer, nil
}

// compile makes modules of single files.
func (l *library) compile(files []string) error {
	got, err := l.compileAll(files, nil)
	if err != nil {
		return err
	}
	for i, file := range files {
		l.single[file] = got.Files[i]
	}
	return nil
}

// putBefore is where the settings of a build say what stands before each sheet of Sass.
var putBefore = regexp.MustCompile("additionalData\\s*:\\s*(?:`([^`$]*)`|'([^'\n]*)'|\"([^\"\n]*)\")")

// before is what the build of the application puts before each sheet of Sass, where it is written out.
func (l *library) before() string {
	for _, name := range []string{"vite.config.ts", "vite.config.js", "vite.config.mts", "vite.config.mjs", "vue.config.js"} {
		src, err := readFile(filepath.Join(l.App.Dir, name), 1<<20)
		if m := putBefore.FindSubmatch(src); err == nil && m != nil {
			text := string(m[1]) + string(m[2]) + string(m[3])
			if !strings.HasSuffix(strings.TrimSpace(text), ";") {
				text += ";"
			}
			return text
		}
	}
	return ""
}

// ofSass makes CSS of a sheet that is written in Sass; what it asks for and is not there is missed.
func (l *library) ofSass(file, name string) (string, error) {
	got, err := l.compileAll(nil, []string{file})
	if err != nil {
		return "", err
	}
	if why := got.Sheets[0].Why; why != "" {
		return "", errors.New(why)
	}
	for _, what := range got.Sheets[0].Left {
		l.miss(pack.Missing{What: name + ": " + what, Remedy: "what it gives is left out of what is drawn"})
	}
	return got.Sheets[0].CSS, nil
}

// madeOfClasses tells of a sheet that a build fills with what classes in code stand for.
var madeOfClasses = regexp.MustCompile(`@tailwind\b|@import\s+["']tailwindcss|@apply\b|@theme\b|@utility\b|@custom-variant\b`)

// darkVariant is how a sheet that is made of classes says that some hold in the dark alone.
var darkVariant = regexp.MustCompile(`:(?:is|where)\(\.([\w-]*dark)\b`)

// ofClasses makes a style sheet of one that leaves to a build what classes stand for.
func (l *library) ofClasses(file, name, text string) (string, error) {
	if len(l.App.Classes) == 0 {
		return "", errors.New("this program was built without its reader of classes")
	}
	at, done, err := script(l.App.Classes, "classes.cjs")
	if err != nil {
		return "", err
	}
	defer done()
	out, err := l.runNode(context.Background(), at, map[string]any{
		"dir": l.App.Dir, "file": file, "text": text, "words": l.App.Words(), "config": l.classSettings(filepath.Dir(file)),
	})
	if err != nil {
		return "", err
	}
	var answer struct {
		CSS  string
		Left []string
	}
	if err := json.Unmarshal(out, &answer); err != nil {
		return "", err
	}
	for _, what := range answer.Left {
		l.miss(pack.Missing{What: name + ": " + what, Remedy: "what it gives is left out of what is drawn"})
	}
	return answer.CSS, nil
}

// classSettings finds the file with the settings of classes that holds for a folder.
func (l *library) classSettings(dir string) string {
	for at := dir; strings.HasPrefix(at, l.App.Dir); at = filepath.Dir(at) {
		for _, name := range []string{"tailwind.config.js", "tailwind.config.ts", "tailwind.config.cjs", "tailwind.config.mjs"} {
			file := filepath.Join(at, name)
			if info, err := os.Stat(file); err == nil && info.Mode().IsRegular() {
				return file
			}
		}
		if at == filepath.Dir(at) {
			break
		}
	}
	return ""
}
