package source_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/source"
)

func TestTheLanguageOfAFileIsInItsPath(t *testing.T) {
	for file, want := range map[string]string{
		"src/locales/en.json":               "en",
		"src/locales/en-US/common.json":     "en-US",
		"public/i18n/pt_BR.json":            "pt-BR",
		"lang/zh-Hans.ts":                   "zh-Hans",
		"src/translations/common.de.json":   "de",
		"src/lang/english.js":               "en",
		"src/locales/common.json":           "",
		"src/locales/ui.json":               "",
		"src/i18n.ts":                       "",
		"packages/web/src/messages/fr/a.ts": "fr",
	} {
		tag, ok := source.LanguageOf(file)
		assert.True(t, ok, file)
		assert.Equal(t, want, tag, file)
	}
	for _, file := range []string{"src/en/page.ts", "src/slang/a.ts", "src/localesque.ts", "src/api.ts"} {
		_, ok := source.LanguageOf(file)
		assert.False(t, ok, file)
	}
}

func TestOneLanguageIsPicked(t *testing.T) {
	of := func(list ...source.TextFile) (out []string) {
		for _, f := range source.Languages(list) {
			out = append(out, f.File)
		}
		return out
	}
	en, us, de := source.TextFile{File: "en", Language: "en", Weight: 40}, source.TextFile{File: "us", Language: "en-US", Weight: 10}, source.TextFile{File: "de", Language: "de", Weight: 100}
	none := source.TextFile{File: "none", Weight: 1}
	assert.Equal(t, []string{"en", "us", "none"}, of(en, us, de, none))
	en.Weight = 10
	assert.Equal(t, []string{"de", "none"}, of(en, us, de, none), "what was hardly begun is no language of the team's")
	assert.Equal(t, []string{"none"}, of(none))
	assert.Empty(t, of())
}
