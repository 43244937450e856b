package model

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
)

// Own is what a team adds to the kit: themes and changes to the kit's, icons, fonts,
// and which of the kit's entries it does not take.
type Own struct {
	Themes  []kit.Theme
	Icons   []kit.OwnIcon
	Fonts   []kit.Font
	LeftOut []LeftOut
	// Corrections are what the team says of components in place of what was proposed.
	Corrections []kit.Correction
}

// LeftOut is an entry of the kit that the team does not use.
type LeftOut struct {
	Tag    string
	Reason string
	By     string
	When   string
}

// Dress is the kit as the team has it. What no longer fits the kit is left out and
// told, so that nothing else is lost with it.
func (o Own) Dress(bare *kit.Kit) (*kit.Kit, []error) {
	k, unfit := o.dress(bare)
	k, more := k.Corrected(o.Corrections)
	return k, append(unfit, more...)
}

func (o Own) dress(bare *kit.Kit) (*kit.Kit, []error) {
	left := make(map[string]string, len(o.LeftOut))
	for _, l := range o.LeftOut {
		left[l.Tag] = l.Reason
	}
	if k, err := bare.With(o.Themes, o.Icons, left); err == nil {
		return k, nil
	}
	var fitting []kit.Theme
	var problems []error
	for _, t := range o.Themes {
		if err := t.Check(bare); err != nil {
			problems = append(
				problems,
				fmt.Errorf("the theme %s does not fit %s %s: %w", t.ID, bare.Title, bare.Version, err),
			)
			continue
		}
		fitting = append(fitting, t)
	}
	k, err := bare.With(fitting, o.Icons, left)
	if err != nil { // each fits alone, so together they do as well
		return bare, append(problems, err)
	}
	return k, problems
}

// Theme finds a theme of the team's own, or its changes to one of the kit's.
func (o Own) Theme(id string) (*kit.Theme, bool) {
	i := slices.IndexFunc(o.Themes, func(t kit.Theme) bool { return t.ID == id })
	if i < 0 {
		return nil, false
	}
	return &o.Themes[i], true
}

// Faces are the style rules that make the team's fonts known.
func (o Own) Faces(base string) string {
	var b strings.Builder
	for i := range o.Fonts {
		b.WriteString(o.Fonts[i].Face(base))
	}
	return b.String()
}

// MissingFonts lists the families that a theme asks for first and that neither the
// kit's style sheet nor the team brings: on a machine without them another is shown.
func (o Own) MissingFonts(k *kit.Kit, theme string, sheet []byte) []string {
	return k.MissingFonts(theme, sheet, o.Fonts)
}
