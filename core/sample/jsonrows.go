package sample

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
)

// FoundList is a list of objects somewhere in a JSON document.
type FoundList struct {
	Path string `json:"path"` // names from the outside in, parted by points; empty for the whole
	Rows int    `json:"rows"`
}

// object is a JSON object with its names in the order they stand in.
type object struct {
	names  []string
	values map[string]any
}

// flat is how deep objects in objects become columns of their own.
const flat = 3

// json reads rows from JSON: the whole, where it is a list, or one of the lists in it.
func (t *Table) json(src []byte, want string) error {
	if depth := nesting(src); depth > maxDepth {
		return fmt.Errorf("it is nested %d deep; accepted: up to %d", depth, maxDepth)
	}
	all, err := ordered(src)
	if err != nil {
		return err
	}
	if t.geo(all) {
		return nil
	}
	found := map[string][]any{}
	lists(all, "", 0, func(path string, list []any) {
		t.Lists = append(t.Lists, FoundList{path, len(list)})
		found[path] = list
	})
	list, ok := found[want]
	switch {
	case want != "" && !ok:
		return fmt.Errorf("there is no list %s in it", want)
	case want != "":
		t.Notes = append(t.Notes, "the list "+want+" is taken")
	case len(t.Lists) > 0 && !ok:
		best := t.Lists[0]
		for _, l := range t.Lists {
			if l.Rows > best.Rows {
				best = l
			}
		}
		list = found[best.Path]
		t.Notes = append(t.Notes, "the list "+best.Path+" is taken")
	case !ok:
		if o, one := all.(*object); one {
			list = []any{o}
		} else if list, ok = all.([]any); !ok {
			return fmt.Errorf("a list of up to %d objects is accepted", maxRows)
		}
	}
	if len(t.Lists) < 2 {
		t.Lists = nil
	}
	return t.objects(list)
}

// ordered reads a JSON document, or several one after the other, with names in their order.
func ordered(src []byte) (any, error) {
	d := json.NewDecoder(bytes.NewReader(src))
	d.UseNumber()
	fail := func(err error) error {
		at := d.InputOffset()
		var s *json.SyntaxError
		if errors.As(err, &s) {
			at = s.Offset
		}
		if errors.Is(err, io.EOF) {
			err = io.ErrUnexpectedEOF
		}
		return fmt.Errorf("line %d: %w", 1+bytes.Count(src[:min(int(at), len(src))], []byte("\n")), err)
	}
	var value func() (any, error)
	value = func() (any, error) {
		tok, err := d.Token()
		if err != nil {
			return nil, err
		}
		switch tok {
		case json.Delim('['):
			list := []any{}
			for d.More() {
				v, err := value()
				if err != nil {
					return nil, err
				}
				list = append(list, v)
			}
			_, err := d.Token()
			return list, err
		case json.Delim('{'):
			o := &object{values: map[string]any{}}
			for d.More() {
				key, err := d.Token()
				if err != nil {
					return nil, err
				}
				v, err := value()
				if err != nil {
					return nil, err
				}
				name, _ := key.(string)
				if _, twice := o.values[name]; !twice {
					o.names = append(o.names, name)
				}
				o.values[name] = v
			}
			_, err := d.Token()
			return o, err
		}
		return tok, nil
	}
	first, err := value()
	if err != nil {
		return nil, fail(err)
	}
	if !d.More() {
		return first, nil
	}
	// Objects line by line.
	rows := []any{first}
	for d.More() {
		at := d.InputOffset()
		v, err := value()
		if err != nil {
			return nil, fail(err)
		}
		_, one := v.(*object)
		if _, also := first.(*object); !one || !also {
			return nil, fmt.Errorf("line %d: something follows after the end", 1+bytes.Count(src[:at], []byte("\n")))
		}
		rows = append(rows, v)
	}
	return rows, nil
}

// lists visits the lists of objects in a document, the outer ones first.
func lists(v any, path string, depth int, found func(path string, list []any)) {
	switch x := v.(type) {
	case []any:
		if len(x) == 0 {
			return
		}
		for _, e := range x {
			if _, ok := e.(*object); !ok {
				return
			}
		}
		found(path, x)
	case *object:
		if depth > 4 {
			return
		}
		for _, name := range x.names {
			inner := name
			if path != "" {
				inner = path + "." + name
			}
			lists(x.values[name], inner, depth+1, found)
		}
	}
}

// geo takes the features of a GeoJSON document (RFC 7946): their properties, and where points
// lie.
func (t *Table) geo(all any) bool {
	o, ok := all.(*object)
	if !ok || o.values["type"] != "FeatureCollection" {
		return false
	}
	features, ok := o.values["features"].([]any)
	if !ok {
		return false
	}
	var rows []any
	for _, f := range features {
		feature, ok := f.(*object)
		if !ok {
			return false
		}
		row := &object{values: map[string]any{}}
		put := func(name string, v any) {
			if _, taken := row.values[name]; !taken {
				row.names = append(row.names, name)
			}
			row.values[name] = v
		}
		if id, ok := feature.values["id"]; ok {
			put("id", id)
		}
		if properties, ok := feature.values["properties"].(*object); ok {
			for _, name := range properties.names {
				put(name, properties.values[name])
			}
		}
		if geometry, ok := feature.values["geometry"].(*object); ok {
			at, list := geometry.values["coordinates"].([]any)
			if list && geometry.values["type"] == "Point" && len(at) >= 2 {
				put("longitude", at[0])
				put("latitude", at[1])
			} else {
				put("geometry", jsonText(geometry))
			}
		}
		rows = append(rows, row)
	}
	t.Notes = append(t.Notes, "places of a map: points as longitude and latitude")
	return t.objects(rows) == nil
}

// objects makes rows of objects; columns stand in the order in which names are met.
func (t *Table) objects(list []any) error {
	if len(list) > maxRows {
		return fmt.Errorf("a list of up to %d objects is accepted", maxRows)
	}
	at := map[string]int{}
	inner := map[string]bool{}
	t.Rows = [][]string{}
	for i, e := range list {
		o, ok := e.(*object)
		if !ok {
			return fmt.Errorf("entry %d of the list is no object", i+1)
		}
		row := make([]string, len(t.Columns))
		var put func(prefix string, o *object, depth int) error
		put = func(prefix string, o *object, depth int) error {
			for _, name := range o.names {
				v := o.values[name]
				full := strings.TrimSpace(prefix + " " + name)
				if deeper, ok := v.(*object); ok && depth < flat && len(deeper.names) > 0 {
					if err := put(full, deeper, depth+1); err != nil {
						return err
					}
					continue
				}
				j, known := at[full]
				if !known {
					if j = len(t.Columns); j >= maxColumns {
						return fmt.Errorf("it has more than %d names", maxColumns)
					}
					at[full] = j
					t.Columns = append(t.Columns, full)
				}
				for len(row) <= j {
					row = append(row, "")
				}
				if items, isList := v.([]any); isList {
					if hasObjects(items) {
						inner[full] = true
						row[j] = jsonText(v)
						continue
					}
					if t.listed == nil {
						t.listed = map[int]bool{}
					}
					t.listed[j] = true
				}
				row[j] = jsonCell(v)
			}
			return nil
		}
		if err := put("", o, 1); err != nil {
			return err
		}
		t.Rows = append(t.Rows, row)
	}
	for i, row := range t.Rows {
		for len(row) < len(t.Columns) {
			row = append(row, "")
		}
		t.Rows[i] = row
	}
	for _, name := range t.Columns {
		if inner[name] {
			t.Notes = append(t.Notes, name+" holds objects; they stay as text")
		}
	}
	return nil
}

func hasObjects(list []any) bool {
	for _, v := range list {
		switch v.(type) {
		case *object, []any:
			return true
		}
	}
	return false
}

func jsonCell(v any) string {
	switch x := v.(type) {
	case nil:
		return ""
	case string:
		return x
	case bool:
		return strconv.FormatBool(x)
	case json.Number:
		return x.String()
	case []any:
		parts := make([]string, len(x))
		for i, p := range x {
			parts[i] = jsonCell(p)
		}
		return (&Field{Type: Texts}).Write(ListOf(parts...))
	}
	return jsonText(v)
}

// jsonText writes a value as JSON, names in their order.
func jsonText(v any) string {
	var b strings.Builder
	var write func(v any)
	write = func(v any) {
		switch x := v.(type) {
		case *object:
			b.WriteByte('{')
			for i, name := range x.names {
				if i > 0 {
					b.WriteByte(',')
				}
				write(name)
				b.WriteByte(':')
				write(x.values[name])
			}
			b.WriteByte('}')
		case []any:
			b.WriteByte('[')
			for i, e := range x {
				if i > 0 {
					b.WriteByte(',')
				}
				write(e)
			}
			b.WriteByte(']')
		default:
			text, _ := json.Marshal(x) // what was decoded encodes
			b.Write(text)
		}
	}
	write(v)
	return b.String()
}
