package repo_test

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit/describe"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/source"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
	"ubiquant/internal/written"
	"ubiquant/server/repo"
)

const day = "2026-11-29"

func readers(t *testing.T) (markup, declarations []byte) {
	t.Helper()
	read := func(name string) []byte {
		b, err := os.ReadFile(filepath.Join(testkit.Root(), "readers", "dist", name))
		require.NoError(t, err, "the readers are not built; build them with ./start.sh --build-only")
		return b
	}
	return read("markup.cjs"), read("declarations.cjs")
}

func put(t *testing.T, files map[string][]byte) string {
	t.Helper()
	dir := t.TempDir()
	for name, text := range files {
		file := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
		require.NoError(t, os.WriteFile(file, text, 0o644))
	}
	return dir
}

func read(t *testing.T, dir string, known map[string]*describe.Catalog) *repo.Repository {
	t.Helper()
	markup, declarations := readers(t)
	r, err := repo.Read(t.Context(), repo.Options{Dir: dir, Markup: markup, Declarations: declarations, Known: known})
	require.NoError(t, err)
	return r
}

// was is the id that an element had where it was written from.
func was(r *repo.Repository, doc, element string) string {
	p := r.Places[doc][element]
	if p == nil {
		return ""
	}
	for _, a := range p.Node.Attributes {
		if a.Name == written.Mark {
			return a.Value.Value
		}
	}
	return ""
}

// What is written as code in a framework is read as it was: the same elements in the same slots,
// with the same props and texts; what was computed is bound.
func TestWhatIsWrittenAsCodeIsReadAsItWas(t *testing.T) {
	team := generate.NewTeam(generate.Options{Screens: 20, Slips: 0.05, Seed: 3})
	for _, dialect := range written.Dialects {
		t.Run(dialect, func(t *testing.T) {
			known := map[string]*describe.Catalog{written.Package: written.Catalog(testkit.Sorrel(t), dialect)}
			r := read(t, put(t, written.Repository(team.Workspace, testkit.Sorrel(t), dialect)), known)
			assert.Empty(t, r.Report.Left)
			assert.Equal(t, len(team.Docs), r.Report.Screens)
			for _, d := range team.Docs {
				i := slices.IndexFunc(r.W.Docs, func(o *screen.Document) bool {
					return was(r, o.Address(), o.Root.ID) == d.Root.ID && strings.Contains(plainly(o.Source), plainly(d.ID))
				})
				require.GreaterOrEqual(t, i, 0, "%s of %s", d.ID, dialect)
				got := r.W.Docs[i]
				if dialect != "html" {
					assert.Equal(t, d.Route, got.Route)
				}
				same(t, r, got, d.Root, got.Root)
			}
		})
	}
}

func plainly(s string) string { return strings.ToLower(strings.ReplaceAll(s, "-", "")) }

func same(t *testing.T, r *repo.Repository, d *screen.Document, want, got *screen.Element) {
	t.Helper()
	at := d.Address() + "#" + want.ID
	require.Equal(t, want.ID, was(r, d.Address(), got.ID), at)
	typ := want.Type
	if !strings.Contains(typ, "-") {
		typ = "sorrel-" + typ
	}
	assert.Equal(t, typ, got.Type, at)
	assert.Equal(t, want.Slot, got.Slot, at)
	assert.Equal(t, want.Repeat != nil && d.Source[len(d.Source)-5:] != ".html" || got.Repeat != nil, got.Repeat != nil, at)
	for _, p := range want.Props {
		v, ok := got.Prop(p.Name)
		assert.True(t, ok, "%s of %s is lost", p.Name, at)
		if p.Value.Known() {
			assert.Equal(t, p.Value.Text, v.Text, "%s of %s", p.Name, at)
		} else {
			assert.Equal(t, screen.Bound, v.Kind, "%s of %s", p.Name, at)
		}
	}
	for _, p := range got.Props {
		_, ok := want.Prop(p.Name)
		assert.True(t, ok || want.Repeat != nil && p.Name == "key", "%s of %s was not written", p.Name, at)
	}
	switch {
	case want.Text.Kind == screen.None:
		assert.Equal(t, screen.None, got.Text.Kind, at)
	case want.Text.Known():
		assert.Equal(t, strings.TrimSpace(want.Text.Text), got.Text.Text, at)
	default:
		assert.Equal(t, screen.Bound, got.Text.Kind, at)
	}
	sorted := *want
	screen.SortSlots(&sorted)
	require.Len(t, got.Children, len(sorted.Children), at)
	for i := range sorted.Children {
		same(t, r, d, sorted.Children[i], got.Children[i])
	}
}

// Slips that are written as code are found in it: nearly as many as where the screens were made
// here, and hardly more that are none.
func TestSlipsInCodeAreFound(t *testing.T) {
	team := generate.NewTeam(generate.Options{Screens: 60, Slips: 0.03, Seed: 11})
	k := testkit.Sorrel(t)
	hits := func(told map[string]bool) (found, claims int) {
		for _, p := range team.Planted {
			if slices.ContainsFunc(p.Elements, func(e string) bool { return told[p.Doc+"#"+e] }) {
				found++
			}
		}
		return found, len(told)
	}
	told := map[string]bool{}
	for _, s := range live.Open(team.Workspace, k, day).Norms.Strays() {
		told[s.Doc+"#"+s.Element] = true
	}
	here, claims := hits(told)
	for _, dialect := range written.Dialects {
		for _, described := range []bool{true, false} {
			t.Run(fmt.Sprintf("%s described %v", dialect, described), func(t *testing.T) {
				var known map[string]*describe.Catalog
				if described {
					known = map[string]*describe.Catalog{written.Package: written.Catalog(k, dialect)}
				}
				r := read(t, put(t, written.Repository(team.Workspace, testkit.Sorrel(t), dialect)), known)
				byFile := map[string]string{}
				for _, d := range team.Docs {
					byFile[plainly(d.ID)] = d.Address()
				}
				told := map[string]bool{}
				l := live.Open(r.W, r.Kit, day)
				for _, s := range l.Norms.Strays() {
					d, _ := l.W.Doc(s.Doc)
					name := strings.TrimSuffix(filepath.Base(d.Source), filepath.Ext(d.Source))
					told[byFile[plainly(strings.TrimSuffix(name, ".component"))]+"#"+was(r, s.Doc, s.Element)] = true
				}
				found, all := hits(told)
				t.Logf("%d of %d planted found with %d claims; from the workspace %d with %d", found, len(team.Planted), all, here, claims)
				assert.GreaterOrEqual(t, float64(found), 0.7*float64(here))
				allowed := all / 5
				if dialect == "html" { // pages have no routes, by which kinds of screens are told apart
					allowed = all / 2
				}
				assert.LessOrEqual(t, all-found, claims-here+allowed)
			})
		}
	}
}

// A repair changes a literal and nothing else, reads as it was meant, and is taken back to the
// byte; in every framework.
func TestARepairChangesALiteralAndNothingElse(t *testing.T) {
	team := generate.NewTeam(generate.Options{Screens: 60, Slips: 0.06, Seed: 21})
	k := testkit.Sorrel(t)
	for _, dialect := range written.Dialects {
		t.Run(dialect, func(t *testing.T) {
			known := map[string]*describe.Catalog{written.Package: written.Catalog(k, dialect)}
			dir := put(t, written.Repository(team.Workspace, k, dialect))
			r := read(t, dir, known)
			l := live.Open(r.W, r.Kit, day)
			var repairs []source.Repair
			edits := map[string][]screen.Edit{}
			for _, s := range l.Norms.Strays() {
				if len(s.Fix) > 0 {
					repairs = append(repairs, source.Repair{Key: live.StrayKey(s), Doc: s.Doc, Edits: s.Fix})
					edits[live.StrayKey(s)] = s.Fix
				}
			}
			files, unmade := r.Patch(repairs)
			require.NotEmpty(t, files)
			made := map[string]bool{}
			for _, f := range files {
				assert.NotEqual(t, string(f.Before), string(f.After))
				for _, key := range f.Repairs {
					made[key] = true
				}
				// Lines that stand in both are the same, in the same order: at most one changes a repair.
				was, is := strings.Split(string(f.Before), "\n"), strings.Split(string(f.After), "\n")
				require.Len(t, is, len(was), f.Path)
				changed := 0
				for i := range was {
					if was[i] != is[i] {
						changed++
					}
				}
				assert.LessOrEqual(t, changed, len(f.Repairs)*2, f.Path)
			}
			assert.Len(t, repairs, len(made)+len(unmade), "each repair is made, or said not to be")
			require.NoError(t, r.Write(files))
			again := read(t, dir, known)
			for _, rep := range repairs {
				if !made[rep.Key] {
					continue
				}
				d, ok := again.W.Doc(rep.Doc)
				require.True(t, ok)
				for _, e := range edits[rep.Key] {
					el, _ := d.Root.Find(e.ID)
					require.NotNil(t, el, "%s: its id is the same after the repair", rep.Key)
					switch e.Op {
					case screen.Set:
						v, _ := el.Prop(e.Prop)
						assert.Equal(t, e.Value.Text, v.Text, rep.Key)
					case screen.Unset:
						_, set := el.Prop(e.Prop)
						assert.False(t, set, rep.Key)
					case screen.SetText:
						assert.Equal(t, e.Value.Text, el.Text.Text, rep.Key)
					}
				}
			}
			assert.ErrorContains(t, r.Write(files), "was changed since it was read")
			require.NoError(t, again.Write(source.Reverse(files)))
			for _, f := range files {
				b, err := os.ReadFile(filepath.Join(dir, filepath.FromSlash(f.Path)))
				require.NoError(t, err)
				assert.Equal(t, string(f.Before), string(b))
			}
		})
	}
}
