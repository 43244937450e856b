package expr

import (
	"math"
	"strconv"
	"strings"
	"time"
	"unicode"

	"ubiquant/core/sample"
)

// The formats below are our own table, not a browser's locale data, so that the
// Proof and a delivered application show the same. Golden vectors hold both sides
// to it.

// FormatNumber writes a number with so many decimals, rounding half away from
// zero on its shortest decimal form, with commas between thousands. A missing
// number is the empty text.
func FormatNumber(v any, decimals int) string {
	f, ok := v.(float64)
	if !ok {
		return ""
	}
	decimals = min(max(decimals, 0), 12)
	digits := strconv.FormatFloat(f, 'f', -1, 64)
	sign := ""
	if strings.HasPrefix(digits, "-") {
		sign, digits = "-", digits[1:]
	}
	whole, frac, _ := strings.Cut(digits, ".")
	up := len(frac) > decimals && frac[decimals] >= '5'
	if len(frac) > decimals {
		frac = frac[:decimals]
	}
	frac += strings.Repeat("0", decimals-len(frac))
	all := []byte(whole + frac)
	for i := len(all) - 1; up; i-- {
		if i < 0 {
			all = append([]byte{'1'}, all...)
			break
		}
		if all[i] == '9' {
			all[i] = '0'
			continue
		}
		all[i]++
		up = false
	}
	whole, frac = string(all[:len(all)-decimals]), string(all[len(all)-decimals:])
	var out strings.Builder
	if strings.Trim(whole+frac, "0") != "" {
		out.WriteString(sign)
	}
	for i, c := range whole {
		if i > 0 && (len(whole)-i)%3 == 0 {
			out.WriteByte(',')
		}
		out.WriteRune(c)
	}
	if decimals > 0 {
		out.WriteString("." + frac)
	}
	return out.String()
}

// FormatMoney writes minor units (cents) of a currency as an amount: 123450 is
// "€1,234.50". The empty currency is the euro.
func FormatMoney(v any, currency string) string {
	f, ok := v.(float64)
	if !ok {
		return ""
	}
	c := sample.CurrencyOf(currency)
	s := FormatNumber(f/math.Pow10(c.Decimals), c.Decimals)
	if strings.HasPrefix(s, "-") {
		return "-" + c.Sign + s[1:]
	}
	return c.Sign + s
}

var months = [...]string{"Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"}

// FormatDay writes a date YYYY-MM-DD as "3 Mar 2026"; what is no such date
// stays as it is.
func FormatDay(s string) string {
	if len(s) != 10 || s[4] != '-' || s[7] != '-' {
		return s
	}
	month, err := strconv.Atoi(s[5:7])
	day, err2 := strconv.Atoi(s[8:10])
	if err != nil || err2 != nil || month < 1 || month > 12 {
		return s
	}
	return strconv.Itoa(day) + " " + months[month-1] + " " + s[:4]
}

// FormatUpTo writes a number with at most so many decimals: those that are nothing but
// zeros are left away, so that 2.50 is "2.5" and 2.00 is "2".
func FormatUpTo(v any, decimals int) string {
	s := FormatNumber(v, decimals)
	if strings.Contains(s, ".") {
		s = strings.TrimSuffix(strings.TrimRight(s, "0"), ".")
	}
	return s
}

// dateOf parses a date YYYY-MM-DD that is one.
func dateOf(s string) (time.Time, bool) {
	t, err := time.Parse(time.DateOnly, s)
	return t, err == nil
}

// FormatShortDay writes a date as "3 Mar"; what is no date stays as it is.
func FormatShortDay(s string) string {
	t, ok := dateOf(s)
	if !ok {
		return s
	}
	return strconv.Itoa(t.Day()) + " " + months[t.Month()-1]
}

var (
	weekdays   = [...]string{"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"}
	longMonths = [...]string{
		"January",
		"February",
		"March",
		"April",
		"May",
		"June",
		"July",
		"August",
		"September",
		"October",
		"November",
		"December",
	}
)

// FormatWeekday writes a date as "Tue 3 Mar"; what is no date stays as it is.
func FormatWeekday(s string) string {
	t, ok := dateOf(s)
	if !ok {
		return s
	}
	return weekdays[t.Weekday()] + " " + FormatShortDay(s)
}

// FormatMonth writes the month of a date as "March 2026"; what is no date stays as it is.
func FormatMonth(s string) string {
	t, ok := dateOf(s)
	if !ok {
		return s
	}
	return longMonths[t.Month()-1] + " " + s[:4]
}

// Initials takes the first letters of at most two words; an empty text has none.
func Initials(s string) string {
	var out []rune
	for _, w := range strings.Fields(s) {
		if len(out) < 2 {
			out = append(out, unicode.ToUpper([]rune(w)[0]))
		}
	}
	return string(out)
}
