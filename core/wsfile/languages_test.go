package wsfile_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/texts"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
)

func TestLanguagesOfAFileAreHeldAgainstEachOther(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	german := []texts.Language{{ID: "de"}}
	for why, make := range map[string]func(){
		"/languages/0/id: ":                           func() { w.Languages = []texts.Language{{ID: "German"}} },
		"the language de stands twice":                func() { w.Languages = []texts.Language{{ID: "de"}, {ID: "de"}} },
		"the texts are written in one language":       func() { w.Languages = []texts.Language{{ID: "de", Written: true}, {ID: "fr", Written: true}} },
		`/translations/0/language: the texts are not`: func() { w.Languages, w.Translations = german, []texts.Said{{Language: "fr", Key: "a", Is: "b"}} },
		"a } is missing": func() {
			w.Languages, w.Translations = german, []texts.Said{{Language: "de", Key: "a", Is: "{n, select, other {"}}
		},
		"/translations/1/key: a is said twice in de": func() {
			w.Languages, w.Translations = german, []texts.Said{{Language: "de", Key: "a", Is: "b"}, {Language: "de", Key: "a", Is: "c"}}
		},
	} {
		w.Languages, w.Translations = nil, nil
		make()
		_, err := wsfile.Read(wsfile.Write(w))
		assert.ErrorContains(t, err, why)
	}
}
