package kit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/internal/testkit"
)

func TestAPackageSaysWhichFileAnImportIs(t *testing.T) {
	cases := []struct{ name, src, specifier, want, module string }{
		{
			"conditions",
			`{"name":"@a/b","version":"1","exports":{".":{"types":"./t.d.ts","default":"./dist/b.js"},"./b.css":"./dist/b.css"}}`,
			"@a/b/b.css",
			"dist/b.css",
			"dist/b.js",
		},
		{
			"nested conditions",
			`{"name":"b","version":"1","exports":{".":{"browser":{"import":"./web.js"},"default":"./node.js"}}}`,
			"b",
			"web.js",
			"web.js",
		},
		{"one path for all", `{"name":"b","version":"1","exports":"./index.js"}`, "b", "index.js", "index.js"},
		{"no exports", `{"name":"b","version":"1","main":"lib/b.js"}`, "b", "", "lib/b.js"},
		{
			"the module comes before main",
			`{"name":"b","version":"1","main":"b.cjs","module":"b.mjs"}`,
			"b/x",
			"x",
			"b.mjs",
		},
		{"another package", `{"name":"b","version":"1","exports":"./index.js"}`, "bc", "", "index.js"},
		{
			"out of the package",
			`{"name":"b","version":"1","exports":{".":"../../../etc/passwd"}}`,
			"b",
			"etc/passwd",
			"etc/passwd",
		},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			p, err := kit.ReadPackage([]byte(c.src))
			require.NoError(t, err)
			file, _ := p.File(c.specifier)
			assert.Equal(t, c.want, file)
			assert.Equal(t, c.module, p.Module)
		})
	}
	for _, bad := range []string{``, `[]`, `{"name":"b"}`, `{"version":"1"}`} {
		_, err := kit.ReadPackage([]byte(bad))
		assert.ErrorContains(t, err, "package.json", bad)
	}
}

func TestAnImportNamesItsSpecifier(t *testing.T) {
	assert.Equal(t, "@a/b/c.css", kit.Specifier("import '@a/b/c.css'"))
	assert.Equal(t, "x", kit.Specifier(`import { y } from "x"`))
	assert.Empty(t, kit.Specifier("nothing"))
}

func TestExportsMayNameManyFilesAtOnce(t *testing.T) {
	p, err := kit.ReadPackage(
		[]byte(
			`{"name":"@a/b","version":"1.0.0","exports":{".":"./x.js","./parts/*.js":{"types":"./t/*.d.ts","default":"./dist/parts/*.js"}},"peerDependencies":{"c":"^2","d":"1"},"peerDependenciesMeta":{"d":{"optional":true}}}`,
		),
	)
	require.NoError(t, err)
	file, ok := p.File("@a/b/parts/form.js")
	assert.True(t, ok)
	assert.Equal(t, "dist/parts/form.js", file)
	for _, other := range []string{"@a/b/parts/.js", "@a/b/parts/form.css", "@a/b/other/form.js"} {
		_, ok := p.File(other)
		assert.False(t, ok, other)
	}
	file, _ = p.File("@a/b/parts/../../../etc/passwd.js")
	assert.NotContains(t, file, "..")
	assert.Equal(t, map[string]string{"c": "^2"}, p.Peers, "optional ones are not asked for")
}

func TestOneComponentIsImportedAlone(t *testing.T) {
	k := testkit.Sorrel(t)
	c, _ := k.Component("sorrel-chip")
	assert.Equal(t, "import '@fernhollow/sorrel/parts/content.js'", k.ImportOf(c))
	stack, _ := k.Component("stack")
	assert.Equal(t, "import '@fernhollow/sorrel'", k.ImportOf(stack), "what has no module of its own")
}

func FuzzReadPackage(f *testing.F) {
	f.Add([]byte(`{"name":"b","version":"1","exports":{".":{"import":{"default":"./x.js"}}}}`))
	f.Fuzz(func(t *testing.T, src []byte) {
		p, err := kit.ReadPackage(src)
		if err != nil {
			return
		}
		if file, ok := p.File(p.Name); ok && (len(file) > 0 && file[0] == '/') {
			t.Fatalf("%q is not within the package", file)
		}
	})
}
