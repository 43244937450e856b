package main

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/wsfile"
)

// The demo is what its lines say: a change by hand would be lost.
func TestTheDemoIsMadeOfItsLines(t *testing.T) {
	lines, err := os.ReadFile("../fernhollow.lines")
	require.NoError(t, err)
	want, err := os.ReadFile("../fernhollow.json")
	require.NoError(t, err)
	w, err := build(string(lines))
	require.NoError(t, err)
	w, err = wsfile.Read(wsfile.Write(w))
	require.NoError(t, err)
	assert.Equal(t, string(want), string(wsfile.Write(w)))
}
