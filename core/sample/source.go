package sample

import (
	"encoding/json"
	"fmt"
	"net/url"
	"regexp"
	"strconv"
	"strings"
)

// Base is an address that a keeper allows data to come from.
type Base struct {
	Name    string `json:"name"`
	Address string `json:"address"` // http or https, with a host, without a query
}

// Source says where the records of a model come from when they are live.
type Source struct {
	Model string `json:"model"`
	Base  string `json:"base"` // name of a Base
	// Path is put after the base's address; {name} in it is what the control of that
	// name holds.
	Path   string            `json:"path,omitempty"`
	List   string            `json:"list,omitempty"`   // JSON pointer (RFC 6901) to the array of records; empty is the whole answer
	Fields map[string]string `json:"fields,omitempty"` // pointer within a record by field; "/name" where it is left out
}

// States that a source can be in.
const (
	Ready   = "ready"
	Loading = "loading"
	Refused = "refused" // the service answered that it may not
	Failed  = "failed"  // it could not be had, or is not what it should be
)

var placeholder = regexp.MustCompile(`\{(\w*)\}`)

// Parameters lists the names of the controls that the path speaks of.
func (s *Source) Parameters() []string {
	var out []string
	for _, m := range placeholder.FindAllStringSubmatch(s.Path, -1) {
		out = append(out, m[1])
	}
	return out
}

// URL is the address asked, with the parameters filled in.
func (s *Source) URL(base Base, params map[string]any) string {
	path := placeholder.ReplaceAllStringFunc(
		s.Path,
		func(m string) string { return url.QueryEscape(Plain(params[m[1:len(m)-1]])) },
	)
	return strings.TrimSuffix(base.Address, "/") + path
}

// maxLive bounds the records that one answer may hold.
const maxLive = 10_000

// Read maps an answer to records of the model. What does not fit is left out and told,
// with the pointer to it; an answer of another shape is an error.
func (s *Source) Read(m *Model, body []byte) (records []Record, problems []string, err error) {
	var doc any
	if err := json.Unmarshal(body, &doc); err != nil {
		return nil, nil, fmt.Errorf("the answer is no JSON: %w", err)
	}
	at, ok := point(doc, s.List)
	if !ok {
		return nil, nil, fmt.Errorf("the answer has nothing at %s", s.List)
	}
	list, ok := at.([]any)
	if !ok {
		return nil, nil, fmt.Errorf("at %s stands no list of records", orRoot(s.List))
	}
	if len(list) > maxLive {
		return nil, nil, fmt.Errorf("the answer holds %d records; at most %d are taken", len(list), maxLive)
	}
	where := func(i int, pointer string) string { return s.List + "/" + strconv.Itoa(i) + pointer }
	seen := map[string]bool{}
	for i, item := range list {
		r := Record{}
		if v, ok := point(item, s.pointer("id")); ok && v != nil {
			r["id"] = fmt.Sprint(v)
		} else {
			r["id"] = "r" + strconv.Itoa(i+1)
		}
		if seen[r.ID()] {
			problems = append(
				problems,
				fmt.Sprintf("%s: a second record with the id %s is left out", where(i, ""), r.ID()),
			)
			continue
		}
		seen[r.ID()] = true
		for j := range m.Fields {
			f := &m.Fields[j]
			if f.Compute != "" {
				continue
			}
			v, ok := point(item, s.pointer(f.Name))
			if !ok || v == nil {
				if f.Required {
					problems = append(problems, fmt.Sprintf("%s: %s is missing", where(i, s.pointer(f.Name)), f.Name))
				}
				continue
			}
			value, err := f.accept(v)
			if err != nil {
				problems = append(problems, fmt.Sprintf("%s: %s", where(i, s.pointer(f.Name)), err))
			} else if value != nil {
				r[f.Name] = value
			}
		}
		records = append(records, r)
	}
	return records, problems, nil
}

// accept takes a plain value of an answer as one of the field. Money that is a number is
// in minor units, as in the samples; written as a text it is an amount.
func (f *Field) accept(v any) (any, error) {
	if s, ok := v.(string); ok && (f.Type == Number || f.Type == Money || f.Type == YesNo) {
		parsed, err := f.Parse(s, nil)
		if err == nil && parsed == nil {
			err = fmt.Errorf("it is empty")
		}
		return parsed, err
	}
	if f.Type == Texts || f.Type == Refs {
		return f.acceptList(v)
	}
	if n, ok := v.(float64); ok && f.Type != Number && f.Type != Money {
		v = Plain(n)
	}
	if s, ok := v.(string); ok && f.Type == Date && len(s) > 10 && s[10] == 'T' {
		v = s[:10] // a day of a point in time
	}
	return v, f.check(v)
}

// acceptList takes an array of plain values, or a text that parts them, as a list. Of an
// object among them its id counts.
func (f *Field) acceptList(v any) (any, error) {
	array, ok := v.([]any)
	if !ok {
		s, isText := v.(string)
		if !isText {
			return nil, fmt.Errorf("%s is not a list", Plain(v))
		}
		return f.Parse(s, nil)
	}
	items := make([]string, len(array))
	for i, item := range array {
		if o, isObject := item.(map[string]any); isObject {
			item = o["id"]
		}
		items[i] = Plain(item)
	}
	if l := ListOf(items...); l != "" {
		return l, nil
	}
	return nil, nil
}

func (s *Source) pointer(field string) string {
	if p, ok := s.Fields[field]; ok {
		return p
	}
	return "/" + strings.NewReplacer("~", "~0", "/", "~1").Replace(field)
}

func orRoot(pointer string) string {
	if pointer == "" {
		return "the top"
	}
	return pointer
}

// point follows a JSON pointer (RFC 6901).
func point(v any, pointer string) (any, bool) {
	if pointer == "" {
		return v, true
	}
	if !strings.HasPrefix(pointer, "/") {
		return nil, false
	}
	for part := range strings.SplitSeq(pointer[1:], "/") {
		part = strings.NewReplacer("~1", "/", "~0", "~").Replace(part)
		switch x := v.(type) {
		case map[string]any:
			next, ok := x[part]
			if !ok {
				return nil, false
			}
			v = next
		case []any:
			i, err := strconv.Atoi(part)
			if err != nil || i < 0 || i >= len(x) {
				return nil, false
			}
			v = x[i]
		default:
			return nil, false
		}
	}
	return v, true
}
