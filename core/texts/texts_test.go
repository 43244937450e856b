package texts_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

var models = map[string]*sample.Model{
	"loans": {ID: "loans", Name: "Loan", Fields: []sample.Field{
		{Name: "title", Type: sample.Text}, {Name: "days", Type: sample.Number}, {Name: "late", Type: sample.YesNo},
		{Name: "state", Type: sample.Choice, Choices: []string{"out", "back", "lost"}}, {Name: "due", Type: sample.Date},
	}},
}

var records = []sample.Record{
	{"id": "l1", "title": "Ladder", "days": 1.0, "late": true, "state": "out", "due": "2026-12-01"},
	{"id": "l2", "title": "It's a {saw}", "days": 22.0, "late": false, "state": "back"},
	{"id": "l3", "title": "", "days": 5.0, "late": true, "state": "lost", "due": "2026-01-31"},
	{"id": "l4", "title": "Hose", "days": 1.5, "state": "gone"},
}

// one is a catalog of one component, and layouts.
type one struct{ c *kit.Component }

func (o one) Component(typ string) (*kit.Component, bool) {
	if typ == o.c.Tag {
		return o.c, true
	}
	return (&kit.Kit{}).Component(typ)
}

// button is a kit of one component, with a prop that people read and one that they do not.
func button(t *testing.T) kit.Catalog {
	t.Helper()
	c := (&kit.Component{
		Tag: "x-button", Title: "Button", Level: kit.Basic,
		Slots: []kit.Slot{{Text: true, Accepts: []string{"*"}}},
		Props: []kit.Prop{{Name: "hint", Type: kit.Text}, {Name: "name", Type: kit.Text}, {Name: "options", Type: kit.Text}, {Name: "errorText", Type: kit.Text}},
	}).Seal()
	return one{c}
}

func over(text screen.Value) *screen.Document {
	return &screen.Document{
		Kind: screen.ScreenDoc, ID: "loans", Title: "Loans", Route: "/loans",
		Root: &screen.Element{ID: "root", Type: "stack", Children: []*screen.Element{
			{ID: "loans-2", Type: "x-button", Repeat: &screen.Repeat{Model: "loans"}, Text: text},
		}},
	}
}

func input(t *testing.T, docs ...*screen.Document) texts.Input {
	return texts.Input{Docs: docs, Models: models, Cat: button(t)}
}

func messages(list []texts.Text) map[string]string {
	out := map[string]string{}
	for _, t := range list {
		out[t.Key] = t.Message
	}
	return out
}

func TestMessagesAreReadAndWritten(t *testing.T) {
	for _, good := range []string{
		"", "Save", "It's here", "''", "{name}", "{n, plural, one {# loan} other {# loans}}",
		"{n, plural, =0 {none} few {'#' # {title}} other {{late, select, true {late} other {}}}}", "a '{'b'}'", "'{''", "50 % <b>",
	} {
		m, err := texts.Parse(good)
		require.NoError(t, err, good)
		again, err := texts.Parse(m.String())
		require.NoError(t, err, m.String())
		assert.Equal(t, m, again, good)
	}
	for bad, why := range map[string]string{
		"{":                                     "character 2: the name of a value is missing",
		"a } b":                                 "character 3: a } that closes nothing",
		"{n, number}":                           `"number" is not taken; accepted: plural, select`,
		"{n, plural, one {x}}":                  "the form other is missing",
		"{n, plural, some {x} other {}}":        `"some" is no form`,
		"{n, plural, one {x} one {y} other {}}": "one stands twice",
		"{n, select, other {x}":                 "a form is missing",
		"{n, select, far-away {x} other {}}":    `"far-away" cannot be asked for`,
		"{a-b}":                                 `"a-b" is no name of a value`,
		"{n, select, other {x":                  "a } is missing",
	} {
		_, err := texts.Parse(bad)
		assert.ErrorContains(t, err, why, bad)
	}
}

// random is a message of any shape.
func random(r *rand.Rand, depth int, plural string) texts.Message {
	var m texts.Message
	bits := []string{"'", "''", "{", "}", "#", "a", " ", "<", ">", "it's", "é東", "|"}
	for range r.IntN(4) {
		if last := len(m) - 1; r.IntN(3) > 0 || depth > 2 {
			words := ""
			for range 1 + r.IntN(4) {
				words += bits[r.IntN(len(bits))]
			}
			if last >= 0 && m[last].Arg == "" {
				m[last].Words += words
			} else {
				m = append(m, texts.Part{Words: words})
			}
			continue
		}
		switch k := r.IntN(4); {
		case k == 0 && plural != "":
			m = append(m, texts.Part{Arg: plural, Kind: texts.Number})
		case k == 1:
			m = append(m, texts.Part{Arg: "days", Kind: texts.Plural, Cases: []texts.Case{
				{"=0", random(r, depth+1, "days")}, {"few", random(r, depth+1, "days")}, {"other", random(r, depth+1, "days")},
			}})
		case k == 2:
			m = append(m, texts.Part{Arg: "late", Kind: texts.Select, Cases: []texts.Case{
				{"true", random(r, depth+1, "")}, {"other", random(r, depth+1, "")},
			}})
		default:
			m = append(m, texts.Part{Arg: "title"})
		}
	}
	return m
}

func TestWhateverAMessageSaysItIsReadAsWritten(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 5000 {
		m := random(r, 0, "")
		got, err := texts.Parse(m.String())
		require.NoError(t, err, m.String())
		require.Equal(t, m, got, m.String())
	}
}

func FuzzReadingAMessage(f *testing.F) {
	f.Add("{n, plural, one {# 'x'} other {'{'}}")
	f.Fuzz(func(t *testing.T, s string) {
		m, err := texts.Parse(s)
		if err != nil {
			return
		}
		again, err := texts.Parse(m.String())
		require.NoError(t, err)
		require.Equal(t, m, again)
	})
}

func TestTextsAreListedWithKeysThatSayWhereTheyStand(t *testing.T) {
	d := over(screen.Lit("Return it"))
	d.Root.Children[0].Props = []screen.Prop{
		{Name: "errorText", Value: screen.Lit("It was lost")}, {Name: "hint", Value: screen.Value{Kind: screen.Expr, Text: "'Due ' + day(record.due)"}},
		{Name: "name", Value: screen.Lit("back")}, {Name: "options", Value: screen.Lit("near, far")},
	}
	d.States = []screen.State{{Name: "No loans", Edits: []screen.Edit{
		{Op: screen.SetText, ID: "loans-2", Value: screen.Lit("Nothing is lent")},
		{Op: screen.Insert, Parent: "root", Tree: &screen.Element{ID: "loans-9", Type: "x-button", Text: screen.Lit("Lend")}},
	}}}
	list, left := texts.List(input(t, d))
	assert.Equal(t, map[string]string{
		"screens.loans.title": "Loans", "screens.loans.button-2.text": "Return it", "screens.loans.button-2.errorText": "It was lost",
		"screens.loans.button-2.hint": "Due {due}", "screens.loans@no-loans.button-2.text": "Nothing is lent",
		"screens.loans@no-loans.button-9.text": "Lend",
	}, messages(list))
	require.Len(t, left, 1, "what people may read and is no text is said")
	assert.Equal(t, "options", left[0].Prop)
	assert.Contains(t, left[0].Why, "a list whose values code goes by")
}

func TestExpressionsBecomeMessages(t *testing.T) {
	for source, want := range map[string]string{
		"'Hello ' + record.title":                                                   "Hello {title}",
		"record.title":                                                              "",
		"plural(record.days, 'day', 'days') + ' left'":                              "{days, plural, one {# day} other {# days}} left",
		"record.late ? 'Late' : 'In time'":                                          "{late, select, true {Late} other {In time}}",
		"record.late ? record.title : text(record.days)":                            "",
		"'of ' + text(size(loans)) + ' and ' + text(size(loans))":                   "of {loans} and {loans}",
		"record.title + ' to ' + find(loans, record.id).title":                      "{title} to {title2}",
		"record.state == 'out' ? 'Lent' : record.state == 'lost' ? 'Gone' : 'Here'": "{state, select, out {Lent} lost {Gone} other {Here}}",
		"record.state == 'far away' ? 'Lent' : 'Here'":                              "{state, select, true {Lent} other {Here}}",
		"'It is ' + (record.late ? 'late' : '') + '#'":                              "It is {late, select, true {late} other {}}#",
		"form(record.days, 'pl') == 'one' ? 'dzień' : form(record.days, 'pl') == 'few' ? text(record.days) + ' dni' : 'dnia'": "{days, plural, one {dzień} few {# dni} other {dnia}}",
		"(has(record.due) ? 'due' : 'open')":           "{hasDue, select, true {due} other {open}}",
		"'a' + plural(record.days, record.title, 'x')": "a{days, plural, one {# {title}} other {# x}}",
	} {
		list, _ := texts.List(input(t, over(screen.Value{Kind: screen.Expr, Text: source})))
		assert.Equal(t, want, messages(list)["screens.loans.button-2.text"], source)
	}
	_, left := texts.List(input(t, over(screen.Value{Kind: screen.Expr, Text: "'Is ' + upper('late')"})))
	require.Len(t, left, 1)
	assert.Contains(t, left[0].Why, "words stand within what is computed")
}

// says evaluates a text for a record.
func says(t *testing.T, v screen.Value, record sample.Record) string {
	t.Helper()
	if v.Kind == screen.Literal {
		return v.Text
	}
	p, err := expr.Compile(v.Text, expr.Scope{Models: models, Record: models["loans"]})
	require.NoError(t, err, v.Text)
	got, err := p.Eval(&expr.Env{Record: record, Lists: map[string][]sample.Record{"loans": records}, Today: "2026-11-30"})
	require.NoError(t, err, v.Text)
	return sample.Plain(got)
}

// expression is a random text over a loan.
func expression(r *rand.Rand, depth int) string {
	one := func(list ...string) string { return list[r.IntN(len(list))] }
	if depth > 3 {
		return one("'day'", "record.title", `'it\'s {x} #'`, "text(record.days)")
	}
	sub := func() string { return expression(r, depth+1) }
	return one(
		"'Loan '", sub()+" + "+sub(), "plural(record.days, "+sub()+", "+sub()+")", "(record.late ? "+sub()+" : "+sub()+")",
		"(record.state == 'out' ? "+sub()+" : record.state == 'back' ? "+sub()+" : "+sub()+")", "text("+sub()+")", "upper("+sub()+")",
		"day(record.due)", "text(size(loans.filter(l, l.state == record.state)))", "(has(record.due) && record.days > 2 ? "+sub()+" : "+sub()+")",
	)
}

// What is read back in the language that it is written in is what it was.
func TestAMessageSaysWhatItsExpressionSays(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	said := 0
	for range 500 {
		v := screen.Value{Kind: screen.Expr, Text: expression(r, 0)}
		in := input(t, over(v))
		list, _ := texts.List(in)
		var same []texts.Said
		for _, x := range list {
			same = append(same, texts.Said{Language: "en", Key: x.Key, Is: x.Message, Of: x.Message})
		}
		docs, problems := texts.In(in, "en", same)
		if slices.ContainsFunc(problems, func(p texts.Problem) bool {
			return strings.Contains(p.Message, "too long") || strings.Contains(p.Message, "deep")
		}) {
			continue
		}
		require.Empty(t, problems, v.Text)
		now := docs[0].Root.Children[0].Text
		for _, rec := range records {
			require.Equal(t, says(t, v, rec), says(t, now, rec), "%s\nbecame\n%s", v.Text, now.Text)
		}
		said++
	}
	assert.Greater(t, said, 350)
}

func TestAnotherLanguageCountsAsItDoes(t *testing.T) {
	v := screen.Value{Kind: screen.Expr, Text: "plural(record.days, 'day', 'days') + ' of ' + record.title"}
	d := over(v)
	d.Root.Children[0].Props = []screen.Prop{{Name: "hint", Value: screen.Lit("Late")}}
	in := input(t, d)
	docs, problems := texts.In(in, "pl", []texts.Said{
		{Language: "pl", Key: "screens.loans.title", Is: "Wypożyczenia"},
		{Language: "pl", Key: "screens.loans.button-2.text", Is: "{title}: {days, plural, one {# dzień} few {# dni} many {# dni!} other {# dnia}}"},
	})
	require.Empty(t, problems)
	assert.Equal(t, "Wypożyczenia", docs[0].Title)
	assert.Equal(t, "Loans", d.Title, "the documents given stay")
	got := []string{}
	for _, rec := range records {
		got = append(got, says(t, docs[0].Root.Children[0].Text, rec))
	}
	assert.Equal(t, []string{"Ladder: 1 dzień", "It's a {saw}: 22 dni", ": 5 dni!", "Hose: 1.5 dnia"}, got)
	hint, _ := docs[0].Root.Children[0].Prop("hint")
	assert.Equal(t, screen.Lit("Late"), hint, "what is not said stays")
}

func TestWhatDoesNotHoldIsSaid(t *testing.T) {
	v := screen.Value{Kind: screen.Expr, Text: "'Due ' + day(record.due) + ' ' + text(record.days)"}
	for is, why := range map[string]string{
		"{when}":                   "there is no value when; known: due, days",
		"{due, plural, other {x}}": "due is no number",
		"{due, select, a {} other {{due, plural, other {}}}}": "due is no number",
		"{days, select, other {x}}":                           "days is a number",
		" ":                                                   "it says nothing",
		"{due":                                                "} or a comma is missing",
		strings.Repeat("x", 4000):                             "it is too long",
		"{due} {days, plural, other {{due}}}":                 "", "{due} {days}": "",
		"{days}": "it does not say due",
	} {
		docs, problems := texts.In(input(t, over(v)), "de", []texts.Said{{Language: "de", Key: "screens.loans.button-2.text", Is: is}})
		if why == "" {
			assert.Empty(t, problems, is)
			continue
		}
		require.Len(t, problems, 1, is)
		assert.Contains(t, problems[0].Message, why)
		stays := why != "it does not say due"
		assert.Equal(t, stays, problems[0].Stays)
		assert.Equal(t, stays, docs[0].Root.Children[0].Text == v, is)
	}
}

func TestYesAndNoAreAskedForBySelect(t *testing.T) {
	in := input(t, over(screen.Value{Kind: screen.Expr, Text: "record.late ? 'Late' : 'In time'"}))
	for is, why := range map[string]string{"{late}": "late is yes or no", "{late, select, true {Zu spät} other {}}": ""} {
		_, problems := texts.In(in, "de", []texts.Said{{Language: "de", Key: "screens.loans.button-2.text", Is: is}})
		if why == "" {
			assert.Empty(t, problems, is)
			continue
		}
		require.Len(t, problems, 1)
		assert.Contains(t, problems[0].Message, why)
	}
}

func TestWhatIsSaidFollowsTheElement(t *testing.T) {
	said := []texts.Said{
		{Language: "de", Key: "screens.loans.old-thing-2.text", Is: "Zurück"}, {Language: "de", Key: "screens.loans.button-7.text", Is: "Weg"},
	}
	list, _ := texts.List(input(t, over(screen.Lit("Return"))))
	table := texts.Beside(list, "de", said)
	i := slices.IndexFunc(list, func(x texts.Text) bool { return x.Element == "loans-2" })
	require.NotNil(t, table.Of(&list[i]), "an element that became another kind keeps what was said of it")
	assert.Equal(t, "Zurück", table.Of(&list[i]).Is)
	require.Len(t, table.Lost, 1, "what has no text any more is said")
	assert.Equal(t, "Weg", table.Lost[0].Is)
}

func TestLanguagesAreCheckedAndNamed(t *testing.T) {
	for _, good := range []string{"de", "pt-BR", "zh-Hant", "ar"} {
		require.NoError(t, texts.Check(good))
	}
	for _, bad := range []string{"", "und", "german", "DE", "../x", "de_DE"} {
		require.Error(t, texts.Check(bad), bad)
	}
	assert.Equal(t, "German (Deutsch)", texts.Name("de"))
	assert.Equal(t, []string{"ltr", "rtl", "rtl"}, []string{texts.Direction("de"), texts.Direction("ar"), texts.Direction("he")})
}
