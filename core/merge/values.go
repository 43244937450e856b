package merge

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"
)

// absent stands for what is not there.
type absent struct{}

// Conflict is something that both changed, each in another way.
type Conflict struct {
	// Where is what it is about: "screen:tickets", or a part such as "models"; Path the way to it in
	// the JSON form, items of lists by what names them.
	Where string `json:"where"`
	Path  string `json:"path"`
	// Base, Ours and Theirs are what stands there, in short; empty where nothing does.
	Base   string `json:"base"`
	Ours   string `json:"ours"`
	Theirs string `json:"theirs"`
}

// String says it in one line.
func (c Conflict) String() string {
	says := func(s string) string {
		if s == "" {
			return "nothing"
		}
		return s
	}
	path := strings.TrimPrefix(strings.ReplaceAll(c.Path, "/children/", "/"), "/root")
	return fmt.Sprintf("%s %s: here %s, there %s, before %s", c.Where, strings.TrimPrefix(path, "/"), says(c.Ours), says(c.Theirs), says(c.Base))
}

// merger puts two values of JSON together that come from one.
type merger struct {
	where     string
	theirs    bool // what both changed becomes theirs
	conflicts []Conflict
}

func (m *merger) conflict(path string, b, o, t any) any {
	m.conflicts = append(m.conflicts, Conflict{m.where, path, short(b), short(o), short(t)})
	if m.theirs {
		return t
	}
	return o
}

// value merges three values: what one side alone changed is changed.
func (m *merger) value(path string, b, o, t any) any {
	switch {
	case same(o, t), same(b, t):
		return o
	case same(b, o):
		return t
	}
	if oo, ok := o.(map[string]any); ok {
		if to, ok := t.(map[string]any); ok {
			bo, _ := b.(map[string]any)
			return m.object(path, bo, oo, to)
		}
	}
	if ol, ok := o.([]any); ok {
		if tl, ok := t.([]any); ok {
			bl, _ := b.([]any)
			if name := naming(bl, ol, tl); name != nil {
				return m.list(path, name, bl, ol, tl)
			}
		}
	}
	return m.conflict(path, b, o, t)
}

func (m *merger) object(path string, b, o, t map[string]any) any {
	out := map[string]any{}
	keys := slices.Sorted(maps.Keys(o))
	for _, k := range slices.Sorted(maps.Keys(t)) {
		if _, there := o[k]; !there {
			keys = append(keys, k)
		}
	}
	at := func(in map[string]any, k string) any {
		if v, ok := in[k]; ok {
			return v
		}
		return absent{}
	}
	for _, k := range keys {
		v := m.value(path+"/"+k, at(b, k), at(o, k), at(t, k))
		if _, gone := v.(absent); !gone {
			out[k] = v
		}
	}
	return out
}

// list merges lists of items that have names: what one side added, took away or changed is so. The
// order is that of who changed it.
func (m *merger) list(path string, name func(any) string, b, o, t []any) any {
	index := func(list []any) (map[string]any, []string) {
		by, order := map[string]any{}, make([]string, 0, len(list))
		for _, v := range list {
			n := name(v)
			by[n] = v
			order = append(order, n)
		}
		return by, order
	}
	bb, bOrder := index(b)
	ob, oOrder := index(o)
	tb, tOrder := index(t)
	at := func(in map[string]any, n string) any {
		if v, ok := in[n]; ok {
			return v
		}
		return absent{}
	}
	merged := map[string]any{}
	for _, n := range append(slices.Clone(oOrder), tOrder...) {
		if _, done := merged[n]; done {
			continue
		}
		merged[n] = m.value(path+"/"+n, at(bb, n), at(ob, n), at(tb, n))
	}
	first, second := oOrder, tOrder
	if slices.Equal(common(oOrder, bb, tb), common(bOrder, ob, tb)) && b != nil { // ours did not move anything
		first, second = tOrder, oOrder
	}
	order := slices.Clone(first)
	for i, n := range second {
		if slices.Contains(order, n) {
			continue
		}
		to := 0
		for j := i - 1; j >= 0; j-- {
			if k := slices.Index(order, second[j]); k >= 0 {
				to = k + 1
				break
			}
		}
		order = slices.Insert(order, to, n)
	}
	out := []any{}
	for _, n := range order {
		if _, gone := merged[n].(absent); !gone {
			out = append(out, merged[n])
		}
	}
	return out
}

// common are the names of a list that stand in two others as well, in its order.
func common(order []string, in, also map[string]any) []string {
	return slices.DeleteFunc(slices.Clone(order), func(n string) bool {
		_, a := in[n]
		_, b := also[n]
		return !a || !b
	})
}

// names are the fields by which items of lists are told apart, the first that tells all apart.
var names = [][]string{{"id"}, {"name"}, {"tag"}, {"doc", "element", "rule", "spot"}, {"doc", "element"}, {"rule"}, {"model"}, {"doc"}, {"width"}, {"family", "weight", "style"}, {"field"}}

// naming tells how the items of lists are told apart; nil where nothing tells them apart.
func naming(lists ...[]any) func(any) string {
	for _, fields := range names {
		name := func(v any) string {
			o, ok := v.(map[string]any)
			if !ok {
				return ""
			}
			parts := make([]string, 0, len(fields))
			for _, f := range fields {
				if s, ok := o[f].(string); ok {
					parts = append(parts, s)
				} else if len(fields) == 1 {
					return ""
				}
			}
			return strings.Join(parts, " ")
		}
		all := true
		for _, list := range lists {
			seen := map[string]bool{}
			for _, v := range list {
				n := name(v)
				all = all && n != "" && !seen[n]
				seen[n] = true
			}
		}
		if all {
			return name
		}
	}
	// Words are their own names, where each stands once.
	for _, list := range lists {
		seen := map[string]bool{}
		for _, v := range list {
			s, ok := v.(string)
			if !ok || seen[s] {
				return nil
			}
			seen[s] = true
		}
	}
	return func(v any) string { return v.(string) }
}

func same(a, b any) bool { return reflect.DeepEqual(a, b) }

// short is a value at a glance.
func short(v any) string {
	switch x := v.(type) {
	case absent:
		return ""
	case string:
		return strconv.Quote(clip(x))
	case map[string]any:
		for _, f := range []string{"id", "name", "expr", "token"} {
			if s, ok := x[f].(string); ok {
				return f + " " + strconv.Quote(clip(s))
			}
		}
		return fmt.Sprintf("%d settings", len(x))
	case []any:
		return fmt.Sprintf("a list of %d", len(x))
	}
	return clip(fmt.Sprint(v))
}

func clip(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
}
