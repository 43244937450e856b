package find_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/find"
	"ubiquant/internal/testkit"
)

// queries are what people type, with what they mean.
var queries = map[string]string{
	"popup": "sorrel-dialog", "modal": "sorrel-dialog", "overlay": "sorrel-dialog", "confirm": "sorrel-dialog", "pill": "sorrel-chip", "badge": "sorrel-chip", "status": "sorrel-chip", "tag": "sorrel-chip",
	"button": "sorrel-button", "cta": "sorrel-button", "buton": "sorrel-button", "btton": "sorrel-button", "submit": "sorrel-button", "toolbar": "sorrel-button-group", "anchor": "sorrel-link", "hyperlink": "sorrel-link",
	"top bar": "sorrel-navbar", "menu bar": "sorrel-navbar", "sidebar": "sorrel-side-nav", "left menu": "sorrel-side-nav", "pagination": "sorrel-pager", "next previous": "sorrel-pager", "breadcrumb": "sorrel-breadcrumbs", "trail": "sorrel-breadcrumbs",
	"page title": "sorrel-page-header", "screen header": "sorrel-page-header", "dropdown": "sorrel-select", "drop-down": "sorrel-select", "picker": "sorrel-select", "date picker": "sorrel-text-input", "password": "sorrel-text-input", "search box": "sorrel-text-input",
	"text box": "sorrel-text-input", "notes field": "sorrel-text-area", "multi line": "sorrel-text-area", "tick box": "sorrel-checkbox", "toggle": "sorrel-switch", "on off": "sorrel-switch", "form row": "sorrel-field", "grid": "sorrel-table", "data table": "sorrel-table",
	"table": "sorrel-table", "tabel": "sorrel-table", "header cell": "sorrel-column", "kpi": "sorrel-stat", "metric": "sorrel-stat", "chart": "sorrel-bars", "graph": "sorrel-bars", "bar chart": "sorrel-bars", "title": "sorrel-heading", "paragraph": "sorrel-text",
	"image": "sorrel-picture", "photo": "sorrel-picture", "tile": "sorrel-card", "panel": "sorrel-card", "profile picture": "sorrel-avatar", "initials": "sorrel-avatar", "separator": "sorrel-divider", "hr": "sorrel-divider", "banner": "sorrel-alert", "notice": "sorrel-alert",
	"warning": "sorrel-alert", "blank state": "sorrel-empty-state", "no data": "sorrel-empty-state", "loader": "sorrel-spinner", "loading": "sorrel-spinner", "page foot": "sorrel-footer", "glyph": "sorrel-icon", "symbol": "sorrel-icon",
	"delete": "bin", "trash": "bin", "edit": "pencil", "magnifier": "search", "gear": "settings", "log out": "sign-out", "dark": "moon", "house": "home", "calendar": "calendar", "favourite": "heart", "print": "print", "duplicate": "copy", "reload": "refresh",
}

func TestEverydayWordsFindWhatIsMeantAmongTheFirstThree(t *testing.T) {
	k := testkit.Sorrel(t)
	entries := find.Kit(k, k.Components, func(string) int { return 0 })
	hits := 0
	for q, want := range queries {
		found := false
		got := []string{}
		for _, m := range find.Search(entries, q, 3) {
			got = append(got, m.ID)
			found = found || m.ID == want
		}
		if found {
			hits++
		} else {
			t.Logf("%q finds %v, meant is %s", q, got, want)
		}
	}
	share := float64(hits) / float64(len(queries))
	t.Logf("%d of %d queries, %.0f %%", hits, len(queries), 100*share)
	assert.GreaterOrEqual(t, share, 0.9)
}

func TestEveryWordMustMatchInAnyOrderAndTheReasonIsTold(t *testing.T) {
	k := testkit.Sorrel(t)
	entries := find.Kit(k, k.Components, func(string) int { return 0 })
	a, b := find.Search(entries, "header page", 1), find.Search(entries, "page header", 1)
	require.Len(t, a, 1)
	assert.Equal(t, a[0].ID, b[0].ID)
	assert.Empty(t, b[0].Why, "the name itself matched")
	popup := find.Search(entries, "popup", 1)
	assert.Equal(t, "also called “popup”", popup[0].Why)
	assert.Empty(t, find.Search(entries, "popup zebra", 0))
	assert.Len(t, find.Search(entries, "", 5), 5, "nothing typed shows everything")
}

func TestUseBreaksTies(t *testing.T) {
	field := []find.Field{{What: "name", Text: "same", Weight: 1}}
	got := find.Search([]find.Entry{{ID: "rare", Title: "a", Fields: field}, {ID: "common", Title: "b", Uses: 50, Fields: field}}, "same", 0)
	assert.Equal(t, "common", got[0].ID)
}
