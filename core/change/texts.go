package change

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/model"
	"ubiquant/core/texts"
)

// PutLanguage has the texts in a language, or says that they are written in it.
type PutLanguage struct {
	Language texts.Language `json:"language"`
	At       *int           `json:"at" do:"log"`
}

// DropLanguage has them in it no longer.
type DropLanguage struct {
	Language texts.Language `json:"language" do:"key=id"` // of which the id counts
}

// Translate says a text in a language.
type Translate struct {
	Said texts.Said `json:"said"`
	At   *int       `json:"at" do:"log"`
}

// Untranslate takes that back.
type Untranslate struct {
	Said texts.Said `json:"said" do:"key=language+key"` // of which the language and the key count
}

var (
	_ = add[PutLanguage](Kind{Name: "language", Does: "have the texts in a language", Role: model.Builder})
	_ = add[DropLanguage](Kind{Name: "unlanguage", Does: "no longer have the texts in a language", Role: model.Builder})
	_ = add[Translate](Kind{Name: "translate", Does: "say a text in a language", Role: model.Builder})
	_ = add[Untranslate](Kind{Name: "untranslate", Does: "no longer say a text in a language", Role: model.Builder})
)

var languages = entries[texts.Language]{
	part: model.Languages,
	in:   func(w *model.Workspace) *[]texts.Language { return &w.Languages },
	key:  func(l *texts.Language) string { return l.ID },
	put:  func(l texts.Language, at *int, _ bool) Step { return &PutLanguage{l, at} },
	drop: func(l texts.Language) Step { return &DropLanguage{l} },
}

var translations = entries[texts.Said]{
	part:   model.Translations,
	in:     func(w *model.Workspace) *[]texts.Said { return &w.Translations },
	key:    func(s *texts.Said) string { return s.Address() },
	put:    func(s texts.Said, at *int, _ bool) Step { return &Translate{s, at} },
	drop:   func(s texts.Said) Step { return &Untranslate{s} },
	sorted: true, // files of several people merge
}

func (s *PutLanguage) sets() []string  { return []string{"language:" + s.Language.ID} }
func (s *DropLanguage) sets() []string { return []string{"language:" + s.Language.ID} }
func (s *Translate) sets() []string    { return []string{"said:" + s.Said.Address()} }
func (s *Untranslate) sets() []string  { return []string{"said:" + s.Said.Address()} }

func (s *PutLanguage) apply(t *taking) error {
	if err := texts.Check(s.Language.ID); err != nil {
		return err
	}
	written := func(l texts.Language) bool { return l.Written && l.ID != s.Language.ID }
	if i := slices.IndexFunc(t.w.Languages, written); s.Language.Written && i >= 0 {
		return fmt.Errorf("the texts are written in %s already", texts.Name(t.w.Languages[i].ID))
	}
	if s.Language.Written && said(t.w, s.Language.ID) > 0 {
		return fmt.Errorf("the texts are translated into %s; they cannot be written in it", texts.Name(s.Language.ID))
	}
	languages.set(t, s.Language, s.At, false)
	return nil
}

// said counts what is said in a language.
func said(w *model.Workspace, language string) (n int) {
	for i := range w.Translations {
		if w.Translations[i].Language == language {
			n++
		}
	}
	return n
}

func (s *DropLanguage) apply(t *taking) error {
	if n := said(t.w, s.Language.ID); n > 0 {
		return fmt.Errorf("%d texts are said in %s; take them away first", n, texts.Name(s.Language.ID))
	}
	if _, ok := languages.take(t, s.Language.ID); !ok {
		return fmt.Errorf("the texts are not in %q", s.Language.ID)
	}
	return nil
}

// longestSaid bounds a text in another language, in bytes.
const longestSaid = 20_000

func (s *Translate) apply(t *taking) error {
	at := slices.IndexFunc(t.w.Languages, func(l texts.Language) bool { return l.ID == s.Said.Language })
	switch {
	case at < 0 || t.w.Languages[at].Written:
		return fmt.Errorf("the texts are not translated into %q; add the language first", s.Said.Language)
	case s.Said.Key == "" || len(s.Said.Key) > 400 || strings.ContainsAny(s.Said.Key, " \t\n"):
		return fmt.Errorf("%q is no key of a text", s.Said.Key)
	case strings.TrimSpace(s.Said.Is) == "":
		return fmt.Errorf("%s says nothing in %s", s.Said.Key, s.Said.Language)
	case len(s.Said.Is)+len(s.Said.Of) > longestSaid:
		return fmt.Errorf("%s is longer than %d bytes", s.Said.Key, longestSaid)
	}
	if _, err := texts.Parse(s.Said.Is); err != nil {
		return fmt.Errorf("%s: %w", s.Said.Key, err)
	}
	translations.set(t, s.Said, s.At, false)
	return nil
}

func (s *Untranslate) apply(t *taking) error {
	if _, ok := translations.take(t, s.Said.Address()); !ok {
		return fmt.Errorf("%s is not said in %q", s.Said.Key, s.Said.Language)
	}
	return nil
}
