package piece

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/model"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// Extract makes a piece of a part and puts a use of it there, and in place of the
// twins. What is shown stays the same.
func (l work) extract(o Order) (change.Change, error) {
	d, _, list, err := l.part(o.Run)
	if err != nil {
		return change.Change{}, err
	}
	if err := model.CheckID(o.ID); err != nil {
		return change.Change{}, err
	}
	if _, taken := l.W.Doc("piece:" + o.ID); taken {
		return change.Change{}, fmt.Errorf("there is a piece %q already", o.ID)
	}
	x, err := l.propose(o.Run)
	if err != nil {
		return change.Change{}, err
	}
	left := map[[2]string]string{}
	names := map[string]bool{}
	for _, p := range o.Props {
		if !screen.ValidName(p.Name) {
			return change.Change{}, fmt.Errorf(
				"the prop %q: a name begins with a letter and holds letters, digits and dashes",
				p.Name,
			)
		}
		if names[p.Name] {
			return change.Change{}, fmt.Errorf("two props are called %q", p.Name)
		}
		names[p.Name] = true
		left[[2]string{p.Element, p.Prop}] = p.Name
	}
	holes := map[string]Hole{}
	for _, h := range o.Holes {
		holes[h.key()] = h
	}
	for _, p := range x.Props {
		if p.Must && left[[2]string{p.Element, p.Prop}] == "" && !underHole(list, holes, p.Element) {
			return change.Change{}, fmt.Errorf(
				"%s of %s speaks of a record from outside: it has to be a prop",
				orText(p.Prop),
				p.Of,
			)
		}
	}
	own, err := l.tied(d, list)
	if err != nil {
		return change.Change{}, err
	}
	// What some twin does not set at all the piece cannot set either: all uses do.
	bare := map[[2]string]bool{}
	runs := make([][]*screen.Element, len(o.Twins))
	docs := make([]*screen.Document, len(o.Twins))
	for i, t := range o.Twins {
		if docs[i], _, runs[i], err = l.part(t); err != nil {
			return change.Change{}, err
		}
		tied, err := l.tied(docs[i], runs[i])
		if err != nil || len(list) != len(runs[i]) || !l.sameKinds(list, runs[i]) || !own.like(tied, l.matched(list, runs[i])) {
			return change.Change{}, fmt.Errorf("%s: another arrangement stands there", docs[i].Title)
		}
		var diffs []difference
		for j := range list {
			l.compare(list[j], runs[i][j], l.matched(list, runs[i]), &diffs)
		}
		for _, df := range diffs {
			if !df.hole && df.value.Kind == screen.None {
				bare[[2]string{df.element, df.prop}] = true
			}
		}
	}
	outside := func(e *screen.Element, prop string) bool {
		key := [2]string{e.ID, prop}
		return left[key] != "" && (bare[key] || model.ValueOf(e, prop).Kind == screen.Expr)
	}
	piece := &screen.Document{Kind: screen.PieceDoc, ID: o.ID, Title: o.Title}
	taken := map[string]bool{}
	for _, e := range list {
		e.Walk(func(c, _ *screen.Element) bool { taken[c.Name] = true; return true })
	}
	var filling []*screen.Element // what goes into the slots of the first use
	build := func(list []*screen.Element) []*screen.Element {
		out := make([]*screen.Element, len(list))
		for i, e := range list {
			out[i] = l.pieceOf(e, outside, holes, taken, &filling)
		}
		return out
	}
	roots := build(list)
	for _, r := range roots {
		r.Slot = ""
	}
	if len(roots) == 1 {
		piece.Root = roots[0]
	} else {
		piece.Root = &screen.Element{ID: "parts", Type: "parts", Children: roots}
	}
	for _, p := range o.Props {
		if e, _ := piece.Root.Find(p.Element); e != nil {
			piece.Props = append(piece.Props, p)
		}
	}
	c := change.Change{Title: "Extract " + o.Title, Steps: []change.Step{&change.Create{Document: piece}}}
	steps := map[string]*change.Edit{}
	var order []string
	put := func(doc string, edits []screen.Edit) {
		if steps[doc] == nil {
			steps[doc] = &change.Edit{Doc: doc}
			order = append(order, doc)
		}
		steps[doc].Edits = append(steps[doc].Edits, edits...)
	}
	used := map[string]map[string]bool{}
	gave := map[string]string{}            // what stands in place of an element, by its document and id
	gone := map[string]bool{}              // elements that give way, likewise
	lent := map[string]map[string]string{} // what documents call the controls of the piece, by their names so far
	use := func(u place, values map[string]screen.Value, filling []*screen.Element) error {
		doc, list := u.doc, u.list
		key := string(doc.Kind) + ":" + doc.ID
		if used[key] == nil {
			used[key] = map[string]bool{}
			doc.Root.Walk(func(e, _ *screen.Element) bool {
				used[key][e.ID], used[key]["="+e.Name] = true, true
				return true
			})
		}
		tree := &screen.Element{
			ID:       screen.FreeName(used[key], o.ID),
			Type:     screen.PiecePrefix + o.ID,
			Slot:     list[0].Slot,
			Children: filling,
		}
		for name, v := range values {
			tree.Props = append(tree.Props, screen.Prop{Name: name, Value: v})
		}
		screen.SortProps(tree.Props)
		names, err := u.wire(tree, piece, used[key])
		if err != nil {
			return err
		}
		if lent[key] == nil {
			lent[key] = map[string]string{}
		}
		maps.Copy(lent[key], names)
		edits := replaceBy(doc, list, tree)
		for i := range edits {
			// A twin that stood before it may have given way already.
			if now, gone := gave[key+"#"+edits[i].After]; gone && edits[i].Op == screen.Insert {
				edits[i].After = now
			}
		}
		for _, e := range list {
			gave[key+"#"+e.ID] = tree.ID
			e.Walk(func(o, _ *screen.Element) bool { gone[key+"#"+o.ID] = true; return true })
		}
		put(key, edits)
		return nil
	}
	values := map[string]screen.Value{}
	for _, p := range piece.Props {
		e, _ := d.Root.Find(p.Element)
		if v := model.ValueOf(e, p.Prop); outside(e, p.Prop) && v.Kind != screen.None {
			values[p.Name] = v
		}
	}
	if err := use(place{d, list, own, nil}, values, filling); err != nil {
		return change.Change{}, err
	}
	for i, run := range runs {
		given, filling, err := l.valuesOf(list, run, left, holes, values)
		if err != nil {
			return change.Change{}, fmt.Errorf("%s: %w", docs[i].Title, err)
		}
		tied, err := l.tied(docs[i], run)
		if err == nil {
			err = use(place{docs[i], run, tied, l.matched(list, run)}, given, filling)
		}
		if err != nil {
			return change.Change{}, fmt.Errorf("%s: %w", docs[i].Title, err)
		}
	}
	for _, doc := range order {
		d, _ := l.W.Doc(doc)
		edits := slices.DeleteFunc(resolve.Respoken(d.Root, lent[doc]), func(e screen.Edit) bool { return gone[doc+"#"+e.ID] })
		for _, e := range edits {
			put(doc, []screen.Edit{screen.Following(e)})
		}
		c.Steps = append(c.Steps, steps[doc])
	}
	return c, nil
}

func orText(prop string) string {
	switch prop {
	case "":
		return "the text"
	case screen.ShowProp:
		return "the visibility"
	}
	return prop
}

// underHole tells whether an element goes into a slot.
func underHole(list []*screen.Element, holes map[string]Hole, id string) bool {
	for _, root := range list {
		path := root.Path(id)
		for i, e := range path {
			if _, ok := holes[e.ID]; ok {
				return true
			}
			if i > 0 {
				if _, ok := holes[path[i-1].ID+"|"+e.Slot]; ok {
					return true
				}
			}
		}
	}
	return false
}

// pieceOf is an element as it stands in the piece: what is left to the uses that is
// computed falls away, holes become outlets, and all bear names.
func (l work) pieceOf(
	e *screen.Element,
	outside func(*screen.Element, string) bool,
	holes map[string]Hole,
	taken map[string]bool,
	filling *[]*screen.Element,
) *screen.Element {
	if h, ok := holes[e.ID]; ok {
		into := *e
		into.Slot = h.Name
		*filling = append(*filling, &into)
		return &screen.Element{ID: e.ID + "-slot", Type: "outlet", Slot: e.Slot, Name: h.Name}
	}
	c := *e
	c.Origin, c.Offset = nil, 0
	if c.Name == "" {
		c.Name = screen.FreeName(taken, screen.PlainName(l.title(e)))
	}
	if outside(e, "") {
		c.Text = screen.Value{}
	}
	c.Props = slices.DeleteFunc(slices.Clone(e.Props), func(p screen.Prop) bool { return outside(e, p.Name) })
	if outside(e, screen.ShowProp) {
		c.Show = ""
	}
	c.Children = nil
	var open []string // slots left to the uses
	for key, h := range holes {
		if h.All && key == e.ID+"|"+h.In {
			open = append(open, h.In)
		}
	}
	slices.Sort(open)
	for _, slot := range append(slotsOf(e), open...) {
		if !slices.Contains(open, slot) {
			for _, child := range inSlot(e, slot) {
				c.Children = append(c.Children, l.pieceOf(child, outside, holes, taken, filling))
			}
			continue
		}
		if slices.ContainsFunc(c.Children, func(o *screen.Element) bool { return o.Slot == slot }) {
			continue // stands already
		}
		name := holes[e.ID+"|"+slot].Name
		for _, child := range inSlot(e, slot) {
			into := *child
			into.Slot = name
			*filling = append(*filling, &into)
		}
		c.Children = append(
			c.Children,
			&screen.Element{ID: strings.TrimSuffix(e.ID+"-slot-"+slot, "-"), Type: "outlet", Slot: slot, Name: name},
		)
	}
	slices.SortStableFunc(c.Children, func(a, b *screen.Element) int { return strings.Compare(a.Slot, b.Slot) })
	return &c
}

// valuesOf is what a use in place of a twin is set to. A difference that is neither a
// prop nor a slot is an error, so that nothing is lost unseen.
func (l work) valuesOf(
	list, run []*screen.Element,
	left map[[2]string]string,
	holes map[string]Hole,
	own map[string]screen.Value,
) (map[string]screen.Value, []*screen.Element, error) {
	var diffs []difference
	for i := range list {
		l.compare(list[i], run[i], l.matched(list, run), &diffs)
	}
	values := map[string]screen.Value{}
	for name, v := range own {
		values[name] = v
	}
	for _, df := range diffs {
		if df.hole {
			if _, ok := holes[df.key()]; !ok && !underHole(list, holes, df.element) {
				return nil, nil, fmt.Errorf("%s, and the piece has no slot there", df.words)
			}
			continue
		}
		if underHole(list, holes, df.element) {
			continue
		}
		name := left[[2]string{df.element, df.prop}]
		if name == "" {
			return nil, nil, fmt.Errorf("%s, and the piece has no prop for it", df.words)
		}
		if df.value.Kind == screen.None {
			delete(values, name)
		} else {
			values[name] = df.value
		}
	}
	var filling []*screen.Element
	for i := range list {
		fill(list[i], run[i], holes, &filling)
	}
	return values, filling, nil
}

// fill gathers what stands in b where the piece made of a has slots.
func fill(a, b *screen.Element, holes map[string]Hole, out *[]*screen.Element) {
	put := func(e *screen.Element, slot string) {
		into := *e
		into.Slot = slot
		*out = append(*out, &into)
	}
	if h, ok := holes[a.ID]; ok {
		put(b, h.Name)
		return
	}
	for _, slot := range slotsOf(a, b) {
		x, y := inSlot(a, slot), inSlot(b, slot)
		if h, ok := holes[a.ID+"|"+slot]; ok {
			for _, c := range y {
				put(c, h.Name)
			}
			continue
		}
		for i := range min(len(x), len(y)) {
			fill(x[i], y[i], holes, out)
		}
	}
}

// replaceBy are the edits that put one tree where some neighbours stand.
func replaceBy(d *screen.Document, list []*screen.Element, trees ...*screen.Element) []screen.Edit {
	_, parent := d.Root.Find(list[0].ID)
	after := ""
	for _, c := range parent.Children {
		if c == list[0] {
			break
		}
		if c.Slot == list[0].Slot {
			after = c.ID
		}
	}
	var edits []screen.Edit
	for _, e := range list {
		edits = append(edits, screen.Edit{Op: screen.Remove, ID: e.ID})
	}
	for _, tree := range trees {
		// What stood may stand, whatever the kit holds against it: it is only put otherwise.
		edits = append(
			edits,
			screen.Following(screen.Edit{Op: screen.Insert, Parent: parent.ID, After: after, Tree: tree}),
		)
		after = tree.ID
	}
	return edits
}
