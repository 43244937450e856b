package change

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/model"
)

// PutAsk puts an open question to people.
type PutAsk struct {
	Ask audit.Ask `json:"ask"`
	At  *int      `json:"at" do:"log"`
}

// DropAsk no longer asks.
type DropAsk struct {
	Ask audit.Ask `json:"ask" do:"key=id"` // of which the id counts
}

// PutAnswer says what somebody thinks of an open question.
type PutAnswer struct {
	Answer audit.Answer `json:"answer"`
	At     *int         `json:"at" do:"log"`
}

// DropAnswer takes it back.
type DropAnswer struct {
	Answer audit.Answer `json:"answer" do:"key=id"` // of which the id counts
}

var (
	_ = add[PutAsk](Kind{Name: "ask", Does: "put an open question to people", Role: model.Builder})
	_ = add[DropAsk](Kind{Name: "unask", Does: "no longer put a question to people", Role: model.Builder})
	_ = add[PutAnswer](Kind{Name: "answer", Does: "say what one thinks of an open question", Role: model.Reader})
	_ = add[DropAnswer](Kind{Name: "unanswer", Does: "take back what one said to an open question", Role: model.Reader})
)

var asks = entries[audit.Ask]{
	part: model.Asks,
	in:   func(w *model.Workspace) *[]audit.Ask { return &w.Asks },
	key:  func(a *audit.Ask) string { return a.ID },
	put:  func(a audit.Ask, at *int, _ bool) Step { return &PutAsk{a, at} },
	drop: func(a audit.Ask) Step { return &DropAsk{a} },
}

var answers = entries[audit.Answer]{
	part: model.Answers,
	in:   func(w *model.Workspace) *[]audit.Answer { return &w.Answers },
	key:  func(a *audit.Answer) string { return a.ID },
	put:  func(a audit.Answer, at *int, _ bool) Step { return &PutAnswer{a, at} },
	drop: func(a audit.Answer) Step { return &DropAnswer{a} },
}

func (s *PutAsk) stamp(by, when string)    { s.Ask.By, s.Ask.When = by, when }
func (s *PutAnswer) stamp(by, when string) { s.Answer.By, s.Answer.When = by, when }

// allowed: the day by which answers are wanted is one, and still to come.
func (s *PutAsk) allowed(c *Circumstances) error {
	if s.Ask.Due == "" || c.Restores {
		return nil
	}
	return comes("by which answers are wanted", s.Ask.Due, c.Today)
}

// allowed: nobody writes over what another said.
func (s *PutAnswer) allowed(c *Circumstances) error {
	if i := answers.find(c.W, s.Answer.ID); i >= 0 && c.W.Answers[i].By != c.Person && !c.Restores {
		return denied("%s said this; say what you think yourself", c.W.Answers[i].By)
	}
	return nil
}

// allowed: what one said one takes back oneself, or a builder does as the question is closed.
func (s *DropAnswer) allowed(c *Circumstances) error {
	if i := answers.find(c.W, s.Answer.ID); i >= 0 && c.W.Answers[i].By != c.Person && !c.Role.May(model.Builder) {
		return denied("%s said this, and takes it back", c.W.Answers[i].By)
	}
	return nil
}

func (s *PutAsk) sets() []string     { return []string{"ask:" + s.Ask.ID} }
func (s *DropAsk) sets() []string    { return []string{"ask:" + s.Ask.ID} }
func (s *PutAnswer) sets() []string  { return []string{"answer:" + s.Answer.ID} }
func (s *DropAnswer) sets() []string { return []string{"answer:" + s.Answer.ID} }

func (s *PutAsk) apply(t *taking) error {
	switch {
	case s.Ask.ID == "" || s.Ask.Key == "":
		return fmt.Errorf("no question is given")
	case len(s.Ask.People) == 0:
		return fmt.Errorf("nobody is named to be asked")
	case len(s.Ask.People) > mostAsked:
		return fmt.Errorf("%d people are asked at once; accepted: up to %d", len(s.Ask.People), mostAsked)
	}
	if i := slices.IndexFunc(t.w.Asks, func(a audit.Ask) bool { return a.Key == s.Ask.Key && a.ID != s.Ask.ID }); i >= 0 {
		return fmt.Errorf("%s is put to people already", s.Ask.What)
	}
	asks.set(t, s.Ask, s.At, false)
	return nil
}

// mostAsked bounds how many people one question is put to.
const mostAsked = 50

func (s *DropAsk) apply(t *taking) error {
	if _, ok := asks.take(t, s.Ask.ID); !ok {
		return fmt.Errorf("no question is put to people under %q", s.Ask.ID)
	}
	return nil
}

func (s *PutAnswer) apply(t *taking) error {
	a := &s.Answer
	if a.ID == "" || a.Key == "" || strings.TrimSpace(a.Words) == "" {
		return fmt.Errorf("no answer is given")
	}
	if slices.ContainsFunc(t.w.Answers, func(o audit.Answer) bool { return o.Key == a.Key && o.By == a.By && o.ID != a.ID }) {
		return fmt.Errorf("%s has answered this already", a.By)
	}
	answers.set(t, s.Answer, s.At, false)
	return nil
}

func (s *DropAnswer) apply(t *taking) error {
	if _, ok := answers.take(t, s.Answer.ID); !ok {
		return fmt.Errorf("there is no answer %q", s.Answer.ID)
	}
	return nil
}
