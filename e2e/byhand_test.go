package e2e_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit/database"
	"ubiquant/server"
)

// Screens are delivered into a repository from the place for it, edited there by hand, and what was
// edited is taken back into the screens with one undo.
func TestWhatIsEditedByHandComesBackIntoTheScreens(t *testing.T) {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "package.json"), []byte(`{"name":"office","dependencies":{"vue":"^3.5.0"}}`), 0o644))
	j := beginOn(t, "ida", server.Options{Database: database.Demo(t), Repositories: map[string]string{"office": dir}})
	there := `(document.querySelector('section[aria-label="Into the repository"]')?.innerText ?? '')`
	j.click(link("Deliver"))
	j.until(`!!document.querySelector('input[name=into][value=office]')`)
	j.click(`document.querySelector('input[name=into][value=office]')`)
	j.until(there + `.includes(' new')`)
	j.click(button("Write"))
	j.until(there + `.includes(' same') && !` + there + `.includes(' new')`)

	at := filepath.Join(dir, "src/fernhollow-operations/screens/EditTicketScreen.vue")
	src, err := os.ReadFile(at)
	require.NoError(t, err)
	text := string(src)
	for _, pair := range [][2]string{{">Cancel<", ">Never mind<"}, {`label="State"`, `label="How far"`}, {"</script>", "console.log(own)\n</script>"}} {
		require.Contains(t, text, pair[0])
		text = strings.Replace(text, pair[0], pair[1], 1)
	}
	require.NoError(t, os.WriteFile(at, []byte(text), 0o644))

	// Looked at anew, and taken.
	j.click(`document.querySelector('input[name=into][value=""]')`)
	j.until(`!document.querySelector('section[aria-label="Into the repository"]')`)
	j.click(`document.querySelector('input[name=into][value=office]')`)
	j.until(there + `.includes('2 edits of the screens, too') && ` + there + `.includes('label “How far”') && ` + there + `.includes('1 in the code alone')`)
	j.click(`[...document.querySelectorAll('section[aria-label="Edited by hand"] li button')].find(b => b.innerText.startsWith('EditTicketScreen.vue'))`)
	j.until(`document.querySelector('section[aria-label="Code"]').innerText.includes('+      <sorrel-field label="How far">')`)
	j.click(button("Take into the screens"))
	j.until(there + `.includes('1 in the code alone') && !` + there + `.includes('of the screens, too')`)
	j.until(`document.activeElement?.getAttribute('aria-label') === 'Into the repository'`)
	j.bench("edit-ticket", ">= 10")
	j.until(lineWith("Never mind") + ` && ` + lineWith("How far"))
	j.key("z", input.ModifierCtrl)
	j.until(`!` + lineWith("Never mind") + ` && !` + lineWith("How far") + ` && ` + lineWith("Cancel"))
}
