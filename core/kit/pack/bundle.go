package pack

import (
	"cmp"
	"encoding/json"
	"fmt"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// Bundle is a kit as a server uses it: what it is, its files, and what its package says.
// It stays as it is and may be shared.
type Bundle struct {
	Kit     *kit.Kit
	From    *Archive
	Meta    Meta
	Hash    string
	Files   map[string][]byte // of the archive
	Package *kit.Package
	Catalog *describe.Catalog // as it was described
	// PackageFiles are the package's own files, where they travel along: deliveries then
	// carry them. Else applications install it by name and version.
	PackageFiles map[string][]byte
	Parts        []PartBundle // from elsewhere, beside it

	alone map[string][]byte // the files of the library alone, where there are parts
}

// Bundle reads the archive for use.
func (a *Archive) Bundle() (*Bundle, error) {
	k, err := a.Kit()
	if err != nil {
		return nil, fmt.Errorf("%s %s: %w", a.Meta.Name, a.Meta.Version, err)
	}
	b := &Bundle{Kit: k, From: a, Meta: a.Meta, Hash: a.Hash(), Files: a.Files, Catalog: a.Catalog}
	whole := map[string][]byte{}
	for name, data := range a.Files {
		if rest, ok := strings.CutPrefix(name, Package); ok {
			whole[rest] = data
		}
	}
	if src := whole["package.json"]; src != nil {
		if b.Package, err = kit.ReadPackage(src); err != nil {
			return nil, fmt.Errorf("%s %s: %w", a.Meta.Name, a.Meta.Version, err)
		}
		b.Package.Version = cmp.Or(b.Package.Version, k.Published())
	} else {
		b.Package = &kit.Package{Name: a.Meta.Name, Version: k.Published(), Peers: a.Meta.Peers}
	}
	// An account and a history alone are no package that could be delivered.
	if len(whole) > 2 {
		b.PackageFiles = whole
	}
	if len(a.Parts) > 0 {
		return b, b.join(a.Parts)
	}
	return b, nil
}

// DeliverFiles are the files that a delivery is made with, as a package: the library's own
// where they travel along, else one made of what was packed, for pages that need no build.
func (b *Bundle) DeliverFiles() map[string][]byte {
	if b.PackageFiles != nil {
		return b.PackageFiles
	}
	exports := map[string]string{".": "./dist/" + ModuleFile}
	out := map[string][]byte{}
	for name, data := range b.Drawing() {
		out["dist/"+name] = data
	}
	if rest, ok := strings.CutPrefix(kit.Specifier(b.Kit.Code.Styles), b.Meta.Name); ok && b.Files[SheetFile] != nil {
		exports["."+rest] = "./dist/" + SheetFile
	}
	src, err := json.Marshal(map[string]any{"name": b.Meta.Name, "version": b.Kit.Published(), "exports": exports})
	if err != nil { // texts alone
		panic(err)
	}
	out["package.json"] = src
	return out
}

// Drawing are the module, the sheet and the assets by which the library's own components are drawn.
func (b *Bundle) Drawing() map[string][]byte {
	out := map[string][]byte{}
	for name, data := range b.own() {
		if name == ModuleFile || name == SheetFile || strings.HasPrefix(name, Assets) {
			out[name] = data
		}
	}
	return out
}

// own are the files of the library without its parts.
func (b *Bundle) own() map[string][]byte {
	if b.alone != nil {
		return b.alone
	}
	return b.Files
}

// Sheet is the style sheet of the kit; nil where it has none.
func (b *Bundle) Sheet() []byte { return b.Files[SheetFile] }
