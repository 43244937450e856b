// Package plan makes screens of planned pictures: which component each box becomes, and what
// of a screen changes when its plan does.
package plan

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/bringin"
	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/picture"
	"ubiquant/core/screen"
)

// widest is the widest gap, in pixels, that is room between things; what is wider keeps them
// at both ends.
const widest = 120

// prefix begins the ids of elements that are made of boxes.
const prefix = "plan-"

// Choice is what a box may become.
type Choice struct {
	Type      string  `json:"type"`
	Title     string  `json:"title"`
	Certainty float64 `json:"certainty"` // 0 to 1
	Uses      int     `json:"uses"`      // elements of it on the team's screens
	Why       string  `json:"why"`
}

// Shown is a plan with what becomes of it.
type Shown struct {
	Choices map[string][]Choice `json:"choices"` // by box, the first is taken where nobody decided
	Became  map[string]string   `json:"became"`  // element by box, where it stands on the screen
	Types   map[string]string   `json:"types"`   // what it would become, by box; none where others take it in
	Notes   []bringin.Note      `json:"notes"`   // what is left out, and why
	Steps   map[string]string   `json:"steps"`   // the spacing step nearest to a box's gap
}

// made is the tree of a plan.
type made struct {
	roots   []*screen.Element
	guesses map[string]bringin.Guess
	notes   []bringin.Note
}

// build makes the elements of a plan's parts for a screen.
func build(l *live.Live, of *screen.Document, root *picture.Part) (*made, error) {
	out := &made{guesses: map[string]bringin.Guess{}}
	barred := false
	for _, shell := range l.W.Shells(of) {
		shell.Root.Walk(func(e, _ *screen.Element) bool {
			c, ok := l.Cat.Component(e.Type)
			barred = barred || ok && c.Role == "bar"
			return true
		})
	}
	m := &markup{wide: root.At.W, leave: func(p *picture.Part) bool {
		if p.Becomes == picture.Leave {
			return true
		}
		if barred && p.Becomes == "" && (p.Look == picture.Bar || p.Look == picture.Side) {
			out.notes = append(out.notes, bringin.Note{What: p.Name, Why: "the screen's shell has a bar of its own"})
			return true
		}
		return false
	}}
	top := *root
	for i := range top.Parts {
		m.part(&top.Parts[i], around{})
	}
	if m.Len() == 0 {
		return out, nil
	}
	chosen, pieces := map[string]string{}, map[string]string{}
	root.Walk(func(p, _ *picture.Part) {
		switch {
		case p.Becomes == "" || p.Becomes == picture.Leave:
		case strings.HasPrefix(p.Becomes, screen.PiecePrefix):
			pieces[prefix+p.ID] = p.Becomes
		default:
			chosen[prefix+p.ID] = p.Becomes
		}
	})
	taken := map[string]bool{}
	of.Root.Walk(func(e, _ *screen.Element) bool {
		taken[e.Name] = !strings.HasPrefix(e.ID, prefix)
		return true
	})
	res, err := bringin.Read([]byte(m.String()), l.Kit, bringin.Options{Prefix: prefix, Mark: mark, Chosen: chosen, Taken: taken})
	if err != nil {
		return nil, err
	}
	out.roots = res.Roots
	for _, n := range res.LeftOut {
		if !strings.HasPrefix(n.What, "style of") { // ours, and read
			out.notes = append(out.notes, n)
		}
	}
	for _, g := range res.Guesses {
		out.guesses[strings.TrimPrefix(g.Element, prefix)] = g
	}
	types := map[string]string{}
	for _, r := range out.roots {
		r.Walk(func(e, _ *screen.Element) bool {
			types[e.ID] = e.Type
			if piece := pieces[e.ID]; piece != "" {
				types[e.ID] = piece
				e.Type, e.Text, e.Props, e.Children = piece, screen.Value{}, nil, nil
				return false
			}
			return true
		})
	}
	out.notes = append(out.notes, unmade(root, types)...)
	for _, n := range res.Needs {
		if !strings.HasPrefix(n.What, "the icon ") {
			out.notes = append(out.notes, n)
		}
	}
	return out, nil
}

// unmade tells of the icons that could not be made, because a picture does not say which one
// it is, and of decisions that the kit or what stands around does not allow.
func unmade(root *picture.Part, types map[string]string) []bringin.Note {
	var out []bringin.Note
	root.Walk(func(p, _ *picture.Part) {
		typ, why := types[prefix+p.ID], ""
		switch {
		case p.Becomes == picture.Leave:
		case p.Becomes != "" && typ != p.Becomes:
			why = "it cannot become " + p.Becomes + " here"
		case p.Look == picture.Icon && typ == "" && p.Text == "":
			why = "write which icon it is as its words, by its name or meaning"
		case p.Look == picture.Icon && typ == "":
			why = fmt.Sprintf("the kit has no icon called %q, nor one that means it", p.Text)
		}
		if why != "" {
			out = append(out, bringin.Note{What: p.Name, Why: why})
		}
	})
	return out
}

// Show tells what becomes of a plan as it is, whether the screen was made of it or not.
func Show(l *live.Live, p *picture.Plan) (*Shown, error) {
	of, ok := l.W.Doc("screen:" + p.Screen)
	if !ok {
		return nil, fmt.Errorf("there is no screen %s", p.Screen)
	}
	m, err := build(l, of, &p.Root)
	if err != nil {
		return nil, err
	}
	out := &Shown{Choices: map[string][]Choice{}, Became: map[string]string{}, Types: map[string]string{}, Notes: m.notes, Steps: map[string]string{}}
	if out.Notes == nil {
		out.Notes = []bringin.Note{}
	}
	of.Root.Walk(func(e, _ *screen.Element) bool {
		if id, ok := strings.CutPrefix(e.ID, prefix); ok && p.Root.Find(id) != nil {
			out.Became[id] = e.ID
		}
		return true
	})
	types := out.Types
	for _, r := range m.roots {
		r.Walk(func(e, _ *screen.Element) bool { types[strings.TrimPrefix(e.ID, prefix)] = e.Type; return true })
	}
	p.Root.Walk(func(q, _ *picture.Part) {
		out.Choices[q.ID] = choices(l, q, types[q.ID], m.guesses[q.ID])
		if len(q.Parts) > 1 && q.Gap <= widest {
			out.Steps[q.ID] = step(l.Kit, q.Gap)
		}
	})
	return out, nil
}

// looks are the words by which a component for a look is found, the likeliest first.
var looks = map[picture.Look][]string{
	picture.Group:   {"stack", "row", "grid", "section"},
	picture.Panel:   {"card", "stat", "form", "filter panel", "alert", "section"},
	picture.Bar:     {"navbar", "footer", "page header"},
	picture.Side:    {"side navigation", "sidebar", "drawer"},
	picture.Table:   {"table", "list"},
	picture.Row:     {"row"},
	picture.Heading: {"heading", "page header"},
	picture.Text:    {"text", "link", "paragraph"},
	picture.Button:  {"button", "link", "menu"},
	picture.Field:   {"text input", "select", "date", "number", "autocomplete", "text area"},
	picture.Chip:    {"chip", "badge", "tag"},
	picture.Avatar:  {"avatar", "badge", "icon"},
	picture.Icon:    {"icon", "icon button", "checkbox", "radio"},
	picture.Picture: {"picture", "chart", "gallery", "hero"},
	picture.Line:    {"divider", "progress"},
}

// choices ranks what a box may become: what it would be now, what its look suggests, each
// weighed by how often the team's screens use it.
func choices(l *live.Live, p *picture.Part, now string, g bringin.Guess) []Choice {
	var out []Choice
	add := func(typ string, certainty float64, why string) {
		c, ok := l.Cat.Component(typ)
		if !ok || slices.ContainsFunc(out, func(o Choice) bool { return o.Type == typ }) {
			return
		}
		out = append(out, Choice{Type: typ, Title: c.Title, Certainty: certainty, Uses: l.Index.CountOf(typ).Uses, Why: why})
	}
	if now != "" {
		certainty, why := g.Certainty, g.Why
		if why == "" {
			certainty, why = 0.6, "as a "+string(p.Look)+" is laid out"
		}
		add(now, certainty, why)
	}
	first := len(out)
	for i, word := range looks[p.Look] {
		if c := l.Component(strings.Fields(word)...); c != nil {
			add(c.Tag, 0.5/float64(i+1), "a "+string(p.Look)+" may be one")
		}
	}
	for _, o := range g.Others {
		add(o.Type, o.Certainty, "it reads like one")
	}
	rest := out[first:]
	slices.SortStableFunc(rest, func(a, b Choice) int {
		weight := func(c Choice) float64 { return c.Certainty * (1 + float64(min(c.Uses, 50))/50) }
		switch x, y := weight(a), weight(b); {
		case x > y:
			return -1
		case x < y:
			return 1
		}
		return 0
	})
	return out[:min(len(out), 8)]
}

// step is the spacing step of the kit that is nearest to a number of pixels, or "".
func step(k *kit.Kit, pixels int) string {
	return k.Tokens.NearestStep("space", float64(pixels), "")
}

// Stand is the change that makes a screen stand as its plan says, and what of it could not be
// done. Only what the plan changed since it last stood is changed: what people did to the
// elements meanwhile stays.
func Stand(l *live.Live, id string) (change.Change, []string, error) {
	c := change.Change{}
	p, ok := l.W.Plan(id)
	of, there := l.W.Doc("screen:" + id)
	if !ok || !there {
		return c, nil, fmt.Errorf("the screen %s is planned from no picture", id)
	}
	then, err := build(l, of, &p.Root)
	if err != nil {
		return c, nil, err
	}
	was := &made{}
	if p.Stood != nil {
		if was, err = build(l, of, p.Stood); err != nil {
			return c, nil, err
		}
	}
	spaced(l.Kit, then.roots, &p.Root)
	if p.Stood != nil {
		spaced(l.Kit, was.roots, p.Stood)
	}
	at := *of.Root
	at.Children = was.roots
	to := *of.Root
	to.Children = then.roots
	work := of.Root
	var edits []screen.Edit
	var left []string
	for _, e := range screen.Between(&at, &to) {
		// What stood before there was a plan stays, and stands first.
		if e.Op == screen.Insert && e.Parent == of.Root.ID && e.After == "" && p.Stood == nil && len(work.Children) > 0 {
			e.After = work.Children[len(work.Children)-1].ID
		}
		next, _, err := screen.Apply(work, e, l.Cat)
		if err != nil {
			left = append(left, err.Error())
			continue
		}
		work = next
		edits = append(edits, e)
	}
	stood := p.Root
	next := *p
	next.Stood = &stood
	c.Title = "Make " + of.Title + " of its picture"
	if len(edits) > 0 {
		c.Steps = append(c.Steps, &change.Edit{Doc: of.Address(), Base: of.Revision, Edits: edits})
	}
	c.Steps = append(c.Steps, &change.PutPlan{Plan: next})
	return c, left, nil
}

// spaced gives layouts the spacing step nearest to the gaps in the picture.
func spaced(k *kit.Kit, roots []*screen.Element, root *picture.Part) {
	for _, r := range roots {
		r.Walk(func(e, _ *screen.Element) bool {
			p := root.Find(strings.TrimPrefix(e.ID, prefix))
			if p == nil || p.Gap == 0 || !slices.Contains([]string{"stack", "grid", "row"}, e.Type) {
				return true
			}
			if s := step(k, p.Gap); s != "" && p.Gap <= widest {
				if _, set := e.Prop("gap"); !set {
					e.Props = append(e.Props, screen.Prop{Name: "gap", Value: screen.Lit(s)})
					screen.SortProps(e.Props)
				}
			}
			return true
		})
	}
}

// Piece is the change that makes a piece of a box, and has the box become it: another
// picture's box may become the same.
func Piece(l *live.Live, id, part, name, title string) (change.Change, error) {
	c := change.Change{}
	p, ok := l.W.Plan(id)
	of, there := l.W.Doc("screen:" + id)
	if !ok || !there {
		return c, fmt.Errorf("the screen %s is planned from no picture", id)
	}
	next := *p
	next.Root = p.Root.Copy()
	box := next.Root.Find(part)
	if box == nil {
		return c, fmt.Errorf("the plan has no box %s", part)
	}
	title = strings.TrimSpace(title)
	if title == "" {
		return c, errors.New("the piece has no name")
	}
	if _, taken := l.W.Doc("piece:" + name); taken {
		return c, fmt.Errorf("there is a piece %s already; choose it, or another name", name)
	}
	m, err := build(l, of, &picture.Part{ID: "root", At: p.Root.At, Parts: []picture.Part{*box}})
	if err != nil {
		return c, err
	}
	spaced(l.Kit, m.roots, box)
	if len(m.roots) == 0 {
		return c, fmt.Errorf("nothing stands in %s", box.Name)
	}
	root := m.roots[0]
	if len(m.roots) > 1 {
		root = &screen.Element{ID: "root", Type: "parts", Children: m.roots}
	}
	box.Becomes = screen.PiecePrefix + name
	c.Title = "A piece of " + box.Name
	c.Steps = []change.Step{
		&change.Create{Kind: screen.PieceDoc, Document: &screen.Document{
			Kind: screen.PieceDoc, ID: name, Title: title, App: of.App, Root: root,
		}},
		&change.PutPlan{Plan: next},
	}
	return c, nil
}
