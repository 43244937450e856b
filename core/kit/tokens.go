package kit

import (
	"fmt"
	"sort"
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
	sort.SliceStable(steps, func(i, j int) bool {
		a, errA := strconv.Atoi(steps[i])
		b, errB := strconv.Atoi(steps[j])
		if errA == nil && errB == nil {
			return a < b
		}
		return steps[i] < steps[j]
	})
	return steps
}

// rawToken is a token before aliases are resolved.
type rawToken struct {
	typ, summary, value, alias string
}

// ReadTokens reads a DTCG document. Themes beyond the base stand in
// $extensions.ubiquant.themes, each a group that overrides by path. prefix names
// the CSS custom properties.
func ReadTokens(src []byte, prefix string) (*Tokens, error) {
	r, err := jsonread.New(src, jsonread.Limits{Bytes: 8 << 20, Depth: 32, Values: 200_000})
	if err != nil {
		return nil, fmt.Errorf("tokens: %w", err)
	}
	base := map[string]rawToken{}
	themes := map[string]map[string]rawToken{}
	var order []string
	if err := readGroup(r, "", "", base, func() error { return readThemes(r, themes, &order, base) }); err != nil {
		return nil, fmt.Errorf("tokens: %w", err)
	}
	if err := r.End(); err != nil {
		return nil, fmt.Errorf("tokens: %w", err)
	}
	if len(order) == 0 {
		order = []string{"light"}
	}
	t := &Tokens{Themes: order, byPath: map[string]int{}}
	paths := make([]string, 0, len(base))
	for p := range base {
		paths = append(paths, p)
	}
	sort.Strings(paths)
	for _, p := range paths {
		raw := base[p]
		tok := Token{Path: p, Type: raw.typ, Summary: raw.summary, Alias: raw.alias, CSS: "--" + prefix + "-" + strings.ReplaceAll(p, ".", "-"), Values: map[string]string{}}
		for _, theme := range order {
			value, err := resolveToken(p, base, themes[theme], nil)
			if err != nil {
				return nil, fmt.Errorf("tokens: %w", err)
			}
			tok.Values[theme] = value
		}
		t.byPath[p] = len(t.List)
		t.List = append(t.List, tok)
	}
	return t, nil
}

func resolveToken(path string, base, theme map[string]rawToken, seen []string) (string, error) {
	for _, s := range seen {
		if s == path {
			return "", fmt.Errorf("%s: its alias leads back to itself (%s)", path, strings.Join(append(seen, path), " → "))
		}
	}
	raw, ok := theme[path]
	if !ok {
		raw, ok = base[path]
	}
	if !ok {
		return "", fmt.Errorf("%s: the alias names a token that does not exist: %s", seen[len(seen)-1], path)
	}
	if raw.alias == "" {
		return raw.value, nil
	}
	return resolveToken(raw.alias, base, theme, append(seen, path))
}

func readThemes(r *jsonread.Reader, themes map[string]map[string]rawToken, order *[]string, base map[string]rawToken) error {
	return r.Object(func(vendor string) error {
		if vendor != "ubiquant" {
			return r.Skip()
		}
		return r.Object(func(key string) error {
			if key != "themes" {
				return r.Skip()
			}
			return r.Object(func(name string) error {
				*order = append(*order, name)
				themes[name] = map[string]rawToken{}
				return readGroup(r, "", "", themes[name], func() error { return r.Skip() })
			})
		})
	})
}

// readGroup reads a group or a token; typ is inherited from the groups above.
// A theme's tokens take their type from how they are written.
func readGroup(r *jsonread.Reader, path, typ string, into map[string]rawToken, extensions func() error) error {
	var tok rawToken
	isToken := false
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "$type":
			typ, err = r.String()
		case "$description":
			tok.summary, err = r.String()
		case "$value":
			isToken = true
			tok.value, tok.alias, err = readTokenValue(r)
		case "$extensions":
			err = extensions()
		default:
			if strings.HasPrefix(key, "$") {
				return r.Skip()
			}
			if strings.ContainsAny(key, ".{}") {
				return r.Fail("names without . { }", "the name %q cannot be referred to", key)
			}
			sub := key
			if path != "" {
				sub = path + "." + key
			}
			err = readGroup(r, sub, typ, into, func() error { return r.Skip() })
		}
		return err
	})
	if err != nil || !isToken {
		return err
	}
	if path == "" {
		return r.Fail("groups of tokens", "a token has no name")
	}
	tok.typ = typ
	into[path] = tok
	return nil
}

// readTokenValue reads a DTCG value as CSS text, or as an alias {path}.
func readTokenValue(r *jsonread.Reader) (css, alias string, err error) {
	switch r.Kind() {
	case '"':
		s, err := r.String()
		if err != nil {
			return "", "", err
		}
		if strings.HasPrefix(s, "{") && strings.HasSuffix(s, "}") {
			return "", s[1 : len(s)-1], nil
		}
		if strings.ContainsAny(s, ";{}<>") {
			return "", "", r.Fail("a value without ; { } < >", "the value %q could break out of the style sheet", s)
		}
		return s, "", nil
	case '0':
		s, err := r.Number()
		return s, "", err
	case '[':
		names, err := r.Strings()
		for i, n := range names {
			if strings.ContainsAny(n, ";{}<>'\"\\") {
				return "", "", r.Fail("plain names", "the name %q could break out of the style sheet", n)
			}
			if strings.Contains(n, " ") {
				names[i] = "'" + n + "'"
			}
		}
		return strings.Join(names, ", "), "", err
	case '{':
		return readCompositeValue(r)
	}
	_, err = r.Raw()
	if err == nil {
		err = r.Fail("a text, a number, a list of names, or an object as DTCG defines it", "the value cannot be used")
	}
	return "", "", err
}

func readCompositeValue(r *jsonread.Reader) (string, string, error) {
	parts := map[string]string{}
	var components []string
	err := r.Object(func(key string) error {
		var err error
		switch {
		case key == "components":
			err = r.Array(func(int) error {
				n, err := r.Number()
				components = append(components, n)
				return err
			})
		default:
			parts[key], _, err = readTokenValue(r)
		}
		return err
	})
	if err != nil {
		return "", "", err
	}
	switch {
	case parts["unit"] != "":
		return parts["value"] + parts["unit"], "", nil
	case parts["hex"] != "" && parts["alpha"] == "":
		return parts["hex"], "", nil
	case len(components) == 3:
		var rgb [3]int
		for i, c := range components {
			f, err := strconv.ParseFloat(c, 64)
			if err != nil || f < 0 || f > 1 {
				return "", "", r.Fail("three numbers from 0 to 1", "the colour component %s is out of range", c)
			}
			rgb[i] = int(f*255 + 0.5)
		}
		alpha := parts["alpha"]
		if alpha == "" {
			alpha = "1"
		}
		return fmt.Sprintf("rgb(%d %d %d / %s)", rgb[0], rgb[1], rgb[2], alpha), "", nil
	case parts["offsetX"] != "":
		return strings.TrimSpace(strings.Join([]string{parts["offsetX"], parts["offsetY"], parts["blur"], parts["spread"], parts["color"]}, " ")), "", nil
	}
	return "", "", r.Fail("a colour, dimension, duration or shadow as DTCG defines it", "the value cannot be used")
}
