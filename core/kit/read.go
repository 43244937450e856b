package kit

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/jsonread"
)

// limits of a manifest or of notes: large libraries have some hundred components.
var limits = jsonread.Limits{Bytes: 32 << 20, Depth: 64, Values: 2_000_000}

// Sources are what a kit is read from; all but the manifest, or the components, may be
// empty.
type Sources struct {
	Name, Version string
	Title         string
	Drawn         string // how its components are drawn, where they are no elements
	Prefix        string // of custom properties
	Manifest      []byte
	Components    []*Component // described elsewhere, in place of a manifest
	Families      []Family
	Notes         []byte
	Tokens        []byte
	Icons         []byte
}

// Read builds a kit. Errors say which text, where in it, and what would be accepted.
func Read(s Sources) (*Kit, error) {
	k := &Kit{
		Name: s.Name, Version: s.Version, Title: cmp.Or(s.Title, s.Name), Prefix: cmp.Or(s.Prefix, "kit"),
		Drawn: s.Drawn, Components: s.Components, Families: s.Families, Icons: []Icon{},
	}
	if k.Drawn == "elements" {
		k.Drawn = ""
	}
	if s.Components == nil {
		if err := k.readManifest(s.Manifest); err != nil {
			return nil, fmt.Errorf("manifest: %w", err)
		}
	}
	if len(s.Notes) > 0 {
		if err := k.readNotes(s.Notes); err != nil {
			return nil, fmt.Errorf("kit notes: %w", err)
		}
	}
	if len(k.Families) == 0 {
		k.Families = []Family{{ID: "all", Name: "Components"}}
		for _, c := range k.Components {
			c.Family = "all"
		}
	}
	k.Tokens = &Tokens{Themes: []string{"light"}, byPath: map[string]int{}}
	if len(s.Tokens) > 0 {
		tokens, err := ReadTokens(s.Tokens, k.Prefix)
		if err != nil {
			return nil, err
		}
		k.Tokens = tokens
	}
	if k.Roles != nil {
		if err := k.Roles.check(k.Tokens); err != nil {
			return nil, fmt.Errorf("kit notes: %w", err)
		}
	}
	if len(s.Icons) > 0 {
		if err := k.readIcons(s.Icons); err != nil {
			return nil, fmt.Errorf("icons: %w", err)
		}
	}
	k.finish()
	for i := range k.Snippets {
		if err := k.Snippets[i].check(k); err != nil {
			return nil, fmt.Errorf("kit notes: %w", err)
		}
	}
	if len(k.Snippets) == 0 {
		k.arrange()
	}
	return k, nil
}

var tagPattern = regexp.MustCompile(`^[a-z][a-z0-9._]*-[a-z0-9._-]*$`)

func (k *Kit) readManifest(src []byte) error {
	r, err := jsonread.New(src, limits)
	if err != nil {
		return err
	}
	hasModules := false
	err = r.Object(func(key string) error {
		if key != "modules" {
			return r.Skip()
		}
		hasModules = true
		return r.Array(func(int) error {
			module, first := "", len(k.Components)
			err := r.Object(func(key string) error {
				var err error
				switch key {
				case "path":
					module, err = r.String()
				case "declarations":
					err = r.Array(func(int) error { return k.readDeclaration(r) })
				default:
					err = r.Skip()
				}
				return err
			})
			for _, c := range k.Components[first:] {
				c.Module = module
			}
			return err
		})
	})
	if err != nil {
		return err
	}
	if err := r.End(); err != nil {
		return err
	}
	if !hasModules {
		return errors.New(
			"the document: it has no modules; accepted: a Custom Elements Manifest with a list \"modules\"",
		)
	}
	if len(k.Components) == 0 {
		return errors.New("/modules: no custom element is declared; accepted: declarations with a tagName")
	}
	return nil
}

func (k *Kit) readDeclaration(r *jsonread.Reader) error {
	c := &Component{Level: Basic, Props: []Prop{}, Slots: []Slot{}}
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "tagName":
			if c.Tag, err = r.String(); err == nil && !tagPattern.MatchString(c.Tag) {
				err = r.Fail("a lower-case name with a dash, as custom elements need", "%q cannot be a tag", c.Tag)
			}
		case "name":
			c.Class, err = r.String()
		case "description", "summary":
			var s string
			if s, err = r.String(); key == "summary" || c.Summary == "" {
				c.Summary = s
			}
		case "deprecated":
			c.Deprecated, err = readDeprecated(r)
		case "members":
			err = r.Array(func(int) error { return c.readMember(r) })
		case "slots":
			err = r.Array(func(int) error {
				n, err := readNamed(r)
				if err == nil {
					c.Slots = append(c.Slots, Slot{Name: n.Name, Summary: n.Summary, Text: n.Name == ""})
				}
				return err
			})
		case "events":
			c.Events, err = readNamedList(r)
		case "cssProperties":
			var list []Named
			list, err = readNamedList(r)
			for _, n := range list {
				c.Tokens = append(c.Tokens, n.Name)
			}
		case "inside": // not of the standard: our analyzer adds it
			c.Inside, err = r.Strings()
		case "cssParts":
			c.Parts, err = readNamedList(r)
		default:
			err = r.Skip()
		}
		return err
	})
	if err != nil || c.Tag == "" {
		return err
	}
	for _, other := range k.Components {
		if other.Tag == c.Tag {
			return r.Fail("each tag once", "the tag %q is declared twice", c.Tag)
		}
	}
	_, short, _ := strings.Cut(c.Tag, "-")
	c.Title = strings.ReplaceAll(short, "-", " ")
	k.Components = append(k.Components, c)
	return nil
}

func readDeprecated(r *jsonread.Reader) (string, error) {
	if r.Kind() == '"' {
		return r.String()
	}
	yes, err := r.Bool()
	if err != nil || !yes {
		return "", err
	}
	return "Deprecated.", nil
}

func readNamed(r *jsonread.Reader) (n Named, err error) {
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "name":
			n.Name, err = r.String()
		case "description":
			n.Summary, err = r.String()
		default:
			err = r.Skip()
		}
		return err
	})
	return n, err
}

func readNamedList(r *jsonread.Reader) (list []Named, err error) {
	err = r.Array(func(int) error {
		n, err := readNamed(r)
		list = append(list, n)
		return err
	})
	return list, err
}

func (c *Component) readMember(r *jsonread.Reader) error {
	var p Prop
	var kind, typ, privacy string
	static, readonly, hasAttr := false, false, false
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "kind":
			kind, err = r.String()
		case "name":
			p.Name, err = r.String()
		case "privacy":
			privacy, err = r.String()
		case "static":
			static, err = r.Bool()
		case "readonly":
			readonly, err = r.Bool()
		case "attribute":
			hasAttr = true
			if r.Kind() == '"' {
				p.Attr, err = r.String()
			} else {
				err = r.Skip()
			}
		case "description", "summary":
			p.Summary, err = r.String()
		case "default":
			p.Default, err = r.String()
		case "deprecated":
			p.Deprecated, err = readDeprecated(r)
		case "required":
			p.Required, err = r.Bool()
		case "type":
			err = r.Object(func(key string) error {
				if key != "text" {
					return r.Skip()
				}
				var err error
				typ, err = r.String()
				return err
			})
		default:
			err = r.Skip()
		}
		return err
	})
	if err != nil || kind != "field" || static || readonly || !hasAttr || privacy == "private" ||
		privacy == "protected" {
		return err
	}
	if p.Attr == "" {
		p.Attr = strings.ToLower(p.Name)
	}
	if !attrPattern.MatchString(p.Attr) {
		return r.Fail("letters, digits and dashes", "%q cannot be an attribute", p.Attr)
	}
	var optional bool
	p.Type, p.Values, optional = ParseType(typ)
	p.Default = unquote(p.Default)
	if p.Type == Enum && !slices.Contains(p.Values, p.Default) {
		p.Default = ""
	}
	if optional {
		p.Required = false
	}
	p.URL = urlNames[p.Name]
	if i := slices.IndexFunc(c.Props, func(q Prop) bool { return q.Name == p.Name }); i >= 0 {
		c.Props[i] = p
	} else {
		c.Props = append(c.Props, p)
	}
	return nil
}

var attrPattern = regexp.MustCompile(`^[a-z][a-z0-9-]*$`)

// urlNames are prop names that hold an address by convention.
var urlNames = map[string]bool{"href": true, "src": true, "to": true, "url": true, "poster": true, "srcset": true}

func unquote(s string) string {
	s = strings.TrimSpace(s)
	if len(s) >= 2 && strings.ContainsRune(`'"`+"`", rune(s[0])) && s[len(s)-1] == s[0] {
		return s[1 : len(s)-1]
	}
	if s == "undefined" || s == "null" {
		return ""
	}
	return s
}

// ParseType reads a TypeScript type text: unions of quoted texts or of numbers
// become an enumeration; what cannot be told is a text. optional is set where
// undefined or null is one of the alternatives.
func ParseType(text string) (t Type, values []string, optional bool) {
	var parts []string
	depth, quote, start := 0, byte(0), 0
	for i := 0; i < len(text); i++ {
		switch c := text[i]; {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '\'' || c == '"' || c == '`':
			quote = c
		case c == '(' || c == '<' || c == '{' || c == '[':
			depth++
		case c == ')' || c == '>' || c == '}' || c == ']':
			depth--
		case c == '|' && depth == 0:
			parts = append(parts, text[start:i])
			start = i + 1
		}
	}
	parts = append(parts, text[start:])
	kinds := map[Type]int{}
	for _, p := range parts {
		p = strings.TrimSpace(p)
		switch {
		case p == "":
		case p == "undefined" || p == "null":
			optional = true
		case p == "boolean" || p == "true" || p == "false":
			kinds[Bool]++
		case p == "number":
			kinds[Number]++
		case len(p) >= 2 && (p[0] == '\'' || p[0] == '"') && p[len(p)-1] == p[0]:
			kinds[Enum]++
			values = append(values, p[1:len(p)-1])
		default:
			if _, err := strconv.ParseFloat(p, 64); err == nil {
				kinds[Enum]++
				values = append(values, p)
			} else {
				kinds[Text]++
			}
		}
	}
	switch {
	case len(kinds) != 1:
		return Text, nil, optional
	case kinds[Enum] > 0:
		return Enum, values, optional
	case kinds[Bool] > 0:
		return Bool, nil, optional
	case kinds[Number] > 0:
		return Number, nil, optional
	}
	return Text, nil, optional
}

// Noted lists the components that kit notes speak of.
func Noted(notes []byte) map[string]bool {
	out := map[string]bool{}
	var raw struct{ Components map[string]json.RawMessage }
	if json.Unmarshal(notes, &raw) == nil { // Read says what is wrong with them
		for tag := range raw.Components {
			out[tag] = true
		}
	}
	return out
}

func (k *Kit) readIcons(src []byte) error {
	r, err := jsonread.New(src, limits)
	if err != nil {
		return err
	}
	err = r.Array(func(int) error {
		var icon Icon
		err := r.Object(func(key string) error {
			var err error
			switch key {
			case "name":
				icon.Name, err = r.String()
			case "meanings":
				icon.Meanings, err = r.Strings()
			default:
				err = r.Skip()
			}
			return err
		})
		k.Icons = append(k.Icons, icon)
		return err
	})
	if err != nil {
		return err
	}
	return r.End()
}
