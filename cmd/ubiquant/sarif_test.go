package main

import (
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/source"
)

// offset is the byte of a line and a column that counts letters.
func offset(text string, line, column int) int {
	at := 0
	for range line - 1 {
		at += strings.IndexByte(text[at:], '\n') + 1
	}
	return at + len(string([]rune(text[at:])[:column-1]))
}

// A fix that a report offers to other tools writes the same as the repair itself, byte for byte, and
// what is no change of literals is not offered.
func TestSARIFOffersWhatRepairsWrite(t *testing.T) {
	type region struct{ StartLine, StartColumn, EndLine, EndColumn int }
	for _, name := range []string{"office", "stand"} {
		dir := filepath.Join(t.TempDir(), name)
		require.NoError(t, os.CopyFS(dir, os.DirFS("../../demo/"+name)))
		r, err := readRepository(context.Background(), dir, nil, nil, nil)
		require.NoError(t, err)
		rep := reportOn(r.Judge(today()), dir, places(r))
		rep.FixAt = fixes(r)
		written, err := rep.SARIF()
		require.NoError(t, err)
		schema, err := jsonschema.NewCompiler().Compile("testdata/sarif-schema-2.1.0.json")
		require.NoError(t, err)
		value, err := jsonschema.UnmarshalJSON(strings.NewReader(string(written)))
		require.NoError(t, err)
		require.NoError(t, schema.Validate(value))
		var log struct {
			Runs []struct {
				Results []struct {
					PartialFingerprints map[string]string
					Fixes               []struct {
						Description     struct{ Text string }
						ArtifactChanges []struct {
							ArtifactLocation struct{ URI string }
							Replacements     []struct {
								DeletedRegion   region
								InsertedContent struct{ Text string }
							}
						}
					}
				}
			}
		}
		require.NoError(t, json.Unmarshal(written, &log))
		offered := map[string]map[string]string{} // what files become, by the finding's key
		for _, res := range log.Runs[0].Results {
			if len(res.Fixes) == 0 {
				continue
			}
			require.Len(t, res.Fixes, 1)
			files := map[string]string{}
			for _, c := range res.Fixes[0].ArtifactChanges {
				src, err := os.ReadFile(filepath.FromSlash(c.ArtifactLocation.URI))
				require.NoError(t, err)
				text := string(src)
				list := slices.Clone(c.Replacements)
				slices.SortFunc(list, func(a, b struct {
					DeletedRegion   region
					InsertedContent struct{ Text string }
				}) int {
					return offset(text, b.DeletedRegion.StartLine, b.DeletedRegion.StartColumn) - offset(text, a.DeletedRegion.StartLine, a.DeletedRegion.StartColumn)
				})
				out := text
				for _, one := range list { // from the end
					at := one.DeletedRegion
					out = out[:offset(text, at.StartLine, at.StartColumn)] + one.InsertedContent.Text + out[offset(text, at.EndLine, at.EndColumn):]
				}
				files[c.ArtifactLocation.URI] = out
			}
			assert.NotEmpty(t, res.Fixes[0].Description.Text)
			offered[res.PartialFingerprints["ubiquant/v1"]] = files
		}
		made := 0
		for _, f := range append(slices.Clone(rep.Findings), rep.Strays...) {
			if len(f.Fix) == 0 || f.Few {
				continue
			}
			patched, unmade := r.Patch([]source.Repair{{Key: f.Key(), Doc: f.Doc, Edits: f.Fix}})
			if len(unmade) > 0 {
				assert.NotContains(t, offered, f.Key(), unmade[0].Why)
				continue
			}
			made++
			files := offered[f.Key()]
			require.Len(t, files, len(patched), f.Key())
			for _, p := range patched {
				assert.Equal(t, string(p.After), files[dir+"/"+p.Path], f.Key())
			}
		}
		assert.Positive(t, made, name)
	}
}
