// Package change takes changes of a workspace. A change is a list of steps that are
// taken, logged and undone as one; a kind of step is one file here that holds all that
// is to say of it: its shape, how it is applied and taken back, who may take it, what
// the server says of it and which parts of the workspace it writes.
package change

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Change is what is taken, logged and undone as one.
type Change struct {
	Title string // in words, for the history
	Steps []Step
}

// Step is one step of a change; its type is its kind (see Kinds).
type Step interface {
	// apply takes the step, and notes what takes it back.
	apply(t *taking) error
	// sets lists what the step sets to a value, as addresses such as "house:h1": who takes
	// an older change back must not overwrite what somebody else set there since (see Clash).
	sets() []string
}

// Past tells what happened to a document since a revision, for rebasing.
type Past interface {
	// Since lists the edits after revision rev with the trees around them; ok is
	// false where they are no longer known.
	Since(doc string, rev int) (steps []PastEdit, ok bool)
}

// PastEdit is an edit that was taken, with the trees before and after it.
type PastEdit struct {
	Edit          screen.Edit
	Before, After *screen.Element
}

// Taken is a change once applied.
type Taken struct {
	Applied Change // as it was applied: edits rebased, free of a base
	Inverse Change
	Docs    []string              // documents that changed, came or went
	Parts   []model.Part          // other parts that were written
	Edits   map[string][]PastEdit // by document
	Before  map[string]*screen.Element
	Routes  bool // which documents there are or where they stand changed
}

// Wrote reports whether one of the parts was written.
func (t *Taken) Wrote(parts ...model.Part) bool {
	return slices.ContainsFunc(t.Parts, func(p model.Part) bool { return slices.Contains(parts, p) })
}

// taking is a change while it is taken: the workspace as it is so far, and what is noted.
// Steps write documents and parts only through doc and part, which copy them first and
// note that they changed; nothing else says what is stored and computed anew.
type taking struct {
	Taken
	w     *model.Workspace
	cat   kit.Catalog
	past  Past
	stale bool // the catalog no longer has the pieces as they are
}

// Apply takes a change: all of it or nothing. The workspace given stays as it is.
func Apply(w *model.Workspace, c Change, cat kit.Catalog, past Past) (*model.Workspace, Taken, error) {
	next := *w
	t := &taking{w: &next, cat: cat, past: past, Taken: Taken{
		Applied: Change{Title: c.Title},
		Inverse: Change{Title: "Take back: " + c.Title},
		Edits:   map[string][]PastEdit{},
		Before:  map[string]*screen.Element{},
	}}
	if rest, again := strings.CutPrefix(c.Title, "Take back: "); again {
		t.Inverse.Title = rest
	}
	for i, s := range c.Steps {
		noted := len(t.Applied.Steps)
		if err := s.apply(t); err != nil {
			return nil, Taken{}, &StepError{i + 1, len(c.Steps), s, err}
		}
		// Later steps stand on the pieces as this one leaves them.
		if full, ok := t.cat.(*model.Catalog); ok && t.stale {
			t.cat, t.stale = model.NewCatalog(full.Kit, t.w), false
		}
		if len(t.Applied.Steps) == noted { // else it noted itself, as it was applied
			t.Applied.Steps = append(t.Applied.Steps, s)
		}
	}
	slices.Reverse(t.Inverse.Steps)
	return &next, t.Taken, nil
}

// StepError says which step of a change cannot be taken, and why.
type StepError struct {
	Number, Of int
	Step       Step
	Err        error
}

func (e *StepError) Error() string {
	if e.Of == 1 {
		return e.Err.Error()
	}
	return fmt.Sprintf("step %d of %d (%s): %s", e.Number, e.Of, Describe(e.Step), e.Err)
}

func (e *StepError) Unwrap() error { return e.Err }

func (t *taking) undo(s Step) { t.Inverse.Steps = append(t.Inverse.Steps, s) }

// part gives the workspace with a part that may be written.
func (t *taking) part(p model.Part) *model.Workspace {
	if !slices.Contains(t.Parts, p) {
		t.w.Copy(p)
		t.Parts = append(t.Parts, p)
	}
	return t.w
}

// place finds a document.
func (t *taking) place(address string) (int, error) {
	at := slices.IndexFunc(t.w.Docs, func(d *screen.Document) bool { return d.Address() == address })
	if at < 0 {
		return at, fmt.Errorf("there is no %s", address)
	}
	return at, nil
}

// doc gives a document that may be written, and as it was.
func (t *taking) doc(address string) (d, old *screen.Document, err error) {
	at, err := t.place(address)
	if err != nil {
		return nil, nil, err
	}
	old = t.w.Docs[at]
	next := *old
	t.ownDocs()
	t.w.Docs[at] = &next
	t.touch(old)
	return &next, old, nil
}

// ownDocs copies the list of the documents, once.
func (t *taking) ownDocs() {
	if len(t.Docs) == 0 {
		t.w.Docs = slices.Clone(t.w.Docs)
	}
}

// touch notes that a document changed, came or went.
func (t *taking) touch(d *screen.Document) {
	address := d.Address()
	if !slices.Contains(t.Docs, address) {
		t.Docs = append(t.Docs, address)
	}
	if _, known := t.Before[address]; !known {
		t.Before[address] = d.Root
	}
	t.stale = t.stale || d.Kind == screen.PieceDoc
}
