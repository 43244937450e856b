package rules

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
)

var isoDate = regexp.MustCompile(`^\d{4}-\d{2}-\d{2}$`)

var _ = add(&audit.Rule{
	ID: "contradiction", Title: "Settings that contradict each other", Severity: audit.Error,
	Code:    true,
	Purpose: "Limits leave room for a value, and a value stands within them.",
	Why:     "A field whose least value is above its greatest takes nothing; a first value outside its limits cannot be sent.",
	Bad: []string{
		`{"id":"a","type":"sorrel-number-input","props":{"min":10,"max":5}}`,
		`{"id":"a","type":"sorrel-date-range","props":{"from":"2026-03-06","to":"2026-03-02"}}`,
		`{"id":"a","type":"sorrel-text-input","props":{"kind":"date","value":"2025-12-31","min":"2026-01-01"}}`,
		`{"id":"a","type":"sorrel-pager","props":{"page":9,"pages":3}}`,
		`{"id":"a","type":"sorrel-text-input","props":{"required":true,"disabled":true}}`,
		`{"id":"a","type":"sorrel-number-input","props":{"value":"2.75","decimals":"0"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-number-input","props":{"min":5,"value":"7","max":10}}`,
		`{"id":"a","type":"sorrel-number-input","props":{"min":5,"max":5}}`,
		`{"id":"a","type":"sorrel-number-input","props":{"value":"2.75","decimals":"2","disabled":true}}`,
		`{"id":"a","type":"sorrel-date-range","props":{"from":"2026-03-02","to":"2026-03-06"}}`,
		`{"id":"a","type":"sorrel-text-input","props":{"value":"many","min":"2026-01-01"}}`,
	},
	Looks: func(c *kit.Component) bool { return len(c.Ordered) > 0 || c.Role == "control" },
	Element: func(p *audit.Pass, n *audit.Node) {
		on := func(p *kit.Prop) bool { v := value(n, p); return v.Known() && v.Text == "true" }
		if disabled := n.Def.DisabledBy(); on(n.Def.RequiredBy()) && on(disabled) {
			p.Report(n, disabled.Name, "it must be filled in and cannot be", "Let it be filled in", unset(n.ID, disabled.Name))
		}
		places, set := n.Element.Prop("decimals")
		value, has := n.Element.Prop("value")
		if set && has && places.Known() && value.Known() {
			_, after, _ := strings.Cut(value.Text, ".")
			if most, err := strconv.Atoi(places.Text); err == nil && len(after) > most {
				p.Report(n, "decimals", fmt.Sprintf("%s has %d decimals, and %d are shown", value.Text, len(after), most), "")
			}
		}
		for _, names := range n.Def.Ordered {
			before, beforeName := "", ""
			for _, name := range names {
				v, set := n.Element.Prop(name)
				if !set || !v.Known() || v.Text == "" {
					continue
				}
				if beforeName != "" && descends(before, v.Text) {
					p.Report(
						n,
						name,
						fmt.Sprintf(
							"%s is %s and %s is %s: the one must not be above the other",
							beforeName,
							before,
							name,
							v.Text,
						),
						"Take "+name+" off",
						unset(n.ID, name),
					)
				}
				before, beforeName = v.Text, name
			}
		}
	},
})

// descends reports whether b is less than a, where both are numbers or both dates.
func descends(a, b string) bool {
	x, errA := strconv.ParseFloat(a, 64)
	y, errB := strconv.ParseFloat(b, 64)
	if errA == nil && errB == nil {
		return y < x
	}
	return isoDate.MatchString(a) && isoDate.MatchString(b) && b < a
}
