package e2e_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/repo"
)

// The first hour with a repository of one's own: the kit is drawn, the screens are read, one question
// is settled, all that strays is brought into line as a patch, what was decided goes into the
// repository as another; both apply, and from then on its audit says what was decided here, finds
// nothing, and finds the next slip.
func TestTheFirstHourWithARepository(t *testing.T) {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	dir := filepath.Join(t.TempDir(), "stand")
	require.NoError(t, os.CopyFS(dir, os.DirFS(filepath.Join(testkit.Root(), "demo", "stand"))))
	inForms(t, dir, `look="quiet" (href="[^"]*">Cancel)`, `look="outline" $1`, 0, 2, 4, 7, 9, 11, 14)
	git := func(args ...string) string {
		t.Helper()
		args = append([]string{"-C", dir, "-c", "user.name=Noor", "-c", "user.email=noor@fernhollow.example", "-c", "core.fsmonitor=false"}, args...)
		out, err := exec.Command("git", args...).CombinedOutput()
		require.NoError(t, err, "%s", out)
		return string(out)
	}
	git("init", "-q")
	git("add", "-A")
	git("commit", "-qm", "As it stands")

	read := func() *repo.Repository {
		t.Helper()
		r, err := repo.Open(t.Context(), repo.Options{Dir: dir})
		require.NoError(t, err)
		return r
	}
	r := read()
	kit := packed(t, "@fernhollow/tansy", "1.0.0")
	k, err := kit.Kit()
	require.NoError(t, err)
	r.W = r.Judge("2026-01-01").W
	r.On(k)
	r.W.Kit.Hash = kit.Hash()
	j := beginOn(t, "keeper", server.Options{
		Database: database.Empty(t), Kit: kit, Workspace: r.W, Repositories: map[string]string{"stand": dir},
		Code: &server.Code{Name: "stand", Settings: r.Settings},
	})
	j.until(`document.body.textContent.includes('40 screens')`)
	download := func() string {
		t.Helper()
		j.run(chromedp.Evaluate(`window.kept = ''; { const make = window.make ??= URL.createObjectURL; URL.createObjectURL = b => { b.text().then(t => (window.kept = t)); return make(b) } }`, nil))
		j.click(button("Download the patch"))
		j.until(`window.kept`)
		file := filepath.Join(t.TempDir(), "change.patch")
		require.NoError(t, os.WriteFile(file, []byte(j.text(`window.kept`)+"\n"), 0o600))
		return file
	}
	const dialog = `document.querySelector('[role=dialog]')`
	const rows = `document.querySelectorAll('[role=treeitem][aria-level="1"]')`
	j.keys, j.clicks, j.thoughts = 0, 0, 0

	// The kit, drawn.
	j.think()
	j.click(link("Shelf"))
	j.until(`document.querySelectorAll('[data-component], article, li iframe, a[href^="/shelf/"]').length >= 10 && document.querySelector('[data-pending="0"]')`)

	// The one question, settled with a reason.
	j.think()
	j.click(link("Census"))
	j.until(`document.querySelectorAll('article').length === 1`)
	j.think()
	j.click(button("Settle on quiet"))
	j.until(dialog + `?.querySelector('textarea:focus')`)
	j.write("Save is what a form is for")
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.innerText.trim() === 'Settle')`)
	j.until(`!` + dialog + ` && !document.querySelector('article')`)

	// All that strays, brought into line at once: a patch of literals.
	j.think()
	j.click(link("Worklist"))
	j.until(rows + `.length >= 3`)
	j.click(rows + `[0]`)
	j.until(`document.activeElement?.getAttribute('role') === 'tree'`)
	j.key("A")
	j.key("f")
	j.until(dialog + `?.querySelector('[aria-label="The patch"]')`)
	lines := download()
	j.key("Escape")
	j.until(`!` + dialog)

	// What was decided, for the repository.
	j.think()
	j.click(button("Decisions into the repository"))
	j.until(dialog + `?.innerText.includes('Save is what a form is for')`)
	decisions := download()
	j.key("Escape")
	j.until(`!` + dialog)
	j.effort("the first hour with a repository", 2*8*60)

	// They apply, and the audit of the repository says the same.
	git("apply", lines)
	changed := strings.Fields(git("diff", "--name-only"))
	assert.GreaterOrEqual(t, len(changed), 10, "ten slips and more")
	git("apply", decisions)
	git("add", "-A")
	git("commit", "-qm", "In line")
	again := read()
	require.Len(t, again.Settings.House, 1)
	assert.Equal(t, "quiet", again.Settings.House[0].Value)
	judged := again.Judge("2026-01-01")
	open, _ := judged.Findings()
	assert.Empty(t, open)
	assert.Empty(t, judged.Strays())
	assert.Empty(t, judged.Questions())

	// The file says all of it now; and the next slip is found, by the house rule.
	j.click(button("Decisions into the repository"))
	j.until(dialog + `?.innerText.includes('The file says all that was decided here.')`)
	inForms(t, dir, `look="quiet" (href="[^"]*">Cancel)`, `look="outline" $1`, 3)
	open, _ = read().Judge("2026-01-01").Findings()
	require.Len(t, open, 1, "%v", again.Settings.House)
	assert.Equal(t, "house-rule", open[0].Rule)
	assert.Contains(t, open[0].Message, "Save is what a form is for")
}

// inForms edits some of the files in which a pattern stands, by their order.
func inForms(t *testing.T, dir, pattern, with string, which ...int) {
	t.Helper()
	found := regexp.MustCompile(pattern)
	n := 0
	require.NoError(t, filepath.WalkDir(filepath.Join(dir, "src", "views"), func(file string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		src, err := os.ReadFile(file)
		if err != nil || !found.Match(src) {
			return err
		}
		if n++; slices.Contains(which, n-1) {
			return os.WriteFile(file, found.ReplaceAll(src, []byte(with)), 0o600)
		}
		return nil
	}))
	require.Greater(t, n, slices.Max(which), strconv.Quote(pattern)+" stands in "+strconv.Itoa(n)+" files")
}
