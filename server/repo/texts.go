package repo

import (
	"encoding/json"
	"fmt"

	"ubiquant/core/source"
)

// noteTexts notes a file of texts by their keys; it is read once it is clear which language is.
func (r *reader) noteTexts(name string, size int64) {
	if tag, ok := source.LanguageOf(name); ok {
		r.texts = append(r.texts, source.TextFile{File: name, Language: tag, Weight: int(size)})
	}
}

// textsOf are the texts that code asks for by their keys, in one language: those in files of
// JSON, and those in modules whose path or code says that they are texts.
func (r *reader) textsOf() *source.Texts {
	all := r.texts
	for _, f := range r.files {
		tag, located := source.LanguageOf(f.Path)
		for _, t := range f.Texts {
			if t.Under == "" && !located {
				continue
			}
			one := source.TextFile{File: f.Path, Language: tag, Of: t.Of}
			if t.Under != "" {
				one.Language = t.Under
			}
			for key, text := range t.Of {
				one.Weight += len(key) + len(text)
			}
			all = append(all, one)
		}
	}
	picked := source.Languages(all)
	out := picked[:0]
	for _, f := range picked {
		if f.Of == nil {
			var why error
			if f.Of, why = r.readTexts(f.File); why != nil {
				r.left = append(r.left, source.Left{File: f.File, What: "its texts are not read: " + why.Error()})
			}
		}
		if len(f.Of) > 0 {
			out = append(out, f)
		}
	}
	return source.NewTexts(out)
}

// readTexts reads texts in JSON by the names on the way to them.
func (r *reader) readTexts(name string) (map[string]string, error) {
	src, err := r.text(name, maxText)
	if err != nil {
		return nil, err
	}
	var tree any
	if err := json.Unmarshal(src, &tree); err != nil {
		return nil, fmt.Errorf("it is no JSON: %w", err)
	}
	out := map[string]string{}
	var walk func(prefix string, v any)
	walk = func(prefix string, v any) {
		switch v := v.(type) {
		case string:
			out[prefix] = v
		case map[string]any:
			for k, x := range v {
				switch {
				case k == "message" || k == "defaultMessage" || k == "string":
					walk(prefix, x)
				case prefix == "":
					walk(k, x)
				default:
					walk(prefix+"."+k, x)
				}
			}
		}
	}
	walk("", tree)
	delete(out, "")
	return out, nil
}
