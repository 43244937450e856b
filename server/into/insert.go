package into

import (
	"bytes"
	"context"
	"slices"
	"strings"
)

// tidy formats what is added to a file that was formatted before.
func (r *Repo) tidy(ctx context.Context, list []Addition) {
	q := question{}
	for _, a := range list {
		if a.Is != nil {
			q.Format = append(q.Format, text{a.Path, string(a.Was)}, text{a.Path, string(a.Is)})
		}
	}
	if len(q.Format) == 0 || r.read("node_modules/prettier/package.json") == nil {
		return
	}
	got, err := r.ask(ctx, q)
	if err != nil {
		return // what formats the code says so
	}
	by := map[string][]string{}
	for _, t := range got.Texts {
		by[t.Path] = append(by[t.Path], t.Text)
	}
	looked, last := map[string]int{}, map[string]int{} // texts and additions by path
	for i := range list {
		a := &list[i]
		if a.Is == nil {
			continue
		}
		texts, k := by[a.Path], looked[a.Path]
		looked[a.Path] += 2
		if len(texts) > k+1 && texts[0] == string(r.read(a.Path)) {
			a.Is = []byte(texts[k+1])
		}
		if before, ok := last[a.Path]; ok { // what goes into the same file follows on it
			a.Was = list[before].Is
		}
		last[a.Path] = i
	}
}

// insert is a text that is put into a file, at a place of it as it stands.
type insert struct {
	at   int
	text string
}

// put has an addition put texts into a file, after all that others put there.
func (r *Repo) put(a *Addition, list ...insert) {
	src := r.read(a.Path)
	with := func(list []insert) []byte {
		var out bytes.Buffer
		last := 0
		for _, i := range list {
			out.Write(src[last:i.at])
			out.WriteString(i.text)
			last = i.at
		}
		out.Write(src[last:])
		return out.Bytes()
	}
	if r.inserts == nil {
		r.inserts = map[string][]insert{}
	}
	a.Was = with(r.inserts[a.Path])
	all := slices.Clone(r.inserts[a.Path])
	for _, i := range list {
		// Two names of one module are one statement.
		what, from, _ := strings.Cut(i.text, " } from ")
		same := func(b insert) bool { return from != "" && b.at == i.at && strings.HasSuffix(b.text, " } from "+from) }
		if k := slices.IndexFunc(all, same); k >= 0 {
			names := strings.TrimPrefix(strings.TrimSpace(what), "import { ")
			all[k].text = strings.Replace(all[k].text, " } from ", ", "+names+" } from ", 1)
			continue
		}
		all = append(all, i)
	}
	slices.SortStableFunc(all, func(a, b insert) int { return a.at - b.at })
	r.inserts[a.Path] = all
	a.Is = with(all)
}
