package kit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/kit"
)

// Code of the repository itself is imported by its path, from one folder below that of the delivery; what
// comes from a package, or stands beside the kit, by its name.
func TestOwnCodeIsImportedByItsPath(t *testing.T) {
	own, packed := &kit.Kit{Name: "./src/ui"}, &kit.Kit{Name: "@acme/ui"}
	for _, c := range []struct {
		kit        *kit.Kit
		module, at string
		part       int
		want       string
	}{
		{own, "src/ui/press.tsx", "src/office", 0, "../../ui/press"},
		{own, "src/ui/press.tsx", "app/office", 0, "../../../src/ui/press"},
		{own, "src/ui/press.tsx", "office", 0, "../../src/ui/press"},
		{own, "src/ui/Press.vue", "src/office", 0, "../../ui/Press.vue"},
		{own, "src/ui/index.js", "src/ui/office", 0, "../../index"},
		{own, "src/ui/press.tsx", "", 0, "./src/ui/press"},
		{own, "leaf-icons", "src/office", 0, "leaf-icons"},
		{own, "src/ui/press.tsx", "src/office", 1, "src/ui/press.tsx"},
		{own, "", "src/office", 0, "./src/ui"},
		{packed, "@acme/ui/press.js", "src/office", 0, "@acme/ui/press.js"},
		{packed, "", "src/office", 0, "@acme/ui"},
	} {
		assert.Equal(t, c.want, c.kit.ModuleOf(&kit.Component{Module: c.module, Part: c.part}, c.at))
	}
	assert.Equal(t, "src/ui", own.Folder())
	assert.Empty(t, packed.Folder())
}
