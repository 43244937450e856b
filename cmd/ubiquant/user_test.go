package main

import (
	"testing"

	"github.com/stretchr/testify/assert"

	testdb "ubiquant/internal/testkit/database"
)

// Who is there keeps name and role where a link is all that is asked for.
func TestALinkLeavesAPersonAsTheyAre(t *testing.T) {
	db := testdb.Empty(t)
	for _, c := range []struct {
		args []string
		says string
	}{
		{[]string{"ida", "--full-name", "Ida Fenn", "--role", "keeper"}, "Ida Fenn (ida) is a keeper."},
		{[]string{"ida"}, "Ida Fenn (ida) is a keeper."},
		{[]string{"noor"}, "noor (noor) is a builder."},
		{[]string{"noor", "--role", "reader"}, "noor (noor) is a reader."},
		{[]string{"noor", "--full-name", "Noor Abadi"}, "Noor Abadi (noor) is a reader."},
	} {
		out, code := run(t, append([]string{"user", "--database", db}, c.args...)...)
		assert.Equal(t, 0, code, out)
		assert.Contains(t, out, c.says)
		assert.Contains(t, out, "/sign-in#")
	}
}
