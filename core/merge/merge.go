// Package merge puts two workspaces together that come from one: what either changed is changed, item
// by item in the JSON form, where lists are told by the names of what stands in them: elements by their
// ids, fields and records by theirs. What both changed in another way is a conflict, which is said and
// never decided in silence.
package merge

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
)

// Result is what comes of a merge.
type Result struct {
	// Change brings ours to what both are together; it has no steps where nothing is to do.
	Change    change.Change
	Added     []string   `json:"added"`   // documents and parts that were not here
	Changed   []string   `json:"changed"` // those that become something else here
	Gone      []string   `json:"gone"`    // documents that were taken away there
	Conflicts []Conflict `json:"conflicts"`
}

// kept are the members of a document that say when and how often, and not what.
var kept = []string{"revision", "made", "signed"}

// Three merges theirs into ours. base is what both come from; without it nothing counts as taken away,
// and what differs is a conflict. With preferTheirs, what both changed becomes theirs. Errors say why
// what comes of it would be no workspace.
func Three(base, ours, theirs *model.Workspace, preferTheirs bool) (*Result, error) {
	if ours.Kit.Name != theirs.Kit.Name {
		return nil, fmt.Errorf("it stands on the kit %s, and the workspace here on %s: carry it over first", theirs.Kit.Name, ours.Kit.Name)
	}
	out := &Result{Added: []string{}, Changed: []string{}, Gone: []string{}, Conflicts: []Conflict{}}
	step := &change.Merge{}
	parts := map[model.Part][]byte{}
	for _, p := range model.Parts() {
		if p == model.BaseKit {
			parts[p] = ours.Stored(p)
			continue
		}
		m := merger{where: string(p), theirs: preferTheirs}
		var b any = absent{}
		if base != nil {
			b = decode(base.Stored(p))
		}
		o, t := decode(ours.Stored(p)), decode(theirs.Stored(p))
		merged := m.value("", b, o, t)
		if p != model.Order {
			out.Conflicts = append(out.Conflicts, m.conflicts...)
		}
		parts[p] = encode(merged)
		if p != model.Order && !same(merged, o) {
			if list, ok := o.([]any); ok && len(list) == 0 {
				out.Added = append(out.Added, string(p))
			} else {
				out.Changed = append(out.Changed, string(p))
			}
			step.Parts = append(step.Parts, change.Stored{Name: string(p), Text: string(parts[p])})
		}
	}
	docs := out.documents(step, base, ours, theirs, preferTheirs)
	var order []string
	if err := json.Unmarshal(parts[model.Order], &order); err != nil {
		return nil, err
	}
	for address := range docs {
		if !slices.Contains(order, address) { // taken away on one side, changed on the other
			order = append(order, address)
		}
	}
	order = slices.DeleteFunc(order, func(a string) bool { _, stays := docs[a]; return !stays })
	parts[model.Order] = encode(order)
	step.Order = order
	merged, err := model.Restore(parts, docs)
	if err == nil {
		merged.Name = ours.Name
		_, err = wsfile.Read(wsfile.Write(merged))
	}
	if err != nil {
		return out, fmt.Errorf("put together they are no workspace: %w", err)
	}
	out.Change.Title = "Merge " + theirs.Name
	if len(step.Docs)+len(step.Gone)+len(step.Parts) > 0 {
		out.Change.Steps = []change.Step{step}
	}
	return out, nil
}

// documents merges the documents, notes them in the step, and gives all that stay by address.
func (out *Result) documents(step *change.Merge, base, ours, theirs *model.Workspace, preferTheirs bool) map[string][]byte {
	all := map[string][]byte{}
	find := func(w *model.Workspace, address string) (any, *screen.Document) {
		if w != nil {
			if d, ok := w.Doc(address); ok {
				v := decode(text(d)).(map[string]any)
				for _, k := range kept {
					delete(v, k)
				}
				return v, d
			}
		}
		return absent{}, nil
	}
	var addresses []string
	for _, w := range []*model.Workspace{ours, theirs} {
		for _, d := range w.Docs {
			if !slices.Contains(addresses, d.Address()) {
				addresses = append(addresses, d.Address())
			}
		}
	}
	for _, address := range addresses {
		b, _ := find(base, address)
		o, mine := find(ours, address)
		t, other := find(theirs, address)
		m := merger{where: address, theirs: preferTheirs}
		merged := m.value("", b, o, t)
		if v, ok := merged.(map[string]any); ok {
			m.twice(v, o)
		}
		out.Conflicts = append(out.Conflicts, m.conflicts...)
		switch _, gone := merged.(absent); {
		case gone && mine != nil:
			out.Gone = append(out.Gone, address)
			step.Gone = append(step.Gone, address)
			continue
		case gone:
			continue
		case mine != nil && same(merged, o):
			all[address] = text(mine)
			continue
		case mine == nil:
			out.Added = append(out.Added, address)
		default:
			out.Changed = append(out.Changed, address)
		}
		all[address] = encode(heads(merged.(map[string]any), mine, other, same(merged, t)))
		step.Docs = append(step.Docs, change.Stored{Name: address, Text: string(all[address])})
	}
	return all
}

// heads says of a merged document when and how often: it is a revision after ours, and signed off
// where it is what theirs was when that was.
func heads(merged map[string]any, mine, other *screen.Document, isTheirs bool) map[string]any {
	revision, made := 1, ""
	var signed *screen.SignOff
	if mine != nil {
		revision, made, signed = mine.Revision+1, mine.Made, mine.Signed
	}
	if other != nil {
		if made == "" {
			made = other.Made
		}
		if isTheirs && other.SignedNow() {
			now := *other.Signed
			now.Revision = revision
			signed = &now
		}
	}
	merged["revision"] = revision
	if made != "" {
		merged["made"] = made
	}
	if signed != nil {
		var out screen.Writer
		model.WriteSignOff(&out, signed)
		merged["signed"] = decode(out.B)
	}
	return merged
}

// twice finds elements that each side moved elsewhere, or that one moved and the other changed: one
// stays, where ours has it.
func (m *merger) twice(doc map[string]any, ours any) {
	where := map[string]string{}
	if o, ok := ours.(map[string]any); ok {
		walk(o["root"], "", func(parent string, e map[string]any) bool {
			where[id(e)] = parent
			return true
		})
	}
	count := map[string]int{}
	walk(doc["root"], "", func(_ string, e map[string]any) bool { count[id(e)]++; return true })
	met := map[string]bool{}
	prune(doc["root"], "", func(parent string, e map[string]any) bool {
		n := id(e)
		if count[n] < 2 {
			return true
		}
		stays := !met[n] && (where[n] == parent || !contains(doc["root"], where[n], n))
		if stays {
			met[n] = true
			m.conflicts = append(m.conflicts, Conflict{m.where, "/root/" + n, "", "stands in " + where[n], "stands elsewhere"})
		}
		return stays
	})
}

func id(e map[string]any) string { s, _ := e["id"].(string); return s }

func children(e map[string]any) []any { list, _ := e["children"].([]any); return list }

func walk(v any, parent string, visit func(parent string, e map[string]any) bool) {
	if e, ok := v.(map[string]any); ok && visit(parent, e) {
		for _, c := range children(e) {
			walk(c, id(e), visit)
		}
	}
}

// prune takes elements out of a tree for which stays is false.
func prune(v any, parent string, stays func(parent string, e map[string]any) bool) bool {
	e, ok := v.(map[string]any)
	if !ok || !stays(parent, e) {
		return false
	}
	if list := children(e); len(list) > 0 {
		e["children"] = slices.DeleteFunc(slices.Clone(list), func(c any) bool { return !prune(c, id(e), stays) })
	}
	return true
}

// contains tells whether an element stands directly in another.
func contains(root any, parent, child string) bool {
	found := false
	walk(root, "", func(p string, e map[string]any) bool {
		found = found || p == parent && id(e) == child
		return !found
	})
	return found
}

func text(d *screen.Document) []byte {
	var out screen.Writer
	model.WriteDocument(&out, d)
	return out.B
}

func decode(src []byte) any {
	d := json.NewDecoder(bytes.NewReader(src))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil { // written by us
		panic(fmt.Sprintf("merge: %v in %.80s", err, src))
	}
	return v
}

func encode(v any) []byte {
	var b strings.Builder
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(v); err != nil { // of what was decoded
		panic(err)
	}
	return []byte(strings.TrimSuffix(b.String(), "\n"))
}
