// Package testkit loads the demo kit and workspace for tests.
package testkit

import (
	"os"
	"path/filepath"
	"runtime"
	"sync"
	"testing"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Root is the repository's folder.
func Root() string {
	_, file, _, _ := runtime.Caller(0)
	return filepath.Join(filepath.Dir(file), "..", "..")
}

var sorrel = sync.OnceValues(func() (*kit.Kit, error) {
	read := func(name string) []byte {
		b, _ := os.ReadFile(filepath.Join(Root(), "kits", "sorrel", name)) // Read reports what is missing
		return b
	}
	return kit.Read(
		kit.Sources{
			Name:     "@fernhollow/sorrel",
			Version:  "1.0.0",
			Manifest: read("custom-elements.json"),
			Notes:    read("sorrel.notes.json"),
			Tokens:   read("sorrel.tokens.json"),
			Icons:    read("icons.json"),
		},
	)
})

// Sorrel is the demo kit.
func Sorrel(t testing.TB) *kit.Kit {
	t.Helper()
	k, err := sorrel()
	if err != nil {
		t.Fatalf("the demo kit cannot be read; build it with ./start.sh --build-only: %v", err)
	}
	return k
}

// Demo is the text of the demo workspace.
func Demo(t testing.TB) []byte {
	t.Helper()
	b, err := os.ReadFile(filepath.Join(Root(), "demo", "fernhollow.json"))
	if err != nil {
		t.Fatal(err)
	}
	return b
}

// Tree reads an element from JSON.
func Tree(t testing.TB, src string) *screen.Element {
	t.Helper()
	e := &screen.Element{}
	if err := e.UnmarshalJSON([]byte(src)); err != nil {
		t.Fatalf("%v\n%s", err, src)
	}
	return e
}
