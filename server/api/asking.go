package api

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/norm"
	"ubiquant/core/screen"
)

// AskView is a question that was put to people and is open no longer, with what they said.
type AskView struct {
	audit.Ask
	Answers []audit.Answer `json:"answers"`
}

type askIn struct {
	Question string   `json:"question"`       // id
	People   []string `json:"people"`         // user names; none takes it back
	Note     string   `json:"note,omitempty"` // what they should know
	Due      string   `json:"due,omitempty"`  // date
	Client   string   `json:"client,omitempty"`
}

// ask puts an open question to people, or to others than before.
func (s *Server) ask(c *Call, in *askIn) (*changeOut, error) {
	people, err := s.Store.Users(c.Context())
	if err != nil {
		return nil, err
	}
	full := map[string]string{}
	for _, p := range people {
		full[p.Name] = p.FullName
	}
	var names []string
	for _, p := range in.People {
		if full[p] == "" {
			return nil, missing("person " + p)
		}
		names = append(names, full[p])
	}
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		at := slices.IndexFunc(l.W.Asks, func(a audit.Ask) bool { return a.Key == in.Question })
		if len(in.People) == 0 {
			if at < 0 {
				return change.Change{}, bad("this is not put to anybody")
			}
			out := change.Change{
				Title: "No longer ask: " + l.W.Asks[at].What, Steps: []change.Step{&change.DropAsk{Ask: l.W.Asks[at]}},
			}
			if openQuestion(l, in.Question) == nil { // what was said to it goes with it
				out.Steps = closing(l, in.Question)
			}
			return out, nil
		}
		q := openQuestion(l, in.Question)
		if q == nil {
			return change.Change{}, missing("open question " + in.Question)
		}
		ask := audit.Ask{Key: in.Question, What: inWords(q), People: in.People, Note: in.Note, Due: in.Due}
		if at >= 0 {
			ask.ID = l.W.Asks[at].ID
		} else {
			taken := map[string]bool{}
			for _, a := range l.W.Asks {
				taken[a.ID] = true
			}
			ask.ID = screen.FreeName(taken, "asked")
		}
		return change.Change{
			Title: fmt.Sprintf("Ask %s: %s", strings.Join(names, ", "), ask.What),
			Steps: []change.Step{&change.PutAsk{Ask: ask}},
		}, nil
	})
}

type answerIn struct {
	Question string `json:"question"` // id
	Value    string `json:"value"`    // of one of its sides
	Why      string `json:"why,omitempty"`
	Drop     bool   `json:"drop,omitempty"` // take back what one said
	Client   string `json:"client,omitempty"`
}

// answer says what the person who asks thinks of an open question; once for each person.
func (s *Server) answer(c *Call, in *answerIn) (*changeOut, error) {
	me := c.User.Name
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		taken := map[string]bool{}
		var mine *audit.Answer
		for i := range l.W.Answers {
			a := &l.W.Answers[i]
			taken[a.ID] = true
			if a.Key == in.Question && a.By == me {
				mine = a
			}
		}
		if in.Drop {
			if mine == nil {
				return change.Change{}, bad("you have not answered this")
			}
			return change.Change{Title: "Take back an answer", Steps: []change.Step{&change.DropAnswer{Answer: *mine}}}, nil
		}
		q := openQuestion(l, in.Question)
		if q == nil {
			return change.Change{}, missing("open question " + in.Question)
		}
		at := slices.IndexFunc(q.Sides, func(s norm.Side) bool { return s.Value == in.Value })
		if at < 0 {
			return change.Change{}, bad("%q is no answer to this question", in.Value)
		}
		a := audit.Answer{Key: in.Question, Value: in.Value, Words: q.Sides[at].Words, Why: strings.TrimSpace(in.Why)}
		if mine != nil {
			a.ID = mine.ID
		} else {
			a.ID = screen.FreeName(taken, "answer")
		}
		return change.Change{
			Title: fmt.Sprintf("Answer %s: %s", inWords(q), a.Words), Steps: []change.Step{&change.PutAnswer{Answer: a}},
		}, nil
	})
}

func openQuestion(l *live.Live, id string) *norm.Question {
	list := l.Questions()
	if i := slices.IndexFunc(list, func(q norm.Question) bool { return q.ID == id }); i >= 0 {
		return &list[i]
	}
	return nil
}

// inWords is a question as people read it.
func inWords(q *norm.Question) string {
	if q.Words == "" {
		return q.What
	}
	return q.What + ", " + q.Words
}

// closing takes away that a question was put to people, and what they said to it.
func closing(l *live.Live, key string) (out []change.Step) {
	for _, a := range l.W.Asks {
		if a.Key == key {
			out = append(out, &change.DropAsk{Ask: a})
		}
	}
	for _, a := range l.W.Answers {
		if a.Key == key {
			out = append(out, &change.DropAnswer{Answer: a})
		}
	}
	return out
}

// said are the answers to a question.
func said(l *live.Live, key string) []audit.Answer {
	out := []audit.Answer{}
	for _, a := range l.W.Answers {
		if a.Key == key {
			out = append(out, a)
		}
	}
	return out
}

// putTo lists what is asked of somebody, and what somebody asked that is answered by all or late.
func putTo(l *live.Live, me string, full map[string]string) []Attention {
	out := []Attention{}
	open := map[string]bool{}
	for _, q := range l.Questions() {
		open[q.ID] = true
	}
	for _, a := range l.W.Asks {
		if !open[a.Key] {
			continue
		}
		missing := a.Missing(l.W.Answers)
		t := Attention{
			Kind: "asked", Title: a.What + "?", Count: 1,
			Path: "/census/questions#" + a.Key,
		}
		switch {
		case slices.Contains(missing, me):
			t.Detail = "asked by " + orName(full, a.By)
			if a.Due != "" {
				t.Detail += ", by " + a.Due
			}
			if a.Note != "" {
				t.Detail += ": " + a.Note
			}
		case a.By == me && len(missing) == 0:
			if t.Detail = fmt.Sprintf("all %d have answered", len(a.People)); len(a.People) == 1 {
				t.Detail = orName(full, a.People[0]) + " has answered"
			}
		case a.By == me && a.Due != "" && a.Due < l.Today:
			t.Detail = fmt.Sprintf("%d of %d have answered, wanted by %s", len(a.People)-len(missing), len(a.People), a.Due)
		default:
			continue
		}
		out = append(out, t)
	}
	return out
}

func orName(full map[string]string, name string) string {
	if f := full[name]; f != "" {
		return f
	}
	return name
}
