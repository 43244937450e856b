package api

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/audit/own"
	"ubiquant/core/change"
	"ubiquant/core/jsonread"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// OwnRuleView is a rule that the team wrote, with what it makes of its own examples.
type OwnRuleView struct {
	Rule     audit.OwnRule `json:"rule"`
	Findings int           `json:"findings"`
	GoodKept bool          `json:"goodKept"` // the good example keeps it, or there is none
	BadFound bool          `json:"badFound"` // the bad one is found, or there is none
}

func ownRules(l *live.Live, open []audit.Finding) []OwnRuleView {
	out := []OwnRuleView{}
	for _, o := range l.W.OwnRules {
		v := OwnRuleView{Rule: o}
		v.GoodKept, v.BadFound, _ = own.Tried(&o, l.Kit, l.Cat)
		for _, f := range open {
			if f.Rule == o.ID {
				v.Findings++
			}
		}
		out = append(out, v)
	}
	return out
}

type rulePreviewIn struct {
	Rule audit.OwnRule `json:"rule"`
}

// RuleHit is an element that does not keep a rule.
type RuleHit struct {
	UseView
	Message string `json:"message"`
}

type rulePreviewOut struct {
	Hits     []RuleHit `json:"hits"` // the first of them
	Total    int       `json:"total"`
	Screens  int       `json:"screens"`
	Picked   int       `json:"picked"` // elements that the selector picks
	GoodKept bool      `json:"goodKept"`
	BadFound bool      `json:"badFound"`
}

// mostHits is how many of what a rule finds are shown while it is written.
const mostHits = 50

func (s *Server) previewRule(c *Call, in *rulePreviewIn) (*rulePreviewOut, error) {
	out := &rulePreviewOut{Hits: []RuleHit{}}
	o := in.Rule
	// What is only said to people may come last.
	if o.ID == "" {
		o.ID = "new-rule"
	}
	if o.Title == "" {
		o.Title = "New rule"
	}
	if o.Message == "" {
		o.Message = "does not keep it"
	}
	r, err := own.Compile(&o)
	if err != nil {
		return nil, bad("%s", err)
	}
	err = s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		if out.GoodKept, out.BadFound, err = own.Tried(&o, l.Kit, l.Cat); err != nil {
			return bad("%s", err)
		}
		if o.Of == "" || o.Of == "element" {
			sel, err := screen.ParseSelector(o.Where)
			if err != nil {
				return bad("%s", err)
			}
			l.Where(sel, func(*screen.Document, *screen.Element) { out.Picked++ })
		}
		for _, d := range l.Index.Docs() {
			hits := l.Engine.Only(d, r)
			if len(hits) > 0 {
				out.Screens++
			}
			out.Total += len(hits)
			for _, f := range hits[:min(len(hits), max(0, mostHits-len(out.Hits)))] {
				out.Hits = append(out.Hits, RuleHit{UseView{f.Doc, d.Title, f.Element, l.PathOf(f.Doc, f.Element)}, f.Message})
			}
		}
		return nil
	})
	return out, err
}

type ruleExampleIn struct {
	Like   string `json:"like"` // doc#element
	Unlike string `json:"unlike"`
}

type ruleOut struct {
	Rule audit.OwnRule `json:"rule"`
}

func (s *Server) ruleByExample(c *Call, in *ruleExampleIn) (*ruleOut, error) {
	out := &ruleOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		path := func(use string) (own.Example, error) {
			doc, element, _ := strings.Cut(use, "#")
			d, ok := l.W.Doc(doc)
			if !ok {
				return nil, missing(doc)
			}
			if p := d.Root.Path(element); len(p) > 0 {
				return p, nil
			}
			return nil, missing(use)
		}
		like, err := path(in.Like)
		if err != nil {
			return err
		}
		unlike, err := path(in.Unlike)
		if err != nil {
			return err
		}
		o, err := own.ByExample(l.Cat, like, unlike)
		if err != nil {
			return bad("%s", err)
		}
		out.Rule = *o
		return nil
	})
	return out, err
}

// RulesFormat is the version of files of rules that are read and written.
const RulesFormat = "ubiquant.rules/1"

// RuleFile is what a team has decided, to be taken elsewhere: rules that it wrote, what it
// settled, and how it holds the others.
type RuleFile struct {
	Format string            `json:"format"`
	Own    []audit.OwnRule   `json:"ownRules"`
	House  []audit.HouseRule `json:"houseRules"`
	Held   []audit.Tuning    `json:"ruleSettings"`
}

func (s *Server) ruleFile(c *Call, _ *none) (*RuleFile, error) {
	out := &RuleFile{Format: RulesFormat}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		out.Own, out.House, out.Held = slices.Clone(l.W.OwnRules), slices.Clone(l.W.House), slices.Clone(l.W.Tunings)
		return nil
	})
	return out, err
}

type takeRulesIn struct {
	Text   string `json:"text"`
	Apply  bool   `json:"apply,omitempty"`
	Client string `json:"client,omitempty"`
}

type takeRulesOut struct {
	New     []string   `json:"new"`     // what the file brings, in words
	Changed []string   `json:"changed"` // what it has otherwise
	Same    int        `json:"same"`
	Taken   *changeOut `json:"taken,omitempty"`
}

// takeRules takes a file of rules in; what the team has beside it stays.
func (s *Server) takeRules(c *Call, in *takeRulesIn) (*takeRulesOut, error) {
	file := &RuleFile{}
	if _, err := jsonread.New([]byte(in.Text), jsonread.DefaultLimits); err != nil {
		return nil, bad("the file of rules: %s", err)
	}
	d := json.NewDecoder(strings.NewReader(in.Text))
	d.DisallowUnknownFields()
	if err := d.Decode(file); err != nil {
		return nil, bad("the file of rules: %s", err)
	}
	if file.Format != RulesFormat {
		return nil, bad("the file's format is %q; accepted: %q", file.Format, RulesFormat)
	}
	out := &takeRulesOut{New: []string{}, Changed: []string{}}
	build := func(l *live.Live) (change.Change, error) {
		*out = takeRulesOut{New: []string{}, Changed: []string{}}
		steps := rulesSteps(l.W, file, out)
		if len(steps) == 0 {
			return change.Change{}, bad("the file has nothing that is not here already")
		}
		return change.Change{Title: fmt.Sprintf("Take %d rules from a file", len(steps)), Steps: steps}, nil
	}
	if in.Apply {
		taken, err := s.take(c, &changeIn{Client: in.Client}, build)
		out.Taken = taken
		return out, err
	}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		ch, err := build(l)
		if err != nil {
			return err
		}
		if _, _, err := change.Apply(l.W, ch, l.Cat, l); err != nil {
			return refusedByCore(err)
		}
		return nil
	})
	return out, err
}

func rulesSteps(w *model.Workspace, file *RuleFile, out *takeRulesOut) []change.Step {
	var steps []change.Step
	note := func(found, same bool, words string, step change.Step) {
		switch {
		case same:
			out.Same++
			return
		case found:
			out.Changed = append(out.Changed, words)
		default:
			out.New = append(out.New, words)
		}
		steps = append(steps, step)
	}
	for _, o := range file.Own {
		i := slices.IndexFunc(w.OwnRules, func(h audit.OwnRule) bool { return h.ID == o.ID })
		note(i >= 0, i >= 0 && alike(w.OwnRules[i], o), o.Title, &change.PutOwnRule{Rule: o})
	}
	for _, h := range file.House {
		i := slices.IndexFunc(w.House, func(x audit.HouseRule) bool { return x.ID == h.ID })
		same := false
		if i >= 0 {
			was := w.House[i]
			was.By, was.When = h.By, h.When
			same = was == h
			if !same {
				steps = append(steps, &change.DropHouse{House: w.House[i]})
			}
		}
		note(i >= 0, same, fmt.Sprintf("%s of %s is %s", h.Prop, h.Words, orUnset(h.Value)), &change.PutHouse{House: h})
	}
	for _, t := range file.Held {
		i := slices.IndexFunc(w.Tunings, func(x audit.Tuning) bool { return x.Rule == t.Rule })
		same := i >= 0 && w.Tunings[i].Severity == t.Severity && fmt.Sprint(w.Tunings[i].Settings) == fmt.Sprint(t.Settings)
		note(i >= 0, same, "how the rule "+t.Rule+" is held", &change.Tune{Tuning: t})
	}
	return steps
}

// alike compares rules without who put them and when.
func alike(a, b audit.OwnRule) bool {
	a.By, a.When = b.By, b.When
	return a == b
}
