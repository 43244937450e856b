package describe_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

func elements() *describe.Catalog {
	return &describe.Catalog{Name: "@acme/orchard", Version: "1.0.0", Drawn: describe.Elements}
}

func prop(t *testing.T, c *describe.Catalog, id, name string) describe.Prop {
	t.Helper()
	e, ok := c.Find(id)
	require.True(t, ok, "%s is not there", id)
	p, ok := e.Prop(name)
	require.True(t, ok, "%s has no %s", id, name)
	return *p
}

// What a superclass and a mixin of another module take is the element's as well; what it
// says itself counts.
func TestParentsAreFollowedAcrossModules(t *testing.T) {
	c := elements()
	require.NoError(t, c.Manifest([]byte(`{"schemaVersion":"2.1.0","modules":[
	 {"path":"src/base.ts","declarations":[{"kind":"class","name":"Base","superclass":{"name":"LitElement","package":"lit"},
	   "members":[{"kind":"field","name":"size","type":{"text":"'s' | 'm'"},"default":"'m'","attribute":"size","description":"Of the base."},
	              {"kind":"field","name":"secret","privacy":"private","attribute":"secret"},
	              {"kind":"method","name":"go"}],
	   "events":[{"name":"ready"}]}]},
	 {"path":"src/labelled.ts","declarations":[{"kind":"mixin","name":"Labelled",
	   "attributes":[{"name":"help-text","fieldName":"helpText","type":{"text":"string"}}]}]},
	 {"path":"src/button.ts","declarations":[{"kind":"class","name":"Button","customElement":true,
	   "superclass":{"name":"Base","module":"/src/base.js"},"mixins":[{"name":"Labelled","module":"src/labelled.ts"}],
	   "members":[{"kind":"field","name":"size","description":"Of the button."}],
	   "slots":[{"name":""},{"name":"icon"}]}]},
	 {"path":"src/button.define.ts","exports":[{"kind":"custom-element-definition","name":"ac-button","declaration":{"name":"Button","module":"src/button.ts"}}]}
	]}`), "custom-elements.json"))
	e, ok := c.Find("ac-button")
	require.True(t, ok)
	assert.Equal(t, "src/button.define.ts", e.Module, "the module that registers it")
	size := prop(t, c, "ac-button", "size")
	assert.Equal(t, []string{"s", "m"}, size.Values)
	assert.Equal(t, "size", size.Attr)
	assert.Equal(t, "m", size.Default)
	assert.Equal(t, "Of the button.", size.Summary)
	assert.Equal(t, "help-text", prop(t, c, "ac-button", "helpText").Attr)
	_, private := e.Prop("secret")
	assert.False(t, private)
	assert.Equal(t, []describe.Slot{{Name: "ready", From: "manifest"}}, e.Events)
	assert.Empty(t, c.Left)
}

func TestOlderFormsAreRead(t *testing.T) {
	for name, src := range map[string]string{
		"experimental": `{"version":"experimental","tags":[{"name":"ac-chip","properties":[{"name":"tone","attribute":"tone","type":"\"calm\" | \"loud\"","default":"\"calm\""}],"slots":[{"name":""}]}]}`,
		"editors":      `{"version":1.1,"tags":[{"name":"ac-chip","attributes":[{"name":"tone","values":[{"name":"calm"},{"name":"loud"}]}]}]}`,
		"builders":     `{"components":[{"tag":"ac-chip","props":[{"name":"tone","attr":"tone","complexType":{"resolved":"\"calm\" | \"loud\""},"docs":"Its tone."}]}]}`,
	} {
		t.Run(name, func(t *testing.T) {
			c := elements()
			require.NoError(t, c.Manifest([]byte(src), "old.json"))
			assert.Equal(t, []string{"calm", "loud"}, prop(t, c, "ac-chip", "tone").Values)
		})
	}
}

// Nothing is dropped without a word, and nothing comes in that runs or replaces something.
func TestWhatIsNotTakenIsTold(t *testing.T) {
	c := elements()
	require.NoError(t, c.Manifest([]byte(`{"modules":[{"path":"a.js","declarations":[
	 {"kind":"class","name":"A","tagName":"ac-a","superclass":{"name":"Lost","module":"b.js"},"members":[
	  {"kind":"field","name":"onclick","attribute":"onclick"},{"kind":"field","name":"innerHTML","attribute":"inner-html"},
	  {"kind":"field","name":"__proto__","attribute":"x"},{"kind":"field","name":"fine","attribute":"fine"},
	  {"kind":"field","name":"odd","attribute":"odd name"}]},
	 {"kind":"class","name":"B","tagName":"Not A Tag"},{"kind":"class","name":"A2","tagName":"ac-a"}]}]}`), "m.json"))
	e, _ := c.Find("ac-a")
	require.Len(t, e.Props, 1)
	said := ""
	for _, l := range c.Left {
		said += l.String() + "\n"
	}
	for _, word := range []string{"onclick", "innerHTML", "odd name", "Not A Tag", "declared again", "Lost"} {
		assert.Contains(t, said, word)
	}
}

func TestALibraryThatBuildsOnItselfEnds(t *testing.T) {
	c := elements()
	require.NoError(t, c.Manifest([]byte(`{"modules":[{"path":"a.js","declarations":[
	 {"kind":"class","name":"A","tagName":"ac-a","superclass":{"name":"B"},"members":[{"kind":"field","name":"one","attribute":"one"}]},
	 {"kind":"class","name":"B","superclass":{"name":"A"},"members":[{"kind":"field","name":"two","attribute":"two"}]}]}]}`), "m.json"))
	assert.True(t, prop(t, c, "ac-a", "two").Attr == "two")
}

// A lesser source fills in what a better one left open, and overrules nothing.
func TestTheBetterSourceCounts(t *testing.T) {
	c := elements()
	require.NoError(t, c.Manifest([]byte(`{"modules":[{"path":"a.js","declarations":[{"kind":"class","name":"A","tagName":"ac-a","members":[
	 {"kind":"field","name":"tone","attribute":"tone","type":{"text":"Tone"}},
	 {"kind":"field","name":"size","attribute":"size","type":{"text":"'s' | 'm'"}}]}]}]}`), "m.json"))
	types := elements()
	require.NoError(t, types.Declared([]byte(`{"components":[{"tag":"ac-a","summary":"An a.","props":[
	 {"name":"tone","type":"choice","values":["calm","loud"]},{"name":"size","type":"choice","values":["other"]},{"name":"internal","type":"text"}],"slots":[]}]}`), "orchard"))
	c.Merge(types, true)
	assert.Equal(t, []string{"calm", "loud"}, prop(t, c, "ac-a", "tone").Values)
	assert.Equal(t, "types", prop(t, c, "ac-a", "tone").From)
	assert.Equal(t, []string{"s", "m"}, prop(t, c, "ac-a", "size").Values)
	e, _ := c.Find("ac-a")
	assert.Equal(t, "An a.", e.Summary)
	_, took := e.Prop("internal")
	assert.False(t, took, "a public field that the manifest does not tell of is no prop")
}

func TestInitialsOfALibraryAreTakenOff(t *testing.T) {
	names := []string{"Button", "Card", "Chip", "Dialog", "Input", "Menu", "Table", "Tabs", "Tooltip"}
	var list []string
	for _, n := range names {
		list = append(list, `{"export":"Ac`+n+`","module":"@acme/orchard","props":[],"slots":[]}`)
	}
	c := &describe.Catalog{Name: "@acme/orchard", Version: "1", Drawn: describe.Vue}
	require.NoError(t, c.Declared([]byte(`{"components":[`+strings.Join(list, ",")+`]}`), "orchard"))
	e, ok := c.Find("orchard-button")
	require.True(t, ok)
	assert.Equal(t, "AcButton", e.Export, "the name in code stays")
}

func TestNamesAreWritten(t *testing.T) {
	for in, out := range map[string]string{"TabsList": "tabs-list", "Tabs.List": "tabs-list", "HTMLView": "html-view", "H1": "h1", "datePicker": "date-picker", "QRCode": "qr-code"} {
		assert.Equal(t, out, describe.Kebab(in), in)
	}
	for in, out := range map[string]string{"@acme/orchard-ui": "orchard", "@acme/ui": "acme", "orchard": "orchard", "@acme/2d": "kit2d"} {
		assert.Equal(t, out, describe.Short(in), in)
	}
	for in, out := range map[string]string{"@acme/orchard-park-ui": "Orchard park", "@acme/ui": "Acme", "orchard-components": "Orchard"} {
		assert.Equal(t, out, describe.Title(in), in)
	}
}

// A component is called by what it is; "component" and "directive" stay where they alone tell
// two apart.
func TestClassesAreCalledByWhatTheyAre(t *testing.T) {
	c := describe.Catalog{Drawn: describe.Angular}
	for _, id := range []string{"ac-button-component", "ac-card-component", "ac-card-directive", "ac-component"} {
		c.Entries = append(c.Entries, describe.Entry{ID: id, Selector: id})
	}
	var titles []string
	for _, made := range c.Components() {
		titles = append(titles, made.Title)
	}
	assert.Equal(t, []string{"button", "card component", "card directive", "component"}, titles)
}

// Light and dark are read from a sheet, whatever a library calls them, and a component
// that has a dark look of its own makes no theme.
func TestThemesAreReadFromASheet(t *testing.T) {
	for sheet, dark := range map[string]string{
		`:root{--a:#fff;--b:#000;--c:4px}.dark{--a:#000;--b:#fff;--c:5px}`:               "class=dark",
		`:root{--a:#fff}[data-mode="dark"]{--a:#000;--b:1px;--c:2px}`:                    "data-mode=dark",
		`.ac-theme-dark,:host{--a:#000;--b:1px;--c:2px}`:                                 "class=ac-theme-dark",
		`.ac-tag--dark{color:red}.ac-tag--dark b{color:blue}:root{--a:1px}`:              "",
		`:root{--a:#fff}@media (prefers-color-scheme: dark){:root{--a:#000}}`:            "",
		`@layer base{:root[data-theme=dark]{--a:#000;--b:#fff;--c:#111}:root{--a:#fff}}`: "data-theme=dark",
	} {
		assert.Equal(t, dark, describe.ReadSheet([]byte(sheet)).Dark, sheet)
	}
	// Light is what is called like dark, not whatever else has light in its name.
	for sheet, light := range map[string]string{
		`.ac-mode-light{--a:1px}.ac-type-light{--a:1px}.ac-type-light b{--a:1px}.ac-mode-dark{--a:#000;--b:1px;--c:2px}`: "class=ac-mode-light",
		`.ac-type-light{--a:1px}.ac-mode-dark{--a:#000;--b:1px;--c:2px}`:                                                 "",
		`[data-mode=day-light]{--a:1px}[data-mode=dark]{--a:#000;--b:1px;--c:2px}`:                                       "data-mode=day-light",
	} {
		assert.Equal(t, light, describe.ReadSheet([]byte(sheet)).Light, sheet)
	}
	s := describe.ReadSheet([]byte(`:root{--a:#fff;--space-1:4px;--alias:var(--a)}.dark{--a:rgb(0 0 0);--x:#1;--y:1px}`))
	c := elements()
	c.Style(s, "kit.css")
	values := map[string]map[string]string{}
	for _, tok := range c.Tokens {
		values[tok.Name] = tok.Values
	}
	assert.Equal(t, "#fff", values["--alias"]["light"], "what stands for another is followed")
	assert.Equal(t, "rgb(0 0 0)", values["--a"]["dark"])
}

func TestColoursAreReadAsSheetsWriteThem(t *testing.T) {
	for in, out := range map[string]string{
		"#fff": "#FFF", "rgb(255, 0, 0)": "#FF0000", "rgb(255 0 0 / 50%)": "#FF000080", "hsl(120, 100%, 25%)": "#008000", "white": "#FFFFFF",
	} {
		got, ok := describe.Colour(in)
		assert.True(t, ok, in)
		assert.Equal(t, out, got, in)
	}
	for _, in := range []string{"", "red!", "rgb(1,2)", "url(x)", "rgb(a b c)"} {
		_, ok := describe.Colour(in)
		assert.False(t, ok, in)
	}
}

// A kit without tokens has steps of room all the same.
func TestThereAreAlwaysStepsOfRoom(t *testing.T) {
	c := elements()
	file, plain := c.TokenFile()
	assert.True(t, plain)
	tokens, err := kit.ReadTokens(file, "kit")
	require.NoError(t, err)
	assert.Equal(t, []string{"1", "2", "3", "4", "5", "6", "7", "8"}, tokens.Steps("space"))
	c.Style(describe.ReadSheet([]byte(`:root{--ac-space-s:4px;--ac-space-m:8px;--ac-space-l:1rem;--ac-space-xl:2rem;--ac-color-ink:#123456}`)), "kit.css")
	file, plain = c.TokenFile()
	assert.False(t, plain)
	tokens, err = kit.ReadTokens(file, "kit")
	require.NoError(t, err)
	step, ok := tokens.Find("space.3")
	require.True(t, ok)
	assert.Equal(t, "--ac-space-l", step.CSS, "its own custom property")
	ink, ok := tokens.Find("color.ink")
	require.True(t, ok)
	assert.Equal(t, "--ac-color-ink", ink.CSS)
}

// Every component gets a family and an example; each guess says how sure it is, and why.
func TestEveryComponentIsProposedFor(t *testing.T) {
	c := &describe.Catalog{Name: "@acme/orchard", Version: "1", Drawn: describe.React}
	require.NoError(t, c.Declared([]byte(`{"components":[
	 {"export":"Button","props":[{"name":"variant","type":"choice","values":["primary","plain"]}],"slots":[{"name":""}],"events":[{"name":"onClick"}]},
	 {"export":"TextField","props":[{"name":"label","type":"text"},{"name":"value","type":"text"}],"slots":[],"events":[{"name":"onChange"}]},
	 {"export":"Tabs","props":[],"slots":[{"name":""}]},{"export":"Tabs.Item","props":[{"name":"label","type":"text","required":true}],"slots":[{"name":""}]},
	 {"export":"Zorb","props":[],"slots":[]},{"export":"AcmeProvider","props":[],"slots":[{"name":""}]}]}`), "orchard"))
	list := c.Components()
	describe.Propose(list, nil)
	by := map[string]*kit.Component{}
	for _, k := range list {
		by[k.Tag] = k
		assert.NotEmpty(t, k.Family, k.Tag)
		require.NotEmpty(t, k.Guesses, k.Tag)
		for _, g := range k.Guesses {
			assert.NotEmpty(t, g.Why)
			assert.Greater(t, g.Certainty, 0.0)
			assert.LessOrEqual(t, g.Certainty, 1.0)
		}
	}
	assert.Equal(t, "action", by["orchard-button"].Role)
	assert.Equal(t, &kit.Choice{Prop: "variant", Value: "primary"}, by["orchard-button"].Main)
	assert.Equal(t, "label", by["orchard-text-field"].NameProp)
	assert.Len(t, by["orchard-tabs"].Example.Children, 2, "a whole is shown with its parts")
	require.Len(t, by["orchard-tabs-item"].Within, 1, "a part is drawn in its whole")
	assert.Equal(t, "orchard-tabs", by["orchard-tabs-item"].Within[0].Type)
	assert.Equal(t, "others", by["orchard-zorb"].Family)
	assert.Equal(t, "helpers", by["orchard-acme-provider"].Family)
}

// Components that are one picture each stand for themselves, whatever their names begin with, and
// what shows an icon alone is shown with one. A few that are called so may be anything.
func TestIconsAreAFamilyOfTheirOwn(t *testing.T) {
	names := []string{"AddIcon", "EditIcon", "LinkIcon", "MenuIcon", "MoonIcon", "PondIcon", "TreeIcon", "WellIcon", "Link", "Menu", "IconButton", "TabIcon"}
	list := func(names []string) map[string]*kit.Component {
		all, by := []*kit.Component{}, map[string]*kit.Component{}
		for _, name := range names {
			c := &kit.Component{Tag: "acme-" + describe.Kebab(name), Export: name, Title: name, Props: []kit.Prop{{Name: "size"}}, Slots: []kit.Slot{{Name: ""}}}
			if name == "IconButton" || name == "TabIcon" {
				c.Props, c.Slots = append(c.Props, kit.Prop{Name: "label"}), append(c.Slots, kit.Slot{Name: "icon"})
			}
			all, by[name] = append(all, c), c
		}
		describe.Propose(all, nil)
		return by
	}
	by := list(names)
	for i, name := range names {
		assert.Equal(t, i < 8, by[name].Family == describe.IconFamily, name)
		if i < 8 {
			assert.Empty(t, by[name].Within, name)
			assert.Empty(t, by[name].Example.Text, name)
		}
	}
	assert.Equal(t, []kit.Example{{Type: "acme-edit-icon", Slot: "icon"}}, by["IconButton"].Example.Children)
	few := list(names[1:])
	assert.Equal(t, "content", few["EditIcon"].Family)
	assert.Empty(t, few["IconButton"].Example.Children)
}

// Written and read again it is the same, whatever was described.
func TestACatalogIsReadAsItIsWritten(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		c := &describe.Catalog{Name: "a", Version: "1", Drawn: rapid.SampledFrom([]string{"elements", "vue", "react", "angular"}).Draw(r, "drawn")}
		word := rapid.StringMatching(`[a-z]{1,8}`)
		for _, name := range rapid.SliceOfNDistinct(word, 1, 5, rapid.ID[string]).Draw(r, "tags") {
			e := describe.Entry{ID: "x-" + name, Summary: rapid.String().Draw(r, "summary"), From: "manifest", Props: []describe.Prop{}, Slots: []describe.Slot{}}
			for _, p := range rapid.SliceOfNDistinct(rapid.StringMatching(`p[a-z]{1,8}`), 0, 4, rapid.ID[string]).Draw(r, "props") {
				e.Props = append(e.Props, describe.Prop{Name: p, Type: rapid.SampledFrom([]string{"text", "yes/no", "number", "choice", "data"}).Draw(r, "type"), From: "types"})
			}
			c.Entries = append(c.Entries, e)
		}
		src := c.Write()
		again, err := describe.Read(src)
		require.NoError(r, err)
		require.Equal(r, string(src), string(again.Write()))
	})
}

// No text makes a reader fail otherwise than with an error, and what it took holds.
func FuzzDescriptions(f *testing.F) {
	f.Add([]byte(`{"modules":[{"path":"a","declarations":[{"tagName":"x-y","members":[{"kind":"field","name":"a","attribute":true,"type":{"text":"'a'|'b'"}}]}]}]}`))
	f.Add([]byte(`{"tags":[{"name":"x-y"}]}`))
	f.Add([]byte(`{"contributions":{"html":{"elements":[{"name":"x-y","attributes":[{"name":"b","value":{"type":["c","d"]}}]}]}}}`))
	f.Add([]byte(`{"components":[{"export":"A.B","props":[{"name":"x","type":"choice","values":["1"]}]}]}`))
	f.Fuzz(func(t *testing.T, src []byte) {
		for _, read := range []func(c *describe.Catalog) error{
			func(c *describe.Catalog) error { return c.Manifest(src, "m") },
			func(c *describe.Catalog) error { return c.WebTypes(src, "w", "x") },
			func(c *describe.Catalog) error { return c.Declared(src, "x") },
		} {
			c := elements()
			if read(c) != nil || len(c.Entries) == 0 {
				continue
			}
			if err := c.Check(); err != nil {
				t.Fatalf("what was read does not hold: %v", err)
			}
			describe.Propose(c.Components(), nil)
			if _, err := json.Marshal(c); err != nil {
				t.Fatal(err)
			}
		}
	})
}

func FuzzReadSheet(f *testing.F) {
	f.Add([]byte(`:root{--a:var(--b);--b:#fff}@media (prefers-color-scheme:dark){:root{--a:red}}`))
	f.Add([]byte(`a{b:c`))
	f.Fuzz(func(t *testing.T, src []byte) {
		c := elements()
		c.Style(describe.ReadSheet(src), "x.css")
		file, _ := c.TokenFile()
		if _, err := kit.ReadTokens(file, "kit"); err != nil {
			t.Fatalf("tokens of a sheet cannot be read: %v", err)
		}
	})
}

// Descriptions that begin each name with a word of their own are of the same components.
func TestNamesThatBeginWithAWord(t *testing.T) {
	typed := &describe.Catalog{Entries: []describe.Entry{{ID: "lo-card", Export: "Card"}, {ID: "lo-chip", Export: "Chip"}}}
	web := &describe.Catalog{Entries: []describe.Entry{{ID: "lo-lo-card", Export: "LoCard"}, {ID: "lo-lo-tag", Export: "LoTag"}}}
	web.CallAs(typed)
	assert.Equal(t, "Card", web.Entries[0].Export)
	assert.Equal(t, "lo-card", web.Entries[0].ID)
	assert.Equal(t, "LoTag", web.Entries[1].Export, "what nobody else knows keeps its name")
	same := &describe.Catalog{Entries: []describe.Entry{{Export: "Card"}, {Export: "Chip"}}}
	same.CallAs(typed)
	assert.Equal(t, "Chip", same.Entries[1].Export)
}

// Where a library has roots, what is called after the same is drawn in them.
func TestPartsStandInTheRootOfTheirName(t *testing.T) {
	list := []*kit.Component{}
	for _, name := range []string{"CardRoot", "CardFooter", "Card", "Cardinal"} {
		list = append(list, &kit.Component{
			Tag: "acme-" + describe.Kebab(name), Export: name, Title: name, Slots: []kit.Slot{{Name: ""}},
		})
	}
	describe.Propose(list, nil)
	require.NotNil(t, list[1].Example)
	assert.Equal(t, []kit.Example{{Type: "acme-card-root", Props: map[string]string{}}}, list[1].Within)
	for _, i := range []int{0, 2, 3} {
		assert.Empty(t, list[i].Within, list[i].Tag)
	}
}

func TestHowAPageIsMadeDarkIsReadInCode(t *testing.T) {
	for code, want := range map[string]string{
		`x = { _dark: ".dark &, .dark .acme:not(.light) &" }`:   "class=dark",
		"s = `[data-scheme=\"dark\"] &`":                        "data-scheme=dark",
		`s = ":root.acme-dark, body"; t = ".acme-dark &"`:       "class=acme-dark",
		`s = ".acme-dark, b"`:                                   "",
		`s = 'html[data-theme=\'dark\'] a'`:                     "data-theme=dark",
		`s = ".btn-dark-blue"; t = "dark"; u = "a .dark-theme"`: "",
		`s = "not .dark at all"; t = "./dark.css"`:              "",
	} {
		assert.Equal(t, want, describe.DarkInCode([]byte(code)), code)
	}
}

// Steps of room are those that a library has for anything: the spacing of letters, and what one of its
// components keeps for itself, are none. Where there are few a plain scale stands in.
func TestStepsOfRoomAreForAnything(t *testing.T) {
	steps := func(names ...string) ([]string, bool) {
		c := &describe.Catalog{Name: "@acme/orchard", Version: "1", Drawn: describe.Elements}
		for i, n := range names {
			c.Tokens = append(c.Tokens, describe.Token{Name: n, Values: map[string]string{"light": fmt.Sprintf("%dpx", 2+2*i)}})
		}
		file, plain := c.TokenFile()
		var doc struct {
			Space map[string]struct {
				Extensions struct{ Ubiquant struct{ Property string } } `json:"$extensions"`
			}
		}
		require.NoError(t, json.Unmarshal(file, &doc))
		var out []string
		for _, token := range doc.Space {
			out = append(out, token.Extensions.Ubiquant.Property)
		}
		slices.Sort(out)
		return out, plain
	}
	for _, names := range [][]string{
		{"--ac-space-1", "--ac-space-2", "--ac-space-3", "--ac-space-4"},
		{"--space-2xs", "--space-xs", "--space-s", "--space-m"},
		{"--ac-spacing-static-sm", "--ac-spacing-static-md", "--ac-spacing-static-lg", "--ac-spacing-static-xl"},
		{"--ac-sys-spacing-100", "--ac-sys-spacing-200", "--ac-sys-spacing-300", "--ac-sys-spacing-400"},
		{"--spacingHorizontalS", "--spacingHorizontalM", "--spacingHorizontalL", "--spacingHorizontalXL"},
	} {
		got, plain := steps(append(names, "--ac-letter-spacing-s", "--ac-button-gap", "--ac-menu-item-space-m", "--ac-space-field-vertical")...)
		slices.Sort(names)
		assert.Equal(t, names, got)
		assert.False(t, plain)
	}
	got, plain := steps("--ac-letter-spacing-s", "--ac-letter-spacing-m", "--ac-letter-spacing-l", "--ac-letter-spacing-xl", "--ac-space-1", "--ac-space-2")
	assert.True(t, plain)
	assert.NotContains(t, got, "--ac-letter-spacing-s")
	assert.Len(t, got, 8)
}
