package deliver

import (
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// Texts are those that a delivery has in files of their own, one a language, instead of in its
// code.
type Texts struct {
	Written string       // the language that they are written in
	List    []texts.Text // of what is delivered, in its order
	// Others are the languages that they are translated into, Is what they are there, by language
	// and key; what is missing is shown as it is written.
	Others []string
	Is     map[string]map[string]string
	// Notes say what is not translated, and what cannot be.
	Notes []Note

	at map[textPlace]int
}

type textPlace struct {
	doc, element, prop string
	value              screen.Value
}

// Find is the text that stands at a prop of an element, or is its text where the prop is empty,
// with a value; nil where that is none.
func (t *Texts) Find(d *screen.Document, element, prop string, v screen.Value) *texts.Text {
	if t == nil || d == nil {
		return nil
	}
	if t.at == nil {
		t.at = make(map[textPlace]int, len(t.List))
		for i := range t.List {
			x := &t.List[i]
			p := textPlace{x.Doc, x.Element, x.Prop, x.Value()}
			if _, ok := t.at[p]; !ok {
				t.at[p] = i
			}
		}
	}
	if prop == "" {
		prop = "text"
	}
	if i, ok := t.at[textPlace{d.Address(), element, prop, v}]; ok {
		return &t.List[i]
	}
	return nil
}

// TextsFolder is where the files of texts stand.
const TextsFolder = "texts/"

// Files are the files of texts, one a language: messages by keys, in the order of the screens.
func (t *Texts) Files() (files []File) {
	for _, language := range append([]string{t.Written}, t.Others...) {
		files = append(files, File{Path: TextsFolder + language + ".json", Data: t.File(language)})
	}
	return files
}

// File is what the texts are in a language, as JSON.
func (t *Texts) File(language string) []byte {
	var lines []texts.Line
	for i := range t.List {
		message, ok := t.List[i].Message, true
		if language != t.Written {
			message, ok = t.Is[language][t.List[i].Key]
		}
		if ok {
			lines = append(lines, texts.Line{Key: t.List[i].Key, Is: message})
		}
	}
	return texts.Write(lines)
}
