package angular

import (
	"fmt"
	"maps"
	"slices"
	"strconv"

	"ubiquant/core/deliver"
	"ubiquant/core/kit"
)

// lockstep are the packages of Angular that are published together: each asks for the others at
// its own version.
var lockstep = []string{
	"animations", "common", "compiler", "core", "elements", "forms", "localize", "platform-browser",
	"platform-browser-dynamic", "platform-server", "router", "service-worker",
}

// compilers are the versions of TypeScript that go with a major of Angular.
var compilers = map[int]string{19: "~5.8.3", 20: "~5.9.3", 21: "5.9.3", 22: "~6.0.0"}

// fit is the target with the versions that a kit and its parts go with: a library made for another
// major has the application in that, and what belongs together is taken together.
func fit(t deliver.Target, in deliver.Input) (deliver.Target, []deliver.Note) {
	t.Needs, t.DevNeeds = maps.Clone(t.Needs), maps.Clone(t.DevNeeds)
	is, notes := version, []deliver.Note{}
	wanted := []library{{in.Kit.Name, in.Peers}}
	for _, p := range in.Parts {
		wanted = append(wanted, library{p.Name, p.Peers})
	}
	if major, whose, asked := majorFor(wanted); major > 0 {
		is = "^" + strconv.Itoa(major) + ".0.0"
		for _, name := range []string{"@angular/build", "@angular/cli", "@angular/compiler-cli", "angular-eslint"} {
			t.DevNeeds[name] = is
		}
		if with, known := compilers[major]; known {
			t.DevNeeds["typescript"] = with
		}
		notes = append(notes, deliver.Note{Message: fmt.Sprintf(
			"%s goes with Angular %s: the application is made with Angular %d, not with %s", whose, asked, major, version)})
	} else if asked != "" {
		notes = append(notes, deliver.Note{Message: fmt.Sprintf(
			"%s asks for Angular %s, and the application is made with %s: they do not go together", whose, asked, version)})
	}
	for name := range t.Needs {
		if t.Needs[name] == version {
			t.Needs[name] = is
		}
	}
	for _, name := range lockstep {
		name = "@angular/" + name
		if slices.ContainsFunc(wanted, func(l library) bool { return l.peers[name] != "" }) {
			t.Needs[name] = is
		}
	}
	return t, notes
}

// library is a kit or a part, with what it asks of whoever uses it.
type library struct {
	name  string
	peers map[string]string
}

// goes tells whether it goes with a version of Angular.
func (l library) goes(version string) bool {
	asked := l.peers["@angular/core"]
	if asked == "" {
		return true
	}
	yes, known := kit.Admits(version, asked)
	return yes || !known
}

// majorFor is the major of Angular that is closest to the target's own and that all go with, with
// who asks for it; 0 where that is the target's own, or where there is none and asked says what is
// asked for.
func majorFor(wanted []library) (major int, whose, asked string) {
	fits := func(version string) bool {
		return !slices.ContainsFunc(wanted, func(l library) bool { return !l.goes(version) })
	}
	for _, l := range wanted {
		if !l.goes(version) {
			whose, asked = l.name, l.peers["@angular/core"]
		}
	}
	if asked == "" {
		return 0, "", ""
	}
	for _, major := range []int{20, 22, 19} {
		if fits(strconv.Itoa(major)+".0.0") || fits(strconv.Itoa(major)+".99.0") {
			return major, whose, asked
		}
	}
	return 0, whose, asked
}
