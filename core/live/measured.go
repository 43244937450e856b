package live

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/geometry"
	"ubiquant/core/model"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// Looks is the rule that what was measured on drawn screens is reported under.
var Looks = &audit.Rule{
	ID: "looks", Title: "Looks wrong with some records", Severity: audit.Note,
	Purpose: "Every screen holds what its records bring: nothing sticks out, lies over its neighbour " +
		"or shows nothing, and all letters can be read.",
	Why: "Long words, missing values, narrow screens and dark themes are met in production first.",
}

// Look is one way of looking at a screen.
type Look struct {
	Set   string `json:"set"`
	State string `json:"state,omitempty"`
	Theme string `json:"theme,omitempty"`
	Width int    `json:"width"`
}

// String says in words how a screen is looked at: "edge at 360", "usual at 1280, dark".
func (k Look) String() string {
	return fmt.Sprintf("%s at %d", k.Set, k.Width) + k.more()
}

func (k Look) more() string {
	out := ""
	for _, more := range []string{k.State, k.Theme} {
		if more != "" {
			out += ", " + more
		}
	}
	return out
}

// The widths that screens are measured at.
var measuredWidths = []int{360, 1280}

// Looks are the ways in which a screen is measured: with every sample set at each width, in every
// state, and in every theme.
func (l *Live) Looks(d *screen.Document) []Look {
	var out []Look
	wide := measuredWidths[len(measuredWidths)-1]
	usual := ""
	for i, s := range l.Sets() {
		if i == 0 {
			usual = s.ID
		}
		for _, w := range measuredWidths {
			out = append(out, Look{Set: s.ID, Width: w})
		}
	}
	for _, s := range d.States {
		out = append(out, Look{Set: cmp.Or(s.Set, usual), State: s.Name, Width: wide})
	}
	for i, theme := range l.Kit.Tokens.Themes {
		if i > 0 {
			out = append(out, Look{Set: usual, Theme: theme, Width: wide})
		}
	}
	return out
}

// Ink is a colour of letters on a ground that occurs on a drawn screen.
type Ink struct {
	Keys   []string `json:"keys"` // of the elements that the letters stand in
	Ink    string   `json:"ink"`
	Ground string   `json:"ground"`
	Ratio  float64  `json:"ratio"` // contrast as WCAG 2.2 defines it
	Large  bool     `json:"large"` // letters of 24 px, or of 18.66 px and bold
	Sample string   `json:"sample"`
}

// The contrast that letters need (WCAG 2.2, 1.4.3).
const (
	letterContrast = 4.5
	largeContrast  = 3
)

// Faint are the letters of a drawn screen that stand out too little from their ground.
func Faint(n *resolve.Node, inks []Ink) []geometry.Finding {
	at := map[string]*resolve.Node{}
	var note func(n *resolve.Node)
	note = func(n *resolve.Node) {
		at[n.Key] = n
		for _, c := range n.Children {
			note(c)
		}
	}
	note(n)
	var out []geometry.Finding
	for _, ink := range inks {
		need := letterContrast
		if ink.Large {
			need = largeContrast
		}
		// Told to two decimals, and so held against what is told.
		if ratio := float64(int(ink.Ratio*100)) / 100; ratio < need && ratio >= 1 {
			keys := ink.Keys
			if len(keys) == 0 {
				keys = []string{n.Key} // drawn by a framework, which keeps to itself what stands where
			}
			for _, key := range keys {
				node := at[key]
				if node == nil {
					continue
				}
				title := node.Type
				if node.Component != nil {
					title = node.Component.Title
				}
				out = append(out, geometry.Finding{
					Element: node.ID, Doc: node.Doc, Kind: "contrast", By: need - ratio, Times: 1, Key: key,
					Message: fmt.Sprintf("“%s” of %s is hard to read: %s on %s has a contrast of %.2f, and %.1f is needed",
						ink.Sample, title, ink.Ink, ink.Ground, ratio, need),
				})
			}
		}
	}
	return out
}

// Gathered collects what looks wrong on drawn screens: each thing once, with all ways of looking
// in which it does.
type Gathered struct {
	list []*gathered
	at   map[string]*gathered
}

type gathered struct {
	geometry.Finding
	doc   string
	worst Look
	under []Look
}

// Seen is a finding on a drawn screen, with the way of looking at it in which it shows most.
type Seen struct {
	audit.Finding
	Look Look   `json:"look"`
	Copy string `json:"copy"` // key of the copy of the element in which it shows most
}

// Add enters what looks wrong on a screen in one way of looking at it. What stands in its shell or
// in a piece is told of that.
func (g *Gathered) Add(d *screen.Document, look Look, found []geometry.Finding) {
	if g.at == nil {
		g.at = map[string]*gathered{}
	}
	for _, f := range found {
		doc := d.Address()
		switch {
		case strings.HasPrefix(f.Doc, screen.PiecePrefix):
			doc = f.Doc
		case f.Doc != "":
			doc = string(screen.ShellDoc) + ":" + d.Shell
		}
		key := strings.Join([]string{doc, f.Element, f.Kind}, "\x00")
		s := g.at[key]
		if s == nil {
			s = &gathered{Finding: f, doc: doc, worst: look}
			g.at[key] = s
			g.list = append(g.list, s)
		}
		if f.By > s.By {
			s.Finding, s.worst = f, look
		}
		if !slices.Contains(s.under, look) {
			s.under = append(s.under, look)
		}
	}
}

// Seen is what was gathered. A thing is known by its element and kind, however it is looked at.
func (g *Gathered) Seen() []Seen {
	out := make([]Seen, len(g.list))
	for i, s := range g.list {
		out[i] = Seen{audit.Finding{
			Rule: Looks.ID, Severity: Looks.Severity, Doc: s.doc, Element: s.Element, Prop: s.Kind,
			Message: s.Message + " with " + ways(s.under),
		}, s.worst, s.Key}
	}
	return out
}

// ways says in words how a screen is looked at in several ways, what is alike together: "usual and
// edge at 360 and 1280; usual at 1280, dark".
func ways(looks []Look) string {
	type alike struct {
		at      Look // without its set and width
		widths  []string
		sets    []string
		written string
	}
	var bySet, out []*alike
	for _, k := range looks {
		rest := Look{State: k.State, Theme: k.Theme}
		i := slices.IndexFunc(bySet, func(a *alike) bool { return a.at == rest && a.sets[0] == k.Set })
		if i < 0 {
			bySet = append(bySet, &alike{at: rest, sets: []string{k.Set}})
			i = len(bySet) - 1
		}
		bySet[i].widths = append(bySet[i].widths, strconv.Itoa(k.Width))
	}
	for _, a := range bySet {
		a.written = listed(a.widths)
		if i := slices.IndexFunc(out, func(b *alike) bool { return b.at == a.at && b.written == a.written }); i >= 0 {
			out[i].sets = append(out[i].sets, a.sets...)
			continue
		}
		out = append(out, a)
	}
	words := make([]string, len(out))
	for i, a := range out {
		words[i] = listed(a.sets) + " at " + a.written + a.at.more()
	}
	return strings.Join(words, "; ")
}

// listed is a list in words.
func listed(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// measured is what was found on the screens as they are now, by their addresses.
type measured struct {
	found map[string][]Seen
	// So many times what all screens are drawn with changed, and each of them.
	around int
	own    map[string]int
}

// Drawn names the way a screen is drawn now: it is another one after a change of the screen, or
// of what stands around, in or behind it.
func (l *Live) Drawn(d *screen.Document) string {
	return fmt.Sprintf("%d.%d.%d", l.measured.around, l.measured.own[d.Address()], d.Revision)
}

// TakeMeasured keeps what was measured of a screen, until that changes. ok is false where it did
// since it was drawn, and nothing is kept.
func (l *Live) TakeMeasured(d *screen.Document, drawn string, found []Seen) (ok bool) {
	if drawn != l.Drawn(d) {
		return false
	}
	if l.measured.found == nil {
		l.measured.found = map[string][]Seen{}
	}
	l.measured.found[d.Address()] = found
	return true
}

// Unmeasured are the screens that were not measured since they last changed.
func (l *Live) Unmeasured() []*screen.Document {
	var out []*screen.Document
	for _, d := range l.W.Docs {
		if _, ok := l.measured.found[d.Address()]; !ok && d.Kind == screen.ScreenDoc && !d.Removed && d.Source == "" {
			out = append(out, d)
		}
	}
	return out
}

// Measured are the findings on drawn screens, in the order of the screens; one of a piece that
// several screens show is told once.
func (l *Live) Measured() []Seen {
	var out []Seen
	told := map[string]bool{}
	for _, d := range l.W.Docs {
		for _, f := range l.measured.found[d.Address()] {
			if key := f.Key(); !told[key] {
				told[key] = true
				out = append(out, f)
			}
		}
	}
	return out
}

// measuredOf are the findings on one document, whatever screens it was measured on.
func (l *Live) measuredOf(doc string) []audit.Finding {
	if len(l.measured.found) == 0 {
		return nil
	}
	return findingsOf(slices.DeleteFunc(l.Measured(), func(s Seen) bool { return s.Doc != doc }))
}

func findingsOf(list []Seen) []audit.Finding {
	out := make([]audit.Finding, len(list))
	for i, s := range list {
		out[i] = s.Finding
	}
	return out
}

// outdate forgets what was measured of screens that a change touches: of one that was edited, or
// of all where what is around, in or behind them changed.
func (l *Live) outdate(docs []string, parts bool) {
	if parts || slices.ContainsFunc(docs, func(doc string) bool { return !strings.HasPrefix(doc, string(screen.ScreenDoc)+":") }) {
		l.measured = measured{around: l.measured.around + 1}
		return
	}
	if l.measured.own == nil {
		l.measured.own = map[string]int{}
	}
	for _, doc := range docs {
		l.measured.own[doc]++
		delete(l.measured.found, doc)
	}
}

// drawing are the parts of a workspace that change how screens are drawn.
var drawing = append([]model.Part{
	model.Samples, model.BaseKit, model.Models, model.Queries, model.Applications, model.Pictures,
}, dressing...)
