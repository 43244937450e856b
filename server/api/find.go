package api

import (
	"slices"
	"strconv"
	"strings"
	"sync"

	"ubiquant/core/find"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

type findIn struct {
	Query string `query:"q"`
	Only  string `query:"only"` // "kit" leaves out screens, elements and findings
}

type findOut struct {
	Matches []find.Match `json:"matches"`
}

func (s *Server) find(c *Call, in *findIn) (*findOut, error) {
	out := &findOut{Matches: []find.Match{}}
	var ix *find.Index
	err := s.Live.Read(c.Context(), func(l *live.Live, seq int64) error {
		ix = s.found.index(l, seq, in.Only == "kit")
		if in.Only != "kit" {
			out.Matches = append(out.Matches, addressed(l, in.Query)...)
		}
		return nil
	})
	if err == nil {
		for _, m := range ix.Search(in.Query, 60) {
			if !slices.ContainsFunc(out.Matches, func(had find.Match) bool { return had.Kind == m.Kind && had.ID == m.ID }) {
				out.Matches = append(out.Matches, m)
			}
		}
	}
	return out, err
}

// mostAddressed is how many elements one address may mean.
const mostAddressed = 12

// addressed finds what a query names as reports print it: screen:tickets#tickets-5, #tickets-5, or
// the line of a file that a screen was read from.
func addressed(l *live.Live, query string) (out []find.Match) {
	for word := range strings.FieldsSeq(query) {
		word = strings.Trim(word, ":,;()[]")
		doc, element, hasDoc := strings.Cut(word, "#")
		file, line := placeIn(word)
		if !hasDoc && file == "" {
			continue
		}
		for _, d := range l.W.Docs {
			if d.Removed || hasDoc && doc != "" && usage.DocKey(d) != doc {
				continue
			}
			d.Root.Walk(func(e, parent *screen.Element) bool {
				named := hasDoc && e.ID == element
				inCode := file != "" && e.FromCode() && strings.HasSuffix("/"+e.Origin.File, "/"+file) && strings.HasPrefix(e.Origin.Range+":", line+":")
				// A report names files beneath the folder that was audited.
				inCode = inCode || file != "" && e.FromCode() && strings.HasSuffix(file, "/"+e.Origin.File) && strings.HasPrefix(e.Origin.Range+":", line+":")
				if (named || inCode) && len(out) < mostAddressed {
					title := e.Text.Text
					if title == "" {
						title = titleOf(l, e)
					}
					out = append(out, find.Match{
						Entry: find.Entry{Kind: "element", ID: usage.DocKey(d) + "#" + e.ID, Title: title, Hint: standing(l, d, e, parent)}, Score: 1000, Why: "its address",
					})
				}
				return true
			})
		}
	}
	return out
}

// placeIn takes a place in a file apart: "src/Orders.tsx:16:43".
func placeIn(word string) (file, line string) {
	parts := strings.Split(word, ":")
	if len(parts) < 2 || !strings.Contains(parts[0], ".") {
		return "", ""
	}
	if _, err := strconv.Atoi(parts[1]); err != nil {
		return "", ""
	}
	return strings.TrimPrefix(parts[0], "./"), strings.Join(parts[1:min(len(parts), 3)], ":")
}

func titleOf(l *live.Live, e *screen.Element) string {
	if def, ok := l.Cat.Component(e.Type); ok {
		return def.Title
	}
	return e.Type
}

// standing says where an element stands, so that like ones are told apart.
func standing(l *live.Live, d *screen.Document, e, parent *screen.Element) string {
	out := d.Title + ", " + titleOf(l, e)
	if parent != nil {
		if e.Slot != "" {
			out += " in the " + e.Slot + " of a " + titleOf(l, parent)
		} else {
			out += " in a " + titleOf(l, parent)
		}
	}
	return out
}

// searchable keeps what is searched until the workspace changes: people type
// faster than they edit.
type searchable struct {
	mu  sync.Mutex
	seq int64
	by  map[bool]*find.Index // true is the kit alone
}

func (f *searchable) index(l *live.Live, seq int64, kitOnly bool) *find.Index {
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.by == nil || f.seq != seq {
		f.seq, f.by = seq, map[bool]*find.Index{}
	}
	if f.by[kitOnly] == nil {
		entries := find.Kit(l.Kit, l.Cat.Candidates(), func(typ string) int { return l.Index.CountOf(typ).Uses })
		if !kitOnly {
			entries = append(entries, workspaceEntries(l)...)
		}
		f.by[kitOnly] = find.New(entries)
	}
	return f.by[kitOnly]
}

func workspaceEntries(l *live.Live) []find.Entry {
	var out []find.Entry
	for _, d := range l.W.Docs {
		if d.Removed {
			continue
		}
		key := usage.DocKey(d)
		out = append(
			out,
			find.Entry{
				Kind:  string(d.Kind),
				ID:    key,
				Title: d.Title,
				Hint:  d.Route,
				Uses:  40,
				Fields: []find.Field{
					{What: "name", Text: d.Title, Weight: 12},
					{What: "route", Text: d.Route, Weight: 6},
					{What: "owner", Text: d.Owner, Weight: 2},
				},
			},
		)
		d.Root.Walk(func(e, parent *screen.Element) bool {
			if e.Text.Kind == screen.Literal || e.Name != "" {
				out = append(
					out,
					find.Entry{
						Kind:  "element",
						ID:    key + "#" + e.ID,
						Title: e.Text.Text,
						Hint:  standing(l, d, e, parent),
						Fields: []find.Field{
							{What: "text", Text: e.Text.Text, Weight: 3},
							{What: "name", Text: e.Name, Weight: 5},
						},
					},
				)
			}
			return true
		})
	}
	open, _ := l.Findings()
	for _, f := range open {
		out = append(
			out,
			find.Entry{
				Kind:  "finding",
				ID:    f.Key(),
				Title: f.Message,
				Hint:  f.Doc + "#" + f.Element,
				Fields: []find.Field{
					{What: "finding", Text: f.Message, Weight: 2},
					{What: "rule", Text: f.Rule, Weight: 3},
				},
			},
		)
	}
	return out
}

type whereIn struct {
	Selector string `query:"selector"`
	Doc      string `query:"doc"` // only there
}

type whereOut struct {
	Uses  []UseView `json:"uses"`
	Total int       `json:"total"`
}

func (s *Server) where(c *Call, in *whereIn) (*whereOut, error) {
	sel, err := screen.ParseSelector(in.Selector)
	if err != nil {
		return nil, bad("%s", err)
	}
	out := &whereOut{Uses: []UseView{}}
	err = s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		l.Where(sel, func(d *screen.Document, e *screen.Element) {
			if in.Doc != "" && usage.DocKey(d) != in.Doc {
				return
			}
			out.Total++
			if len(out.Uses) < 500 {
				out.Uses = append(out.Uses, UseView{usage.DocKey(d), d.Title, e.ID, e.Type})
			}
		})
		return nil
	})
	return out, err
}
