package sample

import (
	"fmt"
	"math"
	"math/rand/v2"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/brianvoe/gofakeit/v7"
)

// Maker says how a field's values are made up. Which settings count depends on Kind.
type Maker struct {
	Kind string `json:"kind"`
	// Least and Most are words, a number, minor units taken as major, or days from today.
	Least float64 `json:"least,omitempty"`
	Most  float64 `json:"most,omitempty"`
	// Spread is how numbers lie: "" evenly, "low" mostly near the least.
	Spread string `json:"spread,omitempty"`
	// Decimals of a number.
	Decimals int `json:"decimals,omitempty"`
	// Weights of the choices, or of yes; nil is even.
	Weights []float64 `json:"weights,omitempty"`
	// Ratio of pictures: "photo" (4:3), "square" or "wide" (16:9).
	Ratio string `json:"ratio,omitempty"`
	// Missing is the share of records without a value, where the field is not required.
	Missing float64 `json:"missing,omitempty"`
	// Pattern of a kind "pattern": # is a digit, ? a letter, the rest stands for itself.
	Pattern string `json:"pattern,omitempty"`
}

// MakerKinds lists for each type of field the kinds of values that can be made up, the
// usual one first.
var MakerKinds = map[FieldType][]string{
	Text: {
		"title",
		"person",
		"words",
		"sentence",
		"place",
		"company",
		"e-mail",
		"phone",
		"botanical",
		"pattern",
	}, LongText: {"paragraph", "sentence"},
	Number: {
		"number",
	}, Money: {"money"}, YesNo: {"yes/no"}, Date: {"date"}, Time: {"time"}, Choice: {"choice"}, Picture: {"picture"}, Link: {"link"}, Ref: {"reference"}, Texts: {"list"}, Refs: {"references"},
}

// Suggest is the maker that a field's name and type ask for.
func (f *Field) Suggest() Maker {
	if f.Maker != nil {
		return *f.Maker
	}
	name := strings.ToLower(f.Name)
	says := func(words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(name, w) })
	}
	m := Maker{Kind: MakerKinds[f.Type][0], Least: 2, Most: 4}
	if f.Type == Texts || f.Type == Refs {
		m.Least = 1
	}
	if !f.Required {
		m.Missing = 0.1
	}
	number := func(s string, or float64) float64 {
		if n, err := strconv.ParseFloat(s, 64); err == nil {
			return n
		}
		return or
	}
	switch f.Type {
	case Text:
		switch {
		case says("mail"):
			m.Kind = "e-mail"
		case says("phone", "tel"):
			m.Kind = "phone"
		case says("latin", "species", "genus"):
			m.Kind = "botanical"
		case says("person", "author", "owner", "volunteer", "contact", "assignee", "fullname", "surname"):
			m.Kind = "person"
		case says("supplier", "company", "firm"):
			m.Kind = "company"
		case says("city", "town", "place", "address", "street"):
			m.Kind = "place"
		case says("code", "number", "sku", "label") && f.Unique:
			m.Kind, m.Pattern = "pattern", "??-####"
		case says("note", "summary", "text", "description", "subject"):
			m.Kind, m.Least, m.Most = "sentence", 4, 12
		}
	case LongText:
		m.Least, m.Most = 20, 60
	case Number:
		m.Least, m.Most = number(f.Least, 0), number(f.Most, 100)
	case Money:
		m.Least, m.Most, m.Spread = number(f.Least, 5), number(f.Most, 500), "low"
	case Date:
		m.Least, m.Most = -365, 60
		if says("due", "until", "next", "deadline") {
			m.Least, m.Most = -10, 40
		}
	case Time:
		m.Least, m.Most = 8, 18
	case Picture:
		m.Ratio = "photo"
	}
	return m
}

// people are words by which a model is known to be of people, whose names are persons'.
var people = strings.Fields(
	"person people volunteer member user customer client guest visitor author employee colleague student teacher patient contact driver player owner staff gardener applicant subscriber",
)

// Suggest is the maker that a field of the model asks for: a volunteer's name is a
// person's.
func (m *Model) Suggest(f *Field) Maker {
	mk := f.Suggest()
	name := strings.ToLower(f.Name)
	if f.Maker == nil && f.Type == Text && mk.Kind == "title" && (name == "name" || name == "fullname") &&
		slices.ContainsFunc(
			strings.Fields(strings.ToLower(m.Name)),
			func(w string) bool { return slices.Contains(people, w) },
		) {
		mk.Kind = "person"
	}
	return mk
}

// Order is what is to be made: so many records of a model, from a seed.
type Order struct {
	Model  *Model
	Makers map[string]Maker // by field; those left out are as suggested
	Seed   uint64
	Count  int
	Today  string                                 // YYYY-MM-DD
	IDs    func(model string) []string            // that references may name
	Taken  map[string]bool                        // ids that stand already
	Used   func(field string) map[string]struct{} // values that stand already, for what is to be unique; may be nil
	Met    map[string][]string                    // texts that lists hold already, by field: new ones are made of the same
}

// maxMade bounds one order.
const maxMade = 20_000

// Generate makes records up. The same order gives the same records, whatever the clock.
func Generate(o Order) ([]Record, error) {
	if o.Count < 0 || o.Count > maxMade {
		return nil, fmt.Errorf("%d records cannot be made at once; accepted: up to %d", o.Count, maxMade)
	}
	today, err := time.Parse(time.DateOnly, o.Today)
	if err != nil {
		return nil, fmt.Errorf("today is not a date: %w", err)
	}
	out := make([]Record, o.Count)
	next := 1
	for i := range out {
		for ; o.Taken[o.Model.ID+"-"+strconv.Itoa(next)]; next++ {
		}
		out[i] = Record{"id": o.Model.ID + "-" + strconv.Itoa(next)}
		next++
	}
	for j := range o.Model.Fields {
		f := &o.Model.Fields[j]
		if f.Compute != "" {
			continue
		}
		m, given := o.Makers[f.Name]
		if !given {
			m = o.Model.Suggest(f)
		}
		if !slices.Contains(MakerKinds[f.Type], m.Kind) {
			return nil, fmt.Errorf(
				"%s: %q cannot be made for a %s; accepted: %s",
				f.Name,
				m.Kind,
				f.Type,
				strings.Join(MakerKinds[f.Type], ", "),
			)
		}
		if m.Least > m.Most {
			return nil, fmt.Errorf(
				"%s: the least, %s, is more than the most, %s",
				f.Name,
				Plain(m.Least),
				Plain(m.Most),
			)
		}
		// Each field has a stream of its own: a field more changes none of the others.
		seed := o.Seed
		for _, r := range f.Name {
			seed = seed*1099511628211 + uint64(r)
		}
		src := rand.NewPCG(o.Seed, seed)
		mk := maker{Maker: m, f: f, r: rand.New(src), fake: gofakeit.NewFaker(src, false), today: today}
		if (f.Type == Ref || f.Type == Refs) && o.IDs != nil {
			mk.ids = o.IDs(f.Model)
		}
		if f.Type == Texts {
			mk.ids = o.Met[f.Name]
		}
		used := map[any]bool{}
		if f.Unique && o.Used != nil {
			for v := range o.Used(f.Name) {
				used[v] = true
			}
		}
		for i, r := range out {
			if !f.Required && mk.r.Float64() < m.Missing {
				continue
			}
			v := mk.value(i)
			for try := 0; f.Unique && used[v]; try++ {
				if try == 200 {
					return nil, fmt.Errorf(
						"%s is to be unique, and %d values are all that came up; widen what it is made of",
						f.Name,
						len(used),
					)
				}
				if v = mk.value(i); try > 20 && (f.Type == Text || f.Type == LongText) {
					v = fmt.Sprintf("%v %d", v, i+1)
				}
			}
			used[v] = true
			if v != nil {
				r[f.Name] = v
			}
		}
	}
	return out, nil
}

type maker struct {
	Maker
	f     *Field
	r     *rand.Rand
	fake  *gofakeit.Faker
	today time.Time
	ids   []string // that references may name; of a list the texts it may hold
}

func (m *maker) span() float64 {
	share := m.r.Float64()
	if m.Spread == "low" {
		share = share * share * share
	}
	return m.Least + share*(m.Most-m.Least)
}

func (m *maker) words(more bool) string {
	n := int(math.Round(m.span()))
	if n < 1 {
		n = 1
	}
	list := make([]string, n)
	for i := range list {
		list[i] = plainWords[m.r.IntN(len(plainWords))]
	}
	s := strings.Join(list, " ")
	if more {
		s += "."
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func (m *maker) pick(list []string, weights []float64) string {
	sum := 0.0
	for i := range list {
		if i < len(weights) {
			sum += math.Max(0, weights[i])
		}
	}
	if len(weights) != len(list) || sum <= 0 {
		return list[m.r.IntN(len(list))]
	}
	at := m.r.Float64() * sum
	for i, w := range weights {
		if at -= math.Max(0, w); at < 0 {
			return list[i]
		}
	}
	return list[len(list)-1]
}

func (m *maker) value(i int) any {
	switch m.Kind {
	case "person":
		return m.cut(m.fake.FirstName() + " " + m.fake.LastName())
	case "place":
		return m.cut(m.fake.City())
	case "company":
		return m.cut(m.fake.LastName() + " & " + m.fake.LastName())
	case "e-mail":
		return strings.ToLower(m.fake.FirstName()+"."+m.fake.LastName()) + "@fernhollow.example"
	case "phone":
		return "+00 " + m.fake.Numerify("### ### ####")
	case "botanical":
		return m.cut(genera[m.r.IntN(len(genera))] + " " + epithets[m.r.IntN(len(epithets))])
	case "pattern":
		return strings.ToUpper(m.fake.Lexify(m.fake.Numerify(m.Pattern)))
	case "title", "words":
		return m.cut(m.words(false))
	case "sentence":
		return m.cut(m.words(true))
	case "paragraph":
		left := max(1, int(m.span()))
		var out []string
		for left > 0 {
			n := min(left, 6+m.r.IntN(8))
			part := *m
			part.Least, part.Most, part.Spread = float64(n), float64(n), ""
			out = append(out, part.words(true))
			left -= n
		}
		return m.cut(strings.Join(out, " "))
	case "number":
		scale := math.Pow(10, float64(max(0, min(6, m.Decimals))))
		return math.Round(m.span()*scale) / scale
	case "money":
		return math.Round(m.span() * m.f.minor())
	case "yes/no":
		share := 0.5
		if len(m.Weights) > 0 {
			share = m.Weights[0]
		}
		return m.r.Float64() < share
	case "date":
		return m.today.AddDate(0, 0, int(math.Round(m.span()))).Format(time.DateOnly)
	case "time":
		minutes := int(m.span()*4) * 15 % (24 * 60)
		return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60)
	case "choice":
		if len(m.f.Choices) == 0 {
			return "none"
		}
		return m.pick(m.f.Choices, m.Weights)
	case "reference":
		if len(m.ids) == 0 {
			return nil
		}
		return m.ids[m.r.IntN(len(m.ids))]
	case "list", "references":
		return m.several()
	case "link":
		return "https://fernhollow.example/" + strings.ReplaceAll(strings.ToLower(m.words(false)), " ", "-")
	case "picture":
		return Draw(m.r, m.Ratio)
	}
	return nil
}

// several are as many texts, or ids, as the maker says, none of them twice.
func (m *maker) several() any {
	from := m.ids
	if m.Kind == "list" && len(from) < 3 {
		from = plainWords
	}
	n := min(len(from), max(1, int(math.Round(m.span()))))
	if n == 0 {
		return nil
	}
	items := make([]string, n)
	for i, at := range m.r.Perm(len(from))[:n] {
		items[i] = from[at]
	}
	return ListOf(items...)
}

// cut holds a text to the length that its field allows.
func (m *maker) cut(s string) string {
	most, err := strconv.Atoi(m.f.Most)
	if r := []rune(s); err == nil && len(r) > most {
		s = strings.TrimSpace(string(r[:most]))
	}
	return s
}

// Draw makes a small picture up, as SVG in a data address: a plant before a ground, in
// one of the ratios "photo", "square" and "wide".
func Draw(r *rand.Rand, ratio string) string {
	w, h := 160, 120
	switch ratio {
	case "square":
		w = h
	case "wide":
		w, h = 192, 108
	}
	grounds := []string{"#e4eedd", "#dfe9ee", "#f0ead9", "#ece4ea", "#e3ebe2"}
	leaves := []string{"#4f7a3a", "#6d8f3f", "#8a6d3b", "#a4542c", "#2f6b57", "#b08a2e"}
	x, top := w/2+r.IntN(w/5)-w/10, h/5+r.IntN(h/6)
	var b strings.Builder
	fmt.Fprintf(
		&b,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d"><rect width="%[1]d" height="%[2]d" fill="%s"/><path d="M0 %d Q%d %d %[1]d %[4]d V%[2]d H0 Z" fill="#cfd9c4"/><rect x="%[7]d" y="%[8]d" width="6" height="%[9]d" fill="#6b4f3a"/>`,
		w,
		h,
		grounds[r.IntN(len(grounds))],
		h-16,
		w/2,
		h-28-r.IntN(10),
		x-3,
		h/2,
		h/2-14,
	)
	leaf := leaves[r.IntN(len(leaves))]
	switch r.IntN(3) {
	case 0:
		for range 5 + r.IntN(4) {
			fmt.Fprintf(
				&b,
				`<circle cx="%d" cy="%d" r="%d" fill="%s" opacity=".85"/>`,
				x+r.IntN(44)-22,
				top+r.IntN(32),
				12+r.IntN(10),
				leaf,
			)
		}
	case 1:
		for i := range 3 {
			y := top + i*18
			fmt.Fprintf(
				&b,
				`<path d="M%d %d L%d %d L%d %d Z" fill="%s"/>`,
				x,
				y-12,
				x-18-i*7,
				y+18,
				x+18+i*7,
				y+18,
				leaf,
			)
		}
	default:
		for i := range 7 {
			fmt.Fprintf(
				&b,
				`<ellipse cx="%d" cy="%d" rx="5" ry="%d" fill="%s" transform="rotate(%d %[1]d %[6]d)"/>`,
				x,
				top+8,
				20+r.IntN(8),
				leaf,
				i*30-90,
				h/2,
			)
		}
	}
	b.WriteString("</svg>")
	return "data:image/svg+xml," + url.PathEscape(b.String())
}

// Words of our own, so that what is made up reads as an arboretum's.
var (
	plainWords = strings.Fields(
		"prune water label mend count plant move clear north south lake gate path bench bed hedge lawn stone maple oak fern moss ivy heather lime birch willow seed bulb frost autumn spring early late young old tall low wild quiet bright shaded sunny damp dry narrow wide long short round slow gentle careful weekly daily first second last morning evening winter summer ladder saw rake barrow basket glass shed pond bridge wall corner slope terrace orchard nursery meadow grove ring root bark leaf branch crown trunk",
	)
	genera = strings.Fields(
		"Acer Ginkgo Tilia Quercus Betula Fagus Sorbus Prunus Malus Cornus Magnolia Carpinus Larix Picea Abies Taxus Ilex Juglans Aesculus Liquidambar Parrotia Davidia Cercis Catalpa Robinia Sequoia Thuja Juniperus Salix Alnus",
	)
	epithets = strings.Fields(
		"griseum biloba tomentosa robur pendula sylvatica aucuparia avium sylvestris mas stellata betulus decidua abies alba baccata aquifolium regia hippocastanum styraciflua persica involucrata siliquastrum bignonioides pseudoacacia sempervirens plicata communis caprea glutinosa japonica canadensis orientalis palmatum rubra nigra grandis gracilis vulgaris montana",
	)
)

// Many makes so many records of each model up, for seeing screens with more than fits.
// References name records among them.
func Many(models []Model, count int, today string) (Set, error) {
	s := Set{ID: "many", Name: "Many", Records: map[string][]Record{}}
	for i := range models {
		list, err := Generate(
			Order{Model: &models[i], Seed: 1, Count: count, Today: today, IDs: func(model string) []string {
				ids := make([]string, count)
				for i := range ids {
					ids[i] = model + "-" + strconv.Itoa(i+1)
				}
				return ids
			}},
		)
		if err != nil {
			return s, fmt.Errorf("%s: %w", models[i].ID, err)
		}
		s.Records[models[i].ID] = list
	}
	return s, nil
}
