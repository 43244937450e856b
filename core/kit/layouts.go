package kit

import "sync"

// Breakpoints are the widths, in CSS pixels of the screen's root, from which a
// responsive layout setting may differ.
var Breakpoints = []string{"640", "960", "1280"}

// Layouts returns the layouts that are there whatever the kit. Their spacing
// settings name steps of the kit's space tokens; only layouts vary by width.
func Layouts() []*Component { return layouts() }

var layouts = sync.OnceValue(func() []*Component {
	gap := Prop{
		Name:       "gap",
		Type:       Text,
		Default:    "4",
		Tokens:     "space",
		Responsive: true,
		Summary:    "Room between children, a spacing step.",
	}
	pad := Prop{
		Name:       "padding",
		Type:       Text,
		Tokens:     "space",
		Responsive: true,
		Summary:    "Room inside, a spacing step.",
	}
	// A side may have other room than the rest; its default is the padding.
	side := func(name, where string) Prop {
		return Prop{
			Name:       name,
			Type:       Text,
			Tokens:     "space",
			Values:     []string{"0"},
			Responsive: true,
			Summary:    "Room inside " + where + " where it differs from the padding, a spacing step.",
		}
	}
	above, below, start, end := side(
		"above",
		"above",
	), side(
		"below",
		"below",
	), side(
		"start",
		"at the start of lines",
	), side(
		"end",
		"at the end of lines",
	)
	align := Prop{
		Name:    "align",
		Type:    Enum,
		Values:  []string{"stretch", "start", "center", "end"},
		Default: "stretch",
		Summary: "Across the direction.",
	}
	any := []Slot{{Name: "", Summary: "Its children, in order."}}
	region := Prop{
		Name:    "region",
		Type:    Enum,
		Values:  []string{"none", "main", "aside", "header", "footer"},
		Default: "none",
		Summary: "Landmark it becomes in the code.",
	}
	span := []string{"auto", "1", "2", "3", "4", "5", "6", "7", "8", "9", "10", "11", "12"}
	list := []*Component{
		{
			Tag:     "section",
			Title:   "section",
			Summary: "A part of the page with a padding of its own, as wide as its container.",
			Aliases: []string{"container", "wrapper", "box"},
			Props: []Prop{
				pad,
				above,
				below,
				start,
				end,
				gap,
				region,
				{
					Name:    "width",
					Type:    Enum,
					Values:  []string{"full", "page", "reading"},
					Default: "full",
					Summary: "How wide it may grow.",
				},
				{
					Name:    "stays",
					Type:    Enum,
					Values:  []string{"none", "top", "bottom"},
					Default: "none",
					Summary: "Whether it stays in view at an edge while the rest moves.",
				},
			},
			Slots: any,
		},
		{
			Tag:     "stack",
			Title:   "stack",
			Summary: "Children one below or beside the other, with one gap.",
			Aliases: []string{"column of", "vertical", "horizontal", "flex", "list"},
			Props: []Prop{
				gap,
				pad,
				above,
				below,
				start,
				end,
				{
					Name:       "direction",
					Type:       Enum,
					Values:     []string{"down", "across"},
					Default:    "down",
					Responsive: true,
					Summary:    "Which way the children run.",
				},
				align,
				{
					Name:    "spread",
					Type:    Enum,
					Values:  []string{"start", "center", "end", "between"},
					Default: "start",
					Summary: "Along the direction.",
				},
				{
					Name:    "wrap",
					Type:    Bool,
					Default: "false",
					Summary: "Children go on in a next line where room ends.",
				},
			},
			Slots: any,
		},
		{
			Tag:     "row",
			Title:   "row",
			Summary: "Twelve columns; children without a span share what is left.",
			Aliases: []string{"columns", "12 columns"},
			Props:   []Prop{gap, align},
			Slots:   any,
		},
		{
			Tag:     "column",
			Title:   "column",
			Summary: "A share of a row: so many of its twelve columns.",
			Aliases: []string{"col", "cell", "span"},
			Props: []Prop{
				{
					Name:       "span",
					Type:       Enum,
					Values:     span,
					Default:    "auto",
					Responsive: true,
					Summary:    "How many of twelve columns it takes.",
				},
				{
					Name:       "offset",
					Type:       Enum,
					Values:     []string{"0", "1", "2", "3", "4", "5", "6"},
					Default:    "0",
					Responsive: true,
					Summary:    "How many columns stay free before it.",
				},
				{
					Name:       "order",
					Type:       Enum,
					Values:     []string{"first", "own", "last"},
					Default:    "own",
					Responsive: true,
					Summary:    "Whether it stands before or after the others, whatever its place.",
				},
				gap,
			},
			Slots:   any,
			Parents: []string{"row"},
		},
		{
			Tag:     "grid",
			Title:   "grid",
			Summary: "Equal boxes, as many in a line as are set or fit.",
			Aliases: []string{"tiles", "cards", "gallery"},
			Props: []Prop{
				gap,
				{
					Name:       "columns",
					Type:       Enum,
					Values:     []string{"fit", "1", "2", "3", "4", "5", "6"},
					Default:    "fit",
					Responsive: true,
					Summary:    "How many boxes stand in a line.",
				},
				{
					Name:    "least",
					Type:    Enum,
					Values:  []string{"160", "200", "240", "320", "400"},
					Default: "240",
					Summary: "How narrow a box may become, in pixels, where as many stand in a line as fit.",
				},
				{
					Name:    "heights",
					Type:    Enum,
					Values:  []string{"equal", "own", "packed"},
					Default: "equal",
					Summary: "Boxes as tall as their line, as tall as they are, or packed so that none leaves a hole.",
				},
			},
			Slots: any,
		},
		{
			Tag:     "spacer",
			Title:   "spacer",
			Summary: "Takes the room that is left, or one spacing step.",
			Aliases: []string{"space", "push", "gap"},
			Props: []Prop{
				{Name: "size", Type: Text, Tokens: "space", Summary: "A spacing step; empty takes what is left."},
			},
		},
		{
			Tag:     "parts",
			Title:   "parts",
			Summary: "Several elements without a box of their own; the root of a piece.",
			Slots:   any,
		},
		{
			Tag:     "markup",
			Title:   "plain markup",
			Summary: "Markup that was brought in and is no component yet.",
			Aliases: []string{"html"},
			Props: []Prop{
				{
					Name: "tag",
					Type: Enum,
					Values: []string{
						"div",
						"p",
						"span",
						"ul",
						"ol",
						"li",
						"dl",
						"dt",
						"dd",
						"blockquote",
						"pre",
						"details",
						"summary",
						"figure",
						"figcaption",
					},
					Default: "div",
					Summary: "The tag it was written with.",
				},
			},
			Slots: []Slot{{Name: "", Text: true, Summary: "Its text and children."}},
		},
		{
			Tag:     "outlet",
			Title:   "outlet",
			Summary: "Where the screen stands in its shell.",
			Aliases: []string{"page slot", "router view"},
		},
	}
	for _, c := range list {
		c.Level, c.Family = Layout, "layouts"
		if c.Props == nil {
			c.Props = []Prop{}
		}
		if c.Slots == nil {
			c.Slots = []Slot{}
		}
		c.index()
	}
	return list
})
