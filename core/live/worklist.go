package live

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"ubiquant/core/audit"
	"ubiquant/core/norm"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// WorkKind is what sort of thing there is to look at.
type WorkKind string

const (
	OpenQuestion WorkKind = "question"
	OpenFinding  WorkKind = "finding"
	OpenStray    WorkKind = "stray"
	Hint         WorkKind = "hint" // a departure more likely meant
)

// Work is one thing of the audit to look at.
type Work struct {
	Key      string         `json:"key"` // of the finding, the stray or the question
	Kind     WorkKind       `json:"kind"`
	Severity audit.Severity `json:"severity,omitempty"` // of a finding
	Weight   int            `json:"weight"`             // how much it matters, 0 to 400
	Odds     float64        `json:"odds,omitempty"`     // how likely a stray or a hint is a slip
	Rule     string         `json:"rule"`               // the rule's id; "stray" and "question" for what has none
	RuleName string         `json:"ruleName"`
	Cause    string         `json:"cause"` // what stands behind several: one repair, one decision
	Why      string         `json:"why"`   // the cause in words
	Doc      string         `json:"doc"`   // kind:id; of a question one of its screens
	Title    string         `json:"title"`
	Owner    string         `json:"owner,omitempty"`
	Element  string         `json:"element"`
	Path     string         `json:"path"` // the element's place in words
	Type     string         `json:"type"` // the element's component
	TypeName string         `json:"typeName"`
	Spot     string         `json:"spot"`
	SpotName string         `json:"spotName"`
	Prop     string         `json:"prop,omitempty"`
	Message  string         `json:"message"`
	FixTitle string         `json:"fixTitle,omitempty"` // of its repair, where it has one
	Code     string         `json:"code,omitempty"`     // where it was read, in code
	Like     *norm.Place    `json:"like,omitempty"`     // an element that does as the others
	Screens  int            `json:"screens,omitempty"`  // that do as the others
	Again    string         `json:"again,omitempty"`    // it was let stand, and its day has come
	Look     *Look          `json:"look,omitempty"`     // how it was looked at where it was seen on a drawn screen
	Copy     string         `json:"copy,omitempty"`     // key of the copy of the element in which it was seen

	Adopt *Adopt            `json:"adopt,omitempty"` // the house rule that its norm could become
	Given *audit.Assignment `json:"given,omitempty"` // to whom
	Stood *audit.LetStand   `json:"stood,omitempty"` // it is let stand so
}

// Adopt is a norm as a house rule would hold it.
type Adopt struct {
	Spot  string `json:"spot"`
	Where string `json:"where"`
	Words string `json:"words"`
	Value string `json:"value"`
}

// Weights of what there is to look at: the harm of an error before the certainty of a stray.
const (
	errorWeight    = 400
	warningWeight  = 300
	strayWeight    = 200 // and up to 99 more by how likely it is a slip
	questionWeight = 150
	noteWeight     = 100
	hintWeight     = 0    // and up to 99 more
	stoodWeight    = -500 // what is let stand comes last
)

// Worklist is everything there is to look at, what matters most first: errors, warnings,
// strays by how likely they are slips, questions, notes, departures more likely meant, and at
// last what is let stand.
func (l *Live) Worklist() []Work {
	w := &worklist{live: l, docs: map[string]*workDoc{}, rules: map[string]*audit.Rule{}, again: map[string]string{}, looks: map[string]Seen{}}
	for _, r := range append(l.Rules(), Looks) {
		w.rules[r.ID] = r
	}
	for _, s := range l.W.Stands {
		if s.Due(l.Today) {
			w.again[s.Key] = fmt.Sprintf("let stand by %s until %s: %s", s.By, s.Until, s.Reason)
		}
	}
	for _, s := range l.Measured() {
		w.looks[s.Key()] = s
	}
	open, stood := l.Findings()
	strays, hints, questions := l.Strays(), l.Leans(), l.Questions()
	w.out = make([]Work, 0, len(open)+len(strays)+len(hints)+len(questions))
	for i := range open {
		w.finding(&open[i])
	}
	for i := range strays {
		w.stray(&strays[i], OpenStray, strayWeight)
	}
	for i := range questions {
		w.question(&questions[i])
	}
	for i := range hints {
		w.stray(&hints[i], Hint, hintWeight)
	}
	w.stood(stood, l.StandingStrays())
	given := map[string]*audit.Assignment{}
	for i := range l.W.Assignments {
		given[l.W.Assignments[i].Key] = &l.W.Assignments[i]
	}
	for i := range w.out {
		w.out[i].Given = given[w.out[i].Key]
	}
	slices.SortStableFunc(w.out, func(a, b Work) int { return cmp.Compare(b.Weight, a.Weight) })
	return w.out
}

type worklist struct {
	live  *Live
	docs  map[string]*workDoc
	rules map[string]*audit.Rule
	again map[string]string // by key, what was let stand and is due
	looks map[string]Seen   // by key, what was measured
	out   []Work
}

// workDoc finds the uses of a document by the element's id.
type workDoc struct {
	*usage.Doc
	at map[string]int
}

func (w *worklist) doc(key string) *workDoc {
	if d, ok := w.docs[key]; ok {
		return d
	}
	kind, id, _ := strings.Cut(key, ":")
	d := &workDoc{at: map[string]int{}}
	d.Doc, _ = w.live.Index.Find(screen.DocKind(kind), id)
	if d.Doc != nil {
		for i := range d.Uses {
			d.at[d.Uses[i].Element.ID] = i
		}
	}
	w.docs[key] = d
	return d
}

// put enters something about an element, with where that stands.
func (w *worklist) put(item Work) {
	item.Again = w.again[item.Key]
	d := w.doc(item.Doc)
	if d.Doc != nil {
		item.Title, item.Owner = d.Title, d.Owner
		if i, ok := d.at[item.Element]; ok {
			u := &d.Uses[i]
			item.Path, item.Type = w.live.path(d.Doc, i), u.Element.Type
			item.TypeName = w.live.title(u.Element.Type)
			sp := u.Spots[usage.ByRole]
			item.Spot, item.SpotName = sp.Key.String(), w.live.Words(sp)
			if u.Element.FromCode() {
				item.Code = u.Element.Origin.File + ":" + u.Element.Origin.Range
			}
		}
	}
	w.out = append(w.out, item)
}

// PathOf names an element and what it stands in, the outermost first, without the root.
func (l *Live) PathOf(doc, element string) string {
	kind, id, _ := strings.Cut(doc, ":")
	if d, ok := l.Index.Find(screen.DocKind(kind), id); ok {
		for i := range d.Uses {
			if d.Uses[i].Element.ID == element {
				return l.path(d, i)
			}
		}
	}
	return element
}

func (l *Live) title(typ string) string {
	if def, ok := l.Cat.Component(typ); ok && def.Title != "" {
		return def.Title
	}
	return typ
}

// shown is how much of a text a path shows.
const shown = 24

func (l *Live) path(d *usage.Doc, i int) string {
	var parts []string
	for at := int32(i); at >= 0 && d.Uses[at].Up >= 0; at = d.Uses[at].Up {
		e := d.Uses[at].Element
		words := l.title(e.Type)
		text := e.Text
		for _, prop := range []string{"title", "heading", "label"} {
			if v, ok := e.Prop(prop); ok && v.Text != "" {
				text = v
			}
		}
		if r := []rune(text.Text); text.Kind == screen.Literal && len(r) > 0 {
			if len(r) > shown {
				r = append(r[:shown-1], '…')
			}
			words += " “" + string(r) + "”"
		}
		parts = append(parts, words)
	}
	slices.Reverse(parts)
	if len(parts) == 0 {
		return "the whole"
	}
	return strings.Join(parts, " ▸ ")
}

func (w *worklist) finding(f *audit.Finding) {
	item := Work{
		Key: f.Key(), Kind: OpenFinding, Severity: f.Severity, Rule: f.Rule, RuleName: f.Rule,
		Doc: f.Doc, Element: f.Element, Prop: f.Prop, Message: f.Message,
	}
	switch f.Severity {
	case audit.Error:
		item.Weight = errorWeight
	case audit.Warning:
		item.Weight = warningWeight
	default:
		item.Weight = noteWeight
	}
	if len(f.Fix) > 0 {
		item.FixTitle = f.FixTitle
	}
	if r := w.rules[f.Rule]; r != nil {
		item.RuleName = r.Title
	}
	typ := ""
	d := w.doc(f.Doc)
	if i, ok := d.at[f.Element]; ok {
		typ = d.Uses[i].Element.Type
	}
	item.Cause = strings.Join([]string{f.Rule, typ, f.Prop}, "|")
	item.Why = item.RuleName
	if typ != "" {
		item.Why += ": " + w.live.title(typ)
		if f.Prop != "" && f.Prop != "text" {
			item.Why += ", " + strings.ReplaceAll(f.Prop, "-", " ")
		}
	}
	if s, ok := w.looks[item.Key]; ok {
		item.Look, item.Copy = &s.Look, s.Copy
	}
	w.put(item)
}

// decided is what is decided and where, in words that begin a line.
func decided(what, where string) string {
	if where != "" {
		what += ", " + where
	}
	first, size := utf8.DecodeRuneInString(what)
	return string(unicode.ToUpper(first)) + what[size:]
}

func (w *worklist) stray(s *norm.Stray, kind WorkKind, weight int) {
	item := Work{
		Key: StrayKey(*s), Kind: kind, Rule: "stray", RuleName: "Strays", Odds: s.Odds,
		Weight: weight + int(99*s.Odds), Doc: s.Doc, Element: s.Element, Prop: s.Prop, Message: s.Why,
		Cause: strings.Join([]string{string(kind), s.Spot, s.Kind, s.Prop, s.Norm}, "|"),
		Why:   decided(s.What, s.Words), Like: &s.Like, Screens: s.Screens,
	}
	if kind == Hint {
		item.Rule, item.RuleName = "hint", "More likely meant"
	}
	if s.Norm != "" {
		item.Why += ": elsewhere " + s.Norm
	}
	if len(s.Fix) > 0 {
		item.FixTitle = s.FixTitle
	}
	if s.Rule {
		item.Adopt = &Adopt{Spot: s.Spot, Where: s.Where, Words: s.Words, Value: s.Norm}
	}
	w.put(item)
}

// stood enters what is let stand, with how.
func (w *worklist) stood(findings []audit.Finding, strays []norm.Stray) {
	from := len(w.out)
	for i := range findings {
		w.finding(&findings[i])
	}
	for i := range strays {
		w.stray(&strays[i], OpenStray, strayWeight)
	}
	for i := from; i < len(w.out); i++ {
		item := &w.out[i]
		item.Weight += stoodWeight
		item.Stood = w.live.StandOf(item.Key)
	}
}

func (w *worklist) question(q *norm.Question) {
	var sides []string
	for _, s := range q.Sides {
		sides = append(sides, fmt.Sprintf("%s on %d", s.Words, s.Screens))
	}
	item := Work{
		Key: "question|" + q.Key(), Kind: OpenQuestion, Rule: "question", RuleName: "Open questions",
		Weight: questionWeight, Prop: q.Prop, Cause: "question|" + q.Key(),
		Why:     decided(q.What, q.Words),
		Message: strings.Join(sides, ", "),
	}
	if q.Moving != nil {
		item.Message += "; " + q.Moving.String()
	}
	if len(q.Sides) > 0 {
		item.Doc, item.Element = q.Sides[0].Like.Doc, q.Sides[0].Like.Element
	}
	w.put(item)
}
