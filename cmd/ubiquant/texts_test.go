package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/wsfile"
)

// Texts leave as a file, come back translated, and are delivered; a repository that has them in files
// keeps them so, and what was translated there by hand is merged.
func TestTextsLeaveAndComeBack(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	text := func(name string) string {
		data, err := os.ReadFile(at(name))
		require.NoError(t, err)
		return string(data)
	}
	write := func(name, text string) {
		require.NoError(t, os.MkdirAll(filepath.Dir(at(name)), 0o755))
		require.NoError(t, os.WriteFile(at(name), []byte(text), 0o644))
	}
	src, err := os.ReadFile(demo)
	require.NoError(t, err)
	write("screens.json", string(src))
	out, code := run(t, "texts", at("screens.json"), "--left")
	require.Equal(t, 0, code, out)
	assert.Contains(t, out, "texts, written in English")
	assert.Contains(t, out, "a list whose values code goes by")

	require.Equal(t, 0, second(run(t, "texts", at("screens.json"), "--out", at("pl.json"))))
	write("pl.json", strings.NewReplacer(
		`"screens.sign-in.title": "Sign in"`, `"screens.sign-in.title": "Logowanie"`, `"Due {due}"`, `"{when}"`,
	).Replace(text("pl.json")))
	before := text("screens.json")
	out, code = run(t, "texts", at("screens.json"), "--take", at("pl.json"), "--dry-run")
	assert.Equal(t, exitFound, code)
	assert.Contains(t, out, "screens.ticket.page-header-7.text: not taken: there is no value when; known: due")
	assert.Equal(t, before, text("screens.json"), "nothing is written")
	out, code = run(t, "texts", at("screens.json"), "--take", at("pl.json"))
	assert.Equal(t, exitFound, code)
	assert.Contains(t, out, "Polish (polski): ")
	w, err := wsfile.Read([]byte(text("screens.json")))
	require.NoError(t, err)
	assert.Equal(t, []string{"pl"}, w.Translated())
	out, code = run(t, "texts", at("screens.json"))
	require.Equal(t, 0, code)
	assert.Contains(t, out, "Polish (polski): 1 missing")
	for _, bad := range [][]string{{"--take", at("nowhere.json")}, {"--take", at("screens.json")}, {"--out", "-", "--language", "Polish"}} {
		out, code = run(t, append([]string{"texts", at("screens.json")}, bad...)...)
		assert.Equal(t, exitBroken, code, out)
	}

	write("office/package.json", `{"dependencies":{"react":"19"}}`)
	into := func(workspace string, more ...string) (string, int) {
		return run(t, append([]string{"deliver", workspace, "--into", at("office"), "--screen", "sign-in,forgot", "--connect"}, more...)...)
	}
	const folder = "office/src/fernhollow-operations/"
	out, code = into(demo, "--texts")
	require.Equal(t, 0, code, out)
	assert.Contains(t, text("office/package.json"), "intl-messageformat")
	assert.Contains(t, text(folder+"screens/SignInScreen.tsx"), "t('screens.sign-in.")
	out, _ = into(demo, "--check")
	assert.NotContains(t, out, "older", "it is known that they stand in files")
	out, code = into(at("screens.json"))
	require.Equal(t, 0, code, out)
	assert.Contains(t, text(folder+"texts/pl.json"), `"screens.sign-in.title": "Logowanie"`)
	write(folder+"texts/pl.json", strings.Replace(text(folder+"texts/pl.json"), "Logowanie", "Zaloguj", 1))
	out, code = into(at("screens.json"))
	require.Equal(t, 0, code, out)
	assert.Contains(t, text(folder+"texts/pl.json"), "Zaloguj", "what was said in the repository stays")
}

func second(_ string, code int) int { return code }
