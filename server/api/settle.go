package api

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/cases"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/norm"
	"ubiquant/core/usage"
)

type settleIn struct {
	Spot   string `json:"spot"`
	Where  string `json:"where,omitempty"` // what else must hold, as a question says it
	Words  string `json:"words,omitempty"` // the same in words
	Prop   string `json:"prop"`
	Value  string `json:"value"`
	Reason string `json:"reason"`
	Fix    bool   `json:"fix"` // bring the other side into line at once
	Client string `json:"client,omitempty"`
}

func (s *Server) settle(c *Call, in *settleIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		sp, ok := l.Index.Spot(in.Spot)
		if !ok {
			return change.Change{}, missing("spot " + in.Spot)
		}
		if strings.TrimSpace(in.Reason) == "" {
			return change.Change{}, bad("say why, so that others can follow it")
		}
		if sp.Def() == nil {
			return change.Change{}, missing("component " + sp.Key.Component)
		}
		if _, ok := sp.Def().Prop(in.Prop); !ok {
			return change.Change{}, missing("prop " + in.Prop)
		}
		if _, err := cases.ParseWhere(in.Where); err != nil {
			return change.Change{}, bad("%s", err)
		}
		words := l.Words(sp)
		if in.Where != "" {
			words += ", " + strings.TrimSpace(in.Words)
		}
		rule := audit.HouseRule{
			ID:     houseID(l, sp.Key.Component, in.Prop),
			Spot:   in.Spot,
			Where:  in.Where,
			Words:  words,
			Prop:   in.Prop,
			Value:  in.Value,
			Reason: in.Reason,
		}
		settled := change.Change{Title: fmt.Sprintf("Settle %s of %s: %s", in.Prop, rule.Words, orUnset(in.Value))}
		if in.Fix {
			var strays []norm.Stray
			for _, d := range l.Index.Docs() {
				if d.Source != "" {
					continue // it is brought into line where it was read
				}
				for _, u := range d.Uses {
					if u.Spots[sp.Level] != sp || !l.Engine.Hold(d, u.Element.ID, in.Where) {
						continue
					}
					if v, ok := usage.Effective(u.Element, in.Prop, sp.Default(in.Prop)); ok && v != in.Value {
						strays = append(
							strays,
							norm.Stray{
								Doc:     usage.DocKey(d.Document),
								Element: u.Element.ID,
								Prop:    in.Prop,
								Norm:    in.Value,
							},
						)
					}
				}
			}
			lined, _ := l.Line(strays, nil, "")
			settled.Steps = lined.Steps
		}
		settled.Steps = append(settled.Steps, &change.PutHouse{House: rule})
		for _, q := range l.Questions() {
			if q.Spot == in.Spot && q.Prop == in.Prop && q.Where == in.Where {
				settled.Steps = append(settled.Steps, closing(l, q.ID)...)
			}
		}
		return settled, nil
	})
}

func houseID(l *live.Live, component, prop string) string {
	base := strings.TrimPrefix(component, l.Kit.Prefix+"-") + "-" + prop
	for n := 1; ; n++ {
		id := base
		if n > 1 {
			id = fmt.Sprintf("%s-%d", base, n)
		}
		if !slices.ContainsFunc(l.W.House, func(h audit.HouseRule) bool { return h.ID == id }) {
			return id
		}
	}
}

type unsettleIn struct {
	ID     string `json:"id"`
	Client string `json:"client,omitempty"`
}

func (s *Server) unsettle(c *Call, in *unsettleIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		return change.Change{
			Title: "Lift the house rule " + in.ID,
			Steps: []change.Step{&change.DropHouse{House: audit.HouseRule{ID: in.ID}}},
		}, nil
	})
}
