package pack

import (
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// Parts is the folder of an archive with what stands beside the library: each part a whole archive,
// in a folder by its number from 1.
const (
	Parts     = "parts/"
	PartsFile = "parts.json"
	maxParts  = 24
)

// Part is a library of which some components stand beside another's.
type Part struct {
	*Archive
	Use Use
}

// Use says what is taken of a part, and what of it follows the tokens beside it.
type Use struct {
	Components []string  `json:"components"` // their ids, at least one
	Ties       []kit.Tie `json:"ties,omitempty"`
}

// Own is the archive without what stands beside it.
func (a *Archive) Own() *Archive {
	if len(a.Parts) == 0 {
		return a
	}
	own := *a
	own.Parts, own.hash = nil, ""
	own.Meta.Version = a.Meta.Version[:strings.LastIndexByte(a.Meta.Version, '+')] // its own may have one
	catalog := *a.Catalog
	catalog.Version, own.Catalog = own.Meta.Version, &catalog
	return &own
}

// Beside is the archive with these parts and no others; with none it is the library alone. Errors say
// what does not go together.
func (a *Archive) Beside(parts []Part) (*Archive, error) {
	out := *a.Own()
	if len(parts) == 0 {
		return &out, nil
	}
	if len(parts) > maxParts {
		return nil, fmt.Errorf("%d parts; at most %d stand beside a kit", len(parts), maxParts)
	}
	out.hash = ""
	var named []string
	seen := map[string]bool{a.Meta.Name: true}
	for i, p := range parts {
		if len(p.Parts) > 0 {
			return nil, fmt.Errorf("%s has parts of its own: bring these in one by one", title(p.Archive))
		}
		if seen[p.Meta.Name] {
			return nil, fmt.Errorf("%s is there already: take it out first, or bring its other version in its place", title(p.Archive))
		}
		seen[p.Meta.Name] = true
		if len(p.Use.Components) == 0 {
			return nil, fmt.Errorf("nothing of %s is taken: choose at least one component", title(p.Archive))
		}
		for _, id := range p.Use.Components {
			if _, ok := p.Catalog.Find(id); !ok {
				return nil, fmt.Errorf("%s has no component %q", title(p.Archive), id)
			}
		}
		for j, t := range p.Use.Ties {
			if !customName.MatchString(t.Property) {
				return nil, fmt.Errorf("%q is no custom property", t.Property)
			}
			if slices.ContainsFunc(p.Use.Ties[:j], func(o kit.Tie) bool { return o.Property == t.Property }) {
				return nil, fmt.Errorf("%s is tied twice", t.Property)
			}
		}
		parts[i].Use.Components = slices.Sorted(slices.Values(p.Use.Components))
		named = append(named, cmp.Or(p.Meta.Short, describe.Short(p.Meta.Name))+"."+strings.ReplaceAll(p.Meta.Version, "+", "."))
	}
	out.Parts = parts
	out.Meta.Version += "+" + unbuilt.ReplaceAllString(strings.Join(named, "."), "-")
	catalog := *out.Catalog
	catalog.Version, out.Catalog = out.Meta.Version, &catalog
	_, err := out.Kit()
	return &out, err
}

var (
	customName = regexp.MustCompile(`^--[A-Za-z][\w-]{0,100}$`)
	unbuilt    = regexp.MustCompile(`[^0-9A-Za-z.-]+`) // what may not stand in a build's name
)

func title(a *Archive) string { return cmp.Or(a.Meta.Title, a.Meta.Name) }

// beside are the files of what stands beside, as they lie in the archive.
func (a *Archive) beside(files map[string][]byte) error {
	if len(a.Parts) == 0 {
		return nil
	}
	uses := make([]Use, len(a.Parts))
	for i, p := range a.Parts {
		uses[i] = p.Use
		inner, err := p.all()
		if err != nil {
			return err
		}
		for name, data := range inner {
			files[Parts+strconv.Itoa(i+1)+"/"+name] = data
		}
	}
	b, err := json.MarshalIndent(uses, "", " ")
	files[PartsFile] = append(b, '\n')
	return err
}

// readParts takes the parts out of the files of an archive.
func readParts(files map[string][]byte) ([]Part, error) {
	var uses []Use
	src := files[PartsFile]
	if src == nil {
		for name := range files {
			if strings.HasPrefix(name, Parts) {
				return nil, fmt.Errorf("%s is missing beside the folder parts", PartsFile)
			}
		}
		return nil, nil
	}
	if err := json.Unmarshal(src, &uses); err != nil {
		return nil, fmt.Errorf("%s: %w", PartsFile, err)
	}
	if len(uses) == 0 || len(uses) > maxParts {
		return nil, fmt.Errorf("%s: %d parts; accepted: 1 to %d", PartsFile, len(uses), maxParts)
	}
	delete(files, PartsFile)
	out := make([]Part, len(uses))
	for i, use := range uses {
		folder := Parts + strconv.Itoa(i+1) + "/"
		inner := map[string][]byte{}
		for name, data := range files {
			if rest, ok := strings.CutPrefix(name, folder); ok {
				inner[rest] = data
				delete(files, name)
			}
		}
		if inner[PartsFile] != nil {
			return nil, fmt.Errorf("%s%s: a part has no parts", folder, PartsFile)
		}
		a, err := FromFiles(inner)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", folder, err)
		}
		out[i] = Part{a, use}
	}
	for name := range files {
		if strings.HasPrefix(name, Parts) {
			return nil, fmt.Errorf("%s belongs to no part that %s speaks of", name, PartsFile)
		}
	}
	return out, nil
}

// Customs are the custom properties that a library's styles speak of.
func (a *Archive) Customs() []describe.Custom {
	list := describe.Customs(a.Files[SheetFile], a.Files[ModuleFile])
	for _, e := range a.Catalog.Entries {
		for _, p := range e.CSS {
			if !slices.ContainsFunc(list, func(c describe.Custom) bool { return c.Name == p.Name }) {
				list = append(list, describe.Custom{Name: p.Name, Value: p.Default})
			}
		}
	}
	return list
}

// kit is what is used of a part.
func (p Part) kit() (*kit.Kit, error) {
	k, err := p.Archive.Kit()
	if err != nil {
		return nil, err
	}
	k.Components = slices.DeleteFunc(slices.Clone(k.Components), func(c *kit.Component) bool {
		return !slices.Contains(p.Use.Components, c.Tag)
	})
	return k, nil
}

// TieSheet is the style sheet by which a part follows the tokens of the kit that it stands beside.
func (p Part) TieSheet(k *kit.Kit) string {
	if len(p.Use.Ties) == 0 {
		return ""
	}
	var tags []string
	for _, e := range p.Catalog.Entries {
		if p.Meta.Drawn == describe.Elements && slices.Contains(p.Use.Components, e.ID) {
			tags = append(tags, e.ID)
		}
	}
	return describe.TieSheet(p.Use.Ties, p.Customs(), tags, func(token string) (string, bool) {
		t, ok := k.Tokens.Find(token)
		if !ok {
			return "", false
		}
		return t.CSS, true
	})
}

// join makes the files that a page is drawn with of those of a library and its parts: one module that
// brings in all of theirs, one sheet, and all their assets.
func (b *Bundle) join(parts []Part) error {
	b.alone = b.Files
	files := maps.Clone(b.Files)
	sheet := slices.Clone(files[SheetFile])
	files["base.js"] = files[ModuleFile]
	var module strings.Builder
	module.WriteString("export * from './base.js'\nimport * as base from './base.js'\n")
	drawers := "base.drawer"
	for i, p := range parts {
		name := fmt.Sprintf("part-%d", i+1)
		files[name+".js"] = p.Files[ModuleFile]
		fmt.Fprintf(&module, "import * as p%d from './%s.js'\n", i+1, name)
		drawers += fmt.Sprintf(", p%d.drawer", i+1)
		sheet = append(append(sheet, '\n'), p.Files[SheetFile]...)
		sheet = append(sheet, p.TieSheet(b.Kit)...)
		for name, data := range p.Files {
			if !strings.HasPrefix(name, Assets) {
				continue
			}
			if was, taken := files[name]; taken && string(was) != string(data) {
				return fmt.Errorf("%s and %s have different files called %s", b.Kit.Title, title(p.Archive), name)
			}
			files[name] = data
		}
		b.Meta.Needs.StyleElements = b.Meta.Needs.StyleElements || p.Meta.Needs.StyleElements
		b.Meta.Needs.StyleAttributes = b.Meta.Needs.StyleAttributes || p.Meta.Needs.StyleAttributes
		b.Meta.Needs.DataFetch = b.Meta.Needs.DataFetch || p.Meta.Needs.DataFetch
		part, err := p.Archive.Bundle()
		if err != nil {
			return err
		}
		b.Parts = append(b.Parts, PartBundle{part, p.Use, p.TieSheet(b.Kit)})
	}
	fmt.Fprintf(&module, "export const drawers = [%s]\n", drawers)
	files[ModuleFile], files[SheetFile] = []byte(module.String()), sheet
	b.Files = files
	if b.Meta.Drawn = cmp.Or(b.Kit.Drawn, describe.Elements); b.Meta.Drawn == describe.Elements {
		b.Meta.Framework = ""
	}
	return nil
}

// PartBundle is a part as a server uses it.
type PartBundle struct {
	*Bundle
	Use  Use
	Ties string // style sheet by which it follows the tokens beside it
}
