// Package pack holds a library at one version as one value: its code as one module with
// its styles and assets, the description of its components, and what is known of how it
// is drawn. The value is an archive whose address is the hash of its content, so the same
// library packed twice is the same.
//
// Archives come from anywhere. Read takes none of what an archive says on trust: sizes
// are counted while they are unpacked, paths stay inside, links are refused.
package pack

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"
	"time"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// Format is the version of archives that this package reads and writes.
const Format = "ubiquant.kit/1"

// Names of files in an archive. What is not among them lies below Assets, or below
// Package where the whole package travels along.
const (
	MetaFile    = "kit.json"
	CatalogFile = "catalog.json"
	ModuleFile  = "kit.js"
	SheetFile   = "kit.css"
	NotesFile   = "notes.json"
	TokensFile  = "tokens.json"
	IconsFile   = "icons.json"
	Assets      = "assets/"
	Package     = "package/"
)

// Limits of an archive.
const (
	MaxBytes    = 28 << 20 // packed
	MaxUnpacked = 96 << 20
	MaxFile     = 48 << 20
	MaxFiles    = 6_000
)

// Meta says what a library is and how it is drawn.
type Meta struct {
	Format    string `json:"format"`
	Name      string `json:"name"`
	Version   string `json:"version"`
	Title     string `json:"title,omitempty"`
	Short     string `json:"short"`               // begins the ids of its components
	Drawn     string `json:"drawn"`               // elements, vue, react or angular
	Framework string `json:"framework,omitempty"` // with its version: "vue 3.5.13"
	// Packages are those whose code is in the module, by name with their version.
	Packages map[string]string `json:"packages,omitempty"`
	Peers    map[string]string `json:"peers,omitempty"`  // what an application installs beside it
	Styles   []string          `json:"styles,omitempty"` // what code imports for its styles
	Wrap     string            `json:"wrap,omitempty"`   // component around everything
	// WrapTheme is how that component is handed a theme that the library gives; nil where it takes none.
	WrapTheme *WrapTheme     `json:"wrapTheme,omitempty"`
	Setup     []string       `json:"setup,omitempty"` // what an application installs once, as code
	Themes    Themes         `json:"themes"`
	Needs     Needs          `json:"needs"`
	Missing   []Missing      `json:"missing,omitempty"` // what could not be packed, with its remedy
	Notes     []string       `json:"notes,omitempty"`   // what was chosen while it was packed, and why
	Sizes     map[string]int `json:"sizes,omitempty"`   // bytes of code by package
}

// WrapTheme is a property that is handed what the library's module gives by name.
type WrapTheme struct {
	Prop  string `json:"prop"`
	Light string `json:"light"`
	Dark  string `json:"dark"`
}

// Themes say how a page is made light or dark: classes and attributes of the element
// around it.
type Themes struct {
	Light string `json:"light,omitempty"` // as "class=light", "data-theme=light"; empty: nothing is set
	Dark  string `json:"dark,omitempty"`  // empty: the library knows no dark
	How   string `json:"how,omitempty"`   // where that is known from
}

// Needs are what its code cannot do without in the frame; each makes the policy of this
// kit's frame laxer, and of no other's.
type Needs struct {
	StyleElements   bool `json:"styleElements,omitempty"`   // it adds style elements to the page
	StyleAttributes bool `json:"styleAttributes,omitempty"` // it writes style attributes
	DataFetch       bool `json:"dataFetch,omitempty"`       // it fetches data: addresses
}

// Missing is something that the library needs and that was not there.
type Missing struct {
	What   string `json:"what"`
	For    string `json:"for,omitempty"`
	Remedy string `json:"remedy"`
	// Install is the package that would have to be installed, where that is the remedy.
	Install string `json:"install,omitempty"`
}

// Archive is a library, packed.
type Archive struct {
	Meta    Meta
	Catalog *describe.Catalog
	Files   map[string][]byte // all others: module, sheet, notes, assets
	Parts   []Part            // from elsewhere, beside it
	hash    string
}

// Bytes writes the archive: the same bytes for the same content.
func (a *Archive) Bytes() ([]byte, error) {
	files, err := a.all()
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, name := range slices.Sorted(maps.Keys(files)) {
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)})
		if err == nil {
			_, err = w.Write(files[name])
		}
		if err != nil {
			return nil, err
		}
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	if out.Len() > MaxBytes {
		return nil, fmt.Errorf("the archive has %d MB; at most %d MB are taken: name the modules that are needed with --module", out.Len()>>20, MaxBytes>>20)
	}
	return out.Bytes(), nil
}

// all are the files of the archive, by path.
func (a *Archive) all() (map[string][]byte, error) {
	files := maps.Clone(a.Files)
	a.Meta.Format = Format
	meta, err := json.MarshalIndent(a.Meta, "", " ")
	if err != nil {
		return nil, err
	}
	files[MetaFile], files[CatalogFile] = append(meta, '\n'), a.Catalog.Write()
	return files, a.beside(files)
}

var noFileName = regexp.MustCompile(`[^A-Za-z0-9.+_-]+`)

// FileName is what the archive is called as a file: "sorrel-1.0.0.kit", whatever it says of itself.
func (a *Archive) FileName() string {
	name := strings.Trim(noFileName.ReplaceAllString(describe.Short(a.Meta.Name)+"-"+a.Meta.Version, "-"), "-.")
	return name[:min(len(name), 120)] + ".kit"
}

// Hash is the address of the content: what the files hold, whatever packed them.
func (a *Archive) Hash() string {
	if a.hash == "" {
		h := sha256.New()
		write := func(name string, data []byte) {
			fmt.Fprintf(h, "%d:%s%d:", len(name), name, len(data))
			h.Write(data)
		}
		a.Meta.Format = Format
		meta, _ := json.Marshal(a.Meta) // texts and lists alone
		write(MetaFile, meta)
		write(CatalogFile, a.Catalog.Write())
		for _, name := range slices.Sorted(maps.Keys(a.Files)) {
			write(name, a.Files[name])
		}
		for _, p := range a.Parts {
			use, _ := json.Marshal(p.Use) // texts alone
			write(PartsFile, use)
			write(Parts, []byte(p.Hash()))
		}
		a.hash = hex.EncodeToString(h.Sum(nil))
	}
	return a.hash
}

// Read unpacks an archive. Errors say which file, and what would be accepted.
func Read(src []byte) (*Archive, error) {
	if len(src) > MaxBytes {
		return nil, fmt.Errorf("the archive has %d MB; at most %d MB are taken", len(src)>>20, MaxBytes>>20)
	}
	z, err := zip.NewReader(bytes.NewReader(src), int64(len(src)))
	if err != nil {
		return nil, errors.New("this is no packed kit; accepted: the file that ubiquant intake writes")
	}
	if len(z.File) > MaxFiles {
		return nil, fmt.Errorf("the archive holds %d files; at most %d are taken", len(z.File), MaxFiles)
	}
	files := map[string][]byte{}
	total := 0
	for _, f := range z.File {
		if strings.HasSuffix(f.Name, "/") {
			continue
		}
		if err := safePath(f.Name); err != nil {
			return nil, err
		}
		if !f.Mode().IsRegular() {
			return nil, fmt.Errorf("%s: it is a link or a device; accepted: plain files", f.Name)
		}
		if _, again := files[f.Name]; again {
			return nil, fmt.Errorf("%s: it is there twice", f.Name)
		}
		data, err := unpack(f, min(MaxFile, MaxUnpacked-total))
		if err != nil {
			return nil, fmt.Errorf("%s: %w", f.Name, err)
		}
		total += len(data)
		files[f.Name] = data
	}
	return FromFiles(files)
}

// unpack reads a file of an archive, counting what comes and not what is announced.
func unpack(f *zip.File, most int) ([]byte, error) {
	r, err := f.Open()
	if err != nil {
		return nil, err
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, int64(most)+1))
	if err != nil {
		return nil, err
	}
	if len(data) > most {
		return nil, fmt.Errorf("it unpacks to more than is taken (a file %d MB, all of them %d MB)", MaxFile>>20, MaxUnpacked>>20)
	}
	return data, nil
}

var partNumber = regexp.MustCompile(`^[1-9][0-9]?$`)

func safePath(name string) error {
	if name == "" || len(name) > 300 || strings.ContainsAny(name, "\\\x00:") || path.IsAbs(name) || path.Clean(name) != name ||
		name == ".." || strings.HasPrefix(name, "../") {
		return fmt.Errorf("%q leads out of the archive or cannot be a path; accepted: plain paths such as assets/font.woff2", name)
	}
	top, rest, below := strings.Cut(name, "/")
	if number, inner, in := strings.Cut(rest, "/"); below && top+"/" == Parts && in && partNumber.MatchString(number) && !strings.HasPrefix(inner, Parts) {
		return safePath(inner)
	}
	if below && top+"/" != Assets && top+"/" != Package {
		return fmt.Errorf("%q: the archive of a kit has the folders assets, package and parts alone", name)
	}
	return nil
}

// FromFiles is the archive of unpacked files.
func FromFiles(files map[string][]byte) (*Archive, error) {
	a := &Archive{Files: maps.Clone(files)}
	if files[MetaFile] == nil || files[CatalogFile] == nil {
		return nil, fmt.Errorf("%s or %s is missing; accepted: the file that ubiquant intake writes", MetaFile, CatalogFile)
	}
	if err := json.Unmarshal(files[MetaFile], &a.Meta); err != nil {
		return nil, fmt.Errorf("%s: %w", MetaFile, err)
	}
	if a.Meta.Format != Format {
		return nil, fmt.Errorf("%s: the format %q cannot be read; accepted: %q", MetaFile, a.Meta.Format, Format)
	}
	var err error
	if a.Catalog, err = describe.Read(files[CatalogFile]); err != nil {
		return nil, fmt.Errorf("%s: %w", CatalogFile, err)
	}
	if a.Catalog.Name != a.Meta.Name || a.Catalog.Version != a.Meta.Version || a.Catalog.Drawn != a.Meta.Drawn {
		return nil, fmt.Errorf("%s speaks of %s %s (%s), %s of %s %s (%s)", MetaFile, a.Meta.Name, a.Meta.Version, a.Meta.Drawn,
			CatalogFile, a.Catalog.Name, a.Catalog.Version, a.Catalog.Drawn)
	}
	if files[ModuleFile] == nil {
		return nil, fmt.Errorf("%s is missing: nothing can be drawn", ModuleFile)
	}
	delete(a.Files, MetaFile)
	delete(a.Files, CatalogFile)
	if a.Parts, err = readParts(a.Files); err != nil {
		return nil, err
	}
	if _, err := a.Kit(); err != nil {
		return nil, err
	}
	return a, nil
}

// Kit is the library as a workspace uses it: described, with what its makers note, with
// proposals where nobody says anything, and with what stands beside it.
func (a *Archive) Kit() (*kit.Kit, error) {
	if len(a.Parts) == 0 {
		return a.alone()
	}
	k, err := a.Own().alone()
	if err != nil {
		return nil, err
	}
	kits, ties := make([]*kit.Kit, len(a.Parts)), make([][]kit.Tie, len(a.Parts))
	for i, p := range a.Parts {
		if kits[i], err = p.kit(); err != nil {
			return nil, err
		}
		ties[i] = p.Use.Ties
	}
	return k.Beside(a.Meta.Version, kits, ties)
}

func (a *Archive) alone() (*kit.Kit, error) {
	c := a.Catalog
	list := c.Components()
	noted := kit.Noted(a.Files[NotesFile])
	describe.Propose(list, func(tag string) bool { return noted[tag] })
	src := kit.Sources{
		Name: c.Name, Version: c.Version, Drawn: c.Drawn, Components: list, Title: a.Meta.Title,
		Notes: a.Files[NotesFile], Tokens: a.Files[TokensFile], Icons: a.Files[IconsFile],
	}
	if len(noted) == 0 {
		src.Families = describe.Families
	}
	var own bool
	if len(src.Tokens) == 0 {
		src.Tokens, own = c.TokenFile()
	}
	k, err := kit.Read(src)
	if err != nil {
		return nil, err
	}
	k.Plain = own
	draws := map[string]string{}
	for i := range c.Besides {
		draws[c.Besides[i].Type] = c.Besides[i].Draws()
	}
	k.Style(c.Classes)
	k.Draw(draws)
	if k.Code.Import == "" {
		k.Code.Import = "import '" + c.Name + "'"
	}
	if k.Code.Styles == "" && len(a.Meta.Styles) > 0 {
		k.Code.Styles = "import '" + a.Meta.Styles[0] + "'"
	}
	return k, nil
}

// Published are the files of the package that travelled along, as its maker published them.
func (a *Archive) Published() map[string][]byte {
	out := map[string][]byte{}
	for name, data := range a.Files {
		if rest, ok := strings.CutPrefix(name, Package); ok {
			out[rest] = data
		}
	}
	return out
}
