package repo

import (
	"context"
	"os"
	"path/filepath"

	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/server/assets"
)

// Open reads a repository with what comes with this program: its readers, its kits, those that
// lie packed in the repository's root, and what was read before.
func Open(ctx context.Context, o Options) (*Repository, error) {
	o.Markup, _ = assets.Markup()
	o.Declarations, _ = assets.Reader() // what lacks is told by what cannot be read
	o.Known = map[string]*describe.Catalog{}
	own, _ := assets.Kits()
	packed, _ := filepath.Glob(filepath.Join(o.Dir, "*.kit"))
	for _, file := range packed {
		if src, err := os.ReadFile(file); err == nil {
			if a, err := pack.Read(src); err == nil {
				own = append(own, a)
			}
		}
	}
	for _, a := range own {
		o.Known[a.Meta.Name] = a.Catalog
	}
	if cache, err := os.UserCacheDir(); err == nil {
		o.Cache = filepath.Join(cache, "ubiquant")
	}
	return Read(ctx, o)
}
