package audit

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
)

// Setting is something a team may set about a rule.
type Setting struct {
	Name    string `json:"name"`
	Help    string `json:"help"`
	Default string `json:"default"`
	Number  bool   `json:"number"` // a whole number from 1; otherwise words, separated by commas
	// Choices are the words accepted; none accepts any.
	Choices []string `json:"choices,omitempty"`
}

// Off as a severity turns a rule off.
const Off Severity = "off"

// Tuning is how a team holds a rule: its severity, its settings, and why. What is
// empty is as the rule has it.
type Tuning struct {
	Rule     string            `json:"rule"`
	Severity Severity          `json:"severity,omitempty"`
	Settings map[string]string `json:"settings,omitempty"`
	Reason   string            `json:"reason,omitempty"`
	By       string            `json:"by,omitempty"`
	When     string            `json:"when,omitempty"`
}

// Alike compares how a rule is held, whoever said so and when.
func (t *Tuning) Alike(o *Tuning) bool {
	return t.Rule == o.Rule && t.Severity == o.Severity && t.Reason == o.Reason && maps.Equal(t.Settings, o.Settings)
}

// Empty reports whether the rule is as it comes.
func (t *Tuning) Empty() bool { return t.Severity == "" && len(t.Settings) == 0 }

// Check says what of a tuning the rule does not take.
func (r *Rule) Check(t *Tuning) error {
	if accepted := []Severity{"", Off, Note, Warning, Error}; !slices.Contains(accepted, t.Severity) {
		return fmt.Errorf("the severity %q is not known; accepted: off, note, warning, error", t.Severity)
	}
	for name, value := range t.Settings {
		i := slices.IndexFunc(r.Settings, func(s Setting) bool { return s.Name == name })
		if i < 0 {
			return fmt.Errorf("the rule %s has no setting %q", r.ID, name)
		}
		if n, err := strconv.Atoi(value); r.Settings[i].Number && (err != nil || n < 1 || n > 1000) {
			return fmt.Errorf("%s of the rule %s is %q; accepted: a whole number from 1 to 1000", name, r.ID, value)
		}
		for _, word := range wordsOf(value) {
			if known := r.Settings[i].Choices; len(known) > 0 && !slices.Contains(known, word) {
				return fmt.Errorf("%s of the rule %s does not know %q; accepted: %s", name, r.ID, word, strings.Join(known, ", "))
			}
		}
		if len(value) > 2000 {
			return fmt.Errorf("%s of the rule %s has %d bytes; accepted: at most 2000", name, r.ID, len(value))
		}
	}
	return nil
}

// tuned is the rule as the team holds it; nil where it is off.
func (r *Rule) tuned(t *Tuning) *Rule {
	if t.Severity == Off {
		return nil
	}
	own := *r
	own.values = t.Settings
	if t.Severity != "" {
		own.Severity = t.Severity
	}
	return &own
}

func (r *Rule) setting(name string) string {
	if v, ok := r.values[name]; ok {
		return v
	}
	for _, s := range r.Settings {
		if s.Name == name {
			return s.Default
		}
	}
	return ""
}

func (r *Rule) number(name string) int {
	n, err := strconv.Atoi(r.setting(name))
	if err != nil {
		return 1
	}
	return n
}

// Held is a setting of the rule as a team holds it, in words.
func (r *Rule) Held(tunings []Tuning, name string) []string {
	own := *r
	for _, t := range tunings {
		if t.Rule == r.ID {
			own.values = t.Settings
		}
	}
	return own.words(name)
}

func (r *Rule) words(name string) []string { return wordsOf(r.setting(name)) }

func wordsOf(value string) []string {
	var out []string
	for w := range strings.SplitSeq(value, ",") {
		if w = strings.TrimSpace(w); w != "" {
			out = append(out, w)
		}
	}
	return out
}

// Number is a setting of the rule being applied.
func (p *Pass) Number(name string) int { return p.rule.number(name) }

// Words is a setting of the rule being applied.
func (p *Pass) Words(name string) []string { return p.rule.words(name) }

// Number is a setting of the group's rule.
func (g *Group) Number(name string) int { return g.rule.number(name) }
