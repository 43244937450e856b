package texts

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
)

// Line is one text of a file.
type Line struct{ Key, Is string }

// largest bounds a file of texts, in bytes; most its texts.
const (
	largest = 8 << 20
	most    = 50_000
)

// Write writes a file of texts: a JSON object of messages by keys, one a line.
func Write(lines []Line) []byte {
	var b bytes.Buffer
	b.WriteByte('{')
	for i, l := range lines {
		if i > 0 {
			b.WriteByte(',')
		}
		b.WriteString("\n  " + quoted(l.Key) + ": " + quoted(l.Is))
	}
	if len(lines) > 0 {
		b.WriteByte('\n')
	}
	b.WriteString("}\n")
	return b.Bytes()
}

func quoted(s string) string {
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	if err := enc.Encode(s); err != nil { // a text always can be
		return `""`
	}
	return string(bytes.TrimRight(b.Bytes(), "\n"))
}

// ReadFile reads a file of texts. Objects within the object are read as keys joined by dots, as
// tools for translators write them.
func ReadFile(data []byte) ([]Line, error) {
	if len(data) > largest {
		return nil, fmt.Errorf("the file has more than %d MB", largest>>20)
	}
	dec := json.NewDecoder(bytes.NewReader(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))))
	dec.UseNumber()
	var out []Line
	met := map[string]bool{}
	var object func(at string, depth int) error
	object = func(at string, depth int) error {
		for dec.More() {
			tok, err := dec.Token()
			if err != nil {
				return err
			}
			key, _ := tok.(string)
			if at != "" {
				key = at + "." + key
			}
			tok, err = dec.Token()
			if err != nil {
				return err
			}
			switch v := tok.(type) {
			case string:
				if met[key] {
					return fmt.Errorf("%s stands twice", key)
				}
				if len(out) == most {
					return fmt.Errorf("there are more than %d texts", most)
				}
				met[key] = true
				out = append(out, Line{key, v})
				continue
			case json.Delim:
				if v == '{' && depth < 20 {
					if err := object(key, depth+1); err != nil {
						return err
					}
					continue
				}
			}
			return fmt.Errorf("%s is no text", key)
		}
		_, err := dec.Token()
		return err
	}
	tok, err := dec.Token()
	if err == nil && tok != json.Delim('{') {
		err = fmt.Errorf("it is no object of texts by keys")
	}
	if err == nil {
		err = object("", 0)
	}
	if err == nil && dec.More() {
		err = fmt.Errorf("something stands behind the object")
	}
	if err != nil {
		return nil, fmt.Errorf("this cannot be read at byte %d: %w", dec.InputOffset(), err)
	}
	return out, nil
}

// Lines are the texts in a language, as its file has them: those that it says, and all of the one
// that they are written in.
func Lines(list []Text, language, written string, said []Said) []Line {
	out := []Line{}
	table := Beside(list, language, said)
	for i := range list {
		if language == written {
			out = append(out, Line{list[i].Key, list[i].Message})
		} else if s := table.Of(&list[i]); s != nil {
			out = append(out, Line{list[i].Key, s.Is})
		}
	}
	return out
}

// Took is what a file brings to a language.
type Took struct {
	Said    []Said    `json:"-"`       // new, or otherwise than before
	New     int       `json:"new"`     // texts that were not said
	Other   int       `json:"other"`   // said otherwise before
	Same    int       `json:"same"`    // said so already
	Written int       `json:"written"` // of all: as they are written
	Missing int       `json:"missing"` // texts that neither the file nor the language says
	Unknown []string  `json:"unknown"` // keys of no text
	Wrong   []Problem `json:"wrong"`   // not taken, or taken and doubtful
}

// Take holds a file of texts against the texts that there are.
func Take(list []Text, language string, said []Said, file []Line) Took {
	out := Took{Unknown: []string{}, Wrong: []Problem{}}
	from := make([]Said, len(file))
	for i, l := range file {
		from[i] = Said{Language: language, Key: l.Key, Is: l.Is}
	}
	has, brings := Beside(list, language, said), Beside(list, language, from)
	for _, s := range brings.Lost {
		out.Unknown = append(out.Unknown, s.Key)
	}
	for i := range list {
		t := &list[i]
		before, now := has.Of(t), brings.Of(t)
		if now == nil || strings.TrimSpace(now.Is) == "" { // tools write what is not translated as nothing
			if before == nil {
				out.Missing++
			}
			continue
		}
		_, warning, err := t.Read(now.Is)
		if err != nil {
			out.Wrong = append(out.Wrong, Problem{t.Key, err.Error(), true})
			if before == nil {
				out.Missing++
			}
			continue
		}
		if warning != "" {
			out.Wrong = append(out.Wrong, Problem{t.Key, warning, false})
		}
		if now.Is == t.Message {
			out.Written++
		}
		switch {
		case before == nil:
			out.New++
		case before.Is == now.Is && before.Of == t.Message:
			out.Same++
			continue
		case before.Is == now.Is:
			out.Same++
		default:
			out.Other++
		}
		out.Said = append(out.Said, Said{language, t.Key, now.Is, t.Message})
	}
	return out
}

// Entry is a text beside what a language says for it.
type Entry struct {
	*Text
	Is string `json:"is,omitempty"`
	// Was is the message that it was made of, where that is another now.
	Was string `json:"was,omitempty"`
	// Wrong is why it is not shown, Doubt what is likely forgotten.
	Wrong string `json:"wrong,omitempty"`
	Doubt string `json:"doubt,omitempty"`
	// Like is what the language says for the same words elsewhere, where it says nothing here.
	Like string `json:"like,omitempty"`
}

// Entries puts what a language says beside each text.
func Entries(list []Text, t *Table) []Entry {
	like := map[string]string{}
	for i := range list {
		if s := t.Of(&list[i]); s != nil && s.Of == list[i].Message {
			if _, ok := like[s.Of]; !ok {
				like[s.Of] = s.Is
			}
		}
	}
	out := make([]Entry, len(list))
	for i := range list {
		e := Entry{Text: &list[i]}
		if s := t.Of(&list[i]); s != nil {
			e.Is = s.Is
			if s.Of != list[i].Message {
				e.Was = s.Of
			}
			_, doubt, err := list[i].Read(s.Is)
			e.Doubt = doubt
			if err != nil {
				e.Wrong = err.Error()
			}
		} else {
			e.Like = like[list[i].Message]
		}
		out[i] = e
	}
	return out
}

// Tally is how far a language is.
type Tally struct {
	Said    int `json:"said"`    // texts that it says, of all
	Changed int `json:"changed"` // of them, of words that are others now
	Wrong   int `json:"wrong"`   // of them, that cannot be shown
}

// Count tells how far a language is with texts.
func Count(entries []Entry) (t Tally) {
	for i := range entries {
		switch e := &entries[i]; {
		case e.Is == "":
			continue
		case e.Wrong != "":
			t.Wrong++
		case e.Was != "":
			t.Changed++
		}
		t.Said++
	}
	return t
}

// Open tells whether something is to be done about a text: it is not said, cannot be shown, or was said
// of other words.
func (e *Entry) Open() bool { return e.Is == "" || e.Wrong != "" || e.Was != "" }
