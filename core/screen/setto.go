package screen

import (
	"regexp"
	"slices"

	"ubiquant/core/kit"
)

// SetTo is the edit that brings a prop to a value: the default is reached by
// taking the setting off.
func SetTo(def *kit.Prop, e *Element, value string) Edit {
	if value == def.Default {
		return Edit{Op: Unset, ID: e.ID, Prop: def.Name}
	}
	edit := Edit{Op: Set, ID: e.ID, Prop: def.Name, Value: Lit(value)}
	switch {
	case def.Type == kit.Bool:
		edit.Value = FlagValue(value == "true")
	case def.Type == kit.Number || (def.Type == kit.Enum && IsNumber(value) && slices.Contains(def.Values, value) && allNumbers(def.Values)):
		edit.Value = Value{Kind: Num, Text: value}
	}
	return edit
}

// number is a decimal number as both HTML and JSON write it.
var number = regexp.MustCompile(`^-?(0|[1-9]\d*)(\.\d+)?$`)

// IsNumber tells whether a text is a number that a value can hold.
func IsNumber(s string) bool { return number.MatchString(s) }

func allNumbers(list []string) bool {
	for _, s := range list {
		if !IsNumber(s) {
			return false
		}
	}
	return true
}
