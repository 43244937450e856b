// Package piece makes pieces out of screens: what a piece made of a part would be, where
// the same stands elsewhere, and how a use is cut loose again.
package piece

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// work is the workspace that pieces are made in.
type work struct{ *live.Live }

// Propose works out what a piece made of a part would be, and where else the same stands.
func Propose(l *live.Live, p Run) (*Extraction, error) { return work{l}.propose(p) }

// Extract is the change that makes a piece of a part, and uses it there and in place of
// its twins.
func Extract(l *live.Live, o Order) (change.Change, error) { return work{l}.extract(o) }

// Loose is the change that cuts a use loose from its piece.
func Loose(l *live.Live, doc, element string) (change.Change, error) {
	return work{l}.loose(doc, element)
}

// Run names elements that stand beside each other on a document.
type Run struct {
	Doc      string   `json:"doc"`
	Elements []string `json:"elements"`
}

// Offered is a setting of an inner element that a piece may leave to its uses.
type Offered struct {
	Key     string `json:"key"`
	Element string `json:"element"`
	Prop    string `json:"prop"` // empty for the text, "@show" for the visibility
	Name    string `json:"name"` // it would bear in the piece
	Of      string `json:"of"`   // the inner element, in words
	Value   string `json:"value"`
	Others  int    `json:"others"` // twins in which it differs
	Must    bool   `json:"must"`   // it speaks of a record from outside
}

// Hole is a part that differs from twin to twin and may become a slot.
type Hole struct {
	Key     string `json:"key,omitempty"`
	Element string `json:"element"`
	All     bool   `json:"all"` // all that stands in a slot of the element; else the element itself
	In      string `json:"in"`  // that slot
	Name    string `json:"name"`
	Of      string `json:"of"`
	Others  int    `json:"others"`
}

// key tells a hole from others.
func (h Hole) key() string {
	if h.All {
		return h.Element + "|" + h.In
	}
	return h.Element
}

// Twin is a place where the same stands, or nearly.
type Twin struct {
	Run
	Title       string   `json:"title"` // of the document
	Equal       bool     `json:"equal"`
	Differences []string `json:"differences"`
	Needs       []string `json:"needs"` // props and slots that it takes, by Offered.Key and Hole.Key
}

// Extraction says what a piece made of a part would be.
type Extraction struct {
	ID    string    `json:"id"`
	Title string    `json:"title"`
	Size  int       `json:"size"`
	Props []Offered `json:"props"`
	Holes []Hole    `json:"holes"`
	Twins []Twin    `json:"twins"`
	Taken []string  `json:"taken"` // ids of pieces there are
	Tells []string  `json:"tells"` // controls of it that the rest of the screen speaks of
}

// Order is an extraction as somebody decided it.
type Order struct {
	Run
	ID    string             `json:"id"`
	Title string             `json:"title"`
	Props []screen.PieceProp `json:"props"`
	Holes []Hole             `json:"holes"`
	Twins []Run              `json:"twins"`
}

// twinsMost bounds how many twins are listed.
const twinsMost = 60

// part finds neighbours in one slot, in their order, and their parent.
func (l work) part(p Run) (d *screen.Document, parent *screen.Element, list []*screen.Element, err error) {
	d, ok := l.W.Doc(p.Doc)
	if !ok {
		return nil, nil, nil, fmt.Errorf("there is no %s", p.Doc)
	}
	if len(p.Elements) == 0 {
		return nil, nil, nil, fmt.Errorf("no element is chosen")
	}
	for _, id := range p.Elements {
		el, up := d.Root.Find(id)
		switch {
		case el == nil:
			return nil, nil, nil, fmt.Errorf("there is no element %q on %s", id, d.Title)
		case up == nil:
			return nil, nil, nil, fmt.Errorf("the root of %s stays where it is; choose what stands in it", d.Title)
		case parent != nil && (up != parent || el.Slot != list[0].Slot):
			return nil, nil, nil, fmt.Errorf(
				"a piece is made of neighbours in one place; %s stands elsewhere",
				l.title(el),
			)
		}
		parent = up
		list = append(list, el)
	}
	at := func(e *screen.Element) int { return slices.Index(parent.Children, e) }
	slices.SortFunc(list, func(a, b *screen.Element) int { return at(a) - at(b) })
	between := 0
	for i := at(list[0]); i <= at(list[len(list)-1]); i++ {
		if parent.Children[i].Slot == list[0].Slot {
			between++
		}
	}
	if between != len(list) {
		return nil, nil, nil, fmt.Errorf("a piece is made of neighbours; something else stands between them")
	}
	return d, parent, list, nil
}

func (l work) title(e *screen.Element) string { return resolve.TitleOf(e, l.Cat) }

// difference is where a twin departs from the part that a piece is made of.
type difference struct {
	element, prop string // of the part
	value         screen.Value
	hole          bool   // the element is another altogether
	all           bool   // what stands in a slot of it is
	in            string // that slot
	words         string
}

func (d difference) key() string {
	return Hole{Element: d.element, All: d.all, In: d.in}.key()
}

// matched says which element of one part stands for which of its twin: what opens its
// own dialog is no difference.
func (l work) matched(list, run []*screen.Element) map[string]string {
	ids := map[string]string{}
	var pair func(a, b *screen.Element)
	pair = func(a, b *screen.Element) {
		ids[b.ID] = a.ID
		for _, slot := range slotsOf(a, b) {
			x, y := inSlot(a, slot), inSlot(b, slot)
			for i := range min(len(x), len(y)) {
				if l.alike(x[i], y[i]) {
					pair(x[i], y[i])
				}
			}
		}
	}
	for i := range min(len(list), len(run)) {
		pair(list[i], run[i])
	}
	return ids
}

// compare lists where b departs from a, whose elements stand for those of b by ids. It
// returns how many elements correspond.
func (l work) compare(a, b *screen.Element, ids map[string]string, out *[]difference) int {
	add := func(prop string, v screen.Value, words string) {
		*out = append(*out, difference{element: a.ID, prop: prop, value: v, words: words})
	}
	if a.Text != b.Text {
		add("", b.Text, fmt.Sprintf("%s says “%s”", l.title(a), b.Text.Fixed()))
	}
	names := map[string]bool{}
	for _, p := range a.Props {
		names[p.Name] = true
		v, _ := b.Prop(p.Name)
		if p.Name == kit.Does {
			v.Text = screen.Aim(v.Text, ids)
		}
		if v != p.Value {
			add(p.Name, v, fmt.Sprintf("%s: %s %s", l.title(a), p.Name, orDefault(v)))
		}
	}
	for _, p := range b.Props {
		if !names[p.Name] {
			add(p.Name, p.Value, fmt.Sprintf("%s: %s %s", l.title(a), p.Name, p.Value.Fixed()))
		}
	}
	same := 1
	for _, slot := range slotsOf(a, b) {
		x, y := inSlot(a, slot), inSlot(b, slot)
		if len(x) != len(y) || len(x) == 1 && !l.alike(x[0], y[0]) {
			*out = append(
				*out,
				difference{
					element: a.ID,
					hole:    true,
					all:     true,
					in:      slot,
					words:   fmt.Sprintf("other things stand in %s of %s", orMain(slot), l.title(a)),
				},
			)
			continue
		}
		for i := range x {
			if l.alike(x[i], y[i]) {
				same += l.compare(x[i], y[i], ids, out)
			} else { // each that does not correspond is a hole of its own
				*out = append(*out, difference{element: x[i].ID, hole: true, words: fmt.Sprintf("%s in place of %s", l.title(y[i]), l.title(x[i]))})
			}
		}
	}
	return same
}

func orMain(slot string) string {
	if slot == "" {
		return "the main slot"
	}
	return slot
}

func slotsOf(list ...*screen.Element) []string {
	var out []string
	for _, e := range list {
		for _, c := range e.Children {
			if !slices.Contains(out, c.Slot) {
				out = append(out, c.Slot)
			}
		}
	}
	slices.Sort(out)
	return out
}

func inSlot(e *screen.Element, slot string) []*screen.Element {
	var out []*screen.Element
	for _, c := range e.Children {
		if c.Slot == slot {
			out = append(out, c)
		}
	}
	return out
}

func orDefault(v screen.Value) string {
	if v.Kind == screen.None {
		return "not set"
	}
	return v.Fixed()
}

// alike tells whether two elements correspond: the same kind in the same slot, shown
// and repeated alike, and laid out alike.
func (l work) alike(a, b *screen.Element) bool {
	if a.Type != b.Type || a.Slot != b.Slot || a.Show != b.Show || (a.Repeat == nil) != (b.Repeat == nil) ||
		(a.Repeat != nil && *a.Repeat != *b.Repeat) {
		return false
	}
	if deeds(a) != deeds(b) {
		return false
	}
	if c, ok := l.Cat.Component(a.Type); ok && c.Level == kit.Layout {
		return slices.EqualFunc(
			a.Props,
			b.Props,
			func(p, q screen.Prop) bool { return p.Name == q.Name && p.Value == q.Value },
		)
	}
	return true
}

// deeds is what an element does, whatever it opens or closes.
func deeds(e *screen.Element) string {
	v, _ := e.Prop(kit.Does)
	list, err := screen.ParseActions(v.Text)
	if err != nil {
		return v.Text
	}
	for i, a := range list {
		if a.Points() {
			list[i].To = ""
		}
	}
	return screen.WriteActions(list)
}

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

// sameKinds tells whether two runs of elements correspond at their tops. The slot they
// stand in does not matter, as long as it is one.
func (l work) sameKinds(a, b []*screen.Element) bool {
	for i := range a {
		x := *b[i]
		x.Slot = a[i].Slot
		if b[i].Slot != b[0].Slot || !l.alike(a[i], &x) {
			return false
		}
	}
	return true
}

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
