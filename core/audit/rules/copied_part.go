package rules

import (
	"fmt"
	"hash/fnv"
	"strconv"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// leastCopied elements make a part worth a piece, where it stands on so many screens.
const leastCopied = 5

var _ = add(&audit.Rule{
	ID: "copied-part", Title: "The same part on several screens", Severity: audit.Note,
	Code:    true,
	Purpose: "What is the same to the word on several screens is a piece.",
	Why:     "A change to one copy is forgotten on the other screens.",
	Bad:     []string{contactPart, contactPart, contactPart},
	Good:    []string{contactPart, contactPart, strings.ReplaceAll(contactPart, "Ring the office", "Write to the office")},
	Settings: []audit.Setting{
		{Name: "screens", Help: "Screens on which the part stands before it is told of", Default: "3", Number: true},
		{Name: "elements", Help: "Elements that a part has before it is told of", Default: strconv.Itoa(leastCopied), Number: true},
	},
	Looks: func(*kit.Component) bool { return true },
	Element: func(p *audit.Pass, n *audit.Node) {
		if p.Doc.Kind != screen.ScreenDoc {
			return
		}
		parts := audit.Remember[map[*screen.Element]part](p)
		if n.Parent == nil {
			*parts = map[*screen.Element]part{}
			measure(n.Element, *parts)
		}
		this := (*parts)[n.Element]
		least := p.Number("elements")
		if p.Doc.Source != "" {
			least = max(least, leastPartInCode) // layouts of code have more elements for the same
		}
		if this.count < least {
			return
		}
		around := ""
		if n.Parent != nil {
			around = strconv.FormatUint((*parts)[n.Parent.Element].hash, 36)
		}
		p.Fact(n, strconv.FormatUint(this.hash, 36), strconv.Itoa(this.count)+" "+around)
	},
	Judge: func(g *audit.Group) {
		var places []audit.Place
		docs := map[string]bool{}
		for _, v := range g.Sorted() {
			for _, place := range g.Values[v] {
				places = append(places, place)
				docs[place.Doc] = true
			}
		}
		if len(docs) < g.Number("screens") {
			return
		}
		count, around, _ := strings.Cut(g.Sorted()[0], " ")
		if len(g.Values) == 1 && around != "" && len(docs) == len(places) {
			return // what stands around it is the same everywhere too, and told of
		}
		for _, place := range places {
			g.Report(place, "", fmt.Sprintf("this part of %s elements stands the same on %d screens", count, len(docs)), "")
		}
	},
})

// contactPart is an example of a part that is worth a piece.
const contactPart = `{"id":"r","type":"sorrel-card","children":[
	{"id":"h","type":"sorrel-heading","slot":"header","text":"Questions?"},{"id":"t","type":"sorrel-text","text":"Ring the office"},
	{"id":"n","type":"sorrel-text","text":"Mondays to Fridays"},{"id":"l","type":"sorrel-link","slot":"footer","text":"Where we are","props":{"to":"/x"}}]}`

// part is a part of a document in short.
type part struct {
	hash  uint64
	count int
}

// measure takes the parts of a tree together, whatever their ids.
func measure(e *screen.Element, into map[*screen.Element]part) part {
	h := fnv.New64a()
	this := part{count: 1}
	add := func(texts ...string) {
		for _, s := range texts {
			h.Write([]byte(s))
			h.Write([]byte{0})
		}
	}
	value := func(v screen.Value) { add(strconv.Itoa(int(v.Kind)), v.Text) }
	add(e.Type, e.Slot, e.Show)
	value(e.Text)
	for _, p := range e.Props {
		if p.Name == kit.Does || p.Name == "id" || p.Name == "for" {
			continue // what points at others differs with their ids
		}
		add(p.Name)
		value(p.Value)
	}
	if e.Repeat != nil {
		add("repeat", e.Repeat.Model, e.Repeat.Where)
	}
	for _, c := range e.Children {
		inner := measure(c, into)
		this.count += inner.count
		add(strconv.FormatUint(inner.hash, 36))
	}
	this.hash = h.Sum64()
	into[e] = this
	return this
}
