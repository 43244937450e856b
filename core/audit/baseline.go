package audit

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
)

// BaselineFormat is the version of baselines that this package reads and writes.
const BaselineFormat = "ubiquant.baseline/1"

// Baseline is what was found at one time: a team begins from it, and only what is new fails.
type Baseline struct {
	Format  string  `json:"format"`
	Of      string  `json:"of"` // name of the workspace or repository
	Entries []Entry `json:"findings"`
}

// Entry is one finding as a baseline keeps it.
type Entry struct {
	Rule    string `json:"rule"`
	Doc     string `json:"doc"`
	Element string `json:"element"`
	Prop    string `json:"prop,omitempty"`
	Message string `json:"message"`
}

func entryOf(f *Finding) Entry { return Entry{f.Rule, f.Doc, f.Element, f.Prop, f.Message} }

// NewBaseline keeps findings.
func NewBaseline(of string, findings []Finding) *Baseline {
	b := &Baseline{Format: BaselineFormat, Of: of, Entries: make([]Entry, 0, len(findings))}
	for i := range findings {
		b.Entries = append(b.Entries, entryOf(&findings[i]))
	}
	slices.SortFunc(b.Entries, func(x, y Entry) int {
		return strings.Compare(x.Doc+"\x00"+x.Element+"\x00"+x.Rule+"\x00"+x.Prop, y.Doc+"\x00"+y.Element+"\x00"+y.Rule+"\x00"+y.Prop)
	})
	return b
}

// Write writes the baseline, one finding a line, so that a change of one is a change of a line.
func (b *Baseline) Write() []byte {
	var out strings.Builder
	text := func(v any) string { s, _ := json.Marshal(v); return string(s) }
	fmt.Fprintf(&out, "{\n \"format\": %s,\n \"of\": %s,\n \"findings\": [", text(b.Format), text(b.Of))
	for i, e := range b.Entries {
		if i > 0 {
			out.WriteString(",")
		}
		out.WriteString("\n  " + text(e))
	}
	out.WriteString("\n ]\n}\n")
	return []byte(out.String())
}

// ReadBaseline reads a baseline; of is the name that it must be of, empty for any.
func ReadBaseline(src []byte, of string) (*Baseline, error) {
	if len(src) > 64<<20 {
		return nil, errors.New("a baseline has at most 64 MB")
	}
	b := &Baseline{}
	if err := json.Unmarshal(src, b); err != nil {
		return nil, err
	}
	if b.Format != BaselineFormat {
		return nil, fmt.Errorf("the format %q is not known; accepted: %q", b.Format, BaselineFormat)
	}
	if of != "" && b.Of != of {
		return nil, fmt.Errorf("it is the baseline of %q, and this is %q: write one with --write-baseline", b.Of, of)
	}
	return b, nil
}

// Compare tells findings that the baseline does not have, and entries that are found no more.
// A finding is known by its rule, place and prop; where its element has moved within its
// document, by what is said of it.
func (b *Baseline) Compare(findings []Finding) (fresh []Finding, gone []Entry) {
	exact, alike := map[Entry]int{}, map[Entry]int{}
	key := func(e Entry) Entry { e.Message = ""; return e }
	said := func(e Entry) Entry { e.Element = ""; return e }
	left := map[int]bool{}
	for i, e := range b.Entries {
		exact[key(e)]++
		left[i] = true
	}
	var rest []Finding
	met := map[Entry]int{}
	for i := range findings {
		k := key(entryOf(&findings[i]))
		if exact[k] > 0 {
			exact[k]--
			met[k]++
			continue
		}
		rest = append(rest, findings[i])
	}
	for i, e := range b.Entries {
		if k := key(e); met[k] > 0 {
			met[k]--
			delete(left, i)
			continue
		}
		alike[said(e)]++
	}
	moved := map[Entry]int{}
	for i := range rest {
		k := said(entryOf(&rest[i]))
		if alike[k] > 0 {
			alike[k]--
			moved[k]++
			continue
		}
		fresh = append(fresh, rest[i])
	}
	for i, e := range b.Entries {
		if !left[i] {
			continue
		}
		if k := said(e); moved[k] > 0 {
			moved[k]--
			continue
		}
		gone = append(gone, e)
	}
	return fresh, gone
}
