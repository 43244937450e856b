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
	"ubiquant/core/kit/pack"
)

//go:embed all:files
var files embed.FS

// ErrNotBuilt says that a part was not there when the binary was built.
var ErrNotBuilt = errors.New("it was not built into this binary; run ./start.sh --build-only")

// names of the demo's kits, in the order they are brought in.
var kitFiles = []string{"sorrel", "sorrel-next", "tansy", "yarrow", "clover"}

// Kits are the kits that the demo comes with, packed as any library is.
var Kits = sync.OnceValues(func() ([]*pack.Archive, error) {
	out := []*pack.Archive{}
	for _, name := range kitFiles {
		data, err := files.ReadFile("files/kits/" + name + ".kit")
		if err != nil {
			return nil, fmt.Errorf("the demo's kit %s: %w", name, ErrNotBuilt)
		}
		a, err := pack.Read(data)
		if err != nil {
			return nil, fmt.Errorf("the demo's kit %s: %w", name, err)
		}
		out = append(out, a)
	}
	return out, nil
})

// Kit is the kit that the demo's workspace stands on.
var Kit = sync.OnceValues(func() (*pack.Bundle, error) {
	kits, err := Kits()
	if err != nil {
		return nil, err
	}
	return kits[0].Bundle()
})

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

// Packages are those that the demo's registry has beside the kits, by the files of each.
func Packages() ([]map[string][]byte, error) {
	dirs, err := files.ReadDir("files/registry")
	if err != nil {
		return nil, fmt.Errorf("the demo's registry: %w", ErrNotBuilt)
	}
	out := []map[string][]byte{}
	for _, d := range dirs {
		held := map[string][]byte{}
		root := "files/registry/" + d.Name()
		err := fs.WalkDir(files, root, func(at string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			held[strings.TrimPrefix(at, root+"/")], err = files.ReadFile(at)
			return err
		})
		if err != nil {
			return nil, err
		}
		out = append(out, held)
	}
	return out, nil
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

// Reader is the script that reads type declarations, for Node.
func Reader() ([]byte, error) {
	b, err := files.ReadFile("files/readers/declarations.cjs")
	if err != nil {
		return nil, fmt.Errorf("the reader of declarations: %w", ErrNotBuilt)
	}
	return b, nil
}

// Markup is the script that reads the markup of repositories, for Node.
func Markup() ([]byte, error) {
	b, err := files.ReadFile("files/readers/markup.cjs")
	if err != nil {
		return nil, fmt.Errorf("the reader of markup: %w", ErrNotBuilt)
	}
	return b, nil
}

// Classes is the script that makes style sheets of what classes in code stand for, for Node.
func Classes() ([]byte, error) {
	b, err := files.ReadFile("files/readers/classes.cjs")
	if err != nil {
		return nil, fmt.Errorf("the reader of classes: %w", ErrNotBuilt)
	}
	return b, nil
}

// Single is the script that makes modules of Vue's single files, and CSS of sheets in Sass, for Node.
func Single() ([]byte, error) {
	b, err := files.ReadFile("files/readers/single.cjs")
	if err != nil {
		return nil, fmt.Errorf("what makes modules of single files: %w", ErrNotBuilt)
	}
	return b, nil
}

// Places is the script that finds where a delivery connects to a repository, for Node.
func Places() ([]byte, error) {
	b, err := files.ReadFile("files/readers/places.cjs")
	if err != nil {
		return nil, fmt.Errorf("the reader of places: %w", ErrNotBuilt)
	}
	return b, nil
}

// Inks is the module that measures the contrast of what a page shows.
func Inks() ([]byte, error) { return files.ReadFile("files/inks.js") }
