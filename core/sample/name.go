package sample

import (
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// latin are letters that no mark can be taken off, and those of other scripts as they are
// commonly written with Latin ones.
var latin = func() map[rune]string {
	out := map[rune]string{
		'ß': "ss", 'æ': "ae", 'œ': "oe", 'ø': "o", 'đ': "d", 'ð': "d", 'þ': "th", 'ł': "l", 'ı': "i", 'ŋ': "n",
		'щ': "shch", 'ш': "sh", 'ч': "ch", 'ж': "zh", 'х': "kh", 'ц': "ts", 'ю': "yu", 'я': "ya", 'ъ': "", 'ь': "", 'є': "ye", 'ї': "yi",
		'θ': "th", 'χ': "ch", 'ψ': "ps", 'ω': "o",
	}
	for from, to := range map[string]string{
		"абвгдезийклмнопрстуфыэі": "abvgdeziiklmnoprstufyei", "αβγδεζηικλμνξοπρστυφς": "abgdeziiklmnxoprstyfs",
	} {
		for i, r := range []rune(from) {
			out[r] = to[i : i+1]
		}
	}
	return out
}()

// FieldName makes a field's name of a column's, in whatever script: "Latin name" is
// latinName, "EAN Code" is eanCode, "Größe" is grosse.
func FieldName(column string) string {
	var words []string
	var word strings.Builder
	end := func() {
		if word.Len() > 0 {
			words = append(words, word.String())
			word.Reset()
		}
	}
	for _, r := range norm.NFKD.String(column) {
		lower := unicode.ToLower(r)
		switch letters, known := latin[lower]; {
		case unicode.Is(unicode.Mn, r) || r == '\'' || r == '’':
		case r <= unicode.MaxASCII && (unicode.IsLetter(r) || unicode.IsDigit(r)):
			word.WriteRune(r)
		case known && letters != "" && unicode.IsUpper(r):
			word.WriteString(strings.ToUpper(letters[:1]) + letters[1:])
		case known:
			word.WriteString(letters)
		default:
			end()
		}
	}
	end()
	var b strings.Builder
	for i, w := range words {
		// Words in capitals, and with a capital in front, are words; inside they keep theirs.
		if strings.ToUpper(w) == w {
			w = strings.ToLower(w)
		}
		if i == 0 {
			w = strings.ToLower(w[:1]) + w[1:]
		} else {
			w = strings.ToUpper(w[:1]) + w[1:]
		}
		b.WriteString(w)
	}
	name := b.String()
	if name == "" {
		return "field"
	}
	if name[0] >= '0' && name[0] <= '9' {
		name = "n" + name
	}
	return name[:min(len(name), 48)]
}
