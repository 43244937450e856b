package piece

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// Surround says what a shell made of all that stands around an element would be. What cannot
// become one is an error that says why.
func Surround(l *live.Live, doc, element string) (*Surroundings, error) {
	return work{l}.surround(doc, element)
}

// Shell makes a shell of all that stands around an element, and puts the screen in it, with
// others around which the same stands. What is shown stays the same on those that are equal.
func Shell(l *live.Live, o ShellOrder) (change.Change, error) { return work{l}.shell(o) }

// Surroundings are what stands around an element of a screen.
type Surroundings struct {
	Title    string       `json:"title"`    // of the element that stays on the screen
	Elements []string     `json:"elements"` // what goes into the shell, by its title
	Along    []string     `json:"along"`    // what stands around and stays with the element, which alone opens it
	Twins    []Surrounded `json:"twins"`
	Taken    []string     `json:"taken"` // ids of shells there are
}

// Surrounded is another screen around which the same stands, or nearly.
type Surrounded struct {
	Doc         string   `json:"doc"`
	Title       string   `json:"title"`
	Equal       bool     `json:"equal"`
	Differences []string `json:"differences"` // what of it would be as in the shell from then on
	split       split
}

// ShellOrder is a shell as somebody decided it.
type ShellOrder struct {
	Doc     string   `json:"doc"`
	Element string   `json:"element"`
	ID      string   `json:"id"`
	Title   string   `json:"title"`
	Twins   []string `json:"twins"` // screens that go into it as well
}

// split is a screen taken apart: what stays on it, and the frame that is left.
type split struct {
	d       *screen.Document
	content *screen.Element   // what becomes the screen's root, or stands in it alone
	kept    []*screen.Element // what stays on the screen: content, and what goes along with it
	frame   *screen.Element   // all the rest, with an outlet
}

func (l work) surround(doc, element string) (*Surroundings, error) {
	own, err := l.takenApart(doc, element)
	if err != nil {
		return nil, err
	}
	s := &Surroundings{Title: l.title(own.content), Elements: []string{}, Along: []string{}, Twins: []Surrounded{}, Taken: []string{}}
	own.frame.Walk(func(e, _ *screen.Element) bool {
		if c, ok := l.Cat.Component(e.Type); !ok || c.Level != kit.Layout {
			s.Elements = append(s.Elements, l.title(e))
		}
		return true
	})
	for _, e := range own.kept[1:] {
		s.Along = append(s.Along, l.title(e))
	}
	for _, o := range l.W.Docs {
		if o.Kind == screen.ShellDoc {
			s.Taken = append(s.Taken, o.ID)
		}
	}
	s.Twins = append(s.Twins, l.surrounded(own)...)
	return s, nil
}

// takenApart splits a screen at an element.
func (l work) takenApart(doc, element string) (*split, error) {
	d, ok := l.W.Doc(doc)
	if !ok {
		return nil, fmt.Errorf("there is no %s", doc)
	}
	if d.Kind != screen.ScreenDoc {
		return nil, fmt.Errorf("a shell is made of what stands around part of a screen; %s is none", d.Title)
	}
	if d.Source != "" {
		return nil, fmt.Errorf("%s was read from %s: it is changed there", d.Title, d.Source)
	}
	path := d.Root.Path(element)
	switch {
	case len(path) == 0:
		return nil, fmt.Errorf("there is no element %q on %s", element, d.Title)
	case len(path) == 1:
		return nil, fmt.Errorf("nothing stands around the root of %s; choose what stands in it", d.Title)
	}
	content := path[len(path)-1]
	for _, e := range path[:len(path)-1] {
		if e.Repeat != nil {
			return nil, fmt.Errorf("%s stands once for each record of a list; a shell has one place for its screens", l.title(content))
		}
		if e.Show != "" {
			return nil, fmt.Errorf("%s is shown at times only, and its screens would be with it", l.title(e))
		}
	}
	if strings.HasPrefix(path[len(path)-2].Type, screen.PiecePrefix) {
		return nil, fmt.Errorf("%s stands in a piece; choose the use of the piece", l.title(content))
	}
	up := path[len(path)-2]
	if def, ok := l.Cat.Component(up.Type); ok {
		any, _ := l.Cat.Component("stack")
		if why, ok := kit.Accepts(l.Cat, def, content.Slot, any); !ok {
			return nil, fmt.Errorf("no screen can stand in %s of %s: %s", orMain(content.Slot), l.title(up), why)
		}
	}
	s := &split{d: d, content: content, kept: append([]*screen.Element{content}, along(d.Root, content)...)}
	ids := map[string]bool{}
	d.Root.Walk(func(e, _ *screen.Element) bool { ids[e.ID] = true; return true })
	s.frame = l.framed(d.Root, s.kept, screen.FreeName(ids, "outlet"))
	return s, l.apart(s)
}

// along finds what stands elsewhere and is opened from within an element alone: a dialog, a
// drawer. It stays where it is opened.
func along(root, content *screen.Element) (out []*screen.Element) {
	for {
		inside := within(append([]*screen.Element{content}, out...))
		mine, theirs := map[string]bool{}, map[string]bool{}
		root.Walk(func(e, _ *screen.Element) bool {
			for _, a := range resolve.Deeds(e) {
				if a.Points() && a.To != e.ID {
					if inside[e.ID] {
						mine[a.To] = true
					} else if at := root.Path(a.To); !slices.Contains(at, e) { // closing itself from inside counts not
						theirs[a.To] = true
					}
				}
			}
			return true
		})
		more := false
		root.Walk(func(e, _ *screen.Element) bool {
			if mine[e.ID] && !theirs[e.ID] && !inside[e.ID] && !holds(e, content) {
				out, more = append(out, e), true
				return false
			}
			return !inside[e.ID]
		})
		if !more {
			return out
		}
	}
}

func within(list []*screen.Element) map[string]bool {
	out := map[string]bool{}
	for _, e := range list {
		e.Walk(func(c, _ *screen.Element) bool { out[c.ID] = true; return true })
	}
	return out
}

func holds(e, inner *screen.Element) bool {
	found, _ := e.Find(inner.ID)
	return found != nil
}

// framed is a tree without what stays on the screen: an outlet stands for the first. Where one is
// in a navigation the shell marks itself, on each of its screens.
func (l work) framed(e *screen.Element, kept []*screen.Element, outlet string) *screen.Element {
	c := *e
	c.Children = nil
	if def, ok := l.Cat.Component(e.Type); ok {
		if _, active, ok := def.Place(); ok {
			c.Props = slices.DeleteFunc(slices.Clone(e.Props), func(p screen.Prop) bool {
				return p.Name == active.Name && p.Value.Kind != screen.Expr
			})
		}
	}
	for _, child := range e.Children {
		switch {
		case child == kept[0] && child.Type == "column": // how wide it is stays said where it stands
			col := *child
			col.Children = []*screen.Element{{ID: outlet, Type: "outlet"}}
			c.Children = append(c.Children, &col)
		case child == kept[0]:
			c.Children = append(c.Children, &screen.Element{ID: outlet, Type: "outlet", Slot: child.Slot})
		case !slices.Contains(kept, child):
			c.Children = append(c.Children, l.framed(child, kept, outlet))
		}
	}
	return &c
}

// apart finds what holds the parts of a screen together, so that they cannot be parted.
func (l work) apart(s *split) error {
	inside := within(s.kept)
	names := resolve.NamesOf(s.d.Root, l.Cat)
	of := func(name string) *screen.Element {
		if c, ok := names.Controls[name]; ok {
			if c.Use != nil {
				return c.Use
			}
			return c.Element
		}
		return names.Repeats[name]
	}
	where := map[bool]string{true: "stays on the screen", false: "would stand in the shell"}
	var err error
	var look func(e *screen.Element, repeated bool)
	look = func(e *screen.Element, repeated bool) {
		repeated = repeated || e.Repeat != nil
		said := resolve.Spoken(e, false)
		for _, a := range resolve.Deeds(e) {
			if name, _, _ := a.Control(); a.Verb == screen.SetControl {
				said = append(said, resolve.Identifier(name))
			}
			if target, _ := s.d.Root.Find(a.To); a.Points() && target != nil && inside[e.ID] != inside[target.ID] {
				err = fmt.Errorf("%s, which %s, is to %s %s, which %s",
					l.title(e), where[inside[e.ID]], a.Verb, l.title(target), where[inside[target.ID]])
			}
		}
		if !inside[e.ID] && len(said) > 0 {
			err = fmt.Errorf("%s, which would stand in the shell, follows %s; nothing in a shell follows what people choose", l.title(e), said[0])
		}
		for _, name := range said {
			if el := of(name); el != nil && inside[el.ID] != inside[e.ID] {
				err = fmt.Errorf("%s, which %s, follows %s, which %s", l.title(e), where[inside[e.ID]], name, where[inside[el.ID]])
			}
		}
		if !inside[e.ID] && l.ofTheScreen(e, repeated) {
			err = fmt.Errorf("%s speaks of the record or the route of this screen; a shell stands around many", l.title(e))
		}
		for _, c := range e.Children {
			look(c, repeated)
		}
	}
	look(s.d.Root, false)
	if err != nil {
		return err
	}
	for _, src := range l.W.Sources {
		for _, asked := range src.Parameters() {
			if el := of(asked); el != nil && !inside[el.ID] {
				return fmt.Errorf("the records of %s are asked for by what %s holds; a shell tells none", src.Model, l.title(el))
			}
		}
	}
	for _, st := range s.d.States {
		for _, e := range st.Edits {
			for _, id := range append([]string{e.ID, e.Parent}, e.Many...) {
				if el, _ := s.d.Root.Find(id); el != nil && !inside[id] {
					return fmt.Errorf("the state %s changes %s, which would stand in the shell", st.Name, l.title(el))
				}
			}
		}
	}
	return nil
}

// ofTheScreen tells whether an element speaks of what only a screen knows.
func (l work) ofTheScreen(e *screen.Element, repeated bool) bool {
	values := []screen.Value{e.Text}
	if e.Show != "" {
		values = append(values, screen.Value{Kind: screen.Expr, Text: e.Show})
	}
	if e.Repeat != nil {
		values = append(values, screen.Value{Kind: screen.Expr, Text: e.Repeat.Where})
	}
	for _, p := range e.Props {
		values = append(values, p.Value)
	}
	return slices.ContainsFunc(values, func(v screen.Value) bool {
		return !repeated && resolve.SpeaksOfRecord(v) ||
			slices.ContainsFunc(resolve.SpokenBy(v), func(said [2]string) bool { return said[0] == "route" })
	})
}

// surrounded finds the other screens around which the same stands, or nearly, equal ones first.
func (l work) surrounded(own *split) []Surrounded {
	out := []Surrounded{}
	path := own.d.Root.Path(own.content.ID)
	for _, o := range l.W.Docs {
		if o == own.d || o.Kind != screen.ScreenDoc || o.Removed || o.Source != "" || o.App != own.d.App || o.Shell != own.d.Shell {
			continue
		}
		content := l.counterpart(path, o.Root)
		if content == nil {
			continue
		}
		apart, err := l.takenApart(o.Address(), content.ID)
		if err != nil || !l.alike(own.frame, apart.frame) {
			continue
		}
		var diffs []difference
		a, b := []*screen.Element{own.frame}, []*screen.Element{apart.frame}
		same := l.compare(own.frame, apart.frame, l.matched(a, b), &diffs)
		if size := max(own.frame.Count(), apart.frame.Count()); 2*same < size {
			continue
		}
		t := Surrounded{Doc: o.Address(), Title: o.Title, Equal: len(diffs) == 0, Differences: []string{}, split: *apart}
		for _, df := range diffs {
			t.Differences = append(t.Differences, df.words)
		}
		out = append(out, t)
		if len(out) == twinsMost {
			break
		}
	}
	slices.SortStableFunc(out, func(a, b Surrounded) int { return len(a.Differences) - len(b.Differences) })
	return out
}

// counterpart walks down another screen as a path goes; nil where it goes nowhere. Where a screen
// has other things before, it is looked for from the end as well.
func (l work) counterpart(path []*screen.Element, root *screen.Element) *screen.Element {
	at := root
	for i, e := range path[1:] {
		up := path[i]
		if !l.alike(up, at) {
			return nil
		}
		mine, theirs := inSlot(up, e.Slot), inSlot(at, e.Slot)
		n := slices.Index(mine, e)
		back := len(theirs) - (len(mine) - n)
		switch {
		case n < len(theirs) && theirs[n].Type == e.Type:
			at = theirs[n]
		case back >= 0 && back < len(theirs) && theirs[back].Type == e.Type:
			at = theirs[back]
		default:
			return nil
		}
	}
	return at
}

func (l work) shell(o ShellOrder) (change.Change, error) {
	none := change.Change{}
	own, err := l.takenApart(o.Doc, o.Element)
	if err != nil {
		return none, err
	}
	if err := model.CheckID(o.ID); err != nil {
		return none, err
	}
	if strings.TrimSpace(o.Title) == "" {
		return none, fmt.Errorf("a title is needed")
	}
	if _, taken := l.W.Doc("shell:" + o.ID); taken {
		return none, fmt.Errorf("there is a shell %q already", o.ID)
	}
	c := change.Change{Title: "Make the shell " + o.Title, Steps: []change.Step{&change.Create{
		Kind: screen.ShellDoc,
		Document: &screen.Document{
			Kind: screen.ShellDoc, ID: o.ID, Title: o.Title,
			App: own.d.App, Shell: own.d.Shell, Owner: own.d.Owner, Root: own.frame,
		},
	}}}
	into := func(s *split) {
		head := *s.d
		head.Shell = o.ID
		c.Steps = append(c.Steps, &change.Edit{Doc: s.d.Address(), Edits: s.left()}, &change.Meta{Doc: s.d.Address(), Document: &head})
	}
	into(own)
	twins := l.surrounded(own)
	for _, doc := range o.Twins {
		i := slices.IndexFunc(twins, func(t Surrounded) bool { return t.Doc == doc })
		if i < 0 {
			return none, fmt.Errorf("%s: something else stands around it", doc)
		}
		into(&twins[i].split)
	}
	return c, nil
}

// left are the edits that leave of a screen what stays on it. A layout becomes its root; anything
// else, and what states or presses speak of, stands in a root of its own.
func (s *split) left() []screen.Edit {
	root, content := s.d.Root, s.content
	var out []screen.Edit
	add := func(e screen.Edit) { out = append(out, screen.Following(e)) }
	after := ""
	for _, e := range s.kept {
		add(screen.Edit{Op: screen.Move, ID: e.ID, Parent: root.ID, After: after})
		after = e.ID
	}
	inside := within(s.kept)
	for _, e := range root.Children {
		if !inside[e.ID] {
			add(screen.Edit{Op: screen.Remove, ID: e.ID})
		}
	}
	if !s.rootable() {
		add(screen.Edit{Op: screen.Replace, ID: root.ID, Tree: &screen.Element{ID: root.ID, Type: "stack"}})
		return out
	}
	as := *content
	as.ID, as.Slot, as.Children = root.ID, "", nil
	if as.Type == "column" {
		as.Type, as.Props = "stack", nil
	}
	for i, e := range content.Children {
		to := screen.Edit{Op: screen.Move, ID: e.ID, Parent: root.ID, Slot: e.Slot}
		if i > 0 {
			to.After = content.Children[i-1].ID
		}
		add(to)
	}
	add(screen.Edit{Op: screen.Remove, ID: content.ID})
	add(screen.Edit{Op: screen.Replace, ID: root.ID, Tree: &as})
	return out
}

// rootable tells whether the content can be the root of its screen: a layout that nothing speaks
// of by its id.
func (s *split) rootable() bool {
	e := s.content
	switch e.Type {
	case "stack", "section", "row", "grid", "column":
	default:
		return false
	}
	if e.Show != "" || e.Repeat != nil || e.Name != "" {
		return false
	}
	spoken := false
	s.d.Root.Walk(func(o, _ *screen.Element) bool {
		for _, a := range resolve.Deeds(o) {
			spoken = spoken || a.Points() && a.To == e.ID
		}
		return !spoken
	})
	for _, st := range s.d.States {
		for _, ed := range st.Edits {
			spoken = spoken || ed.ID == e.ID || ed.Parent == e.ID || slices.Contains(ed.Many, e.ID)
		}
	}
	return !spoken
}
