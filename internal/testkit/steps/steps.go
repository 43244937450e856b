// Package steps makes steps of changes at random, for tests of laws that hold for all of
// them.
package steps

import (
	"fmt"
	"image"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/texts"

	"pgregory.net/rapid"
)

// Of makes a step of each kind that somebody can send, at random. A kind without one
// fails a test of package change.
var Of = map[string]func(r *rapid.T, l *live.Live) change.Step{
	"edit": func(r *rapid.T, l *live.Live) change.Step {
		d := drawDoc(r, l)
		e := drawElement(r, d)
		edits := []screen.Edit{{Op: screen.SetText, ID: e.ID, Value: screen.Lit(drawWords(r))}}
		switch rapid.IntRange(0, 3).Draw(r, "op") {
		case 0:
			edits = []screen.Edit{{Op: screen.Remove, ID: e.ID}}
		case 1:
			tree := &screen.Element{ID: drawID(r), Type: "section"}
			edits = []screen.Edit{{Op: screen.Insert, Parent: e.ID, Tree: tree}}
		case 2:
			edits = []screen.Edit{{Op: screen.Rename, ID: e.ID, Name: drawID(r)}}
		}
		return &change.Edit{Doc: d.Address(), Edits: edits}
	},
	"create": func(r *rapid.T, l *live.Live) change.Step {
		id := drawID(r)
		return &change.Create{Document: &screen.Document{
			Kind: screen.ScreenDoc, ID: id, Title: drawWords(r), Route: "/" + id, App: l.W.Apps[0].ID, Shell: "staff",
			Root: &screen.Element{ID: "root", Type: "stack"},
		}}
	},
	"meta": func(r *rapid.T, l *live.Live) change.Step {
		d := drawDoc(r, l)
		return &change.Meta{Doc: d.Address(), Document: &screen.Document{
			ID: d.ID, Title: drawWords(r), Route: "/" + drawID(r), Shell: d.Shell, Owner: "noor", Root: d.Root,
		}}
	},
	"remove": func(r *rapid.T, l *live.Live) change.Step { return &change.Remove{Doc: drawDoc(r, l).Address()} },
	"restore": func(r *rapid.T, l *live.Live) change.Step {
		for _, d := range l.W.Docs {
			if d.Removed {
				return &change.Restore{Doc: d.Address()}
			}
		}
		return &change.Restore{Doc: drawDoc(r, l).Address()}
	},
	"sign": func(r *rapid.T, l *live.Live) change.Step {
		s := &change.Sign{Doc: drawDoc(r, l).Address()}
		if rapid.Bool().Draw(r, "signed") {
			s.Signed = &screen.SignOff{By: "ida", When: "2026-11-28"}
		}
		return s
	},
	"mark": func(r *rapid.T, l *live.Live) change.Step { return &change.Mark{Doc: drawDoc(r, l).Address()} },
	"props": func(r *rapid.T, l *live.Live) change.Step {
		for _, d := range l.W.Docs {
			if d.Kind == screen.PieceDoc {
				return &change.Props{Doc: d.Address(), Document: &screen.Document{ID: d.ID, Root: d.Root,
					Props: d.Props[:rapid.IntRange(0, len(d.Props)).Draw(r, "props")]}}
			}
		}
		return &change.Props{Doc: "piece:none", Document: &screen.Document{ID: "none"}}
	},
	"state": func(r *rapid.T, l *live.Live) change.Step {
		return &change.PutState{Doc: drawDoc(r, l).Address(), State: screen.State{Name: drawState(r), Set: "empty"}}
	},
	"unstate": func(r *rapid.T, l *live.Live) change.Step {
		return &change.DropState{Doc: drawDoc(r, l).Address(), State: screen.State{Name: drawState(r)}}
	},
	"edit-state": func(r *rapid.T, l *live.Live) change.Step {
		d := drawDoc(r, l)
		return &change.EditState{Doc: d.Address(), State: screen.State{Name: drawState(r), Edits: []screen.Edit{
			{Op: screen.Show, ID: drawElement(r, d).ID, Name: "false"},
		}}}
	},
	"house": func(r *rapid.T, _ *live.Live) change.Step {
		id := drawFew(r)
		return &change.PutHouse{House: audit.HouseRule{
			ID: id, Spot: "sorrel-button~" + id, Words: "button", Prop: "size", Value: "m", Reason: drawWords(r),
		}}
	},
	"unhouse": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropHouse{House: audit.HouseRule{ID: drawFew(r)}}
	},
	"stand": func(r *rapid.T, _ *live.Live) change.Step {
		id := drawFew(r)
		stand := audit.LetStand{ID: id, Key: "rule|screen:beds|" + id, Reason: drawWords(r)}
		if stand.Scope = rapid.SampledFrom(audit.Scopes).Draw(r, "scope"); stand.Scope == audit.InSpot {
			stand.Spot = "sorrel-button~" + id
		}
		return &change.PutStand{Stand: stand}
	},
	"unstand": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropStand{Stand: audit.LetStand{ID: drawFew(r)}}
	},
	"rule": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.PutOwnRule{Rule: audit.OwnRule{
			ID: drawFew(r), Title: drawWords(r), Where: "sorrel-button", Message: "so", Severity: audit.Note,
			Must: rapid.SampledFrom([]string{"true", `props.emphasis != "strong"`, "props."}).Draw(r, "must"),
		}}
	},
	"unrule": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropOwnRule{Rule: audit.OwnRule{ID: drawFew(r)}}
	},
	"assign": func(r *rapid.T, _ *live.Live) change.Step {
		id := drawFew(r)
		return &change.PutAssignment{Assignment: audit.Assignment{ID: id, Key: "rule|screen:beds|" + id, To: drawWords(r)}}
	},
	"unassign": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropAssignment{Assignment: audit.Assignment{ID: drawFew(r)}}
	},
	"ask": func(r *rapid.T, _ *live.Live) change.Step {
		id := drawFew(r)
		return &change.PutAsk{Ask: audit.Ask{ID: id, Key: "spot|prop|" + id, What: drawWords(r), People: []string{"noor", "tam"}}}
	},
	"unask": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropAsk{Ask: audit.Ask{ID: drawFew(r)}}
	},
	"answer": func(r *rapid.T, _ *live.Live) change.Step {
		id := drawFew(r)
		return &change.PutAnswer{Answer: audit.Answer{
			ID: id, Key: "spot|prop|" + drawFew(r), Words: drawWords(r), By: id,
			Value: rapid.SampledFrom([]string{"", "strong"}).Draw(r, "value"),
		}}
	},
	"language": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.PutLanguage{Language: texts.Language{
			ID: rapid.SampledFrom([]string{"de", "pl", "ar"}).Draw(r, "language"), Written: rapid.Bool().Draw(r, "written"),
		}}
	},
	"unlanguage": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropLanguage{Language: texts.Language{ID: rapid.SampledFrom([]string{"de", "pl"}).Draw(r, "language")}}
	},
	"translate": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.Translate{Said: texts.Said{
			Language: rapid.SampledFrom([]string{"de", "pl"}).Draw(r, "language"), Key: "screens." + drawFew(r), Is: drawWords(r), Of: drawWords(r),
		}}
	},
	"untranslate": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.Untranslate{Said: texts.Said{
			Language: rapid.SampledFrom([]string{"de", "pl"}).Draw(r, "language"), Key: "screens." + drawFew(r),
		}}
	},
	"unanswer": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropAnswer{Answer: audit.Answer{ID: drawFew(r)}}
	},
	"tune": func(r *rapid.T, _ *live.Live) change.Step {
		severity := rapid.SampledFrom([]audit.Severity{"", "off", "note", "error"}).Draw(r, "severity")
		rule := rapid.SampledFrom([]string{"field-label", "heading-skip", "demo-text", "shared-id"}).Draw(r, "rule")
		return &change.Tune{Tuning: audit.Tuning{Rule: rule, Severity: severity, Reason: drawWords(r)}}
	},
	"theme": func(r *rapid.T, _ *live.Live) change.Step {
		accent := rapid.SampledFrom([]string{"#7A3E73", "#205030"}).Draw(r, "accent")
		return &change.PutTheme{Theme: kit.Theme{
			ID: drawFew(r), Name: drawWords(r), From: "light", Making: kit.Making{Accent: accent},
		}}
	},
	"untheme": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropTheme{Theme: kit.Theme{ID: drawFew(r)}}
	},
	"icon": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.PutIcon{Icon: kit.OwnIcon{Name: drawFew(r), SVG: `<svg xmlns="http://www.w3.org/2000/svg" ` +
			`viewBox="0 0 2 ` + rapid.SampledFrom([]string{"1", "2"}).Draw(r, "box") + `"><path d="M0 0"></path></svg>`}}
	},
	"unicon": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropIcon{Icon: kit.OwnIcon{Name: drawFew(r)}}
	},
	"font": func(_ *rapid.T, _ *live.Live) change.Step { return &change.PutFont{} },
	"unfont": func(_ *rapid.T, l *live.Live) change.Step {
		if len(l.W.Own.Fonts) > 0 {
			return &change.DropFont{Font: l.W.Own.Fonts[0]}
		}
		return &change.DropFont{}
	},
	"leave-out": func(r *rapid.T, l *live.Live) change.Step {
		return &change.LeaveOut{Left: model.LeftOut{Tag: drawTag(r, l), Reason: drawWords(r)}}
	},
	"kit": func(r *rapid.T, l *live.Live) change.Step {
		step := &change.TakeKit{Kit: model.KitRef{Name: l.W.Kit.Name, Version: rapid.SampledFrom([]string{"1.0.0", "1.1.0"}).Draw(r, "version")}}
		if rapid.Bool().Draw(r, "carries") {
			d := rapid.SampledFrom(l.W.Docs).Draw(r, "doc")
			root := *d.Root
			root.Children = append([]*screen.Element{}, root.Children...)
			root.Name = "carried"
			step.Docs = []model.Carried{{Doc: d.Address(), Root: &root, States: d.States}}
		}
		return step
	},
	"correct": func(r *rapid.T, l *live.Live) change.Step {
		return &change.Correct{Correction: kit.Correction{
			Tag: drawTag(r, l), Role: rapid.SampledFrom([]string{"", "action", "none", "stone"}).Draw(r, "role"),
			Family: rapid.SampledFrom([]string{"", "data"}).Draw(r, "family"),
		}}
	},
	"uncorrect": func(r *rapid.T, l *live.Live) change.Step {
		if len(l.W.Own.Corrections) > 0 {
			return &change.Uncorrect{Correction: rapid.SampledFrom(l.W.Own.Corrections).Draw(r, "correction")}
		}
		return &change.Uncorrect{Correction: kit.Correction{Tag: drawTag(r, l)}}
	},
	"take-in": func(r *rapid.T, l *live.Live) change.Step {
		if len(l.W.Own.LeftOut) > 0 {
			return &change.TakeIn{Left: rapid.SampledFrom(l.W.Own.LeftOut).Draw(r, "left")}
		}
		return &change.TakeIn{Left: model.LeftOut{Tag: drawTag(r, l)}}
	},
	"install": func(r *rapid.T, l *live.Live) change.Step {
		return &change.Install{App: l.W.Apps[0].ID, Packages: map[string]string{drawFew(r): "1.0.0"}}
	},
	"model": func(r *rapid.T, l *live.Live) change.Step {
		if rapid.Bool().Draw(r, "renames") {
			m := *l.W.ModelMap()["tickets"]
			m.Fields = append([]sample.Field(nil), m.Fields...)
			i := rapid.IntRange(0, len(m.Fields)-1).Draw(r, "field")
			was := m.Fields[i].Name
			m.Fields[i].Name = was + "X"
			return &change.PutModel{Model: m, Renames: map[string]string{was: was + "X"}}
		}
		return &change.PutModel{Model: sample.Model{ID: drawModel(r), Name: drawWords(r), Fields: []sample.Field{
			{Name: "name", Type: sample.Text}, {Name: "count", Type: sample.Number},
		}}}
	},
	"unmodel": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropModel{Model: sample.Model{ID: drawModel(r)}}
	},
	"records": func(r *rapid.T, l *live.Live) change.Step {
		rows := change.Rows{Set: "usual", Model: "beds"}
		beds := l.W.Sets[0].Records["beds"]
		switch rapid.IntRange(0, 3).Draw(r, "rows") {
		case 0:
			rows.Drop = []string{rapid.SampledFrom(beds).Draw(r, "bed").ID()}
		case 1:
			changed := sample.Record{}
			for k, v := range rapid.SampledFrom(beds).Draw(r, "bed") {
				changed[k] = v
			}
			changed["name"] = drawWords(r)
			rows.Put = []sample.Record{changed}
		case 2:
			fresh := sample.Record{"id": drawID(r), "name": drawWords(r), "soil": "clay", "area": 2.0, "moisture": "wet"}
			rows.Put, rows.At = []sample.Record{fresh}, map[string]int{fresh.ID(): 1}
		default:
			rows.Model = drawModel(r)
			rows.Put = []sample.Record{{"id": drawID(r), "name": drawWords(r)}}
		}
		return &change.Records{Rows: rows}
	},
	"set": func(r *rapid.T, l *live.Live) change.Step {
		return &change.PutSet{Set: sample.Set{ID: drawFew(r), Name: drawWords(r),
			Records: map[string][]sample.Record{"beds": l.W.Sets[0].Records["beds"][:1]}}}
	},
	"unset": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropSet{Set: sample.Set{ID: drawFew(r)}}
	},
	"query": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.PutQuery{Query: sample.Query{ID: "q" + drawFew(r), Name: drawWords(r), From: "tickets",
			Group: []string{"state"}, Each: []sample.QueryValue{{Name: "n", Do: "count"}}}}
	},
	"unquery": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropQuery{Query: sample.Query{ID: "q" + drawFew(r)}}
	},
	"source": func(r *rapid.T, l *live.Live) change.Step {
		s := sample.Source{Model: rapid.SampledFrom([]string{"beds", "tickets"}).Draw(r, "model"), Path: "/" + drawFew(r)}
		if len(l.W.Bases) > 0 {
			s.Base = l.W.Bases[0].Name
		}
		return &change.PutSource{Source: s}
	},
	"unsource": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropSource{Source: sample.Source{
			Model: rapid.SampledFrom([]string{"beds", "tickets"}).Draw(r, "model")}}
	},
	"picture": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.PutPicture{Picture: drawPicture(r)}
	},
	"unpicture": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropPicture{Picture: drawPicture(r)}
	},
	"plan": func(r *rapid.T, l *live.Live) change.Step {
		of := drawPicture(r)
		if len(l.W.Pictures) > 0 {
			of = rapid.SampledFrom(l.W.Pictures).Draw(r, "of")
		}
		return &change.PutPlan{Plan: picture.Plan{Screen: drawScreen(r), Picture: of.ID, Root: picture.Part{
			ID: "p1", Name: drawWords(r), Look: picture.Page, At: picture.Rect{W: of.Width, H: of.Height},
		}}}
	},
	"unplan": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropPlan{Plan: picture.Plan{Screen: drawScreen(r)}}
	},
	"base": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.PutBase{Origin: sample.Base{Name: drawFew(r), Address: "https://" + drawFew(r) + ".example"}}
	},
	"unbase": func(r *rapid.T, _ *live.Live) change.Step {
		return &change.DropBase{Origin: sample.Base{Name: drawFew(r)}}
	},
}

func drawDoc(r *rapid.T, l *live.Live) *screen.Document {
	return rapid.SampledFrom(l.W.Docs).Draw(r, "doc")
}

func drawElement(r *rapid.T, d *screen.Document) *screen.Element {
	var all []*screen.Element
	d.Root.Walk(func(e, _ *screen.Element) bool { all = append(all, e); return true })
	return rapid.SampledFrom(all).Draw(r, "element")
}

func drawPicture(r *rapid.T) picture.Kept {
	k, _ := picture.Keep(image.NewNRGBA(image.Rect(0, 0, rapid.IntRange(50, 52).Draw(r, "wide"), 60)), "")
	return k
}

func drawScreen(r *rapid.T) string {
	return rapid.SampledFrom([]string{"tickets", "beds"}).Draw(r, "screen")
}

func drawWords(r *rapid.T) string {
	return rapid.SampledFrom([]string{"Beds", "New bed", "Late"}).Draw(r, "words")
}
func drawID(r *rapid.T) string  { return fmt.Sprintf("n%d", rapid.IntRange(1, 1000).Draw(r, "id")) }
func drawFew(r *rapid.T) string { return rapid.SampledFrom([]string{"a", "b", "c"}).Draw(r, "few") }
func drawModel(r *rapid.T) string {
	return rapid.SampledFrom([]string{"seats", "beds", "paths"}).Draw(r, "of")
}
func drawState(r *rapid.T) string {
	return rapid.SampledFrom([]string{"late", "gone"}).Draw(r, "state")
}
func drawTag(r *rapid.T, l *live.Live) string {
	return rapid.SampledFrom(l.Kit.Components).Draw(r, "tag").Tag
}

// Draw makes a step of any kind.
func Draw(r *rapid.T, l *live.Live) change.Step {
	var names []string
	for _, k := range change.Kinds() {
		if Of[k.Name] != nil {
			names = append(names, k.Name)
		}
	}
	return Of[rapid.SampledFrom(names).Draw(r, "kind")](r, l)
}
