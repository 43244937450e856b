package describe

import (
	"encoding/json"
	"slices"
	"strings"
)

// Declared reads what the helper found in type declarations: a list "components" with
// their exports, "system" and "left". IDs are made of the prefix and the export; elements
// go by their tag. Two exports that would get one id are told apart by a number, and the
// same component under two exports counts once, under its shortest.
func (c *Catalog) Declared(src []byte, prefix string) error {
	if err := wellFormed(src); err != nil {
		return err
	}
	var read Catalog
	if err := json.Unmarshal(src, &read); err != nil {
		return err
	}
	c.System, c.Named = append(c.System, read.System...), append(c.Named, read.Named...)
	for _, l := range read.Left {
		c.left(l.Where, "%s", l.What)
	}
	initials := commonInitials(read.Entries)
	whole := map[string]string{} // exports that are no part of another, by their short name
	for _, e := range read.Entries {
		if e.Export != "" && !strings.Contains(e.Export, ".") {
			whole[Kebab(shortExport(e.Export, prefix, initials))] = e.Export
		}
	}
	for i := range read.Entries {
		e := read.Entries[i]
		// A part that stands by itself as well is one component under two names.
		if root, last, dotted := cutLast(e.Export, "."); dotted {
			_, by := whole[Kebab(last)]
			_, with := whole[Kebab(shortExport(root, prefix, initials))+"-"+Kebab(last)]
			if with || by && strings.Contains(Kebab(last), "-") {
				continue
			}
		}
		taken := Entry{
			Export: e.Export, Default: e.Default, Module: e.Module, Class: e.Class, Tag: e.Tag, Selector: e.Selector, Brings: e.Brings,
			Summary: clip(e.Summary, MaxText), Deprecated: e.Deprecated, From: FromTypes, Props: []Prop{}, Slots: []Slot{},
			Events: e.Events,
		}
		where := "types#" + e.Export + e.Tag
		for _, s := range e.Slots {
			taken.Slots = with(taken.Slots, []Slot{{Name: s.Name, Summary: s.Summary, From: FromTypes}})
		}
		for _, p := range e.Props {
			p.From = FromTypes
			if p.Default != "" {
				p.Default = plainDefault(p.Default)
			}
			if !slices.Contains(typeNames, p.Type) {
				p.Type = "text"
			}
			if len(p.Values) > MaxValues {
				p.Values, p.Type = nil, "text"
			}
			p.settleDefault()
			if never(p.Name) {
				continue // class, style and handlers are code's own, everywhere
			}
			taken.add(c, p, where)
		}
		switch {
		case taken.Tag != "":
			taken.ID = taken.Tag
		case taken.Export != "":
			taken.ID = c.free(prefix + "-" + Kebab(shortExport(taken.Export, prefix, initials)))
		}
		if !tagName.MatchString(taken.ID) {
			c.left(where, "%q cannot name a component", clip(taken.ID, 60))
			continue
		}
		if len(c.Entries) >= MaxEntries {
			c.left(where, "more than %d components", MaxEntries)
			break
		}
		if _, again := c.Find(taken.ID); again {
			c.left(where, "%s is declared again; the first one counts", taken.ID)
			continue
		}
		c.Entries = append(c.Entries, taken)
	}
	return nil
}

// shortExport takes a library's own name or initials off a component's, where what is
// left is a name: with initials "Ac" the component "AcButton" is "Button".
func shortExport(export, prefix, initials string) string {
	for _, own := range []string{pascal(prefix), initials} {
		if rest, ok := strings.CutPrefix(export, own); ok && own != "" && rest != "" && rest[0] >= 'A' && rest[0] <= 'Z' {
			return rest
		}
	}
	return export
}

// commonInitials are the letters that most exports begin with, before a capital.
func commonInitials(list []Entry) string {
	counts := map[string]int{}
	n := 0
	for _, e := range list {
		if e.Export == "" {
			continue
		}
		n++
		for end := 1; end <= 4 && end < len(e.Export); end++ {
			own := e.Export[:end]
			if strings.ToUpper(own[:1]) == own[:1] && strings.ToLower(own[1:]) == own[1:] && e.Export[end] >= 'A' && e.Export[end] <= 'Z' {
				counts[own]++
			}
		}
	}
	best := most(counts)
	if n < 8 || counts[best]*5 < n*3 {
		return ""
	}
	return best
}

func (c *Catalog) free(id string) string {
	for n, try := 2, id; ; n++ {
		if _, taken := c.Find(try); !taken {
			return try
		}
		try = id + "-" + string(rune('0'+n%10))
		if n > 9 {
			return id
		}
	}
}

// Merge puts what a lesser source says beside what a better one said: entries by tag, or
// by export; what both speak of keeps the better statement, and takes the other where it
// said nothing. only tells to take no entries that the better source does not have.
func (c *Catalog) Merge(o *Catalog, only bool) {
	c.Left = append(c.Left, o.Left...)
	c.System = append(c.System, o.System...)
	for i := range o.Entries {
		from := &o.Entries[i]
		to := c.counterpart(from)
		if to == nil {
			if !only {
				c.Entries = append(c.Entries, from.clone())
				continue
			}
			c.left(from.From, "%s is described there alone, and the package does not export it", firstOf(from.Export, from.ID))
			continue
		}
		to.complete(from, c.Drawn)
	}
	c.settleNamed(o.Named)
}

func (c *Catalog) counterpart(e *Entry) *Entry {
	if own, ok := c.Find(e.ID); ok {
		return own
	}
	if e.Export == "" {
		return nil
	}
	for i := range c.Entries {
		if own := &c.Entries[i]; own.Export != "" && Kebab(own.Export) == Kebab(e.Export) {
			return own
		}
	}
	return nil
}

func (e *Entry) complete(from *Entry, drawn string) {
	e.Summary = firstOf(e.Summary, from.Summary)
	e.Deprecated = firstOf(e.Deprecated, from.Deprecated)
	e.Class = firstOf(e.Class, from.Class)
	for i := range from.Props {
		p := &from.Props[i]
		own, ok := e.Prop(p.Name)
		if !ok && drawn == Elements {
			j := slices.IndexFunc(e.Props, func(q Prop) bool { return p.Attr != "" && q.Attr == p.Attr })
			if ok = j >= 0; ok {
				own = &e.Props[j]
			}
		}
		switch {
		case ok:
			own.fillFrom(p)
			own.settleDefault()
		case drawn == Elements && e.From == FromManifest:
			// A public field that the manifest does not tell of is no prop of it.
		default:
			e.Props = append(e.Props, *p)
		}
	}
	e.Slots, e.Events = with(e.Slots, from.Slots), with(e.Events, from.Events)
	e.Parts, e.CSS = with(e.Parts, from.Parts), with(e.CSS, from.CSS)
}

func firstOf(list ...string) string {
	for _, s := range list {
		if s != "" {
			return s
		}
	}
	return ""
}
