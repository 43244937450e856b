package api

import (
	"context"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/usage"
)

type dressOut struct {
	CSS   string            `json:"css"`   // themes and fonts of the team's own
	Icons map[string]string `json:"icons"` // svg by name
	Add   string            `json:"add"`   // the module's function that takes icons
	Hash  string            `json:"hash"`
}

// dressOf is what the team adds to the kit as the frames take it: addresses of
// fonts are below the frame's own.
func (s *Server) dressOf(l *live.Live) dressOut {
	out := dressOut{Icons: map[string]string{}, Add: l.Kit.Code.AddIcons}
	var css strings.Builder
	css.WriteString(l.W.Own.Faces("/frame/" + s.ticket(time.Now()) + "/" + l.W.Kit.Hash + "/font/"))
	for _, t := range l.W.Own.Themes {
		if slices.Contains(l.Kit.Tokens.Themes, t.ID) {
			css.WriteString(l.Kit.Tokens.ThemeCSS(t.ID))
		}
	}
	out.CSS = css.String()
	sum := sha256.New()
	sum.Write([]byte(out.CSS))
	for _, i := range l.Kit.Icons {
		if i.Own {
			out.Icons[i.Name] = i.SVG
			sum.Write([]byte(i.Name + "\x00" + i.SVG))
		}
	}
	out.Hash = hex.EncodeToString(sum.Sum(nil)[:8])
	return out
}

func (s *Server) dress(c *Call, _ *none) (*dressOut, error) {
	var out dressOut
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		out = s.dressOf(l)
		return nil
	})
	return &out, err
}

func (s *Server) fontFile(ctx context.Context, name string) (data []byte, err error) {
	err = s.Live.Read(ctx, func(l *live.Live, _ int64) error {
		for i := range l.W.Own.Fonts {
			if l.W.Own.Fonts[i].File() == name {
				data = l.W.Own.Fonts[i].Data
				return nil
			}
		}
		return missing("font " + name)
	})
	return data, err
}

// themeView is a theme of the kit or of the team.
type themeView struct {
	ID      string                     `json:"id"`
	Name    string                     `json:"name"`
	From    string                     `json:"from"`
	Own     bool                       `json:"own"`     // the team's, not the kit's
	Changed bool                       `json:"changed"` // of the kit, with changes of the team
	Making  kit.Making                 `json:"making"`
	Tokens  map[string]json.RawMessage `json:"tokens"` // DTCG values set one by one
	By      string                     `json:"by,omitempty"`
	When    string                     `json:"when,omitempty"`
	Failing int                        `json:"failing"` // pairs of colours that contrast too little
	Missing []string                   `json:"missing"` // fonts that nothing brings
}

type fontView struct {
	Family string `json:"family"`
	Weight int    `json:"weight"`
	Italic bool   `json:"italic"`
	File   string `json:"file"`
	Size   int    `json:"size"`
	By     string `json:"by"`
	When   string `json:"when"`
}

type themesOut struct {
	Themes    []themeView `json:"themes"`
	Makable   []string    `json:"makable"` // decisions that the kit's tokens follow
	Densities []string    `json:"densities"`
	Fonts     []fontView  `json:"fonts"`
	Families  []string    `json:"families"` // that the kit's style sheet brings
	Unfit     []string    `json:"unfit"`    // what of the team's own no longer fits the kit
}

func (s *Server) themes(c *Call, _ *none) (*themesOut, error) {
	out := &themesOut{
		Themes:    []themeView{},
		Densities: []string{"compact", "normal", "roomy"},
		Fonts:     []fontView{},
		Unfit:     []string{},
	}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		out.Makable = l.Kit.Makable()
		out.Families = kit.Families(b.Sheet())
		bare := l.Kit.Bare().Tokens.Themes
		for _, id := range l.Kit.Tokens.Themes {
			v := themeView{
				ID:      id,
				Name:    id,
				From:    id,
				Own:     !slices.Contains(bare, id),
				Tokens:  map[string]json.RawMessage{},
				Missing: l.W.Own.MissingFonts(l.Kit, id, b.Sheet()),
			}
			if t, ok := l.W.Own.Theme(id); ok {
				v.Changed = !v.Own
				v.From, v.Making, v.By, v.When = t.From, t.Making, t.By, t.When
				if v.Own {
					v.Name = t.Name
				}
				for path, value := range t.Tokens {
					v.Tokens[path] = value.JSON()
				}
			}
			for _, check := range l.Kit.Checks(id) {
				if check.Fails {
					v.Failing++
				}
			}
			out.Themes = append(out.Themes, v)
		}
		for i := range l.W.Own.Fonts {
			f := &l.W.Own.Fonts[i]
			out.Fonts = append(out.Fonts, fontView{f.Family, f.Weight, f.Italic, f.File(), len(f.Data), f.By, f.When})
		}
		for _, err := range l.Unfit {
			out.Unfit = append(out.Unfit, err.Error())
		}
		return nil
	})
	return out, err
}

type themeIn struct {
	ID     string     `json:"id"` // empty for one that is new
	Name   string     `json:"name"`
	From   string     `json:"from"`
	Making kit.Making `json:"making"`
	// Tokens set one by one, by path: a text as a person writes it ("#55691E",
	// "12px", "{color.ink}") or a value as DTCG has it.
	Tokens map[string]json.RawMessage `json:"tokens,omitempty"`
	Client string                     `json:"client,omitempty"`
}

// theme reads what is asked for. Errors name the token.
func (in *themeIn) theme(k *kit.Kit) (kit.Theme, error) {
	t := kit.Theme{
		ID:     in.ID,
		Name:   strings.TrimSpace(in.Name),
		From:   in.From,
		Making: in.Making,
		Tokens: map[string]kit.Value{},
	}
	for path, raw := range in.Tokens {
		tok, ok := k.Tokens.Find(path)
		if !ok {
			return t, &Problem{
				Type:   "about:blank",
				Title:  "This cannot be done",
				Status: 422,
				Detail: fmt.Sprintf("%s has no token %q", k.Title, path),
				Where:  path,
			}
		}
		v, err := kit.ReadValue(tok.Type, raw)
		if err != nil {
			return t, &Problem{
				Type:   "about:blank",
				Title:  "This cannot be read",
				Status: 422,
				Detail: fmt.Sprintf("%s: %s", path, err),
				Where:  path,
			}
		}
		t.Tokens[path] = v
	}
	return t, nil
}

// TokenChange is a token that has another value.
type TokenChange struct {
	Path   string `json:"path"`
	Before string `json:"before"`
	After  string `json:"after"`
}

type themePreview struct {
	CSS     string            `json:"css"` // of the theme "draft"
	Values  map[string]string `json:"values"`
	Changes []TokenChange     `json:"changes"` // against how it is kept, or what it starts from
	Checks  []kit.Check       `json:"checks"`
	Missing []string          `json:"missing"`
	Reach   live.Reach        `json:"reach"` // of the changes
}

// draft is the name a theme goes by while it is not kept.
const draft = "draft"

func (s *Server) previewTheme(c *Call, in *themeIn) (*themePreview, error) {
	var out *themePreview
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		bare := l.Kit.Bare()
		t, err := in.theme(bare)
		if err != nil {
			return err
		}
		against := t.From
		if _, kept := l.W.Own.Theme(in.ID); kept {
			against = in.ID
		}
		t.ID, t.Name = draft, "Draft"
		if err := t.Check(bare); err != nil {
			return bad("%s", err)
		}
		k, err := bare.With([]kit.Theme{t}, nil, nil)
		if err != nil {
			return bad("%s", err)
		}
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		out = &themePreview{
			CSS:     k.Tokens.ThemeCSS(draft),
			Values:  map[string]string{},
			Changes: []TokenChange{},
			Checks:  k.Checks(draft),
			Missing: l.W.Own.MissingFonts(k, draft, b.Sheet()),
		}
		var paths []string
		for i := range k.Tokens.List {
			tok := &k.Tokens.List[i]
			out.Values[tok.Path] = tok.Values[draft]
			if was, ok := l.Kit.Tokens.Find(tok.Path); ok && was.Values[against] != tok.Values[draft] {
				out.Changes = append(out.Changes, TokenChange{tok.Path, was.Values[against], tok.Values[draft]})
				paths = append(paths, tok.Path)
			}
		}
		out.Reach = l.Reach(paths...)
		return nil
	})
	return out, err
}

func (s *Server) keepTheme(c *Call, in *themeIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		t, err := in.theme(l.Kit.Bare())
		if err != nil {
			return change.Change{}, err
		}
		title := "Change the theme " + t.ID
		if t.ID == "" || t.ID == draft {
			if t.ID = themeID(l, t.Name); t.ID == "" {
				return change.Change{}, bad("a theme needs a name with letters in it")
			}
			title = "Make the theme " + t.Name
		}
		t.By, t.When = c.User.Name, l.Today
		return change.Change{Title: title, Steps: []change.Step{&change.PutTheme{Theme: t}}}, nil
	})
}

// themeID makes an id of a name, another where it is taken.
func themeID(l *live.Live, name string) string {
	id := strings.Trim(strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' {
			return r
		}
		return '-'
	}, strings.ToLower(name)), "-0123456789")
	if len(id) > 36 {
		id = id[:36]
	}
	for n := 2; id != "" && (id == draft || slices.Contains(l.Kit.Tokens.Themes, id)); n++ {
		id = fmt.Sprintf("%s-%d", strings.TrimRight(id, "-0123456789"), n)
	}
	return id
}

type readThemeIn struct {
	Text string `json:"text"` // a Design Tokens document
	From string `json:"from"`
}

type readThemeOut struct {
	Tokens map[string]json.RawMessage `json:"tokens"`
}

func (s *Server) readTheme(c *Call, in *readThemeIn) (*readThemeOut, error) {
	out := &readThemeOut{Tokens: map[string]json.RawMessage{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		bare := l.Kit.Bare()
		if !slices.Contains(bare.Tokens.Themes, in.From) {
			return missing("theme " + in.From + " of the kit")
		}
		values, err := bare.ReadTheme([]byte(in.Text), in.From)
		if err != nil {
			return asRead(err)
		}
		for path, v := range values {
			out.Tokens[path] = v.JSON()
		}
		return nil
	})
	return out, err
}

// asRead tells what was wrong with a text that somebody gave.
func asRead(err error) error {
	if p := asProblem(err); p.Status != 500 {
		p.Detail = err.Error()
		return p
	}
	return problem(422, "This cannot be read", err.Error())
}

type fontIn struct {
	Data   string `json:"data,omitempty"` // WOFF2, base64
	File   string `json:"file,omitempty"`
	Client string `json:"client,omitempty"`
}

func (s *Server) addFont(c *Call, in *fontIn) (*changeOut, error) {
	data, err := base64.StdEncoding.DecodeString(in.Data)
	if err != nil {
		return nil, problem(422, "This cannot be read", "the font's data is not base64")
	}
	f, err := kit.ReadFont(data)
	if err != nil {
		return nil, asRead(err)
	}
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		f.By, f.When = c.User.Name, l.Today
		return change.Change{
			Title: fmt.Sprintf("Add the font %s %d", f.Family, f.Weight),
			Steps: []change.Step{&change.PutFont{Font: *f}},
		}, nil
	})
}

func (s *Server) removeFont(c *Call, in *fontIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		for i := range l.W.Own.Fonts {
			if f := l.W.Own.Fonts[i]; f.File() == in.File {
				return change.Change{
					Title: fmt.Sprintf("Take away the font %s %d", f.Family, f.Weight),
					Steps: []change.Step{&change.DropFont{Font: f}},
				}, nil
			}
		}
		return change.Change{}, missing("font " + in.File)
	})
}

type iconIn struct {
	SVG  string `json:"svg"`
	Name string `json:"name,omitempty"`
}

type iconOut struct {
	SVG string `json:"svg"`
}

func (s *Server) checkIcon(c *Call, in *iconIn) (*iconOut, error) {
	svg, err := kit.ReadSVG([]byte(in.SVG))
	if err != nil {
		return nil, asRead(err)
	}
	if in.Name != "" {
		icon := kit.OwnIcon{Name: in.Name, SVG: svg}
		if err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error { return icon.Check(l.Kit.Bare()) }); err != nil {
			return nil, bad("%s", err)
		}
	}
	return &iconOut{svg}, nil
}

type reachIn struct {
	Paths []string `json:"paths"`
}

func (s *Server) reach(c *Call, in *reachIn) (*live.Reach, error) {
	var out live.Reach
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		for _, p := range in.Paths {
			if _, ok := l.Kit.Tokens.Find(p); !ok {
				return missing("token " + p)
			}
		}
		out = l.Reach(in.Paths...)
		return nil
	})
	return &out, err
}

// takeTheme sends a theme as a file, or as a bundle of files.
func (s *Server) takeTheme(c fiber.Ctx) error {
	id, form := strings.Clone(c.Params("id")), strings.Clone(c.Params("form"))
	var files []deliver.File
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		if !slices.Contains(l.Kit.Tokens.Themes, id) {
			return missing("theme " + id)
		}
		if !slices.Contains(deliver.ThemeForms, form) {
			return missing("form " + form + "; accepted: " + strings.Join(deliver.ThemeForms, ", "))
		}
		name := id
		if t, ok := l.W.Own.Theme(id); ok && t.Name != "" {
			name = t.Name
		}
		var err error
		files, err = deliver.Theme(l.Kit, id, name, l.W.Own.Fonts, form)
		return err
	})
	if err != nil {
		return err
	}
	if form == "bundle" {
		return sendZip(c, strings.TrimSuffix(files[1].Path, ".css"), files)
	}
	c.Set("Content-Type", contentType(files[0].Path))
	c.Set("Content-Disposition", `attachment; filename="`+files[0].Path+`"`)
	return c.Send(files[0].Data)
}

type packagesIn struct {
	App  string `json:"app"`
	Text string `json:"text"` // a package.json; empty forgets what was known
	// Client is the window that asks.
	Client string `json:"client,omitempty"`
}

func (s *Server) packages(c *Call, in *packagesIn) (*changeOut, error) {
	var list map[string]string
	if strings.TrimSpace(in.Text) != "" {
		var err error
		if list, err = kit.ReadDependencies([]byte(in.Text)); err != nil {
			return nil, asRead(err)
		}
	}
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		i := slices.IndexFunc(l.W.Apps, func(a model.App) bool { return a.ID == in.App })
		if i < 0 {
			return change.Change{}, missing("application " + in.App)
		}
		title := "Take in what " + l.W.Apps[i].Name + " has installed"
		if maps.Equal(list, l.W.Apps[i].Packages) && (list == nil) == (l.W.Apps[i].Packages == nil) {
			return change.Change{}, bad("that is what is known already")
		}
		return change.Change{
			Title: title,
			Steps: []change.Step{&change.Install{App: in.App, Packages: list}},
		}, nil
	})
}

type iconNameIn struct {
	Name string `path:"name"`
}

// IconPlace is where an icon stands.
type IconPlace struct {
	UseView
	Prop string `json:"prop"`
}

type iconUses struct {
	Places []IconPlace `json:"places"`
}

// iconUses lists the elements that show an icon.
func (s *Server) iconUses(c *Call, in *iconNameIn) (*iconUses, error) {
	out := &iconUses{Places: []IconPlace{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		if !slices.ContainsFunc(l.Kit.Icons, func(i kit.Icon) bool { return i.Name == in.Name }) {
			return missing("icon " + in.Name)
		}
		for _, d := range l.Index.Docs() {
			for i := range d.Uses {
				el := d.Uses[i].Element
				def, ok := l.Cat.Component(el.Type)
				if !ok {
					continue
				}
				for _, p := range def.Props {
					v, set := el.Prop(p.Name)
					if p.Icon && (set && v.Text == in.Name || !set && p.Default == in.Name) {
						out.Places = append(
							out.Places,
							IconPlace{
								UseView{
									usage.DocKey(d.Document),
									d.Title,
									el.ID,
									l.Words(d.Uses[i].Spots[usage.ByRole]),
								},
								p.Name,
							},
						)
					}
				}
			}
		}
		return nil
	})
	return out, err
}
