// Package deliver turns screens into code that people keep in their repository.
// Each target is a folder below; core/deliver/targets lists them.
package deliver

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode"

	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// File is one delivered file.
type File struct {
	Path string `json:"path"`
	Data []byte `json:"-"`
}

// Input is what a delivery is made of.
type Input struct {
	Name     string // of the application
	Screens  []*screen.Document
	Shells   map[string]*screen.Document
	Pieces   map[string]*screen.Document
	Models   map[string]*sample.Model
	Queries  map[string]*sample.Query  // those models that are lists made of others
	Sources  map[string]*sample.Source // of the models whose records are live
	Bases    []sample.Base             // that they come from
	Set      *sample.Set
	Kit      *kit.Kit
	Cat      kit.Catalog
	KitFiles map[string][]byte // the kit's npm package by path
	Themes   []string          // themes that the team made or changed
	Fonts    []kit.Font        // the team's own
	Today    string
	// Page renders a screen in one of its states for targets that hold plain pages;
	// the empty name is the usual one.
	Page func(d *screen.Document, state string) (html string)
	// Root is the tree of a screen in a state.
	Root func(d *screen.Document, state string) *screen.Element
}

// Target is a kind of code.
type Target struct {
	ID, Title, Purpose string
	Deliver            func(in Input) ([]File, error)
	// Element writes one element as it stands in the target's code.
	Element func(k *kit.Kit, cat kit.Catalog, e *screen.Element) string
}

// PackageName is the file name npm gives a package.
func PackageName(k *kit.Kit) string {
	name := strings.NewReplacer("@", "", "/", "-").Replace(k.Name)
	return name + "-" + k.Version + ".tgz"
}

// Pack makes an npm package of files. The same files give the same bytes.
func Pack(files map[string][]byte) ([]byte, error) {
	var buf bytes.Buffer
	zip := gzip.NewWriter(&buf)
	out := tar.NewWriter(zip)
	for _, path := range slices.Sorted(maps.Keys(files)) {
		data := files[path]
		if err := out.WriteHeader(&tar.Header{Name: "package/" + path, Mode: 0o644, Size: int64(len(data)), Format: tar.FormatUSTAR}); err != nil {
			return nil, fmt.Errorf("packing %s: %w", path, err)
		}
		if _, err := out.Write(data); err != nil {
			return nil, fmt.Errorf("packing %s: %w", path, err)
		}
	}
	if err := out.Close(); err != nil {
		return nil, err
	}
	if err := zip.Close(); err != nil {
		return nil, err
	}
	return buf.Bytes(), nil
}

// Pascal turns an id into a component's name: "new-ticket" is "NewTicket".
func Pascal(id string) string {
	var b strings.Builder
	up := true
	for _, r := range id {
		if !unicode.IsLetter(r) && !unicode.IsDigit(r) {
			up = true
			continue
		}
		if up {
			r = unicode.ToUpper(r)
		}
		b.WriteRune(r)
		up = false
	}
	return b.String()
}

// Scope is what expressions may speak of below an element.
func Scope(in Input, record, outer *sample.Model) expr.Scope {
	return expr.Scope{Record: record, Outer: outer, Models: in.Models, Sources: slices.Sorted(maps.Keys(in.Sources))}
}

// Escape writes text for markup.
func Escape(s string) string {
	return strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;").Replace(s)
}
