package resolve

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// settled are actions with what they set a control to worked out, written as JSON behind the
// control's name. What sets none that the screen has is left out; the audit tells of it.
func (r *resolver) settled(list []screen.Action, e *screen.Element, sc scope) []screen.Action {
	out := list[:0]
	for _, a := range list {
		if a.Verb == screen.AddRecord {
			m := r.Models[a.To]
			if m == nil {
				continue
			}
			touch := sample.Touch{List: m.ID, Add: true, From: map[string][2]string{}}
			root := r.Screen
			if sc.frame != nil {
				root = sc.frame.root
			}
			for name, c := range Fields(root, e, m, r.Catalog) {
				def, _ := r.Catalog.Component(c.Type)
				touch.From[name] = [2]string{sc.prefix + c.ID + sc.suffix, def.Holds}
			}
			written, err := json.Marshal(touch)
			if err != nil {
				continue
			}
			a = screen.Action{Verb: Touches, To: string(written)}
		}
		if a.Records() {
			touch, err := touching(a, sc.model, sc.record, r.Today)
			written, failed := json.Marshal(touch)
			if err != nil || failed != nil {
				continue
			}
			a = screen.Action{Verb: Touches, To: string(written)}
		}
		if a.Verb == screen.SetControl {
			if sc.frame == nil {
				continue
			}
			_, c, value, ok := sc.frame.names.Set(a)
			written, err := json.Marshal(value)
			if !ok || err != nil {
				continue
			}
			a.To = sc.frame.key(c) + "=" + string(written)
		}
		out = append(out, a)
	}
	return out
}

// Touches is what an action that touches a record is as it is drawn: with the record, as JSON.
const Touches = "touch"

// Fields are the controls that hold fields of a model's records for what is sent by an element:
// those named as they are, in the form that it is or in the closest part around it that has some.
func Fields(root, e *screen.Element, m *sample.Model, cat kit.Catalog) map[string]*screen.Element {
	around := root.Path(e.ID)
	if len(around) == 0 {
		around = []*screen.Element{e}
	}
	for _, part := range slices.Backward(around) {
		if out := fieldsIn(part, m, cat); len(out) > 0 {
			return out
		}
	}
	return nil
}

func fieldsIn(part *screen.Element, m *sample.Model, cat kit.Catalog) map[string]*screen.Element {
	out := map[string]*screen.Element{}
	part.Walk(func(e, _ *screen.Element) bool {
		if e != part && e.Repeat != nil {
			return false // there are many of it
		}
		def, ok := cat.Component(e.Type)
		if !ok || def.Holds == "" {
			return true
		}
		name, named := e.Prop("name") // where the kit's controls have none, the element's own
		if !named || name.Kind != screen.Literal {
			name = screen.Lit(e.Name)
		}
		if f, ok := m.Field(name.Text); ok && f.Compute == "" && out[f.Name] == nil {
			out[f.Name] = e
		}
		return true
	})
	return out
}

// touching is what an action does to the record that it stands for.
func touching(a screen.Action, m *sample.Model, record sample.Record, today string) (sample.Touch, error) {
	if m == nil || record == nil {
		return sample.Touch{}, errors.New("it stands for no record")
	}
	touch := sample.Touch{List: m.ID, ID: record.ID(), Drop: a.Verb == screen.TakeAway}
	if touch.Drop {
		return touch, nil
	}
	f, value, err := Touched(a, m)
	if err != nil {
		return touch, err
	}
	if a.Verb == screen.TickField {
		now, _ := record[f.Name].(bool)
		value = !now
	}
	if f.Type == sample.Date && value == "today" {
		value = today
	}
	touch.Set = map[string]any{f.Name: value}
	return touch, nil
}

// Touched is the field that an action changes in a record of a model, and what to; nil where it
// is turned over. Errors say why it cannot.
func Touched(a screen.Action, m *sample.Model) (*sample.Field, any, error) {
	name, text := a.Field()
	f, ok := m.Field(name)
	switch {
	case !ok:
		return nil, nil, fmt.Errorf("%s has no field %s", m.Name, name)
	case f.Compute != "":
		return nil, nil, fmt.Errorf("%s is computed", name)
	case a.Verb == screen.TickField && f.Type != sample.YesNo:
		return nil, nil, fmt.Errorf("%s is not yes or no", name)
	case a.Verb == screen.TickField:
		return f, nil, nil
	}
	value, err := f.FromText(text)
	return f, value, err
}
