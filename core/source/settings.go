package source

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"ubiquant/core/audit/own"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// ReadSettings reads a team's settings. Errors say what is wrong and what would be accepted.
func ReadSettings(src []byte) (*Settings, error) {
	d := json.NewDecoder(bytes.NewReader(src))
	d.DisallowUnknownFields()
	s := &Settings{}
	if err := d.Decode(s); err != nil {
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			return nil, fmt.Errorf("line %d: %w", 1+bytes.Count(src[:min(int(syntax.Offset), len(src))], []byte("\n")), err)
		}
		return nil, err
	}
	if d.More() {
		return nil, errors.New("something stands behind the settings; accepted: one object")
	}
	if s.Format != SettingsFormat {
		return nil, fmt.Errorf("the format %q is not known; accepted: %q", s.Format, SettingsFormat)
	}
	for _, k := range s.Kits {
		if clean := path.Clean(k); k == "" || strings.HasPrefix(clean, "..") {
			return nil, fmt.Errorf("the kit %q is neither a package nor a folder of the repository; accepted: \"@acme/ui\" or \"./src/ui\"", k)
		}
	}
	for from, to := range s.Stands {
		if !strings.HasPrefix(from, "./") || !strings.Contains(from, "#") || !strings.Contains(to, "#") {
			return nil, fmt.Errorf("standsFor %q: %q is not understood; accepted: \"./src/AppButton.tsx#AppButton\": \"@acme/ui#Button\"", from, to)
		}
	}
	for i, h := range s.House {
		if h.Spot == "" || h.Prop == "" {
			return nil, fmt.Errorf("houseRules[%d]: a spot and a prop are needed", i)
		}
	}
	for i := range s.Own {
		if _, err := own.Compile(&s.Own[i]); err != nil {
			return nil, fmt.Errorf("ownRules[%d]: %w", i, err)
		}
	}
	for i, l := range s.Let {
		if l.Key == "" || l.Reason == "" {
			return nil, fmt.Errorf("letStand[%d]: a key and a reason are needed", i)
		}
	}
	return s, nil
}

// Write writes settings as a file.
func (s *Settings) Write() []byte {
	s.Format = SettingsFormat
	out, _ := json.MarshalIndent(s, "", "  ")
	return append(out, '\n')
}

// Plain reports whether a package is a framework or a helper, whose components draw nothing of
// their own.
func Plain(pkg string) bool { return plainPackages.MatchString(pkg) }

// Loose lists names in markup that no import and no component of the repository explains.
func (s *Survey) Loose() map[string]bool {
	out := map[string]bool{}
	var walk func(f *File, n *Node)
	walk = func(f *File, n *Node) {
		if n.Kind == "element" {
			found := s.meaning[n]
			switch {
			case found.Package == loosePackage:
				out[plainName(n.Name)] = true
			case found == Found{} && f.Language == "angular":
				for i := range n.Attributes {
					if a := &n.Attributes[i]; a.Kind == "flag" || strings.Contains(a.Name, "-") {
						out["["+a.Name+"]"] = true
					}
				}
			}
		}
		for _, c := range n.Children {
			walk(f, c)
		}
	}
	for _, f := range s.in.Files {
		if s.test(f.Path) {
			continue
		}
		for _, c := range f.Components {
			for _, n := range c.Roots {
				walk(f, n)
			}
		}
	}
	return out
}

// fewestPrefixed is how many names that begin alike and are a library's otherwise tell that it
// was registered so.
const fewestPrefixed = 3

// longestBeginning is how long such a beginning is at most, in letters.
const longestBeginning = 4

// TakeLoose finds out whether a library's components are used by some of these names: as they are
// called, or, in Vue, with a beginning that their plugin gives all of them. Then they are that library's.
func (s *Survey) TakeLoose(c *describe.Catalog, loose map[string]bool) bool {
	exact, begins, all := 0, map[string]int{}, map[string]int{}
	if c.Drawn == describe.Vue {
		for name := range loose {
			for n := 1; n <= longestBeginning && n < len(name); n++ {
				all[name[:n]]++
			}
		}
	}
	for i := range c.Entries {
		e := &c.Entries[i]
		if isCalled(e, loose) {
			exact++
		}
		if export := plainName(e.Export); export != "" {
			for begin := range all {
				if loose[begin+export] {
					begins[begin]++
				}
			}
		}
	}
	best := ""
	for _, begin := range slices.Sorted(maps.Keys(begins)) {
		if begins[begin] > begins[best] {
			best = begin
		}
	}
	if begins[best] > exact && begins[best] >= fewestPrefixed && begins[best]*2 >= all[best] {
		s.registered[c] = best
		return true
	}
	if exact > 0 {
		s.registered[c] = ""
	}
	return exact > 0
}

// calls tells whether a name that is used without an import is a component of a library that was
// found to be used so.
func (s *Survey) calls(c *describe.Catalog, e *describe.Entry, name string) bool {
	begin, ok := s.registered[c]
	if !ok {
		return false
	}
	tags := plainWays(e.Selector)
	if slices.ContainsFunc(tags, func(way kit.Selector) bool { return way.Tag != "" && name == plainName(way.Tag) }) {
		return true
	}
	return begin == "" && name == plainName(e.ID) || e.Tag != "" && name == plainName(e.Tag) ||
		c.Drawn == describe.Vue && name == begin+plainName(e.Export)
}

// isCalled tells whether one of some names is a component's own.
func isCalled(e *describe.Entry, loose map[string]bool) bool {
	if loose[plainName(e.ID)] || e.Tag != "" && loose[plainName(e.Tag)] || e.Export != "" && loose[plainName(e.Export)] {
		return true
	}
	return slices.ContainsFunc(plainWays(e.Selector), func(s kit.Selector) bool {
		return s.Tag != "" && loose[plainName(s.Tag)] || slices.ContainsFunc(s.Attrs, func(a string) bool { return loose["["+a+"]"] })
	})
}
