package audit

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Location is where an element stands in a text.
type Location struct {
	File         string // beneath the report's source, where that is a folder
	Line, Column int
}

// Report is what an audit found, for people and programs.
type Report struct {
	Tool     string // version of this tool
	Source   string // path of the audited file
	Rules    []*Rule
	Findings []Finding
	Strays   []Finding // strays as notes
	// At finds an element's place in the source; may be nil.
	At func(doc, element string) (Location, bool)
}

// Text writes one line a finding: place, severity, rule, message.
func (r *Report) Text() string {
	var b strings.Builder
	counts := map[Severity]int{}
	for _, f := range r.all() {
		where, _ := r.at(&f)
		fix := ""
		if f.FixTitle != "" {
			fix = " [fix: " + f.FixTitle + "]"
		}
		fmt.Fprintf(&b, "%s: %s %s: %s%s\n", where, f.Severity, f.Rule, f.Message, fix)
		counts[f.Severity]++
	}
	fmt.Fprintf(&b, "%d errors, %d warnings, %d notes\n", counts[Error], counts[Warning], counts[Note])
	return b.String()
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

// The parts of JUnit XML that build servers read: a case for each rule, failed
// once for each finding.
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

// JUnit writes the report as JUnit XML. Strays inform and fail nothing.
func (r *Report) JUnit() ([]byte, error) {
	suite := junitSuite{Name: "Ubiquant", Tests: len(r.Rules)}
	for _, rule := range r.Rules {
		c := junitCase{Class: "ubiquant." + rule.ID, Name: rule.Title}
		for _, f := range r.Findings {
			if f.Rule == rule.ID {
				where, _ := r.at(&f)
				c.Failures = append(c.Failures, junitFailure{string(f.Severity), f.Message, where})
			}
		}
		if len(c.Failures) > 0 {
			suite.Failures++
		}
		suite.Cases = append(suite.Cases, c)
	}
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
		Fingerprints map[string]string `json:"partialFingerprints"`
	}
	sarifLocation struct {
		Physical sarifPhysical  `json:"physicalLocation"`
		Logical  []sarifLogical `json:"logicalLocations"`
	}
	sarifPhysical struct {
		Artifact struct {
			URI string `json:"uri"`
		} `json:"artifactLocation"`
		Region *sarifRegion `json:"region,omitempty"`
	}
	sarifRegion struct {
		Line   int `json:"startLine"`
		Column int `json:"startColumn"`
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

// SARIF writes the report as SARIF 2.1.0.
func (r *Report) SARIF() ([]byte, error) {
	log := sarifLog{Schema: "https://json.schemastore.org/sarif-2.1.0.json", Version: "2.1.0"}
	run := sarifRun{Tool: sarifTool{sarifDriver{Name: "Ubiquant", Version: r.Tool}}, Results: []sarifResult{}}
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
	for _, f := range r.all() {
		res := sarifResult{
			RuleID:       f.Rule,
			RuleIndex:    index[f.Rule],
			Level:        string(f.Severity),
			Message:      sarifText{f.Message},
			Fingerprints: map[string]string{"ubiquant/v1": f.Key()},
		}
		var loc sarifLocation
		_, at := r.at(&f)
		loc.Physical.Artifact.URI = r.file(at)
		if at.Line > 0 {
			loc.Physical.Region = &sarifRegion{at.Line, at.Column}
		}
		loc.Logical = []sarifLogical{{f.Doc + "#" + f.Element}}
		res.Locations = []sarifLocation{loc}
		run.Results = append(run.Results, res)
	}
	log.Runs = []sarifRun{run}
	return json.MarshalIndent(log, "", " ")
}
