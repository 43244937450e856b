package expr

import (
	"math"
	"strconv"
	"strings"

	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"
)

var forms = map[plural.Form]string{
	plural.Zero: "zero", plural.One: "one", plural.Two: "two", plural.Few: "few", plural.Many: "many",
}

// PluralForm is which plural form a number takes in a language, by the rules of the Unicode
// CLDR: zero, one, two, few, many or other. What is no number, and a language that is not
// known, has other.
func PluralForm(v any, lang string) string {
	n, ok := v.(float64)
	tag, err := language.Parse(lang)
	if !ok || err != nil || math.IsNaN(n) || math.IsInf(n, 0) {
		return "other"
	}
	// The operands of the rules: the digits before the point, and those behind it.
	digits, behind, _ := strings.Cut(strconv.FormatFloat(math.Abs(n), 'f', -1, 64), ".")
	if len(digits) > 7 {
		digits = "1" + digits[len(digits)-7:] // large, with the same last digits
	}
	if len(behind) > 7 {
		behind = behind[:7]
	}
	i, _ := strconv.Atoi(digits)
	f, _ := strconv.Atoi("0" + behind)
	if form, ok := forms[plural.Cardinal.MatchPlural(tag, i, len(behind), len(behind), f, f)]; ok {
		return form
	}
	return "other"
}
