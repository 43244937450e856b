package sample

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
)

// Reading is one way in which the texts of a column can be understood. Whatever way is
// taken, it is one for the whole column.
type Reading struct {
	ID    string `json:"id"`
	Words string `json:"words"`           // what the texts are taken for
	Loses string `json:"loses,omitempty"` // what of them is not kept
	Field Field  `json:"field"`
	// Example is the first text that tells something, and what is read in it.
	Example string `json:"example,omitempty"`

	read func(s string) (string, bool) // to what Field.Parse reads
}

// Guess is a field made of a column: how its texts are read, what speaks for that, and what
// else they could be.
type Guess struct {
	Column   string    `json:"column"`
	Field    Field     `json:"field"`
	Why      string    `json:"why"`
	Reading  string    `json:"reading"` // the id of the one taken
	Readings []Reading `json:"readings"`
	// Unclear tells that texts mean something else by another reading, and nothing in the
	// column says which is meant: a person has to.
	Unclear bool `json:"unclear"`
}

// column is what is known of the texts of a column.
type column struct {
	values  []string // each once, as they come
	times   map[string]int
	filled  int
	longest int // letters
	rows    int
}

func (t *Table) column(i int) *column {
	c := &column{times: map[string]int{}, rows: len(t.Rows)}
	for _, row := range t.Rows {
		v := strings.TrimSpace(row[i])
		if v == "" {
			continue
		}
		if c.times[v] == 0 {
			c.values = append(c.values, v)
		}
		c.times[v]++
		c.filled++
		c.longest = max(c.longest, len([]rune(v)))
	}
	return c
}

// without is the column without some of its texts.
func (c *column) without(drop func(string) bool) *column {
	out := *c
	out.values = slices.DeleteFunc(slices.Clone(c.values), drop)
	for _, v := range c.values {
		if drop(v) {
			out.filled -= c.times[v]
		}
	}
	return &out
}

// mapped is the column with its texts made into others.
func (c *column) mapped(to func(string) string) *column {
	out := *c
	out.values = make([]string, len(c.values))
	for i, v := range c.values {
		out.values[i] = to(v)
	}
	return &out
}

func (c *column) all(ok func(string) bool) bool {
	return len(c.values) > 0 && !slices.ContainsFunc(c.values, func(v string) bool { return !ok(v) })
}

func (c *column) like(re *regexp.Regexp) bool { return c.all(re.MatchString) }

func (c *column) some(re *regexp.Regexp) bool { return slices.ContainsFunc(c.values, re.MatchString) }

var (
	leadingZero = regexp.MustCompile(`^0\d`)
	longDigits  = regexp.MustCompile(`^\d{16,}$`)
	phoneLike   = regexp.MustCompile(`^(?:\+|00)\d[\d ()/.-]{5,}$|^\(?0\d{1,4}\)?[ /-][\d /-]{4,}$`)
	unitLike    = regexp.MustCompile(`^([-+]?[\d.,’' ]*\d)\s*([^\d\s%€$£¥₹.,'’()-][^\d]{0,11})$`)
	stampLike   = regexp.MustCompile(`^(\d{4}-\d{1,2}-\d{1,2}|\d{1,2}[./-]\d{1,2}[./-]\d{4})[T ,]+(\d{1,2}:\d{2}(?::\d{2}(?:\.\d+)?)?(?: ?[ap]m)?) *(Z|[+-]\d{2}:?\d{2})?$`)
)

// nothings are what people write where there is no value.
var nothings = []string{
	"na", "n/a", "n.a.", "#n/a", "null", "nil", "none", "nan", "-", "–", "—", "?", "k.a.", "s.o.", "unknown", "missing", "tbd",
}

func isNothing(s string) bool { return slices.Contains(nothings, strings.ToLower(s)) }

// yesNoPairs are yes and no in several languages, besides those that are always taken so.
var yesNoPairs = [][2]string{
	{"ja", "nein"}, {"j", "n"}, {"wahr", "falsch"}, {"oui", "non"}, {"o", "n"}, {"vrai", "faux"}, {"sí", "no"}, {"si", "no"},
	{"verdadero", "falso"}, {"sì", "no"}, {"vero", "falso"}, {"sim", "não"}, {"ja", "nee"}, {"ja", "nej"}, {"tak", "nie"},
	{"ano", "ne"}, {"kyllä", "ei"}, {"igen", "nem"}, {"evet", "hayır"}, {"да", "нет"}, {"так", "ні"}, {"はい", "いいえ"}, {"是", "否"},
	{"on", "off"}, {"1", "0"}, {"✓", "✗"}, {"x", "-"}, {"active", "inactive"}, {"enabled", "disabled"},
}

// months are the names of months, in several languages, by their first letters.
var months = func() map[string]int {
	out := map[string]int{}
	for _, names := range []string{
		"jan feb mar apr may jun jul aug sep oct nov dec",
		"januar februar märz april mai juni juli august september oktober november dezember",
		"january february march april may june july august september october november december",
		"janvier février mars avril mai juin juillet août septembre octobre novembre décembre",
		"enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre",
		"gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre",
		"januari februari maart april mei juni juli augustus september oktober november december",
		"janeiro fevereiro março abril maio junho julho agosto setembro outubro novembro dezembro",
		"jän feb mär apr mai jun jul aug sep okt nov dez",
		"janv févr mars avr mai juin juil août sept oct nov déc",
	} {
		for i, name := range strings.Fields(names) {
			out[name] = i + 1
		}
	}
	return out
}()

var (
	namedDay  = regexp.MustCompile(`^(\d{1,2})(?:\.|st|nd|rd|th)?[ -](?:de )?(\p{L}+)\.?,?[ -](?:de )?(\d{4})$`)
	namedYear = regexp.MustCompile(`^(\p{L}+)\.? (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})$`)
)

// dateIn reads a date by one order of its parts: "ymd", "dmy" or "mdy". Years of two digits
// are those from 1970 to 2069.
func dateIn(order, s string) (string, bool) {
	if m := namedDay.FindStringSubmatch(s); m != nil && months[strings.ToLower(m[2])] > 0 {
		s, order = fmt.Sprintf("%s-%d-%s", m[1], months[strings.ToLower(m[2])], m[3]), "dmy"
	} else if m := namedYear.FindStringSubmatch(s); m != nil && months[strings.ToLower(m[1])] > 0 {
		s, order = fmt.Sprintf("%s-%d-%s", m[2], months[strings.ToLower(m[1])], m[3]), "dmy"
	}
	mark := ""
	for _, m := range []string{"-", ".", "/"} {
		if strings.Count(s, m) == 2 {
			mark = m
		}
	}
	parts := strings.Split(s, mark)
	if mark == "" || len(parts) != 3 {
		return "", false
	}
	if mark == "." && order == "mdy" {
		return "", false // nobody writes it so
	}
	if len(parts[0]) == 4 { // nothing else begins with a year
		order = "ymd"
	}
	form := map[string][3]string{"ymd": {"2006", "1", "2"}, "dmy": {"2", "1", "2006"}, "mdy": {"1", "2", "2006"}}[order]
	year := slices.Index(form[:], "2006")
	if len(parts[year]) == 2 {
		form[year] = "06"
	} else if len(parts[year]) != 4 {
		return "", false
	}
	day, err := time.Parse(strings.Join(form[:], "-"), strings.Join(parts, "-"))
	return day.Format(time.DateOnly), err == nil
}

// numberIn reads a number with one decimal mark, "." or ",". Other marks, spaces and
// apostrophes part thousands; brackets around it make it negative.
func numberIn(mark, s string) (float64, bool) {
	s = strings.NewReplacer("\u00a0", " ", "\u202f", " ", "−", "-", "’", "'").Replace(s)
	if inner, ok := strings.CutPrefix(s, "("); ok && strings.HasSuffix(inner, ")") {
		s = "-" + strings.TrimSuffix(inner, ")")
	}
	form := pointForm
	if mark == "," {
		form = commaForm
	}
	if !form.MatchString(s) {
		return 0, false
	}
	group := ","
	if mark == "," {
		group = "."
	}
	s = strings.NewReplacer(" ", "", "'", "", "+", "", group, "").Replace(s)
	f, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	return f, err == nil && !math.IsInf(f, 0)
}

var (
	pointForm = regexp.MustCompile(`^[-+]?(?:\d+|\d{1,3}(?:[ ,']\d{2,3})*[ ,']\d{3})?(?:\.\d+)?(?:[eE][-+]?\d{1,3})?$`)
	commaForm = regexp.MustCompile(`^[-+]?(?:\d+|\d{1,3}(?:[ .']\d{2,3})*[ .']\d{3})?(?:,\d+)?(?:[eE][-+]?\d{1,3})?$`)
	signs     = map[string]string{
		"€": "EUR", "$": "USD", "US$": "USD", "£": "GBP", "¥": "JPY", "₹": "INR", "₩": "KRW", "zł": "PLN", "Kč": "CZK", "R$": "BRL",
		"CA$": "CAD", "A$": "AUD", "NZ$": "NZD", "Fr.": "CHF", "CN¥": "CNY",
	}
	amount = regexp.MustCompile(`^(\(?-?)\s*(\D*?)\s*(-?[\d.,'’ \x{a0}\x{202f}]*\d)\s*([^\d)]*?)(\)?)$`)
)

// moneyIn reads an amount with its currency.
func moneyIn(s string) (currency, number string, ok bool) {
	m := amount.FindStringSubmatch(s)
	if m == nil || (m[2] == "") == (m[4] == "") {
		return "", "", false
	}
	sign := strings.TrimSpace(m[2] + m[4])
	code := signs[sign]
	if code == "" && CurrencyOf(strings.ToUpper(sign)).Code == strings.ToUpper(sign) {
		code = strings.ToUpper(sign)
	}
	number = strings.TrimSpace(m[3])
	if strings.HasPrefix(m[1], "(") != (m[5] == ")") {
		return "", "", false
	}
	if m[1] != "" && m[1] != "(" || m[1] == "(" {
		number = "-" + strings.TrimPrefix(number, "-")
	}
	return code, number, code != ""
}

func plainNumber(f float64) string { return strconv.FormatFloat(f, 'f', -1, 64) }

// marked are the readings of numbers by their decimal mark: one where both say the same.
func marked(c *column, number func(v string) (string, bool), make func(mark string, read func(string) (string, bool)) Reading) (out []Reading, unclear bool) {
	by := func(mark string) func(string) (string, bool) {
		return func(v string) (string, bool) {
			n, ok := number(v)
			if !ok || n == "" || n == "-" {
				return "", false
			}
			f, ok := numberIn(mark, n)
			return plainNumber(f), ok
		}
	}
	fits := func(read func(string) (string, bool)) bool {
		return c.all(func(v string) bool { _, ok := read(v); return ok })
	}
	point, comma := by("."), by(",")
	switch a, b := fits(point), fits(comma); {
	case a && b:
		same := c.all(func(v string) bool { x, _ := point(v); y, _ := comma(v); return x == y })
		if same {
			return []Reading{make("", point)}, false
		}
		return []Reading{make(".", point), make(",", comma)}, true
	case a:
		return []Reading{make("", point)}, false
	case b:
		return []Reading{make(",", comma)}, false
	}
	return nil, false
}

func markWords(mark string) string {
	switch mark {
	case ".":
		return ", a point before the decimals"
	case ",":
		return ", a comma before the decimals"
	}
	return ""
}

// typed are the readings of a column as something else than text, the likeliest first.
func (c *column) typed() (out []Reading, unclear bool) {
	same := func(v string) (string, bool) { return v, true }
	parses := func(t FieldType) bool {
		f := Field{Type: t}
		return c.all(func(v string) bool { _, err := f.Parse(v, nil); return err == nil })
	}
	one := func(id, words string, t FieldType, read func(string) (string, bool)) []Reading {
		return []Reading{{ID: id, Words: words, Field: Field{Type: t}, read: read}}
	}
	switch {
	case c.like(imageLike):
		return one("pictures", "addresses of pictures", Picture, same), false
	case c.like(linkLike):
		return one("links", "addresses", Link, same), false
	}
	if currency, ok := c.currency(); ok {
		return marked(c,
			func(v string) (string, bool) { _, n, ok := moneyIn(v); return n, ok },
			func(mark string, read func(string) (string, bool)) Reading {
				return Reading{ID: "money " + mark, Words: "amounts in " + currency + markWords(mark), Field: Field{Type: Money, Currency: currency}, read: read}
			})
	}
	digits := c.all(func(v string) bool { return v == "0" || v == "1" })
	if parses(YesNo) && len(c.values) <= 2 && !digits {
		return one("yes/no", "only yes and no", YesNo, same), false
	}
	if c.like(timeLike) && parses(Time) {
		return one("time", "times", Time, same), false
	}
	numbers, unclear := marked(c, func(v string) (string, bool) { return v, true },
		func(mark string, read func(string) (string, bool)) Reading {
			return Reading{ID: strings.TrimSpace("number " + mark), Words: "only numbers" + markWords(mark), Field: Field{Type: Number}, read: read}
		})
	if len(numbers) > 0 {
		if digits && len(c.values) == 2 {
			numbers = append(numbers, c.pair("1", "0"))
		}
		return numbers, unclear
	}
	if percents, unclear := marked(c, func(v string) (string, bool) { n, ok := strings.CutSuffix(v, "%"); return strings.TrimSpace(n), ok },
		func(mark string, read func(string) (string, bool)) Reading {
			return Reading{ID: strings.TrimSpace("percent " + mark), Words: "numbers of percent" + markWords(mark), Loses: "the sign: 12 % is 12", Field: Field{Type: Number}, read: read}
		}); len(percents) > 0 {
		return percents, unclear
	}
	return c.dates()
}

func (c *column) pair(yes, no string) Reading {
	return Reading{ID: "yes/no " + yes, Words: yes + " is yes, " + no + " is no", Field: Field{Type: YesNo}, read: func(v string) (string, bool) {
		switch {
		case strings.EqualFold(v, yes):
			return "yes", true
		case strings.EqualFold(v, no):
			return "no", true
		}
		return "", false
	}}
}

// currency is the one currency that all amounts are in.
func (c *column) currency() (string, bool) {
	first := ""
	return first, c.all(func(v string) bool {
		code, _, ok := moneyIn(v)
		if first == "" {
			first = code
		}
		return ok && code == first
	}) && func() bool { first, _, _ = moneyIn(c.values[0]); return true }()
}

var dateOrders = []struct{ order, words string }{
	{"ymd", "dates, the year first"}, {"dmy", "dates, the day first"}, {"mdy", "dates, the month first"},
}

func (c *column) dates() (out []Reading, unclear bool) {
	var differ []func(string) (string, bool)
	for _, o := range dateOrders {
		read := func(v string) (string, bool) { return dateIn(o.order, midnight(v)) }
		if !c.all(func(v string) bool { _, ok := read(v); return ok }) {
			continue
		}
		if slices.ContainsFunc(differ, func(other func(string) (string, bool)) bool {
			return c.all(func(v string) bool { a, _ := read(v); b, _ := other(v); return a == b })
		}) {
			continue // it reads the same
		}
		differ = append(differ, read)
		loses := ""
		if c.all(func(v string) bool { return midnight(v) != v }) {
			loses = "the hour, which is midnight"
		}
		out = append(out, Reading{ID: "date " + o.order, Words: o.words, Loses: loses, Field: Field{Type: Date}, read: read})
	}
	return out, len(out) > 1
}

// midnight is a date that was written with no hour but midnight, without it.
func midnight(v string) string {
	if m := stampLike.FindStringSubmatch(v); m != nil && strings.Trim(m[2], "0:.") == "" && (m[3] == "" || m[3] == "Z") {
		return m[1]
	}
	return v
}

// phones tells telephone numbers, which some dates look like.
func (c *column) phones() bool {
	if !c.like(phoneLike) {
		return false
	}
	dates, _ := c.dates()
	return len(dates) == 0
}

// choices are the values of a column, the most used first.
func (c *column) choices() []string {
	out := slices.Clone(c.values)
	slices.SortFunc(out, func(a, b string) int {
		if c.times[a] != c.times[b] {
			return c.times[b] - c.times[a]
		}
		return strings.Compare(a, b)
	})
	return out
}

// texts are the readings of a column as text; the first is what it is as it stands.
func (c *column) texts() (out []Reading, why string) {
	f := Field{Type: Text}
	why = "any text"
	switch {
	case c.filled == 0:
		why = "no value to tell by"
	case c.phones():
		why = "telephone numbers"
	case c.some(leadingZero) && c.all(func(v string) bool { _, ok := numberIn(".", v); return ok }):
		why = "numbers with leading zeros, kept as they are"
	case c.some(longDigits) && c.all(func(v string) bool { _, ok := numberIn(".", v); return ok }):
		why = "long numbers, kept digit by digit"
	case c.like(stampLike):
		why = "dates with an hour, kept as they are written"
	case c.longest > 80:
		f.Type, why = LongText, "texts of more than 80 letters"
	case len(c.values) <= 8 && c.filled >= 2*len(c.values)+2:
		f.Type, why = Choice, fmt.Sprintf("%d values again and again", len(c.values))
		f.Choices = c.choices()
	case len(c.values) == c.filled && c.filled == c.rows && c.filled > 1:
		why = "texts, each once"
	}
	words := why
	if f.Type == Text && (why == "any text" || why == "texts, each once") {
		words = "text, as it is written"
	}
	return []Reading{{ID: "text", Words: words, Field: f, read: func(v string) (string, bool) { return v, true }}}, why
}

// offered are readings that a column may be meant by, and that are never taken by themselves:
// each would drop something, or take a word for something.
func (c *column) offered(typed bool) (out []Reading) {
	add := func(r Reading) {
		if r.read != nil && c.all(func(v string) bool { _, ok := r.read(v); return ok }) {
			out = append(out, r)
		}
	}
	for _, p := range yesNoPairs {
		if len(c.values) <= 2 && c.all(func(v string) bool { return strings.EqualFold(v, p[0]) || strings.EqualFold(v, p[1]) }) {
			add(c.pair(p[0], p[1]))
			break
		}
	}
	if c.some(leadingZero) || c.some(longDigits) {
		add(Reading{ID: "number", Words: "numbers", Loses: "leading zeros, and digits after the fifteenth", Field: Field{Type: Number}, read: func(v string) (string, bool) {
			f, ok := numberIn(".", v)
			return plainNumber(f), ok
		}})
	}
	if c.like(stampLike) {
		part := func(i int) func(string) (string, bool) {
			return func(v string) (string, bool) { m := stampLike.FindStringSubmatch(v); return m[i], m != nil }
		}
		days := c.mapped(func(v string) string { m := stampLike.FindStringSubmatch(v); return m[1] })
		dates, _ := days.dates()
		for _, d := range dates {
			inner := d.read
			d.Loses = "the hour"
			d.read = func(v string) (string, bool) {
				m := stampLike.FindStringSubmatch(v)
				if m == nil {
					return "", false
				}
				return inner(m[1])
			}
			add(d)
		}
		add(Reading{ID: "time", Words: "times of day", Loses: "the day", Field: Field{Type: Time}, read: part(2)})
	}
	if unit, ok := c.unit(); ok {
		for _, mark := range []string{".", ","} {
			add(Reading{ID: "number of " + unit + " " + mark, Words: "numbers of " + unit + markWords(mark), Loses: "the unit", Field: Field{Type: Number}, read: func(v string) (string, bool) {
				m := unitLike.FindStringSubmatch(v)
				if m == nil {
					return "", false
				}
				f, ok := numberIn(mark, strings.TrimSpace(m[1]))
				return plainNumber(f), ok
			}})
		}
	}
	for _, by := range []string{";", "|", ","} {
		parted := 0
		for _, v := range c.values {
			if strings.Contains(v, by) {
				parted++
			}
		}
		if !typed && parted*2 >= len(c.values) && parted > 0 && c.longest <= 200 {
			add(Reading{ID: "list " + by, Words: "lists, parted by " + by, Field: Field{Type: Texts}, read: func(v string) (string, bool) {
				return (&Field{Type: Texts}).Write(ListOf(strings.Split(v, by)...)), true
			}})
			break
		}
	}
	return out
}

// unit is what stands behind all numbers of a column.
func (c *column) unit() (string, bool) {
	unit := ""
	ok := c.all(func(v string) bool {
		m := unitLike.FindStringSubmatch(v)
		if m == nil || unit != "" && m[2] != unit {
			return false
		}
		unit = m[2]
		return true
	})
	return unit, ok
}

// readings are all ways in which a column can be read, the one to take first.
func (c *column) readings(listed bool) (out []Reading, why string, unclear bool) {
	if listed {
		return []Reading{{ID: "list", Words: "lists of texts", Field: Field{Type: Texts}, read: func(v string) (string, bool) { return v, true }}}, "lists of texts", false
	}
	text, why := c.texts()
	kept := c.filled == 0 || c.phones() ||
		(c.some(leadingZero) || c.some(longDigits)) && c.all(func(v string) bool { _, ok := numberIn(".", v); return ok }) ||
		c.like(stampLike) && !c.all(func(v string) bool { return midnight(v) != v })
	if !kept {
		if out, unclear = c.typed(); len(out) > 0 {
			why = out[0].Words
		}
	}
	typed := len(out) > 0
	out = append(out, text...)
	if text[0].Field.Type == Choice {
		plain := text[0]
		plain.ID, plain.Words, plain.Field = "any text", "any text", Field{Type: Text}
		out = append(out, plain)
	} else if n := len(c.values); !typed && text[0].Field.Type == Text && n > 1 && n <= 12 && c.filled > n {
		// Too few to tell that it is one; a person may.
		out = append(out, Reading{
			ID: "choice", Words: fmt.Sprintf("a choice of %d", n), Field: Field{Type: Choice, Choices: c.choices()},
			read: func(v string) (string, bool) { return v, true },
		})
	}
	for _, r := range c.offered(typed) {
		if !slices.ContainsFunc(out, func(o Reading) bool { return o.ID == r.ID }) {
			out = append(out, r)
		}
	}
	// What would be something, but for words that say there is nothing.
	if bare := c.without(isNothing); len(bare.values) > 0 && len(bare.values) < len(c.values) {
		var gone []string
		for _, v := range c.values {
			if isNothing(v) {
				gone = append(gone, v)
			}
		}
		strict, _ := bare.typed()
		for _, r := range strict {
			inner := r.read
			r.ID += " or nothing"
			r.Words += "; " + strings.Join(gone, ", ") + " is no value"
			r.Loses = strings.Join(gone, ", ")
			r.read = func(v string) (string, bool) {
				if isNothing(v) {
					return "", true
				}
				return inner(v)
			}
			if !slices.ContainsFunc(out, func(o Reading) bool { return o.Field.Type == r.Field.Type }) {
				out = append(out, r)
			}
		}
	}
	for i := range out {
		for _, v := range c.values {
			if got, ok := out[i].read(v); ok && got != v {
				out[i].Example = v + " → " + got
				break
			}
		}
	}
	return out, why, unclear
}

// Infer says of each column but one called id how its texts are read: by what somebody chose,
// else the strictest way that all of them allow and that keeps all that they say.
func (t *Table) Infer(chosen map[string]string) []Guess {
	out := []Guess{}
	taken := map[string]bool{"id": true}
	for i, name := range t.Columns {
		if strings.EqualFold(name, "id") {
			continue
		}
		c := t.column(i)
		g := Guess{Column: name}
		g.Readings, g.Why, g.Unclear = c.readings(t.listed[i])
		at := slices.IndexFunc(g.Readings, func(r Reading) bool { return r.ID == chosen[name] })
		if at < 0 {
			at = 0
		} else {
			g.Unclear, g.Why = false, g.Readings[at].Words
		}
		g.Reading, g.Field = g.Readings[at].ID, g.Readings[at].Field
		g.Field.Name = FieldName(name)
		for n := 2; taken[g.Field.Name]; n++ {
			g.Field.Name = FieldName(name) + strconv.Itoa(n)
		}
		taken[g.Field.Name] = true
		g.Field.Required = c.filled == len(t.Rows) && c.filled > 0 && g.Readings[at].Loses == ""
		out = append(out, g)
	}
	return out
}

// As is the table with its texts as they are read, each column for a field of a type; where
// the reading taken is of another type, the first of that type reads it, and none where there
// is none. What a reading cannot read stays as it is, and is told by Records. The guesses say
// afterwards which reading was taken, and whether it is unclear.
func (t *Table) As(guesses []Guess, typ func(column int) FieldType) *Table {
	out := *t
	out.Rows = make([][]string, len(t.Rows))
	reads := make([]func(string) (string, bool), len(t.Columns))
	for n := range guesses {
		g := &guesses[n]
		i := slices.Index(t.Columns, g.Column)
		if i < 0 {
			continue
		}
		fits := func(r Reading) bool { return r.Field.Type == typ(i) }
		at := slices.IndexFunc(g.Readings, func(r Reading) bool { return r.ID == g.Reading })
		if at < 0 || !fits(g.Readings[at]) {
			at = slices.IndexFunc(g.Readings, fits)
			g.Unclear = false
		}
		if at >= 0 {
			g.Reading = g.Readings[at].ID
			reads[i] = g.Readings[at].read
		}
	}
	for n, row := range t.Rows {
		next := slices.Clone(row)
		for i, read := range reads {
			if read == nil || i >= len(next) {
				continue
			}
			if v := strings.TrimSpace(next[i]); v != "" {
				if got, ok := read(v); ok {
					next[i] = got
				}
			}
		}
		out.Rows[n] = next
	}
	return &out
}
