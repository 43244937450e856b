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
	"time"

	"ubiquant/core/audit"
	"ubiquant/core/audit/own"
	"ubiquant/core/audit/rules"
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
	for i := range s.Held {
		r, ok := rules.Find(s.Held[i].Rule)
		if !ok {
			return nil, fmt.Errorf("ruleSettings[%d]: there is no rule %q", i, s.Held[i].Rule)
		}
		if err := r.Check(&s.Held[i]); err != nil {
			return nil, fmt.Errorf("ruleSettings[%d]: %w", i, err)
		}
	}
	for i, l := range s.Let {
		switch {
		case l.Key == "" || l.Reason == "":
			return nil, fmt.Errorf("letStand[%d]: a key and a reason are needed", i)
		case !slices.Contains(audit.Scopes, l.Scope):
			return nil, fmt.Errorf("letStand[%d]: the scope %q is not known; accepted: none for one element, screen, spot, rule", i, l.Scope)
		case (l.Scope == audit.InSpot) != (l.Spot != ""):
			return nil, fmt.Errorf("letStand[%d]: what is let stand in a spot names the spot, and nothing else does", i)
		}
		if _, err := time.Parse(time.DateOnly, l.Until); l.Until != "" && err != nil {
			return nil, fmt.Errorf("letStand[%d]: %q is no date to look again; accepted: a day such as 2027-01-31", i, l.Until)
		}
	}
	for what, keys := range map[string][]string{
		"houseRules": keysOf(s.House, (*HouseRule).key), "letStand": keysOf(s.Let, (*LetStand).id),
		"ownRules":     keysOf(s.Own, func(o *audit.OwnRule) string { return o.ID }),
		"ruleSettings": keysOf(s.Held, func(t *audit.Tuning) string { return t.Rule }),
	} {
		for i, k := range keys {
			if at := slices.Index(keys, k); at < i {
				return nil, fmt.Errorf("%s[%d]: says the same thing as %s[%d] does already; leave one", what, i, what, at)
			}
		}
	}
	return s, nil
}

// SettingsBefore are settings as they were kept; empty where none were, or another version kept
// them, so that all there is counts as decided since.
func SettingsBefore(text []byte) *Settings {
	if s, err := ReadSettings(text); err == nil {
		return s
	}
	return &Settings{}
}

func keysOf[T any](list []T, key func(*T) string) []string {
	out := make([]string, len(list))
	for i := range list {
		out[i] = key(&list[i])
	}
	return out
}

// Write writes settings as a file.
func (s *Settings) Write() []byte {
	s.Format = SettingsFormat
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false) // conditions are read by people
	e.SetIndent("", "  ")
	_ = e.Encode(s)
	return b.Bytes()
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
