package workspace

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/jsonread"
	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Do names what one step of a change does.
type Do string

const (
	EditDoc    Do = "edit"    // Edits on Doc, made at revision Base
	Create     Do = "create"  // Document is new
	Discard    Do = "discard" // takes back a Create
	Meta       Do = "meta"    // title, route, shell, owner of Doc, from Document
	Remove     Do = "remove"  // Doc, recoverably
	Restore    Do = "restore" // Doc, once removed
	PutHouse   Do = "house"   // House is settled
	DropHouse  Do = "unhouse" // the house rule House.ID is lifted
	PutStand   Do = "stand"   // Stand is let stand
	DropStand  Do = "unstand"
	TuneRule   Do = "tune"  // the rule Tuning.Rule is held so; an empty tuning is as it comes
	Sign       Do = "sign"  // Doc is signed off by Signed; nil takes it back
	PutTheme   Do = "theme" // Theme is as given, new or changed
	DropTheme  Do = "untheme"
	PutIcon    Do = "icon"
	DropIcon   Do = "unicon"
	PutFont    Do = "font"
	DropFont   Do = "unfont"
	LeaveOut   Do = "leave-out" // the kit's entry Left.Tag is not used here
	TakeIn     Do = "take-in"
	Install    Do = "install"    // App has Packages
	PutState   Do = "state"      // State is one of Doc's
	DropState  Do = "unstate"    // it is no longer
	EditState  Do = "edit-state" // State.Edits are more differences of it
	Mark       Do = "mark"       // Doc as it stands now bears the change's title; nothing changes
	PutProps   Do = "props"      // the piece Doc leaves Document.Props to its uses
	PutModel   Do = "model"      // Model is as given, new or changed; records and expressions follow
	DropModel  Do = "unmodel"
	PutRecords Do = "records" // Rows of a sample set
	PutSet     Do = "set"     // Set is as given
	DropSet    Do = "unset"
	PutQuery   Do = "query" // Query is as given, new or changed
	DropQuery  Do = "unquery"
	PutSource  Do = "source" // Source is where records of its model come from
	DropSource Do = "unsource"
	PutBase    Do = "base" // Origin is an address that data may come from
	DropBase   Do = "unbase"
)

// Step is one step of a change. Which fields count depends on Do.
type Step struct {
	Do       Do
	Doc      string // kind:id
	Base     int    // revision the edits were made on; 0 means the current one
	Edits    []screen.Edit
	Document *screen.Document
	House    *audit.HouseRule
	Stand    *audit.LetStand
	Tuning   *audit.Tuning
	Signed   *screen.SignOff
	Theme    *kit.Theme
	Icon     *kit.OwnIcon
	Font     *kit.Font
	Left     *LeftOut
	App      string
	Packages map[string]string
	State    *screen.State
	Model    *sample.Model
	Renames  map[string]string // fields of Model, old name to new
	Rows     *Rows
	Set      *sample.Set
	Query    *sample.Query
	Source   *sample.Source
	Origin   *sample.Base
	Raw      bool // restores a model: its records come back by other steps
}

// Change is what is taken, logged and undone as one.
type Change struct {
	Title string // in words, for the history
	Steps []Step
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
	Docs    []string              // documents that changed
	Edits   map[string][]PastEdit // by document
	Rules   bool                  // house rules or routes changed: everything is to be checked again
	Dress   bool                  // what the team adds to the kit changed
	Data    bool                  // models or records changed
	Before  map[string]*screen.Element
}

// Apply takes a change: all of it or nothing. The workspace given stays as it is.
func Apply(w *Workspace, c Change, cat kit.Catalog, past Past) (*Workspace, Taken, error) {
	next := *w
	next.Docs = slices.Clone(w.Docs)
	next.Own, next.Apps = w.Own.clone(), slices.Clone(w.Apps)
	next.House, next.Stands, next.Tunings = slices.Clone(w.House), slices.Clone(w.Stands), slices.Clone(w.Tunings)
	t := Taken{
		Applied: Change{Title: c.Title},
		Inverse: Change{Title: "Take back: " + c.Title},
		Edits:   map[string][]PastEdit{},
		Before:  map[string]*screen.Element{},
	}
	if rest, again := strings.CutPrefix(c.Title, "Take back: "); again {
		t.Inverse.Title = rest
	}
	for i, s := range c.Steps {
		if err := next.step(s, cat, past, &t); err != nil {
			return nil, Taken{}, &StepError{i + 1, len(c.Steps), s, err}
		}
		// Later steps stand on the pieces as this one leaves them.
		if c, ok := cat.(*Catalog); ok &&
			(strings.HasPrefix(s.Doc, "piece:") || s.Document != nil && s.Document.Kind == screen.PieceDoc) {
			cat = NewCatalog(c.Kit, &next)
		}
		if s.Do != EditDoc { // editStep notes its own, rebased
			t.Applied.Steps = append(t.Applied.Steps, s)
		}
	}
	slices.Reverse(t.Inverse.Steps)
	return &next, t, nil
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
	return fmt.Sprintf("step %d of %d (%s %s): %s", e.Number, e.Of, e.Step.Do, e.Step.Doc, e.Err)
}

func (e *StepError) Unwrap() error { return e.Err }

func (t *Taken) touch(doc string) {
	if !slices.Contains(t.Docs, doc) {
		t.Docs = append(t.Docs, doc)
	}
}

func (t *Taken) undo(s Step) { t.Inverse.Steps = append(t.Inverse.Steps, s) }

func (w *Workspace) step(s Step, cat kit.Catalog, past Past, t *Taken) error {
	switch s.Do {
	case PutHouse, DropHouse:
		return w.houseStep(s, t)
	case TuneRule:
		return w.tuneStep(s, t)
	case PutStand, DropStand:
		return w.standStep(s, t)
	case PutModel,
		DropModel,
		PutRecords,
		PutSet,
		DropSet,
		PutQuery,
		DropQuery,
		PutSource,
		DropSource,
		PutBase,
		DropBase:
		return w.dataStep(s, t)
	case PutTheme, DropTheme, PutIcon, DropIcon, PutFont, DropFont, LeaveOut, TakeIn:
		return w.ownStep(s, cat, t)
	case Install:
		i := slices.IndexFunc(w.Apps, func(a App) bool { return a.ID == s.App })
		if i < 0 {
			return fmt.Errorf("there is no application %q", s.App)
		}
		t.undo(Step{Do: Install, App: s.App, Packages: w.Apps[i].Packages})
		w.Apps[i].Packages = s.Packages
		t.Rules = true
		return nil
	case Create:
		return w.createStep(s, cat, t)
	}
	at := slices.IndexFunc(w.Docs, func(d *screen.Document) bool { return string(d.Kind)+":"+d.ID == s.Doc })
	if at < 0 {
		return fmt.Errorf("there is no %s", s.Doc)
	}
	old := w.Docs[at]
	d := *old
	w.Docs[at] = &d
	t.touch(s.Doc)
	if _, known := t.Before[s.Doc]; !known {
		t.Before[s.Doc] = old.Root
	}
	switch s.Do {
	case EditDoc:
		return w.editStep(s, &d, cat, past, t)
	case Discard:
		w.Docs = slices.Delete(w.Docs, at, at+1)
		t.undo(Step{Do: Create, Document: old})
		t.Rules = true
	case Mark:
		if strings.TrimSpace(t.Applied.Title) == "" {
			return fmt.Errorf("a version has a name")
		}
		t.undo(Step{Do: Mark, Doc: s.Doc})
		return nil
	case PutProps:
		return w.propsStep(s, &d, t)
	case PutState, DropState, EditState:
		return w.stateStep(s, &d, cat, t)
	case Meta:
		if s.Document == nil {
			return fmt.Errorf("what to change is not given")
		}
		meta := *s.Document
		meta.Kind, meta.App = old.Kind, old.App // a screen stays in its application
		if err := w.checkMeta(&meta, s.Doc); err != nil {
			return err
		}
		d.Title, d.Route, d.Shell, d.Owner = s.Document.Title, s.Document.Route, s.Document.Shell, s.Document.Owner
		t.undo(
			Step{
				Do:  Meta,
				Doc: s.Doc,
				Document: &screen.Document{
					Kind:  old.Kind,
					ID:    old.ID,
					Title: old.Title,
					Route: old.Route,
					Shell: old.Shell,
					Owner: old.Owner,
					App:   old.App,
					Root:  old.Root,
				},
			},
		)
		t.Rules = t.Rules || d.Route != old.Route
	case Remove, Restore:
		if old.Removed == (s.Do == Remove) {
			return fmt.Errorf("%s is already so", s.Doc)
		}
		if s.Do == Restore {
			if err := w.checkMeta(old, s.Doc); err != nil {
				return err
			}
		}
		if s.Do == Remove && old.Kind != screen.ScreenDoc {
			if user := w.userOf(old); user != "" {
				return fmt.Errorf("%s is in use by %s", s.Doc, user)
			}
		}
		d.Removed = s.Do == Remove
		t.undo(Step{Do: map[Do]Do{Remove: Restore, Restore: Remove}[s.Do], Doc: s.Doc})
		t.Rules = true
	case Sign:
		d.Signed = s.Signed
		t.undo(Step{Do: Sign, Doc: s.Doc, Signed: old.Signed})
		if s.Signed != nil {
			signed := *s.Signed
			signed.Revision = d.Revision
			d.Signed = &signed
		}
	default:
		return fmt.Errorf("the step %q is not known", s.Do)
	}
	return nil
}

func (w *Workspace) editStep(s Step, d *screen.Document, cat kit.Catalog, past Past, t *Taken) error {
	if d.Removed {
		return fmt.Errorf("%s is removed; restore it first", s.Doc)
	}
	edits := s.Edits
	if s.Base > d.Revision {
		return fmt.Errorf("%s is at revision %d, the edit speaks of %d", s.Doc, d.Revision, s.Base)
	}
	if s.Base > 0 && s.Base < d.Revision && past != nil {
		steps, ok := past.Since(s.Doc, s.Base)
		if !ok {
			return &screen.Refusal{
				Edit:    edits[0].Op,
				Element: edits[0].ID,
				Reason: fmt.Sprintf(
					"it was made on revision %d, too long before %d; reload the screen",
					s.Base,
					d.Revision,
				),
			}
		}
		rebased := make([]screen.Edit, len(edits))
		for i, e := range edits {
			for _, p := range steps {
				var err error
				if e, err = screen.Rebase(e, p.Edit, p.Before, p.After); err != nil {
					return err
				}
			}
			rebased[i] = e
		}
		edits = rebased
	}
	inverses := make([]screen.Edit, 0, len(edits))
	for _, e := range edits {
		next, inv, err := screen.Apply(d.Root, e, cat)
		if err != nil {
			return err
		}
		t.Edits[s.Doc] = append(t.Edits[s.Doc], PastEdit{e, d.Root, next})
		d.Root = next
		d.Revision++
		inverses = append(inverses, inv)
	}
	if d.Root.Count() > maxElements {
		return fmt.Errorf("%s would have more than %d elements", s.Doc, maxElements)
	}
	if err := w.checkPieces(d); err != nil {
		return err
	}
	slices.Reverse(inverses)
	t.Applied.Steps = append(t.Applied.Steps, Step{Do: EditDoc, Doc: s.Doc, Edits: edits})
	t.undo(Step{Do: EditDoc, Doc: s.Doc, Edits: inverses})
	return nil
}

// SignOff is the change that signs a document off. What the tool filled in on it
// is kept: from then on it counts as what the team does.
func SignOff(d *screen.Document, by, when string) Change {
	doc := string(d.Kind) + ":" + d.ID
	c := Change{Title: "Sign off " + d.Title}
	var keep []screen.Edit
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if slices.ContainsFunc(e.Props, func(p screen.Prop) bool { return p.Filled }) {
			keep = append(keep, screen.Edit{Op: screen.Keep, ID: e.ID})
		}
		return true
	})
	if len(keep) > 0 {
		c.Steps = append(c.Steps, Step{Do: EditDoc, Doc: doc, Edits: keep})
	}
	c.Steps = append(c.Steps, Step{Do: Sign, Doc: doc, Signed: &screen.SignOff{By: by, When: when}})
	return c
}

// maxElements bounds one document.
const maxElements = 20_000

func (w *Workspace) createStep(s Step, cat kit.Catalog, t *Taken) error {
	if s.Document == nil || s.Document.Root == nil {
		return fmt.Errorf("what to create is not given")
	}
	d := *s.Document
	key := string(d.Kind) + ":" + d.ID
	if _, taken := w.Doc(key); taken {
		return fmt.Errorf("%s exists already", key)
	}
	if !idPattern.MatchString(d.ID) {
		return fmt.Errorf("%q cannot be an id; accepted: lower-case letters, digits and dashes", d.ID)
	}
	if err := w.checkMeta(&d, key); err != nil {
		return err
	}
	ids := map[string]bool{}
	var bad error
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.ID == "" || ids[e.ID] {
			bad = fmt.Errorf("the element id %q is empty or stands twice", e.ID)
		} else if _, ok := cat.Component(e.Type); !ok && bad == nil {
			bad = fmt.Errorf("the kit has no component %q", e.Type)
		}
		ids[e.ID] = true
		return bad == nil
	})
	if bad == nil {
		bad = w.checkPieces(&d)
	}
	if bad != nil {
		return bad
	}
	if d.Revision == 0 {
		d.Revision = 1
	}
	w.Docs = append(w.Docs, &d)
	t.touch(key)
	t.Rules = true
	t.undo(Step{Do: Discard, Doc: key})
	return nil
}

func (w *Workspace) checkMeta(d *screen.Document, key string) error {
	if strings.TrimSpace(d.Title) == "" {
		return fmt.Errorf("a title is needed")
	}
	if d.Shell != "" {
		if shell, ok := w.Doc("shell:" + d.Shell); !ok || shell.Removed {
			return fmt.Errorf("there is no shell %q", d.Shell)
		}
		if d.Kind == screen.ShellDoc && ("shell:"+d.Shell == key || w.inItself(d)) {
			return fmt.Errorf("the shell %s would stand in itself", d.Title)
		}
	}
	if d.Kind != screen.ScreenDoc {
		return nil
	}
	if !strings.HasPrefix(d.Route, "/") || strings.ContainsAny(d.Route, " ?#") {
		return fmt.Errorf(
			"the route %q cannot be used; accepted: a path that begins with / and has no spaces",
			d.Route,
		)
	}
	if !slices.ContainsFunc(w.Apps, func(a App) bool { return a.ID == d.App }) {
		return fmt.Errorf("there is no application %q", d.App)
	}
	for _, o := range w.Docs {
		if o.Kind == screen.ScreenDoc && !o.Removed && o.App == d.App && o.Route == d.Route && "screen:"+o.ID != key {
			return fmt.Errorf("the route %s is taken by the screen %s", d.Route, o.Title)
		}
	}
	return nil
}

func (w *Workspace) userOf(d *screen.Document) string {
	for _, o := range w.Docs {
		if o.Removed {
			continue
		}
		if d.Kind == screen.ShellDoc && o.Shell == d.ID {
			return o.Title
		}
		used := false
		o.Root.Walk(func(e, _ *screen.Element) bool {
			used = used || e.Type == screen.PiecePrefix+d.ID
			return !used
		})
		if d.Kind == screen.PieceDoc && used {
			return o.Title
		}
	}
	return ""
}

func (w *Workspace) houseStep(s Step, t *Taken) error {
	if s.House == nil {
		return fmt.Errorf("no house rule is given")
	}
	i := slices.IndexFunc(w.House, func(h audit.HouseRule) bool { return h.ID == s.House.ID })
	t.Rules = true
	if s.Do == DropHouse {
		if i < 0 {
			return fmt.Errorf("there is no house rule %q", s.House.ID)
		}
		old := w.House[i]
		w.House = slices.Delete(w.House, i, i+1)
		t.undo(Step{Do: PutHouse, House: &old})
		return nil
	}
	if strings.TrimSpace(s.House.Reason) == "" {
		return fmt.Errorf("a house rule needs a reason")
	}
	if i >= 0 {
		return fmt.Errorf("the house rule %q exists already", s.House.ID)
	}
	for _, h := range w.House {
		if h.Spot == s.House.Spot && h.Prop == s.House.Prop {
			return fmt.Errorf("%s of %s is settled already: %s", h.Prop, h.Words, h.Value)
		}
	}
	w.House = append(w.House, *s.House)
	t.undo(Step{Do: DropHouse, House: s.House})
	return nil
}

func (w *Workspace) tuneStep(s Step, t *Taken) error {
	if s.Tuning == nil {
		return fmt.Errorf("no rule is given")
	}
	rule, ok := rules.Find(s.Tuning.Rule)
	if !ok {
		return fmt.Errorf("there is no rule %q", s.Tuning.Rule)
	}
	if err := rule.Check(s.Tuning); err != nil {
		return err
	}
	t.Rules = true
	before := audit.Tuning{Rule: rule.ID}
	w.Tunings = slices.DeleteFunc(w.Tunings, func(o audit.Tuning) bool {
		if o.Rule == rule.ID {
			before = o
		}
		return o.Rule == rule.ID
	})
	if !s.Tuning.Empty() {
		w.Tunings = append(w.Tunings, *s.Tuning)
		slices.SortFunc(w.Tunings, func(a, b audit.Tuning) int { return strings.Compare(a.Rule, b.Rule) })
	}
	t.undo(Step{Do: TuneRule, Tuning: &before})
	return nil
}

func (w *Workspace) standStep(s Step, t *Taken) error {
	if s.Stand == nil {
		return fmt.Errorf("nothing to let stand is given")
	}
	i := slices.IndexFunc(w.Stands, func(o audit.LetStand) bool { return o.ID == s.Stand.ID })
	if s.Do == DropStand {
		if i < 0 {
			return fmt.Errorf("nothing is let stand under %q", s.Stand.ID)
		}
		old := w.Stands[i]
		w.Stands = slices.Delete(w.Stands, i, i+1)
		t.undo(Step{Do: PutStand, Stand: &old})
		return nil
	}
	if strings.TrimSpace(s.Stand.Reason) == "" {
		return fmt.Errorf("letting a finding stand needs a reason")
	}
	if i >= 0 {
		return fmt.Errorf("%q is let stand already", s.Stand.ID)
	}
	w.Stands = append(w.Stands, *s.Stand)
	t.undo(Step{Do: DropStand, Stand: s.Stand})
	return nil
}

// WriteChange writes a change as one JSON text, for the log.
func WriteChange(c Change) []byte {
	var out screen.Writer
	out.Open('{')
	out.Field("title", c.Title)
	out.Key("steps")
	out.Open('[')
	for _, s := range c.Steps {
		out.Open('{')
		out.Field("do", string(s.Do))
		out.Field("doc", s.Doc)
		out.Int("base", s.Base)
		if len(s.Edits) > 0 {
			out.Key("edits")
			out.Open('[')
			for _, e := range s.Edits {
				out.Edit(e)
			}
			out.Close(']')
		}
		if s.Document != nil {
			out.Field("kind", string(s.Document.Kind))
			out.Key("document")
			WriteDocument(&out, s.Document)
		}
		if s.House != nil {
			out.Key("house")
			writeStrings(&out, houseFields(s.House), "id", "spot", "words", "prop", "value", "reason", "by", "when")
		}
		if s.Stand != nil {
			out.Key("stand")
			writeStrings(&out, standFields(s.Stand), "id", "key", "reason", "by", "when", "until")
		}
		if s.Tuning != nil {
			out.Key("tuning")
			writeTuning(&out, s.Tuning)
		}
		if s.Theme != nil {
			out.Key("theme")
			writeTheme(&out, s.Theme)
		}
		if s.Icon != nil {
			out.Key("icon")
			writeIcon(&out, s.Icon)
		}
		if s.Font != nil {
			out.Key("font")
			writeFont(&out, s.Font)
		}
		if s.Left != nil {
			out.Key("left")
			writeStrings(&out, leftFields(s.Left), "tag", "reason", "by", "when")
		}
		if s.State != nil {
			out.Key("state")
			writeState(&out, s.State)
		}
		if s.Query != nil {
			writePlain(&out, "query", s.Query)
		}
		if s.Source != nil {
			writePlain(&out, "source", s.Source)
		}
		if s.Origin != nil {
			writePlain(&out, "origin", s.Origin)
		}
		if s.Model != nil {
			out.Key("model")
			writeModel(&out, s.Model)
		}
		if len(s.Renames) > 0 {
			out.Key("renames")
			out.Open('{')
			for _, from := range slices.Sorted(maps.Keys(s.Renames)) {
				out.Field(from, s.Renames[from])
			}
			out.Close('}')
		}
		if s.Rows != nil {
			out.Key("rows")
			writeRows(&out, s.Rows)
		}
		if s.Set != nil {
			out.Key("set")
			writeSet(&out, s.Set)
		}
		out.Flag("raw", s.Raw)
		out.Field("app", s.App)
		writePackages(&out, s.Packages)
		if s.Signed != nil {
			out.Key("signed")
			out.Open('{')
			out.Field("by", s.Signed.By)
			out.Field("when", s.Signed.When)
			out.Int("revision", s.Signed.Revision)
			out.Close('}')
		}
		out.Close('}')
	}
	out.Close(']')
	out.Close('}')
	return out.B
}

// ReadChange reads a change. trusted admits edits that restore, as the log
// holds them; what comes from outside is not trusted.
func ReadChange(src []byte, trusted bool) (Change, error) {
	var c Change
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return c, err
	}
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "title":
			c.Title, err = r.String()
		case "steps":
			err = r.Array(func(int) error {
				s, err := readStep(r, trusted)
				c.Steps = append(c.Steps, s)
				return err
			})
		default:
			err = r.Unknown(key, "title", "steps")
		}
		return err
	})
	if err == nil {
		err = r.End()
	}
	return c, err
}

func readStep(r *jsonread.Reader, trusted bool) (s Step, err error) {
	kind := screen.ScreenDoc
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "do":
			var name string
			name, err = r.OneOf(
				string(EditDoc),
				string(Create),
				string(Discard),
				string(Meta),
				string(Remove),
				string(Restore),
				string(PutHouse),
				string(DropHouse),
				string(PutStand),
				string(DropStand),
				string(TuneRule),
				string(Sign),
				string(
					PutTheme,
				),
				string(DropTheme),
				string(PutIcon),
				string(DropIcon),
				string(PutFont),
				string(DropFont),
				string(LeaveOut),
				string(TakeIn),
				string(Install),
				string(PutProps),
				string(PutState),
				string(DropState),
				string(EditState),
				string(Mark),
				string(PutModel),
				string(DropModel),
				string(PutRecords),
				string(PutSet),
				string(DropSet),
				string(PutQuery),
				string(DropQuery),
				string(PutSource),
				string(DropSource),
				string(PutBase),
				string(DropBase),
			)
			s.Do = Do(name)
		case "doc":
			s.Doc, err = r.String()
		case "base":
			s.Base, err = r.Int()
		case "edits":
			err = r.Array(func(int) error {
				e, err := screen.ReadEdit(r, trusted)
				s.Edits = append(s.Edits, e)
				return err
			})
		case "kind":
			var name string
			name, err = r.OneOf(string(screen.ScreenDoc), string(screen.ShellDoc), string(screen.PieceDoc))
			kind = screen.DocKind(name)
		case "document":
			s.Document, err = ReadDocument(r, kind)
		case "house":
			s.House = &audit.HouseRule{}
			err = readStrings(r, houseFields(s.House))
		case "stand":
			s.Stand = &audit.LetStand{}
			err = readStrings(r, standFields(s.Stand))
		case "tuning":
			var t audit.Tuning
			t, err = readTuning(r)
			s.Tuning = &t
		case "theme":
			var t kit.Theme
			t, err = ReadTheme(r)
			s.Theme = &t
		case "icon":
			var i kit.OwnIcon
			i, err = readIcon(r)
			s.Icon = &i
		case "font":
			s.Font, err = readFont(r)
		case "left":
			s.Left = &LeftOut{}
			err = readStrings(r, leftFields(s.Left))
		case "state":
			var st screen.State
			st, err = readState(r)
			s.State = &st
		case "model":
			var m sample.Model
			m, err = readModel(r)
			s.Model = &m
		case "renames":
			s.Renames = map[string]string{}
			err = r.Object(func(from string) error {
				to, err := r.String()
				s.Renames[from] = to
				return err
			})
		case "query":
			s.Query = &sample.Query{}
			err = readPlain(r, s.Query, "a query")
		case "source":
			s.Source = &sample.Source{}
			err = readPlain(r, s.Source, "a source")
		case "origin":
			s.Origin = &sample.Base{}
			err = readPlain(r, s.Origin, "an address")
		case "rows":
			s.Rows, err = readRows(r)
		case "set":
			var set sample.Set
			set, err = readSet(r)
			s.Set = &set
		case "raw":
			s.Raw, err = r.Bool()
			if err == nil && !trusted {
				err = r.Fail("a change of your own", "only the log restores")
			}
		case "app":
			s.App, err = r.String()
		case "packages":
			s.Packages, err = readPackages(r)
		case "signed":
			s.Signed = &screen.SignOff{}
			err = r.Object(func(key string) error {
				var err error
				switch key {
				case "by":
					s.Signed.By, err = r.String()
				case "when":
					s.Signed.When, err = r.String()
				case "revision":
					s.Signed.Revision, err = r.Int()
				default:
					err = r.Unknown(key, "by", "when", "revision")
				}
				return err
			})
		default:
			err = r.Unknown(
				key,
				"do",
				"doc",
				"base",
				"edits",
				"kind",
				"document",
				"house",
				"stand",
				"tuning",
				"signed",
				"theme",
				"icon",
				"font",
				"left",
				"app",
				"packages",
				"state",
				"model",
				"renames",
				"rows",
				"set",
				"query",
				"source",
				"origin",
			)
		}
		return err
	})
	if err == nil && s.Do == "" {
		err = r.Fail("a step with do", "the step does not say what it does")
	}
	if err == nil && s.Do == EditDoc && len(s.Edits) == 0 {
		err = r.Fail("a list of edits", "there is nothing to edit")
	}
	return s, err
}
