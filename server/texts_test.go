package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type textOf struct {
	Key, Doc, Message, Is, Was, Wrong, Doubt, Like string
}

type textsOf struct {
	Languages []struct {
		ID, Name             string
		Written              bool
		Said, Changed, Wrong int
	}
	Texts []textOf
	Lost  []struct{ Key string }
	Left  []struct{ Doc, Prop, Why string }
}

func textsIn(t *testing.T, p *person, language string) (out textsOf) {
	t.Helper()
	require.Equal(t, 200, p.get("/api/texts?language="+language, &out))
	return out
}

func (o textsOf) at(t *testing.T, key string) textOf {
	t.Helper()
	for _, x := range o.Texts {
		if x.Key == key {
			return x
		}
	}
	require.Fail(t, "no text", key)
	return textOf{}
}

// A language is added, texts are said in it, one by one and by a file; they are shown in it, what
// changed since is told, undo takes it back, and those who read change nothing.
func TestTextsAreSaidInAnotherLanguage(t *testing.T) {
	r := start(t)
	noor, lise := signIn(t, r, "noor"), signIn(t, r, "lise")
	written := textsIn(t, noor, "")
	require.Len(t, written.Languages, 1)
	assert.True(t, written.Languages[0].Written)
	assert.Equal(t, len(written.Texts), written.Languages[0].Said)
	assert.NotEmpty(t, written.Left)

	var said struct{ Seq int64 }
	say := func(p *person, key, is string) int {
		return p.post("/api/texts/say", object{"language": "de", "key": key, "is": is}, &said)
	}
	const header, button = "screens.tickets.page-header-5.text", "screens.tickets.button-6.text"
	assert.Equal(t, 403, lise.post("/api/texts/language", object{"id": "de"}, nil))
	assert.Equal(t, 422, noor.post("/api/texts/language", object{"id": "German"}, nil))
	assert.Equal(t, 422, say(noor, button, "Neu"), "the language comes first")
	require.Equal(t, 200, noor.post("/api/texts/language", object{"id": "de"}, nil))
	assert.Equal(t, 403, say(lise, button, "Neu"))
	assert.Equal(t, 422, say(noor, header, "{wo}"), "a value that is not there")
	assert.Equal(t, 404, say(noor, "screens.gone.title", "Weg"))
	require.Equal(t, 200, say(noor, header, "{list, plural, one {# Auftrag} other {# Aufträge}}"))
	require.Equal(t, 200, say(noor, button, "Neuer Auftrag"))

	var pages struct{ Pages []struct{ HTML string } }
	show := func(language string) string {
		require.Equal(t, 200, lise.post("/api/pages", object{"docs": []string{"screen:tickets"}, "language": language}, &pages))
		return pages.Pages[0].HTML
	}
	assert.Contains(t, show("de"), "14 Aufträge")
	assert.Contains(t, show("de"), "Neuer Auftrag")
	assert.Contains(t, show("de"), "Any state", "what is not said stays")
	assert.Contains(t, show(""), "14 tickets")

	require.Equal(t, 200, noor.post("/api/texts/language", object{"id": "ar"}, nil))
	assert.Contains(t, show("ar"), ` dir="rtl"`)
	for _, other := range []string{"", "de", "he"} {
		assert.NotContains(t, show(other), ` dir="rtl"`, "%q runs from the left, or is not there", other)
	}
	require.Equal(t, 200, noor.post("/api/texts/language", object{"id": "ar", "drop": true}, nil))

	// What is written otherwise since is told, and what is removed.
	edit := func(edits ...object) {
		require.Equal(t, 200, noor.post("/api/changes", object{"change": object{
			"title": "x", "steps": []object{{"do": "edit", "doc": "screen:tickets", "edits": edits}},
		}}, &said))
	}
	edit(object{"op": "text", "id": "tickets-6", "value": "Add a ticket"})
	now := textsIn(t, noor, "de")
	assert.Equal(t, "New ticket", now.at(t, button).Was)
	assert.Equal(t, 1, now.Languages[1].Changed)
	edit(object{"op": "remove", "id": "tickets-6"})
	require.Len(t, textsIn(t, noor, "de").Lost, 1, "nothing that was said is dropped without a word")
	require.Equal(t, 200, noor.post("/api/changes/"+fmt.Sprint(said.Seq)+"/undo", object{}, nil))

	// A file: what it brings is told first.
	file, err := json.Marshal(map[string]string{"shells.staff.nav-item-4.text": "Heute", header: "{x", "nowhere": "y"})
	require.NoError(t, err)
	var took struct {
		New, Missing int
		Unknown      []string
		Wrong        []struct{ Key, Message string }
		Change       *struct{ Seq int64 }
	}
	require.Equal(t, 200, noor.post("/api/texts/file", object{"language": "de", "text": string(file), "look": true}, &took))
	assert.Equal(t, 1, took.New)
	assert.Equal(t, []string{"nowhere"}, took.Unknown)
	require.Len(t, took.Wrong, 1)
	assert.Nil(t, took.Change)
	assert.Empty(t, textsIn(t, noor, "de").at(t, "shells.staff.nav-item-4.text").Is)
	require.Equal(t, 200, noor.post("/api/texts/file", object{"language": "de", "text": string(file)}, &took))
	require.NotNil(t, took.Change)
	now = textsIn(t, noor, "de")
	assert.Equal(t, "Heute", now.at(t, "shells.staff.nav-item-4.text").Is)
	assert.Equal(t, "Heute", now.at(t, "screens.today.title").Like, "the same words elsewhere are offered")
	assert.Equal(t, 422, noor.post("/api/texts/file", object{"language": "de", "text": "[1]"}, nil))
	assert.Equal(t, 422, noor.post("/api/texts/file", object{"language": "en", "text": "{}"}, nil), "it is written in that")

	// It is delivered, and its file is what was said.
	var delivered struct {
		Files []struct{ Path, Text string }
	}
	require.Equal(t, 200, lise.post("/api/deliver", object{"target": "react", "screens": []string{"tickets"}}, &delivered))
	german := ""
	for _, f := range delivered.Files {
		if strings.HasSuffix(f.Path, "texts/de.json") {
			german = f.Text
		}
	}
	assert.Contains(t, german, `"`+button+`": "Neuer Auftrag"`)

	// The language goes with all that is said in it, and comes back with it.
	require.Equal(t, 200, noor.post("/api/texts/language", object{"id": "de", "drop": true}, &said))
	assert.Len(t, textsIn(t, noor, "").Languages, 1)
	require.Equal(t, 200, noor.post("/api/changes/"+fmt.Sprint(said.Seq)+"/undo", object{}, nil))
	assert.Equal(t, 3, textsIn(t, noor, "de").Languages[1].Said)
	assert.Equal(t, 422, noor.post("/api/texts/language", object{"id": "de", "written": true}, nil), "it is translated into it")
	require.Equal(t, 200, noor.post("/api/texts/language", object{"id": "fr", "written": true}, nil))
	assert.Equal(t, "fr", textsIn(t, noor, "de").Languages[0].ID)
}
