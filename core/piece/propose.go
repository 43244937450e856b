package piece

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// propose says what a piece made of a part would be, and where else the same
// stands. What differs there becomes a prop or a slot.
func (l work) propose(p Run) (*Extraction, error) {
	d, _, list, err := l.part(p)
	if err != nil {
		return nil, err
	}
	t, err := l.tied(d, list)
	if err != nil {
		return nil, err
	}
	x := &Extraction{Tells: t.words(), Props: []Offered{}, Holes: []Hole{}, Twins: []Twin{}, Taken: []string{}}
	for _, o := range l.W.Docs {
		if o.Kind == screen.PieceDoc {
			x.Taken = append(x.Taken, o.ID)
		}
	}
	inner := map[string]*screen.Element{}
	for _, root := range list {
		var bad error
		root.Walk(func(e, _ *screen.Element) bool {
			inner[e.ID] = e
			x.Size++
			if e.Type == "outlet" {
				bad = fmt.Errorf("the outlet stays where it is; a piece cannot hold it")
			}
			return bad == nil
		})
		if bad != nil {
			return nil, bad
		}
	}
	if name := offeredIn(d, list); name != "" {
		return nil, fmt.Errorf("%s leaves %q of this part to its uses; take that prop away first", d.Title, name)
	}
	offers := map[[2]string]*Offered{}
	var order [][2]string
	offer := func(e *screen.Element, prop string, v screen.Value) *Offered {
		key := [2]string{e.ID, prop}
		if offers[key] == nil {
			offers[key] = &Offered{
				Key:     e.ID + " " + prop,
				Element: e.ID,
				Prop:    prop,
				Of:      l.title(e),
				Value:   v.Fixed(),
			}
			order = append(order, key)
		}
		return offers[key]
	}
	for _, root := range list {
		l.offered(root, t, false, offer)
	}
	holes := map[string]*Hole{}
	var holeOrder []string
	for _, t := range l.twins(d, list, t) {
		twin := Twin{
			Run:         t.part,
			Title:       t.title,
			Equal:       len(t.diffs) == 0,
			Differences: []string{},
			Needs:       []string{},
		}
		for _, df := range t.diffs {
			twin.Differences = append(twin.Differences, df.words)
			e := inner[df.element]
			if !df.hole {
				o := offer(e, df.prop, model.ValueOf(e, df.prop))
				o.Others++
				twin.Needs = append(twin.Needs, o.Key)
				continue
			}
			key := df.key()
			if holes[key] == nil {
				holes[key] = &Hole{Key: key, Element: df.element, All: df.all, In: df.in, Of: l.title(e)}
				holeOrder = append(holeOrder, key)
			}
			holes[key].Others++
			twin.Needs = append(twin.Needs, key)
		}
		x.Twins = append(x.Twins, twin)
	}
	names := map[string]bool{}
	for _, key := range order {
		o := offers[key]
		o.Name = screen.FreeName(names, propName(inner[o.Element], o, l.title(inner[o.Element])))
		x.Props = append(x.Props, *o)
	}
	slots := map[string]bool{}
	for _, key := range holeOrder {
		h := holes[key]
		if len(holeOrder) > 1 {
			h.Name = screen.FreeName(slots, screen.PlainName(h.Of))
		}
		x.Holes = append(x.Holes, *h)
	}
	x.Title = l.pieceTitle(list)
	ids := map[string]bool{}
	for _, id := range x.Taken {
		ids[id] = true
	}
	x.ID = screen.FreeName(ids, screen.PlainName(x.Title))
	return x, nil
}

// offered calls offer for all texts and settings that could be left to the uses;
// those that speak of a record from outside must be.
func (l work) offered(e *screen.Element, t *ties, inRepeat bool, offer func(*screen.Element, string, screen.Value) *Offered) {
	inRepeat = inRepeat || e.Repeat != nil
	if e.Text.Kind != screen.None {
		offer(e, "", e.Text).Must = !inRepeat && t.outside(e.Text)
	}
	if c, ok := l.Cat.Component(e.Type); !ok || c.Level != kit.Layout {
		for _, p := range e.Props {
			offer(e, p.Name, p.Value).Must = !inRepeat && t.outside(p.Value)
		}
	}
	if v := (screen.Value{Kind: screen.Expr, Text: e.Show}); e.Show != "" && !inRepeat && t.outside(v) {
		offer(e, screen.ShowProp, v).Must = true
	}
	for _, c := range e.Children {
		l.offered(c, t, inRepeat, offer)
	}
}

// propName is what a piece's prop is called: by the inner element's name, or what it
// is, and the prop.
func propName(e *screen.Element, o *Offered, title string) string {
	of := e.Name
	if of == "" {
		of = screen.PlainName(title)
	}
	switch o.Prop {
	case "":
		return of
	case screen.ShowProp:
		return "with-" + of
	}
	return of + "-" + strings.ReplaceAll(o.Prop, "@", "-")
}

// pieceTitle names a piece after what stands in it: the component that is least a layout.
func (l work) pieceTitle(list []*screen.Element) string {
	title := ""
	for _, root := range list {
		root.Walk(func(e, _ *screen.Element) bool {
			if c, ok := l.Cat.Component(e.Type); title == "" && ok && c.Level != kit.Layout {
				title = "own " + c.Title
			}
			return title == ""
		})
	}
	if title == "" {
		title = "own part"
	}
	return strings.ToUpper(title[:1]) + title[1:]
}

type twin struct {
	part  Run
	title string
	diffs []difference
}

// twins finds where the same stands as in a part, or what is half the same or more.
func (l work) twins(d *screen.Document, list []*screen.Element, own *ties) []twin {
	size, ownRuns := 0, map[*screen.Element]bool{}
	for _, e := range list {
		size += e.Count()
		e.Walk(func(o, _ *screen.Element) bool { ownRuns[o] = true; return true })
	}
	var out []twin
	for _, o := range l.W.Docs {
		if o.Removed {
			continue
		}
		o.Root.Walk(func(e, _ *screen.Element) bool {
			if ownRuns[e] || len(out) >= twinsMost {
				return false
			}
			for i := 0; i+len(list) <= len(e.Children); i++ {
				run := e.Children[i : i+len(list)]
				if ownRuns[run[0]] || ownRuns[run[len(run)-1]] || !l.sameKinds(list, run) ||
					offeredIn(o, run) != "" {
					continue
				}
				tied, err := l.tied(o, run)
				if err != nil || !own.like(tied, l.matched(list, run)) {
					continue
				}
				t := twin{part: Run{Doc: string(o.Kind) + ":" + o.ID}, title: o.Title}
				same, ids := 0, l.matched(list, run)
				for j := range run {
					same += l.compare(list[j], run[j], ids, &t.diffs)
					t.part.Elements = append(t.part.Elements, run[j].ID)
				}
				if 2*same >= size && len(t.diffs) <= 3*size {
					out = append(out, t)
					for _, m := range run { // twins do not overlap
						m.Walk(func(o, _ *screen.Element) bool { ownRuns[o] = true; return true })
					}
				}
			}
			return true
		})
	}
	// The most alike first; what another arrangement stands in is less alike than what
	// says something else.
	weight := func(t twin) int {
		n := len(t.diffs)
		for _, d := range t.diffs {
			if d.hole {
				n += 2
			}
		}
		return n
	}
	slices.SortStableFunc(out, func(a, b twin) int { return weight(a) - weight(b) })
	return out
}

// offeredIn names a prop by which a piece already offers something of a part.
func offeredIn(d *screen.Document, list []*screen.Element) string {
	for _, p := range d.Props {
		for _, root := range list {
			if e, _ := root.Find(p.Element); e != nil {
				return p.Name
			}
		}
	}
	return ""
}
