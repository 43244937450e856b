package kit

import (
	"errors"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/jsonread"
)

// Theme is a theme of the team's own. Where its id is that of a theme of the kit,
// it holds the team's changes to that one.
type Theme struct {
	ID     string
	Name   string
	From   string           // theme of the kit that it starts from; its own id where it changes one
	Making Making           // what it was made with
	Tokens map[string]Value // set one by one, over what the making gives; by path
	By     string
	When   string // YYYY-MM-DD
}

var themeID = regexp.MustCompile(`^[a-z][a-z0-9-]{0,39}$`)

// Check says what keeps a theme from being used with a kit.
func (th *Theme) Check(k *Kit) error {
	if !themeID.MatchString(th.ID) {
		return fmt.Errorf("%q cannot be a theme's id; accepted: lower-case letters, digits and dashes", th.ID)
	}
	own := !slices.Contains(k.Tokens.Themes, th.ID)
	if own && strings.TrimSpace(th.Name) == "" {
		return errors.New("a theme needs a name")
	}
	if !slices.Contains(k.Tokens.Themes, th.From) {
		return fmt.Errorf(
			"there is no theme %q to start from; accepted: %s",
			th.From,
			strings.Join(k.Tokens.Themes, ", "),
		)
	}
	if !own && th.From != th.ID {
		return fmt.Errorf("%s is a theme of the kit: changes to it start from itself", th.ID)
	}
	_, err := k.Tokens.With(k, []Theme{*th})
	return err
}

// With adds themes of the team's own, and its changes to the kit's, to the tokens
// as the kit has them.
func (t *Tokens) With(k *Kit, themes []Theme) (*Tokens, error) {
	if len(themes) == 0 {
		return t, nil
	}
	out := &Tokens{List: slices.Clone(t.List), Themes: slices.Clone(t.Themes), byPath: t.byPath}
	for i := range out.List {
		out.List[i].raw = maps.Clone(out.List[i].raw)
	}
	for i := range themes {
		th := &themes[i]
		if !slices.Contains(t.Themes, th.From) {
			return nil, fmt.Errorf("theme %s: there is no theme %q to start from", th.ID, th.From)
		}
		if !slices.Contains(out.Themes, th.ID) {
			out.Themes = append(out.Themes, th.ID)
			for j := range out.List {
				if v, ok := out.List[j].raw[th.From]; ok {
					out.List[j].raw[th.ID] = v
				}
			}
		}
		set, err := th.Making.values(k, t, th.From)
		if err != nil {
			return nil, fmt.Errorf("theme %s: %w", th.ID, err)
		}
		maps.Copy(set, th.Tokens)
		for path, v := range set {
			tok, ok := out.Find(path)
			if !ok {
				return nil, fmt.Errorf("theme %s: the kit has no token %q", th.ID, path)
			}
			tok.raw[th.ID] = v
		}
	}
	return out, out.settle(func(tok *Token, theme string, err error) error {
		return fmt.Errorf("theme %s: %s: %w", theme, tok.Path, err)
	})
}

// ThemeCSS writes the tokens of one theme as custom properties. The block holds
// all of them, so that it stands on its own wherever its wrapper is put.
func (t *Tokens) ThemeCSS(theme string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "[data-theme~='%s'] {\n", theme)
	for _, tok := range t.List {
		fmt.Fprintf(&b, "  %s: %s;\n", tok.CSS, tok.Values[theme])
	}
	b.WriteString("}\n")
	return b.String()
}

// DTCG writes the tokens of one theme as a Design Tokens document: every token
// with its type, aliases kept. Reading it gives the same theme.
func (t *Tokens) DTCG(theme, description string) []byte {
	type node struct {
		token    *Token
		children map[string]*node
	}
	root := &node{children: map[string]*node{}}
	for i := range t.List {
		at := root
		for _, name := range strings.Split(t.List[i].Path, ".") {
			next := at.children[name]
			if next == nil {
				next = &node{children: map[string]*node{}}
				at.children[name] = next
			}
			at = next
		}
		at.token = &t.List[i]
	}
	var b []byte
	field := func(name string, value []byte) {
		if b[len(b)-1] != '{' {
			b = append(b, ',')
		}
		b, _ = jsontext.AppendQuote(b, name)
		b = append(b, ':')
		b = append(b, value...)
	}
	text := func(s string) []byte { q, _ := jsontext.AppendQuote(nil, s); return q }
	var write func(n *node)
	write = func(n *node) {
		b = append(b, '{')
		if n.token != nil {
			if n.token.Type != "" {
				field("$type", text(n.token.Type))
			}
			field("$value", n.token.written(theme).JSON())
			if n.token.Summary != "" {
				field("$description", text(n.token.Summary))
			}
		}
		if n == root && description != "" {
			field("$description", text(description))
		}
		for _, name := range slices.Sorted(maps.Keys(n.children)) {
			field(name, nil)
			write(n.children[name])
		}
		b = append(b, '}')
	}
	write(root)
	v := jsontext.Value(b)
	if err := v.Indent(jsontext.WithIndent("  ")); err != nil {
		return b // what was written is JSON; a compact one at worst
	}
	return append(v, '\n')
}

// ReadTheme reads a Design Tokens document as a theme of the kit: what differs
// from the theme it starts from is set. Types must be the kit's; a token that the
// kit does not have is refused with its path.
func (k *Kit) ReadTheme(src []byte, from string) (map[string]Value, error) {
	read, err := ReadTokens(src, k.Prefix)
	if err != nil {
		return nil, err
	}
	out := map[string]Value{}
	for i := range read.List {
		tok := &read.List[i]
		have, ok := k.Tokens.Find(tok.Path)
		line, column := jsonread.Position(src, tok.at[baseTheme])
		where := &jsonread.Error{Pointer: pointer(tok.Path), Line: line, Column: column}
		if !ok {
			where.Message, where.Accepts = fmt.Sprintf(
				"%s has no token %s",
				k.Title,
				tok.Path,
			), "paths of the kit's tokens"
			return nil, fmt.Errorf("tokens: %w", where)
		}
		if tok.Type != "" && have.Type != "" && tok.Type != have.Type {
			where.Message, where.Accepts = fmt.Sprintf("%s is of type %s here", tok.Path, tok.Type), have.Type
			return nil, fmt.Errorf("tokens: %w", where)
		}
		if v := tok.written(baseTheme); !v.equal(have.written(from)) {
			out[tok.Path] = v
		}
	}
	return out, nil
}

// ReadOverrides reads tokens by path, as a workspace holds them.
func ReadOverrides(r *jsonread.Reader) (map[string]Value, error) {
	out := map[string]Value{}
	err := r.Object(func(path string) error {
		v, err := readValue(r)
		out[path] = v
		return err
	})
	return out, err
}
