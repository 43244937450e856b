package deliver

import (
	"strings"

	"ubiquant/core/kit/pack"
)

// Take takes over what a packed kit says of its use in an application.
func (in *Input) Take(b *pack.Bundle) {
	in.Published = b.PackageFiles == nil
	in.Styles, in.Setup, in.Wrap, in.Peers = b.Meta.Styles, b.Meta.Setup, b.Meta.Wrap, b.Meta.Peers
	// Themes of our own are said by data-theme already.
	if !strings.HasPrefix(b.Meta.Themes.Dark, "data-theme=") {
		in.Light, in.Dark = b.Meta.Themes.Light, b.Meta.Themes.Dark
	}
}
