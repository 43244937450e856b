package sample_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/sample"
)

func TestWhereMachinesKeepTheirSecretsIsNeverAsked(t *testing.T) {
	for _, host := range []string{
		"169.254.169.254", "[fe80::1]", "fe80::1%eth0", "::ffff:169.254.169.254", "fd00:ec2::254", "100.100.100.200",
		"metadata.google.internal", "METADATA.google.internal.", "0.0.0.0", "224.0.0.1", "::",
	} {
		assert.True(t, sample.NeverAsked(host), host)
	}
	for _, host := range []string{"data.example", "10.0.0.7", "127.0.0.1", "192.168.1.4", "8.8.8.8", "localhost"} {
		assert.False(t, sample.NeverAsked(host), host)
	}
	for _, host := range []string{"10.0.0.7", "127.0.0.1", "localhost", "[fd12::1]"} {
		assert.True(t, sample.Inside(host), host)
	}
	assert.False(t, sample.Inside("data.example"))
}

// What a spreadsheet would compute is written so that it shows it, and read again as it was.
func TestFormulasInCSVAreHarmless(t *testing.T) {
	m := &sample.Model{ID: "notes", Name: "Note", Fields: []sample.Field{
		{Name: "text", Type: sample.Text}, {Name: "n", Type: sample.Number},
	}}
	records := []sample.Record{
		{"id": "a", "text": "=HYPERLINK(\"http://evil.example\")", "n": -5.0},
		{"id": "b", "text": "+1", "n": 1.0}, {"id": "c", "text": "@cmd"}, {"id": "d", "text": "-2+3"}, {"id": "e", "text": "plain"},
	}
	out := string(m.CSV(records, false))
	assert.Contains(t, out, "'=HYPERLINK")
	assert.Contains(t, out, ",-5\n", "numbers are numbers")
	for _, cell := range []string{"'+1", "'@cmd", "'-2+3"} {
		assert.Contains(t, out, cell)
	}
	assert.NotContains(t, string(m.CSV(records, true)), "'")
	table, err := sample.ReadTable([]byte(out), "")
	require.NoError(t, err)
	assert.Equal(t, "=HYPERLINK(\"http://evil.example\")", table.Rows[0][1])
	assert.Equal(t, "-2+3", table.Rows[3][1])
}
