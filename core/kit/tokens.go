package kit

import (
	"errors"
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/jsonread"
)

// Token is one named design decision with its value in each theme.
type Token struct {
	Path    string            `json:"path"` // "color.accent"
	Type    string            `json:"type"` // DTCG type
	Summary string            `json:"summary,omitempty"`
	CSS     string            `json:"css"`    // the custom property's name
	Values  map[string]string `json:"values"` // theme -> CSS value, aliases resolved
	Alias   string            `json:"alias,omitempty"`

	raw map[string]Value // as written, by theme; a theme without one has the base's
	at  map[string]int64 // where it is written, by theme, in bytes
}

// Tokens are a kit's tokens in path order, and its themes; the first is the base.
type Tokens struct {
	List   []Token  `json:"list"`
	Themes []string `json:"themes"`

	byPath map[string]int
}

// Find returns the token at path.
func (t *Tokens) Find(path string) (*Token, bool) {
	if t == nil {
		return nil, false
	}
	i, ok := t.byPath[path]
	if !ok {
		return nil, false
	}
	return &t.List[i], true
}

// Steps lists the names inside one group, numbers in their order.
func (t *Tokens) Steps(group string) []string {
	var steps []string
	if t == nil {
		return steps
	}
	for _, tok := range t.List {
		if rest, ok := strings.CutPrefix(tok.Path, group+"."); ok {
			steps = append(steps, rest)
		}
	}
	slices.SortStableFunc(steps, func(p, q string) int {
		a, errA := strconv.Atoi(p)
		b, errB := strconv.Atoi(q)
		if errA == nil && errB == nil {
			return a - b
		}
		return strings.Compare(p, q)
	})
	return steps
}

// NearestStep is the step of a group whose length is nearest to one in px; of two equally
// near the one of that name. It is empty where the group has none.
func (t *Tokens) NearestStep(group string, px float64, name string) string {
	best, distance := "", 0.0
	for _, step := range t.Steps(group) {
		tok, _ := t.Find(group + "." + step)
		d := math.Abs(Pixels(tok.Values[t.Themes[0]]) - px)
		if best == "" || d < distance || d == distance && step == name {
			best, distance = step, d
		}
	}
	return best
}

// tokenLimits bound a token file.
var tokenLimits = jsonread.Limits{Bytes: 8 << 20, Depth: 32, Values: 200_000}

// ReadTokens reads a DTCG document. Themes beyond the base stand in
// $extensions.ubiquant.themes, each a group that overrides by path. prefix names
// the CSS custom properties. Errors say at which path, line and column.
func ReadTokens(src []byte, prefix string) (*Tokens, error) {
	t, err := readTokens(src, prefix)
	if err != nil {
		return nil, fmt.Errorf("tokens: %w", err)
	}
	return t, nil
}

func readTokens(src []byte, prefix string) (*Tokens, error) {
	r, err := jsonread.New(src, tokenLimits)
	if err != nil {
		return nil, err
	}
	f := tokenFile{r: r, tokens: map[string]*Token{}}
	if err := f.group("", "", ""); err != nil {
		return nil, err
	}
	if err := r.End(); err != nil {
		return nil, err
	}
	if len(f.themes) == 0 {
		f.themes = []string{"light"}
	}
	t := &Tokens{Themes: f.themes}
	for _, path := range slices.Sorted(maps.Keys(f.tokens)) {
		tok := f.tokens[path]
		if tok.CSS == "" {
			tok.CSS = "--" + prefix + "-" + strings.ReplaceAll(path, ".", "-")
		}
		t.List = append(t.List, *tok)
	}
	for _, o := range f.overrides {
		tok, ok := f.tokens[o.path]
		if !ok {
			return nil, r.FailAt(
				pointer(o.path),
				o.at,
				"paths of the base",
				"the theme %s sets a token that does not exist: %s",
				o.theme,
				o.path,
			)
		}
		tok.raw[o.theme], tok.at[o.theme] = o.value, o.at
	}
	t.index()
	return t, t.settle(func(tok *Token, theme string, err error) error {
		at, ok := tok.at[theme]
		if !ok {
			at = tok.at[baseTheme]
		}
		var v *valueError
		if errors.As(err, &v) {
			return r.FailAt(
				pointer(tok.Path),
				at,
				v.accepts,
				"%s",
				strings.TrimSuffix(err.Error(), "; accepted: "+v.accepts),
			)
		}
		return r.FailAt(pointer(tok.Path), at, "", "%s", err)
	})
}

func pointer(path string) string { return "/" + strings.ReplaceAll(path, ".", "/") }

func (t *Tokens) index() {
	t.byPath = make(map[string]int, len(t.List))
	for i, tok := range t.List {
		t.byPath[tok.Path] = i
	}
}

// baseTheme is under which the values of no theme in particular are kept.
const baseTheme = ""

// settle computes the CSS values of every theme from what is written.
func (t *Tokens) settle(fail func(tok *Token, theme string, err error) error) error {
	for i := range t.List {
		tok := &t.List[i]
		tok.Values = make(map[string]string, len(t.Themes))
		tok.Alias, _ = tok.raw[baseTheme].Alias()
		for _, theme := range t.Themes {
			v, err := t.resolved(tok.Path, theme)
			if err == nil {
				tok.Values[theme], err = v.css(tok.Type)
			}
			if err != nil {
				return fail(tok, theme, err)
			}
		}
	}
	return nil
}

// written is a token's value as written for a theme.
func (t *Token) written(theme string) Value {
	if v, ok := t.raw[theme]; ok {
		return v
	}
	return t.raw[baseTheme]
}

// resolved is a token's value with every alias in it followed.
func (t *Tokens) resolved(path, theme string) (Value, error) {
	size := 0
	tok, ok := t.Find(path)
	if !ok {
		return Value{}, refuse("paths of tokens", "there is no token %q", path)
	}
	return t.follow(tok.written(theme), theme, []string{path}, &size)
}

// maxValueSize bounds a value once its aliases are followed: a few aliases of
// lists of aliases would otherwise grow without end.
const maxValueSize = 500

func (t *Tokens) follow(v Value, theme string, seen []string, size *int) (Value, error) {
	if *size++; *size > maxValueSize {
		return v, refuse(
			fmt.Sprintf("at most %d parts", maxValueSize),
			"with its aliases followed the value is too large",
		)
	}
	var err error
	switch v.kind {
	case '@':
		if slices.Contains(seen, v.text) {
			return v, refuse("", "its alias leads back to itself (%s)", strings.Join(append(seen, v.text), " → "))
		}
		tok, ok := t.Find(v.text)
		if !ok {
			return v, refuse("paths of tokens", "the alias names a token that does not exist: %s", v.text)
		}
		return t.follow(tok.written(theme), theme, append(seen, v.text), size)
	case '[':
		v.list = slices.Clone(v.list)
		for i := range v.list {
			if v.list[i], err = t.follow(v.list[i], theme, seen, size); err != nil {
				return v, err
			}
		}
	case '{':
		v.parts = slices.Clone(v.parts)
		for i := range v.parts {
			if v.parts[i].Value, err = t.follow(v.parts[i].Value, theme, seen, size); err != nil {
				return v, err
			}
		}
	}
	return v, nil
}

// Reached lists the tokens whose value depends on one of those at paths, in any
// theme, with those themselves.
func (t *Tokens) Reached(paths ...string) []string {
	reached := map[string]bool{}
	for _, p := range paths {
		reached[p] = true
	}
	for grown := true; grown; {
		grown = false
		for i := range t.List {
			tok := &t.List[i]
			if reached[tok.Path] {
				continue
			}
			for _, v := range tok.raw {
				if v.mentions(reached) {
					reached[tok.Path], grown = true, true
					break
				}
			}
		}
	}
	return slices.Sorted(maps.Keys(reached))
}

func (v Value) mentions(paths map[string]bool) bool {
	if v.kind == '@' {
		return paths[v.text]
	}
	return slices.ContainsFunc(v.list, func(i Value) bool { return i.mentions(paths) }) ||
		slices.ContainsFunc(v.parts, func(p part) bool { return p.Value.mentions(paths) })
}

// tokenFile is a DTCG document being read.
type tokenFile struct {
	r         *jsonread.Reader
	tokens    map[string]*Token
	themes    []string
	theme     string // whose group is being read
	overrides []override
}

type override struct {
	theme, path string
	value       Value
	at          int64
}

// group reads a group or a token; its type is inherited from the groups above.
func (f *tokenFile) group(path, typ, summary string) error {
	r := f.r
	var value Value
	var property string
	at := r.Offset()
	isToken, late := false, false // late: its type stands after what inherits it
	sub := 0
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "$type":
			late = sub > 0
			if typ, err = r.String(); err == nil && !slices.Contains(tokenTypes, typ) {
				err = r.Fail(strings.Join(tokenTypes, ", "), "the type %q is not known", typ)
			}
		case "$description":
			summary, err = r.String()
		case "$value":
			isToken = true
			value, err = readValue(r)
		case "$extensions":
			if path == "" && f.theme == "" {
				return f.extensions()
			}
			property, err = f.property()
		case "$deprecated":
			err = r.Skip()
		case "$extends", "$root", "$ref":
			err = r.Fail("$type, $value, $description, $deprecated, $extensions", "%s is not read here", key)
		default:
			if strings.HasPrefix(key, "$") {
				return r.Skip()
			}
			if key == "" || strings.ContainsAny(key, ".{}") {
				return r.Fail("names without . { }", "the name %q cannot be referred to", key)
			}
			sub++
			err = f.group(strings.TrimPrefix(path+"."+key, "."), typ, "")
		}
		return err
	})
	if late && err == nil {
		for p, tok := range f.tokens {
			if tok.Type == "" && (path == "" || strings.HasPrefix(p, path+".")) {
				tok.Type = typ
			}
		}
	}
	if err != nil || !isToken {
		return err
	}
	switch {
	case path == "":
		return r.Fail("groups of tokens", "a token has no name")
	case sub > 0:
		return r.Fail("a token or a group", "%s is both a token and a group", path)
	case !cssName(path):
		return r.Fail("letters, digits, - and _", "the path %q cannot name a custom property", path)
	case f.theme != "":
		f.overrides = append(f.overrides, override{f.theme, path, value, at})
		return nil
	}
	f.tokens[path] = &Token{
		Path:    path,
		Type:    typ,
		Summary: summary,
		CSS:     property,
		raw:     map[string]Value{baseTheme: value},
		at:      map[string]int64{baseTheme: at},
	}
	return nil
}

// cssName reports whether a path can stand in a custom property's name as it is.
func cssName(path string) bool {
	return !strings.ContainsFunc(path, func(c rune) bool {
		return c < 0x80 &&
			!(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '-' || c == '_' || c == '.')
	})
}

func (f *tokenFile) extensions() error {
	r := f.r
	return r.Object(func(vendor string) error {
		if vendor != "ubiquant" {
			return r.Skip()
		}
		return r.Object(func(key string) error {
			if key != "themes" {
				return r.Skip()
			}
			return r.Object(func(name string) error {
				if !themeID.MatchString(name) {
					return r.Fail("lower-case letters, digits and dashes", "%q cannot be a theme's name", name)
				}
				f.themes = append(f.themes, name)
				f.theme = name
				defer func() { f.theme = "" }()
				return f.group("", "", "")
			})
		})
	})
}

// property reads the custom property that a token stands for, where it is not made of its
// path: $extensions.ubiquant.property.
func (f *tokenFile) property() (name string, err error) {
	r := f.r
	err = r.Object(func(vendor string) error {
		if vendor != "ubiquant" {
			return r.Skip()
		}
		return r.Object(func(key string) error {
			if key != "property" {
				return r.Skip()
			}
			var err error
			if name, err = r.String(); err == nil && !customProperty.MatchString(name) {
				err = r.Fail("two dashes, then letters, digits, - and _", "%q is no custom property", name)
			}
			return err
		})
	})
	return name, err
}

var customProperty = regexp.MustCompile(`^--[A-Za-z0-9_-]+$`)

var mention = regexp.MustCompile(`(?:^|[^-\w])(?:var\(\s*)(--[\w-]+)`)

// Mentioned lists the custom properties whose values a style sheet uses.
func Mentioned(sheet []byte) []string {
	out := []string{}
	for _, m := range mention.FindAllSubmatch(sheet, -1) {
		if name := string(m[1]); !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}
