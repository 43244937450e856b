package sample

import "slices"

// Currency is how amounts of one are written.
type Currency struct {
	Code     string // ISO 4217
	Name     string // in English, one of it
	Sign     string // before the amount
	Decimals int    // of a major unit: money is kept in minor ones
}

// Currencies are those that are known, the usual one first. Signs and decimals are from
// ISO 4217 and the Unicode CLDR for English.
var Currencies = []Currency{
	{
		"EUR",
		"euro",
		"€",
		2,
	}, {"USD", "dollar", "$", 2}, {"GBP", "pound", "£", 2}, {"CHF", "franc", "CHF ", 2}, {"JPY", "yen", "¥", 0}, {"SEK", "krona", "SEK ", 2}, {"NOK", "Norwegian krone", "NOK ", 2}, {"DKK", "Danish krone", "DKK ", 2},
	{
		"PLN",
		"zloty",
		"PLN ",
		2,
	}, {"CZK", "koruna", "CZK ", 2}, {"CAD", "Canadian dollar", "CA$", 2}, {"AUD", "Australian dollar", "A$", 2}, {"NZD", "New Zealand dollar", "NZ$", 2}, {"INR", "rupee", "₹", 2}, {"CNY", "yuan", "CN¥", 2}, {"KRW", "won", "₩", 0}, {"BRL", "real", "R$", 2}, {"KWD", "dinar", "KWD ", 3},
}

// CurrencyOf finds a currency by its code; the empty one, and one that is not known, is
// the euro.
func CurrencyOf(code string) Currency {
	if i := slices.IndexFunc(Currencies, func(c Currency) bool { return c.Code == code }); i >= 0 {
		return Currencies[i]
	}
	return Currencies[0]
}
