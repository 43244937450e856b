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
	wanted := []map[string]string{in.Peers}
	for _, p := range in.Parts {
		wanted = append(wanted, p.Peers)
	}
	whose := in.Kit.Name
	if major, asked := majorFor(wanted); major > 0 {
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
		if slices.ContainsFunc(wanted, func(peers map[string]string) bool { return peers[name] != "" }) {
			t.Needs[name] = is
		}
	}
	return t, notes
}

// majorFor is the major of Angular that is closest to the target's own and that all go with; 0
// where that is the target's own, or where there is none and asked says what is asked for.
func majorFor(wanted []map[string]string) (major int, asked string) {
	fits := func(version string) bool {
		return !slices.ContainsFunc(wanted, func(peers map[string]string) bool {
			if peers["@angular/core"] == "" {
				return false
			}
			yes, known := kit.Admits(version, peers["@angular/core"])
			return known && !yes
		})
	}
	if fits(version) {
		return 0, ""
	}
	for _, peers := range wanted {
		if asked == "" {
			asked = peers["@angular/core"]
		}
	}
	for _, major := range []int{20, 22, 19} {
		if fits(strconv.Itoa(major)+".0.0") || fits(strconv.Itoa(major)+".99.0") {
			return major, asked
		}
	}
	return 0, asked
}
