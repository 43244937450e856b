package audit

import "slices"

// Ask is an open question that was put to people.
type Ask struct {
	ID     string   `json:"id"`
	Key    string   `json:"key"`    // of the question, norm.Question.Key
	What   string   `json:"what"`   // the question in words, as it was asked
	People []string `json:"people"` // user names
	Note   string   `json:"note,omitempty"`
	Due    string   `json:"due,omitempty"` // a day, YYYY-MM-DD; empty is whenever
	By     string   `json:"by"`
	When   string   `json:"when"`
}

// Answer is what one person says to an open question, asked or not.
type Answer struct {
	ID    string `json:"id"`
	Key   string `json:"key"`
	Value string `json:"value"` // of the side, norm.Side.Value
	Words string `json:"words"` // the side in words
	Why   string `json:"why,omitempty"`
	By    string `json:"by"`
	When  string `json:"when"`
}

// Missing are the people who were asked and have not answered.
func (a *Ask) Missing(answers []Answer) []string {
	out := []string{}
	for _, p := range a.People {
		if !slices.ContainsFunc(answers, func(o Answer) bool { return o.Key == a.Key && o.By == p }) {
			out = append(out, p)
		}
	}
	return out
}
