package intake

import (
	"encoding/json"
	"path"
	"strings"
)

// exportsOf lists what a package's exports lead to, for a browser.
func exportsOf(raw json.RawMessage) map[string]string {
	out := map[string]string{}
	var paths map[string]json.RawMessage
	if json.Unmarshal(raw, &paths) == nil {
		for key, value := range paths {
			if strings.HasPrefix(key, ".") {
				if file := leads(value, 0); file != "" {
					out[key] = file
				}
			}
		}
	}
	if len(out) == 0 {
		if file := leads(raw, 0); file != "" {
			out["."] = file
		}
	}
	return out
}

// behind is the file that a path of the package stands for, by what it exports: under that path, or
// a pattern that fits; empty where it exports none such.
func (l *library) behind(key string) string {
	if file := l.exported[key]; file != "" {
		return file
	}
	for _, pattern := range sortedKeys(l.exported) {
		before, after, starred := strings.Cut(pattern, "*")
		if starred && strings.HasPrefix(key, before) && strings.HasSuffix(key, after) && len(key) > len(before)+len(after) {
			return strings.ReplaceAll(l.exported[pattern], "*", key[len(before):len(key)-len(after)])
		}
	}
	return ""
}

func leads(value json.RawMessage, depth int) string {
	var file string
	if json.Unmarshal(value, &file) == nil {
		return file
	}
	var list []json.RawMessage
	if json.Unmarshal(value, &list) == nil && len(list) > 0 && depth < 6 {
		return leads(list[0], depth+1)
	}
	var conditions map[string]json.RawMessage
	if depth > 5 || json.Unmarshal(value, &conditions) != nil {
		return ""
	}
	for _, name := range []string{"browser", "module", "import", "default", "require", "style", "sass", "types"} {
		if file := leads(conditions[name], depth+1); file != "" {
			return file
		}
	}
	return ""
}

// mainModule is what code imports for the main module; empty where there is none. A package that
// says what it exports gives nothing else: its main file may stand behind a path of its own.
func (l *library) mainModule() string {
	if len(l.exported) > 0 && l.exported["."] == "" {
		for _, file := range []string{l.pkg.Module, l.pkg.Main} {
			for _, key := range sortedKeys(l.exported) {
				if file != "" && path.Clean(l.exported[key]) == path.Clean(file) {
					return path.Join(l.pkg.Name, key)
				}
			}
		}
		return ""
	}
	if main := l.exported["."]; main != "" && l.inside(main) == "" && !strings.Contains(main, "*") {
		l.meta.Notes = append(l.meta.Notes, main+", which package.json calls its main module, is not in it")
		return ""
	}
	if l.exported["."] != "" || l.pkg.Main != "" || l.pkg.Module != "" || l.first("index.js", "index.mjs") != "" {
		return l.pkg.Name
	}
	return ""
}
