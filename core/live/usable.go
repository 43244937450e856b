package live

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/model"
)

// Need is one thing that code with an entry of the kit cannot do without.
type Need struct {
	What  string `json:"what"` // package, peer, font
	Name  string `json:"name"`
	For   string `json:"for,omitempty"` // application or theme that it was checked for
	State string `json:"state"`         // met, missing, unknown
	Words string `json:"words"`
	// Remedy says what would meet it; Command is what to run for that, Path where in
	// Ubiquant it is done.
	Remedy  string `json:"remedy,omitempty"`
	Command string `json:"command,omitempty"`
	Path    string `json:"path,omitempty"`
	// Line is what the application's package.json has then, for a package.
	Line string `json:"line,omitempty"`

	part int // from elsewhere that needs it; 0 is the kit
}

// Reason says why an entry cannot or should not be used now, and what to do.
type Reason struct {
	Kind   string `json:"kind"` // left-out, deprecated, package, font
	Words  string `json:"words"`
	Remedy string `json:"remedy"`
	// Tag is an entry to take instead, Command what to run, Path where to go.
	Tag     string `json:"tag,omitempty"`
	Command string `json:"command,omitempty"`
	Path    string `json:"path,omitempty"`
}

// Usability tells of each entry of a kit whether it can be used, and what it needs.
type Usability struct {
	k     *kit.Kit
	left  []model.LeftOut
	needs []Need
}

// Usability checks what every entry needs: the kit's package and its peers in each
// application that said what it has installed, and the fonts of every theme. pkg is
// the kit's package, sheet its style sheet.
func (l *Live) Usability(pkg *kit.Package, sheet []byte) *Usability {
	u := &Usability{k: l.Kit, left: l.W.Own.LeftOut}
	wanted := map[string]string{pkg.Name: pkg.Version}
	maps.Copy(wanted, pkg.Peers)
	names := append([]string{pkg.Name}, slices.Sorted(maps.Keys(pkg.Peers))...)
	for _, app := range l.W.Apps {
		for _, name := range names {
			n := packageNeed(app, name, wanted[name])
			if name == pkg.Name {
				n.What = "package"
			}
			u.needs = append(u.needs, n)
		}
		for i, p := range l.Kit.Parts {
			n := packageNeed(app, p.Name, p.Version)
			n.What, n.part = "package", i+1
			u.needs = append(u.needs, n)
		}
	}
	for _, theme := range l.Kit.Tokens.Themes {
		for _, family := range l.W.Own.MissingFonts(l.Kit, theme, sheet) {
			u.needs = append(
				u.needs,
				Need{
					What:   "font",
					Name:   family,
					For:    theme,
					State:  "missing",
					Words:  fmt.Sprintf("nothing brings the font %s of the theme %s", family, theme),
					Remedy: "add its file to the theme, or choose a font that is here",
					Path:   "/shelf?sheet=themes&theme=" + theme,
				},
			)
		}
	}
	return u
}

// packageNeed checks one package in one application.
func packageNeed(app model.App, name, wanted string) Need {
	n := Need{
		What:    "peer",
		Name:    name,
		For:     app.Name,
		Command: fmt.Sprintf("npm install %s@%s", name, quoteRange(wanted)),
	}
	if app.Packages == nil {
		n.State, n.Words, n.Remedy, n.Command = "unknown", fmt.Sprintf(
			"it is not known what %s has installed",
			app.Name,
		), "bring in its package.json", ""
		return n
	}
	has, ok := app.Packages[name]
	if !ok {
		n.State, n.Words, n.Remedy, n.Line = "missing", fmt.Sprintf(
			"%s has no package %s",
			app.Name,
			name,
		), "install it", fmt.Sprintf(
			"%q: %q",
			name,
			wanted,
		)
		return n
	}
	switch fits, known := kit.Admits(has, wanted); {
	case !known:
		n.State, n.Words, n.Remedy, n.Command = "unknown", fmt.Sprintf(
			"%s has %s from %s, which tells no version",
			app.Name,
			name,
			has,
		), "", ""
	case !fits:
		n.State, n.Words, n.Remedy = "missing", fmt.Sprintf(
			"%s asks for %s %s; %s is needed",
			app.Name,
			name,
			has,
			wanted,
		), "ask for that version"
		n.Line = fmt.Sprintf("%q: %q", name, wanted)
	default:
		n.State, n.Words, n.Command = "met", fmt.Sprintf("%s has %s %s", app.Name, name, has), ""
	}
	return n
}

func quoteRange(wanted string) string {
	if strings.ContainsAny(wanted, " <>|*") {
		return "'" + wanted + "'"
	}
	return wanted
}

// Needs lists what an entry needs.
func (u *Usability) Needs(c *kit.Component) []Need {
	out := []Need{}
	for _, n := range u.needs {
		if n.What == "font" && u.speaksOfFonts(c) || n.What != "font" && n.part == c.Part {
			out = append(out, n)
		}
	}
	return out
}

func (u *Usability) speaksOfFonts(c *kit.Component) bool {
	return slices.ContainsFunc(
		u.k.Tokens.List,
		func(t kit.Token) bool { return t.Type == "fontFamily" && slices.Contains(c.Tokens, t.CSS) },
	)
}

// Reasons lists why an entry cannot or should not be used now; none where it can.
func (u *Usability) Reasons(c *kit.Component) []Reason {
	out := []Reason{}
	for _, l := range u.left {
		if l.Tag == c.Tag {
			out = append(
				out,
				Reason{
					Kind:   "left-out",
					Words:  fmt.Sprintf("The team does not use it: %s (%s, %s).", l.Reason, l.By, l.When),
					Remedy: "A keeper can take it in.",
				},
			)
		}
	}
	if c.Deprecated != "" {
		r := Reason{
			Kind:   "deprecated",
			Words:  deprecated(c.Deprecated),
			Remedy: "Do without it.",
			Tag:    c.Replacement,
		}
		if other, ok := u.k.Component(c.Replacement); ok {
			r.Remedy = "Use " + other.Title + "."
		}
		out = append(out, r)
	}
	for _, n := range u.Needs(c) {
		if n.State == "missing" {
			kind := "package"
			if n.What == "font" {
				kind = "font"
			}
			out = append(
				out,
				Reason{
					Kind:    kind,
					Words:   strings.ToUpper(n.Words[:1]) + n.Words[1:] + ".",
					Remedy:  strings.ToUpper(n.Remedy[:1]) + n.Remedy[1:] + ".",
					Command: n.Command,
					Path:    n.Path,
				},
			)
		}
	}
	return out
}

// deprecated is what a library says of a component that it wants used no longer, as a sentence.
func deprecated(says string) string {
	says = strings.TrimRight(strings.TrimSpace(says), ".")
	if says == "" || strings.EqualFold(says, "deprecated") {
		return "Deprecated."
	}
	return "Deprecated: " + says + "."
}
