package main

import (
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"
)

// oneOf is a flag that takes one of a few words, and refuses others.
type oneOf struct {
	value    *string
	accepted []string
}

func (o *oneOf) String() string { return *o.value }
func (o *oneOf) Type() string   { return "word" }
func (o *oneOf) Set(s string) error {
	if !slices.Contains(o.accepted, s) {
		return fmt.Errorf("%q is not known; accepted: %s", s, strings.Join(o.accepted, ", "))
	}
	*o.value = s
	return nil
}

// choice adds a flag that takes one of a few words; the first is the usual one.
func choice(c *cobra.Command, value *string, name, usage string, accepted ...string) {
	*value = accepted[0]
	c.Flags().Var(&oneOf{value, accepted}, name, usage+": "+strings.Join(accepted, ", "))
}
