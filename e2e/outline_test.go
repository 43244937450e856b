package e2e_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit/pack"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/repo"
)

// An application that has components of its own around a library's is drawn whole: the library's live,
// the team's as outlines, one within the other; and what is set on either is held against the others.
func TestWhatHasNoCodeHereIsDrawnAsAnOutline(t *testing.T) {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	dir := t.TempDir()
	for name, text := range map[string]string{
		"package.json":    `{"name":"garden","dependencies":{"@fernhollow/yarrow":"1.0.0","react":"19"}}`,
		"src/router.tsx":  "import { Beds } from './Beds'\nexport const routes = [{ path: '/beds', element: <Beds /> }]\n",
		"src/ui/Plot.tsx": "export function Plot({ title, children }: { title?: string; children?: unknown }) { return <section><h2>{title}</h2>{children}</section> }\n",
		"src/ui/Mark.tsx": "export function Mark({ tone = 'calm', children }: { tone?: 'calm' | 'loud'; children?: unknown }) { return <b className={tone}>{children}</b> }\n",
		"src/Beds.tsx": `import { Button, TextField } from '@fernhollow/yarrow'
import { Mark } from './ui/Mark'
import { Plot } from './ui/Plot'
export function Beds() {
  return (
    <main>
      <Plot title="Lime walk"><Button>Prune</Button><Mark tone="shrill">Dry</Mark></Plot>
      <Plot title="North bank"><Button>Water</Button><Mark>Wet</Mark></Plot>
      <Plot title="Pond side"><Button>Weed</Button><Button>Rest</Button><TextField label="Note" /></Plot>
    </main>
  )
}
`,
	} {
		file := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	}
	r, err := repo.Open(t.Context(), repo.Options{Dir: dir})
	require.NoError(t, err)
	drawn, left, err := pack.Outlined(packed(t, "@fernhollow/yarrow", "1.0.0"), r.Kit)
	require.NoError(t, err)
	assert.Empty(t, left)
	k, err := drawn.Kit()
	require.NoError(t, err)
	assert.Empty(t, r.On(k), "nothing is lost of what was read")
	r.W.Kit.Hash = drawn.Hash()
	j := beginOn(t, "keeper", server.Options{
		Database: database.Empty(t), Kit: drawn, Workspace: r.W, Repositories: map[string]string{"garden": dir},
	})
	j.run(chromedp.Navigate(j.server.URL + "/bench/screen/beds"))
	j.until(`document.querySelectorAll('[role=treeitem]').length >= 10`)
	j.untilDrawn("Lime walk")
	// The first plot, through the roots that it stands in.
	const plot = `(() => {
		const all = r => [...r.querySelectorAll('*')].flatMap(e => [e, ...(e.shadowRoot ? all(e.shadowRoot) : [])])
		return all(document).find(e => e.localName === 'ui-plot')
	})()`
	j.untilInFrame("Prune", plot+`.querySelector('button').textContent.trim()`)
	j.untilInFrame("plot Lime walk", `[...`+plot+`.shadowRoot.querySelectorAll('span')].map(e => e.textContent).join(' ')`)
	j.click(lineWith("Dry"))
	j.until(`document.body.innerText.includes('tone is “shrill”; the choices are calm, loud')`)
}
