package e2e_test

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit/pack"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/assets"
	"ubiquant/server/repo"
)

// The first hour with a repository: its screens are drawn with what is known of them, each line
// says where it stands in code, the strays are seen beside what the others do, and their repairs
// come as a patch that applies.
func TestARepositoryIsLookedAtAndRepairedByAPatch(t *testing.T) {
	j, dir := office(t)

	j.bench("orders-list", ">= 3")
	j.untilDrawn("New order")
	j.click(lineWith("New order"))
	j.until(`document.body.textContent.includes('src/screens/orders/OrdersList.tsx:16:')`)
	j.click(`[...document.querySelectorAll('button')].find(b => b.innerText.trim() === 'Lines')`)
	j.until(`document.querySelector('pre[aria-label^="Lines of"] .font-semibold')?.innerText.includes('New order')`)
	assert.Equal(t, "true", j.text(`String([...document.querySelectorAll('button')].find(b => b.textContent.trim().startsWith("New line"))?.disabled)`))

	j.click(link("Census"))
	j.until(`document.querySelector('a[href="/census/strays"]')`)
	j.click(`document.querySelector('a[href="/census/strays"]')`)
	j.until(`[...document.querySelectorAll('li')].some(l => l.textContent.includes('primary on 39 of 40 screens'))`)
	j.click(`[...document.querySelectorAll('li')].find(l => l.textContent.includes('primary on 39 of 40 screens')).querySelector('input[type=checkbox]')`)
	j.click(button("Bring 1 into line"))
	j.until(`document.querySelector('[aria-label="The patch"]')?.textContent.includes('+++ b/src/screens/orders/OrdersList.tsx')`)
	assert.Equal(t, "false", j.text(`String([...document.querySelectorAll('[role=dialog] button')].some(b => /^\s*Apply/.test(b.textContent)))`), "what is in code is not changed here")
	j.run(chromedp.Evaluate(`{ const make = URL.createObjectURL; URL.createObjectURL = b => { b.text().then(t => (window.kept = t)); return make(b) } }`, nil))
	j.click(button("Download the patch"))
	j.until(`window.kept`)
	patch := filepath.Join(t.TempDir(), "office.patch")
	require.NoError(t, os.WriteFile(patch, []byte(j.text(`window.kept`)+"\n"), 0o600))
	out, err := exec.Command("git", "-C", dir, "apply", patch).CombinedOutput()
	require.NoError(t, err, "%s", out)
	again, err := repo.Open(t.Context(), repo.Options{Dir: dir})
	require.NoError(t, err)
	d, ok := again.W.Doc("screen:orders-list")
	require.True(t, ok)
	el, _ := d.Root.Find("button-kjy2rw")
	require.NotNil(t, el)
	v, _ := el.Prop("variant")
	assert.Equal(t, "primary", v.Text)

	// A screen of one's own is made of what stands in code, with records to look at; what stands
	// otherwise is said before.
	j.bench("tickets-list", ">= 3")
	j.click(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Assemble …')`)
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('Records are made up for Tickets')`)
	j.until(`[...document.querySelectorAll('[role=dialog] tbody tr')].some(r => r.innerText.includes('code computes it'))`)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Assemble it' && !b.disabled)`)
	j.until(`location.pathname === '/bench/screen/tickets-list-assembled'`)
	j.until(`[...document.querySelectorAll('button')].find(b => b.textContent.trim().startsWith('New line'))?.disabled === false`)
	j.until(lineWith("record.title"))
}

// office is the application on a repository whose screens are drawn by a framework, and a copy
// of that repository.
func office(t *testing.T) (*journey, string) {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	dir := filepath.Join(t.TempDir(), "office")
	require.NoError(t, os.CopyFS(dir, os.DirFS(filepath.Join(testkit.Root(), "demo", "office"))))
	r, err := repo.Open(t.Context(), repo.Options{Dir: dir})
	require.NoError(t, err)
	kit := packed(t, "@fernhollow/yarrow", "1.0.0")
	k, err := kit.Kit()
	require.NoError(t, err)
	r.On(k)
	r.W.Kit.Hash = kit.Hash()
	j := beginOn(t, "keeper", server.Options{
		Database: database.Empty(t), Kit: kit, Workspace: r.W, Repositories: map[string]string{"office": dir},
	})
	j.until(`document.body.textContent.includes('40 screens')`)
	return j, dir
}

// What is assembled of code acts like any other screen, drawn by a framework: a press takes a
// record away, a button among fields adds one.
func TestAnAssembledScreenActsOnAFrameworksKit(t *testing.T) {
	j, _ := office(t)
	var status string
	j.run(chromedp.Evaluate(`(async () => {
		const post = (to, body) => fetch(to, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })
		const made = await post('/api/screens/ticket-page/assemble', { id: 'made', title: 'Made', route: '/made' })
		const { root } = await (await fetch('/api/docs/screen/made')).json()
		const find = (e, that) => (that(e) ? e : (e.children ?? []).map(c => find(c, that)).find(Boolean))
		const card = find(root, e => e.repeat?.model === 'events')
		const acts = await post('/api/changes', { client: 'x', change: { title: 'Acts', steps: [{ do: 'edit', doc: 'screen:made', edits: [
			{ op: 'insert', parent: card.id, tree: { id: 'away', type: 'yarrow-button', text: 'Away', props: { does: 'remove' } } },
			{ op: 'insert', parent: root.id, tree: { id: 'new', type: 'stack', children: [
				{ id: 'new-text', type: 'yarrow-text-field', name: 'text', props: { label: 'What' } },
				{ id: 'new-by', type: 'yarrow-text-field', name: 'by', props: { label: 'Who', type: 'email' } },
				{ id: 'new-add', type: 'yarrow-button', text: 'Add', props: { does: 'add events' } }] } },
		] }] } })
		return made.status + ' ' + acts.status
	})()`, &status, awaited))
	require.Equal(t, "200 200", status)
	j.bench("made", ">= 3")
	j.untilDrawn("Away")
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true]')?.textContent.trim() === 'Preview'`)
	j.untilInFrame("false", `document.querySelector('body > div').inert`)
	const all = `(() => { const all = r => [...r.querySelectorAll('*')].flatMap(e => [e, ...(e.shadowRoot ? all(e.shadowRoot) : [])]); return all(document) })()`
	buttons := func(words string) string {
		return all + `.filter(e => e.tagName === 'BUTTON' && e.textContent.trim() === '` + words + `')`
	}
	j.untilInFrame("6", buttons("Away")+".length")
	j.untilInFrame("pressed", `(`+buttons("Away")+`[0].click(), 'pressed')`)
	j.untilInFrame("5", buttons("Away")+".length")
	types := func(i int, words string) {
		j.untilInFrame("typed", fmt.Sprintf(`((i, to) => (Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(i, to), i.dispatchEvent(new Event('input', { bubbles: true })), 'typed'))(%s.filter(e => e.tagName === 'INPUT')[%d], %q)`, all, i, words))
	}
	types(0, "Pruned")
	types(1, "Noor Ash")
	// What is wrong with a field is said through the component's own prop for it, and taken back.
	j.untilInFrame("pressed", `(`+buttons("Add")+`[0].click(), 'pressed')`)
	faults := all + `.filter(e => e.classList.contains('yr-error')).map(e => e.textContent).join()`
	j.untilInFrame("Who is no e-mail address.", faults)
	j.untilInFrame("Not sent: Who is no e-mail address.", all+`.find(e => e.id === 'faults')?.textContent`)
	j.untilInFrame("5", buttons("Away")+".length")
	types(1, "noor@fernhollow.example")
	j.untilInFrame("", faults)
	j.untilInFrame("pressed", `(`+buttons("Add")+`[0].click(), 'pressed')`)
	j.untilInFrame("6", buttons("Away")+".length")
	j.untilDrawn("Pruned")
}

// packed is one of the kits that ship.
func packed(t *testing.T, name, version string) *pack.Archive {
	kits, err := assets.Kits()
	require.NoError(t, err)
	for _, a := range kits {
		if a.Meta.Name == name && a.Meta.Version == version {
			return a
		}
	}
	require.Fail(t, "no kit "+name+" "+version)
	return nil
}
