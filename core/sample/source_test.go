package sample_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/sample"
)

var visits = &sample.Model{
	ID:   "visits",
	Name: "Visit",
	Fields: []sample.Field{
		{Name: "day", Type: sample.Date, Required: true},
		{Name: "gate", Type: sample.Choice},
		{Name: "people", Type: sample.Number},
		{Name: "fee", Type: sample.Money},
		{Name: "open", Type: sample.YesNo},
	},
}

func TestAnAnswerIsMappedToTheModel(t *testing.T) {
	s := &sample.Source{
		Model:  "visits",
		List:   "/data/items",
		Fields: map[string]string{"id": "/key", "day": "/when/0", "gate": "/place/a~1b"},
	}
	records, problems, err := s.Read(visits, []byte(`{"data":{"items":[
		{"key":7,"when":["2026-11-20T18:00:00Z"],"place":{"a/b":"north"},"people":12,"fee":250,"open":true,"more":[1]},
		{"key":"x","when":["2026-11-19"],"place":{"a/b":9},"people":"1,200","fee":"2.50","open":"no"},
		{"key":"x","when":["2026-11-18"]},
		{"when":["soon"],"people":"many","fee":1.5,"place":null},
		{}]}}`))
	require.NoError(t, err)
	assert.Equal(t, []sample.Record{
		{"id": "7", "day": "2026-11-20", "gate": "north", "people": 12.0, "fee": 250.0, "open": true},
		{"id": "x", "day": "2026-11-19", "gate": "9", "people": 1200.0, "fee": 250.0, "open": false},
		{"id": "r4"}, {"id": "r5"},
	}, records)
	for _, r := range records {
		assert.NoError(t, visits.Check(r), "what is taken is of the model")
	}
	assert.Equal(t, []string{
		"/data/items/2: a second record with the id x is left out",
		"/data/items/3/when/0: soon is not a date as YYYY-MM-DD",
		"/data/items/3/people: “many” is not a number",
		"/data/items/3/fee: 1.5 is not a whole number of minor units",
		"/data/items/4/when/0: day is missing",
	}, problems)
}

func TestAnAnswerOfAnotherShapeSaysSo(t *testing.T) {
	s := &sample.Source{Model: "visits", List: "/items"}
	for body, why := range map[string]string{`{"items":`: "no JSON", `{"list":[]}`: "nothing at /items", `{"items":{}}`: "at /items stands no list", `[]`: "nothing at /items"} {
		_, _, err := s.Read(visits, []byte(body))
		assert.ErrorContains(t, err, why)
	}
	records, problems, err := (&sample.Source{}).Read(visits, []byte(`[1, null, "x"]`))
	require.NoError(t, err)
	assert.Len(t, records, 3)
	assert.Len(t, problems, 3, "each lacks its day")
}

func TestParametersAreFilledInAndEscaped(t *testing.T) {
	s := &sample.Source{Path: "/visits?gate={gate}&from={from}&page={page}"}
	assert.Equal(t, []string{"gate", "from", "page"}, s.Parameters())
	assert.Equal(
		t,
		"http://x.example/visits?gate=North+%26+%C3%A4&from=&page=2",
		s.URL(sample.Base{Address: "http://x.example/"}, map[string]any{"gate": "North & ä", "page": 2.0}),
	)
}

func FuzzAnAnswerIsTakenOrRefused(f *testing.F) {
	f.Add([]byte(`{"items":[{"day":"2026-01-01"}]}`), "/items")
	f.Add([]byte(`[[[[]]]]`), "/0/0")
	f.Fuzz(func(t *testing.T, body []byte, list string) {
		records, _, err := (&sample.Source{List: list}).Read(visits, body)
		if err != nil {
			return
		}
		for _, r := range records {
			if err := visits.Check(r); err != nil {
				t.Fatal(err)
			}
		}
	})
}
