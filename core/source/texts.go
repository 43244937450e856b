package source

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/text/language"
)

// TextFile holds texts by their keys, as one file of a repository has them.
type TextFile struct {
	File     string            // its path
	Language string            // as a tag, "en-US"; empty where neither its path nor its code says so
	Of       map[string]string // by key: the names on the way to it, joined by dots
	Weight   int               // how much it says, in bytes; what is not read yet has it too
}

var localeFolder = regexp.MustCompile(`(?i)(?:^|/)(?:locales?|langs?|languages?|i18n|translations?|messages|intl)(?:/|[._-])`)
var languageTag = regexp.MustCompile(`^(?:.+\.)?([a-z]{2}(?:[-_][A-Za-z]{2,4}){0,2})$`)

// LanguageOf is the language of a file that holds texts, by its path; ok is false where the path
// does not speak of texts at all. A file that names no language holds the usual one: "".
func LanguageOf(file string) (tag string, ok bool) {
	at := localeFolder.FindStringIndex(file)
	if at == nil {
		return "", false
	}
	rest := strings.TrimSuffix(file, path.Ext(file))
	rest = rest[min(at[1], len(rest)):]
	for part := range strings.SplitSeq(rest, "/") {
		switch strings.ToLower(part) {
		case "english":
			return "en", true
		case "index", "default", "messages", "all", "app", "web", "src", "lib":
			continue
		}
		if m := languageTag.FindStringSubmatch(part); m != nil {
			if tag, err := language.Parse(m[1]); err == nil {
				return tag.String(), true
			}
		}
	}
	return "", true
}

// Languages picks of files those of one language, the one that is judged: English where it says
// at least a third of what the fullest says, else the fullest. Files that name no language go along.
func Languages(files []TextFile) []TextFile {
	weight := map[string]int{}
	for i := range files {
		weight[primary(files[i].Language)] += files[i].Weight
	}
	best := ""
	for tag, w := range weight {
		if tag != "" && (best == "" || w > weight[best] || w == weight[best] && tag < best) {
			best = tag
		}
	}
	if weight["en"] > 0 && weight["en"]*3 >= weight[best] {
		best = "en"
	}
	var out []TextFile
	for i := range files {
		if tag := primary(files[i].Language); tag == best || tag == "" {
			out = append(out, files[i])
		}
	}
	return out
}

func primary(tag string) string {
	tag, _, _ = strings.Cut(strings.ToLower(tag), "-")
	return tag
}

// Texts answers what stands under a key.
type Texts struct {
	of map[string][]said
}

type said struct {
	text, file, language string
	open                 bool // values are put into it, or marks: what is shown is not known
}

// NewTexts puts the texts of files in order. Each key can be asked for by itself and with the
// name of its file before it, as those write it who split their texts by subject.
func NewTexts(files []TextFile) *Texts {
	t := &Texts{of: map[string][]said{}}
	for _, f := range files {
		space := strings.TrimSuffix(path.Base(f.File), path.Ext(f.File))
		for key, text := range f.Of {
			text = literalBraces.ReplaceAllString(text, "$1")
			s := said{text, f.File, f.Language, strings.ContainsAny(text, "{<")}
			keys := []string{key, space + ":" + key, space + "." + key}
			if first, rest, ok := strings.Cut(key, "."); ok && f.Language != "" {
				keys = append(keys, first+":"+rest) // subjects within one file
				if first == "translation" {
					keys = append(keys, rest)
				}
			}
			for _, k := range keys {
				t.of[k] = append(t.of[k], s)
			}
		}
	}
	return t
}

// literalBraces is how a message writes a character that would mean something: {'@'}.
var literalBraces = regexp.MustCompile(`\{'([^'{}]*)'\}`)

// Text is what a key gives in a file: the text of the nearest file that has it, by the folders
// they share. Where several are as near and say different things it is not known, except
// that a language stands before its regional forms.
func (t *Texts) Text(key, from string) (string, bool) {
	if t == nil {
		return "", false
	}
	list := t.of[key]
	if len(list) == 0 {
		return "", false
	}
	near := func(s said) int { return shared(s.file, from)*4 - strings.Count(s.language, "-") }
	best := slices.MaxFunc(list, func(a, b said) int { return near(a) - near(b) })
	for _, s := range list {
		if near(s) == near(best) && s.text != best.text {
			return "", false
		}
	}
	return best.text, !best.open
}

// Has reports whether any text stands under a key.
func (t *Texts) Has(key string) bool { return t != nil && len(t.of[key]) > 0 }

// shared counts the folders that two files have in common from the root.
func shared(a, b string) int {
	n := 0
	as, bs := strings.Split(path.Dir(a), "/"), strings.Split(path.Dir(b), "/")
	for n < len(as) && n < len(bs) && as[n] == bs[n] {
		n++
	}
	return n
}

// fewestSaid is how many texts are known by their keys for each key that has none, before those are
// told of: else there are texts that were not read.
const fewestSaid = 4

// unsaid tells of the keys that no text stands under.
func (b *builder) unsaid() {
	var without []string
	for key := range b.asked {
		if !b.in.Texts.Has(key) {
			without = append(without, key)
		}
	}
	if b.told < fewestSaid*len(without) {
		return
	}
	slices.Sort(without)
	for _, key := range without {
		what := "no text stands under the key “" + key + "”, which it asks for"
		b.read.Report.Left = append(b.read.Report.Left, Left{File: b.asked[key], What: what})
	}
}
