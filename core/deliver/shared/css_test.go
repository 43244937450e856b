package shared

import (
	"strings"
	"testing"

	"github.com/evanw/esbuild/pkg/api"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/render"
	"ubiquant/internal/testkit"
)

// Whatever layouts a delivery uses, its sheet is one that a strict reader takes, and of the classes
// that begin with "u-" it has only those that are used.
func TestASheetHasOnlyTheUsedClassesAndStaysWhole(t *testing.T) {
	all := []string{"u-stack", "u-row", "u-grid", "u-section", "u-contents", "u-direction-across", "u-screen"}
	sheet := render.Sheet(testkit.Sorrel(t))
	rapid.Check(t, func(t *rapid.T) {
		used := map[string]bool{}
		for _, name := range all {
			used[name] = rapid.Bool().Draw(t, name)
		}
		out, err := Sheet(sheet+":where(.u-stack, .u-row > .u-grid) > .u-section.own { margin: 0 }\n", func(name string) bool { return used[name] })
		require.NoError(t, err)
		read := api.Transform(out, api.TransformOptions{Loader: api.LoaderCSS})
		require.Empty(t, read.Errors)
		require.Empty(t, read.Warnings, out)
		for _, name := range all {
			if !used[name] {
				assert.NotRegexp(t, `\.`+name+`\b[^-]`, out)
			}
		}
		if used["u-section"] {
			assert.Equal(t, used["u-stack"] || used["u-row"] && used["u-grid"], strings.Contains(out, "> .u-section.own {"))
		}
	})
}
