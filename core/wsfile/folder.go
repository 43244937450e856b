package wsfile

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/jsonread"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// The folder form is made for people who keep a workspace in git: a file a document, one for each
// model's records in a set, one a line each, and nothing in them that two people who edit different
// things would both change. So it does not count how often a screen or a shell was edited: one that is
// signed off as it stands says so without a revision.

// headFile is the file of a folder that holds all but documents and sample sets.
const headFile = "workspace.json"

// setFile names a set in its folder; ids begin with no underscore.
const setFile = "_set.json"

// Folder writes the workspace as files by path.
func Folder(w *model.Workspace) map[string][]byte {
	files := map[string][]byte{}
	var top screen.Writer
	top.Open('{')
	head(w, &top)
	top.Key(string(model.Order))
	top.Raw(string(w.Stored(model.Order)))
	w.WriteParts(&top, true, model.Samples)
	top.Close('}')
	files[headFile] = pretty(top.B)
	for _, d := range w.Docs {
		var out screen.Writer
		model.WriteDocument(&out, uncounted(d))
		files[Path(d)] = pretty(out.B)
	}
	for i := range w.Sets {
		dir := fmt.Sprintf("samples/%02d-%s/", i, w.Sets[i].ID)
		only := sample.Set{ID: w.Sets[i].ID, Name: w.Sets[i].Name, Records: map[string][]sample.Record{}}
		var out screen.Writer
		model.WriteSet(&out, &only)
		files[dir+setFile] = pretty(out.B)
		for id, records := range w.Sets[i].Records {
			files[dir+id+".json"] = lines(records)
		}
	}
	return files
}

// lines writes records one a line.
func lines(records []sample.Record) []byte {
	out := []byte{'['}
	for i, rec := range records {
		if i > 0 {
			out = append(out, ',')
		}
		var one screen.Writer
		model.WriteRecord(&one, rec)
		v := jsontext.Value(one.B)
		if err := v.Compact(); err != nil { // written by us
			panic("workspace: " + err.Error())
		}
		out = append(append(out, "\n "...), v...)
	}
	if len(records) > 0 {
		out = append(out, '\n')
	}
	return append(out, "]\n"...)
}

// uncounted is a document as a folder has it. Pieces keep their count: uses that were cut loose tell
// by it how much they miss.
func uncounted(d *screen.Document) *screen.Document {
	if d.Kind == screen.PieceDoc {
		return d
	}
	out := *d
	out.Revision = 0
	if d.Signed != nil {
		signed := *d.Signed
		if signed.Revision = 0; !d.SignedNow() {
			signed.Revision = 1
		}
		out.Signed = &signed
	}
	return &out
}

// count gives a document of a folder the revisions that what it says of its sign-off asks for.
func count(d *screen.Document) {
	if d.Revision > 0 {
		return
	}
	if d.Revision = 1; d.Signed == nil {
		return
	}
	if d.Signed.Revision == 0 {
		d.Signed.Revision = 1
		return
	}
	d.Revision = d.Signed.Revision + 1
}

// Path is the file of a document in the folder form.
func Path(d *screen.Document) string { return string(d.Kind) + "s/" + d.ID + ".json" }

// InFolder tells whether a file of this path belongs to the folder form.
func InFolder(path string) bool {
	dir, name, below := strings.Cut(path, "/")
	return path == headFile || below && strings.HasSuffix(name, ".json") &&
		(dir == "samples" || !strings.Contains(name, "/") && slices.ContainsFunc(kinds, func(k docKind) bool { return k.plural == dir }))
}

// ReadFolder reads what Folder wrote, now or with one file a set, as it was before. Documents stand in
// the order that workspace.json gives, those that it does not name behind them by kind and path.
// Unknown paths are refused, so that no file is silently left out.
func ReadFolder(files map[string][]byte) (*model.Workspace, error) {
	top, ok := files[headFile]
	if !ok {
		return nil, fmt.Errorf("workspace folder: %s is missing", headFile)
	}
	w := &model.Workspace{}
	r, err := jsonread.New(top, jsonread.DefaultLimits)
	var order []string
	if err == nil {
		order, err = readHead(w, r)
	}
	if err != nil {
		return nil, fmt.Errorf("%s: %w", headFile, err)
	}
	sets := map[string]*sample.Set{} // by folder
	records := map[string]map[string][]sample.Record{}
	for _, path := range slices.Sorted(maps.Keys(files)) {
		if path == headFile {
			continue
		}
		if err := readFile(w, sets, records, path, files[path]); err != nil {
			return nil, fmt.Errorf("%s: %w", path, err)
		}
	}
	for dir := range records {
		if sets[dir] == nil {
			return nil, fmt.Errorf("samples/%s: %s is missing", dir, setFile)
		}
	}
	for _, dir := range slices.Sorted(maps.Keys(sets)) {
		maps.Copy(sets[dir].Records, records[dir])
		w.Sets = append(w.Sets, *sets[dir])
	}
	if err := arrange(w, order); err != nil {
		return nil, fmt.Errorf("%s: %w", headFile, err)
	}
	if err := check(w, nil); err != nil {
		return nil, fmt.Errorf("workspace folder: %w", err)
	}
	return w, nil
}

// arrange puts the documents into an order.
func arrange(w *model.Workspace, order []string) error {
	at := make(map[string]int, len(order))
	for i, address := range order {
		if _, ok := w.Doc(address); !ok {
			return fmt.Errorf("the order names %s, whose file is not there", address)
		}
		at[address] = i
	}
	rank := func(d *screen.Document) int {
		if i, ok := at[d.Address()]; ok {
			return i
		}
		return len(order) + slices.IndexFunc(kinds, func(k docKind) bool { return k.kind == d.Kind })
	}
	slices.SortStableFunc(w.Docs, func(a, b *screen.Document) int { return rank(a) - rank(b) })
	return nil
}

func readFile(w *model.Workspace, sets map[string]*sample.Set, records map[string]map[string][]sample.Record, path string, src []byte) error {
	if !InFolder(path) {
		return fmt.Errorf("this file is not known here; accepted: workspace.json and .json files in shells, screens, pieces and samples")
	}
	dir, name, _ := strings.Cut(path, "/")
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return err
	}
	for _, k := range kinds {
		if dir == k.plural {
			d, err := model.ReadDocument(r, k.kind)
			if err != nil {
				return err
			}
			if d.ID+".json" != name {
				return fmt.Errorf("the file holds %s %q; its name should be %s.json", k.kind, d.ID, d.ID)
			}
			count(d)
			w.Docs = append(w.Docs, d)
			return r.End()
		}
	}
	set, file, below := strings.Cut(name, "/")
	if !below || file == setFile {
		s, err := model.ReadSet(r)
		set = strings.TrimSuffix(set, ".json")
		if sets[set] != nil {
			return fmt.Errorf("the set %q is there twice, as a file and as a folder; remove the file", s.ID)
		}
		sets[set] = &s
		return err
	}
	id := strings.TrimSuffix(file, ".json")
	list := []sample.Record{}
	err = r.Array(func(int) error {
		rec, err := model.ReadRecord(r)
		list = append(list, rec)
		return err
	})
	if records[set] == nil {
		records[set] = map[string][]sample.Record{}
	}
	records[set][id] = list
	if err == nil {
		err = r.End()
	}
	return err
}
