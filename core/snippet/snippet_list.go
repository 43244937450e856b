package snippet

import (
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// name is a name that nothing on the document has, the same for the same wish.
func (b *snippetMaker) name(wish string) string {
	if b.names[wish] == "" {
		name := wish
		for n := 2; b.taken[name]; n++ {
			name = wish + strconv.Itoa(n)
		}
		b.names[wish], b.taken[name] = name, true
	}
	return b.names[wish]
}

// ordering is an order that people choose by its words.
type ordering struct{ words, keys string }

func (b *snippetMaker) orderings() []ordering {
	var out []ordering
	for _, f := range b.model.Fields {
		label := strings.ToLower(sentence(f.Name))
		switch f.Type {
		case sample.Text:
			if len(out) == 0 {
				out = append(out, ordering{"By " + label, f.Name})
			}
		case sample.Date:
			out = append(out, ordering{"Latest " + label, "-" + f.Name})
		case sample.Number, sample.Money:
			out = append(out, ordering{"Most " + label, "-" + f.Name})
		}
	}
	return out[:min(len(out), 4)]
}

func (b *snippetMaker) orders() []string {
	var out []string
	for _, o := range b.orderings() {
		out = append(out, o.words)
	}
	return out
}

// act has what repeats over the model follow the controls that were made for it.
func (b *snippetMaker) act(root *screen.Element) {
	var where []string
	if len(b.searched) > 0 {
		parts := make([]string, len(b.searched))
		for i, f := range b.searched {
			parts[i] = "record." + f
		}
		where = append(
			where,
			"lower("+strings.Join(parts, " + ' ' + ")+").contains(lower(controls."+b.names["search"]+"))",
		)
	}
	for _, f := range b.filters {
		control := "controls." + b.names[f.Name]
		if f.Type == sample.YesNo {
			where = append(where, "(!"+control+" || record."+f.Name+")")
		} else {
			where = append(where, "("+control+" == '' || record."+f.Name+" == "+control+")")
		}
	}
	order := ""
	if list := b.orderings(); len(list) > 0 {
		order = list[0].keys
		if name := b.names["order"]; name != "" {
			code := "'" + list[0].keys + "'"
			for _, o := range slices.Backward(list[1:]) {
				code = "controls." + name + " == '" + o.words + "' ? '" + o.keys + "' : " + code
			}
			order = "= " + code
		}
	}
	root.Walk(func(e, _ *screen.Element) bool {
		if e.Repeat != nil && e.Repeat.Model == b.model.ID {
			e.Name = b.name("list")
			e.Repeat = &screen.Repeat{
				Model: b.model.ID,
				Where: strings.Join(where, " && "),
				Sort:  order,
				Limit: b.page,
				Page:  b.name("page"),
			}
		}
		return true
	})
}
