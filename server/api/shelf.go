package api

import (
	"context"
	"encoding/json"
	"slices"
	"strings"

	"github.com/Masterminds/semver/v3"

	"ubiquant/core/audit"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

type kitOut struct {
	Name       string           `json:"name"`
	Title      string           `json:"title"`
	Version    string           `json:"version"`
	Families   []kit.Family     `json:"families"`
	Components []componentHead  `json:"components"`
	Pieces     []componentHead  `json:"pieces"` // the team's own
	Icons      []kit.Icon       `json:"icons"`
	Tokens     []kit.Token      `json:"tokens"`
	Themes     []string         `json:"themes"`
	Code       kit.Code         `json:"code"`
	Layouts    []*kit.Component `json:"layouts"`
	Chosen     map[string]used  `json:"chosen"`         // tokens that elements are set to, by path
	Page       []string         `json:"page"`           // custom properties that the kit's style sheet itself uses
	Next       string           `json:"next,omitempty"` // the version that came after it
}

type used struct {
	Uses    int `json:"uses"`
	Screens int `json:"screens"`
}

type componentHead struct {
	*kit.Component
	Uses    int           `json:"uses"`
	Screens int           `json:"screens"`
	Reasons []live.Reason `json:"reasons"` // why it cannot be used now; none where it can
	Made    []string      `json:"made"`    // components that its example is made of, and those it draws in itself
}

// headOf is a component at a glance.
func headOf(l *live.Live, u *live.Usability, def *kit.Component) componentHead {
	n := l.Index.CountOf(def.Tag)
	return componentHead{def, n.Uses, n.Screens, u.Reasons(def), def.MadeOf()}
}

func (s *Server) kit(c *Call, _ *none) (*kitOut, error) {
	out := &kitOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		k := l.Kit
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		*out = kitOut{
			Name:     k.Name,
			Title:    k.Title,
			Version:  k.Version,
			Families: k.Families,
			Icons:    k.Icons,
			Tokens:   k.Tokens.List,
			Themes:   k.Tokens.Themes,
			Code:     k.Code,
			Layouts:  kit.Layouts(),
			Chosen:   chosenTokens(l),
			Page:     kit.Mentioned(b.Sheet()),
		}
		u := l.Usability(b.Package, b.Sheet())
		for _, def := range k.Components {
			out.Components = append(out.Components, headOf(l, u, def))
		}
		out.Pieces = []componentHead{}
		for _, def := range l.Cat.Candidates() {
			if def.Level == kit.Piece {
				out.Pieces = append(out.Pieces, headOf(l, u, def))
			}
		}
		next, err := s.newer(c.Context(), l.Kit)
		if err != nil {
			return err
		}
		if next != nil {
			out.Next = next.Version
		}
		return nil
	})
	return out, err
}

// chosenTokens counts the elements that are set to a step of a token group.
func chosenTokens(l *live.Live) map[string]used {
	docs := map[string]map[int32]bool{}
	out := map[string]used{}
	for _, def := range l.Cat.Candidates() {
		root, ok := l.Index.Root(def.Tag)
		if !ok {
			continue
		}
		for i := range root.Mixes {
			p, ok := def.Prop(root.Mixes[i].Prop)
			if !ok || p.Tokens == "" {
				continue
			}
			for _, v := range root.Mixes[i].Values {
				path := p.Tokens + "." + v.Value
				if docs[path] == nil {
					docs[path] = map[int32]bool{}
				}
				for _, d := range v.Docs {
					docs[path][d] = true
				}
				out[path] = used{out[path].Uses + v.Uses, len(docs[path])}
			}
		}
	}
	return out
}

type componentIn struct {
	Tag string `path:"tag"`
}

// UseView is one element somewhere.
type UseView struct {
	Doc     string `json:"doc"`
	Title   string `json:"title"`
	Element string `json:"element"`
	Words   string `json:"words"`
}

// CellView is a combination of two props' values with its uses.
type CellView struct {
	Row  string `json:"row"`
	Col  string `json:"col"`
	Uses int    `json:"uses"`
}

type componentOut struct {
	Component componentHead          `json:"component"`
	Mixes     map[string][]ValueView `json:"mixes"`
	Cells     map[string][]CellView  `json:"cells"` // by "row|col" props
	Uses      []UseView              `json:"uses"`
	House     []audit.HouseRule      `json:"house"`
	Findings  []FindingView          `json:"findings"`
	Needs     needs                  `json:"needs"`
	Rules     []aboutRule            `json:"rules"` // those that look at it in particular
	Checked   []live.Need            `json:"checked"`
	Versions  []versionView          `json:"versions"` // newest first
	Families  []kit.Family           `json:"families"`
	Said      *kit.Correction        `json:"said,omitempty"` // what the team says in place of what was proposed
}

// aboutRule is a rule at a glance.
type aboutRule struct {
	ID      string `json:"id"`
	Title   string `json:"title"`
	Purpose string `json:"purpose"`
}

// versionView is a version of the kit with what it changes for a component.
type versionView struct {
	Version string           `json:"version"`
	InUse   bool             `json:"inUse"`
	Changes []kit.Difference `json:"changes"`
	Words   []string         `json:"words"` // the same, said
}

// newer is the version of the kit that came after the one in use, where one is stored.
func (s *Server) newer(ctx context.Context, is *kit.Kit) (*kit.Kit, error) {
	rows, err := s.Store.Kits(ctx)
	if err != nil {
		return nil, err
	}
	in, err := semver.NewVersion(is.Version)
	if err != nil {
		return nil, nil // what tells no order has nothing that came after it
	}
	var best *semver.Version
	hash := ""
	for _, row := range rows {
		v, err := semver.NewVersion(row.Version)
		if err == nil && row.Name == is.Name && row.LeftAt == nil && v.GreaterThan(in) && (best == nil || v.GreaterThan(best)) {
			best, hash = v, row.Hash
		}
	}
	if best == nil {
		return nil, nil
	}
	b, err := s.Store.Kit(ctx, model.KitRef{Hash: hash})
	if err != nil {
		return nil, err
	}
	return b.Kit, nil
}

// versions lists the kit's versions as they concern a component: itself and the
// tokens that its styles speak of.
func (s *Server) versions(ctx context.Context, l *live.Live, def *kit.Component) ([]versionView, error) {
	out := []versionView{}
	next, err := s.newer(ctx, l.Kit)
	if err != nil {
		return nil, err
	}
	if next != nil {
		v := versionView{Version: next.Version, Changes: []kit.Difference{}, Words: []string{}}
		for _, d := range kit.Compare(l.Kit.Bare(), next) {
			path, _, _ := strings.Cut(d.Name, " ")
			tok, isToken := l.Kit.Tokens.Find(path)
			if d.Component == def.Tag || d.What == "token" && isToken && slices.Contains(def.Tokens, tok.CSS) {
				v.Changes = append(v.Changes, d)
				v.Words = append(v.Words, d.String())
			}
		}
		out = append(out, v)
	}
	return append(
		out,
		versionView{Version: l.Kit.Version, InUse: true, Changes: []kit.Difference{}, Words: []string{}},
	), nil
}

// needs is what code with a component cannot do without.
type needs struct {
	Package string   `json:"package"` // name@version
	Import  string   `json:"import"`
	Styles  string   `json:"styles"`
	Theme   string   `json:"theme"`   // where a theme is set
	Parents []string `json:"parents"` // it stands only in these
	Labels  string   `json:"labels"`  // what names it
}

func (s *Server) component(c *Call, in *componentIn) (*componentOut, error) {
	var out *componentOut
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		def, ok := l.Cat.Component(in.Tag)
		if !ok {
			return missing("component " + in.Tag)
		}
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		versions, err := s.versions(c.Context(), l, def)
		if err != nil {
			return err
		}
		u := l.Usability(b.Package, b.Sheet())
		out = &componentOut{
			Component: headOf(l, u, def),
			Checked:   u.Needs(def),
			Versions:  versions,
			Families:  l.Kit.Families,
			Mixes:     map[string][]ValueView{},
			Cells:     map[string][]CellView{},
			Uses:      []UseView{},
			House:     []audit.HouseRule{},
			Findings:  []FindingView{},
			Needs: needs{
				l.Kit.PackageOf(def),
				l.Kit.ImportOf(def),
				l.Kit.CodeOf(def).Styles,
				"data-theme",
				orList(def.Parents),
				def.LabelledBy,
			},
		}
		if i := slices.IndexFunc(l.W.Own.Corrections, func(c kit.Correction) bool { return c.Tag == def.Tag }); i >= 0 {
			said := l.W.Own.Corrections[i]
			out.Said = &said
		}
		out.Rules = []aboutRule{}
		for _, r := range l.Rules() {
			if r.Looks != nil && r.Looks(def) {
				out.Rules = append(out.Rules, aboutRule{r.ID, r.Title, r.Purpose})
			}
		}
		open, _ := l.Findings()
		byElement := map[string][]audit.Finding{}
		for _, f := range open {
			byElement[f.Doc+"#"+f.Element] = append(byElement[f.Doc+"#"+f.Element], f)
		}
		if root, ok := l.Index.Root(in.Tag); ok {
			for _, m := range root.Mixes {
				for _, v := range m.Sorted() {
					out.Mixes[m.Prop] = append(
						out.Mixes[m.Prop],
						ValueView{Value: v.Value, Uses: v.Uses, Screens: len(v.Docs)},
					)
				}
			}
		}
		cells := map[string]map[[2]string]int{}
		var axes []string
		for i := range def.Props {
			if def.Props[i].Type == kit.Enum {
				axes = append(axes, def.Props[i].Name)
			}
		}
		for _, d := range l.Index.Docs() {
			for _, u := range d.Uses {
				if u.Element.Type != in.Tag {
					continue
				}
				key := usage.DocKey(d.Document)
				out.Uses = append(out.Uses, UseView{key, d.Title, u.Element.ID, l.Words(u.Spots[usage.ByRole])})
				for _, f := range byElement[key+"#"+u.Element.ID] {
					out.Findings = append(out.Findings, FindingView{f, f.Key(), d.Title, nil})
				}
				for _, a := range axes {
					for _, b := range axes {
						if a == b {
							continue
						}
						pa, _ := def.Prop(a)
						pb, _ := def.Prop(b)
						va, okA := usage.Effective(u.Element, a, pa.Default)
						vb, okB := usage.Effective(u.Element, b, pb.Default)
						if okA && okB {
							if cells[a+"|"+b] == nil {
								cells[a+"|"+b] = map[[2]string]int{}
							}
							cells[a+"|"+b][[2]string{va, vb}]++
						}
					}
				}
			}
		}
		for axis, counts := range cells {
			for pair, uses := range counts {
				out.Cells[axis] = append(out.Cells[axis], CellView{pair[0], pair[1], uses})
			}
		}
		for _, h := range l.W.House {
			if component, _, _ := strings.Cut(h.Spot, "~"); component == in.Tag {
				out.House = append(out.House, h)
			}
		}
		return nil
	})
	return out, err
}

type codeIn struct {
	Tree json.RawMessage `json:"tree"`
}

type codeOut struct {
	Code map[string]string `json:"code"`
}

func (s *Server) code(c *Call, in *codeIn) (*codeOut, error) {
	el := &screen.Element{}
	if err := el.UnmarshalJSON(in.Tree); err != nil {
		return nil, err
	}
	out := &codeOut{map[string]string{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		out.Code = targets.Code(l.Kit, l.Cat, el)
		return nil
	})
	return out, err
}
