// Package assets holds what the binary carries: the demo kit's package, the web
// application and the demo workspace. The build (see start.sh) puts them into files/.
package assets

import (
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"sync"

	"ubiquant/core/kit"
)

//go:embed all:files
var files embed.FS

// ErrNotBuilt says that a part was not there when the binary was built.
var ErrNotBuilt = errors.New("it was not built into this binary; run ./start.sh --build-only")

// Bundle is a kit with the files of its package.
type Bundle struct {
	Kit   *kit.Kit
	Files map[string][]byte
	// Module registers the components, Sheet is the style sheet they need: names
	// of files. A kit without a sheet has none.
	Module, Sheet string
	Package       *kit.Package
}

// Kit loads the kit that the binary carries.
var Kit = sync.OnceValues(func() (*Bundle, error) { return load("files/kit") })

// NextKit loads the version of the kit that came after it.
var NextKit = sync.OnceValues(func() (*Bundle, error) { return load("files/kit-next") })

func load(dir string) (*Bundle, error) {
	b := &Bundle{Files: map[string][]byte{}}
	root, err := fs.Sub(files, dir)
	if err != nil {
		return nil, err
	}
	err = fs.WalkDir(root, ".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := fs.ReadFile(root, path)
		b.Files[path] = data
		return err
	})
	if err != nil || b.Files["custom-elements.json"] == nil {
		return nil, fmt.Errorf("the kit: %w", ErrNotBuilt)
	}
	if b.Kit, err = ReadKit(b.Files); err != nil {
		return nil, err
	}
	pkg, err := kit.ReadPackage(b.Files["package.json"])
	if err != nil {
		return nil, err
	}
	b.Module, b.Package = pkg.Module, pkg
	b.Sheet, _ = pkg.File(kit.Specifier(b.Kit.Code.Styles))
	return b, nil
}

// ReadKit reads a kit from the files of its package.
func ReadKit(files map[string][]byte) (*kit.Kit, error) {
	pkg, err := kit.ReadPackage(files["package.json"])
	if err != nil {
		return nil, err
	}
	src := kit.Sources{
		Name:     pkg.Name,
		Version:  pkg.Version,
		Manifest: files["custom-elements.json"],
		Icons:    files["icons.json"],
	}
	for path, data := range files {
		switch {
		case strings.HasSuffix(path, ".notes.json"):
			src.Notes = data
		case strings.HasSuffix(path, ".tokens.json"):
			src.Tokens = data
		}
	}
	return kit.Read(src)
}

// Demo is the demo workspace as it is seeded.
func Demo() ([]byte, error) {
	data, err := files.ReadFile("files/demo.json")
	if err != nil {
		return nil, fmt.Errorf("the demo: %w", ErrNotBuilt)
	}
	return data, nil
}

// App is the built web application.
func App() (fs.FS, error) {
	if _, err := files.Open("files/app/index.html"); err != nil {
		return nil, fmt.Errorf("the web application: %w", ErrNotBuilt)
	}
	return fs.Sub(files, "files/app")
}

// Frame is the script that shows screens inside the sandboxed frame.
func Frame() ([]byte, error) { return files.ReadFile("files/frame.js") }

// Inks is the module that measures the contrast of what a page shows.
func Inks() ([]byte, error) { return files.ReadFile("files/inks.js") }
