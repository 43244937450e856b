package change

import (
	"slices"
	"strings"

	"ubiquant/core/screen"
)

// Logged is a change as the log has it.
type Logged struct {
	Seq    int64
	Undoes int64 // the change that it takes back, or 0
	Author string
	Change Change
}

// Clash finds the change that taking another back would overwrite: one that is in effect
// and set the same thing since. since are the later changes, the oldest first. Trees are
// held against each other by Overwritten.
func Clash(inverse Change, seq int64, since []Logged) (Logged, bool) {
	var claims []string
	for _, s := range inverse.Steps {
		if _, tree := s.(*Edit); !tree {
			claims = append(claims, s.sets()...)
		}
	}
	for _, l := range effective(seq, since) {
		for _, s := range l.Change.Steps {
			for _, set := range s.sets() {
				if slices.ContainsFunc(claims, func(c string) bool { return within(set, c) || within(c, set) }) {
					return l, true
				}
			}
		}
	}
	return Logged{}, false
}

// effective leaves out changes that were taken back and those that took them back. One
// that was done again counts.
func effective(seq int64, since []Logged) []Logged {
	base := map[int64]int64{} // which change an entry does or undoes in the end
	on := map[int64]bool{}
	for _, l := range since {
		of := l.Seq
		if l.Undoes > seq {
			if b, known := base[l.Undoes]; known {
				of = b
			}
		}
		base[l.Seq] = of
		on[of] = of == l.Seq || !on[of]
	}
	return slices.DeleteFunc(slices.Clone(since), func(l Logged) bool { return base[l.Seq] != l.Seq || !on[l.Seq] })
}

// within reports whether an address lies in another, as "screen:x head" in "screen:x".
func within(address, in string) bool {
	rest, ok := strings.CutPrefix(address, in)
	return ok && (rest == "" || rest[0] == ' ' || rest[0] == '/')
}

// Overwritten finds an element that taking a change back would overwrite though it is no
// longer as the change left it. left gives a document as it stood right after the change,
// now as it stands.
func Overwritten(inverse Change, left, now func(doc string) *screen.Document) (doc, element string) {
	for _, s := range inverse.Steps {
		edit, ok := s.(*Edit)
		if !ok {
			continue
		}
		was, is := left(edit.Doc), now(edit.Doc)
		if was == nil || is == nil || was.Root == is.Root {
			continue
		}
		for _, e := range edit.Edits {
			if id := screen.Overwrites(e, was.Root, is.Root); id != "" {
				return edit.Doc, id
			}
		}
	}
	return "", ""
}
