package audit

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/norm"
)

// Location is where an element stands in a text.
type Location struct {
	File         string // beneath the report's source, where that is a folder
	Line, Column int
}

// Replacement is a piece of a file that a fix puts another text in place of. Lines and columns begin
// at 1, columns count letters; the end is where the piece has ended.
type Replacement struct {
	File                             string // beneath the report's source
	Line, Column, EndLine, EndColumn int
	Text                             string
}

// Report is what an audit found, for people and programs.
type Report struct {
	Tool     string // version of this tool
	Source   string // path of the audited file
	Name     string // of the workspace or repository
	Rules    []*Rule
	Findings []Finding
	Strays   []Finding // strays as notes
	// Questions are what the screens are of two minds about.
	Questions []norm.Question
	// Since names what was compared with: then findings and strays are the new ones, Known is
	// how many are left out as known, Mended what was found there and is no more.
	Since  string
	Known  int
	Mended []Entry
	// Stood is what is let stand.
	Stood []Stood
	// At finds an element's place in the source; may be nil.
	At func(doc, element string) (Location, bool)
	// FixAt is what a finding's fix changes in files; none where it is no such change. May be nil.
	FixAt func(f *Finding) []Replacement
}

// Stood is a finding or a stray that is let stand, and why.
type Stood struct {
	Finding
	Reason string
	InCode bool // a comment in code says so
}

// mostAlike is how many findings of one file say the same one by one, in a report as text.
const mostAlike = 5

// Text writes one line a finding: place, severity, rule, message. Where one file has many that say
// the same, the first stand for all, and the places of the rest follow in one line.
func (r *Report) Text() string {
	type same struct{ file, rule, severity, message string }
	all := append(r.inOrder(), r.Strays...)
	of := func(f *Finding, at Location) same {
		if at.Line == 0 {
			return same{f.Doc, f.Rule, string(f.Severity), f.Message}
		}
		return same{r.file(at), f.Rule, string(f.Severity), f.Message}
	}
	places := map[same][]string{}
	for i := range all {
		_, at := r.at(&all[i])
		place := all[i].Element
		if at.Line > 0 {
			place = fmt.Sprintf("%d:%d", at.Line, at.Column)
		}
		key := of(&all[i], at)
		places[key] = append(places[key], place)
	}
	var b strings.Builder
	told := map[same]int{}
	for i := range all {
		f := &all[i]
		where, at := r.at(f)
		key := of(f, at)
		told[key]++
		if many := len(places[key]) > mostAlike; many && told[key] > mostAlike-2 {
			if told[key] == mostAlike-1 {
				rest := places[key][told[key]-1:]
				fmt.Fprintf(&b, "%s: %s %s: %d more that say the same, at %s\n", key.file, f.Severity, f.Rule, len(rest), strings.Join(rest, ", "))
			}
			continue
		}
		fix := ""
		if f.FixTitle != "" {
			fix = " [fix: " + f.FixTitle + "]"
		}
		fmt.Fprintf(&b, "%s: %s %s: %s%s\n", where, f.Severity, f.Rule, f.Message, fix)
	}
	for i, q := range r.Questions {
		fmt.Fprintf(&b, "open question %d: %s\n", i+1, asked(&q))
	}
	for _, e := range r.Mended {
		fmt.Fprintf(&b, "mended: %s#%s: %s: %s\n", e.Doc, e.Element, e.Rule, e.Message)
	}
	b.WriteString(r.headline())
	b.WriteString("\n")
	return b.String()
}

// inOrder are the findings as one goes through files: the gravest first, then by their places.
func (r *Report) inOrder() []Finding {
	out := slices.Clone(r.Findings)
	places := map[string]Location{}
	for i := range out {
		if _, at := r.at(&out[i]); at.Line > 0 {
			places[out[i].Doc+"#"+out[i].Element] = at
		}
	}
	slices.SortStableFunc(out, func(a, b Finding) int {
		x, y := places[a.Doc+"#"+a.Element], places[b.Doc+"#"+b.Element]
		return cmp.Or(b.Severity.Rank()-a.Severity.Rank(), strings.Compare(x.File, y.File), x.Line-y.Line, x.Column-y.Column)
	})
	return out
}

// asked is an open question in one sentence: what is decided in which way on how many screens.
func asked(q *norm.Question) string {
	words := make([]string, len(q.Sides))
	for i, a := range q.Sides {
		words[i] = fmt.Sprintf("%s on %d", a.Words, a.Screens)
	}
	out := q.What + ": " + strings.Join(words, ", ")
	if m := q.Moving; m != nil {
		out += "; " + m.String()
	}
	return out
}

// Places are the places of all findings, by document and element.
func (r *Report) Places() map[string]Location {
	out := map[string]Location{}
	for _, f := range r.all() {
		if _, at := r.at(&f); at.Line > 0 {
			out[f.Doc+"#"+f.Element] = at
		}
	}
	return out
}

// file is the path of the file that a place is in.
func (r *Report) file(at Location) string {
	if at.File == "" {
		return r.Source
	}
	return strings.TrimSuffix(r.Source, "/") + "/" + at.File
}

// at says where a finding stands: in the source where that is known.
func (r *Report) at(f *Finding) (where string, place Location) {
	where = f.Doc + "#" + f.Element
	if r.At != nil {
		if at, ok := r.At(f.Doc, f.Element); ok {
			return fmt.Sprintf("%s:%d:%d %s", r.file(at), at.Line, at.Column, where), at
		}
	}
	return where, place
}

// CSV writes a head and one row a finding.
func (r *Report) CSV() ([]byte, error) {
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	rows := [][]string{
		{"severity", "rule", "document", "element", "prop", "message", "fix", "file", "line", "column"},
	}
	for _, f := range r.all() {
		_, at := r.at(&f)
		rows = append(
			rows,
			[]string{
				string(f.Severity),
				f.Rule,
				f.Doc,
				f.Element,
				f.Prop,
				f.Message,
				f.FixTitle,
				r.file(at),
				strconv.Itoa(at.Line),
				strconv.Itoa(at.Column),
			},
		)
	}
	err := w.WriteAll(rows)
	return out.Bytes(), err
}

// The parts of JUnit XML that build servers read.
type (
	junitSuite struct {
		XMLName  xml.Name    `xml:"testsuite"`
		Name     string      `xml:"name,attr"`
		Tests    int         `xml:"tests,attr"`
		Failures int         `xml:"failures,attr"`
		Cases    []junitCase `xml:"testcase"`
	}
	junitCase struct {
		Class    string         `xml:"classname,attr"`
		Name     string         `xml:"name,attr"`
		Failures []junitFailure `xml:"failure"`
	}
	junitFailure struct {
		Type    string `xml:"type,attr"`
		Message string `xml:"message,attr"`
		Where   string `xml:",chardata"`
	}
)

// JUnit writes the report as JUnit XML: a case for each element that something was found at,
// and one for each rule that found nothing. Strays inform and fail nothing.
func (r *Report) JUnit() ([]byte, error) {
	suite := junitSuite{Name: "Ubiquant"}
	found := map[string]bool{}
	at := map[string]int{}
	for _, f := range r.Findings {
		found[f.Rule] = true
		where, place := r.at(&f)
		key := f.Doc + "#" + f.Element
		i, had := at[key]
		if !had {
			i = len(suite.Cases)
			at[key] = i
			class := strings.NewReplacer(":", ".", "/", ".").Replace(f.Doc)
			if place.File != "" {
				class = place.File
			}
			suite.Cases = append(suite.Cases, junitCase{Class: class, Name: key})
			suite.Failures++
		}
		suite.Cases[i].Failures = append(suite.Cases[i].Failures, junitFailure{f.Rule + " (" + string(f.Severity) + ")", f.Message, where})
	}
	for _, rule := range r.Rules {
		if !found[rule.ID] {
			suite.Cases = append(suite.Cases, junitCase{Class: "ubiquant." + rule.ID, Name: rule.Title})
		}
	}
	suite.Tests = len(suite.Cases)
	out, err := xml.MarshalIndent(suite, "", " ")
	return append([]byte(xml.Header), out...), err
}

func (r *Report) all() []Finding { return append(slices.Clone(r.Findings), r.Strays...) }

// The parts of SARIF 2.1.0 (OASIS, 2020) that a report uses.
type (
	sarifLog struct {
		Schema  string     `json:"$schema"`
		Version string     `json:"version"`
		Runs    []sarifRun `json:"runs"`
	}
	sarifRun struct {
		Tool    sarifTool     `json:"tool"`
		Columns string        `json:"columnKind"`
		Results []sarifResult `json:"results"`
	}
	sarifTool struct {
		Driver sarifDriver `json:"driver"`
	}
	sarifDriver struct {
		Name    string      `json:"name"`
		Version string      `json:"version"`
		Rules   []sarifRule `json:"rules"`
	}
	sarifRule struct {
		ID       string    `json:"id"`
		Name     string    `json:"name"`
		Short    sarifText `json:"shortDescription"`
		Full     sarifText `json:"fullDescription"`
		Defaults struct {
			Level string `json:"level"`
		} `json:"defaultConfiguration"`
	}
	sarifText struct {
		Text string `json:"text"`
	}
	sarifResult struct {
		RuleID       string            `json:"ruleId"`
		RuleIndex    int               `json:"ruleIndex"`
		Level        string            `json:"level"`
		Message      sarifText         `json:"message"`
		Locations    []sarifLocation   `json:"locations"`
		Related      []sarifLocation   `json:"relatedLocations,omitempty"`
		Suppressions []sarifSuppressed `json:"suppressions,omitempty"`
		Fingerprints map[string]string `json:"partialFingerprints"`
		Baseline     string            `json:"baselineState,omitempty"`
		Fixes        []sarifFix        `json:"fixes,omitempty"`
	}
	sarifFix struct {
		Description sarifText     `json:"description"`
		Changes     []sarifChange `json:"artifactChanges"`
	}
	sarifChange struct {
		Artifact     sarifArtifact      `json:"artifactLocation"`
		Replacements []sarifReplacement `json:"replacements"`
	}
	sarifReplacement struct {
		Deleted  sarifRegion `json:"deletedRegion"`
		Inserted sarifText   `json:"insertedContent"`
	}
	sarifArtifact struct {
		URI string `json:"uri"`
	}
	sarifSuppressed struct {
		Kind   string `json:"kind"`
		Reason string `json:"justification"`
	}
	sarifLocation struct {
		ID       int            `json:"id,omitempty"`
		Message  *sarifText     `json:"message,omitempty"`
		Physical sarifPhysical  `json:"physicalLocation"`
		Logical  []sarifLogical `json:"logicalLocations"`
	}
	sarifPhysical struct {
		Artifact sarifArtifact `json:"artifactLocation"`
		Region   *sarifRegion  `json:"region,omitempty"`
	}
	sarifRegion struct {
		Line      int `json:"startLine"`
		Column    int `json:"startColumn"`
		EndLine   int `json:"endLine,omitempty"`
		EndColumn int `json:"endColumn,omitempty"`
	}
	sarifLogical struct {
		Name string `json:"fullyQualifiedName"`
	}
)

// StrayRule is the pseudo rule under which strays are reported.
var StrayRule = &Rule{
	ID:       "stray",
	Title:    "Stray",
	Severity: Note,
	Purpose:  "An element departs from a clear norm of the team's screens.",
	Why:      "Most screens do it otherwise in the same spot; nobody decided that, so it only informs.",
}

// location is where a finding stands.
func (r *Report) location(f *Finding) sarifLocation {
	var loc sarifLocation
	_, at := r.at(f)
	loc.Physical.Artifact.URI = r.file(at)
	if at.Line > 0 {
		loc.Physical.Region = &sarifRegion{Line: at.Line, Column: at.Column}
	}
	loc.Logical = []sarifLogical{{f.Doc + "#" + f.Element}}
	return loc
}

// fixes are what a tool can do about a finding by itself: one fix, with all its changes.
func (r *Report) fixes(f *Finding) []sarifFix {
	if r.FixAt == nil || len(f.Fix) == 0 || f.Few {
		return nil
	}
	var out sarifFix
	for _, c := range r.FixAt(f) {
		uri := r.file(Location{File: c.File})
		i := slices.IndexFunc(out.Changes, func(o sarifChange) bool { return o.Artifact.URI == uri })
		if i < 0 {
			i, out.Changes = len(out.Changes), append(out.Changes, sarifChange{Artifact: sarifArtifact{uri}})
		}
		in := &out.Changes[i].Replacements
		*in = append(*in, sarifReplacement{sarifRegion{c.Line, c.Column, c.EndLine, c.EndColumn}, sarifText{c.Text}})
	}
	if len(out.Changes) == 0 {
		return nil
	}
	out.Description.Text = f.FixTitle
	return []sarifFix{out}
}

// SARIF writes the report as SARIF 2.1.0.
func (r *Report) SARIF() ([]byte, error) {
	log := sarifLog{Schema: "https://json.schemastore.org/sarif-2.1.0.json", Version: "2.1.0"}
	run := sarifRun{Tool: sarifTool{sarifDriver{Name: "Ubiquant", Version: r.Tool}}, Columns: "unicodeCodePoints", Results: []sarifResult{}}
	index := map[string]int{}
	for _, rule := range append(append([]*Rule{}, r.Rules...), StrayRule) {
		index[rule.ID] = len(run.Tool.Driver.Rules)
		s := sarifRule{
			ID:    rule.ID,
			Name:  rule.Title,
			Short: sarifText{rule.Purpose},
			Full:  sarifText{rule.Purpose + " " + rule.Why},
		}
		s.Defaults.Level = string(rule.Severity)
		run.Tool.Driver.Rules = append(run.Tool.Driver.Rules, s)
	}
	result := func(f *Finding) sarifResult {
		res := sarifResult{
			RuleID:       f.Rule,
			RuleIndex:    index[f.Rule],
			Level:        string(f.Severity),
			Message:      sarifText{f.Message},
			Locations:    []sarifLocation{r.location(f)},
			Fingerprints: map[string]string{"ubiquant/v1": f.Key()},
			Fixes:        r.fixes(f),
		}
		if f.Like != nil && f.Like.Doc != "" {
			like := r.location(&Finding{Doc: f.Like.Doc, Element: f.Like.Element})
			like.ID, like.Message = 1, &sarifText{"as it is done elsewhere"}
			res.Related = []sarifLocation{like}
		}
		return res
	}
	for _, f := range r.all() {
		res := result(&f)
		if r.Since != "" {
			res.Baseline = "new"
		}
		run.Results = append(run.Results, res)
	}
	for i := range r.Stood {
		res := result(&r.Stood[i].Finding)
		kind := "external"
		if r.Stood[i].InCode {
			kind = "inSource"
		}
		res.Suppressions = []sarifSuppressed{{kind, r.Stood[i].Reason}}
		run.Results = append(run.Results, res)
	}
	for i := range r.Mended {
		e := &r.Mended[i]
		f := Finding{Rule: e.Rule, Doc: e.Doc, Element: e.Element, Prop: e.Prop}
		loc := sarifLocation{Logical: []sarifLogical{{e.Doc + "#" + e.Element}}}
		loc.Physical.Artifact.URI = r.Source
		run.Results = append(run.Results, sarifResult{
			RuleID: e.Rule, RuleIndex: index[e.Rule], Level: "none", Message: sarifText{e.Message}, Baseline: "absent",
			Locations: []sarifLocation{loc}, Fingerprints: map[string]string{"ubiquant/v1": f.Key()},
		})
	}
	log.Runs = []sarifRun{run}
	return json.MarshalIndent(log, "", " ")
}
