package norm

import (
	"cmp"
	"maps"
	"math"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"ubiquant/core/cases"
	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// Norms keeps what the screens do, and what departs from it, up to date.
type Norms struct {
	ix     *usage.Index
	cat    kit.Catalog
	book   *cases.Book
	reader *cases.Reader
	docs   []*doc   // by number; nil where there is none
	groups []*group // by number; nil where nothing was decided
	dirty  map[int32]bool

	// What the leaves tell of the whole workspace.
	sums   [cases.Kinds][maxRates]int64 // log likelihoods for each rate of slips
	alone  [cases.Kinds][maxRates]int64
	leaves [cases.Kinds]int64
	rate   [cases.Kinds]int     // of rates
	one    [cases.Kinds]float64 // how often things of a kind have one habit

	evidence  int // screens and pieces
	rerouted  bool
	routes    map[string]int // application and route without names of parameters, to screens
	settled   []Settled
	touched   map[int32]bool
	byDoc     map[int32][]*departure // all that departs
	hits      map[int32][]*departure // the same, one for each cause
	counted   map[int32]int          // strays of each document
	known     map[int32]int          // of these, those told of elsewhere
	recount   map[int32]bool
	knownSum  int
	count     int
	questions [][]*leaf // as last gathered; nil after a change
	asked     map[*leaf]bool
	mu        sync.Mutex
}

// maxRates is more than the rates that are thought of; scale is how finely sums are kept, so
// that what is taken out leaves no trace.
const (
	maxRates = 24
	scale    = 1 << 20
)

// doc is one document with its cases.
type doc struct {
	*usage.Doc
	key   string
	order uint64 // in which documents are looked at; by their names, not by when they came
	cases []cases.Case
}

// group is one decision over all documents.
type group struct {
	number int32
	cases.Group
	docs   []int32 // in the order of their hashed names, where sorted
	sorted bool
	values map[int32]int32 // documents with each value
	part   string          // of a part
	alike  bool            // whether the part is much the same wherever it is
	leaves []*leaf
	parts  []*group // of a whole: each part by itself
}

// leaf is a context with what its screens do.
type leaf struct {
	group   *group
	path    []Step
	sides   []Answer // most usual first
	screens float64
	both    int // screens that have the first two answers both
	verdict amounts
	move    *move // from the one to the other; nil where time does not tell them apart
	departs []*departure
	likely  []float64 // for each rate of slips, the log odds of one habit against two
}

// Answer is one way of deciding.
type Answer struct {
	value  int32
	weight float64 // screens, a screen of several minds counted in shares
	docs   []int32 // in the order of their hashed names
	uses   int
	chance float64 // of departing in the same corner of each screen, were they slips
	odds   float64 // log odds of being slips from the most usual one
}

// amounts are what a leaf can amount to.
type amounts uint8

const (
	few   amounts = iota // too little is known
	free                 // everybody as he likes
	habit                // one habit
	two                  // two habits: a question
)

// departure is one case that is not as the habit of its leaf.
type departure struct {
	leaf   *leaf
	doc    int32
	at     int32 // of the case among those of its document in the group
	value  int32
	facts  [][3]float64 // for each solid fact: departing alike, screens, how likely an own habit
	answer int          // of the leaf
	sure   float64
	varied bool // the screen shows so many values of it that it means to tell things apart
}

// hashOf is FNV-1a with the finalizer of MurmurHash3.
func hashOf(s string) uint64 {
	h := uint64(14695981039346656037)
	for i := 0; i < len(s); i++ {
		h = (h ^ uint64(s[i])) * 1099511628211
	}
	h = (h ^ h>>33) * 0xff51afd7ed558ccd
	h = (h ^ h>>33) * 0xc4ceb9fe1a85ec53
	return h ^ h>>33
}

// Start prepares judging the documents of an index against a catalog and models: each is to be
// taken, and then all are settled.
func Start(ix *usage.Index, cat kit.Catalog, models map[string]*sample.Model) *Norms {
	book := cases.NewBook()
	return &Norms{
		ix: ix, cat: cat, book: book, reader: cases.NewReader(book, cat, models),
		dirty: map[int32]bool{}, touched: map[int32]bool{},
		byDoc: map[int32][]*departure{}, hits: map[int32][]*departure{}, counted: map[int32]int{}, known: map[int32]int{}, recount: map[int32]bool{}, asked: map[*leaf]bool{}, routes: map[string]int{},
	}
}

// New judges all documents of an index.
func New(ix *usage.Index, cat kit.Catalog, models map[string]*sample.Model) *Norms {
	n := Start(ix, cat, models)
	for _, d := range ix.Docs() {
		n.Take(d)
	}
	n.Done()
	return n
}

// Done judges what was taken since Start.
func (n *Norms) Done() {
	n.ix.Changed()
	n.settle()
}

// Update judges again what changed in the index.
func (n *Norms) Update() {
	n.mu.Lock()
	defer n.mu.Unlock()
	_, changed := n.ix.Changed()
	for _, number := range changed {
		if d := n.ix.Doc(number); d != nil {
			n.Take(d)
		} else if int(number) < len(n.docs) {
			n.drop(n.docs[number])
		}
	}
	n.settle()
}

// Settle tells what is decided by house rules.
func (n *Norms) Settle(list []Settled) {
	n.mu.Lock()
	defer n.mu.Unlock()
	n.settled, n.questions = slices.Clone(list), nil
}

func (n *Norms) group(number int32) *group {
	for int(number) >= len(n.groups) {
		n.groups = append(n.groups, nil)
	}
	if n.groups[number] == nil {
		n.groups[number] = &group{number: number, Group: n.book.Group(number), values: map[int32]int32{}}
	}
	return n.groups[number]
}

// Take reads a document, in place of its earlier state; it may be called while the index counts
// others.
func (n *Norms) Take(d *usage.Doc) {
	for int(d.Number) >= len(n.docs) {
		n.docs = append(n.docs, nil)
	}
	key := usage.DocKey(d.Document)
	if old := n.docs[d.Number]; old != nil && old.key != key {
		n.drop(old)
	}
	old := n.docs[d.Number]
	now := &doc{Doc: d, key: key, order: hashOf(key), cases: n.reader.Read(d)}
	n.docs[d.Number] = now
	n.touched[d.Number] = true
	var before []cases.Case
	if old != nil {
		before = old.cases
	}
	if old == nil || routeKey(old) != routeKey(now) {
		n.countScreen(old, -1)
		n.countScreen(now, 1)
	}
	n.compare(d.Number, before, now.cases)
}

func routeKey(d *doc) string { return string(d.Kind) + " " + d.App + " " + cases.Bare(d.Route) }

// countScreen counts screens and their routes; a route that comes or goes may change what is missing.
func (n *Norms) countScreen(d *doc, by int) {
	if d == nil || d.Kind == screen.ShellDoc {
		return
	}
	n.evidence += by
	if d.Kind != screen.ScreenDoc {
		return
	}
	key := routeKey(d)
	before := n.routes[key]
	if n.routes[key] += by; before == 0 || n.routes[key] == 0 {
		n.rerouted = true
	}
}

func (n *Norms) drop(old *doc) {
	if old != nil {
		n.countScreen(old, -1)
		n.compare(old.Number, old.cases, nil)
		n.touched[old.Number] = true
		n.docs[old.Number] = nil
	}
}

// compare marks the groups in which a document's cases changed.
func (n *Norms) compare(number int32, before, now []cases.Case) {
	for len(before) > 0 || len(now) > 0 {
		var g int32
		switch {
		case len(before) == 0:
			g = now[0].Group
		case len(now) == 0:
			g = before[0].Group
		default:
			g = min(before[0].Group, now[0].Group)
		}
		a, b := run(before, g), run(now, g)
		before, now = before[len(a):], now[len(b):]
		// Where in the document they stand may change without a change of what is decided.
		if slices.EqualFunc(a, b, func(x, y cases.Case) bool { return x.Value == y.Value && x.Context == y.Context }) {
			continue
		}
		gr := n.group(g)
		n.dirty[g] = true
		gr.tally(a, -1)
		gr.tally(b, 1)
		switch {
		case len(a) == 0:
			gr.docs = append(gr.docs, number)
			gr.sorted = false
		case len(b) == 0:
			gr.docs = slices.DeleteFunc(gr.docs, func(d int32) bool { return d == number })
		}
	}
}

// tally counts documents by value; cases are in the order of their values.
func (g *group) tally(list []cases.Case, by int32) {
	for i := range list {
		if i > 0 && list[i].Value == list[i-1].Value {
			continue
		}
		if g.values[list[i].Value] += by; g.values[list[i].Value] == 0 {
			delete(g.values, list[i].Value)
		}
	}
}

func run(list []cases.Case, g int32) []cases.Case {
	i := 0
	for i < len(list) && list[i].Group == g {
		i++
	}
	return list[:i]
}

// of are the cases of a document in a group.
func (d *doc) of(g int32) []cases.Case {
	i, _ := slices.BinarySearchFunc(d.cases, g, func(c cases.Case, g int32) int { return cmp.Compare(c.Group, g) })
	return run(d.cases[i:], g)
}

// settle judges the groups that changed, on all processors, and what follows from them.
func (n *Norms) settle() {
	if len(n.dirty) > 0 {
		n.questions = nil
	}
	list := make([]*group, 0, len(n.dirty))
	for g := range n.dirty {
		list = append(list, n.groups[g])
		n.addUp(n.groups[g], -1)
	}
	clear(n.dirty)
	var wg sync.WaitGroup
	var next atomic.Int64
	for range min(len(list), runtime.GOMAXPROCS(0)) {
		wg.Go(func() {
			for i := int(next.Add(1)) - 1; i < len(list); i = int(next.Add(1)) - 1 {
				n.judge(list[i])
			}
		})
	}
	wg.Wait()
	for _, g := range list {
		n.addUp(g, 1)
	}
	weigh := func(l *leaf) {
		n.weigh(l)
		if l.verdict == two {
			n.asked[l] = true
		} else {
			delete(n.asked, l)
		}
	}
	if n.weighWorkspace() {
		n.each(weigh)
		for doc := range n.byDoc {
			n.touched[doc] = true
		}
	} else {
		for _, g := range list {
			g.each(weigh)
		}
	}
	// A route may come and go within one change.
	if n.rerouted {
		for doc := range n.byDoc {
			n.touched[doc] = true
		}
		n.rerouted = false
	}
	for doc := range n.touched {
		n.gather(doc)
	}
	clear(n.touched)
}

// addUp puts what the leaves of a group tell into the workspace's sums, or takes it out.
func (n *Norms) addUp(g *group, by int64) {
	g.each(func(l *leaf) {
		if l.likely != nil {
			n.leaves[g.Kind] += by
			for i, one := range l.likely {
				posterior := one + math.Log(oneHabit/(1-oneHabit))
				n.sums[g.Kind][i] += by * int64(math.Round((math.Log(1-oneHabit)+softplus(posterior))*scale))
				n.alone[g.Kind][i] += by * int64(math.Round(sigmoid(posterior)*scale))
			}
		}
		for _, d := range l.departs {
			n.touched[d.doc] = true
			if by > 0 {
				n.byDoc[d.doc] = append(n.byDoc[d.doc], d)
			} else {
				n.byDoc[d.doc] = slices.DeleteFunc(n.byDoc[d.doc], func(o *departure) bool { return o == d })
			}
		}
		if by < 0 {
			delete(n.asked, l)
		}
	})
}

// each calls f for every leaf of a group.
func (g *group) each(f func(*leaf)) {
	for _, l := range g.leaves {
		f(l)
	}
	for _, p := range g.parts {
		for _, l := range p.leaves {
			f(l)
		}
	}
}

// each calls f for every leaf.
func (n *Norms) each(f func(*leaf)) {
	for _, g := range n.groups {
		if g != nil {
			g.each(f)
		}
	}
}

// judge finds the contexts of a group and what its screens do in each.
func (n *Norms) judge(g *group) {
	g.leaves, g.parts = nil, nil
	if float64(len(g.docs)) < leastScreens(g.Kind) || len(g.values) < 2 {
		return
	}
	if !g.sorted {
		slices.SortFunc(g.docs, func(a, b int32) int {
			x, y := n.docs[a], n.docs[b]
			switch {
			case x.order < y.order:
				return -1
			case x.order > y.order:
				return 1
			}
			return strings.Compare(x.key, y.key)
		})
		g.sorted = true
	}
	items, words := n.items(g)
	if g.Kind == cases.Whole {
		n.wholes(g, items, words)
		return
	}
	n.leavesOf(g, items, words)
}

// alikeOn tells whether a part is made much the same on the screens that have it: such a part is
// the frame of a screen, and one that differs each time is what a screen has to show.
func (n *Norms) alikeOn(part string, on map[int32]bool) bool {
	typ := partName(part)
	if !strings.HasPrefix(part, "+") {
		return true
	}
	docs := slices.Sorted(maps.Keys(on))
	slices.SortFunc(docs, func(a, b int32) int { return cmp.Compare(n.docs[a].order, n.docs[b].order) })
	shapes, seen, most := map[string]int{}, 0, 0
	for _, number := range docs[:min(len(docs), sampledParts)] {
		for i := range n.docs[number].Uses {
			if e := n.docs[number].Uses[i].Element; e.Type == typ {
				shape := shapeOf(e)
				shapes[shape]++
				seen++
				most = max(most, shapes[shape])
				break
			}
		}
	}
	return 2*most >= seen
}

// shapeOf is what an element is made of.
func shapeOf(e *screen.Element) string {
	if len(e.Children) == 0 {
		return e.Type
	}
	var b strings.Builder
	b.WriteString(e.Type + "(")
	for _, c := range e.Children {
		b.WriteString(c.Slot + ":" + shapeOf(c) + " ")
	}
	return b.String() + ")"
}

// items are the cases of a group with its values numbered in the order of their texts.
func (n *Norms) items(g *group) (items []item, words []int32) {
	words = slices.SortedFunc(maps.Keys(g.values), func(a, b int32) int {
		return strings.Compare(n.book.Text(a), n.book.Text(b))
	})
	number := make(map[int32]int32, len(words))
	for v, w := range words {
		number[w] = int32(v)
	}
	items = make([]item, 0, len(g.docs))
	for _, dn := range g.docs {
		d := n.docs[dn]
		for i, c := range d.of(g.number) {
			v := number[c.Value]
			if last := len(items) - 1; i > 0 && items[last].value == v && items[last].number == c.Context {
				items[last].uses++
				continue
			}
			items = append(items, item{dn, v, n.book.Context(c.Context), c.Context, 1, int32(i)})
		}
	}
	return items, words
}

// madeFor reports whether a component is a part of the same whole as the one that it stands in: a dialog's
// footer and what closes the dialog, or two parts of the team's own.
func madeFor(around, part string) bool {
	if strings.HasPrefix(around, screen.PiecePrefix) {
		return strings.HasPrefix(part, screen.PiecePrefix)
	}
	at := strings.LastIndex(around, "-")
	return strings.HasPrefix(part, around+"-") || strings.Count(around, "-") > 1 && strings.HasPrefix(part, around[:at+1])
}

// wholes judges each part that the screens have by itself.
func (n *Norms) wholes(g *group, items []item, words []int32) {
	sets := make([]map[string]bool, len(words))
	on := map[string]map[int32]bool{}
	for v, w := range words {
		sets[v] = map[string]bool{}
		for part := range strings.SplitSeq(n.book.Text(w), "\n") {
			if part != "" {
				sets[v][part] = true
			}
		}
	}
	for i := range items {
		for part := range sets[items[i].value] {
			if on[part] == nil {
				on[part] = map[int32]bool{}
			}
			on[part][items[i].doc] = true
		}
	}
	parts := make([]string, 0, len(on))
	for part, docs := range on {
		if len(docs) >= sideScreens && part != cases.Filled {
			parts = append(parts, part)
		}
	}
	slices.Sort(parts)
	for _, part := range parts {
		// In the main slot, what holds something else does not lack it, but for what is made for that place.
		loose := strings.HasPrefix(part, "+:") && n.book.Text(g.Comp) != cases.WholeScreen && !madeFor(n.book.Text(g.Comp), partName(part))
		p := &group{number: g.number, Group: cases.Group{Kind: cases.Part, Comp: g.Comp}, docs: g.docs}
		list := make([]item, 0, len(items))
		lacking := false
		for _, it := range items {
			had := sets[it.value][part]
			if !had && loose && sets[it.value][cases.Filled] {
				continue
			}
			list = append(list, it)
			i := len(list) - 1
			list[i].value = 0
			if had {
				list[i].value = 1
			}
			lacking = lacking || !had
		}
		if !lacking {
			continue
		}
		p.part = part
		p.alike = n.alikeOn(part, on[part])
		n.leavesOf(p, list, []int32{0, 1})
		g.parts = append(g.parts, p)
	}
}
