package rules

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/picture"
	"ubiquant/core/screen"
)

// What a picture may be before it is more than any screen shows.
const (
	mostSide    = 2_600     // pixels
	mostBytes   = 1_000_000 // of its file
	mostWritten = 60_000    // letters of one that is written out as its own address
)

var _ = add(&audit.Rule{
	ID: "picture-file", Title: "A picture that is not there, or far too large", Severity: audit.Warning,
	Purpose: "A picture of the workspace is kept in it, and no larger than a screen shows.",
	Why:     "A missing picture is a hole; one of ten megabytes makes people on the road wait.",
	Bad: []string{
		`{"id":"a","type":"sorrel-picture","props":{"src":"/pictures/oak-0123456789abcdef.png","alt":"An oak"}}`,
		`{"id":"a","type":"sorrel-picture","props":{"src":"/pictures/oak-fedcba9876543210.jpg","alt":"An oak"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-picture","props":{"src":"/pictures/elm-1111111111111111.jpg","alt":"An elm"}}`,
		`{"id":"a","type":"sorrel-picture","props":{"src":"/oak.svg","alt":"An oak"}}`,
	},
	Looks: func(c *kit.Component) bool { return c.Level != kit.Layout },
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, _ *kit.Prop) {
		text := prop.Value.Text
		if strings.HasPrefix(text, "data:image/") && len(text) > mostWritten {
			p.Report(n, prop.Name,
				fmt.Sprintf("the picture is written out in the screen itself, %d kB; keep it among the pictures", len(text)/1000), "")
			return
		}
		for _, id := range picture.Named(text) {
			k, ok := p.Pictures[id]
			switch {
			case !ok:
				p.Report(n, prop.Name, "the workspace keeps no picture "+strings.TrimPrefix(text, picture.Folder), "")
			case k.Width > mostSide || k.Height > mostSide || k.Bytes() > mostBytes:
				p.Report(n, prop.Name, fmt.Sprintf("the picture is %d × %d and takes %.1f MB: more than a screen shows",
					k.Width, k.Height, float64(k.Bytes())/1e6), "")
			}
		}
	},
})
