// Command gen builds demo/fernhollow.json from demo/fernhollow.lines and the
// records below; with -code the two repositories of code beside it. All names are made up; the same sources give the same bytes.
package main

import (
	"bufio"
	"flag"
	"fmt"
	"net/url"
	"os"
	"regexp"
	"strconv"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
)

func main() {
	dir := flag.String("dir", "demo", "folder with fernhollow.lines")
	code := flag.Bool("code", false, "write the repositories of code only")
	flag.Parse()
	if *code {
		for _, r := range []*repository{office(*dir + "/office"), stand(*dir + "/stand")} {
			if err := r.write(); err != nil {
				fmt.Fprintln(os.Stderr, "demo:", err)
				os.Exit(1)
			}
		}
		return
	}
	src, err := os.ReadFile(*dir + "/fernhollow.lines")
	if err == nil {
		var w *model.Workspace
		if w, err = build(string(src)); err == nil {
			// Reading checks it and brings children into their canonical order.
			if w, err = wsfile.Read(wsfile.Write(w)); err == nil {
				err = os.WriteFile(*dir+"/fernhollow.json", wsfile.Write(w), 0o644)
			}
		}
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "demo:", err)
		os.Exit(1)
	}
}

func build(src string) (*model.Workspace, error) {
	w := &model.Workspace{
		Name: "Fernhollow",
		Kit:  model.KitRef{Name: "@fernhollow/sorrel", Version: "1.0.0"},
		Apps: []model.App{{ID: "ops", Name: "Fernhollow Operations"}},
	}
	w.Models = models()
	w.Queries = []sample.Query{
		{
			ID:    "visitsByGate",
			Name:  "Visits by gate",
			From:  "visits",
			Group: []string{"gate"},
			Each: []sample.QueryValue{
				{Name: "visitors", Do: "sum", Field: "count"},
				{Name: "days", Do: "count"},
				{Name: "busiest", Do: "most", Field: "count"},
			},
			Sort: "-visitors",
		},
		{
			ID:    "ticketsByState",
			Name:  "Tickets by state",
			From:  "tickets",
			Group: []string{"state"},
			Each:  []sample.QueryValue{{Name: "tickets", Do: "count"}},
		},
	}
	w.Bases = []sample.Base{{Name: "office", Address: "http://127.0.0.1:4680"}}
	w.Sources = []sample.Source{
		{
			Model:  "visits",
			Base:   "office",
			Path:   "/visits?gate={gate}&from={from}",
			List:   "/visits",
			Fields: map[string]string{"id": "/key", "day": "/when", "gate": "/place/gate", "count": "/people"},
		},
	}
	w.Sets = []sample.Set{{ID: "usual", Name: "Usual", Records: records()}}
	w.House = []audit.HouseRule{
		{
			ID:     "round-avatars",
			Spot:   "sorrel-avatar",
			Words:  "any avatar",
			Prop:   "shape",
			Value:  "round",
			Reason: "People are round, things are square.",
			By:     "ida",
			When:   "2026-09-14",
		},
	}
	lines := bufio.NewScanner(strings.NewReader(src))
	var doc *screen.Document
	var stack []*screen.Element
	var depths []int
	n, number := 0, 0
	for lines.Scan() {
		number++
		line := strings.TrimRight(lines.Text(), " ")
		if line == "" || strings.HasPrefix(line, "#") {
			continue
		}
		depth := len(line) - len(strings.TrimLeft(line, " "))
		words, text, err := split(strings.TrimSpace(line))
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", number, err)
		}
		switch words[0] {
		case "shell", "piece", "screen":
			doc = &screen.Document{Kind: screen.DocKind(words[0]), ID: words[1], Title: words[2], Revision: 1}
			if words[0] == "screen" {
				doc.Route, doc.Shell, doc.Owner, doc.Made, doc.App = words[3], words[4], words[5], words[6], "ops"
			}
			w.Docs = append(w.Docs, doc)
			stack, depths, n = nil, nil, 0
			continue
		case "prop":
			doc.Props = append(doc.Props, screen.PieceProp{Name: words[1], Element: words[2]})
			continue
		}
		n++
		e, err := element(words, text, fmt.Sprintf("%s-%d", doc.ID, n))
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", number, err)
		}
		for len(depths) > 0 && depths[len(depths)-1] >= depth {
			stack, depths = stack[:len(stack)-1], depths[:len(depths)-1]
		}
		if len(stack) == 0 {
			if doc.Root != nil {
				return nil, fmt.Errorf("line %d: %s has two roots", number, doc.ID)
			}
			doc.Root = e
		} else {
			p := stack[len(stack)-1]
			p.Children = append(p.Children, e)
		}
		stack, depths = append(stack, e), append(depths, depth)
	}
	return w, lines.Err()
}

// split parts a line into words, quotes kept together, and the text after |.
func split(line string) (words []string, text string, err error) {
	for line != "" {
		if line[0] == '|' {
			return words, strings.TrimSpace(line[1:]), nil
		}
		end, quote, depth := 0, byte(0), 0
		for end < len(line) && (quote != 0 || depth > 0 || line[end] != ' ') {
			switch c := line[end]; {
			case quote != 0 && c == quote:
				quote = 0
			case quote == 0 && (c == '"' || c == '\''):
				quote = c
			case quote == 0 && c == '(':
				depth++
			case quote == 0 && c == ')':
				depth--
			}
			end++
			// An expression goes on over operators with spaces round them.
			if end < len(line) && line[end] == ' ' && strings.Contains(line[:end], "==") && len(line) > end+2 &&
				strings.ContainsRune("+?:", rune(line[end+1])) &&
				line[end+2] == ' ' {
				end += 3
			}
		}
		word := line[:end]
		line = strings.TrimLeft(line[end:], " ")
		if !strings.Contains(word, "==") && !strings.HasPrefix(word, "*") && !strings.HasPrefix(word, "?") {
			word = strings.ReplaceAll(word, `"`, "")
		}
		words = append(words, word)
	}
	return words, "", nil
}

var number = regexp.MustCompile(`^-?\d+(\.\d+)?$`)
var repeat = regexp.MustCompile(`^\*([\w.]+)\((.*)\)$`)

// numeric are the props of the kit that take numbers; step names stay texts.
var numeric = map[string]bool{"level": true, "pages": true, "rows": true, "page": true, "count": true}

func element(words []string, text, id string) (*screen.Element, error) {
	e := &screen.Element{ID: id, Type: words[0]}
	for _, w := range words[1:] {
		name, value, isProp := strings.Cut(w, "=")
		switch {
		case strings.HasPrefix(w, "#"):
			e.ID = w[1:]
		case strings.HasPrefix(w, "@"):
			e.Slot = w[1:]
		case strings.HasPrefix(w, "."):
			e.Name = w[1:]
		case strings.HasPrefix(w, "?"):
			e.Show = w[1:]
		case strings.HasPrefix(w, "*"):
			m := repeat.FindStringSubmatch(w)
			if m == nil {
				return nil, fmt.Errorf("%q is no repeat", w)
			}
			parts := append(strings.Split(m[2], ";"), "", "", "", "")
			e.Repeat = &screen.Repeat{
				Model: m[1],
				Where: strings.TrimSpace(parts[0]),
				Sort:  strings.TrimSpace(parts[1]),
				Page:  strings.TrimSpace(parts[3]),
			}
			if limit := strings.TrimSpace(parts[2]); limit != "" {
				var err error
				if e.Repeat.Limit, err = strconv.Atoi(limit); err != nil {
					return nil, err
				}
			}
		case !isProp:
			return nil, fmt.Errorf("%q is not understood", w)
		case strings.HasPrefix(value, "="):
			e.Props = append(
				e.Props,
				screen.Prop{Name: name, Value: screen.Value{Kind: screen.Expr, Text: value[1:]}},
			)
		case value == "true" || value == "false":
			e.Props = append(e.Props, screen.Prop{Name: name, Value: screen.FlagValue(value == "true")})
		case numeric[name] && number.MatchString(value):
			e.Props = append(e.Props, screen.Prop{Name: name, Value: screen.Value{Kind: screen.Num, Text: value}})
		default:
			e.Props = append(e.Props, screen.Prop{Name: name, Value: screen.Lit(value)})
		}
	}
	screen.SortProps(e.Props)
	switch {
	case strings.HasPrefix(text, "="):
		e.Text = screen.Value{Kind: screen.Expr, Text: text[1:]}
	case text != "":
		e.Text = screen.Lit(text)
	}
	return e, nil
}

func models() []sample.Model {
	f := func(name string, t sample.FieldType, required bool, choices ...string) sample.Field {
		return sample.Field{Name: name, Type: t, Required: required, Choices: choices}
	}
	means := func(field sample.Field, tones string) sample.Field {
		for i, t := range strings.Fields(tones) {
			m := sample.Meaning{Tone: t}
			if i < len(field.Choices) {
				m.Value = field.Choices[i]
			}
			field.Meanings = append(field.Meanings, m)
		}
		return field
	}
	ref := func(name, model string) sample.Field { return sample.Field{Name: name, Type: sample.Ref, Model: model} }
	return []sample.Model{
		{
			ID:   "specimens",
			Name: "Specimen",
			Fields: []sample.Field{
				f("name", sample.Text, true),
				f("latin", sample.Text, true),
				ref("bed", "beds"),
				means(
					f("condition", sample.Choice, true, "thriving", "watch", "ailing", "dormant"),
					"good warn bad neutral neutral",
				),
				f("height", sample.Number, false),
				f("planted", sample.Date, true),
				f("onDisplay", sample.YesNo, true),
				f("picture", sample.Picture, false),
			},
		},
		{
			ID:   "beds",
			Name: "Bed",
			Fields: []sample.Field{
				f("name", sample.Text, true),
				f("soil", sample.Choice, true, "loam", "clay", "sand", "peat"),
				f("area", sample.Number, true),
				means(f("moisture", sample.Choice, true, "dry", "fresh", "wet"), "bad good info neutral"),
			},
		},
		{
			ID:   "rounds",
			Name: "Watering round",
			Fields: []sample.Field{
				f("name", sample.Text, true),
				f("day", sample.Date, true),
				ref("volunteer", "volunteers"),
				f("litres", sample.Number, true),
			},
		},
		{
			ID:   "tickets",
			Name: "Work ticket",
			Fields: []sample.Field{
				f("title", sample.Text, true),
				f("due", sample.Date, true),
				means(f("state", sample.Choice, true, "open", "doing", "done"), "neutral info good neutral"),
				ref("assignee", "volunteers"),
				ref("bed", "beds"),
				{Name: "helpers", Type: sample.Refs, Model: "volunteers"},
				{Name: "late", Type: sample.YesNo, Compute: "record.state != 'done' && record.due < today"},
			},
		},
		{
			ID:   "orders",
			Name: "Seed order",
			Fields: []sample.Field{
				f("supplier", sample.Text, true),
				f("day", sample.Date, true),
				means(f("state", sample.Choice, true, "open", "paid"), "warn good neutral"),
				f("total", sample.Money, true),
				f("items", sample.Number, true),
				{Name: "perItem", Type: sample.Money, Compute: "record.total / record.items"},
				{Name: "duty", Type: sample.Money, Currency: "CHF"},
			},
		},
		{
			ID:   "volunteers",
			Name: "Volunteer",
			Fields: []sample.Field{
				f("name", sample.Text, true),
				f("skill", sample.Text, true),
				f("active", sample.YesNo, true),
				f("days", sample.Texts, false),
			},
		},
		{
			ID:   "shifts",
			Name: "Shift",
			Fields: []sample.Field{
				f("day", sample.Date, true),
				ref("volunteer", "volunteers"),
				f("hours", sample.Number, true),
			},
		},
		{
			ID:   "visits",
			Name: "Visitor count",
			Fields: []sample.Field{
				f("day", sample.Date, true),
				f("gate", sample.Choice, true, "North gate", "Lake gate"),
				f("count", sample.Number, true),
			},
		},
		{
			ID:   "messages",
			Name: "Message",
			Fields: []sample.Field{
				f("subject", sample.Text, true),
				f("sender", sample.Text, true),
				f("day", sample.Date, true),
				f("body", sample.Text, true),
			},
		},
	}
}

func records() map[string][]sample.Record {
	out := map[string][]sample.Record{}
	put := func(model string, r sample.Record) { out[model] = append(out[model], r) }
	day := func(i int) string { return fmt.Sprintf("2026-%02d-%02d", 1+(i*5)%12, 1+(i*11)%28) }
	for i, b := range []string{"North bank", "Lime walk", "Lakeside", "Fern dell", "Orchard", "Stone garden", "Heather slope", "Pond edge"} {
		put(
			"beds",
			sample.Record{
				"id":       fmt.Sprintf("b%d", i+1),
				"name":     b,
				"soil":     []string{"loam", "clay", "sand", "peat"}[i%4],
				"area":     float64(120 + i*85),
				"moisture": []string{"fresh", "dry", "wet"}[i%3],
			},
		)
	}
	names := []string{
		"Ida Fenn",
		"Noor Abadi",
		"Tam Okoro",
		"Lise Brandt",
		"Per Holm",
		"Anouk Vries",
		"Dara Quill",
		"Milo Sand",
		"Greta Lind",
		"Yusuf Hale",
	}
	skills := []string{"pruning", "mapping", "watering", "orders and post", "guided walks", "seed cleaning"}
	for i, v := range names {
		r := sample.Record{
			"id":     fmt.Sprintf("v%d", i+1),
			"name":   v,
			"skill":  skills[i%len(skills)],
			"active": i%4 != 3,
		}
		if i%5 != 4 {
			r["days"] = sample.ListOf([]string{"Monday", "Wednesday", "Friday", "Saturday"}[i%3:]...)
		}
		put("volunteers", r)
	}
	trees := [][2]string{
		{"Paperbark maple", "Acer griseum"},
		{"Silver lime", "Tilia tomentosa"},
		{"Katsura", "Cercidiphyllum japonicum"},
		{"Handkerchief tree", "Davidia involucrata"},
		{"Black tupelo", "Nyssa sylvatica"},
		{"Persian ironwood", "Parrotia persica"},
		{"Field maple", "Acer campestre"},
		{"Wild service tree", "Torminalis glaberrima"},
		{"Hop hornbeam", "Ostrya carpinifolia"},
		{"Japanese snowbell", "Styrax japonicus"},
		{"Dawn redwood", "Metasequoia glyptostroboides"},
		{"Cork oak", "Quercus suber"},
		{"Sweet gum", "Liquidambar styraciflua"},
		{"Tulip tree", "Liriodendron tulipifera"},
		{"Weeping beech", "Fagus sylvatica Pendula"},
		{"Snowy mespilus", "Amelanchier lamarckii"},
		{"Royal fern", "Osmunda regalis"},
		{"Lady fern", "Athyrium filix-femina"},
		{"Medlar", "Mespilus germanica"},
		{"Black mulberry", "Morus nigra"},
		{"Yew", "Taxus baccata"},
		{"Juneberry", "Amelanchier alnifolia"},
		{"Bog myrtle", "Myrica gale"},
		{"Heath", "Erica carnea"},
	}
	for i, t := range trees {
		r := sample.Record{
			"id":        fmt.Sprintf("s%d", i+1),
			"name":      t[0],
			"latin":     t[1],
			"bed":       fmt.Sprintf("b%d", 1+i%8),
			"condition": []string{"thriving", "thriving", "watch", "thriving", "ailing", "dormant"}[i%6],
			"planted":   fmt.Sprintf("%d-%02d-%02d", 1932+(i*37)%90, 1+(i*5)%12, 1+(i*7)%28),
			"onDisplay": i%5 != 4,
			"picture":   drawing(i),
		}
		if i%7 != 3 {
			r["height"] = float64(12+(i*53)%210) / 10
		}
		put("specimens", r)
	}
	for i, t := range []string{"Prune the limes", "Mend the lake fence", "Label the maples", "Clear the north ditch", "Mulch the fern dell", "Check the ties on the snowbells", "Paint the potting shed", "Count the saplings", "Move the bench by the pond", "Sharpen the loppers", "Order new labels", "Fell the ailing tupelo", "Sow the meadow strip", "Wash the glasshouse"} {
		r := sample.Record{
			"id":       fmt.Sprintf("t%d", i+1),
			"title":    t,
			"due":      fmt.Sprintf("2026-%02d-%02d", 11+(i/9), 1+(i*9)%28),
			"state":    []string{"open", "doing", "open", "done"}[i%4],
			"assignee": fmt.Sprintf("v%d", 1+i%7),
			"bed":      fmt.Sprintf("b%d", 1+(i*3)%8),
		}
		if i%3 != 2 {
			r["helpers"] = sample.ListOf(
				[]string{fmt.Sprintf("v%d", 1+(i*2)%10), fmt.Sprintf("v%d", 1+(i*3+4)%10)}[i%2:]...)
		}
		put("tickets", r)
	}
	for i, n := range []string{"Morning, north", "Morning, lake", "Evening, orchard", "Glasshouse", "Stone garden", "Pond and heather"} {
		put(
			"rounds",
			sample.Record{
				"id":        fmt.Sprintf("r%d", i+1),
				"name":      n,
				"day":       day(i + 2),
				"volunteer": fmt.Sprintf("v%d", 1+(i*2)%9),
				"litres":    float64(90 + i*75),
			},
		)
	}
	for i, s := range []string{"Alderbrook Seeds", "Hartmoor Nursery", "Wexley Bulbs", "Pinnock & Rowe", "Ostrander Trees", "Fennimore Herbs", "Lowbeck Ferns"} {
		r := sample.Record{
			"id":       fmt.Sprintf("o%d", i+1),
			"supplier": s,
			"day":      day(i + 4),
			"state":    []string{"paid", "open"}[i%2],
			"total":    float64(4250 + i*i*3175 + 99),
			"items":    float64(3 + i*2),
		}
		if i%3 == 1 {
			r["duty"] = float64(1200 + i*450)
		}
		put("orders", r)
	}
	for i := range 12 {
		put(
			"shifts",
			sample.Record{
				"id":        fmt.Sprintf("h%d", i+1),
				"day":       fmt.Sprintf("2026-12-%02d", 1+i*2),
				"volunteer": fmt.Sprintf("v%d", 1+(i*3)%10),
				"hours":     float64(2 + i%5),
			},
		)
		put(
			"visits",
			sample.Record{
				"id":    fmt.Sprintf("c%d", i+1),
				"day":   fmt.Sprintf("2026-11-%02d", 22-i),
				"gate":  []string{"North gate", "Lake gate"}[i%2],
				"count": float64(140 + (i*97)%480),
			},
		)
	}
	for i, m := range [][3]string{{"The new labels are here", "Noor Abadi", "Two boxes, in the potting shed. Please take only those of your own bed."}, {"Frost tonight", "Per Holm", "Cover the tender beds before six."}, {"Walk on Sunday", "Anouk Vries", "Eleven people so far. We meet at the lake gate."}} {
		put(
			"messages",
			sample.Record{
				"id":      fmt.Sprintf("m%d", i+1),
				"subject": m[0],
				"sender":  m[1],
				"day":     fmt.Sprintf("2026-11-%02d", 20-i*3),
				"body":    m[2],
			},
		)
	}
	return out
}

// drawing is a simple tree as SVG, its shape and greens drawn from its number.
func drawing(i int) string {
	ground := []string{"#e7efe4", "#eef0df", "#e3ecef", "#f1ebe0"}[i%4]
	crown := []string{"#2f7d4f", "#6a8a2f", "#3c6e71", "#8a5a2b", "#4f7a3a"}[i%5]
	light := []string{"#58a878", "#93b14e", "#62999c", "#b98247", "#79a562"}[i%5]
	w, h := 44+(i*13)%40, 50+(i*17)%36
	shape := fmt.Sprintf(
		`<ellipse cx="80" cy="%d" rx="%d" ry="%d" fill="%s"/><ellipse cx="%d" cy="%d" rx="%d" ry="%d" fill="%s" opacity=".7"/>`,
		88-h/2,
		w/2+8,
		h/2+6,
		crown,
		80-w/6,
		80-h/2,
		w/4,
		h/4,
		light,
	)
	if i%3 == 1 {
		shape = fmt.Sprintf(
			`<path d="M80 %d L%d 92 L%d 92 Z" fill="%s"/><path d="M80 %d L%d 92 L80 92 Z" fill="%s" opacity=".6"/>`,
			84-h,
			80+w/2,
			80-w/2,
			crown,
			84-h,
			80-w/4,
			light,
		)
	}
	svg := fmt.Sprintf(
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 120"><rect width="160" height="120" fill="%s"/><path d="M0 104 Q80 %d 160 104 V120 H0 Z" fill="#cfd9c4"/><rect x="77" y="76" width="6" height="30" fill="#6b4f3a"/>%s</svg>`,
		ground,
		92+i%9,
		shape,
	)
	return "data:image/svg+xml," + url.PathEscape(svg)
}
