package api

import (
	"fmt"
	"strings"

	"github.com/gofiber/fiber/v3"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/texts"
)

type textsIn struct {
	Language string `query:"language" json:"-"` // empty, or that which they are written in, shows the texts alone
}

// LanguageView is a language that the texts are in.
type LanguageView struct {
	ID        string `json:"id"`
	Name      string `json:"name"`      // in English and in itself
	Direction string `json:"direction"` // ltr or rtl
	Written   bool   `json:"written"`   // the texts are written in it
	texts.Tally
}

type textsOut struct {
	Languages []LanguageView `json:"languages"` // the one that they are written in first
	Texts     []texts.Entry  `json:"texts"`
	Lost      []texts.Said   `json:"lost"` // said of no text
	Left      []texts.Left   `json:"left"` // what people read that is no text of its own
}

// texts are all texts of the screens, beside what a language says for them.
func (s *Server) texts(c *Call, in *textsIn) (*textsOut, error) {
	out := &textsOut{Lost: []texts.Said{}}
	if in.Language != "" {
		if err := texts.Check(in.Language); err != nil {
			return nil, bad("%s", err)
		}
	}
	return out, s.onScene(c.Context(), func(l *live.Scene) error {
		list, left := l.Texts()
		out.Left = append([]texts.Left{}, left...)
		written := l.W.Written()
		out.Languages = []LanguageView{{ID: written, Name: texts.Name(written), Direction: texts.Direction(written), Written: true, Tally: texts.Tally{Said: len(list)}}}
		for _, id := range l.W.Translated() {
			view := LanguageView{ID: id, Name: texts.Name(id), Direction: texts.Direction(id)}
			view.Tally = texts.Count(texts.Entries(list, texts.Beside(list, id, l.W.Translations)))
			out.Languages = append(out.Languages, view)
		}
		table := texts.Beside(list, in.Language, l.W.Translations)
		out.Texts = texts.Entries(list, table)
		out.Lost = append(out.Lost, table.Lost...)
		return nil
	})
}

type sayIn struct {
	Language string `json:"language"`
	Key      string `json:"key"`
	Is       string `json:"is"` // an ICU message; empty says nothing any more
	Client   string `json:"client,omitempty"`
}

// say says a text in a language.
func (s *Server) say(c *Call, in *sayIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		list, _ := l.Scene().Texts()
		if strings.TrimSpace(in.Is) == "" {
			for _, said := range l.W.Translations {
				if said.Language == in.Language && said.Key == in.Key {
					return change.Change{Title: "No longer said in " + in.Language + ": " + in.Key, Steps: []change.Step{&change.Untranslate{Said: said}}}, nil
				}
			}
			return change.Change{}, missing("text " + in.Key + " in " + in.Language)
		}
		for i := range list {
			t := &list[i]
			if t.Key != in.Key {
				continue
			}
			if _, _, err := t.Read(in.Is); err != nil {
				return change.Change{}, bad("%s", err)
			}
			return change.Change{
				Title: fmt.Sprintf("%s in %s", in.Key, in.Language),
				Steps: []change.Step{&change.Translate{Said: texts.Said{Language: in.Language, Key: t.Key, Is: in.Is, Of: t.Message}}},
			}, nil
		}
		return change.Change{}, missing("text " + in.Key)
	})
}

type languageIn struct {
	ID      string `json:"id"`
	Drop    bool   `json:"drop,omitempty"`    // with all that is said in it
	Written bool   `json:"written,omitempty"` // the screens are written in it
	Client  string `json:"client,omitempty"`
}

// language adds a language, takes one away, or says which one the screens are written in.
func (s *Server) language(c *Call, in *languageIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		if in.Drop {
			return l.LeaveLanguage(in.ID), nil
		}
		out := change.Change{Title: "Texts in " + texts.Name(in.ID)}
		if in.Written {
			out.Title = "The screens are written in " + texts.Name(in.ID)
			if was := l.W.Written(); was != in.ID {
				for _, lang := range l.W.Languages {
					if lang.Written {
						out.Steps = append(out.Steps, &change.DropLanguage{Language: lang})
					}
				}
			}
		} else if in.ID == l.W.Written() {
			return out, bad("the texts are written in %s already", texts.Name(in.ID))
		}
		out.Steps = append(out.Steps, &change.PutLanguage{Language: texts.Language{ID: in.ID, Written: in.Written}})
		return out, nil
	})
}

type textFileIn struct {
	Language string `json:"language"`
	Text     string `json:"text"`           // of the file, a JSON object
	Look     bool   `json:"look,omitempty"` // tell what it brings, take nothing
	Client   string `json:"client,omitempty"`
}

type textFileOut struct {
	texts.Took
	Change *changeOut `json:"change,omitempty"`
}

// takeFile takes a file of texts into a language, or tells what it would bring.
func (s *Server) takeFile(c *Call, in *textFileIn) (*textFileOut, error) {
	lines, err := texts.ReadFile([]byte(in.Text))
	if err != nil {
		return nil, bad("%s", err)
	}
	out := &textFileOut{}
	if in.Look {
		return out, s.onScene(c.Context(), func(l *live.Scene) error {
			if _, out.Took, err = l.TakeTexts(in.Language, lines); err != nil {
				return bad("%s", err)
			}
			return nil
		})
	}
	out.Change, err = s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		made, took, err := l.Scene().TakeTexts(in.Language, lines)
		if out.Took = took; err != nil {
			return made, bad("%s", err)
		}
		if len(made.Steps) == 0 {
			return made, bad("the file brings nothing new")
		}
		return made, nil
	})
	return out, err
}

// textFile sends the texts in a language as a file.
func (s *Server) textFile(c fiber.Ctx) error {
	language := strings.Clone(c.Query("language"))
	var lines []texts.Line
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		if language == "" {
			language = l.W.Written()
		}
		if err := texts.Check(language); err != nil {
			return bad("%s", err)
		}
		list, _ := l.Texts()
		lines = texts.Lines(list, language, l.W.Written(), l.W.Translations)
		return nil
	})
	if err != nil {
		return err
	}
	c.Set("Content-Type", "application/json")
	c.Set("Content-Disposition", `attachment; filename="`+language+`.json"`)
	return c.Send(texts.Write(lines))
}
