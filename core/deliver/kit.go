package deliver

import (
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
)

// Take takes over what a packed kit says of its use in an application.
func (in *Input) Take(b *pack.Bundle) {
	in.Published = b.PackageFiles == nil
	in.Styles, in.Setup, in.Wrap, in.Peers = b.Meta.Styles, b.Meta.Setup, b.Meta.Wrap, b.Meta.Peers
	in.WrapTheme = b.Meta.WrapTheme
	if in.Kit.Folder() != "" { // what stands around it is the application
		in.Styles, in.Setup, in.Wrap, in.WrapTheme = nil, nil, "", nil
	}
	in.Unbrought = nil
	for _, theme := range in.Kit.Tokens.Themes {
		for _, family := range in.Kit.MissingFonts(theme, b.Sheet(), in.Fonts) {
			if !slices.Contains(in.Unbrought, family) {
				in.Unbrought = append(in.Unbrought, family)
			}
		}
	}
	in.Parts = nil
	for _, p := range b.Parts {
		if p.Meta.Name == kit.Outlines {
			continue // there is no such package
		}
		in.Parts = append(in.Parts, Part{
			Name: p.Meta.Name, Version: p.Package.Version, Drawn: p.Kit.Drawn, Code: p.Kit.Code, Files: p.DeliverFiles(),
			Published: p.PackageFiles == nil, Styles: p.Meta.Styles, Setup: p.Meta.Setup, Wrap: p.Meta.Wrap, Peers: p.Meta.Peers, Ties: p.Ties,
			Pages: p.Drawing(),
		})
	}
	// Themes of our own are said by data-theme already; what a wrapper is told, or the system says, is no
	// mark on the page.
	if dark := b.Meta.Themes.Dark; strings.Contains(dark, "=") && !strings.HasPrefix(dark, "data-theme=") {
		in.Light, in.Dark = b.Meta.Themes.Light, dark
	}
}
