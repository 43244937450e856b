package into

import (
	"fmt"
	"path"
	"path/filepath"
	"regexp"
	"strings"

	"ubiquant/core/deliver/emit"
)

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
