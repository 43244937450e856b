package shared

import (
	"cmp"
	"encoding/json"
	"fmt"
	"strings"

	"github.com/lucasb-eyer/go-colorful"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
)

// Phone are the files by which an application stands on a phone's home screen (W3C Web
// Application Manifest): its name, its colours from the kit, and an icon. They are the
// team's: written once.
func Phone(in deliver.Input, folder string) ([]deliver.File, error) {
	accent, ground := in.Kit.Colours()
	accent, ground = cmp.Or(hex(accent), "#4a5a2a"), cmp.Or(hex(ground), "#ffffff")
	words := strings.Fields(in.Name)
	short := in.Name
	if len(words) > 0 && len([]rune(short)) > 12 {
		short = words[0]
	}
	type icon struct {
		Src     string `json:"src"`
		Sizes   string `json:"sizes"`
		Type    string `json:"type"`
		Purpose string `json:"purpose"`
	}
	text, err := json.MarshalIndent(struct {
		Name       string `json:"name"`
		ShortName  string `json:"short_name"`
		StartURL   string `json:"start_url"`
		Display    string `json:"display"`
		Theme      string `json:"theme_color"`
		Background string `json:"background_color"`
		Icons      []icon `json:"icons"`
	}{in.Name, short, "/", "standalone", accent, ground, []icon{
		{"/icon.svg", "any", "image/svg+xml", "any"}, {"/icon-maskable.svg", "any", "image/svg+xml", "maskable"},
	}}, "", "  ")
	if err != nil {
		return nil, err
	}
	var initials strings.Builder
	for _, w := range words[:min(2, len(words))] {
		initials.WriteString(strings.ToUpper(string([]rune(w)[:1])))
	}
	ink := "#ffffff"
	if c, err := colorful.Hex(accent); err == nil {
		if l, _, _ := c.Lab(); l > 0.65 {
			ink = "#000000"
		}
	}
	svg := func(radius, size int) []byte {
		return []byte(fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 512 512">
  <rect width="512" height="512" rx="%d" fill="%s" />
  <text x="256" y="256" dy="0.35em" text-anchor="middle" font-family="sans-serif" font-weight="700" font-size="%d" fill="%s">%s</text>
</svg>
`, radius, accent, size, ink, emit.EscapeHTML(initials.String())))
	}
	return []deliver.File{
		{Path: folder + "manifest.webmanifest", Data: append(text, '\n'), Own: true},
		{Path: folder + "icon.svg", Data: svg(96, 240), Own: true},
		{Path: folder + "icon-maskable.svg", Data: svg(0, 180), Own: true},
	}, nil
}

// hex is a colour as #rrggbb; empty for what is none.
func hex(css string) string {
	c, err := colorful.Hex(strings.TrimSpace(css))
	if err != nil {
		return ""
	}
	return c.Hex()
}
