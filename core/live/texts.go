package live

import (
	"fmt"
	"slices"

	"ubiquant/core/change"
	"ubiquant/core/texts"
)

// Texts are all texts of the workspace, and what people read that is none.
func (s *Scene) Texts() ([]texts.Text, []texts.Left) { return texts.List(s.W.Texts(s.Cat)) }

// unsaid is what languages lack of each document, in words: texts that are not said, that cannot be
// shown, or that were said of other words.
func (s *Scene) unsaid() map[string][]string {
	s.missingOnce.Do(func() {
		s.missing = map[string][]string{}
		languages := s.W.Translated()
		if len(languages) == 0 {
			return
		}
		list, _ := s.Texts()
		for _, language := range languages {
			lacks := map[string]int{}
			for _, e := range texts.Entries(list, texts.Beside(list, language, s.W.Translations)) {
				if e.Open() {
					lacks[e.Doc]++
				}
			}
			for doc, n := range lacks {
				words := "1 text is not said"
				if n > 1 {
					words = fmt.Sprintf("%d texts are not said", n)
				}
				s.missing[doc] = append(s.missing[doc], words+" in "+texts.Name(language))
			}
		}
	})
	return s.missing
}

// TakeTexts is the change by which a file of texts is taken into a language, which is added where
// the texts are not in it yet, with what the file brings.
func (s *Scene) TakeTexts(language string, file []texts.Line) (change.Change, texts.Took, error) {
	out := change.Change{Title: "Texts in " + texts.Name(language)}
	if err := texts.Check(language); err != nil {
		return out, texts.Took{}, err
	}
	if language == s.W.Written() {
		return out, texts.Took{}, fmt.Errorf("the texts are written in %s; they are changed on the screens", texts.Name(language))
	}
	list, _ := s.Texts()
	took := texts.Take(list, language, s.W.Translations, file)
	if len(took.Said) > 0 && !slices.Contains(s.W.Translated(), language) {
		out.Steps = append(out.Steps, &change.PutLanguage{Language: texts.Language{ID: language}})
	}
	for _, said := range took.Said {
		out.Steps = append(out.Steps, &change.Translate{Said: said})
	}
	return out, took, nil
}

// LeaveLanguage is the change by which the texts are no longer in a language: what is said in it
// goes along.
func (l *Live) LeaveLanguage(language string) change.Change {
	out := change.Change{Title: "No texts in " + texts.Name(language)}
	for _, s := range l.W.Translations {
		if s.Language == language {
			out.Steps = append(out.Steps, &change.Untranslate{Said: s})
		}
	}
	out.Steps = append(out.Steps, &change.DropLanguage{Language: texts.Language{ID: language}})
	return out
}
