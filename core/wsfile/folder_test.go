package wsfile_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit/opened"
	"ubiquant/internal/testkit/steps"
)

// Whatever a workspace is, its folder is read as what it is: the same text but for how often screens
// and shells were edited; who signed one off as it stands still has.
func TestAFolderIsReadAsItIsWritten(t *testing.T) {
	start, k := opened.Demo(t).W, opened.Demo(t).Kit.Bare()
	rapid.Check(t, func(r *rapid.T) {
		l := &live.Live{W: start, Kit: k, Cat: model.NewCatalog(k, start)}
		for range rapid.IntRange(0, 5).Draw(r, "steps") {
			step := steps.Draw(r, l)
			if _, kits := step.(*change.TakeKit); kits {
				continue
			}
			if next, _, err := change.Apply(l.W, change.Change{Steps: []change.Step{step}}, l.Cat, nil); err == nil {
				l.W = next
				l.Cat.Renew(next)
			}
		}
		files := wsfile.Folder(l.W)
		back, err := wsfile.ReadFolder(files)
		require.NoError(r, err)
		again := wsfile.Folder(back)
		require.Equal(r, len(files), len(again))
		for name, text := range files {
			require.True(r, wsfile.InFolder(name), name)
			require.Equal(r, string(text), string(again[name]), name)
		}
		for _, d := range l.W.Docs {
			now, ok := back.Doc(d.Address())
			require.True(r, ok)
			assert.Equal(r, d.SignedNow(), now.SignedNow(), d.Address())
			assert.Equal(r, d.Signed != nil, now.Signed != nil, d.Address())
		}
	})
}

func TestWhatIsMissingOrTwiceInAFolderIsSaid(t *testing.T) {
	w := opened.Demo(t).W
	for name, c := range map[string]struct {
		change func(files map[string][]byte)
		why    string
	}{
		"a set without its name": {func(f map[string][]byte) { delete(f, "samples/00-usual/_set.json") }, "_set.json is missing"},
		"a set in both forms": {func(f map[string][]byte) {
			f["samples/00-usual.json"] = []byte(`{"id":"usual","name":"Usual","records":{}}`)
		}, "is there twice"},
		"deeper than there is": {func(f map[string][]byte) { f["screens/a/b.json"] = []byte(`{}`) }, "not known here"},
		"no list of records":   {func(f map[string][]byte) { f["samples/00-usual/beds.json"] = []byte(`{}`) }, "samples/00-usual/beds.json"},
		"more behind the list": {func(f map[string][]byte) { f["samples/00-usual/beds.json"] = []byte(`[] []`) }, "samples/00-usual/beds.json"},
	} {
		t.Run(name, func(t *testing.T) {
			files := wsfile.Folder(w)
			c.change(files)
			_, err := wsfile.ReadFolder(files)
			assert.ErrorContains(t, err, c.why)
		})
	}
	// One file a set, as it was written before, is read as well.
	files := wsfile.Folder(w)
	for name := range files {
		if strings.HasPrefix(name, "samples/") {
			delete(files, name)
		}
	}
	for i := range w.Sets {
		var out screen.Writer
		model.WriteSet(&out, &w.Sets[i])
		files["samples/0"+string(rune('0'+i))+"-"+w.Sets[i].ID+".json"] = out.B
	}
	back, err := wsfile.ReadFolder(files)
	require.NoError(t, err)
	require.Len(t, back.Sets, len(w.Sets))
	assert.Equal(t, w.Sets[0].Records["beds"], back.Sets[0].Records["beds"])
}

// Two people in git: one edits an element of a screen and a record, the other another of each, and
// both add something elsewhere. Git merges it without a word, and what comes of it is a workspace.
func TestTwoBranchesMergeInGit(t *testing.T) {
	if _, err := exec.LookPath("git"); err != nil {
		t.Skip("git is not installed")
	}
	dir := t.TempDir()
	git := func(args ...string) string {
		cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=Ida", "-c", "user.email=ida@fernhollow.example"}, args...)...)
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "git %v: %s", args, out)
		return string(out)
	}
	start, k := opened.Demo(t).W, opened.Demo(t).Kit.Bare()
	put := func(w *model.Workspace, words string) {
		for name, data := range wsfile.Folder(w) {
			at := filepath.Join(dir, filepath.FromSlash(name))
			require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
			require.NoError(t, os.WriteFile(at, data, 0o644))
		}
		git("add", "-A")
		git("commit", "-qm", words)
	}
	take := func(steps ...change.Step) *model.Workspace {
		w, _, err := change.Apply(start, change.Change{Title: "x", Steps: steps}, model.NewCatalog(k, start), nil)
		require.NoError(t, err)
		return w
	}
	beds := start.Sets[0].Records["beds"]
	require.GreaterOrEqual(t, len(beds), 4)
	named := func(i int, name string) change.Step {
		rec := sample.Record{}
		for f, v := range beds[i] {
			rec[f] = v
		}
		rec["name"] = name
		return &change.Records{Rows: change.Rows{Set: start.Sets[0].ID, Model: "beds", Put: []sample.Record{rec}}}
	}
	text := func(doc, id, to string) change.Step {
		return &change.Edit{Doc: doc, Edits: []screen.Edit{{Op: screen.SetText, ID: id, Value: screen.Lit(to)}}}
	}
	d, _ := start.Doc("screen:tickets")
	var says []string
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Text.Text != "" {
			says = append(says, e.ID)
		}
		return true
	})
	require.GreaterOrEqual(t, len(says), 2)
	git("init", "-q", "-b", "main")
	put(start, "start")
	git("checkout", "-qb", "noor")
	put(take(text("screen:tickets", says[0], "By Noor"), named(0, "Noor's bed")), "noor")
	git("checkout", "-q", "main")
	put(take(text("screen:tickets", says[len(says)-1], "By Ida"), named(3, "Ida's bed")), "ida")
	git("merge", "-q", "noor", "-m", "both")

	files := map[string][]byte{}
	for name := range strings.SplitSeq(strings.TrimSpace(git("ls-files")), "\n") {
		data, err := os.ReadFile(filepath.Join(dir, filepath.FromSlash(name)))
		require.NoError(t, err)
		files[name] = data
	}
	w, err := wsfile.ReadFolder(files)
	require.NoError(t, err)
	both, _ := w.Doc("screen:tickets")
	for id, want := range map[string]string{says[0]: "By Noor", says[len(says)-1]: "By Ida"} {
		e, _ := both.Root.Find(id)
		assert.Equal(t, want, e.Text.Text)
	}
	assert.Equal(t, "Noor's bed", w.Sets[0].Records["beds"][0]["name"])
	assert.Equal(t, "Ida's bed", w.Sets[0].Records["beds"][3]["name"])
}
