package kit

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/jsonread"
)

// Snippet is a whole arrangement that is made from a model or from the routes of an
// application: a form of its fields, a table of its records, a bar of places.
type Snippet struct {
	ID    string
	Title string   // with {one}, {many}
	Words []string // by which it is found besides
	Of    string   // "model", "routes" or "field"
	Tree  Template
	// Within, of a snippet for a field, is the component in which it is offered where
	// something in it repeats over a model; Beside then comes to stand in what repeats.
	Within string
	Beside *Template
	// Page is how many records stand on a page: above zero what repeats over the model is
	// filtered and ordered by the controls of the snippet, and shown in pages.
	Page int
}

// Template is an element of a snippet. Its texts may hold {one}, {many} and {model},
// {naming} and {figure} for what a record is called by and the first number that it holds;
// inside an each of fields {field}, {label}, {choices}, {required}, the limits {least} and
// {most}, both in words as {limits}, the choices as JSON too, {choiceList} of texts and {choicePairs}
// of objects with value and label, and of money {currency} and {decimals}; inside an
// each of routes {route} and {title}. In a snippet with pages {list} and {page} are the
// names by which counts and pages are spoken of, {orders} the orders to choose from. What
// is empty then, or none of a prop's choices, is
// not set.
type Template struct {
	Type     string // none of an each of fields that is made as the first of its children that is for the type
	Slot     string
	Text     string
	Props    map[string]string
	Each     string   // "fields" or "routes": made once for each
	Only     []string // types of fields that it is for; of siblings with Only the first that fits is taken
	Except   []string // types of fields, or "computed"
	Skip     int      // of each, so many are left out at first
	Take     int      // of each, at most so many; 0 is all
	Repeat   bool     // repeated over the model's records
	Over     string   // repeated over a list that the record around holds: "record.{field}"
	Value    bool     // shows the field's value, as the team's screens show it
	Without  bool     // shows only where there are no records
	Children []Template
	// Name makes it a control that lists follow: "search", "order", "page", or "{field}" to
	// filter by that field. It comes to be called so, or as near as is free; in it {name} is
	// what it is called.
	Name string
	Like string // in place of it stands the tree of the snippet with this id
}

func readSnippet(r *jsonread.Reader) (Snippet, error) {
	var s Snippet
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "id":
			s.ID, err = r.String()
		case "title":
			s.Title, err = r.String()
		case "words":
			s.Words, err = r.Strings()
		case "of":
			s.Of, err = r.OneOf("model", "routes", "field")
		case "within":
			s.Within, err = r.String()
		case "beside":
			var t Template
			t, err = readTemplate(r)
			s.Beside = &t
		case "page":
			s.Page, err = r.Int()
		case "tree":
			s.Tree, err = readTemplate(r)
		default:
			err = r.Unknown(key, "id", "title", "words", "of", "page", "within", "beside", "tree")
		}
		return err
	})
	if err == nil && (s.ID == "" || s.Title == "" || s.Of == "" || s.Tree.Type == "") {
		err = r.Fail("id, title, of and tree", "the snippet is not whole")
	}
	if err == nil && (s.Of == "field") != (s.Within != "") {
		err = r.Fail("within, for a snippet of a field", "the snippet does not say where it is offered")
	}
	return s, err
}

func readTemplate(r *jsonread.Reader) (Template, error) {
	var t Template
	texts := map[string]*string{
		"type": &t.Type,
		"slot": &t.Slot,
		"text": &t.Text,
		"over": &t.Over,
		"name": &t.Name,
		"like": &t.Like,
	}
	lists := map[string]*[]string{"only": &t.Only, "except": &t.Except}
	flags := map[string]*bool{"repeat": &t.Repeat, "value": &t.Value, "without": &t.Without}
	err := r.Object(func(key string) error {
		var err error
		if target, ok := texts[key]; ok {
			*target, err = r.String()
			return err
		}
		if target, ok := lists[key]; ok {
			*target, err = r.Strings()
			return err
		}
		if target, ok := flags[key]; ok {
			*target, err = r.Bool()
			return err
		}
		switch key {
		case "skip":
			t.Skip, err = r.Int()
		case "take":
			t.Take, err = r.Int()
		case "each":
			t.Each, err = r.OneOf("fields", "routes")
		case "props":
			t.Props = map[string]string{}
			err = r.Object(func(name string) error {
				v, err := r.String()
				t.Props[name] = v
				return err
			})
		case "children":
			err = r.Array(func(int) error {
				c, err := readTemplate(r)
				t.Children = append(t.Children, c)
				return err
			})
		default:
			err = r.Unknown(
				key,
				"type",
				"slot",
				"text",
				"props",
				"each",
				"only",
				"except",
				"skip",
				"take",
				"repeat",
				"over",
				"name",
				"like",
				"value",
				"without",
				"children",
			)
		}
		return err
	})
	return t, err
}

// check says what in a snippet the kit does not have.
func (s *Snippet) check(k *Kit) error {
	var walk func(t *Template) error
	walk = func(t *Template) error {
		if t.Like != "" {
			i := slices.IndexFunc(k.Snippets, func(o Snippet) bool { return o.ID == t.Like })
			if i < 0 || k.Snippets[i].ID == s.ID || k.Snippets[i].Of != s.Of {
				return fmt.Errorf("snippet %s: there is no other snippet %q of a %s", s.ID, t.Like, s.Of)
			}
			slot := t.Slot
			*t = k.Snippets[i].Tree
			t.Slot = slot
			if t.Like != "" {
				return fmt.Errorf("snippet %s: %s is like another itself", s.ID, k.Snippets[i].ID)
			}
		}
		c, ok := k.Component(t.Type)
		if !ok && (t.Type != "" || t.Each != "fields") {
			return fmt.Errorf("snippet %s: the kit has no component %q", s.ID, t.Type)
		}
		for _, name := range slices.Sorted(maps.Keys(t.Props)) {
			if _, ok := c.Prop(name); !ok {
				return fmt.Errorf("snippet %s: %s has no prop %q", s.ID, t.Type, name)
			}
		}
		for i := range t.Children {
			if err := walk(&t.Children[i]); err != nil {
				return err
			}
		}
		return nil
	}
	if s.Within != "" {
		if _, ok := k.Component(s.Within); !ok {
			return fmt.Errorf("snippet %s: the kit has no component %q", s.ID, s.Within)
		}
	}
	if s.Beside != nil {
		if err := walk(s.Beside); err != nil {
			return err
		}
	}
	return walk(&s.Tree)
}

// Any tells whether it, or a template in it, is such.
func (t *Template) Any(is func(t *Template) bool) bool {
	if is(t) {
		return true
	}
	for i := range t.Children {
		if t.Children[i].Any(is) {
			return true
		}
	}
	return false
}

// Says tells whether a text or a setting of the template itself holds words.
func (t *Template) Says(words string) bool {
	if strings.Contains(t.Text, words) {
		return true
	}
	for _, v := range t.Props {
		if strings.Contains(v, words) {
			return true
		}
	}
	return false
}

// Fill puts words in the place of {names}. What has no word stays.
func Fill(text string, words map[string]string) string {
	if !strings.Contains(text, "{") {
		return text
	}
	pairs := make([]string, 0, 2*len(words))
	for _, name := range slices.Sorted(maps.Keys(words)) {
		pairs = append(pairs, "{"+name+"}", words[name])
	}
	return strings.NewReplacer(pairs...).Replace(text)
}
