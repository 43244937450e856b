package norm

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/cases"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var kindNames = map[cases.Kind]string{
	cases.Prop: "setting", cases.Words: "words", cases.Style: "capitals", cases.End: "punctuation", cases.Label: "label",
	cases.Control: "control", cases.Shows: "component", cases.Format: "format", cases.Required: "required",
	cases.Order: "order", cases.Fields: "order", cases.Part: "part", cases.Meaning: "meaning", cases.Slot: "slot", cases.Tone: "tone", cases.Space: "space",
}

// title names a component for people.
func (n *Norms) title(typ string) string {
	if c, ok := n.cat.Component(typ); ok {
		return c.Title
	}
	return strings.TrimPrefix(typ, screen.PiecePrefix)
}

func article(s string) string {
	if s != "" && strings.ContainsRune("aeiouAEIO", rune(s[0])) { // “U…” begins many a short form
		return "an " + s
	}
	return "a " + s
}

// key names a sibling for people.
func (n *Norms) key(k string) string {
	switch verb, rest, _ := strings.Cut(k, " "); verb {
	case "does":
		return map[string]string{
			"submit": "what sends the form", "reset": "what clears the form", "close": "what closes what is around it",
		}[rest] + orElse(rest, "submit", "reset", "close")
	case "leads":
		return "what leads " + leads(rest)
	case "says":
		return "“" + strings.ReplaceAll(rest, cases.Open, "…") + "”"
	}
	if f, ok := strings.CutPrefix(k, "field."); ok {
		return f
	}
	return n.title(k)
}

func orElse(s string, not ...string) string {
	if slices.Contains(not, s) {
		return ""
	}
	return "what does “" + s + "”"
}

func leads(shape string) string {
	switch shape {
	case "up":
		return "back up"
	case "home":
		return "home"
	case "here":
		return "to its own screen"
	case "top":
		return "to another part"
	case "out":
		return "elsewhere"
	case ":":
		return "to one record"
	}
	return "to …/" + strings.ReplaceAll(shape, ":", "…")
}

// part names a part for people.
func (n *Norms) part(part string) string {
	if p, ok := strings.CutPrefix(part, "="); ok {
		return article(p)
	}
	if s, ok := strings.CutPrefix(part, "state:"); ok {
		return "the state " + s
	}
	slot, rest, _ := strings.Cut(strings.TrimPrefix(part, "+"), ":")
	own, of := strings.CutPrefix(rest, screen.PiecePrefix) // pieces have a colon in their names
	typ, key, named := strings.Cut(own, ":")
	if of {
		typ = screen.PiecePrefix + typ
	}
	words := article(n.title(typ))
	if named {
		words = article(n.title(typ)) + ", " + n.key(key)
	}
	if slot != "" {
		words += " in its " + slot
	}
	return words
}

// what says in words what a group decides.
func (n *Norms) what(g *group) string {
	comp, a, b := n.title(n.book.Text(g.Comp)), n.book.Text(g.A), n.book.Text(g.B)
	switch g.Kind {
	case cases.Prop:
		if b != "" {
			comp += " that is a " + b
		}
		return a + " of " + article(comp)
	case cases.Words:
		return "what " + article(comp) + " says"
	case cases.Style:
		return "the capitals of " + saying(a, comp)
	case cases.End:
		if b != "" {
			return "how a " + b + " in " + article(comp) + " ends"
		}
		return "how " + saying(a, comp) + " ends"
	case cases.Label:
		return "what the " + a + " of " + b + " is"
	case cases.Control:
		return "what takes " + n.about(a)
	case cases.Shows:
		return "what shows " + n.about(a)
	case cases.Format:
		return "how " + n.about(a) + " is written"
	case cases.Slot:
		return "where in " + article(comp) + " " + n.key(a) + " stands"
	case cases.Tone:
		return "the tone of “" + a + "” in " + article(comp)
	case cases.Space:
		if b != "" {
			return "the space (" + a + ") " + n.placeWords(cases.Place, n.book.Text(g.Comp))
		}
		return "the space (" + a + ") of " + article(comp)
	case cases.Required:
		switch a {
		case "(required)":
			return "the mark of fields that must be filled in"
		case "(optional)":
			return "the mark of fields that may be left out"
		}
		return "whether " + a + " must be filled in"
	case cases.Order, cases.Fields:
		return "whether " + n.key(a) + " or " + n.key(b) + " comes first"
	case cases.Part:
		if n.book.Text(g.Comp) == cases.WholeScreen {
			return "whether a screen has " + n.part(g.part)
		}
		return "whether " + article(comp) + " has " + n.part(g.part)
	}
	return "what the icon " + a + " stands for"
}

// saying names words by what says them; a text is what it says.
func saying(prop, comp string) string {
	if prop == "text" && comp == "text" {
		return "a text"
	}
	return "the " + prop + " of " + article(comp)
}

func (n *Norms) about(a string) string {
	if t, ok := strings.CutPrefix(a, "type."); ok {
		return "a " + t
	}
	return "“" + a + "”"
}

// value says an answer in words.
func (n *Norms) say(g *group, v int32) string {
	t := n.word(g, v)
	switch g.Kind {
	case cases.Part:
		return map[string]string{"yes": "with " + n.part(g.part), "no": "without " + n.part(g.part)}[t]
	case cases.Order, cases.Fields:
		x, y := n.key(n.book.Text(g.A)), n.key(n.book.Text(g.B))
		if t == "second" {
			x, y = y, x
		}
		return x + " before " + y
	case cases.Control, cases.Shows:
		typ, kind, ok := strings.Cut(t, ".takes ")
		if ok {
			return article(n.title(typ)) + " for " + kind
		}
		return article(n.title(typ))
	case cases.Required:
		return map[string]string{"true": "required", "false": "not required"}[t]
	case cases.End:
		if t == "none" {
			return "no mark at the end"
		}
		return "“" + t + "” at the end"
	case cases.Style:
		return map[string]string{"Sentence": "one capital", "Title Case": "Capitals For Words", "CAPITALS": "ALL CAPITALS", "small": "small letters"}[t]
	case cases.Words, cases.Label, cases.Meaning:
		return "“" + strings.ReplaceAll(strings.ReplaceAll(t, "{title}", "the screen’s title"), cases.Open, "…") + "”"
	}
	if t == "" && g.Kind == cases.Slot {
		return "among its contents"
	}
	if t == "" {
		return "not set"
	}
	return t
}

// where says the path of a leaf in words: "in dialogs, where …".
func (n *Norms) where(l *leaf) string {
	var parts []string
	for _, s := range l.path {
		w := n.book.Text(s.Word)
		not := ""
		if !s.Is {
			not = "not "
		}
		var p string
		switch s.Fact {
		case cases.App:
			if p = not + "in the application " + w; w == "" {
				p = not + "in pieces" // no application has them alone
			}
		case cases.Shell:
			p = not + "in the shell " + or(w, "none")
		case cases.Main:
			p = "on screens that are " + not + "mostly " + or(n.title(w), "of one kind")
		case cases.Route:
			p = not + "on routes like " + shapeWords(w)
		case cases.Dialog:
			if w == "" {
				p = not + "on the page itself"
			} else {
				p = not + "inside " + article(n.title(w))
			}
		case cases.Place, cases.Outer, cases.Parent:
			p = not + n.placeWords(s.Fact, w)
		case cases.Does:
			if p = "where it is " + not + n.key(w); w == "" {
				p = map[bool]string{true: "where nothing tells what it does", false: "where it is told what it does"}[s.Is]
			}
		case cases.Says:
			if s.Is {
				p = "where it says “" + w + "…”"
			} else {
				p = "where it says other than “" + w + "…”"
			}
		case cases.Field:
			p = not + "for " + or(w, "no field")
		case cases.Type:
			p = not + "for " + or(w, "untyped") + " fields"
		case cases.Prev:
			p = not + "after " + or(n.title(w), "nothing")
		case cases.Next:
			p = not + "before " + or(n.title(w), "nothing")
		case cases.Position:
			p = map[bool]string{true: "as the " + w + " one", false: "not as the " + w + " one"}[s.Is]
		case cases.Thing:
			p = not + "about " + or(w, "nothing")
		case cases.Sort:
			p = not + "of the sort “" + or(n.title(w), "plain") + "”"
		case cases.Host:
			p = not + "in the " + or(w, "only") + " of its kind"
		case cases.Content:
			p = not + "holding " + or(n.title(w), "nothing")
		}
		if !slices.Contains(parts, p) {
			parts = append(parts, p)
		}
	}
	return strings.Join(parts, ", ")
}

func or(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

func shapeWords(w string) string {
	switch w {
	case "top":
		return "/…"
	case "root":
		return "/"
	case "":
		return "none"
	}
	return "/…/" + strings.ReplaceAll(w, ":", "…")
}

func (n *Norms) placeWords(f cases.Fact, w string) string {
	switch w {
	case "page", "(top)", "":
		return map[cases.Fact]string{cases.Place: "directly on the page", cases.Outer: "outside of parts", cases.Parent: "as the whole screen"}[f]
	}
	typ, slot, has := strings.Cut(w, ".")
	if f == cases.Outer {
		return "further out in " + article(n.title(typ))
	}
	if has {
		return "in the " + slot + " of " + article(n.title(typ))
	}
	return "in " + article(n.title(typ))
}

// why says in one sentence what the others do and what is done here.
func (n *Norms) why(d *departure, s *Stray) string {
	l := d.leaf
	where := s.Words
	if where != "" {
		where = ", " + where
	}
	here, there := n.say(l.group, d.value), n.say(l.group, l.sides[0].value)
	lead := strings.ToUpper(s.What[:1]) + s.What[1:]
	if r := []rune(s.What); r[0] > 127 {
		lead = s.What
	}
	on := n.unit(l)
	others := fmt.Sprintf("%s on %d of %d %s", there, s.Screens, s.Of, on)
	switch {
	case s.Screens < s.Of:
	case alone(d): // also where this one stands
		others = fmt.Sprintf("%s everywhere else, on %d %s", there, s.Of, on)
	default:
		others = fmt.Sprintf("mostly %s, on each of %d %s", there, s.Of, on)
	}
	if n.evidence < FirmFrom {
		others += "; so few say little"
	}
	return fmt.Sprintf("%s%s: %s here, %s", lead, where, here, others)
}

// alone tells whether nothing departs from what most do on another document than a departure's.
func alone(d *departure) bool {
	return !slices.ContainsFunc(d.leaf.sides[1:], func(a Answer) bool {
		return slices.ContainsFunc(a.docs, func(doc int32) bool { return doc != d.doc })
	})
}

// unit is what the evidence of a leaf is counted in.
func (n *Norms) unit(l *leaf) string {
	pieces, all := 0, 0
	for _, s := range l.sides {
		for _, number := range s.docs {
			all++
			if n.docs[number].Kind == screen.PieceDoc {
				pieces++
			}
		}
	}
	switch pieces {
	case 0:
		return "screens"
	case all:
		return "pieces"
	}
	return "screens and pieces"
}

// spotKit is a component's definition as the catalog has it.
func (n *Norms) def(typ string) *kit.Component {
	c, _ := n.cat.Component(typ)
	return c
}
