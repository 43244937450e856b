package main

import (
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"encoding/xml"
	"errors"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
)

// run calls a command as the shell would and returns what it printed and its
// exit code.
func run(t *testing.T, args ...string) (string, int) {
	t.Helper()
	for _, c := range commands() {
		if c.Name() != args[0] {
			continue
		}
		var out bytes.Buffer
		c.SetOut(&out)
		c.SetErr(&out)
		c.SetArgs(args[1:])
		c.SilenceUsage, c.SilenceErrors = true, true
		err := c.Execute()
		var coded *exitError
		switch {
		case err == nil:
			return out.String(), 0
		case errors.As(err, &coded):
			return out.String() + coded.Error(), coded.code
		}
		return out.String() + err.Error(), exitBroken
	}
	t.Fatalf("there is no command %s", args[0])
	return "", 0
}

var demo = filepath.Join(testkit.Root(), "demo", "fernhollow.json")

func TestEveryCommandExplainsItself(t *testing.T) {
	names := map[string]bool{}
	for _, c := range commands() {
		names[c.Name()] = true
		assert.NotEmpty(t, c.Short, c.Name())
		out, code := run(t, c.Name(), "--help")
		assert.Equal(t, 0, code)
		assert.Contains(t, out, "Usage:")
	}
	for _, want := range []string{"serve", "audit", "deliver", "export", "import", "seed", "measure", "screenshots"} {
		assert.True(t, names[want], want)
	}
}

func TestAuditEndsWithOneForFindingsAndTwoForWhatCannotBeUsed(t *testing.T) {
	_, code := run(t, "audit", demo)
	assert.Equal(t, exitFound, code)
	_, code = run(t, "audit", demo, "--fail", "never")
	assert.Equal(t, 0, code)
	out, code := run(t, "audit", filepath.Join(t.TempDir(), "nowhere.json"))
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "nowhere.json")
	broken := filepath.Join(t.TempDir(), "broken.json")
	require.NoError(t, os.WriteFile(broken, []byte(`{"format":"ubiquant.workspace/1","screens":7}`), 0o644))
	out, code = run(t, "audit", broken)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "/screens")
	_, code = run(t, "audit", demo, "--format", "stone")
	assert.Equal(t, exitBroken, code)
	_, code = run(t, "audit", demo, "--fail", "sometimes")
	assert.Equal(t, exitBroken, code)
}

func TestSARIFNamesRuleLineAndColumnOfEachFinding(t *testing.T) {
	w, _, err := readSource(demo)
	require.NoError(t, err)
	dir := t.TempDir()
	require.NoError(t, writeFiles(dir, wsfile.Folder(w)))
	t.Run("file", func(t *testing.T) { sarifOf(t, demo) })
	t.Run("folder", func(t *testing.T) { sarifOf(t, dir) })
}

func sarifOf(t *testing.T, source string) {
	out, code := run(t, "audit", source, "--format", "sarif")
	assert.Equal(t, exitFound, code)
	out = strings.TrimSuffix(out, "there are findings")
	var log struct {
		Version string
		Runs    []struct {
			Tool struct {
				Driver struct{ Rules []struct{ ID string } }
			}
			Results []struct {
				RuleID    string
				RuleIndex int
				Level     string
				Locations []struct {
					PhysicalLocation struct {
						ArtifactLocation struct{ URI string }
						Region           struct{ StartLine, StartColumn int }
					}
				}
			}
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &log))
	assert.Equal(t, "2.1.0", log.Version)
	require.Len(t, log.Runs, 1)
	require.NotEmpty(t, log.Runs[0].Results)
	// By the schema that OASIS publishes, which refuses keys it does not have.
	compiler := jsonschema.NewCompiler()
	published, err := compiler.Compile("testdata/sarif-schema-2.1.0.json")
	require.NoError(t, err)
	value, err := jsonschema.UnmarshalJSON(strings.NewReader(out))
	require.NoError(t, err)
	require.NoError(t, published.Validate(value))

	for _, r := range log.Runs[0].Results {
		assert.Equal(t, r.RuleID, log.Runs[0].Tool.Driver.Rules[r.RuleIndex].ID)
		assert.Contains(t, []string{"error", "warning", "note"}, r.Level)
		at := r.Locations[0].PhysicalLocation
		src, err := os.ReadFile(filepath.FromSlash(at.ArtifactLocation.URI))
		require.NoError(t, err, "the file that is named is there")
		lines := strings.Split(string(src), "\n")
		require.Positive(t, at.Region.StartLine)
		line := lines[at.Region.StartLine-1]
		assert.Equal(t, "{", line[at.Region.StartColumn-1:at.Region.StartColumn], "the element begins there")
	}
}

func TestFindingsAsTableAndForBuildServers(t *testing.T) {
	out, code := run(t, "audit", demo, "--format", "csv")
	assert.Equal(t, exitFound, code)
	rows, err := csv.NewReader(strings.NewReader(strings.TrimSuffix(out, "there are findings"))).ReadAll()
	require.NoError(t, err)
	assert.Equal(
		t,
		[]string{"severity", "rule", "document", "element", "prop", "message", "fix", "file", "line", "column"},
		rows[0],
	)
	strays, findings := 0, map[string]bool{} // by element
	for _, row := range rows[1:] {
		if row[1] == "stray" {
			strays++
		} else {
			findings[row[2]+"#"+row[3]] = true
		}
		assert.NotEqual(t, "0", row[8], "%v", row)
	}
	assert.Equal(t, 10, strays)

	out, code = run(t, "audit", demo, "--format", "junit")
	assert.Equal(t, exitFound, code)
	var suite struct {
		Tests    int `xml:"tests,attr"`
		Failures int `xml:"failures,attr"`
		Cases    []struct {
			Failures []struct {
				Message string `xml:"message,attr"`
			} `xml:"failure"`
		} `xml:"testcase"`
	}
	require.NoError(t, xml.Unmarshal([]byte(strings.TrimSuffix(out, "there are findings")), &suite))
	assert.Len(t, suite.Cases, suite.Tests)
	assert.Equal(t, len(findings), suite.Failures, "a case an element")
}

func TestAFolderIsAuditedLikeTheFile(t *testing.T) {
	w, _, err := readSource(demo)
	require.NoError(t, err)
	dir := t.TempDir()
	require.NoError(t, writeFiles(dir, wsfile.Folder(w)))
	one, _ := run(t, "audit", demo, "--format", "json", "--fail", "never")
	two, _ := run(t, "audit", dir, "--format", "json", "--fail", "never")
	count := func(s string) (n map[string][]any) { require.NoError(t, json.Unmarshal([]byte(s), &n)); return n }
	for _, part := range []string{"findings", "strays", "questions"} {
		assert.Len(t, count(two)[part], len(count(one)[part]), part)
	}
	require.NoError(
		t,
		os.WriteFile(
			filepath.Join(dir, "screens", "stranger.json"),
			[]byte(`{"id":"other","root":{"id":"r","type":"stack"}}`),
			0o644,
		),
	)
	out, code := run(t, "audit", dir)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "should be other.json")
}

// What a folder was read from comes out the same, order included.
func TestAFolderKeepsTheOrderOfItsDocuments(t *testing.T) {
	w, _, err := readSource(demo)
	require.NoError(t, err)
	slices.Reverse(w.Docs)
	dir := t.TempDir()
	require.NoError(t, writeFiles(dir, wsfile.Folder(w)))
	again, _, err := readSource(dir)
	require.NoError(t, err)
	assert.Equal(t, string(wsfile.Write(w)), string(wsfile.Write(again)))
	require.NoError(t, os.Remove(filepath.Join(dir, "screens", "beds.json")))
	out, code := run(t, "audit", dir)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "screen:beds, whose file is not there")
}

// Nothing is written outside the folder that was named, by no path and through no link.
func TestFilesAreWrittenBeneathTheirFolderOnly(t *testing.T) {
	out, dir := t.TempDir(), t.TempDir()
	kept := filepath.Join(out, "kept.txt")
	require.NoError(t, os.WriteFile(kept, []byte("theirs"), 0o644))
	require.NoError(t, os.Symlink(out, filepath.Join(dir, "linked")))
	require.NoError(t, os.Symlink(kept, filepath.Join(dir, "kept.txt")))
	for _, path := range []string{"../kept.txt", "linked/kept.txt", "kept.txt", "a/../../kept.txt", "/kept.txt"} {
		assert.Error(t, writeFiles(dir, map[string][]byte{path: []byte("ours")}), path)
	}
	text, err := os.ReadFile(kept)
	require.NoError(t, err)
	assert.Equal(t, "theirs", string(text))
	require.NoError(t, writeFiles(dir, map[string][]byte{"a/b.txt": []byte("ours")}))
	assert.FileExists(t, filepath.Join(dir, "a", "b.txt"))
}

func TestUnknownValuesOfFlagsAreRefused(t *testing.T) {
	for _, args := range [][]string{
		{"deliver", demo, "--out", t.TempDir(), "--format", "xml"},
		{"audit", demo, "--fail", "loud"},
		{"audit", demo, "--format", "pdf"},
		{"user", "x", "--role", "king"},
	} {
		out, code := run(t, args...)
		assert.Equal(t, exitBroken, code, args)
		assert.Contains(t, out, "is not known; accepted:", args)
	}
}

func TestDeliverWritesWhatItLists(t *testing.T) {
	dir := t.TempDir()
	out, code := run(t, "deliver", demo, "--target", "html", "--out", dir, "--screen", "sign-in", "--format", "json")
	require.Equal(t, 0, code, out)
	var listed struct{ Files []struct{ Path, What string } }
	require.NoError(t, json.Unmarshal([]byte(out), &listed))
	require.NotEmpty(t, listed.Files)
	for _, f := range listed.Files {
		assert.FileExists(t, filepath.Join(dir, f.Path))
		assert.Equal(t, "add", f.What)
	}
	_, code = run(t, "deliver", demo, "--target", "stone", "--out", dir)
	assert.Equal(t, exitBroken, code)
	_, code = run(t, "deliver", demo, "--out", dir, "--screen", "nowhere")
	assert.Equal(t, exitBroken, code)
}

// A delivery into a repository is looked at first, made, checked, and made again beside
// what somebody wrote meanwhile; each says by its exit code what waits.
func TestDeliveringIntoARepositoryAgainAndAgain(t *testing.T) {
	dir := t.TempDir()
	write := func(name, text string) {
		at := filepath.Join(dir, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
	write("package.json", `{"dependencies":{"react":"19"}}`)
	write("src/main.tsx", "theirs\n")
	into := func(more ...string) (string, int) {
		return run(t, append([]string{"deliver", demo, "--into", dir, "--screen", "sign-in,forgot,not-found"}, more...)...)
	}
	out, code := into("--dry-run")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "+++ b/src/fernhollow-operations/screens/SignInScreen.tsx", "the framework is that of the repository")
	assert.NoDirExists(t, filepath.Join(dir, "src/fernhollow-operations"))
	out, code = into("--check")
	assert.Equal(t, exitFound, code, out)
	out, code = into()
	require.Equal(t, 0, code, out)
	assert.Contains(t, out, "by hand: import { routes } from './fernhollow-operations'")
	const screen = "src/fernhollow-operations/screens/SignInScreen.tsx"
	text, err := os.ReadFile(filepath.Join(dir, screen))
	require.NoError(t, err)
	write(screen, strings.Replace(string(text), "<h", "<em>theirs</em>\n<h", 1)+"// theirs\n")
	write("src/fernhollow-operations/screens/SignIn.own.ts", "// my behaviour\n")
	out, code = into("--check")
	assert.Equal(t, exitFound, code)
	assert.Contains(t, out, "1 edited\n       screens/SignInScreen.tsx")
	out, code = into()
	require.Equal(t, 0, code, out)
	own, err := os.ReadFile(filepath.Join(dir, "src/fernhollow-operations/screens/SignIn.own.ts"))
	require.NoError(t, err)
	assert.Equal(t, "// my behaviour\n", string(own))
	again, err := os.ReadFile(filepath.Join(dir, screen))
	require.NoError(t, err)
	assert.Contains(t, string(again), "// theirs\n")
	// A screen that is not delivered any more goes, its own files stay and are named.
	out, code = run(t, "deliver", demo, "--into", dir, "--screen", "sign-in")
	require.Equal(t, 0, code, out)
	assert.NoFileExists(t, filepath.Join(dir, "src/fernhollow-operations/screens/ForgotScreen.tsx"))
	assert.FileExists(t, filepath.Join(dir, "src/fernhollow-operations/screens/Forgot.own.ts"))
	assert.Contains(t, out, "no longer delivered, left to you")
	// Errors of the workspace, another framework and a broken record stop it.
	out, code = run(t, "deliver", demo, "--into", dir)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "the screens have errors")
	out, code = into("--target", "vue")
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "is written in react")
	write("src/fernhollow-operations/delivery.json", "{")
	out, code = into()
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "delivery.json cannot be read")
	main, err := os.ReadFile(filepath.Join(dir, "src/main.tsx"))
	require.NoError(t, err)
	assert.Equal(t, "theirs\n", string(main))
}

// Every screen is drawn with usual and with awkward records; what looks wrong is told at
// its element. With usual records on a wide page nothing does.
func TestScreensAreMeasured(t *testing.T) {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	l, _, bundle, err := open(demo, "")
	require.NoError(t, err)
	usual, err := measured(context.Background(), l, bundle, []string{"usual"}, []int{1280})
	require.NoError(t, err)
	assert.Empty(t, usual)
	awkward, err := measured(context.Background(), l, bundle, []string{"empty", "edge"}, []int{1280})
	require.NoError(t, err)
	var found []string
	for _, f := range awkward {
		t.Log(f.Doc, f.Element, f.Message)
		assert.Equal(t, "looks", f.Rule)
		doc, ok := l.W.Doc(f.Doc)
		require.True(t, ok)
		if el, _ := doc.Root.Find(f.Element); el != nil {
			found = append(found, f.Doc+"#"+f.Element+" "+f.Message)
		}
	}
	all := strings.Join(found, "\n")
	assert.Contains(t, all, "screen:specimens#specimens-17 heading sticks out of its card", "long words")
	assert.Contains(t, all, "screen:beds#beds-7 table shows nothing where there are no beds", "no records")
	assert.NotContains(t, all, "column", "tables scroll what is too wide for them")
	assert.NotContains(t, all, "screen:specimens#specimens-14", "what says so beside the grid is enough")

	// Words that wrap, and copies of unlike heights side by side, as they are drawn.
	d, ok := l.W.Doc("screen:forgot")
	require.True(t, ok)
	root := testkit.Tree(t, `{"id":"root","type":"section","children":[
		{"id":"row","type":"row","children":[{"id":"narrow","type":"column","props":{"span":"1"},"children":[{"id":"long","type":"sorrel-link","text":"Send me a new password now","props":{"to":"/sign-in"}}]}]},
		{"id":"tiles","type":"grid","props":{"columns":"2","heights":"own"},"children":[{"id":"tile","type":"stack","repeat":{"model":"messages","limit":2},"children":[{"id":"say","type":"sorrel-text","text":{"expr":"record.id"}}]}]}]}`)
	tile, _ := root.Find("say")
	tile.Text = screen.Value{
		Kind: screen.Expr,
		Text: "record.id == '" + l.SampleSet("").Records["messages"][0].ID() + "' ? 'short' : 'So much is said in this one that it takes several lines wherever it may stand, and more than the one beside it ever will, whatever the width of the page may be.'",
	}
	_, err = l.Take(
		change.Change{
			Title: "x",
			Steps: []change.Step{
				&change.Edit{
					Doc: "screen:forgot",
					Edits: []screen.Edit{
						{Op: screen.Remove, ID: d.Root.Children[0].ID},
						{Op: screen.Insert, Parent: d.Root.ID, Tree: root},
					},
				},
			},
		},
	)
	require.NoError(t, err)
	found = nil
	looked, err := measured(context.Background(), l, bundle, []string{"usual"}, []int{1280})
	require.NoError(t, err)
	for _, f := range looked {
		assert.Equal(t, "screen:forgot", f.Doc, f.Message)
		found = append(found, f.Element+" "+f.Message)
	}
	all = strings.Join(found, "\n")
	assert.Contains(t, all, "long the words of link need")
	assert.Contains(t, all, "tile one stack is")
}

// A repository is audited at file and line; its repairs are made and taken back; a baseline tells
// what is new; an open question is settled in its settings.
func TestARepositoryIsAuditedRepairedAndHeldToItsBaseline(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "office")
	require.NoError(t, os.CopyFS(dir, os.DirFS("../../demo/office")))
	out, code := run(t, "audit", dir, "--format", "json", "--fail", "never")
	require.Zero(t, code)
	var found struct {
		Strays []struct{ Doc, Element string }
		Places map[string]struct {
			File string
			Line int
		}
		Read struct{ Screens int }
	}
	require.NoError(t, json.Unmarshal([]byte(out[strings.Index(out, "{"):]), &found), out)
	assert.Equal(t, 40, found.Read.Screens)
	require.NotEmpty(t, found.Strays)
	for _, s := range found.Strays {
		assert.Contains(t, found.Places[s.Doc+"#"+s.Element].File, "src/")
	}
	baseline := filepath.Join(t.TempDir(), "baseline.json")
	_, code = run(t, "audit", dir, "--write-baseline", baseline)
	require.Zero(t, code)
	out, code = run(t, "audit", dir, "--baseline", baseline, "--fail", "note")
	assert.Zero(t, code, out)

	file := filepath.Join(dir, "src", "screens", "beds", "BedsList.tsx")
	was, err := os.ReadFile(file)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, []byte(strings.Replace(string(was), `variant="primary"`, `variant="ghost"`, 1)), 0o600))
	out, code = run(t, "audit", dir, "--baseline", baseline, "--fail", "note")
	assert.Equal(t, exitFound, code)
	assert.Contains(t, out, "BedsList.tsx:")
	assert.Contains(t, out, "1 notes new since")
	out, code = run(t, "audit", dir, "--baseline", baseline, "--fix")
	require.Zero(t, code, out)
	now, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(was), string(now), "repaired as it stood")

	patch := filepath.Join(t.TempDir(), "a.patch")
	out, code = run(t, "audit", dir, "--patch", patch)
	require.Zero(t, code, out)
	b, err := os.ReadFile(patch)
	require.NoError(t, err)
	assert.Contains(t, string(b), "+++ b/src/screens/orders/OrdersList.tsx")
	out, code = run(t, "audit", demo, "--fix")
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "is a workspace")
	out, code = run(t, "settle", dir, "9", "md", "--reason", "x")
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "there is no question")
	out, code = run(t, "init", dir)
	require.Zero(t, code, out)
	settings, err := os.ReadFile(filepath.Join(dir, "ubiquant.json"))
	require.NoError(t, err)
	assert.Contains(t, string(settings), "@fernhollow/yarrow")
	out, code = run(t, "init", dir)
	require.Zero(t, code)
	assert.Contains(t, out, "stays as it is")
}

// What is let stand is in the report for build servers as suppressed, with its reason, by the
// published schema; a stray names an element that does as the others.
func TestSARIFTellsWhatIsLetStandAndWhatIsAlike(t *testing.T) {
	w, _, err := readSource(demo)
	require.NoError(t, err)
	whole, _ := run(t, "audit", demo, "--format", "json")
	var found struct {
		Findings []struct{ Rule, Doc, Element, Prop string }
	}
	require.NoError(t, json.Unmarshal([]byte(strings.TrimSuffix(whole, "there are findings")), &found))
	require.NotEmpty(t, found.Findings)
	f := found.Findings[0]
	w.Stands = append(w.Stands, audit.LetStand{
		ID: "meant", Key: audit.Key{Rule: f.Rule, Doc: f.Doc, Element: f.Element, Prop: f.Prop}.String(), Reason: "the fair asks for it",
	})
	file := filepath.Join(t.TempDir(), "stood.json")
	require.NoError(t, os.WriteFile(file, wsfile.Write(w), 0o600))
	out, _ := run(t, "audit", file, "--format", "sarif")
	out = strings.TrimSuffix(out, "there are findings")
	published, err := jsonschema.NewCompiler().Compile("testdata/sarif-schema-2.1.0.json")
	require.NoError(t, err)
	value, err := jsonschema.UnmarshalJSON(strings.NewReader(out))
	require.NoError(t, err)
	require.NoError(t, published.Validate(value))
	var log struct {
		Runs []struct {
			Results []struct {
				RuleID           string
				RelatedLocations []struct {
					LogicalLocations []struct{ FullyQualifiedName string }
				}
				Suppressions []struct{ Justification string }
				Locations    []struct {
					LogicalLocations []struct{ FullyQualifiedName string }
				}
			}
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &log))
	suppressed, related := 0, 0
	for _, r := range log.Runs[0].Results {
		if len(r.Suppressions) > 0 && r.Suppressions[0].Justification == "the fair asks for it" {
			suppressed++
			assert.Equal(t, f.Doc+"#"+f.Element, r.Locations[0].LogicalLocations[0].FullyQualifiedName)
		}
		if r.RuleID == audit.StrayRule.ID && len(r.RelatedLocations) > 0 {
			related++
			assert.NotEqual(t, r.Locations[0].LogicalLocations, r.RelatedLocations[0].LogicalLocations)
		}
	}
	assert.Equal(t, 1, suppressed)
	assert.Positive(t, related)
}
