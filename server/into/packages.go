package into

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/go-json-experiment/json/jsontext"
)

// packages adds what code needs to package.json, as far as it is not there.
func (r *Repo) packages() Addition {
	a := Addition{What: "the packages that the screens need", Path: "package.json"}
	m, err := r.manifest()
	if err != nil {
		a.By = err.Error() + "; the screens need " + strings.Join(slices.Sorted(maps.Keys(r.Needs)), ", ")
		return a
	}
	missing := map[string]string{}
	for name, version := range r.Needs {
		if m.has(name) == "" {
			missing[name] = version
		}
	}
	if len(missing) == 0 {
		a.Done = true
		return a
	}
	a.What += ": " + strings.Join(slices.Sorted(maps.Keys(missing)), ", ")
	a.Was = r.read("package.json")
	is, err := withDependencies(a.Was, missing)
	if err != nil {
		a.By = fmt.Sprintf("add them to the dependencies (%s)", err)
		return a
	}
	a.Is = is
	return a
}

// withDependencies puts packages into a package.json, in their order; everything else
// stays as it is written.
func withDependencies(src []byte, add map[string]string) ([]byte, error) {
	dec := jsontext.NewDecoder(bytes.NewReader(src))
	if t, err := dec.ReadToken(); err != nil || t.Kind() != '{' {
		return nil, fmt.Errorf("it is no object")
	}
	begin := dec.InputOffset()
	indent := "  "
	if rest := src[begin:]; len(rest) > 0 && rest[0] == '\n' {
		line := rest[1:]
		indent = string(line[:len(line)-len(bytes.TrimLeft(line, " \t"))])
	}
	quoted := func(s string) string { b, _ := json.Marshal(s); return string(b) } // texts cannot fail
	for dec.PeekKind() != '}' {
		key, err := dec.ReadToken()
		if err != nil {
			return nil, err
		}
		if key.String() != "dependencies" {
			if err := dec.SkipValue(); err != nil {
				return nil, err
			}
			continue
		}
		if t, err := dec.ReadToken(); err != nil || t.Kind() != '{' {
			return nil, fmt.Errorf("dependencies is no object")
		}
		at := dec.InputOffset() // each goes before the first that follows it
		type entry struct {
			name string
			end  int64
		}
		have := []entry{}
		for dec.PeekKind() != '}' {
			name, err := dec.ReadToken()
			if err != nil {
				return nil, err
			}
			text := name.String()
			if err := dec.SkipValue(); err != nil {
				return nil, err
			}
			have = append(have, entry{text, dec.InputOffset()})
		}
		puts := map[int64]string{}
		for _, name := range slices.Sorted(maps.Keys(add)) {
			where, after := at, false
			for _, h := range have {
				if h.name < name {
					where, after = h.end, true
				}
			}
			line := "\n" + indent + indent + quoted(name) + ": " + quoted(add[name])
			if len(have) > 0 && !bytes.Contains(src[at:have[0].end], []byte("\n")) { // all on one line
				line = " " + quoted(name) + ": " + quoted(add[name])
			}
			switch {
			case after:
				puts[where] += "," + line
			case len(have) > 0:
				puts[where] += line + ","
			case puts[where] != "":
				puts[where] += "," + line
			default:
				puts[where] += line
			}
		}
		if len(have) == 0 {
			puts[at] += "\n" + indent
		}
		out := []byte{}
		last := int64(0)
		for _, where := range slices.Sorted(maps.Keys(puts)) {
			out = append(append(out, src[last:where]...), puts[where]...)
			last = where
		}
		if len(have) == 0 { // what stood between the braces was room
			if end := bytes.IndexByte(src[last:], '}'); end >= 0 {
				last += int64(end)
			}
		}
		return append(out, src[last:]...), nil
	}
	var b strings.Builder
	b.WriteString("\n" + indent + `"dependencies": {`)
	for i, name := range slices.Sorted(maps.Keys(add)) {
		if i > 0 {
			b.WriteString(",")
		}
		b.WriteString("\n" + indent + indent + quoted(name) + ": " + quoted(add[name]))
	}
	b.WriteString("\n" + indent + "},")
	return append(append(slices.Clone(src[:begin]), b.String()...), src[begin:]...), nil
}
