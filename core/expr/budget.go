package expr

import (
	"fmt"
	"unicode/utf8"

	"ubiquant/core/sample"
)

// Budget bounds what evaluations may take, counted while they are made: a text that
// doubles from field to field, or a list walked once for each record of another, would
// take all memory or all time. One budget is shared by what is computed together.
type Budget struct {
	Steps int // operations left
	Bytes int // of texts left
}

const (
	// maxText bounds one text, in bytes; nothing on a screen is longer.
	maxText = 100_000
	// maxSteps and maxBytes bound what is computed for one sample set, or one screen.
	maxSteps = 20_000_000
	maxBytes = 64 << 20
)

// NewBudget is enough for all that is computed of a sample set, or shown on a screen.
func NewBudget() *Budget { return &Budget{maxSteps, maxBytes} }

// step counts an operation; weight is how many records it walks over.
func (b *Budget) step(weight int) error {
	if b == nil {
		return nil
	}
	if b.Steps -= 1 + weight; b.Steps < 0 {
		return fmt.Errorf("more than %d operations would be needed for all that is computed here", maxSteps)
	}
	return nil
}

// Text counts a text that was made.
func (b *Budget) Text(s string) error {
	if len(s) > maxText {
		return fmt.Errorf("the text has %d letters; accepted: up to %d bytes", utf8.RuneCountInString(s), maxText)
	}
	if b == nil {
		return nil
	}
	if b.Bytes -= len(s); b.Bytes < 0 {
		return fmt.Errorf("all texts that are computed here together are longer than %d MB", maxBytes>>20)
	}
	return nil
}

// made counts a value that was computed.
func (b *Budget) made(v any) error {
	switch v := v.(type) {
	case string:
		return b.Text(v)
	case sample.List:
		return b.Text(string(v))
	}
	return nil
}

// Uncomputed is a computed field that has no value in some records, and why.
type Uncomputed struct {
	Model, Field string
	Records      int
	Record       string // the first of them
	Why          error
}

func (u *Uncomputed) Error() string {
	return fmt.Sprintf("%s of %s %s: %s", u.Field, u.Model, u.Record, u.Why)
}
