// Package translated says workspaces in a made-up German, for tests of other languages.
package translated

import (
	"strings"
	"unicode"

	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/texts"
)

// Into gives a workspace another language: each text says the same in other words. Those whose
// keys are left out by skip are not translated.
func Into(w *model.Workspace, cat kit.Catalog, language string, skip func(key string) bool) {
	w.Languages = append(w.Languages, texts.Language{ID: language})
	list, _ := texts.List(w.Texts(cat))
	for i := range list {
		if skip != nil && skip(list[i].Key) {
			continue
		}
		m, err := texts.Parse(list[i].Message)
		if err != nil { // written by the same package
			panic(err)
		}
		w.Translations = append(w.Translations, texts.Said{Language: language, Key: list[i].Key, Is: other(m).String(), Of: list[i].Message})
	}
}

// Words is what words become.
func Words(s string) string {
	if !strings.ContainsFunc(s, unicode.IsLetter) {
		return s
	}
	begin, end := len(s)-len(strings.TrimLeft(s, " ")), len(strings.TrimRight(s, " "))
	return s[:begin] + "Ä'" + s[begin:end] + "ß" + s[end:]
}

func other(m texts.Message) texts.Message {
	out := make(texts.Message, len(m))
	for i, p := range m {
		p.Words = Words(p.Words)
		cases := make([]texts.Case, len(p.Cases))
		for j, c := range p.Cases {
			cases[j] = texts.Case{Is: c.Is, Says: other(c.Says)}
		}
		if p.Cases != nil {
			p.Cases = cases
		}
		out[i] = p
	}
	return out
}
