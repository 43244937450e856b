package kit_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/internal/testkit"
)

func readKit(t *testing.T, members, tokens string) *kit.Kit {
	k, err := kit.Read(
		kit.Sources{
			Name:     "k",
			Version:  "1",
			Manifest: []byte(`{"modules":[{"declarations":[` + members + `]}]}`),
			Tokens:   []byte(tokens),
		},
	)
	require.NoError(t, err)
	return k
}

func TestVersionsAreComparedInWords(t *testing.T) {
	component := `{"tagName":"x-%s","members":[{"kind":"field","name":"size","attribute":"size","type":{"text":%q},"default":%q}%s],"slots":[{"name":""}%s],"events":[%s]}`
	older := readKit(
		t,
		fmt.Sprintf(
			component,
			"a",
			"'s' | 'm'",
			"'m'",
			`,{"kind":"field","name":"old","attribute":"old","type":{"text":"string"}}`,
			`,{"name":"end"}`,
			`{"name":"x-go"}`,
		)+`,{"tagName":"x-b"}`,
		`{"c":{"$type":"color","a":{"$value":"#111111"},"b":{"$value":"#222222"}}}`,
	)
	newer := readKit(
		t,
		fmt.Sprintf(
			component,
			"a",
			"'m' | 'l'",
			"'l'",
			`,{"kind":"field","name":"new","attribute":"new","type":{"text":"string"}}`,
			`,{"name":"start"}`,
			"",
		)+`,{"tagName":"x-c"}`,
		`{"c":{"$type":"color","a":{"$value":"#333333"},"d":{"$value":"#444444"}}}`,
	)
	var words []string
	breaks := 0
	for _, d := range kit.Compare(older, newer) {
		words = append(words, strings.TrimSpace(d.Component+" "+d.String()))
		if d.Breaks {
			breaks++
		}
	}
	assert.Equal(t, []string{
		"x-a prop new is new", "x-a prop old is gone", "x-a default of size is l, was m", "x-a value size l is new", "x-a value size s is gone",
		"x-a slot the slot start is new", "x-a slot the slot end is gone", "x-a event x-go is gone",
		"x-c c is new", "x-b b is gone",
		"token c.d is new", "token c.b is gone", "token c.a in light is #333333, was #111111",
	}, words)
	assert.Equal(t, 6, breaks)
	assert.Empty(t, kit.Compare(older, older), "nothing differs from itself")
}

func TestTheDemoKitHasAVersionAfterThisOne(t *testing.T) {
	dir := filepath.Join(testkit.Root(), "kits/sorrel/.next")
	read := func(name string) []byte {
		b, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		return b
	}
	pkg, err := kit.ReadPackage(read("package.json"))
	require.NoError(t, err)
	assert.Equal(t, "1.1.0", pkg.Version)
	newer, err := kit.Read(
		kit.Sources{
			Name:     pkg.Name,
			Version:  pkg.Version,
			Manifest: read("custom-elements.json"),
			Notes:    read("sorrel.notes.json"),
			Tokens:   read("sorrel.tokens.json"),
			Icons:    read("icons.json"),
		},
	)
	require.NoError(t, err)
	var words []string
	for _, d := range kit.Compare(testkit.Sorrel(t), newer) {
		words = append(words, d.String())
	}
	assert.ElementsMatch(
		t,
		[]string{
			"timeline is new",
			"moment is new",
			"tag is gone",
			"prop color is gone",
			"prop size is new",
			"default of density is tight, was roomy",
			"token color.shade is new",
			"token color.accent in light is #175463, was #1E5F6E",
			"token color.accent in compact is #175463, was #1E5F6E",
			"token radius.box in light is 8px, was 10px",
			"token radius.box in dark is 8px, was 10px",
			"token radius.box in compact is 8px, was 10px",
			"icon rain is new",
			"icon bench is new",
		},
		words,
		"the change log says the same",
	)
}
