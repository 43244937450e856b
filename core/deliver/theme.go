package deliver

import (
	"encoding/json"
	"fmt"
	"strings"

	"ubiquant/core/kit"
)

// ThemeForms are what a theme can be taken away as.
var ThemeForms = []string{"dtcg", "css", "bundle"}

// Theme writes one theme of a kit in a form: its Design Tokens, its style sheet, or
// a bundle of both with the fonts it asks for and a page on how to use them.
func Theme(k *kit.Kit, theme, name string, fonts []kit.Font, form string) ([]File, error) {
	file := k.Prefix + "-" + theme
	tokens := File{Path: file + ".tokens.json", Data: k.Tokens.DTCG(theme, name)}
	var used []kit.Font
	for _, f := range fonts {
		for _, t := range k.Tokens.List {
			if t.Type == "fontFamily" && strings.Contains(t.Values[theme], f.Family) {
				used = append(used, f)
				break
			}
		}
	}
	var css strings.Builder
	for i := range used {
		css.WriteString(used[i].Face("./fonts/"))
	}
	css.WriteString(k.Tokens.ThemeCSS(theme))
	sheet := File{Path: file + ".css", Data: []byte(css.String())}
	switch form {
	case "dtcg":
		return []File{tokens}, nil
	case "css":
		return []File{sheet}, nil
	case "bundle":
		files := []File{tokens, sheet}
		for _, f := range used {
			files = append(files, File{Path: "fonts/" + f.File(), Data: f.Data})
		}
		return append(
			files,
			File{
				Path: "README.md",
				Data: []byte(
					fmt.Sprintf(
						"# %s, a theme of %s %s\n\n1. Import `%s.css` after the kit's own style sheet:\n\n   ```js\n   %s\n   import './%s.css'\n   ```\n\n2. Set it on the root, or on any part of a page: `<html data-theme=\"%s\">`.\n\n`%s.tokens.json` holds the same in the Design Tokens format (DTCG).\n",
						name,
						k.Title,
						k.Version,
						file,
						k.Code.Styles,
						file,
						theme,
						file,
					),
				),
			},
		), nil
	}
	return nil, fmt.Errorf("a theme is taken away as %s, not as %q", strings.Join(ThemeForms, ", "), form)
}

// Own is what a team added to the kit, as files of an application: a style sheet
// with its themes and fonts, and a module that makes its icons known. root is where
// the files go, from what the kit's module is imported as. The names of those to be imported come back.
func Own(in Input, root, from string) (files []File, sheet, module string) {
	var css strings.Builder
	for i := range in.Fonts {
		css.WriteString(in.Fonts[i].Face("./fonts/"))
		files = append(files, File{Path: root + "fonts/" + in.Fonts[i].File(), Data: in.Fonts[i].Data})
	}
	for _, theme := range in.Themes {
		block := in.Kit.Tokens.ThemeCSS(theme)
		if theme == in.Kit.Tokens.Themes[0] {
			block = ":root:not([data-theme]), " + block
		}
		css.WriteString(block)
	}
	if css.Len() > 0 {
		sheet = "themes.css"
		files = append(files, File{Path: root + sheet, Data: []byte(css.String())})
	}
	own := map[string]string{}
	for _, i := range in.Kit.Icons {
		if i.Own {
			own[i.Name] = i.SVG
		}
	}
	if len(own) > 0 && in.Kit.Code.AddIcons != "" {
		// Sorted by name by the encoder, so that the same icons give the same bytes.
		var text strings.Builder
		enc := json.NewEncoder(&text)
		enc.SetEscapeHTML(false)
		enc.SetIndent("", "  ")
		if enc.Encode(own) == nil { // texts always encode
			module = "icons.js"
			files = append(
				files,
				File{
					Path: root + module,
					Data: []byte(
						fmt.Sprintf(
							"// Icons of this application's own, made known to the kit.\nimport { %s } from '%s'\n\n%s(%s)\n",
							in.Kit.Code.AddIcons,
							from,
							in.Kit.Code.AddIcons,
							strings.TrimSpace(text.String()),
						),
					),
				},
			)
		}
	}
	return files, sheet, module
}
