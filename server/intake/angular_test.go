package intake_test

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/server/intake"
)

// ofAngular is a library beside an Angular of one version, of which there is no more than an adapter asks for.
func ofAngular(version string, zone bool, gives ...string) map[string]string {
	var core strings.Builder
	for _, name := range append(gives, "createComponent", "ErrorHandler", "ɵɵadvance", "ɵɵdefineComponent", "ɵɵelementEnd", "ɵɵelementStart", "ɵɵlistener", "ɵɵproperty", "ɵɵtemplate", "ɵɵtemplateRefExtractor", "ɵɵtext", "ɵɵtextInterpolate") {
		fmt.Fprintf(&core, "export function %s() { return %[1]q }\n", name)
	}
	of := func(name, text string) map[string]string {
		return map[string]string{
			"node_modules/" + name + "/package.json": fmt.Sprintf(`{"name":%q,"version":%q,"module":"index.js","types":"index.d.ts"}`, name, version),
			"node_modules/" + name + "/index.js":     text,
			"node_modules/" + name + "/index.d.ts":   "export interface ɵɵComponentDeclaration<A, B, C, D, E, F, G, H, I> {}\n",
		}
	}
	out := map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.0.0","module":"index.js","types":"index.d.ts","peerDependencies":{"@angular/core":"*"}}`,
		plum + "index.js":     "export class AlderPress {}\nexport const AlderLink = AlderPress\n",
		plum + "index.d.ts": "import * as i0 from '@angular/core'\nexport declare class AlderPress { static ɵcmp: i0.ɵɵComponentDeclaration<AlderPress, 'button[alderPress], a[alderPress]', never, { 'disabled': 'disabled'; 'look': 'look' }, {}, never, ['*'], true, never>; disabled: any; look: any }\n" +
			"export declare const AlderLink: typeof AlderPress\nexport type AlderLink = AlderPress\n",
	}
	list := []map[string]string{
		of("@angular/core", core.String()), of("@angular/common", ""), of("@angular/platform-browser", "export function createApplication() {}\n"),
	}
	if zone {
		list = append(list, of("zone.js", "globalThis.Zone = 'of the page'\n"))
	}
	for _, files := range list {
		for name, text := range files {
			out[name] = text
		}
	}
	return out
}

// Whatever version of Angular a library is drawn by, nothing is asked of it that it does not have; what it
// gives under two names is one component, and what is said to be anything is what its name says.
func TestEachVersionOfAngularIsAskedForWhatItHas(t *testing.T) {
	for _, c := range []struct {
		version string
		zone    bool
		gives   []string
	}{
		{"14.2.0", true, nil},
		{"17.3.12", true, []string{"signal"}},
		{"19.2.25", false, []string{"signal", "provideExperimentalZonelessChangeDetection"}},
		{"22.1.0", false, []string{"signal", "provideZonelessChangeDetection"}},
	} {
		a := archiveBeside(t, "sorrel", ofAngular(c.version, c.zone, c.gives...))
		assert.Empty(t, a.Meta.Missing, c.version)
		require.Len(t, a.Catalog.Entries, 1, c.version)
		assert.Equal(t, "AlderPress", a.Catalog.Entries[0].Export)
		types := map[string]string{}
		for _, p := range a.Catalog.Entries[0].Props {
			types[p.Name] = p.Type
		}
		assert.Equal(t, map[string]string{"disabled": "yes/no", "look": "text"}, types)
		assert.Equal(t, c.zone, strings.Contains(string(a.Files["kit.js"]), "of the page"), c.version)
	}
}

// What cannot be drawn by an Angular that is too old, or without what it wants, is refused with words.
func TestAnAngularThatCannotDrawIsRefused(t *testing.T) {
	pack := func(version string) error {
		_, err := intake.Pack(context.Background(), intake.Options{Dir: folder(t, ofAngular(version, false)), Package: "@acme/plum-day"})
		return err
	}
	assert.ErrorContains(t, pack("14.1.3"), "14.1.3 is installed")
	assert.ErrorContains(t, pack("14.1.3"), "from 14.2 on")
	assert.ErrorContains(t, pack("eight"), `says that it is at version "eight"`)
	var lacks *intake.LacksError
	require.True(t, errors.As(pack("17.0.0"), &lacks))
	assert.Equal(t, []string{"zone.js"}, lacks.Packages)
}
