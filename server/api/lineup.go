package api

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/norm"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/core/source"
	"ubiquant/core/usage"
	"ubiquant/server/repo"
)

type lineUpIn struct {
	Component string `query:"component"`
	Prop      string `query:"prop"` // groups by this prop alone; empty by all that vary
}

// Group is uses that are set alike.
type Group struct {
	Values map[string]string `json:"values"`
	Uses   []LineUpUse       `json:"uses"`
}

// LineUpUse is one element in a line-up.
type LineUpUse struct {
	UseView
	Fragment Fragment `json:"fragment"`
	Stray    bool     `json:"stray"`
}

type lineUpOut struct {
	Component string   `json:"component"`
	Title     string   `json:"title"`
	Props     []string `json:"props"` // that vary
	Groups    []Group  `json:"groups"`
	Total     int      `json:"total"`
}

func (s *Server) lineUp(c *Call, in *lineUpIn) (*lineUpOut, error) {
	var out *lineUpOut
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		if in.Component == "" {
			in.Component = mostVaried(l)
		}
		if in.Component == "" {
			out = &lineUpOut{Props: []string{}, Groups: []Group{}}
			return nil
		}
		def, ok := l.Cat.Component(in.Component)
		if !ok {
			return missing("component " + in.Component)
		}
		out = &lineUpOut{Component: in.Component, Title: def.Title, Props: []string{}, Groups: []Group{}}
		root, ok := l.Index.Root(in.Component)
		if !ok {
			return nil
		}
		for _, m := range root.Mixes {
			if len(m.Values) > 1 {
				out.Props = append(out.Props, m.Prop)
			}
		}
		by := out.Props
		if in.Prop != "" {
			by = []string{in.Prop}
		}
		stray := map[string]bool{}
		for _, st := range l.Strays() {
			stray[st.Doc+"#"+st.Element] = true
		}
		groups := map[string]*Group{}
		var order []string
		for _, d := range l.Index.Docs() {
			for _, u := range d.Uses {
				if u.Element.Type != in.Component {
					continue
				}
				values := map[string]string{}
				key := ""
				for _, p := range by {
					v, ok := usage.Effective(u.Element, p, root.Default(p))
					if !ok {
						v = "computed"
					}
					values[p] = v
					key += p + "=" + v + ";"
				}
				g := groups[key]
				if g == nil {
					g = &Group{Values: values}
					groups[key] = g
					order = append(order, key)
				}
				doc := usage.DocKey(d.Document)
				g.Uses = append(
					g.Uses,
					LineUpUse{
						UseView{doc, d.Title, u.Element.ID, l.Words(u.Spots[usage.ByRole])},
						Fragment{Doc: doc, Element: u.Element.ID, Up: upFor(l.Cat, d.Root, u.Element.ID)},
						stray[doc+"#"+u.Element.ID],
					},
				)
				out.Total++
			}
		}
		slices.SortStableFunc(order, func(a, b string) int { return len(groups[b].Uses) - len(groups[a].Uses) })
		for _, k := range order {
			out.Groups = append(out.Groups, *groups[k])
		}
		return nil
	})
	return out, err
}

// mostVaried is the component of which most uses are set otherwise than most of them are; empty
// where nothing is used.
func mostVaried(l *live.Live) string {
	tag, most := "", -1
	for _, c := range l.Kit.Components {
		root, ok := l.Index.Root(c.Tag)
		if !ok || root.Uses == 0 {
			continue
		}
		apart := 0
		for _, m := range root.Mixes {
			if sorted := m.Sorted(); len(sorted) > 1 && len(sorted) <= 6 { // what differs from use to use is no habit
				apart += root.Uses - sorted[0].Uses
			}
		}
		if apart > most {
			tag, most = c.Tag, apart
		}
	}
	return tag
}

type lineIn struct {
	Strays   []string `json:"strays,omitempty"`   // keys
	Findings []string `json:"findings,omitempty"` // keys
	Uses     []string `json:"uses,omitempty"`     // doc#element, all to Prop = Value
	Prop     string   `json:"prop,omitempty"`
	Value    string   `json:"value,omitempty"`
	Question string   `json:"question,omitempty"` // its id: all to the answer Value
	Apply    bool     `json:"apply,omitempty"`
	Client   string   `json:"client,omitempty"`
}

// LineDoc is one screen before and after.
type LineDoc struct {
	Doc      string   `json:"doc"`
	Title    string   `json:"title"`
	Elements []string `json:"elements"`
	Words    []string `json:"words"`
	Before   Page     `json:"before"`
	After    Page     `json:"after"`
}

// Skipped is what a repair leaves out.
type Skipped struct {
	Key string `json:"key"`
	Why string `json:"why"`
}

type lineOut struct {
	Docs    []LineDoc  `json:"docs"`
	Skipped []Skipped  `json:"skipped"` // what is not repaired, and why
	Brings  []string   `json:"brings"`  // findings that there would be new, with their screen
	Taken   *changeOut `json:"taken,omitempty"`
	InCode  int        `json:"inCode"`          // screens that were read from code, and are repaired there
	Patch   *CodePatch `json:"patch,omitempty"` // of these
}

func (s *Server) line(c *Call, in *lineIn) (*lineOut, error) {
	out := &lineOut{Docs: []LineDoc{}, Skipped: []Skipped{}, Brings: []string{}}
	var repair change.Change
	var inCode []*change.Edit
	today := ""
	build := func(l *live.Live) (change.Change, error) {
		repair = lineChange(l, in, out)
		if in.Apply {
			repair.Steps = slices.DeleteFunc(repair.Steps, func(s change.Step) bool {
				step, ok := s.(*change.Edit)
				d, found := l.W.Doc(step.Doc)
				return ok && found && d.Source != ""
			})
			if len(repair.Steps) == 0 {
				return repair, bad("it was read from code, and is repaired there: take the patch")
			}
		}
		if len(repair.Steps) == 0 {
			for _, skipped := range out.Skipped {
				return repair, bad("nothing of it can be repaired by itself: %s", skipped.Why)
			}
			return repair, bad("nothing of it can be repaired by itself any more")
		}
		return repair, nil
	}
	if in.Apply {
		taken, err := s.take(c, &changeIn{Client: in.Client}, build)
		out.Taken = taken
		return out, err
	}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		today = l.Today
		if _, err := build(l); err != nil {
			return err
		}
		for _, s := range repair.Steps {
			step, ok := s.(*change.Edit)
			if !ok {
				continue
			}
			d, _ := l.W.Doc(step.Doc)
			root, _, err := screen.ApplyAll(d.Root, step.Edits, l.Cat)
			if err != nil {
				return refusedByCore(err)
			}
			if d.Source != "" {
				inCode = append(inCode, step)
			}
			ld := LineDoc{Doc: step.Doc, Title: d.Title, Elements: []string{}, Words: []string{}}
			for _, e := range step.Edits {
				if e.ID == "" {
					e.ID = e.Parent
				}
				ld.Elements = append(ld.Elements, e.ID)
				ld.Words = append(ld.Words, editWords(d.Root, e))
			}
			for _, f := range l.Brings(step.Doc, step.Edits) {
				out.Brings = append(out.Brings, d.Title+": "+f.Message)
			}
			ld.Before = partOf(l.Scene(), d, d.Root, ld.Elements)
			ld.After = partOf(l.Scene(), d, root, ld.Elements)
			out.Docs = append(out.Docs, ld)
		}
		return nil
	})
	if err == nil && len(inCode) > 0 {
		out.InCode = len(inCode)
		out.Patch = s.patch(c.Context(), today, inCode)
	}
	return out, err
}

// CodePatch is repairs of screens that were read from code, as a patch of the repository.
type CodePatch struct {
	Repository string   `json:"repository,omitempty"` // where it was read from; empty where none is known here
	Diff       string   `json:"diff"`
	Files      int      `json:"files"`
	Unmade     []string `json:"unmade"` // what is more than a change of a literal, and why
}

// patch turns repairs of screens in code into a patch, where one of the repositories that the
// server knows has them.
func (s *Server) patch(ctx context.Context, today string, steps []*change.Edit) *CodePatch {
	out := &CodePatch{Unmade: []string{}}
	for _, name := range slices.Sorted(maps.Keys(s.repositories)) {
		r, err := repo.Open(ctx, repo.Options{Dir: s.repositories[name]})
		if err != nil {
			continue // another may have them
		}
		var repairs []source.Repair
		known := true
		for _, step := range steps {
			known = known && r.Places[step.Doc] != nil
			for _, e := range step.Edits {
				repairs = append(repairs, source.Repair{Key: step.Doc + "#" + e.ID, Doc: step.Doc, Edits: []screen.Edit{e}})
			}
		}
		if !known {
			continue
		}
		files, unmade, err := r.Repair(ctx, repo.Options{Dir: s.repositories[name]}, today, repairs)
		if err != nil {
			continue
		}
		for _, u := range unmade {
			out.Unmade = append(out.Unmade, u.Where+": "+u.Why)
		}
		out.Repository, out.Diff, out.Files = name, source.Diff(files), len(files)
		return out
	}
	return out
}

// partOf renders the smallest part of a document that holds all of some elements,
// with what is around it where that is little.
func partOf(l *live.Scene, d *screen.Document, root *screen.Element, elements []string) Page {
	n, _ := l.ResolveTree(d, root, live.View{NoShell: true})
	part := holding(n, elements)
	p := render.HTML(l.Kit, inRoom(l, part))
	return Page{Key: usage.DocKey(d), Revision: d.Revision, HTML: p.HTML, Props: p.Props}
}

// littlePart is how many elements a part has at least, to be recognised.
const littlePart = 8

// holding walks down as long as one child holds all of the elements.
func holding(n *resolve.Node, elements []string) *resolve.Node {
	for {
		var only *resolve.Node
		for _, c := range n.Children {
			if holdsAll(c, elements) {
				only = c
				break
			}
		}
		// A row is nothing without its table.
		if only == nil || only.Count() < littlePart || only.Component != nil && len(only.Component.Parents) > 0 {
			return n
		}
		n = only
	}
}

func holdsAll(n *resolve.Node, elements []string) bool {
	left := map[string]bool{}
	for _, id := range elements {
		left[id] = true
	}
	var walk func(n *resolve.Node)
	walk = func(n *resolve.Node) {
		delete(left, n.ID)
		for _, c := range n.Children {
			walk(c)
		}
	}
	walk(n)
	return len(left) == 0
}

func editWords(root *screen.Element, e screen.Edit) string {
	was := "not set"
	if el, _ := root.Find(e.ID); el != nil {
		if v, ok := el.Prop(e.Prop); ok {
			was = v.Text
		} else if e.Prop == kit.ClassProp && el.FromCode() {
			// Of many classes only those are told that differ.
			had, gets := strings.Fields(el.Origin.Look), strings.Fields(e.Value.Text)
			without := func(list, others []string) string {
				return strings.Join(slices.DeleteFunc(slices.Clone(list), func(c string) bool { return slices.Contains(others, c) }), " ")
			}
			was, e.Value.Text = without(had, gets), without(gets, had)
		}
		if e.Op == screen.SetText {
			was = el.Text.Text
		}
	}
	switch e.Op {
	case screen.Set:
		return fmt.Sprintf("%s: %s → %s", e.Prop, was, e.Value.Text)
	case screen.Unset:
		return fmt.Sprintf("%s: %s → default", e.Prop, was)
	case screen.SetText:
		return fmt.Sprintf("text: %s → %s", was, e.Value.Text)
	case screen.Replace:
		return "becomes " + e.Tree.Type
	case screen.Insert:
		return "put in: " + e.Tree.Type
	case screen.Move:
		return "moved"
	case screen.Remove:
		return "taken away"
	}
	return string(e.Op)
}

func lineChange(l *live.Live, in *lineIn, out *lineOut) change.Change {
	var strays []norm.Stray
	var findings []audit.Finding
	wanted := map[string]bool{}
	leave := func(key, needs string) {
		delete(wanted, key)
		why := "there is no repair of it by itself"
		if needs != "" {
			why = fmt.Sprintf("the repair would bring “%s”", needs)
		}
		out.Skipped = append(out.Skipped, Skipped{key, why})
	}
	for _, key := range append(slices.Clone(in.Strays), in.Findings...) {
		wanted[key] = true
	}
	if len(in.Strays) > 0 {
		list := slices.DeleteFunc(append(l.Strays(), l.Leans()...), func(st norm.Stray) bool { return !wanted[live.StrayKey(st)] })
		for _, st := range l.Safe(list) {
			if len(st.Fix) > 0 {
				strays = append(strays, st)
			} else {
				leave(live.StrayKey(st), st.Needs)
			}
		}
	}
	if in.Question != "" {
		aligned, _ := l.Norms.Align(in.Question, in.Value)
		for _, st := range l.Safe(aligned) {
			if len(st.Fix) > 0 {
				strays = append(strays, st)
			} else {
				leave(live.StrayKey(st), st.Needs)
			}
		}
	}
	if len(in.Findings) > 0 {
		open, _ := l.Findings()
		open = slices.DeleteFunc(open, func(f audit.Finding) bool { return !wanted[f.Key()] })
		for _, f := range l.SafeFindings(open) {
			if len(f.Fix) > 0 {
				findings = append(findings, f)
			} else {
				leave(f.Key(), f.Needs)
			}
		}
	}
	for _, use := range in.Uses {
		doc, element, _ := strings.Cut(use, "#")
		if _, ok := l.SetEdit(doc, element, in.Prop, in.Value); !ok {
			out.Skipped = append(out.Skipped, Skipped{use, "it has no such setting, or it is computed"})
			continue
		}
		strays = append(strays, norm.Stray{Doc: doc, Element: element, Prop: in.Prop, Norm: in.Value})
	}
	for _, st := range strays {
		delete(wanted, live.StrayKey(st))
	}
	for _, f := range findings {
		delete(wanted, f.Key())
	}
	for _, key := range slices.Sorted(maps.Keys(wanted)) {
		out.Skipped = append(out.Skipped, Skipped{key, "it is no longer there"})
	}
	n := len(strays) + len(findings)
	what := fmt.Sprintf("%d elements", n)
	if n == 1 {
		what = "one element"
	}
	title := "Bring " + what + " into line"
	if len(in.Uses) > 0 {
		title = fmt.Sprintf("Set %s of %s to %s", in.Prop, what, orUnset(in.Value))
	}
	repair, left := l.Line(strays, findings, title)
	for _, key := range left {
		out.Skipped = append(out.Skipped, Skipped{key, "it no longer fits after the repairs before it"})
	}
	return repair
}
