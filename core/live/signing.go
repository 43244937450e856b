package live

import (
	"fmt"
	"slices"
	"strconv"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/model"
	"ubiquant/core/norm"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// Unmet lists what of the team's conditions for a sign-off a document does not meet, in words.
func (l *Live) Unmet(doc string) []string {
	d, ok := l.W.Doc(doc)
	if !ok {
		return nil
	}
	findings, strays := l.Of(doc)
	return l.UnmetOf(d, findings, strays)
}

// UnmetOf is Unmet with what is open on the document.
func (l *Live) UnmetOf(d *screen.Document, findings []audit.Finding, strays []norm.Stray) []string {
	asks := rules.Signing.Held(l.W.Tunings, "asks")
	var out []string
	for _, f := range findings {
		switch {
		case f.Severity == audit.Error && slices.Contains(asks, "errors"):
			out = append(out, "an error is open: "+f.Message)
		case f.Severity == audit.Warning && slices.Contains(asks, "warnings"):
			out = append(out, "a warning is open: "+f.Message)
		}
	}
	if slices.Contains(asks, "strays") {
		above := 80.0
		if v := rules.Signing.Held(l.W.Tunings, "certainty"); len(v) > 0 {
			above, _ = strconv.ParseFloat(v[0], 64) // checked when it was set
		}
		for _, s := range strays {
			if 100*s.Odds > above {
				out = append(out, "it strays: "+s.Why)
			}
		}
	}
	if slices.Contains(asks, "missing states") && d.Kind == screen.ScreenDoc && repeats(d.Root) {
		for _, name := range rules.Signing.Held(l.W.Tunings, "states") {
			if _, ok := d.State(name); !ok {
				out = append(out, "the state "+name+" is not made")
			}
		}
	}
	if slices.Contains(asks, "wrong looks") && d.Kind == screen.ScreenDoc {
		if _, ok := l.measured.found[d.Address()]; !ok {
			out = append(out, "it was not measured since it last changed; the worklist of the Census does it")
		}
		for _, f := range findings {
			if f.Rule == Looks.ID {
				out = append(out, "it looks wrong: "+f.Message)
			}
		}
	}
	if slices.Contains(asks, "no owner") && d.Owner == "" {
		out = append(out, "nobody owns it")
	}
	if slices.Contains(asks, "missing texts") {
		out = append(out, l.Scene().unsaid()[d.Address()]...)
	}
	if slices.Contains(asks, "work given") {
		key := usage.DocKey(d)
		for _, a := range l.W.Assignments {
			if audit.ParseKey(a.Key).Doc == key && l.isOpen(a.Key, findings, strays) {
				out = append(out, "something is still given to "+a.To)
			}
		}
	}
	return out
}

func (l *Live) isOpen(key string, findings []audit.Finding, strays []norm.Stray) bool {
	return slices.ContainsFunc(findings, func(f audit.Finding) bool { return f.Key() == key }) ||
		slices.ContainsFunc(strays, func(s norm.Stray) bool { return StrayKey(s) == key })
}

func repeats(root *screen.Element) bool {
	found := false
	root.Walk(func(e, _ *screen.Element) bool {
		found = found || e.Repeat != nil
		return !found
	})
	return found
}

// unsigned says which of the screens to be delivered the team does not deliver yet.
func unsigned(w *model.Workspace, ids []string) error {
	if len(rules.Signing.Held(w.Tunings, "delivery")) == 0 {
		return nil
	}
	var open []string
	for _, d := range w.Docs {
		if d.Kind == screen.ScreenDoc && !d.Removed && slices.Contains(ids, d.ID) && !d.SignedNow() {
			open = append(open, d.Title)
		}
	}
	switch len(open) {
	case 0:
		return nil
	case 1:
		return fmt.Errorf("%s is not signed off as it stands, and only what is signed off is delivered", open[0])
	}
	return fmt.Errorf("%s and %d more are not signed off as they stand, and only what is signed off is delivered", open[0], len(open)-1)
}
