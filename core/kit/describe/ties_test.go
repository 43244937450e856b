package describe_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

func customs(t *testing.T, sheet, module string) map[string]describe.Custom {
	t.Helper()
	out := map[string]describe.Custom{}
	for _, c := range describe.Customs([]byte(sheet), []byte(module)) {
		out[c.Name] = c
	}
	return out
}

func TestCustomPropertiesAreFoundWhereverTheyStand(t *testing.T) {
	got := customs(t, `
:root { --p-accent: #7A2E8E; --p-line: var(--p-accent); }
.p-theme-dark { --p-accent: #D9A8E6; }
@media (prefers-color-scheme: dark) { :root { --p-line: #222222 } }
.p { color: var(--p-ink, #22262B); gap: var(--p-gap) }`,
		"const s = `:host { --p-ground: #FFFFFF; background: var(--p-ground) } b { color: var(--p-quiet, rgb(90, 100, 112)) }`; let i=2; while(--i){}")
	assert.Equal(t, "#7A2E8E", got["--p-accent"].Value)
	assert.Equal(t, "#D9A8E6", got["--p-accent"].Dark)
	assert.Equal(t, []string{":root", ".p-theme-dark"}, got["--p-accent"].Where)
	assert.Equal(t, "#7A2E8E", got["--p-line"].Value, "what it speaks of is followed")
	assert.Equal(t, "#222222", got["--p-line"].Dark)
	assert.Equal(t, "#22262B", got["--p-ink"].Value, "what stands in for it")
	assert.Equal(t, "#FFFFFF", got["--p-ground"].Value, "inside a module")
	assert.Equal(t, "rgb(90, 100, 112)", got["--p-quiet"].Value)
	assert.Contains(t, got, "--p-gap")
	assert.Len(t, got, 6, "and nothing that code counts down")
}

func tokens(t *testing.T) *kit.Tokens {
	t.Helper()
	out, err := kit.ReadTokens([]byte(`{"color": {
		"accent": {"$type": "color", "$value": "#1E5F6E"}, "on-accent": {"$type": "color", "$value": "#FFFFFF"},
		"surface": {"$type": "color", "$value": "#FFFFFF"}, "ink": {"$type": "color", "$value": "#172326"},
		"line": {"$type": "color", "$value": "#DCE4E6"}, "bad": {"$type": "color", "$value": "#A3261F"}},
		"radius": {"box": {"$type": "dimension", "$value": {"value": 10, "unit": "px"}}}}`), "sorrel")
	require.NoError(t, err)
	return out
}

func TestWhatAPartFollowsIsProposedByNamesAndColours(t *testing.T) {
	got := map[string]string{}
	for _, p := range describe.Ties([]describe.Custom{
		{Name: "--dp-primary-color", Value: "#1976d2"},
		{Name: "--dp-primary-text-color", Value: "#fff"},
		{Name: "--dp-background", Value: "white"},
		{Name: "--dp-text-color", Value: "#212121"},
		{Name: "--dp-borderColor", Value: "#ddd"},
		{Name: "--dp-danger", Value: "#ff6f60"},
		{Name: "--dp-border-radius", Value: "4px"},
		{Name: "--dp-cell-size", Value: "35px"},
		{Name: "--dp-scroll-bar", Value: "#f3f3f3"},
		{Name: "--dp-animation", Value: "0.1s"},
	}, tokens(t)) {
		got[p.Name] = p.Token
		if p.Token != "" {
			assert.GreaterOrEqual(t, p.Certainty, 0.5, p.Name)
			assert.NotEmpty(t, p.Why, p.Name)
		}
	}
	assert.Equal(t, map[string]string{
		"--dp-primary-color": "color.accent", "--dp-primary-text-color": "color.on-accent", "--dp-background": "color.surface",
		"--dp-text-color": "color.ink", "--dp-borderColor": "color.line", "--dp-danger": "color.bad", "--dp-border-radius": "radius.box",
		"--dp-cell-size": "", "--dp-scroll-bar": "", "--dp-animation": "",
	}, got)
}

func TestATieHoldsWhereverThePartSetsItsOwn(t *testing.T) {
	list := describe.Customs([]byte(`.dp { --dp-a: #fff } .dp.dark { --dp-a: #000 }`), []byte("`:host{--dp-b:#fff}`"))
	sheet := describe.TieSheet([]kit.Tie{{Property: "--dp-a", Token: "color.accent"}, {Property: "--dp-b", Token: "color.ink"}, {Property: "--dp-c", Token: "gone"}},
		list, []string{"dp-day"}, func(token string) (string, bool) {
			return "--k-" + strings.TrimPrefix(token, "color."), token != "gone"
		})
	assert.Equal(t, ":root,\n[data-theme],\ndp-day,\n.dp,\n.dp.dark {\n  --dp-a: var(--k-accent) !important;\n}\n"+
		":root,\n[data-theme],\ndp-day {\n  --dp-b: var(--k-ink) !important;\n}\n", sheet)
}

func FuzzCustomsOfAnything(f *testing.F) {
	f.Add(":root{--a:1}", "var(--b,#fff)")
	f.Add("@media{", "`--x:`")
	f.Fuzz(func(t *testing.T, sheet, module string) {
		for _, c := range describe.Customs([]byte(sheet), []byte(module)) {
			if !strings.HasPrefix(c.Name, "--") {
				t.Fatalf("%q is no custom property", c.Name)
			}
		}
	})
}
