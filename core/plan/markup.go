package plan

import (
	"fmt"
	"html"
	"strings"

	"ubiquant/core/picture"
)

// markup writes the parts of a plan as the plain page that they are a picture of; reading
// markup then finds the components of whatever kit there is, and where they may stand. Each
// element is marked with the part it comes from.
type markup struct {
	strings.Builder
	leave  func(p *picture.Part) bool
	wide   int // of the page, in pixels
	titled bool
}

// mark is the attribute that names the part an element comes from.
const mark = "data-part"

// words are what stands in a part: what somebody wrote, else its name, so that it shows
// where it stands.
func words(p *picture.Part) string {
	if p.Text != "" {
		return p.Text
	}
	return p.Name
}

func (m *markup) open(tag, id, more string) { fmt.Fprintf(m, `<%s %s="%s"%s>`, tag, mark, id, more) }

func (m *markup) leaf(tag string, p *picture.Part, more string) {
	m.open(tag, p.ID, more)
	m.WriteString(html.EscapeString(words(p)))
	m.WriteString("</" + tag + ">")
}

// around is where a part stands: what a text is depends on it.
type around struct{ bar bool }

func (m *markup) part(p *picture.Part, in around) {
	if m.leave(p) || !m.stands(p) {
		return
	}
	switch p.Look {
	case picture.Bar:
		tag, class := "nav", "navbar"
		if p.At.Y > 300 {
			tag, class = "footer", "footer"
		}
		m.holds(tag, p, ` class="`+class+`"`, around{bar: tag == "nav"})
	case picture.Side:
		m.holds("nav", p, ` class="sidebar"`, around{bar: true})
	case picture.Table:
		m.table(p)
	case picture.Panel:
		m.panel(p, in)
	case picture.Heading:
		tag := "h2"
		if !m.titled {
			tag, m.titled = "h1", true
		}
		m.leaf(tag, p, "")
	case picture.Text:
		if in.bar {
			m.leaf("a", p, "")
		} else {
			m.leaf("p", p, "")
		}
	case picture.Button:
		m.leaf("button", p, ` class="button"`)
	case picture.Chip:
		m.leaf("span", p, ` class="badge"`)
	case picture.Avatar:
		m.leaf("span", p, ` class="avatar"`)
	case picture.Icon:
		fmt.Fprintf(m, `<i %s="%s" class="icon" data-icon="%s"></i>`, mark, p.ID, html.EscapeString(p.Text))
	case picture.Field:
		m.field(nil, p)
	case picture.Picture:
		fmt.Fprintf(m, `<img %s="%s" alt="%s">`, mark, p.ID, html.EscapeString(words(p)))
	case picture.Line:
		fmt.Fprintf(m, `<hr %s="%s">`, mark, p.ID)
	default:
		m.group(p, in)
	}
}

// stands tells whether anything of a part comes to stand: an icon that nobody named does not.
func (m *markup) stands(p *picture.Part) bool {
	if p.Becomes != "" {
		return p.Becomes != picture.Leave
	}
	if len(p.Parts) == 0 {
		return p.Look != picture.Icon || p.Text != ""
	}
	for i := range p.Parts {
		if m.stands(&p.Parts[i]) {
			return true
		}
	}
	return false
}

// field is a control with its label, where one stands above it or beside it.
func (m *markup) field(label, p *picture.Part) {
	name := words(p)
	id := p.ID + "-label"
	if label != nil {
		name, id = words(label), label.ID
	}
	m.open("label", id, ` class="field"`)
	m.WriteString(html.EscapeString(name))
	fmt.Fprintf(m, ` <input type="text" %s="%s"></label>`, mark, p.ID)
}

func (m *markup) holds(tag string, p *picture.Part, more string, in around) {
	m.open(tag, p.ID, more)
	m.parts(p, in)
	m.WriteString("</" + tag + ">")
}

// parts writes what stands in a part, with each label at its field.
func (m *markup) parts(p *picture.Part, in around) {
	for i := 0; i < len(p.Parts); i++ {
		c := &p.Parts[i]
		if c.Look == picture.Text && c.Lines <= 1 && i+1 < len(p.Parts) && p.Parts[i+1].Look == picture.Field &&
			!m.leave(c) && !m.leave(&p.Parts[i+1]) {
			m.field(c, &p.Parts[i+1])
			i++
			continue
		}
		m.part(c, in)
	}
}

// panel is a card, or a form in a card.
func (m *markup) panel(p *picture.Part, in around) {
	if m.wide > 0 && p.At.W*100 >= 97*m.wide { // a ground from side to side is a part of the page
		m.holds("section", p, "", in)
		return
	}
	if p.At.W > 0 && len(p.Parts) == 0 {
		m.leaf("div", p, ` class="card"`)
		return
	}
	fields, buttons := 0, 0
	p.Walk(func(q, _ *picture.Part) {
		switch q.Look {
		case picture.Field:
			fields++
		case picture.Button:
			buttons++
		}
	})
	m.open("article", p.ID, ` class="card"`)
	switch {
	case fields > 0 && buttons > 0:
		m.open("form", p.ID+"-form", "")
		m.inner(p)
		m.WriteString("</form>")
	default:
		m.inner(p)
	}
	m.WriteString("</article>")
}

// inner writes what stands in a panel: beside each other where it is so.
func (m *markup) inner(p *picture.Part) {
	if p.Across && len(p.Parts) > 1 {
		across := *p
		across.ID += "-inner"
		m.group(&across, around{})
		return
	}
	m.parts(p, around{})
}

// group is a layout.
func (m *markup) group(p *picture.Part, in around) {
	switch cells := tiles(p); {
	case len(cells) > 0:
		columns := 0
		for i := range p.Parts {
			columns = max(columns, len(p.Parts[i].Parts))
		}
		if p.Across {
			columns = len(p.Parts)
		}
		m.open("div", p.ID, fmt.Sprintf(` style="display:grid;grid-template-columns:repeat(%d,1fr)"`, columns))
		for _, c := range cells {
			m.part(c, around{})
		}
		m.WriteString("</div>")
	case in.bar:
		m.parts(p, in)
	case p.Across && shared(p):
		m.open("div", p.ID, ` class="row"`)
		spans := spansOf(p)
		for i := range p.Parts {
			c := &p.Parts[i]
			if m.leave(c) {
				continue
			}
			m.open("div", c.ID+"-column", fmt.Sprintf(` class="col-%d"`, spans[i]))
			m.part(c, around{})
			m.WriteString("</div>")
		}
		m.WriteString("</div>")
	case p.Across:
		style := "display:flex;align-items:center"
		if p.Gap > widest {
			style += ";justify-content:space-between"
		}
		m.holds("div", p, ` style="`+style+`"`, in)
	default:
		m.holds("div", p, ` class="stack"`, in)
	}
}

// table writes the first row as its head.
func (m *markup) table(p *picture.Part) {
	m.open("table", p.ID, "")
	for i := range p.Parts {
		row := &p.Parts[i]
		if m.leave(row) {
			continue
		}
		section, cell := "tbody", "td"
		if i == 0 {
			section, cell = "thead", "th"
		}
		m.WriteString("<" + section + ">")
		m.open("tr", row.ID, "")
		cells := row.Parts
		if row.Look != picture.Row {
			cells = []picture.Part{*row}
			cells[0].ID += "-only"
		}
		for j := range cells {
			c := &cells[j]
			m.open(cell, c.ID+"-cell", "")
			if c.Look == picture.Text || c.Look == picture.Heading {
				m.WriteString(html.EscapeString(words(c)))
			} else {
				m.part(c, around{})
			}
			m.WriteString("</" + cell + ">")
		}
		m.WriteString("</tr></" + section + ">")
	}
	m.WriteString("</table>")
}

// tiles are the boxes of a grid: of one row of like ones, or of several rows as long as each
// other.
func tiles(p *picture.Part) []*picture.Part {
	if p.Across {
		if len(p.Parts) < 2 || len(p.Parts) > 6 {
			return nil
		}
		var out []*picture.Part
		for i := range p.Parts {
			c, first := &p.Parts[i], &p.Parts[0]
			if c.Look != first.Look || !large(c) || !about(c.At.W, first.At.W) || !about(c.At.H, first.At.H) {
				return nil
			}
			out = append(out, c)
		}
		return out
	}
	if len(p.Parts) < 2 {
		return nil
	}
	var out []*picture.Part
	for i := range p.Parts {
		row := tiles(&p.Parts[i])
		first := &p.Parts[0]
		switch {
		case p.Parts[i].Look != picture.Group || !p.Parts[i].Across:
			return nil
		case row == nil && i == len(p.Parts)-1 && len(p.Parts[i].Parts) == 1:
			row = []*picture.Part{&p.Parts[i].Parts[0]}
		case row == nil || len(row) > len(first.Parts) || len(row) < len(first.Parts) && i < len(p.Parts)-1:
			return nil
		}
		out = append(out, row...)
	}
	return out
}

func large(p *picture.Part) bool {
	return p.At.H >= 64 && (p.Look == picture.Panel || p.Look == picture.Group || p.Look == picture.Picture)
}

func about(a, b int) bool { return a*100 >= b*88 && a*100 <= b*112 }

// shared tells whether parts beside each other share the width, as a row of columns does.
func shared(p *picture.Part) bool {
	if len(p.Parts) < 2 || len(p.Parts) > 4 {
		return false
	}
	for i := range p.Parts {
		if !large(&p.Parts[i]) && p.Parts[i].Look != picture.Table && p.Parts[i].Look != picture.Side {
			return false
		}
	}
	return true
}

// spansOf shares twelve columns out as the parts take the width; each has one at least.
func spansOf(p *picture.Part) []int {
	out := make([]int, len(p.Parts))
	all, left := 0, 12
	for i := range p.Parts {
		all += p.Parts[i].At.W
	}
	for i := range p.Parts {
		rest := len(p.Parts) - 1 - i
		out[i] = max(1, min(left-rest, (p.Parts[i].At.W*12+all/2)/max(1, all)))
		if rest == 0 {
			out[i] = left
		}
		left -= out[i]
	}
	return out
}
