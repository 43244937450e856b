package describe

import (
	"bytes"
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"

	"github.com/lucasb-eyer/go-colorful"
	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"

	"ubiquant/core/kit"
)

// Custom is a custom property that a library's styles speak of, and that a page can set.
type Custom struct {
	Name  string   `json:"name"`            // with its dashes
	Value string   `json:"value"`           // as the library has it; empty where it says none
	Dark  string   `json:"dark,omitempty"`  // what it has in dark, where that differs
	Where []string `json:"where,omitempty"` // selectors that set it
}

// maxCustoms bounds what is told of one library.
const maxCustoms = 400

var (
	readsCustom = regexp.MustCompile(`var\(\s*(--[A-Za-z][\w-]*)\s*(?:,\s*((?:[^()]|\([^()]*\))*))?\)`)
	setsCustom  = regexp.MustCompile("(?:^|[{;\"'`\\s])(--[A-Za-z][\\w-]{1,})\\s*:\\s*([^;{}\"'`$]{1,200})[;}]")
)

// Customs lists the custom properties that a library's sheet, or styles inside its module, read or
// set. Of a property that is only read, the value is what stands in for it.
func Customs(sheet, module []byte) []Custom {
	by := map[string]*Custom{}
	var order []string
	at := func(name string) *Custom {
		if by[name] == nil {
			by[name] = &Custom{Name: name}
			order = append(order, name)
		}
		return by[name]
	}
	all, dark := map[string]string{}, map[string]string{}
	eachCustom(sheet, func(selector, name, value string, isDark bool) {
		c := at(name)
		if isDark {
			dark[name] = value
		} else if all[name] == "" {
			all[name] = value
		}
		if len(selector) <= 300 && len(c.Where) < 20 && !slices.Contains(c.Where, selector) {
			c.Where = append(c.Where, selector)
		}
	})
	inside := bytes.ToValidUTF8(module, nil)
	for _, m := range setsCustom.FindAllSubmatch(inside, 4_000) {
		if name := string(m[1]); all[name] == "" {
			at(name)
			all[name] = strings.TrimSpace(string(m[2]))
		}
	}
	for _, src := range [][]byte{sheet, inside} {
		for _, m := range readsCustom.FindAllSubmatch(src, 20_000) {
			name := string(m[1])
			at(name)
			if all[name] == "" {
				all[name] = strings.TrimSpace(string(m[2]))
			}
		}
	}
	both := maps.Clone(all)
	maps.Copy(both, dark)
	out := make([]Custom, 0, len(order))
	for _, name := range order {
		c := by[name]
		c.Value, _ = follow(all[name], all, 0)
		if d, ok := follow(both[name], both, 0); ok && d != c.Value && dark[name] != "" {
			c.Dark = d
		}
		if len(out) < maxCustoms {
			out = append(out, *c)
		}
	}
	return out
}

// eachCustom tells each custom property that a sheet sets, with the selector and whether it is for dark.
func eachCustom(src []byte, tell func(selector, name, value string, dark bool)) {
	p := css.NewParser(parse.NewInputBytes(bytes.ToValidUTF8(src, nil)), false)
	var selector strings.Builder
	var selectors []string
	var medias []bool
	values := func() string {
		var b strings.Builder
		for _, v := range p.Values() {
			b.Write(v.Data)
		}
		return strings.TrimSpace(b.String())
	}
	for {
		kind, _, data := p.Next()
		switch kind {
		case css.ErrorGrammar:
			if !p.HasParseError() {
				return
			}
		case css.BeginAtRuleGrammar:
			text := strings.ReplaceAll(strings.ToLower(values()), " ", "")
			medias = append(medias, strings.Contains(text, "prefers-color-scheme:dark"))
		case css.EndAtRuleGrammar:
			if len(medias) > 0 {
				medias = medias[:len(medias)-1]
			}
		case css.QualifiedRuleGrammar:
			selector.WriteString(values() + ", ")
		case css.BeginRulesetGrammar:
			selectors = append(selectors, selector.String()+values())
			selector.Reset()
		case css.EndRulesetGrammar:
			if len(selectors) > 0 {
				selectors = selectors[:len(selectors)-1]
			}
		case css.CustomPropertyGrammar:
			if len(selectors) == 0 {
				continue
			}
			s := selectors[len(selectors)-1]
			tell(s, string(data), values(), slices.Contains(medias, true) || isDarkSelector(s))
		}
	}
}

// Proposal is a tie that names and colours suggest.
type Proposal struct {
	Custom
	Type      string  `json:"type"` // color, dimension, fontFamily or empty where it cannot be told
	Token     string  `json:"token,omitempty"`
	Certainty float64 `json:"certainty"` // 0 to 1
	Why       string  `json:"why,omitempty"`
}

// meant are words by what they say of a colour, a size or a font.
var meant = map[string][]string{
	"accent":  {"accent", "primary", "brand", "active", "selected", "checked", "highlight", "theme"},
	"ground":  {"background", "bg", "surface", "ground", "canvas", "paper", "sheet", "fill", "panel", "body"},
	"text":    {"text", "foreground", "fg", "ink", "content", "label", "title"},
	"on":      {"on"}, // what stands on something is told by it
	"line":    {"border", "line", "outline", "divider", "stroke", "separator", "rule"},
	"quiet":   {"muted", "secondary", "subtle", "hint", "placeholder", "disabled", "soft", "weak", "faint", "quiet", "dim", "second"},
	"danger":  {"danger", "error", "invalid", "negative", "critical", "wrong", "bad"},
	"success": {"success", "valid", "positive", "good", "ok"},
	"warning": {"warning", "warn", "caution"},
	"info":    {"info", "notice"},
	"hover":   {"hover", "hovered", "over", "press", "pressed"},
	"focus":   {"focus", "ring"},
	"radius":  {"radius", "rounding", "round", "corner", "corners"},
	"font":    {"font", "family", "typeface", "face"},
	"shadow":  {"shadow", "elevation"},
}

var meaning = func() map[string]string {
	out := map[string]string{}
	for what, list := range meant {
		for _, word := range list {
			out[word] = what
		}
	}
	return out
}()

var nameWord = regexp.MustCompile(`[A-Z]?[a-z]+|[0-9]+`)

// meanings are what the words of a name say.
func meanings(name string) map[string]bool {
	out := map[string]bool{}
	for _, w := range nameWord.FindAllString(name, -1) {
		if m := meaning[strings.ToLower(w)]; m != "" {
			out[m] = true
		}
	}
	if out["font"] && colourName.MatchString(name) { // of letters
		delete(out, "font")
		out["text"] = true
	}
	if out["on"] {
		out["text"] = true
	}
	if out["radius"] { // of a border, and none itself
		delete(out, "line")
	}
	return out
}

// hues are meanings that a colour has beyond what it is put to: one is not taken for another.
var hues = []string{"accent", "danger", "success", "warning", "info"}

func otherHue(a, b map[string]bool) bool {
	return slices.ContainsFunc(hues, func(h string) bool { return a[h] != b[h] })
}

// surest is from where a tie is proposed; below it, it is left to people.
const surest = 0.5

// Ties proposes which token of a kit each custom property of a part follows: by what both names mean
// and, of colours, by how near they are in the kit's first theme (CIEDE2000, of which 1 counts as far
// as black is from white).
func Ties(list []Custom, tokens *kit.Tokens) []Proposal {
	theme := tokens.Themes[0]
	out := make([]Proposal, 0, len(list))
	for _, c := range list {
		p := Proposal{Custom: c, Type: tieType(c)}
		means := meanings(c.Name)
		is, isColour := colourOf(c.Value)
		best := 0.0
		for i := range tokens.List {
			t := &tokens.List[i]
			if p.Type == "" || t.Type != p.Type {
				continue
			}
			near := 0.0
			if isColour && p.Type == "color" {
				if to, ok := colourOf(t.Values[theme]); ok {
					near = 1 - math.Min(1, 2*is.DistanceCIEDE2000(to))
				}
			} else if p.Type != "color" && c.Value == t.Values[theme] {
				near = 1
			}
			of := meanings(t.Path)
			shared, all := 0, maps.Clone(means)
			for m := range of {
				if means[m] {
					shared++
				}
				all[m] = true
			}
			name := 0.0
			if len(all) > 0 {
				name = float64(shared) / float64(len(all))
			}
			if near < 0.97 && (shared == 0 || p.Type == "color" && otherHue(means, of)) { // a colour alone says nothing of what it is for
				continue
			}
			if p.Type == "fontFamily" && shared > 0 {
				if name = 1; usualFont.MatchString(t.Path) {
					near = max(near, 0.5)
				}
			}
			if sure := 0.6*name + 0.4*near; sure > best+1e-9 {
				best = sure
				p.Token, p.Certainty = t.Path, math.Round(sure*100)/100
				p.Why = why(shared > 0, near, isColour)
			}
		}
		if p.Certainty < surest {
			p.Token, p.Certainty, p.Why = "", 0, ""
		}
		out = append(out, p)
	}
	return out
}

func why(name bool, near float64, colour bool) string {
	switch {
	case name && near > 0.9:
		return "their names mean the same, and so do their values"
	case name && near > 0 && colour:
		return fmt.Sprintf("their names mean the same; the colours are %.0f %% alike", near*100)
	case name:
		return "their names mean the same"
	}
	return "their values are the same"
}

func colourOf(text string) (colorful.Color, bool) {
	hex, ok := Colour(text)
	if !ok || len(hex) > 7 && hex[7:] != "FF" {
		return colorful.Color{}, false
	}
	c, err := colorful.Hex(hex[:min(len(hex), 7)])
	return c, err == nil
}

var (
	noColour   = regexp.MustCompile(`(?i)(size|weight|transform|width|height|padding|margin|opacity|style|decoration|shadow|spacing|gap|align|duration|index)$`)
	colourName = regexp.MustCompile(`(?i)-?colou?r$`)
	usualFont  = regexp.MustCompile(`(?i)(^|[.-])(body|text|base|sans|ui|default)([.-]|$)`)
)

// tieType tells what kind of token a custom property could follow.
func tieType(c Custom) string {
	if t := tokenType(c.Value); t == "color" {
		return t
	}
	means := meanings(c.Name)
	switch {
	case colourName.MatchString(c.Name):
		return "color"
	case means["font"] && !strings.Contains(c.Name, "size") && !strings.Contains(c.Name, "weight"):
		return "fontFamily"
	case means["radius"] || tokenType(c.Value) == "dimension":
		return "dimension"
	case c.Value == "" && !noColour.MatchString(c.Name) && (means["accent"] || means["ground"] || means["text"] || means["line"] || means["danger"]) ||
		strings.HasPrefix(c.Value, "oklch(") || strings.HasPrefix(c.Value, "lab(") || strings.HasPrefix(c.Value, "color-mix("):
		return "color"
	}
	return ""
}

// TieSheet is the style sheet that makes custom properties follow tokens: for the page, where a theme
// begins, for a part's own elements, and wherever its styles set them. property gives the custom
// property of a token.
func TieSheet(ties []kit.Tie, customs []Custom, tags []string, property func(token string) (string, bool)) string {
	where := map[string][]string{}
	for _, c := range customs {
		where[c.Name] = c.Where
	}
	var order []string
	rules := map[string][]string{}
	for _, t := range ties {
		to, ok := property(t.Token)
		if !ok {
			continue
		}
		selectors := append([]string{":root", "[data-theme]"}, tags...)
		for _, s := range where[t.Property] {
			if s != ":host" && !slices.Contains(selectors, s) && !strings.ContainsAny(s, "{}") {
				selectors = append(selectors, s)
			}
		}
		key := strings.Join(selectors, ",\n")
		if rules[key] == nil {
			order = append(order, key)
		}
		rules[key] = append(rules[key], fmt.Sprintf("  %s: var(%s) !important;\n", t.Property, to))
	}
	var b strings.Builder
	for _, key := range order {
		b.WriteString(key + " {\n" + strings.Join(rules[key], "") + "}\n")
	}
	return b.String()
}
