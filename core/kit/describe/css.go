package describe

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/lucasb-eyer/go-colorful"
	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"

	"ubiquant/core/kit"
)

// Sheet is what a style sheet sets for the whole page, and how it is made dark.
type Sheet struct {
	Properties []Property
	Dark       string // what is set around a page to make it dark: "class=dark", "data-theme=dark"
	Light      string
	Media      bool // it follows the system's wish for dark
	Fonts      []string
}

// Property is a custom property that a sheet sets for the whole page.
type Property struct {
	Name, Value string
	Dark        bool // it is set for dark alone
}

var (
	darkAttr  = regexp.MustCompile(`\[([a-z][a-z0-9-]*)[~|^]?=["']?([a-z0-9_-]*?)dark([a-z0-9_-]*)["']?\]`)
	darkClass = regexp.MustCompile(`\.([a-zA-Z0-9_-]*[-_])?(dark)([-_][a-zA-Z0-9_-]+)?(?:[^a-zA-Z0-9_-]|$)`)
	lightName = regexp.MustCompile(`\blight\b`)
	pageRule  = regexp.MustCompile(`^(:root|html|body|:host|\*|::?before|::?after|::backdrop|\.[\w-]*(theme|light|dark|root|body)[\w-]*|\[[^\]]*(theme|mode|scheme|light)[^\]]*\]|:where\(.*\)|:is\(.*\)|[\s,>:]|\(|\)|not|[\w-]*)*$`)
)

// counterpart is what says light where a mark says dark: what is called like it, else the value of
// the same attribute that is met most. Classes are of many kinds, and only their names go together.
func counterpart(dark string, lights map[string]int) string {
	at := strings.LastIndex(dark, "dark")
	if at < 0 {
		return ""
	}
	if like := dark[:at] + "light" + dark[at+len("dark"):]; lights[like] > 0 {
		return like
	}
	name, _, _ := strings.Cut(dark, "=")
	same := map[string]int{}
	for l, n := range lights {
		if name != "class" && strings.HasPrefix(l, name+"=") {
			same[l] = n
		}
	}
	return most(same)
}

// ReadSheet reads what a style sheet says to the page as a whole. It reads as a browser
// would: what it does not understand it passes over.
func ReadSheet(src []byte) Sheet {
	var out Sheet
	p := css.NewParser(parse.NewInputBytes(bytes.ToValidUTF8(src, nil)), false)
	var medias []bool // dark, by at-rule that is open
	var selector strings.Builder
	selectors := []string{""}
	votes, lights := map[string]int{}, map[string]int{}
	dark := func() bool { return slices.Contains(medias, true) }
	for {
		kind, _, data := p.Next()
		switch kind {
		case css.ErrorGrammar:
			if err := p.Err(); err == io.EOF || err != nil && !p.HasParseError() {
				out.Dark, out.Light = most(votes), ""
				if votes[out.Dark] < 3 { // one component's own look is no theme
					out.Dark = ""
				}
				out.Light = counterpart(out.Dark, lights)
				return out
			}
		case css.BeginAtRuleGrammar:
			text := strings.ToLower(string(data))
			isDark := false
			if text == "@media" {
				var b strings.Builder
				for _, v := range p.Values() {
					b.Write(v.Data)
				}
				isDark = strings.Contains(strings.ReplaceAll(strings.ToLower(b.String()), " ", ""), "prefers-color-scheme:dark")
				out.Media = out.Media || isDark
			}
			if text == "@font-face" {
				isDark = false
			}
			medias = append(medias, isDark)
		case css.EndAtRuleGrammar:
			if len(medias) > 0 {
				medias = medias[:len(medias)-1]
			}
		case css.QualifiedRuleGrammar, css.BeginRulesetGrammar:
			for _, v := range p.Values() {
				selector.Write(v.Data)
			}
			if kind == css.QualifiedRuleGrammar {
				selector.WriteByte(',')
				continue
			}
			s := selector.String()
			selector.Reset()
			selectors = append(selectors, s)
			if lightName.MatchString(s) {
				for _, m := range darkAttr.FindAllStringSubmatch(strings.ReplaceAll(s, "light", "dark"), 8) {
					lights[m[1]+"="+m[2]+"light"+m[3]]++
				}
				for _, m := range darkClass.FindAllStringSubmatch(strings.ReplaceAll(s, "light", "dark"), 8) {
					lights["class="+m[1]+"light"]++
				}
			}
		case css.EndRulesetGrammar:
			if len(selectors) > 1 {
				selectors = selectors[:len(selectors)-1]
			}
		case css.CustomPropertyGrammar:
			s := selectors[len(selectors)-1]
			// What sets properties for dark says how a page is made dark.
			if len(s) <= 2_000 && !strings.Contains(s, "light") {
				for _, m := range darkAttr.FindAllStringSubmatch(s, 8) {
					votes[m[1]+"="+m[2]+"dark"+m[3]]++
				}
				for _, m := range darkClass.FindAllStringSubmatch(s, 8) {
					if m[3] == "" {
						votes["class="+m[1]+"dark"]++
					}
				}
			}
			if len(out.Properties) >= 8_000 || len(s) > 2_000 || !pageRule.MatchString(s) {
				continue
			}
			var b strings.Builder
			for _, v := range p.Values() {
				b.Write(v.Data)
			}
			out.Properties = append(out.Properties, Property{
				Name: string(data), Value: strings.TrimSpace(b.String()), Dark: dark() || isDarkSelector(s),
			})
		}
	}
}

// quotedRoot is a selector in code that says what stands around a page in dark: ".dark &".
var quotedRoot = regexp.MustCompile("[\"'`](?::root|html|body)?((?:\\.[\\w-]*dark|\\[[\\w-]+=\\\\?[\"']?[\\w-]*dark[\\w-]*\\\\?[\"']?\\])(?:[ ,:][^\"'`\\n]{0,160})?)[\"'`]")

// DarkInCode is what is set around a page to make it dark as the code of styles says, where no
// sheet does: as Sheet.Dark.
func DarkInCode(code []byte) string {
	votes := map[string]int{}
	for _, m := range quotedRoot.FindAllSubmatch(code, 200) {
		s := strings.ReplaceAll(string(m[1]), `\`, "")
		for _, a := range darkAttr.FindAllStringSubmatch(s, 1) {
			votes[a[1]+"="+a[2]+"dark"+a[3]]++
		}
		for _, c := range darkClass.FindAllStringSubmatch(s, 1) {
			if c[3] == "" {
				votes["class="+c[1]+"dark"]++
			}
		}
	}
	for is, n := range votes {
		if n < 2 && strings.HasPrefix(is, "class=") && is != "class=dark" {
			delete(votes, is) // one component's own look is no theme
		}
	}
	return most(votes)
}

func isDarkSelector(s string) bool {
	return (darkAttr.MatchString(s) || darkClass.MatchString(s)) && !strings.Contains(s, ":not(") && !strings.Contains(s, "light")
}

func most(votes map[string]int) string {
	best := ""
	for _, k := range slices.Sorted(maps.Keys(votes)) {
		if best == "" || votes[k] > votes[best] {
			best = k
		}
	}
	return best
}

// MaxTokens bounds what a workspace keeps of a sheet's custom properties.
const MaxTokens = 800

// Style takes the custom properties of a sheet that can be tokens: colours, sizes and
// fonts whose values are plain, by theme. Values that speak of other properties are
// followed. What is no token is counted and told.
func (c *Catalog) Style(s Sheet, where string) {
	light, dark := map[string]string{}, map[string]string{}
	var order []string
	for _, p := range s.Properties {
		if _, known := light[p.Name]; !known {
			if _, known := dark[p.Name]; !known {
				order = append(order, p.Name)
			}
		}
		if p.Dark {
			dark[p.Name] = p.Value
		} else {
			light[p.Name] = p.Value
		}
	}
	other, more := 0, 0
	for _, name := range order {
		l, ok := follow(light[name], light, 0)
		if !ok || tokenType(l) == "" {
			other++
			continue
		}
		t := Token{Name: name, Values: map[string]string{"light": l}}
		if s.Dark != "" || s.Media {
			own := dark[name]
			if own == "" {
				own = light[name]
			}
			both := maps.Clone(light)
			maps.Copy(both, dark)
			if d, ok := follow(own, both, 0); ok && d != l && tokenType(d) == tokenType(l) {
				t.Values["dark"] = d
			}
		}
		if len(c.Tokens) >= MaxTokens {
			more++
			continue
		}
		c.Tokens = append(c.Tokens, t)
	}
	if more > 0 {
		c.left(where, "%d custom properties more than the %d that are kept", more, MaxTokens)
	}
	if other > 0 {
		c.left(where, "%d custom properties are neither a plain colour, size nor font", other)
	}
}

var stands = regexp.MustCompile(`^var\(\s*(--[\w-]+)\s*(?:,\s*(.+))?\)$`)

// follow gives the plain value that a custom property stands for.
func follow(value string, all map[string]string, depth int) (string, bool) {
	value = strings.TrimSpace(value)
	m := stands.FindStringSubmatch(value)
	if m == nil {
		return value, value != "" && !strings.Contains(value, "var(")
	}
	if depth > 12 {
		return "", false
	}
	if next, ok := all[m[1]]; ok {
		return follow(next, all, depth+1)
	}
	return follow(m[2], all, depth+1)
}

var colourCall = regexp.MustCompile(`^(rgb|rgba|hsl|hsla)\(([^()]*)\)$`)

// Colour writes a colour of a style sheet as #RRGGBB or #RRGGBBAA: hexadecimal, rgb(),
// hsl() and the names that sheets use for nothing, black and white.
func Colour(text string) (string, bool) {
	text = strings.ToLower(strings.TrimSpace(text))
	switch text {
	case "white":
		return "#FFFFFF", true
	case "black":
		return "#000000", true
	case "transparent":
		return "#00000000", true
	}
	if strings.HasPrefix(text, "#") {
		_, err := kit.ParseValue("color", text)
		return strings.ToUpper(text), err == nil
	}
	m := colourCall.FindStringSubmatch(text)
	if m == nil {
		return "", false
	}
	args := strings.FieldsFunc(m[2], func(r rune) bool { return r == ',' || r == ' ' || r == '/' })
	if len(args) != 3 && len(args) != 4 {
		return "", false
	}
	n := make([]float64, len(args))
	for i, a := range args {
		a, percent := strings.CutSuffix(a, "%")
		a = strings.TrimSuffix(a, "deg")
		f, err := strconv.ParseFloat(a, 64)
		if err != nil {
			return "", false
		}
		switch {
		case percent && (i == 3 || m[1][0] == 'h'):
			f /= 100
		case percent:
			f = f / 100 * 255
		case i > 0 && i < 3 && m[1][0] == 'h':
			f /= 100
		}
		n[i] = f
	}
	c := colorful.Color{R: n[0] / 255, G: n[1] / 255, B: n[2] / 255}
	if m[1][0] == 'h' {
		c = colorful.Hsl(math.Mod(n[0]+360, 360), n[1], n[2])
	}
	out := strings.ToUpper(c.Clamped().Hex())
	if len(n) == 4 && n[3] < 1 {
		out += fmt.Sprintf("%02X", int(max(n[3], 0)*255+0.5))
	}
	return out, true
}

func tokenType(value string) string {
	if _, ok := Colour(value); ok {
		return "color"
	}

	if strings.HasPrefix(value, "{") { // an alias of a token file, and none of a sheet's
		return ""
	}
	if _, err := kit.ParseValue("dimension", value); err == nil && value != "" && value != "0" {
		return "dimension"
	}
	return ""
}

// pixels is a size in CSS pixels; rem and em count 16.
func pixels(value string) (float64, bool) {
	for unit, px := range map[string]float64{"px": 1, "rem": 16, "em": 16} {
		if n, ok := strings.CutSuffix(value, unit); ok {
			if f, err := strconv.ParseFloat(n, 64); err == nil && !(unit == "em" && strings.HasSuffix(n, "r")) {
				return f * px, true
			}
		}
	}
	return 0, false
}

// scale are the steps of room that are used where a library has none: CSS pixels.
var scale = []float64{4, 8, 12, 16, 24, 32, 48, 64}

var tokenName = regexp.MustCompile(`^[A-Za-z0-9_-]+$`)

var (
	roomName = regexp.MustCompile(`^(.*?)(?:^|-)(space|spacing|gap|gutter)(?:-(.*))?$`)
	roomStep = regexp.MustCompile(`^(?:(?:horizontal|scale|size|step|static|fixed)-)?(?:\d+(?:[-_.]\d+)?|\d*-?x*-?(?:s|m|l|sm|md|lg|small|medium|large)|\d*x-(?:small|large)|base|default|none|tiny|huge|full|half|double)(?:-?px)?$`)
	// ofAll are words in the names of tokens that speak of no component.
	ofAll = regexp.MustCompile(`^(?:(?:sys|ref|global|core|base|theme|layout|size|sizing|primitive|semantic|tokens?|ds|design|system|foundation|dimension|default)(?:-|$))*$`)
)

// isRoom tells whether a token is a step of room for anything, by its name: steps that one
// component of the library's keeps for itself are no steps of its pages.
func isRoom(name string, begins map[string]bool) bool {
	m := roomName.FindStringSubmatch(Kebab(strings.TrimLeft(name, "-")))
	if m == nil || m[3] != "" && !roomStep.MatchString(m[3]) {
		return false
	}
	before := strings.Trim(m[1], "-")
	if first, rest, _ := strings.Cut(before, "-"); begins[first] {
		before = rest
	}
	return ofAll.MatchString(before)
}

// TokenFile writes the tokens as a Design Tokens document, and says which custom property
// of the library's each stands for. There are always steps of room: the library's own in
// their order, or a plain scale, and then plain is true.
func (c *Catalog) TokenFile() (file []byte, plain bool) {
	doc := map[string]any{}
	dark := map[string]any{}
	put := func(path, typ, value, css string, inDark string) {
		write := func(into map[string]any, value string) {
			group, name, _ := strings.Cut(path, ".")
			g, _ := into[group].(map[string]any)
			if g == nil {
				g = map[string]any{}
				into[group] = g
			}
			if c, ok := Colour(value); ok && typ == "color" {
				value = c
			}
			v, err := kit.ParseValue(typ, value)
			if err != nil {
				return
			}
			t := map[string]any{"$type": typ, "$value": json.RawMessage(v.JSON())}
			if css != "" {
				t["$extensions"] = map[string]any{"ubiquant": map[string]any{"property": css}}
			}
			g[name] = t
		}
		write(doc, value)
		if inDark != "" {
			write(dark, inDark)
		}
	}
	type step struct {
		px   float64
		name string
		text string
	}
	var steps []step
	begins := c.beginnings()
	tokens := slices.Clone(c.Tokens)
	slices.SortStableFunc(tokens, func(a, b Token) int { return len(a.Name) - len(b.Name) }) // of two of one size the plainer
	for _, t := range tokens {
		if px, ok := pixels(t.Values["light"]); ok && isRoom(t.Name, begins) && px > 0 && px <= 160 {
			if !slices.ContainsFunc(steps, func(s step) bool { return math.Abs(s.px-px) < 0.5 }) {
				steps = append(steps, step{px, t.Name, t.Values["light"]})
			}
		}
	}
	slices.SortFunc(steps, func(a, b step) int { return int(math.Round((a.px - b.px) * 100)) })
	if plain = len(steps) < 4; plain {
		steps = nil
		for _, px := range scale {
			steps = append(steps, step{px: px, text: fmt.Sprintf("%gpx", px)})
		}
	}
	room := map[string]bool{}
	for i, s := range steps {
		if i < 12 {
			put("space."+strconv.Itoa(i+1), "dimension", s.text, s.name, "")
			room[s.name] = true
		}
	}
	prefix := c.propertyPrefix()
	for _, t := range c.Tokens {
		typ := tokenType(t.Values["light"])
		if room[t.Name] || typ == "" {
			continue
		}
		name := strings.Trim(strings.TrimPrefix(strings.TrimPrefix(t.Name, "--"), prefix), "-_")
		name = strings.ReplaceAll(name, "_", "-")
		if name == "" || !tokenName.MatchString(name) || !tokenName.MatchString(strings.TrimPrefix(t.Name, "--")) {
			continue
		}
		group := "size"
		if typ == "color" {
			group = "color"
		}
		put(group+"."+strings.TrimPrefix(name, group+"-"), typ, t.Values["light"], t.Name, t.Values["dark"])
	}
	themes := map[string]any{"light": map[string]any{}}
	if len(dark) > 0 {
		themes["dark"] = dark
	}
	doc["$extensions"] = map[string]any{"ubiquant": map[string]any{"themes": themes}}
	b, err := json.Marshal(doc)
	if err != nil {
		panic(err) // maps and texts alone
	}
	return b, plain
}

// beginnings are the words that many of the custom properties begin with: the library's own.
func (c *Catalog) beginnings() map[string]bool {
	counts := map[string]int{}
	for _, t := range c.Tokens {
		first, _, _ := strings.Cut(Kebab(strings.TrimLeft(t.Name, "-")), "-")
		counts[first]++
	}
	maps.DeleteFunc(counts, func(_ string, n int) bool { return n*fewOfAll < len(c.Tokens) })
	out := map[string]bool{}
	for word := range counts {
		out[word] = true
	}
	return out
}

// fewOfAll is how small a share of a library's properties may begin with its own name.
const fewOfAll = 5

// propertyPrefix is what most custom properties begin with: "--ac-color" and "--ac-space"
// begin with "ac".
func (c *Catalog) propertyPrefix() string {
	counts := map[string]int{}
	for _, t := range c.Tokens {
		first, _, ok := strings.Cut(strings.TrimPrefix(t.Name, "--"), "-")
		if ok {
			counts[first]++
		}
	}
	best := most(counts)
	if len(c.Tokens) > 0 && counts[best]*2 > len(c.Tokens) && !slices.Contains([]string{"color", "colors", "space", "spacing", "font", "size"}, best) {
		return best + "-"
	}
	return ""
}
