package intake

import (
	"cmp"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
)

// wrapper chooses the component that a library wants around everything, and how it is told
// the theme: one that bears the library's name and takes a theme or ends with Provider, or the one for
// themes or settings; of these, one that needs nothing but its content.
func (l *library) wrapper() (name, settings string) {
	if l.Wrap == "-" || l.Drawn == describe.Angular {
		return "", ""
	}
	byName := map[string]*describe.Entry{}
	for i := range l.catalog.Entries {
		byName[l.catalog.Entries[i].Export] = &l.catalog.Entries[i]
	}
	candidates, themed := []string{l.Wrap}, 0 // the first of them only with a theme
	if l.Wrap == "" {
		candidates = candidates[:0]
		for _, e := range l.catalog.Entries {
			if _, takes := e.Prop("theme"); takes && strings.HasSuffix(e.Export, "Provider") && !strings.Contains(e.Export, ".") {
				candidates = append(candidates, e.Export) // it hands a theme to all that stands in it
			}
		}
		themed = len(candidates)
		for _, e := range l.catalog.Entries {
			lower := strings.ToLower(e.Export)
			takes := lower == l.short && slices.ContainsFunc(e.Props, func(p describe.Prop) bool { return strings.HasPrefix(p.Name, "theme") })
			provides := strings.HasSuffix(lower, "provider") && !strings.Contains(e.Export, ".")
			if takes || provides && strings.HasPrefix(lower, strings.TrimSuffix(l.short, "ui")) {
				candidates = append(candidates, e.Export)
			}
		}
		byLength := func(a, b string) int { return len(a) - len(b) }
		slices.SortFunc(candidates[:themed], byLength)
		slices.SortFunc(candidates[themed:], byLength)
		for _, suffix := range []string{"ConfigProvider", "ThemeProvider", "Theme", "Provider"} {
			for _, e := range l.catalog.Entries {
				if strings.HasSuffix(e.Export, suffix) && len(e.Export) <= len(suffix)+3 {
					candidates = append(candidates, e.Export)
				}
			}
		}
		// What one component cannot be without, wherever it stands: a TooltipProvider for each Tooltip.
		for _, e := range l.catalog.Entries {
			if of, provides := strings.CutSuffix(e.Export, "Provider"); provides && byName[of] != nil {
				candidates = append(candidates, e.Export)
			}
		}
	}
	for i, c := range candidates {
		e, ok := byName[c]
		if !ok {
			continue
		}
		theme := l.themeOf(e)
		if theme == nil && i < themed {
			continue
		}
		if theme == nil {
			theme = l.handed(e)
		}
		needs := slices.ContainsFunc(e.Props, func(p describe.Prop) bool {
			return p.Required && p.Name != "children" && (theme == nil || p.Name != theme.Prop)
		})
		if needs && l.Wrap == "" {
			continue
		}
		if theme != nil && theme.Light == theme.Dark {
			l.meta.WrapTheme = &theme.WrapTheme
			l.meta.Notes = append(l.meta.Notes, fmt.Sprintf("%s stands around everything; its %s is %s", c, theme.Prop, theme.Light))
			return c, fmt.Sprintf("{ %q: m%d[%q] }", theme.Prop, theme.module, theme.Light)
		}
		if theme != nil {
			l.meta.WrapTheme = &theme.WrapTheme
			l.meta.Notes = append(l.meta.Notes, fmt.Sprintf(
				"%s stands around everything; its %s is %s, in dark %s", c, theme.Prop, theme.Light, theme.Dark,
			))
			l.meta.Themes.Dark, l.meta.Themes.How = "wrapper", "its "+theme.Prop
			return c, fmt.Sprintf("{ %q: theme === 'dark' ? m%d[%q] : m%d[%q] }", theme.Prop, theme.module, theme.Dark, theme.module, theme.Light)
		}
		l.meta.Notes = append(l.meta.Notes, c+" stands around everything")
		return c, l.themeSettings(e)
	}
	return "", ""
}

// given is a theme that a module of the library gives.
type given struct {
	pack.WrapTheme
	module int // of those that are bundled
}

// handed finds what a wrapper cannot do without and the library itself gives, the same by day and by
// night: of what can be handed to it what is called the default, else the shortest.
func (l *library) handed(e *describe.Entry) *given {
	var out *given
	for _, p := range e.Props {
		if !p.Required || p.Name == "children" {
			continue
		}
		if len(p.Given) == 0 || out != nil {
			return nil
		}
		best := slices.MinFunc(p.Given, func(a, b string) int {
			usual := func(name string) int {
				if strings.HasPrefix(strings.ToLower(name), "default") {
					return 0
				}
				return 1
			}
			return cmp.Or(usual(a)-usual(b), len(a)-len(b), strings.Compare(a, b))
		})
		for n, spec := range l.specs {
			if slices.Contains(l.gives(spec), best) {
				out = &given{WrapTheme: pack.WrapTheme{Prop: p.Name, Light: best, Dark: best}, module: n}
				break
			}
		}
	}
	return out
}

var lightOrDark = regexp.MustCompile(`(?i)light|dark`)

// themeOf finds what a wrapper is handed as its theme: of what the library gives, two values that
// are called the same but for "light" and "dark", the shortest.
func (l *library) themeOf(e *describe.Entry) *given {
	i := slices.IndexFunc(e.Props, func(p describe.Prop) bool { return p.Name == "theme" && len(p.Values) == 0 })
	if i < 0 {
		return nil
	}
	var best *given
	for n, spec := range l.specs {
		pairs := map[string]*given{}
		for _, name := range l.gives(spec) {
			lower := strings.ToLower(name)
			if !strings.Contains(lower, "theme") || madeBy.MatchString(name) || l.isComponent(name) {
				continue
			}
			which := lightOrDark.FindAllString(lower, -1)
			if len(which) != 1 {
				continue
			}
			stem := lightOrDark.ReplaceAllString(lower, "")
			if pairs[stem] == nil {
				pairs[stem] = &given{module: n}
				pairs[stem].Prop = e.Props[i].Name
			}
			if which[0] == "light" {
				pairs[stem].Light = name
			} else {
				pairs[stem].Dark = name
			}
		}
		for _, stem := range sortedKeys(pairs) {
			p := pairs[stem]
			if p.Light != "" && p.Dark != "" && (best == nil || len(p.Light) < len(best.Light)) {
				best = p
			}
		}
	}
	return best
}

// madeBy are names of what makes a theme, or asks for one.
var madeBy = regexp.MustCompile(`^(create|make|get|use|is|with)[A-Z]`)

func (l *library) isComponent(name string) bool {
	return slices.ContainsFunc(l.catalog.Entries, func(e describe.Entry) bool { return e.Export == name })
}

// gives lists what a module of the library exports; it is looked up once.
func (l *library) gives(spec string) []string {
	if out, ok := l.gave[spec]; ok {
		return out
	}
	own := spec
	if !l.underModules() {
		own = l.own([]string{spec})[0]
	}
	q, _ := json.Marshal(own)
	r := l.build("export * from "+string(q), nil, nil)
	var meta struct {
		Outputs map[string]struct{ Exports []string }
	}
	var out []string
	if json.Unmarshal([]byte(r.Metafile), &meta) == nil { // a module that cannot be bundled gives nothing
		for _, o := range meta.Outputs {
			out = append(out, o.Exports...)
		}
	}
	slices.Sort(out)
	if l.gave == nil {
		l.gave = map[string][]string{}
	}
	l.gave[spec] = out
	return out
}

// themeSettings writes how a wrapper is told the theme: a choice that knows light and dark.
func (l *library) themeSettings(e *describe.Entry) string {
	best := ""
	for _, p := range e.Props {
		if !slices.Contains(p.Values, "dark") || !slices.Contains(p.Values, "light") {
			continue
		}
		// One that forces holds; one that says what is usual may be overruled by what is kept.
		if best == "" || strings.HasPrefix(p.Name, "force") || strings.HasPrefix(best, "default") && !strings.HasPrefix(p.Name, "default") {
			best = p.Name
		}
	}
	if best != "" {
		l.meta.Notes = append(l.meta.Notes, fmt.Sprintf("%s stands around everything; its %s follows the theme", e.Export, best))
		l.meta.Themes.Dark, l.meta.Themes.How = "wrapper", "its "+best
		return fmt.Sprintf("{ %q: theme === 'dark' ? 'dark' : 'light' }", best)
	}
	l.meta.Notes = append(l.meta.Notes, fmt.Sprintf("%s stands around everything", e.Export))
	return "{}"
}
