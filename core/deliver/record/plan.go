package record

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/aymanbagabas/go-udiff"

	"ubiquant/core/deliver"
)

// What a delivery does to a file.
const (
	Add      = "add"      // it is not there yet
	Renew    = "renew"    // it is as it was delivered, and has changed
	Same     = "same"     // it is as it would be written
	Merge    = "merge"    // the team edited it, and both fit together
	Edited   = "edited"   // the team edited it, and nothing is new
	Conflict = "conflict" // the team edited what is new, too: theirs stays
	Kept     = "kept"     // it is the team's own
	Restore  = "restore"  // the team removed it, and code that is delivered needs it
	Remove   = "remove"   // it is no longer delivered, and was not touched
	Left     = "left"     // it is no longer delivered, and the team edited it
)

// Change is what happens to one file.
type Change struct {
	Path string `json:"path"`
	What string `json:"what"`
	Doc  string `json:"doc,omitempty"`
	Own  bool   `json:"own,omitempty"`
	Why  string `json:"why,omitempty"`
	Was  []byte `json:"-"` // as it stands there; nil where it does not
	Is   []byte `json:"-"` // as it will; nil where it goes
	// Beside is a new text that is put beside the team's, under the path with ".delivered".
	Beside []byte `json:"-"`
}

// Writes tells whether a file changes on the disk.
func (c Change) Writes() bool {
	return !bytes.Equal(c.Was, c.Is) || (c.Was == nil) != (c.Is == nil)
}

// Plan says what delivering these files does to what is there, and the record after it.
// there gives a file as it stands, nil where it does not.
func (r *Record) Plan(files []deliver.File, there func(path string) []byte) ([]Change, *Record, error) {
	next := &Record{Format: Format, Files: map[string]Entry{}, texts: map[string][]byte{}}
	for hash, text := range r.texts {
		next.texts[hash] = text
	}
	files = slices.Clone(files)
	slices.SortFunc(files, func(a, b deliver.File) int { return strings.Compare(a.Path, b.Path) })
	var out []Change
	met := map[string]bool{}
	for _, f := range files {
		if !local(f.Path) {
			return nil, nil, fmt.Errorf("the path %q leads out of the folder", f.Path)
		}
		if met[f.Path] {
			return nil, nil, fmt.Errorf("the path %q is delivered twice", f.Path)
		}
		met[f.Path] = true
		c, e := r.one(f, there, next)
		next.Files[f.Path] = e
		out = append(out, c)
	}
	for path, e := range r.Files {
		if met[path] {
			continue
		}
		c := Change{Path: path, Doc: e.Doc, Own: e.Own, Was: there(path)}
		switch {
		case c.Was == nil:
			continue // it went before
		case e.Own:
			c.What, c.Is, c.Why = Left, c.Was, "its screen is no longer delivered; it is yours and stays"
			next.Files[path] = e
		case r.ours(path, c.Was):
			c.What, c.Why = Remove, "it is no longer delivered"
		default:
			c.What, c.Is, c.Why = Left, c.Was, "it is no longer delivered, and was edited"
			next.Files[path] = e
		}
		out = append(out, c)
	}
	slices.SortFunc(out, func(a, b Change) int { return strings.Compare(a.Path, b.Path) })
	return out, next, nil
}

// ours tells whether a file is as a delivery left it, be it one that was broken off.
func (r *Record) ours(path string, text []byte) bool {
	hash := HashOf(text)
	return hash == r.Files[path].Hash || hash == r.Pending[path] || hash == r.settled[path]
}

func (r *Record) one(f deliver.File, there func(path string) []byte, next *Record) (Change, Entry) {
	c := Change{Path: f.Path, Doc: f.Doc, Own: f.Own, Was: there(f.Path), Is: f.Data}
	hash := HashOf(f.Data)
	known, before := r.Files[f.Path]
	taken := Entry{Hash: hash, Own: f.Own, Doc: f.Doc}
	keep := func(e Entry, text []byte) Entry {
		e.Doc, e.Own = f.Doc, f.Own
		if !f.Own {
			next.texts[HashOf(text)] = text
		}
		return e
	}
	if known.Offered != "" && there(f.Path+Beside) == nil {
		// The text that was offered was put in, or refused: it is what is merged with now.
		known.Hash, known.Offered = known.Offered, ""
	}
	switch {
	case f.Own && c.Was != nil:
		c.What, c.Is = Kept, c.Was
		if before {
			return c, known
		}
		return c, Entry{Hash: HashOf(c.Was), Own: true, Doc: f.Doc}
	case c.Was == nil && before:
		c.What, c.Why = Restore, "it was removed, and what is delivered needs it"
		return c, keep(taken, f.Data)
	case c.Was == nil:
		c.What = Add
		return c, keep(taken, f.Data)
	case bytes.Equal(c.Was, f.Data):
		c.What = Same
		return c, keep(taken, f.Data)
	case r.ours(f.Path, c.Was):
		c.What = Renew
		return c, keep(taken, f.Data)
	case before && known.Hash == hash:
		c.What, c.Is = Edited, c.Was
		return c, keep(known, f.Data)
	}
	base, have := r.texts[known.Hash]
	why := "the same lines were edited here and have changed"
	switch {
	case !before:
		why = "a file of that name was there already"
	case !have:
		why = "the text that it was edited from is not kept any more"
	case !utf8.Valid(c.Was) || !utf8.Valid(f.Data):
		why = "it is no text"
	default:
		if merged, ok := merge(string(base), string(c.Was), string(f.Data)); ok {
			c.What, c.Is = Merge, []byte(merged)
			return c, keep(taken, f.Data)
		}
	}
	c.What, c.Is, c.Beside, c.Why = Conflict, c.Was, f.Data, why
	next.texts[hash] = f.Data
	e := Entry{Hash: known.Hash, Offered: hash, Own: f.Own, Doc: f.Doc}
	if !before {
		e.Hash = hash
	}
	return c, e
}

// merge puts what two sides changed of a text together, line by line; ok is false where
// both changed the same lines, or lines that touch.
func merge(base, theirs, ours string) (merged string, ok bool) {
	edits, ok := udiff.Merge(udiff.Lines(base, theirs), udiff.Lines(base, ours))
	if !ok {
		return "", false
	}
	merged, err := udiff.Apply(base, edits)
	return merged, err == nil
}

// Patch writes the changes as a patch that git applies; what is no text is named only.
// at is the folder that paths begin with.
func Patch(list []Change, at string) string {
	var b strings.Builder
	for _, c := range list {
		if c.Beside != nil {
			patch(&b, at+c.Path+Beside, nil, c.Beside)
		}
		if c.Writes() {
			patch(&b, at+c.Path, c.Was, c.Is)
		}
	}
	return b.String()
}

func patch(b *strings.Builder, path string, was, is []byte) {
	fmt.Fprintf(b, "diff --git a/%[1]s b/%[1]s\n", path)
	from, to := "a/"+path, "b/"+path
	switch {
	case was == nil:
		b.WriteString("new file mode 100644\n")
		from = "/dev/null"
	case is == nil:
		b.WriteString("deleted file mode 100644\n")
		to = "/dev/null"
	}
	if !utf8.Valid(was) || !utf8.Valid(is) {
		fmt.Fprintf(b, "Binary files %s and %s differ\n", from, to)
		return
	}
	b.WriteString(udiff.Unified(from, to, string(was), string(is)))
}
