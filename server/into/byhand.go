package into

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"ubiquant/core/byhand"
	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/record"
	"ubiquant/core/screen"
	"ubiquant/core/source"
	"ubiquant/server/assets"
	"ubiquant/server/repo"
)

// ByHand is what was edited by hand in the code of a delivery.
type ByHand struct {
	Files int            `json:"files"` // that were edited
	Taken []byhand.Taken `json:"taken"` // what is an edit of a screen, too
	Left  []byhand.Left  `json:"left"`  // what stays in the code alone
}

// ByHand reads what was edited by hand since the last delivery as edits of what is delivered now.
// A plan that is made afterwards renews files of which all is in the screens already.
func (r *Repo) ByHand(ctx context.Context, t deliver.Target, in deliver.Input) (*ByHand, error) {
	markup, err := assets.Markup()
	if err != nil {
		return nil, err
	}
	out := &ByHand{Taken: []byhand.Taken{}, Left: []byhand.Left{}}
	last, err := r.Record()
	if err != nil {
		return nil, err
	}
	switch {
	case len(last.Files) == 0:
		return nil, fmt.Errorf("nothing was delivered into %s yet", path.Join(r.Dir, r.Folder))
	case last.Target != t.ID:
		return nil, fmt.Errorf("%s holds a delivery for %s, not for %s", r.Folder, last.Target, t.ID)
	}
	files, _, err := t.Inside(in)
	if err != nil {
		return nil, err
	}
	reader := readings{repo.Options{Markup: markup, Node: r.Node}}
	kit := byhand.Kit{Kit: in.Kit, Cat: in.Cat, Pieces: map[string]string{}}
	docs := documents(in)
	looked := map[string]deliver.File{}
	texts := map[string][]byte{}
	leave := func(name, why string) {
		out.Left = append(out.Left, byhand.Left{Doc: last.Files[name].Doc, Path: name, Line: 1, What: "the file", Why: why})
	}
	for _, f := range files {
		if id, ok := strings.CutPrefix(f.Doc, string(screen.PieceDoc)+":"); ok && f.Places != nil {
			name, _, _ := strings.Cut(path.Base(f.Path), ".")
			kit.Pieces[byhand.Named(name)] = id
		}
		theirs := r.read(r.at(f.Path))
		if f.Places == nil || docs[f.Doc] == nil || !last.Edited(f.Path, theirs) {
			continue
		}
		out.Files++
		looked[f.Path] = f
		if base := last.Delivered(f.Path); base == nil {
			leave(f.Path, "how it was delivered is not known: "+record.Base+" does not have it")
		} else {
			texts[was+f.Path], texts[is+f.Path], texts[now+f.Path] = base, theirs, f.Data
		}
	}
	modules, whys, err := reader.parse(ctx, texts)
	if err != nil {
		return nil, err
	}
	var list []byhand.File
	for _, name := range slices.Sorted(maps.Keys(looked)) {
		if texts[was+name] == nil {
			continue
		}
		text := func(which string) byhand.Text {
			return byhand.Text{Data: texts[which+name], Module: modules[which+name]}
		}
		if why := cmp.Or(whys[is+name], whys[was+name], whys[now+name]); why != "" {
			leave(name, "it cannot be read: "+why)
			continue
		}
		f := looked[name]
		list = append(list, byhand.File{Path: name, Doc: docs[f.Doc], Places: f.Places, Base: text(was), Theirs: text(is), Now: text(now)})
	}
	for _, name := range slices.Sorted(maps.Keys(last.Files)) {
		if _, ok := looked[name]; !ok && last.Edited(name, r.read(r.at(name))) {
			out.Files++
			leave(name, noScreen(name))
		}
	}
	read, err := byhand.Take(list, kit, func(edits map[string][]screen.Edit) (map[string]byhand.File, error) {
		files, _, err := t.Inside(edited(in, edits))
		if err != nil {
			return nil, err
		}
		texts := map[string][]byte{}
		for _, f := range files {
			if _, ok := looked[f.Path]; ok {
				texts[f.Path] = f.Data
			}
		}
		modules, whys, err := reader.parse(ctx, texts)
		if err != nil {
			return nil, err
		}
		again := map[string]byhand.File{}
		for _, f := range files {
			if _, ok := looked[f.Path]; !ok {
				continue
			}
			if why := whys[f.Path]; why != "" {
				return nil, fmt.Errorf("%s as it would be delivered: %s", f.Path, why)
			}
			again[f.Path] = byhand.File{Now: byhand.Text{Data: f.Data, Module: modules[f.Path]}, Places: f.Places}
		}
		return again, nil
	})
	if err != nil {
		return nil, err
	}
	out.Taken, out.Left = append(out.Taken, read.Taken...), append(read.Left, out.Left...)
	r.settled = read.Settled
	return out, nil
}

// The three texts of a file, as they are told apart by their names.
const was, is, now = "was/", "is/", "now/"

// Settle is ByHand where something was edited by hand, for a plan that is made afterwards; nil where
// nothing was. Where it cannot be looked at, said says why.
func (r *Repo) Settle(ctx context.Context, t deliver.Target, in deliver.Input) (h *ByHand, said string) {
	last, err := r.Record()
	if err != nil {
		return nil, "" // the plan says so
	}
	for name := range last.Files {
		if last.Edited(name, r.read(r.at(name))) {
			if h, err = r.ByHand(ctx, t, in); err != nil {
				return nil, "what was edited by hand could not be held against the screens: " + err.Error()
			}
			return h, ""
		}
	}
	return nil, ""
}

// Edits are patches of what was edited by hand in delivered files, by path, where it is known how
// they were delivered.
func (r *Repo) Edits() map[string]string {
	out := map[string]string{}
	last, err := r.Record()
	if err != nil {
		return out
	}
	for name := range last.Files {
		base, theirs := last.Delivered(name), r.read(r.at(name))
		if base != nil && last.Edited(name, theirs) {
			out[name] = record.Patch([]record.Change{{Path: name, Was: base, Is: theirs}}, "")
		}
	}
	return out
}

// Steps are what takes the edits into a workspace.
func (h *ByHand) Steps() []change.Step {
	by := map[string]*change.Edit{}
	var out []change.Step
	for _, t := range h.Taken {
		if by[t.Doc] == nil {
			by[t.Doc] = &change.Edit{Doc: t.Doc}
			out = append(out, by[t.Doc])
		}
		by[t.Doc].Edits = append(by[t.Doc].Edits, t.Edits...)
	}
	return out
}

// noScreen says why what was edited in a file is nothing of a screen.
func noScreen(name string) string {
	switch {
	case strings.HasPrefix(name, "texts/"):
		return "words in it are taken in by ubiquant texts --take"
	case strings.HasSuffix(name, ".component.ts"):
		return "it is code beside the markup; own code stands in the file for it"
	case strings.HasSuffix(name, ".html"):
		return "pages that are written of what screens show are not read back"
	}
	return "no screen is made of it"
}

// documents are what is delivered, by address.
func documents(in deliver.Input) map[string]*screen.Document {
	out := map[string]*screen.Document{}
	for _, d := range in.Screens {
		out[d.Address()] = d
	}
	for _, list := range []map[string]*screen.Document{in.Shells, in.Pieces} {
		for _, d := range list {
			out[d.Address()] = d
		}
	}
	return out
}

// edited is what is delivered with edits taken into its documents.
func edited(in deliver.Input, edits map[string][]screen.Edit) deliver.Input {
	with := func(d *screen.Document) *screen.Document {
		list := edits[d.Address()]
		if len(list) == 0 {
			return d
		}
		root, _, err := screen.ApplyAll(d.Root, list, in.Cat)
		if err != nil { // they were taken one by one
			return d
		}
		next := *d
		next.Root = root
		return &next
	}
	screens := make([]*screen.Document, len(in.Screens))
	for i, d := range in.Screens {
		screens[i] = with(d)
	}
	in.Screens, in.Shells, in.Pieces = screens, maps.Clone(in.Shells), maps.Clone(in.Pieces)
	for _, list := range []map[string]*screen.Document{in.Shells, in.Pieces} {
		for id, d := range list {
			list[id] = with(d)
		}
	}
	return in
}

// readings has markup read.
type readings struct{ o repo.Options }

// parse reads texts by their names; whys says of those that cannot be read why.
func (r readings) parse(ctx context.Context, texts map[string][]byte) (out map[string]*source.Module, whys map[string]string, err error) {
	out, whys = map[string]*source.Module{}, map[string]string{}
	for _, as := range []string{"", "template"} {
		part := map[string][]byte{}
		for name, text := range texts {
			if strings.HasSuffix(name, ".html") == (as == "template") {
				part[name] = text
			}
		}
		got, left, err := repo.Parse(ctx, r.o, part, as)
		if err != nil {
			return nil, nil, err
		}
		for name := range part {
			m := got[name]
			switch {
			case m == nil && len(left) > 0:
				whys[name] = left[0].What
				for _, l := range left {
					if l.File == name {
						whys[name] = l.What
					}
				}
			case m == nil:
				whys[name] = "nothing was read"
			case len(m.Problems) > 0:
				whys[name] = m.Problems[0].What
			}
			out[name] = m
		}
	}
	return out, whys, nil
}
