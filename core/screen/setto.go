package screen

import (
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
	case def.Type == kit.Number || (def.Type == kit.Enum && isNumber(value) && slices.Contains(def.Values, value) && allNumbers(def.Values)):
		edit.Value = Value{Kind: Num, Text: value}
	}
	return edit
}

func isNumber(s string) bool {
	for _, r := range s {
		if r < '0' || r > '9' {
			return false
		}
	}
	return s != ""
}

func allNumbers(list []string) bool {
	for _, s := range list {
		if !isNumber(s) {
			return false
		}
	}
	return true
}
