package workspace

import (
	"encoding/base64"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/jsonread"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Own is what a team adds to the kit: themes and changes to the kit's, icons, fonts,
// and which of the kit's entries it does not take.
type Own struct {
	Themes  []kit.Theme
	Icons   []kit.OwnIcon
	Fonts   []kit.Font
	LeftOut []LeftOut
}

// LeftOut is an entry of the kit that the team does not use.
type LeftOut struct {
	Tag    string
	Reason string
	By     string
	When   string
}

func (o Own) clone() Own {
	return Own{slices.Clone(o.Themes), slices.Clone(o.Icons), slices.Clone(o.Fonts), slices.Clone(o.LeftOut)}
}

// Dress is the kit as the team has it. What no longer fits the kit is left out and
// told, so that nothing else is lost with it.
func (o Own) Dress(bare *kit.Kit) (*kit.Kit, []error) {
	left := make(map[string]string, len(o.LeftOut))
	for _, l := range o.LeftOut {
		left[l.Tag] = l.Reason
	}
	if k, err := bare.With(o.Themes, o.Icons, left); err == nil {
		return k, nil
	}
	var fitting []kit.Theme
	var problems []error
	for _, t := range o.Themes {
		if err := t.Check(bare); err != nil {
			problems = append(
				problems,
				fmt.Errorf("the theme %s does not fit %s %s: %w", t.ID, bare.Title, bare.Version, err),
			)
			continue
		}
		fitting = append(fitting, t)
	}
	k, err := bare.With(fitting, o.Icons, left)
	if err != nil { // each fits alone, so together they do as well
		return bare, append(problems, err)
	}
	return k, problems
}

// Theme finds a theme of the team's own, or its changes to one of the kit's.
func (o Own) Theme(id string) (*kit.Theme, bool) {
	i := slices.IndexFunc(o.Themes, func(t kit.Theme) bool { return t.ID == id })
	if i < 0 {
		return nil, false
	}
	return &o.Themes[i], true
}

// Faces are the style rules that make the team's fonts known.
func (o Own) Faces(base string) string {
	var b strings.Builder
	for i := range o.Fonts {
		b.WriteString(o.Fonts[i].Face(base))
	}
	return b.String()
}

// read reads the key of a workspace that belongs here.
func (o *Own) read(r *jsonread.Reader, key string) error {
	return r.Array(func(int) error {
		var err error
		switch key {
		case "themes":
			var t kit.Theme
			t, err = ReadTheme(r)
			o.Themes = append(o.Themes, t)
		case "icons":
			var i kit.OwnIcon
			if i, err = readIcon(r); err == nil && i.SVG == "" {
				err = r.Fail("an icon with svg", "the icon %q has no picture", i.Name)
			}
			o.Icons = append(o.Icons, i)
		case "fonts":
			var f *kit.Font
			if f, err = readFont(r); err == nil {
				o.Fonts = append(o.Fonts, *f)
			}
		default:
			var l LeftOut
			err = readStrings(r, leftFields(&l))
			o.LeftOut = append(o.LeftOut, l)
		}
		return err
	})
}

func (o *Own) write(out *screen.Writer) {
	list := func(key string, n int, each func(i int)) {
		if n == 0 {
			return
		}
		out.Key(key)
		out.Open('[')
		for i := range n {
			each(i)
		}
		out.Close(']')
	}
	list("themes", len(o.Themes), func(i int) { writeTheme(out, &o.Themes[i]) })
	list("icons", len(o.Icons), func(i int) { writeIcon(out, &o.Icons[i]) })
	list("fonts", len(o.Fonts), func(i int) { writeFont(out, &o.Fonts[i]) })
	list("leftOut", len(o.LeftOut), func(i int) {
		writeStrings(out, leftFields(&o.LeftOut[i]), "tag", "reason", "by", "when")
	})
}

func leftFields(l *LeftOut) map[string]*string {
	return map[string]*string{"tag": &l.Tag, "reason": &l.Reason, "by": &l.By, "when": &l.When}
}

// ReadTheme reads a theme as a workspace or a change holds it.
func ReadTheme(r *jsonread.Reader) (kit.Theme, error) {
	var t kit.Theme
	texts := map[string]*string{"id": &t.ID, "name": &t.Name, "from": &t.From, "by": &t.By, "when": &t.When}
	err := r.Object(func(key string) error {
		var err error
		if target, ok := texts[key]; ok {
			*target, err = r.String()
			return err
		}
		switch key {
		case "making":
			t.Making, err = readMaking(r)
		case "tokens":
			t.Tokens, err = kit.ReadOverrides(r)
		default:
			err = r.Unknown(key, append(slices.Sorted(maps.Keys(texts)), "making", "tokens")...)
		}
		return err
	})
	return t, err
}

func readMaking(r *jsonread.Reader) (m kit.Making, err error) {
	texts := map[string]*string{
		"accent":  &m.Accent,
		"ground":  &m.Ground,
		"density": &m.Density,
		"font":    &m.Font,
		"heading": &m.Heading,
	}
	err = r.Object(func(key string) error {
		var err error
		if target, ok := texts[key]; ok {
			*target, err = r.String()
			return err
		}
		switch key {
		case "radius":
			var n int
			n, err = r.Int()
			m.Radius = &n
		case "step":
			m.Step, err = r.Int()
		case "size":
			var n string
			if n, err = r.Number(); err == nil {
				m.Size, err = strconv.ParseFloat(n, 64)
			}
		default:
			err = r.Unknown(key, append(slices.Sorted(maps.Keys(texts)), "radius", "step", "size")...)
		}
		return err
	})
	return m, err
}

func writeTheme(out *screen.Writer, t *kit.Theme) {
	out.Open('{')
	out.Field("id", t.ID)
	out.Field("name", t.Name)
	out.Field("from", t.From)
	if m := t.Making; m != (kit.Making{}) {
		out.Key("making")
		out.Open('{')
		out.Field("accent", m.Accent)
		out.Field("ground", m.Ground)
		if m.Radius != nil {
			out.Key("radius")
			out.Raw(strconv.Itoa(*m.Radius))
		}
		out.Int("step", m.Step)
		out.Field("density", m.Density)
		out.Field("font", m.Font)
		out.Field("heading", m.Heading)
		if m.Size != 0 {
			out.Key("size")
			out.Raw(strconv.FormatFloat(m.Size, 'g', -1, 64))
		}
		out.Close('}')
	}
	if len(t.Tokens) > 0 {
		out.Key("tokens")
		out.Open('{')
		for _, path := range slices.Sorted(maps.Keys(t.Tokens)) {
			out.Key(path)
			out.Raw(string(t.Tokens[path].JSON()))
		}
		out.Close('}')
	}
	out.Field("by", t.By)
	out.Field("when", t.When)
	out.Close('}')
}

func readIcon(r *jsonread.Reader) (kit.OwnIcon, error) {
	var i kit.OwnIcon
	texts := map[string]*string{"name": &i.Name, "svg": &i.SVG, "by": &i.By, "when": &i.When}
	err := r.Object(func(key string) error {
		var err error
		if target, ok := texts[key]; ok {
			*target, err = r.String()
		} else if key == "meanings" {
			i.Meanings, err = r.Strings()
		} else {
			err = r.Unknown(key, append(slices.Sorted(maps.Keys(texts)), "meanings")...)
		}
		return err
	})
	if err == nil && i.SVG != "" { // to take one away its name will do
		// What is kept is always the plain form, whoever wrote the file.
		if i.SVG, err = kit.ReadSVG([]byte(i.SVG)); err != nil {
			err = r.Fail("", "the icon %q: %s", i.Name, err)
		}
	}
	return i, err
}

func writeIcon(out *screen.Writer, i *kit.OwnIcon) {
	out.Open('{')
	out.Field("name", i.Name)
	if len(i.Meanings) > 0 {
		out.Key("meanings")
		out.Open('[')
		for _, m := range i.Meanings {
			out.String(m)
		}
		out.Close(']')
	}
	out.Field("svg", i.SVG)
	out.Field("by", i.By)
	out.Field("when", i.When)
	out.Close('}')
}

// readFont reads a font; family, weight and slant are read from its file again.
func readFont(r *jsonread.Reader) (*kit.Font, error) {
	var data, by, when string
	if err := readStrings(r, map[string]*string{"data": &data, "by": &by, "when": &when}); err != nil {
		return nil, err
	}
	file, err := base64.StdEncoding.DecodeString(data)
	if err != nil {
		return nil, r.Fail("a WOFF2 file as base64", "the font's data is not base64")
	}
	f, err := kit.ReadFont(file)
	if err != nil {
		return nil, r.Fail("", "%s", err)
	}
	f.By, f.When = by, when
	return f, nil
}

func writeFont(out *screen.Writer, f *kit.Font) {
	out.Open('{')
	out.Field("data", base64.StdEncoding.EncodeToString(f.Data))
	out.Field("by", f.By)
	out.Field("when", f.When)
	out.Close('}')
}

// put sets an item of a list by its key, or takes it away, and gives what was there.
func put[T any](list *[]T, key func(*T) string, item *T, drop bool) (before *T) {
	i := slices.IndexFunc(*list, func(o T) bool { return key(&o) == key(item) })
	if i >= 0 {
		old := (*list)[i]
		before = &old
	}
	switch {
	case drop && i >= 0:
		*list = slices.Delete(*list, i, i+1)
	case !drop && i >= 0:
		(*list)[i] = *item
	case !drop:
		*list = append(*list, *item)
		slices.SortStableFunc(*list, func(a, b T) int { return strings.Compare(key(&a), key(&b)) })
	}
	return before
}

// undoPut notes the step that brings an item back to what it was.
func undoPut(t *Taken, putting, dropping Do, s Step, existed bool) {
	s.Do = putting
	if !existed {
		s.Do = dropping
	}
	t.undo(s)
}

func (w *Workspace) ownStep(s Step, cat kit.Catalog, t *Taken) error {
	full, ok := cat.(interface{ Bare() *kit.Kit })
	if !ok {
		return errors.New("there is no kit to change")
	}
	k := full.Bare()
	t.Rules, t.Dress = true, true
	drop := s.Do == DropTheme || s.Do == DropIcon || s.Do == DropFont || s.Do == TakeIn
	gone := func(what, id string) error {
		return fmt.Errorf("there is no %s %q of the team's own", what, id)
	}
	switch s.Do {
	case PutTheme, DropTheme:
		if s.Theme == nil {
			return errors.New("no theme is given")
		}
		if !drop {
			if err := s.Theme.Check(k); err != nil {
				return err
			}
		}
		old := put(&w.Own.Themes, func(t *kit.Theme) string { return t.ID }, s.Theme, drop)
		if drop && old == nil {
			return gone("theme", s.Theme.ID)
		}
		undoPut(t, PutTheme, DropTheme, Step{Theme: or(old, s.Theme)}, old != nil)
	case PutIcon, DropIcon:
		if s.Icon == nil {
			return errors.New("no icon is given")
		}
		if !drop {
			if err := s.Icon.Check(k); err != nil {
				return err
			}
		}
		old := put(&w.Own.Icons, func(i *kit.OwnIcon) string { return i.Name }, s.Icon, drop)
		if drop && old == nil {
			return gone("icon", s.Icon.Name)
		}
		undoPut(t, PutIcon, DropIcon, Step{Icon: or(old, s.Icon)}, old != nil)
	case PutFont, DropFont:
		if s.Font == nil {
			return errors.New("no font is given")
		}
		old := put(&w.Own.Fonts, func(f *kit.Font) string { return f.File() }, s.Font, drop)
		if drop && old == nil {
			return gone("font", s.Font.File())
		}
		undoPut(t, PutFont, DropFont, Step{Font: or(old, s.Font)}, old != nil)
	case LeaveOut, TakeIn:
		if s.Left == nil {
			return errors.New("no entry is given")
		}
		if _, known := k.Component(s.Left.Tag); !known {
			return fmt.Errorf("%s has no component %q", k.Title, s.Left.Tag)
		}
		if !drop && strings.TrimSpace(s.Left.Reason) == "" {
			return errors.New("leaving an entry out needs a reason")
		}
		old := put(&w.Own.LeftOut, func(l *LeftOut) string { return l.Tag }, s.Left, drop)
		if drop && old == nil {
			return fmt.Errorf("%s is not left out", s.Left.Tag)
		}
		undoPut(t, LeaveOut, TakeIn, Step{Left: or(old, s.Left)}, old != nil)
	}
	return nil
}

func or[T any](a, b *T) *T {
	if a != nil {
		return a
	}
	return b
}

// MissingFonts lists the families that a theme asks for first and that neither the
// kit's style sheet nor the team brings: on a machine without them another is shown.
func (o Own) MissingFonts(k *kit.Kit, theme string, sheet []byte) []string {
	out, brought := []string{}, kit.Families(sheet)
	for _, t := range k.Tokens.List {
		if t.Type != "fontFamily" {
			continue
		}
		first, _, _ := strings.Cut(t.Values[theme], ",")
		family := strings.Trim(strings.TrimSpace(first), `'"`)
		if family == "" || generic[strings.ToLower(family)] || slices.Contains(out, family) {
			continue
		}
		if slices.Contains(brought, family) {
			continue
		}
		if slices.ContainsFunc(o.Fonts, func(f kit.Font) bool { return strings.EqualFold(f.Family, family) }) {
			continue
		}
		out = append(out, family)
	}
	return out
}

// generic are the families that every browser knows (CSS Fonts 4).
var generic = map[string]bool{
	"serif":         true,
	"sans-serif":    true,
	"monospace":     true,
	"cursive":       true,
	"fantasy":       true,
	"system-ui":     true,
	"ui-serif":      true,
	"ui-sans-serif": true,
	"ui-monospace":  true,
	"ui-rounded":    true,
	"math":          true,
	"inherit":       true,
}
