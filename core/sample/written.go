package sample

import (
	"fmt"
	"strconv"
	"strings"
	"time"
)

// FromText is what a field holds where somebody writes a text for it: "true" for yes/no, 12.50 for
// an amount, one of its choices. Errors say what would be accepted.
func (f *Field) FromText(text string) (any, error) {
	text = strings.TrimSpace(text)
	switch f.Type {
	case YesNo:
		switch text {
		case "true", "yes", "on":
			return true, nil
		case "false", "no", "off":
			return false, nil
		}
		return nil, fmt.Errorf("%s is yes or no, not %q", f.Name, text)
	case Number:
		n, err := strconv.ParseFloat(text, 64)
		if err != nil {
			return nil, fmt.Errorf("%s is a number, not %q", f.Name, text)
		}
		return n, nil
	case Money:
		n, err := strconv.ParseFloat(text, 64)
		if err != nil {
			return nil, fmt.Errorf("%s is an amount such as 12.50, not %q", f.Name, text)
		}
		scale := 1.0
		for range CurrencyOf(f.Currency).Decimals {
			scale *= 10
		}
		return float64(int64(n*scale + map[bool]float64{true: 0.5, false: -0.5}[n >= 0])), nil
	case Choice:
		for _, c := range f.Choices {
			if c == text {
				return text, nil
			}
		}
		return nil, fmt.Errorf("%s is one of %s, not %q", f.Name, strings.Join(f.Choices, ", "), text)
	case Date:
		if text == "today" {
			return text, nil
		}
		if _, err := time.Parse(time.DateOnly, text); err != nil {
			return nil, fmt.Errorf("%s is a date such as 2026-03-01, or today, not %q", f.Name, text)
		}
	case Texts, Refs:
		return nil, fmt.Errorf("%s is a list, which no press sets", f.Name)
	}
	return text, nil
}
