package deliver_test

import (
	"encoding/json"
	"maps"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/deliver/targets"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/translated"
)

var saying = regexp.MustCompile(`'((?:screens|shells|pieces)\.[^'\s]+\.[^'\s]+)'`)

// Whatever the code says stands in the file, and whatever stands there is said.
func TestCodeSaysTheTextsOfItsFiles(t *testing.T) {
	for _, target := range targets.All() {
		w, err := wsfile.Read(testkit.Demo(t))
		require.NoError(t, err)
		l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
		translated.Into(l.W, model.NewCatalog(l.Kit, l.W), "de", func(key string) bool { return strings.HasPrefix(key, "shells.") })
		for i := range l.W.Translations {
			if l.W.Translations[i].Key == "screens.forgot.title" {
				l.W.Translations[i].Is = "{x}"
			}
		}
		in, err := l.DeliverInput("ops", nil, kitFiles)
		require.NoError(t, err)
		l.WithTexts(&in)
		files, notes, err := target.Deliver(in)
		require.NoError(t, err)
		told := ""
		for _, n := range notes {
			told += n.Message + "\n"
		}
		assert.Regexp(t, `in German \(Deutsch\), \d+ of \d+ texts are not said`, told)
		assert.Contains(t, told, "screens.forgot.title is shown as it is written, in German (Deutsch) as well: there is no value x")
		assert.Contains(t, told, "are no texts of their own")
		said := map[string]bool{}
		written, other := map[string]string{}, map[string]string{}
		german := 0
		for _, f := range files {
			switch {
			case strings.HasSuffix(f.Path, "texts/en.json"):
				require.NoError(t, json.Unmarshal(f.Data, &written))
			case strings.HasSuffix(f.Path, "texts/de.json"):
				require.NoError(t, json.Unmarshal(f.Data, &other))
			case strings.HasPrefix(f.Path, "de/") && strings.HasSuffix(f.Path, ".html"):
				german++
				assert.Contains(t, string(f.Data), `<html lang="de"`)
			}
			for _, m := range saying.FindAllStringSubmatch(string(f.Data), -1) {
				said[m[1]] = true
			}
		}
		assert.NotEmpty(t, written)
		for key := range other {
			assert.False(t, strings.HasPrefix(key, "shells."), "what is not translated stands in no file")
			assert.Contains(t, written, key)
		}
		if target.Framework == "" {
			assert.Positive(t, german, "plain pages are written in each language")
			continue
		}
		keys := slices.Sorted(maps.Keys(written))
		unsaid := slices.DeleteFunc(slices.Clone(keys), func(k string) bool { return said[k] })
		assert.Empty(t, unsaid, "%s: in the file, and said nowhere", target.ID)
		for key := range said {
			assert.Contains(t, written, key, "%s: said, and in no file", target.ID)
		}
	}
}
