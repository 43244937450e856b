package repo

import (
	"context"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/live"
	"ubiquant/core/source"
)

// Judge judges what was read as a workspace is judged, with the decisions of the settings and of
// comments in the code. Comments that say nothing that holds are told among what was not read.
func (r *Repository) Judge(today string) *live.Live {
	w := *r.W
	w.House, w.OwnRules = slices.Clone(w.House), slices.Clone(w.OwnRules)
	w.Tunings, w.Stands = slices.Clone(w.Tunings), slices.Clone(w.Stands)
	r.Settings.Decide(&w)
	l := live.Open(&w, r.Kit, today)
	again := false
	for i := range w.House {
		h := &w.House[i]
		if sp, ok := l.Index.Spot(h.Spot); ok && h.Words == h.Spot {
			h.Words, again = l.Words(sp), true
		}
	}
	if stands := r.standing(l); len(stands) > 0 {
		w.Stands, again = append(w.Stands, stands...), true
	}
	if again {
		return live.Open(&w, r.Kit, today)
	}
	return l
}

// standing is what comments in the code let stand of what was found.
func (r *Repository) standing(l *live.Live) (out []audit.LetStand) {
	told := map[source.Left]bool{}
	for _, l := range r.Report.Left {
		told[l] = true
	}
	look := func(key string, doc, element, rule, prop string) {
		p := r.Places[doc][element]
		if p == nil {
			return
		}
		stands, wrong := p.Comments()
		for _, w := range wrong {
			if !told[w] {
				told[w] = true
				r.Report.Left = append(r.Report.Left, w)
			}
		}
		for i := range stands {
			if stands[i].Covers(rule, prop) {
				out = append(out, audit.StandsInCode(key, stands[i].Reason, stands[i].Until))
				return
			}
		}
	}
	open, _ := l.Findings()
	for i := range open {
		f := &open[i]
		look(f.Key(), f.Doc, f.Element, f.Rule, f.Prop)
	}
	for _, s := range l.Strays() {
		look(live.StrayKey(s), s.Doc, s.Element, audit.StrayRule.ID, s.Prop)
	}
	slices.SortStableFunc(out, func(a, b audit.LetStand) int { return strings.Compare(a.ID, b.ID) })
	return slices.CompactFunc(out, func(a, b audit.LetStand) bool { return a.ID == b.ID })
}

// Repair turns repairs into files, and reads these anew before it gives them: they still parse,
// what was repaired is found no more, and nothing worse is. A repair that does not hold is left
// out and told, like those that are no change of a literal.
func (r *Repository) Repair(ctx context.Context, o Options, today string, repairs []source.Repair) (files []source.Patched, unmade []source.Unmade, err error) {
	known := map[string]bool{}
	for key := range grave(r.Judge(today)) {
		known[key] = true
	}
	repairs = slices.Clone(repairs)
	for range 4 {
		var left []source.Unmade
		files, left = r.Patch(repairs)
		bad, err := r.check(ctx, o, today, files, known)
		if err != nil {
			return nil, nil, err
		}
		dropped := map[string]bool{}
		for _, u := range append(left, bad...) {
			dropped[u.Key] = true
			unmade = append(unmade, u)
		}
		repairs = slices.DeleteFunc(repairs, func(rep source.Repair) bool { return dropped[rep.Key] })
		if len(bad) == 0 {
			return files, unmade, nil
		}
	}
	return nil, unmade, nil
}

// grave are the errors and warnings of what was judged, by their keys.
func grave(l *live.Live) map[string]audit.Finding {
	out := map[string]audit.Finding{}
	open, _ := l.Findings()
	for _, f := range open {
		if f.Severity != audit.Note {
			out[f.Key()] = f
		}
	}
	return out
}

func (r *Repository) check(ctx context.Context, o Options, today string, files []source.Patched, known map[string]bool) (bad []source.Unmade, err error) {
	if len(files) == 0 {
		return nil, nil
	}
	o.Overlay = map[string][]byte{}
	for _, f := range files {
		o.Overlay[f.Path] = f.After
	}
	again, err := Open(ctx, o)
	if err != nil {
		return nil, err
	}
	l := again.Judge(today)
	problems := func(list []source.Left) map[string]int {
		out := map[string]int{}
		for _, left := range list {
			out[left.File]++
		}
		return out
	}
	was, is := problems(r.Report.Left), problems(again.Report.Left)
	still, fresh := map[string]bool{}, map[string]string{}
	open, _ := l.Findings()
	for _, f := range open {
		still[f.Key()] = true
	}
	for _, s := range l.Strays() {
		still[live.StrayKey(s)] = true
	}
	for key, f := range grave(l) {
		if p := again.Places[f.Doc][f.Element]; p != nil && !known[key] {
			fresh[p.File.Path] = f.Message
		}
	}
	for _, f := range files {
		for _, key := range f.Repairs {
			why := ""
			switch {
			case is[f.Path] > was[f.Path]:
				why = "the file would not be read any more"
			case still[key]:
				why = "it would be found still"
			case fresh[f.Path] != "":
				why = "it would bring: " + fresh[f.Path]
			}
			if why != "" {
				bad = append(bad, source.Unmade{Key: key, Where: f.Path, Why: why})
			}
		}
	}
	return bad, nil
}
