package main

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/server"
)

// An application whose components are its own is begun with as any other: they are drawn as outlines,
// and all that is set on them is there. A kit that is asked for and is none is an error.
func TestAKitOfTheRepositorysOwnIsDrawnAsOutlines(t *testing.T) {
	dir := t.TempDir()
	for name, text := range map[string]string{
		"package.json":      `{"name":"plots","dependencies":{"react":"19"}}`,
		"src/router.tsx":    "import { Beds } from './Beds'\nexport const routes = [{ path: '/beds', element: <Beds /> }]\n",
		"src/ui/Button.tsx": "export function Button({ tone = 'plain', children }: { tone?: 'plain' | 'strong'; children?: unknown }) { return <button className={tone}>{children}</button> }\n",
		"src/ui/Card.tsx":   "export function Card({ children }: { children?: unknown }) { return <section>{children}</section> }\n",
		"src/Beds.tsx":      "import { Button } from './ui/Button'\nimport { Card } from './ui/Card'\nexport function Beds() { return <main><Card><Button tone=\"strong\">Save</Button><Button>Cancel</Button></Card><Card /><Card /></main> }\n",
	} {
		file := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	}
	var said bytes.Buffer
	cmd := &cobra.Command{}
	cmd.SetErr(&said)
	var o server.Options
	require.NoError(t, beginWithCode(t.Context(), cmd, dir, "", &o))
	assert.Contains(t, said.String(), "the components of ./src/ui are drawn as outlines: ./src/ui needs react, which is not installed")
	assert.Equal(t, kit.Outlines, o.Kit.Meta.Name)
	k, err := o.Kit.Kit()
	require.NoError(t, err)
	button, ok := k.Component("ui-button")
	require.True(t, ok)
	tone, _ := button.Prop("tone")
	assert.Equal(t, []string{"plain", "strong"}, tone.Values)
	d, ok := o.Workspace.Doc("screen:beds")
	require.True(t, ok)
	assert.Equal(t, 6, d.Root.Count(), "nothing that was read is lost")

	var other server.Options
	assert.ErrorContains(t, beginWithCode(t.Context(), cmd, dir, filepath.Join(dir, "package.json"), &other), "package.json")
	assert.Nil(t, other.Workspace)
}
