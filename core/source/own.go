package source

import (
	"cmp"
	"iter"
	"path"
	"regexp"
	"slices"
	"strings"
)

// sheetFile is a style sheet by its name, whatever it is written in.
var sheetFile = regexp.MustCompile(`\.(css|scss|sass|less|styl|pcss|postcss)$`)

// Sheet is a style sheet that code asks for and takes nothing of: it is for the whole page.
type Sheet struct {
	From string // file that asks for it
	Spec string // how it asks: a path, or a module of a package
}

// Sheets are the style sheets of whole pages, those of what stands around everything first.
func (s *Survey) Sheets() []Sheet {
	var out []Sheet
	for _, f := range s.in.Files {
		page := f.Language == "html" && len(f.Components) == 0 // that an application stands in, or another's
		if s.test(f.Path) || page && path.Base(f.Path) != "index.html" {
			continue
		}
		for _, i := range f.Imports {
			spec, _, _ := strings.Cut(i.From, "?")
			if i.Local == "" && i.Name == "" && sheetFile.MatchString(spec) && !strings.Contains(path.Base(spec), ".module.") {
				out = append(out, Sheet{f.Path, spec})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Sheet) int { return cmp.Compare(strings.Count(a.From, "/"), strings.Count(b.From, "/")) })
	return out
}

// Paths are the files of the repository that a specifier may mean where a file imports it, the
// likeliest first, as far as their names are written: "src/ui/button" for "@/ui/button".
func (s *Survey) Paths(from, spec string) iter.Seq[string] { return s.g.paths(from, spec) }

// words are what a class may be written as, anywhere in code.
var words = regexp.MustCompile("[^\\s\"'`]+")

// Words are all words of the repository's code, each once: what may be the name of a class there.
func (s *Survey) Words() []string {
	seen := map[string]bool{}
	var out []string
	for _, f := range s.in.Files {
		for _, w := range words.FindAll(f.Text, -1) {
			if len(w) > 200 || seen[string(w)] {
				continue
			}
			seen[string(w)] = true
			out = append(out, string(w))
		}
	}
	return out
}

// Around are the components of a folder that give others what they cannot be without, as far as
// they need nothing but their content themselves and show nothing: those that the application puts
// around its screens first.
func (s *Survey) Around(folder string) []*Component {
	used := map[*Component]int{}
	for _, u := range s.uses {
		if u.found.Component != nil && !s.inKit(u.file.Path) && !s.test(u.file.Path) {
			used[u.found.Component]++
		}
	}
	var out []*Component
	for _, f := range s.in.Files {
		if !strings.HasPrefix(f.Path, folder+"/") || s.test(f.Path) {
			continue
		}
		for _, c := range f.Components {
			needs := c.Declared != nil && slices.ContainsFunc(c.Declared.Props, func(p Prop) bool { return p.Required && p.Name != "children" })
			if strings.HasSuffix(c.Name, "Provider") && slices.Contains(c.Exported, c.Name) && !needs && !shows(c.Roots) {
				out = append(out, c)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b *Component) int { return cmp.Compare(min(used[b], 1), min(used[a], 1)) })
	return out
}

// shows reports whether markup has elements of the page.
func shows(list []*Node) bool {
	return slices.ContainsFunc(list, func(n *Node) bool {
		return n.Kind == "element" && !strings.Contains(n.Name, ".") && !startsUpper(n.Name) || shows(n.Children)
	})
}
