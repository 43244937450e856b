package kit

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/lucasb-eyer/go-colorful"
)

// Making are the few decisions that a theme is made with. What is empty or zero
// stays as the theme it starts from has it.
type Making struct {
	Accent  string  `json:"accent,omitempty"`  // #RRGGBB
	Ground  string  `json:"ground,omitempty"`  // #RRGGBB
	Radius  *int    `json:"radius,omitempty"`  // of controls, in px; others in proportion
	Step    int     `json:"step,omitempty"`    // smallest space, in px; others in proportion
	Density string  `json:"density,omitempty"` // one of Densities
	Font    string  `json:"font,omitempty"`    // families, separated by commas
	Heading string  `json:"heading,omitempty"` // the same for headings
	Size    float64 `json:"size,omitempty"`    // of running text, in px; others in proportion
}

// Densities are how much room things take, as factors on the spaces.
var Densities = map[string]float64{"compact": 0.75, "normal": 1, "roomy": 1.25}

// Roles says which tokens of a kit take part in making a theme. Each list begins
// with the leader, which gets what was chosen; the others keep their distance from
// it. A name is a token or a whole group.
type Roles struct {
	Accent  []string `json:"accent,omitempty"`
	Ground  []string `json:"ground,omitempty"`
	Radius  []string `json:"radius,omitempty"`
	Space   []string `json:"space,omitempty"`
	Font    []string `json:"font,omitempty"`
	Heading []string `json:"heading,omitempty"`
	Size    []string `json:"size,omitempty"`
	Pairs   []Pair   `json:"pairs,omitempty"`
}

// Pair is a colour that is shown on another, with the contrast it needs (WCAG 2.2:
// 4.5 for letters, 3 for large letters, signs and edges of controls).
type Pair struct {
	Ink    string  `json:"ink"`
	Ground string  `json:"ground"`
	Needs  float64 `json:"needs"`
}

// roles are those of the notes; a kit without them is read by the words in its paths.
func (k *Kit) roles() Roles {
	if k.Roles != nil {
		return *k.Roles
	}
	var r Roles
	has := func(path string, words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(strings.ToLower(path), w) })
	}
	for _, t := range k.Tokens.List {
		switch {
		case t.Type == "color" && has(t.Path, "accent", "primary", "brand"):
			r.Accent = append(r.Accent, t.Path)
		case t.Type == "color" && has(t.Path, "ground", "surface", "background"):
			r.Ground = append(r.Ground, t.Path)
		case t.Type == "dimension" && has(t.Path, "radius", "round"):
			r.Radius = append(r.Radius, t.Path)
		case t.Type == "dimension" && has(t.Path, "space", "spacing", "gap"):
			r.Space = append(r.Space, t.Path)
		case t.Type == "fontFamily" && has(t.Path, "head", "title", "display"):
			r.Heading = append(r.Heading, t.Path)
		case t.Type == "fontFamily":
			r.Font = append(r.Font, t.Path)
		}
	}
	return r
}

// Makable names the decisions that this kit's tokens can follow.
func (k *Kit) Makable() []string {
	r := k.roles()
	out := []string{}
	for _, m := range []struct {
		name string
		list []string
	}{{"accent", r.Accent}, {"ground", r.Ground}, {"radius", r.Radius}, {"density", r.Space}, {"step", r.Space}, {"font", r.Font}, {"heading", r.Heading}, {"size", r.Size}} {
		if len(m.list) > 0 {
			out = append(out, m.name)
		}
	}
	return out
}

// values computes the tokens that a making sets, by path.
func (m Making) values(k *Kit, t *Tokens, from string) (map[string]Value, error) {
	out, fixed := map[string]Value{}, map[string]bool{} // fixed: chosen by a person
	roles := k.roles()
	paths := func(names []string) []string {
		var list []string
		for _, n := range names {
			if _, ok := t.Find(n); ok {
				list = append(list, n)
			}
			for _, tok := range t.List {
				if strings.HasPrefix(tok.Path, n+".") {
					list = append(list, tok.Path)
				}
			}
		}
		return list
	}
	scale := func(names []string, factor float64) {
		for _, p := range paths(names) {
			tok, _ := t.Find(p)
			if v, ok := scaled(tok.Values[from], factor); ok {
				out[p] = v
			}
		}
	}
	// ratio is that of what was chosen for a list's leader to what it has; 1 where it
	// has nothing to keep a proportion to.
	ratio := func(list []string, chosen float64) float64 {
		if len(list) == 0 {
			return 1
		}
		tok, _ := t.Find(list[0])
		if old := pixels(tok.Values[from]); old > 0 {
			return chosen / old
		}
		return 1
	}
	for _, c := range []struct{ what, chosen string }{{"accent", m.Accent}, {"ground", m.Ground}} {
		if c.chosen == "" {
			continue
		}
		leader, ok := colorOf(c.chosen)
		if !ok || len(c.chosen) != 7 {
			return nil, refuse("#RRGGBB", "the %s %q is no colour", c.what, c.chosen)
		}
		list := roles.Accent
		if c.what == "ground" {
			list = roles.Ground
		}
		if list = paths(list); len(list) > 0 {
			fixed[list[0]] = true
			lead(t, from, list, leader, out)
		}
	}
	if m.Radius != nil {
		if *m.Radius < 0 || *m.Radius > 40 {
			return nil, refuse("0 to 40 px", "a corner of %d px cannot be used", *m.Radius)
		}
		list := paths(roles.Radius)
		if len(list) > 0 {
			tok, _ := t.Find(list[0])
			old := pixels(tok.Values[from])
			for _, p := range list {
				tok, _ := t.Find(p)
				// A leader of no radius has no proportion to keep.
				px := float64(*m.Radius)
				if old > 0 {
					px *= pixels(tok.Values[from]) / old
				}
				out[p] = dimension(math.Round(px))
			}
		}
	}
	factor := 1.0
	if m.Density != "" {
		f, ok := Densities[m.Density]
		if !ok {
			return nil, refuse(
				strings.Join(slices.Sorted(maps.Keys(Densities)), ", "),
				"the density %q is not known",
				m.Density,
			)
		}
		factor = f
	}
	if m.Step != 0 {
		list := paths(roles.Space)
		if m.Step < 1 || m.Step > 16 {
			return nil, refuse("1 to 16 px", "a spacing step of %d px cannot be used", m.Step)
		}
		factor *= ratio(list, float64(m.Step))
	}
	if factor != 1 {
		scale(roles.Space, factor)
	}
	if m.Size != 0 {
		list := paths(roles.Size)
		if m.Size < 10 || m.Size > 24 {
			return nil, refuse("10 to 24 px", "a text size of %g px cannot be used", m.Size)
		}
		scale(roles.Size, ratio(list, m.Size))
	}
	for _, f := range []struct {
		families string
		names    []string
	}{{m.Font, roles.Font}, {m.Heading, roles.Heading}} {
		if f.families == "" {
			continue
		}
		v, err := ParseValue("fontFamily", f.families)
		if err != nil {
			return nil, fmt.Errorf("font: %w", err)
		}
		for _, p := range paths(f.names) {
			if tok, _ := t.Find(p); tok.written(from).kind != '@' || f.families == m.Heading {
				out[p] = v
			}
		}
	}
	repair(t, from, roles.Pairs, fixed, out)
	return out, nil
}

func dimension(px float64) Value {
	return Value{
		kind:  '{',
		parts: []part{{"value", numberValue(strconv.FormatFloat(px, 'g', -1, 64))}, {"unit", textValue("px")}},
	}
}

// Pixels is the number of a length in px; rem counts as 16.
func Pixels(css string) float64 { return pixels(css) }

// pixels is the number of a length in px; rem counts as 16.
func pixels(css string) float64 {
	unit := strings.TrimLeft(css, "+-.0123456789")
	f, _ := strconv.ParseFloat(strings.TrimSuffix(css, unit), 64)
	if unit == "rem" || unit == "em" {
		f *= 16
	}
	return f
}

func scaled(css string, factor float64) (Value, bool) {
	px := pixels(css)
	if px == 0 {
		return Value{}, false
	}
	return dimension(math.Max(1, math.Round(px*factor))), true
}

func colorOf(css string) (colorful.Color, bool) {
	rgb, _, ok := hexParts(css)
	return colorful.Color{R: float64(rgb[0]) / 255, G: float64(rgb[1]) / 255, B: float64(rgb[2]) / 255}, ok
}

func colorValue(c colorful.Color) Value {
	r, g, b := c.Clamped().RGB255()
	return srgb([3]uint8{r, g, b}, 1)
}

// lead gives the first token the chosen colour and moves the others with it: in
// OKLCH they keep their distance in lightness, scaled to the room that is left on
// their side, their share of its chroma, and their difference in hue. Neutrals stay
// neutral beside a leader that is coloured little.
func lead(t *Tokens, from string, paths []string, chosen colorful.Color, out map[string]Value) {
	first, _ := t.Find(paths[0])
	old, ok := colorOf(first.Values[from])
	if !ok {
		old = chosen
	}
	oldL, oldC, oldH := old.OkLch()
	newL, newC, newH := chosen.OkLch()
	for i, p := range paths {
		tok, _ := t.Find(p)
		c, ok := colorOf(tok.Values[from])
		if i == 0 {
			out[p] = colorValue(chosen)
			continue
		}
		if !ok || tok.written(from).kind == '@' {
			continue // an alias follows by itself
		}
		l, chroma, h := c.OkLch()
		switch {
		case l >= oldL && oldL < 1:
			l = newL + (l-oldL)*(1-newL)/(1-oldL)
		case l < oldL && oldL > 0:
			l = newL - (oldL-l)*newL/oldL
		}
		// What is almost grey takes a touch of the leader's colour at most.
		if oldC > 0.02 {
			chroma *= math.Min(2, newC/oldC)
		} else {
			chroma = math.Min(chroma+newC*0.5, 0.04)
		}
		if newC > 0.004 {
			h += newH - oldH
			if oldC <= 0.02 {
				h = newH
			}
		}
		out[p] = colorValue(colorful.OkLch(l, chroma, math.Mod(h+360, 360)))
	}
}

// Contrast is the contrast of two opaque colours, from 1 to 21 (WCAG 2.2, contrast
// ratio). ok is false where one of them is not written as #RRGGBB.
func Contrast(a, b string) (ratio float64, ok bool) {
	p, okA := colorOf(a)
	q, okB := colorOf(b)
	x, y := luminance(p), luminance(q)
	return (math.Max(x, y) + 0.05) / (math.Min(x, y) + 0.05), okA && okB
}

// luminance is the relative luminance of WCAG 2.2.
func luminance(c colorful.Color) float64 {
	r, g, b := c.LinearRgb()
	return 0.2126*r + 0.7152*g + 0.0722*b
}

// repair moves inks in lightness, as little as will do, until they show on their
// grounds. Colours that were chosen outright stay: what they lack, Checks says.
func repair(t *Tokens, from string, pairs []Pair, fixed map[string]bool, out map[string]Value) {
	current := func(path string) (colorful.Color, bool) {
		if v, ok := out[path]; ok {
			css, err := v.css("color")
			if err != nil {
				return colorful.Color{}, false
			}
			return colorOf(css)
		}
		tok, ok := t.Find(path)
		if !ok {
			return colorful.Color{}, false
		}
		return colorOf(tok.Values[from])
	}
	grounds := map[string][]Pair{}
	var inks []string
	for _, p := range pairs {
		_, inkMoved := out[p.Ink]
		_, groundMoved := out[p.Ground]
		if !inkMoved && !groundMoved {
			continue
		}
		if grounds[p.Ink] == nil {
			inks = append(inks, p.Ink)
		}
	}
	for _, p := range pairs {
		if slices.Contains(inks, p.Ink) {
			grounds[p.Ink] = append(grounds[p.Ink], p)
		}
	}
	for _, ink := range inks {
		if fixed[ink] {
			continue
		}
		c, ok := current(ink)
		if !ok {
			continue
		}
		shows := func(c colorful.Color) bool {
			hex := c.Clamped().Hex()
			for _, p := range grounds[ink] {
				g, ok := current(p.Ground)
				if ratio, _ := Contrast(hex, g.Hex()); ok && ratio < p.Needs {
					return false
				}
			}
			return true
		}
		l, chroma, h := c.OkLch()
		for step := 0.0; step <= 1; step += 0.01 {
			moved := false
			for _, at := range []float64{l - step, l + step} {
				if at < 0 || at > 1 {
					continue
				}
				// Towards the ends there is less room for colour.
				if n := colorful.OkLch(at, chroma*(1-step*0.5), h).Clamped(); shows(n) {
					if step > 0 {
						out[ink] = colorValue(n)
					}
					moved = true
					break
				}
			}
			if moved {
				break
			}
		}
	}
}

// Check is a pair with the contrast that it has in a theme.
type Check struct {
	Pair
	InkValue    string  `json:"inkValue"`
	GroundValue string  `json:"groundValue"`
	Ratio       float64 `json:"ratio"`
	Fails       bool    `json:"fails"`
}

// Checks measures the pairs that the kit's notes name, in one theme; the weakest
// first, by how much they lack.
func (k *Kit) Checks(theme string) []Check {
	out := []Check{}
	for _, p := range k.roles().Pairs {
		ink, okInk := k.Tokens.Find(p.Ink)
		ground, okGround := k.Tokens.Find(p.Ground)
		if !okInk || !okGround {
			continue
		}
		c := Check{Pair: p, InkValue: ink.Values[theme], GroundValue: ground.Values[theme]}
		ratio, ok := Contrast(c.InkValue, c.GroundValue)
		if !ok {
			continue
		}
		c.Ratio = math.Floor(ratio*100) / 100 // never told better than it is
		c.Fails = ratio < p.Needs
		out = append(out, c)
	}
	slices.SortStableFunc(out, func(a, b Check) int {
		switch x, y := a.Ratio/a.Needs, b.Ratio/b.Needs; {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	return out
}

// Colours are the first of the roles accent and ground in the usual theme, as CSS writes
// them; empty where the kit has none.
func (k *Kit) Colours() (accent, ground string) {
	r := k.roles()
	first := func(paths []string) string {
		for _, p := range paths {
			if t, ok := k.Tokens.Find(p); ok && len(k.Tokens.Themes) > 0 {
				return t.Values[k.Tokens.Themes[0]]
			}
		}
		return ""
	}
	return first(r.Accent), first(r.Ground)
}
