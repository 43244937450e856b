package audit

import "strings"

// Key names what is held against an element over time: by its rule, "stray" for what departs
// from a norm, the document, the element and the prop.
type Key struct{ Rule, Doc, Element, Prop string }

func (k Key) String() string { return strings.Join([]string{k.Rule, k.Doc, k.Element, k.Prop}, "|") }

// ParseKey reads a key as String writes it; what is missing is empty.
func ParseKey(key string) Key {
	var parts [4]string
	copy(parts[:], strings.SplitN(key, "|", 4))
	return Key{parts[0], parts[1], parts[2], parts[3]}
}

// Scope is how far it reaches that something is let stand.
type Scope string

// The scopes beyond one element, which is the empty one: the same rule and prop on the whole
// document, in the same spot on all of them, or the rule altogether.
const (
	InDoc      Scope = "screen"
	InSpot     Scope = "spot"
	Everywhere Scope = "rule"
)

// Scopes are those known.
var Scopes = []Scope{"", InDoc, InSpot, Everywhere}

// LetStand accepts a finding or a stray for a while.
type LetStand struct {
	ID     string `json:"id"`
	Key    string `json:"key"` // Finding.Key, or that of a stray
	Scope  Scope  `json:"scope,omitempty"`
	Spot   string `json:"spot,omitempty"` // its address, where that is how far it reaches
	Reason string `json:"reason"`
	By     string `json:"by"`
	When   string `json:"when"`
	Until  string `json:"until"` // look again; empty is never
}

// inCode begins the ids of what comments in code let stand.
const inCode = "code:"

// StandsInCode is what a comment in code lets stand.
func StandsInCode(key, reason, until string) LetStand {
	return LetStand{ID: inCode + key, Key: key, Reason: reason, Until: until, By: "a comment in code"}
}

// InCode reports whether a comment in code lets it stand: it is lifted there.
func (s *LetStand) InCode() bool { return strings.HasPrefix(s.ID, inCode) }

// Due reports whether the day to look again, YYYY-MM-DD, has come.
func (s *LetStand) Due(today string) bool { return s.Until != "" && s.Until <= today }

// Assignment is something of the audit that somebody is to see to.
type Assignment struct {
	ID   string `json:"id"`
	Key  string `json:"key"` // of a finding, a stray or a question
	To   string `json:"to"`
	Note string `json:"note,omitempty"`
	Due  string `json:"due,omitempty"` // a day, YYYY-MM-DD; empty is whenever
	By   string `json:"by"`
	When string `json:"when"`
}

// OwnRule is a rule that a team writes: of what a selector picks, an expression must hold.
type OwnRule struct {
	ID       string   `json:"id"`
	Title    string   `json:"title"`
	Of       string   `json:"of,omitempty"`    // element, which is also the empty one, or screen, piece, shell
	Where    string   `json:"where,omitempty"` // selector of elements
	Must     string   `json:"must"`            // expression that must hold, see package own
	Message  string   `json:"message"`
	Severity Severity `json:"severity"`
	Prop     string   `json:"prop,omitempty"` // what its repair sets, and to what
	Value    string   `json:"value,omitempty"`
	Why      string   `json:"why,omitempty"`
	Good     string   `json:"good,omitempty"` // an element as JSON that keeps it
	Bad      string   `json:"bad,omitempty"`  // and one that does not
	By       string   `json:"by,omitempty"`
	When     string   `json:"when,omitempty"`
}
