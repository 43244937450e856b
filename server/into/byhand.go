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
	in.Home = r.home(ctx)
	files, _, err := t.Inside(in)
	if err != nil {
		return nil, err
	}
	h := &hand{
		ctx: ctx, o: repo.Options{Markup: markup, Node: r.Node}, target: t, in: in, last: last, docs: documents(in),
		out: &ByHand{Taken: []byhand.Taken{}, Left: []byhand.Left{}}, read: map[string]bool{},
	}
	list, err := h.files(files, func(name string) []byte { return r.read(r.at(name)) })
	if err != nil {
		return nil, err
	}
	kit := byhand.Kit{Kit: in.Kit, Cat: in.Cat, Pieces: map[string]string{}}
	for _, f := range files {
		if id, ok := strings.CutPrefix(f.Doc, string(screen.PieceDoc)+":"); ok && f.Places != nil {
			name, _, _ := strings.Cut(path.Base(f.Path), ".")
			kit.Pieces[byhand.Named(name)] = id
		}
	}
	got, err := byhand.Take(list, kit, h.again)
	if err != nil {
		return nil, err
	}
	h.out.Taken, h.out.Left = append(h.out.Taken, got.Taken...), append(got.Left, h.out.Left...)
	r.settled = got.Settled
	return h.out, nil
}

// hand is a delivery while it is looked at for what was edited by hand.
type hand struct {
	ctx    context.Context
	o      repo.Options
	target deliver.Target
	in     deliver.Input
	last   *record.Record
	docs   map[string]*screen.Document // by address
	read   map[string]bool             // documents whose code was edited and can be read
	out    *ByHand
}

func (h *hand) leave(name, why string) {
	h.out.Left = append(h.out.Left, byhand.Left{Doc: h.last.Files[name].Doc, Path: name, Line: 1, What: "the file", Why: why})
}

// files are those of screens that were edited, each with its three texts; the others that were
// edited are listed.
func (h *hand) files(files []deliver.File, there func(name string) []byte) (list []byhand.File, err error) {
	looked := map[string]deliver.File{}
	elsewhere := map[string]string{} // where the code of a document stands now
	texts := map[string][]byte{}
	for _, f := range files {
		if f.Places == nil || h.docs[f.Doc] == nil {
			continue
		}
		elsewhere[f.Doc] = f.Path
		if theirs := there(f.Path); h.last.Edited(f.Path, theirs) {
			looked[f.Path] = f
			texts[was+f.Path], texts[is+f.Path], texts[now+f.Path] = h.last.Delivered(f.Path), theirs, f.Data
		}
	}
	modules, whys, err := h.parse(texts)
	if err != nil {
		return nil, err
	}
	for _, name := range slices.Sorted(maps.Keys(h.last.Files)) {
		if !h.last.Edited(name, there(name)) {
			continue
		}
		h.out.Files++
		f, ok := looked[name]
		why := cmp.Or(whys[is+name], whys[was+name], whys[now+name])
		doc := h.last.Files[name].Doc
		switch {
		case !ok && doc != "" && h.docs[doc] == nil:
			h.leave(name, "it is of a screen that is not among those asked for")
		case !ok && elsewhere[doc] != "" && path.Base(name) == path.Base(elsewhere[doc]):
			h.leave(name, "this code stands in "+elsewhere[doc]+" now")
		case !ok:
			h.leave(name, noScreen(name))
		case texts[was+name] == nil:
			h.leave(name, "how it was delivered is not known: "+record.Base+" does not have it")
		case why != "":
			h.leave(name, "it cannot be read: "+why)
		default:
			text := func(which string) byhand.Text {
				return byhand.Text{Data: texts[which+name], Module: modules[which+name]}
			}
			h.read[f.Doc] = true
			list = append(list, byhand.File{Path: name, Doc: h.docs[f.Doc], Places: f.Places, Base: text(was), Theirs: text(is), Now: text(now)})
		}
	}
	return list, nil
}

// again is the code of what was read with edits taken into it.
func (h *hand) again(edits map[string][]screen.Edit) (map[string]byhand.File, error) {
	files, _, err := h.target.Inside(edited(h.in, edits))
	if err != nil {
		return nil, err
	}
	texts := map[string][]byte{}
	files = slices.DeleteFunc(files, func(f deliver.File) bool { return f.Places == nil || !h.read[f.Doc] })
	for _, f := range files {
		texts[f.Path] = f.Data
	}
	modules, whys, err := h.parse(texts)
	if err != nil {
		return nil, err
	}
	out := map[string]byhand.File{}
	for _, f := range files {
		if why := whys[f.Path]; why != "" {
			return nil, fmt.Errorf("%s as it would be delivered: %s", f.Path, why)
		}
		out[f.Doc] = byhand.File{Now: byhand.Text{Data: f.Data, Module: modules[f.Path]}, Places: f.Places}
	}
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

// parse reads texts by their names; whys says of those that cannot be read why.
func (h *hand) parse(texts map[string][]byte) (out map[string]*source.Module, whys map[string]string, err error) {
	out, whys = map[string]*source.Module{}, map[string]string{}
	for _, as := range []string{"", "template"} {
		part := map[string][]byte{}
		for name, text := range texts {
			if strings.HasSuffix(name, ".html") == (as == "template") {
				part[name] = text
			}
		}
		got, left, err := repo.Parse(h.ctx, h.o, part, as)
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
