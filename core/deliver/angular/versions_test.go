package angular

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/deliver"
	"ubiquant/core/kit"
)

// An application is made with the Angular that its library goes with, whole packages of it together,
// and where that is another it is said.
func TestAnApplicationHasTheAngularThatItsLibraryGoesWith(t *testing.T) {
	for _, c := range []struct{ asks, core, typescript, says string }{
		{"", version, "5.9.3", ""},
		{">=20.0.0", version, "5.9.3", ""},
		{"^21.0.0 || ^22.0.0", version, "5.9.3", ""},
		{"^20.1.0", "^20.0.0", "~5.9.3", "@acme/tiles goes with Angular ^20.1.0: the application is made with Angular 20, not with " + version},
		{"^19.0.0", "^19.0.0", "~5.8.3", "@acme/tiles goes with Angular ^19.0.0: the application is made with Angular 19, not with " + version},
		{"^14.0.0", version, "5.9.3", "@acme/tiles asks for Angular ^14.0.0, and the application is made with " + version + ": they do not go together"},
	} {
		in := deliver.Input{Kit: &kit.Kit{Name: "@acme/tiles"}, Peers: map[string]string{"@angular/forms": c.asks, "rxjs": "^7.0.0"}}
		if c.asks != "" {
			in.Peers["@angular/core"] = c.asks
		} else {
			delete(in.Peers, "@angular/forms")
		}
		got, notes := fit(Target, in)
		for _, name := range []string{"core", "common", "router", "compiler"} {
			assert.Equal(t, c.core, got.Needs["@angular/"+name], "%s with %s", name, c.asks)
		}
		if c.asks != "" {
			assert.Equal(t, c.core, got.Needs["@angular/forms"])
		}
		assert.Equal(t, "7.8.2", got.Needs["rxjs"])
		assert.Equal(t, c.typescript, got.DevNeeds["typescript"])
		said := ""
		for _, n := range notes {
			said += n.Message
		}
		assert.Equal(t, c.says, said)
	}
	assert.Equal(t, version, Target.Needs["@angular/core"], "the target itself stays")
}
