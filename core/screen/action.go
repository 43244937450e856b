package screen

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
)

// Verbs are what an element can be told to do once it is pressed, changed or sent.
const (
	GoTo        = "go"     // to a route
	Open        = "open"   // an element that opens, by its id
	Close       = "close"  // the same
	Enter       = "state"  // of the screen, by its name; "ready" is the usual one
	Submit      = "submit" // the form around it
	SetControl  = "set"    // a control by its name, to what stands behind it; else to what it holds at first
	Theme       = "theme"  // on and off, by its name; what is on or ticked itself turns it on
	ChangeField = "change" // a field of the record that it stands for, to what stands behind the name
	TickField   = "tick"   // a field of the record that is yes or no: to the other
	TakeAway    = "remove" // the record that it stands for
	AddRecord   = "add"    // a record to a model, of what the form or the controls around hold
)

// Verbs lists them in the order in which they are offered.
var Verbs = []string{GoTo, Open, Close, Enter, Submit, SetControl, Theme, ChangeField, TickField, TakeAway, AddRecord}

// Action is one thing that happens. To is empty only for Submit and TakeAway.
type Action struct{ Verb, To string }

// bare tells whether an action says all by its verb.
func bare(verb string) bool { return verb == Submit || verb == TakeAway }

func (a Action) String() string { return strings.TrimSpace(a.Verb + " " + a.To) }

// maxActions bounds what one press sets off.
const maxActions = 12

// ParseActions reads what an element does, in order: "submit; open saved; state ready".
func ParseActions(s string) ([]Action, error) {
	var out []Action
	for part := range strings.SplitSeq(s, ";") {
		verb, to, _ := strings.Cut(strings.TrimSpace(part), " ")
		to = strings.TrimSpace(to)
		switch {
		case verb == "":
			continue
		case !slices.Contains(Verbs, verb):
			return nil, fmt.Errorf("%q is nothing that can happen; accepted: %s", verb, join(Verbs))
		case to == "" && !bare(verb):
			return nil, fmt.Errorf("%q does not say what or where", verb)
		case to != "" && verb == Submit:
			return nil, fmt.Errorf("submit sends the form around it, not %q", to)
		case to != "" && verb == TakeAway:
			return nil, fmt.Errorf("remove takes away the record that it stands for, not %q", to)
		case verb == ChangeField && !strings.Contains(to, " "):
			return nil, fmt.Errorf("change says to what: change %s VALUE", to)
		}
		if out = append(out, Action{verb, to}); len(out) > maxActions {
			return nil, fmt.Errorf("it does more than %d things", maxActions)
		}
	}
	return out, nil
}

// WriteActions is the text that reads back as these actions.
func WriteActions(list []Action) string {
	parts := make([]string, len(list))
	for i, a := range list {
		parts[i] = a.String()
	}
	return strings.Join(parts, "; ")
}

// Control is the name of the control that is set, and what to; given is false where it is to
// hold what it holds at first.
func (a Action) Control() (name, value string, given bool) {
	name, value, given = strings.Cut(a.To, " ")
	return name, strings.TrimSpace(value), given
}

// Records tells whether an action touches the record that it stands for.
func (a Action) Records() bool {
	return a.Verb == ChangeField || a.Verb == TickField || a.Verb == TakeAway
}

// Field is the field of the record that an action touches, and what to; empty where it is the
// whole record.
func (a Action) Field() (name, value string) {
	if a.Verb == TakeAway {
		return "", ""
	}
	name, value, _ = strings.Cut(a.To, " ")
	return name, strings.TrimSpace(value)
}

// Points tells whether an action's target is an element.
func (a Action) Points() bool { return a.Verb == Open || a.Verb == Close }

// Aim gives actions that point at elements their new ids; others stay.
func Aim(does string, ids map[string]string) string {
	list, err := ParseActions(does)
	if err != nil {
		return does
	}
	for i, a := range list {
		if id := ids[a.To]; a.Points() && id != "" {
			list[i].To = id
		}
	}
	return WriteActions(list)
}

// Repoint is Aim for an element made just now.
func Repoint(e *Element, ids map[string]string) {
	for i, p := range e.Props {
		if p.Name == kit.Does {
			e.Props = slices.Clone(e.Props)
			e.Props[i].Value = Lit(Aim(p.Value.Text, ids))
		}
	}
}
