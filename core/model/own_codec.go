package model

import (
	"encoding/base64"
	"maps"
	"slices"
	"strconv"

	"ubiquant/core/jsonread"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

func correctionFields(c *kit.Correction) map[string]*string {
	return map[string]*string{"tag": &c.Tag, "family": &c.Family, "role": &c.Role, "label": &c.Label, "by": &c.By, "when": &c.When}
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

func WriteTheme(out *screen.Writer, t *kit.Theme) {
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

func ReadIcon(r *jsonread.Reader) (kit.OwnIcon, error) {
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

func WriteIcon(out *screen.Writer, i *kit.OwnIcon) {
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

// ReadFont reads a font; family, weight and slant are read from its file again.
func ReadFont(r *jsonread.Reader) (kit.Font, error) {
	var data, by, when string
	if err := readStrings(r, map[string]*string{"data": &data, "by": &by, "when": &when}); err != nil {
		return kit.Font{}, err
	}
	file, err := base64.StdEncoding.DecodeString(data)
	if err != nil {
		return kit.Font{}, r.Fail("a WOFF2 file as base64", "the font's data is not base64")
	}
	f, err := kit.ReadFont(file)
	if err != nil {
		return kit.Font{}, r.Fail("", "%s", err)
	}
	f.By, f.When = by, when
	return *f, nil
}

func WriteFont(out *screen.Writer, f *kit.Font) {
	out.Open('{')
	out.Field("data", base64.StdEncoding.EncodeToString(f.Data))
	out.Field("by", f.By)
	out.Field("when", f.When)
	out.Close('}')
}

// readDrawnIcon reads an icon of a workspace, which has a picture.
func readDrawnIcon(r *jsonread.Reader) (kit.OwnIcon, error) {
	i, err := ReadIcon(r)
	if err == nil && i.SVG == "" {
		err = r.Fail("an icon with svg", "the icon %q has no picture", i.Name)
	}
	return i, err
}
