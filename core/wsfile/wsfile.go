// Package wsfile reads and writes a workspace as one JSON file, or as a folder with a file
// a screen for people who keep it in git.
package wsfile

import (
	"fmt"
	"maps"
	"slices"
	"strconv"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/expr"
	"ubiquant/core/jsonread"
	"ubiquant/core/model"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// Format is the version of the file format.
const Format = "ubiquant.workspace/1"

// docKind is a kind of document and the key of its list.
type docKind struct {
	kind   screen.DocKind
	plural string
}

var kinds = []docKind{{screen.ShellDoc, "shells"}, {screen.ScreenDoc, "screens"}, {screen.PieceDoc, "pieces"}}

// keys are those that a workspace may have.
func keys() []string {
	out := []string{"format", "name", "kit"}
	for _, k := range kinds {
		out = append(out, k.plural)
	}
	for _, p := range model.Parts() {
		if p != model.Order {
			out = append(out, string(p))
		}
	}
	return out
}

// Read reads a workspace from one JSON text and checks what holds it together.
func Read(src []byte) (*model.Workspace, error) {
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return nil, fmt.Errorf("workspace: %w", err)
	}
	w := &model.Workspace{}
	if err = read(w, r); err == nil {
		err = r.End()
	}
	if err == nil {
		err = check(w, src)
	}
	if err != nil {
		return nil, fmt.Errorf("workspace: %w", err)
	}
	return w, nil
}

func read(w *model.Workspace, r *jsonread.Reader) error {
	_, err := readObject(w, r, false)
	return err
}

// readHead reads what stands in a folder's own file, with the order of its documents.
func readHead(w *model.Workspace, r *jsonread.Reader) ([]string, error) {
	return readObject(w, r, true)
}

func readObject(w *model.Workspace, r *jsonread.Reader, folder bool) (order []string, err error) {
	formatted := false
	err = r.Object(func(key string) error {
		if folder && key == string(model.Order) {
			var err error
			order, err = r.Strings()
			return err
		}
		switch key {
		case "format":
			formatted = true
			_, err := r.OneOf(Format)
			return err
		case "name":
			var err error
			w.Name, err = r.String()
			return err
		case "kit":
			var err error
			w.Kit, err = model.ReadKitRef(r)
			return err
		}
		for _, k := range kinds {
			if key == k.plural {
				return r.Array(func(int) error {
					d, err := model.ReadDocument(r, k.kind)
					w.Docs = append(w.Docs, d)
					return err
				})
			}
		}
		known, err := w.ReadPart(model.Part(key), r)
		if !known {
			return r.Unknown(key, keys()...)
		}
		return err
	})
	if err == nil && !formatted {
		err = r.Fail(
			fmt.Sprintf("an object with \"format\": %q", Format),
			"the text does not say that it is a workspace",
		)
	}
	return order, err
}

// CheckError says what does not fit together, and where.
type CheckError struct {
	Where   string // JSON pointer
	Message string
}

func (e *CheckError) Error() string { return e.Where + ": " + e.Message }

// check looks at what a reader cannot see in one place: ids and references.
func check(w *model.Workspace, src []byte) error {
	seen := map[string]bool{}
	unique := func(where, id string) error {
		if seen[where+" "+id] {
			return &CheckError{where, fmt.Sprintf("the id %q stands twice", id)}
		}
		seen[where+" "+id] = true
		return nil
	}
	for i, a := range w.Apps {
		if err := unique("/applications", a.ID); err != nil || a.ID == "" {
			return orMissing(err, fmt.Sprintf("/applications/%d", i))
		}
		if err := model.CheckID(a.ID); err != nil {
			return &CheckError{fmt.Sprintf("/applications/%d/id", i), err.Error()}
		}
	}
	counts := map[screen.DocKind]int{}
	routes := map[string]string{}
	ids := map[string]bool{}
	for _, d := range w.Docs {
		plural := string(d.Kind) + "s"
		where := fmt.Sprintf("/%s/%d", plural, counts[d.Kind])
		counts[d.Kind]++
		if err := unique("/"+plural, d.ID); err != nil {
			return err
		}
		clear(ids)
		var dup *CheckError
		outlets := 0
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if ids[e.ID] && dup == nil {
				line, column := jsonread.Position(src, e.Offset)
				dup = &CheckError{
					where,
					fmt.Sprintf(
						"the element id %q stands twice in %s %q (second at line %d, column %d)",
						e.ID,
						d.Kind,
						d.ID,
						line,
						column,
					),
				}
			}
			if why := screen.Misnamed(e); why != "" && dup == nil {
				dup = &CheckError{where, why}
			}
			ids[e.ID] = true
			if e.Type == "outlet" {
				outlets++
			}
			return dup == nil
		})
		if dup != nil {
			return dup
		}
		if w.InItself(d) {
			return &CheckError{where + "/shell", fmt.Sprintf("the shell %q stands in itself", d.ID)}
		}
		switch d.Kind {
		case screen.ShellDoc:
			if outlets != 1 && d.Source == "" {
				return &CheckError{where, fmt.Sprintf("the shell %q has %d outlets; accepted: one", d.ID, outlets)}
			}
		case screen.ScreenDoc:
			if d.Shell != "" {
				if _, ok := w.Doc("shell:" + d.Shell); !ok {
					return &CheckError{where + "/shell", fmt.Sprintf("there is no shell %q", d.Shell)}
				}
			}
			if !slices.ContainsFunc(w.Apps, func(a model.App) bool { return a.ID == d.App }) {
				return &CheckError{where + "/application", fmt.Sprintf("there is no application %q", d.App)}
			}
			if err := model.CheckRoute(d.Route); err != nil {
				return &CheckError{where + "/route", err.Error()}
			}
			if other, taken := routes[d.App+d.Route]; taken && !d.Removed {
				return &CheckError{where + "/route", fmt.Sprintf("the route %s is taken by %s", d.Route, other)}
			}
			if !d.Removed {
				routes[d.App+d.Route] = d.ID
			}
		}
	}
	for i := range w.Models {
		where := fmt.Sprintf("/models/%d", i)
		if err := unique("/models", w.Models[i].ID); err != nil {
			return err
		}
		if err := w.CheckModel(&w.Models[i]); err != nil {
			return &CheckError{where, err.Error()}
		}
	}
	if err := expr.CheckComputed(w.ModelMap()); err != nil {
		return &CheckError{"/models", err.Error()}
	}
	for i := range w.Queries {
		if err := w.CheckQuery(&w.Queries[i]); err != nil {
			return &CheckError{fmt.Sprintf("/queries/%d", i), err.Error()}
		}
		if slices.ContainsFunc(w.Queries[:i], func(o sample.Query) bool { return o.ID == w.Queries[i].ID }) {
			return &CheckError{fmt.Sprintf("/queries/%d", i), "two queries are called " + w.Queries[i].ID}
		}
	}
	for i := range w.Bases {
		if err := model.CheckBase(&w.Bases[i]); err != nil {
			return &CheckError{fmt.Sprintf("/bases/%d", i), err.Error()}
		}
	}
	for i := range w.Sources {
		if err := w.CheckSource(&w.Sources[i]); err != nil {
			return &CheckError{fmt.Sprintf("/sources/%d", i), err.Error()}
		}
	}
	if err := checkLanguages(w); err != nil {
		return err
	}
	for i := range w.Pictures {
		if err := w.Pictures[i].Check(); err != nil {
			return &CheckError{fmt.Sprintf("/pictures/%d", i), err.Error()}
		}
	}
	for i := range w.Plans {
		if err := w.CheckPlan(&w.Plans[i]); err != nil {
			return &CheckError{fmt.Sprintf("/plans/%d", i), err.Error()}
		}
		if slices.ContainsFunc(w.Plans[:i], func(o picture.Plan) bool { return o.Screen == w.Plans[i].Screen }) {
			return &CheckError{fmt.Sprintf("/plans/%d", i), "two plans are of the screen " + w.Plans[i].Screen}
		}
	}
	models := w.ModelMap()
	for i, s := range w.Sets {
		if err := model.CheckID(s.ID); err != nil {
			return &CheckError{fmt.Sprintf("/samples/%d/id", i), err.Error()}
		}
		for _, id := range slices.Sorted(maps.Keys(s.Records)) {
			m, ok := models[id]
			if !ok {
				return &CheckError{fmt.Sprintf("/samples/%d/records", i), fmt.Sprintf("there is no model %q", id)}
			}
			for j, rec := range s.Records[id] {
				if err := m.Check(rec); err != nil {
					return &CheckError{fmt.Sprintf("/samples/%d/records/%s/%d", i, id, j), err.Error()}
				}
			}
		}
	}
	return nil
}

func orMissing(err error, where string) error {
	if err != nil {
		return err
	}
	return &CheckError{where, "the id is missing"}
}

// Write writes the workspace as one JSON text: one stable form, indented by one
// space, so that files compare well.
func Write(w *model.Workspace) []byte {
	var out screen.Writer
	out.Open('{')
	head(w, &out)
	for _, k := range kinds {
		out.Key(k.plural)
		out.Open('[')
		for _, d := range w.Docs {
			if d.Kind == k.kind {
				model.WriteDocument(&out, d)
			}
		}
		out.Close(']')
	}
	w.WriteParts(&out, true)
	out.Close('}')
	return pretty(out.B)
}

func pretty(b []byte) []byte {
	v := jsontext.Value(b)
	// The writer makes valid JSON by construction; a failure would be a defect here.
	if err := v.Indent(jsontext.WithIndent(" ")); err != nil {
		panic("workspace: " + err.Error())
	}
	return append(v, '\n')
}

func head(w *model.Workspace, out *screen.Writer) {
	out.Field("format", Format)
	out.Field("name", w.Name)
	out.Key("kit")
	model.WriteKitRef(out, w.Kit)
	w.WriteParts(out, false)
}

// checkLanguages holds what is said in other languages against the languages that there are.
func checkLanguages(w *model.Workspace) error {
	known := map[string]bool{} // whether something can be said in it
	written := false
	for i, l := range w.Languages {
		at := fmt.Sprintf("/languages/%d", i)
		if err := texts.Check(l.ID); err != nil {
			return &CheckError{at + "/id", err.Error()}
		}
		if _, twice := known[l.ID]; twice {
			return &CheckError{at + "/id", "the language " + l.ID + " stands twice"}
		}
		if l.Written && written {
			return &CheckError{at + "/written", "the texts are written in one language"}
		}
		known[l.ID], written = !l.Written, written || l.Written
	}
	said := map[string]bool{}
	for i := range w.Translations {
		s, at := &w.Translations[i], fmt.Sprintf("/translations/%d", i)
		if !known[s.Language] {
			return &CheckError{at + "/language", "the texts are not translated into " + strconv.Quote(s.Language)}
		}
		if _, err := texts.Parse(s.Is); err != nil {
			return &CheckError{at + "/is", err.Error()}
		}
		if said[s.Address()] {
			return &CheckError{at + "/key", s.Key + " is said twice in " + s.Language}
		}
		said[s.Address()] = true
	}
	return nil
}
