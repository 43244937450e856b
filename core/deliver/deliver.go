// Package deliver turns screens into code that people keep in their repository.
// Each target is a folder below; core/deliver/targets lists them.
package deliver

import (
	"archive/tar"
	"bytes"
	"cmp"
	"compress/gzip"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"
	"unicode"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// File is one delivered file.
type File struct {
	Path string `json:"path"`
	Data []byte `json:"-"`
	// Own files are the team's: they are written once, and never again.
	Own bool `json:"own,omitempty"`
	// Doc is the document that it is the code of; empty where it is none's.
	Doc string `json:"doc,omitempty"`
	// Places are where the elements of the document begin, by their ids.
	Places map[string]emit.Place `json:"-"`
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
	// Published says that the kit is installed from a registry, by name and version; else
	// its package travels along.
	Published bool
	// Parts from elsewhere stand beside the kit.
	Parts  []Part
	Themes []string   // themes that the team made or changed
	Fonts  []kit.Font // the team's own
	// Unbrought are the families that the kit's themes ask for and that nothing here brings.
	Unbrought []string
	Pictures  []picture.Kept // that the screens or their records show
	Today     string
	// Styles are the statements that bring in the kit's styles, Setup those that an
	// application runs once, Wrap the component that stands around everything.
	Styles, Setup []string
	Wrap          string
	WrapTheme     *pack.WrapTheme   // what it is handed as its theme; nil for nothing
	Peers         map[string]string // packages that the kit wants beside it, with their versions
	Light, Dark   string            // how a page is made light or dark: "class=dark"; empty where the kit has no say
	// Page renders a screen in one of its states for targets that hold plain pages;
	// the empty name is the usual one. params are those of its route; without them it shows
	// the first record.
	Page func(d *screen.Document, state string, params map[string]string) (html string)
	// Records are what the parameter of a screen's route can be, by the records that it
	// would show; the first is the one shown without. Empty where the route has none.
	Records func(d *screen.Document) (param string, ids []string)
	// Written is the language that the screens are written in; empty is English.
	Written string
	// Texts are delivered in files of their own; nil has them in the code.
	Texts *Texts
	// In is what is delivered in another language, for targets that hold plain pages; nil without texts.
	In func(language string) *Input
	// Root is the tree of a screen in a state, with what pieces that behave are made of in place of
	// them: a page by itself has one script.
	Root func(d *screen.Document, state string) *screen.Element
	// Home is the application that the folder stands in; the zero value is one of its own.
	Home Home
}

// Home is what the application around a delivery is made with, as far as code goes by it.
type Home struct {
	Router   string // package that React's router is taken from; empty is react-router
	Elements bool   // its routes stand as elements, in <Routes>
	NoVite   bool   // what builds it knows process.env, and not import.meta.env
	At       string // folder of the delivery in the repository; empty where it is an application of its own
	Folders  bool   // its routes are the folders of its pages: the screens bring a router of their own
}

// Language is that which the screens are written in.
func (in *Input) Language() string { return cmp.Or(in.Written, texts.Source) }

// Part is a package of another library of which components stand beside the kit's.
type Part struct {
	Name, Version string
	Drawn         string            // as kit.Kit.Drawn
	Code          kit.Code          // how it is brought into code
	Files         map[string][]byte // its npm package by path
	Published     bool              // as Input.Published
	Styles, Setup []string
	Wrap          string
	Peers         map[string]string
	Ties          string // style sheet by which it follows the kit's tokens
	// Pages are the module, the sheet and the assets for pages that need no build.
	Pages map[string][]byte
}

// Note is something that a delivery leaves out or changes, and where.
type Note struct {
	Doc     string `json:"doc,omitempty"`
	Element string `json:"element,omitempty"`
	Message string `json:"message"`
}

// Target is a kind of code.
type Target struct {
	ID, Title, Purpose string
	// Framework is the package that the code is written for; empty for plain pages.
	Framework string
	// Draws are the frameworks besides custom elements whose components its code can use.
	Draws []string
	// Needs and DevNeeds are the packages of a delivered application, with versions that
	// run on Node 20.19.
	Needs, DevNeeds map[string]string
	// Least are the ranges of packages that the code goes with, where a repository has its own.
	Least map[string]string
	// Fit is the target with the versions that a kit goes with, and what that changes; nil where
	// any goes.
	Fit func(t Target, in Input) (Target, []Note)
	// Inside writes what stands in a folder of its own, by paths below it, and what could
	// not be written as it was meant.
	Inside func(in Input) ([]File, []Note, error)
	// Around writes the application around the folder.
	Around func(t Target, in Input, folder string) ([]File, error)
	// Element writes one element as it stands in the target's code.
	Element func(k *kit.Kit, cat kit.Catalog, e *screen.Element) string
}

// Folder is where an application of its own has the screens.
const Folder = "src/app"

// Deliver writes an application of its own: all its files, by path.
func (t Target) Deliver(in Input) ([]File, []Note, error) {
	inside, notes, err := t.Inside(in)
	if err != nil {
		return nil, nil, err
	}
	folder := Folder
	if t.Framework == "" {
		folder = ""
	}
	if t.Fit != nil {
		fitted, said := t.Fit(t, in)
		t, notes = fitted, append(notes, said...)
	}
	files, err := t.Around(t, in, folder)
	if err != nil {
		return nil, nil, err
	}
	files = append(files, t.Pictures(in)...)
	for _, f := range inside {
		f.Path = path.Join(folder, f.Path)
		files = append(files, f)
	}
	slices.SortFunc(files, func(a, b File) int { return strings.Compare(a.Path, b.Path) })
	return files, notes, nil
}

// Pictures are the files of what the screens show, where the application serves them from: by
// paths from its own folder.
func (t Target) Pictures(in Input) (files []File) {
	root := "public"
	if t.Framework == "" {
		root = ""
	}
	for i := range in.Pictures {
		if data, _, err := in.Pictures[i].File(); err == nil { // checked when it was taken
			files = append(files, File{Path: strings.TrimPrefix(path.Join(root, in.Pictures[i].Address()), "/"), Data: data})
		}
	}
	return files
}

// Dependencies are the packages that delivered code needs, with the kit, whose package
// travels along where no registry has it.
func Dependencies(in Input, t Target) (map[string]string, []File, error) {
	out := maps.Clone(t.Needs)
	if in.Texts != nil && t.Framework != "" {
		out[messages] = messagesVersion
	}
	kits := append([]Part{{Name: in.Kit.Name, Version: in.Kit.Published(), Published: in.Published, Files: in.KitFiles, Peers: in.Peers}}, in.Parts...)
	if folder := in.Kit.Folder(); folder != "" {
		if in.Home.At == "" {
			return nil, nil, fmt.Errorf("the components are code of a repository, in its folder %s: deliver into that repository, where they are", folder)
		}
		kits = in.Parts
	}
	var files []File
	for _, k := range kits {
		for name, version := range k.Peers {
			if out[name] == "" {
				out[name] = version
			}
		}
		if k.Published {
			out[k.Name] = k.Version
			continue
		}
		pack, err := Pack(k.Files)
		if err != nil {
			return nil, nil, err
		}
		file := Packed + PackageName(k.Name, k.Version)
		out[k.Name] = "file:" + file
		files = append(files, File{Path: file, Data: pack})
	}
	return out, files, nil
}

// messages is the package by which delivered code reads ICU messages.
const (
	messages        = "intl-messageformat"
	messagesVersion = "12.1.5"
)

// Ties is the style sheet by which parts from elsewhere follow the kit's tokens.
const Ties = "ties.css"

// Packed is the folder of packages that no registry has.
const Packed = "kit/"

// Refuses says why a target's code cannot use a kit; empty where it can.
func (t Target) Refuses(k *kit.Kit) string {
	if k.Name == kit.Outlines {
		return "its components are drawn as outlines: their code is elsewhere, and no target has it"
	}
	if k.Drawn == "" || slices.Contains(t.Draws, k.Drawn) {
		return ""
	}
	whose := k.Title
	for _, p := range k.Parts {
		if p.Drawn == k.Drawn && k.OwnElements() {
			whose = p.Title + ", which stands beside " + k.Title + ","
		}
	}
	return fmt.Sprintf("%s is made of components of %s, which code of the target %s cannot use", whose, frameworks[k.Drawn], t.Title)
}

var frameworks = map[string]string{"vue": "Vue", "react": "React", "angular": "Angular"}

// PackageName is the file name npm gives a package.
func PackageName(name, version string) string {
	return strings.NewReplacer("@", "", "/", "-").Replace(name) + "-" + version + ".tgz"
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

var inHTML = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;")

// Escape writes text for markup.
func Escape(s string) string {
	return inHTML.Replace(s)
}
