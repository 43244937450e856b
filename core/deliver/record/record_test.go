package record

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/deliver"
)

// repository is a folder in memory.
type repository struct {
	files  map[string][]byte
	record *Record
}

func (r *repository) there(path string) []byte { return r.files[path] }

// deliver does what a plan says, and reads the record back as the next delivery will.
func (r *repository) deliver(t require.TestingT, files ...deliver.File) map[string]Change {
	list, next, err := r.record.Plan(files, r.there)
	require.NoError(t, err)
	out := map[string]Change{}
	for _, c := range list {
		out[c.Path] = c
		if c.Is == nil {
			delete(r.files, c.Path)
		} else {
			r.files[c.Path] = c.Is
		}
		if c.Beside != nil {
			r.files[c.Path+Beside] = c.Beside
		}
	}
	record, base, err := next.Write()
	require.NoError(t, err)
	r.record, err = Read(record, base)
	require.NoError(t, err)
	return out
}

func file(path, text string) deliver.File { return deliver.File{Path: path, Data: []byte(text)} }

func own(path, text string) deliver.File {
	return deliver.File{Path: path, Data: []byte(text), Own: true}
}

func empty(t require.TestingT) *repository {
	r, err := Read(nil, nil)
	require.NoError(t, err)
	return &repository{files: map[string][]byte{}, record: r}
}

// Five deliveries, and somebody edits between them.
func TestWhatTheTeamWroteIsNeverOverwritten(t *testing.T) {
	r := empty(t)
	r.files["main.ts"] = []byte("theirs\n")
	r.files["b.vue"] = []byte("a file of their own of that name\n")
	first := r.deliver(t, file("a.vue", "1\n2\n3\n4\n5\n"), file("b.vue", "ours\n"), own("a.own.ts", "once\n"), file("c.vue", "c\n"))
	assert.Equal(t, Add, first["a.vue"].What)
	assert.Equal(t, Conflict, first["b.vue"].What)
	assert.Equal(t, "a file of their own of that name\n", string(r.files["b.vue"]))
	assert.Equal(t, "ours\n", string(r.files["b.vue"+Beside]))

	// They edit one end of a file, we the other; own code is never looked at again.
	r.files["a.vue"] = []byte("1 theirs\n2\n3\n4\n5\n")
	r.files["a.own.ts"] = []byte("their behaviour\n")
	delete(r.files, "b.vue"+Beside) // they have settled it: theirs stays
	second := r.deliver(t, file("a.vue", "1\n2\n3\n4\n5 ours\n"), file("b.vue", "ours\n"), own("a.own.ts", "twice\n"), file("c.vue", "c2\n"))
	assert.Equal(t, Merge, second["a.vue"].What)
	assert.Equal(t, "1 theirs\n2\n3\n4\n5 ours\n", string(r.files["a.vue"]))
	assert.Equal(t, Kept, second["a.own.ts"].What)
	assert.Equal(t, "their behaviour\n", string(r.files["a.own.ts"]))
	assert.Equal(t, Edited, second["b.vue"].What, "what was settled is not asked again")
	assert.Equal(t, Renew, second["c.vue"].What)

	// Both change one line: theirs stays, the new text stands beside it until it is put in.
	r.files["a.vue"] = []byte("1 theirs\n2\n3 theirs\n4\n5 ours\n")
	third := r.deliver(t, file("a.vue", "1\n2\n3 ours\n4\n5 ours\n"), file("b.vue", "ours\n"), own("a.own.ts", "x\n"), file("c.vue", "c2\n"))
	assert.Equal(t, Conflict, third["a.vue"].What)
	assert.Equal(t, "1 theirs\n2\n3 theirs\n4\n5 ours\n", string(r.files["a.vue"]))
	assert.Equal(t, Same, third["c.vue"].What)
	again := r.deliver(t, file("a.vue", "1\n2\n3 ours\n4\n5 ours\n"), file("b.vue", "ours\n"), own("a.own.ts", "x\n"), file("c.vue", "c2\n"))
	assert.Equal(t, Conflict, again["a.vue"].What, "it is told until it is settled")
	r.files["a.vue"] = []byte("1 theirs\n2\n3 both\n4\n5 ours\n")
	delete(r.files, "a.vue"+Beside)
	fourth := r.deliver(t, file("a.vue", "1\n2\n3 ours\n4\n5 again\n"), own("a.own.ts", "x\n"))
	assert.Equal(t, Merge, fourth["a.vue"].What)
	assert.Equal(t, "1 theirs\n2\n3 both\n4\n5 again\n", string(r.files["a.vue"]))
	// What is no longer delivered goes where nobody touched it, and is named where somebody did.
	assert.Equal(t, Remove, fourth["c.vue"].What)
	assert.NotContains(t, r.files, "c.vue")
	assert.Equal(t, Left, fourth["b.vue"].What)

	// What was removed and is needed comes back, and says so.
	delete(r.files, "a.vue")
	fifth := r.deliver(t, file("a.vue", "5\n"))
	assert.Equal(t, Restore, fifth["a.vue"].What)
	assert.Equal(t, Left, fifth["a.own.ts"].What)
	assert.Equal(t, "theirs\n", string(r.files["main.ts"]))
}

// Whatever is edited and delivered in whatever order: a line that the team wrote is there,
// or it was taken away by the team; nothing else is lost.
func TestNoLineOfTheTeamsIsEverLost(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := empty(t)
		version := []string{"a", "b", "c", "d", "e", "f", "g", "h"}
		wrote := map[string]bool{}
		for round := range rapid.IntRange(1, 6).Draw(t, "rounds") {
			before := string(r.files["x.vue"])
			c := r.deliver(t, file("x.vue", strings.Join(version, "\n")+"\n"))["x.vue"]
			now := string(r.files["x.vue"])
			for line := range wrote {
				assert.Contains(t, now, line, "round %d, %s: %s", round, c.What, before)
			}
			if c.What == Conflict {
				assert.Equal(t, before, now)
				assert.Equal(t, strings.Join(version, "\n")+"\n", string(r.files["x.vue"+Beside]))
			}
			if c.What == Merge || c.What == Renew || c.What == Add {
				for _, line := range version {
					if !strings.Contains(now, line) { // theirs replaced it
						assert.NotEmpty(t, wrote)
					}
				}
			}
			// Either side changes something.
			lines := strings.Split(strings.TrimSuffix(now, "\n"), "\n")
			if rapid.Bool().Draw(t, "they edit") && len(lines) > 0 {
				i := rapid.IntRange(0, len(lines)-1).Draw(t, "where")
				theirs := fmt.Sprintf("theirs-%d-%d", round, i)
				delete(wrote, lines[i])
				lines[i] = theirs
				wrote[theirs] = true
				r.files["x.vue"] = []byte(strings.Join(lines, "\n") + "\n")
			}
			if rapid.Bool().Draw(t, "we change") {
				i := rapid.IntRange(0, len(version)-1).Draw(t, "which")
				version[i] = fmt.Sprintf("ours-%d-%d", round, i)
			}
			if rapid.Bool().Draw(t, "they settle") {
				delete(r.files, "x.vue"+Beside)
			}
		}
	})
}

// A delivery that was broken off left files that no record knows: they are not taken for
// edits of the team's.
func TestADeliveryThatWasBrokenOffIsGoneOnWith(t *testing.T) {
	r := empty(t)
	r.deliver(t, file("a.vue", "1\n"), file("b.vue", "1\n"))
	r.record.Pending = map[string]string{"a.vue": HashOf([]byte("2\n")), "b.vue": HashOf([]byte("2\n"))}
	r.files["a.vue"] = []byte("2\n")
	got := r.deliver(t, file("a.vue", "3\n"), file("b.vue", "3\n"))
	assert.Equal(t, Renew, got["a.vue"].What)
	assert.Equal(t, Renew, got["b.vue"].What)
	assert.Empty(t, r.record.Pending)
}

func TestBrokenRecordsAreRefusedWithTheReason(t *testing.T) {
	for _, bad := range []string{"{", `{"format":"else"}`, `{"format":"ubiquant.delivery/1","files":{"../x":{"hash":""}}}`, `{"format":"ubiquant.delivery/1","files":{"/x":{"hash":""}}}`, `{"more":1}`} {
		_, err := Read([]byte(bad), nil)
		assert.ErrorContains(t, err, File, bad)
	}
	_, err := Read([]byte(`{"format":"ubiquant.delivery/1"}`), []byte("no archive"))
	assert.ErrorContains(t, err, Base)
	for _, path := range []string{"../out", "/etc/x", "", "a/../../b", `a\b`} {
		_, _, err := empty(t).record.Plan([]deliver.File{file(path, "x")}, func(string) []byte { return nil })
		assert.Error(t, err, path)
	}
}

func TestAPatchSaysWhatChanges(t *testing.T) {
	r := empty(t)
	list, _, err := r.record.Plan([]deliver.File{file("new.ts", "1\n"), {Path: "kit.tgz", Data: []byte{0xff, 0}}}, r.there)
	require.NoError(t, err)
	got := Patch(list, "src/ops/")
	assert.Contains(t, got, "diff --git a/src/ops/new.ts b/src/ops/new.ts\nnew file mode 100644\n--- /dev/null\n+++ b/src/ops/new.ts\n@@ -0,0 +1 @@\n+1\n")
	assert.Contains(t, got, "Binary files /dev/null and b/src/ops/kit.tgz differ")
}

func FuzzRead(f *testing.F) {
	r := empty(f)
	r.deliver(f, file("a", "x"))
	record, base, err := r.record.Write()
	require.NoError(f, err)
	f.Add(record, base)
	f.Fuzz(func(t *testing.T, record, base []byte) {
		r, err := Read(record, base)
		if err != nil {
			return
		}
		again, more, err := r.Write()
		require.NoError(t, err)
		_, err = Read(again, more)
		require.NoError(t, err)
	})
}
