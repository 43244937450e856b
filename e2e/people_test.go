package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"

	"ubiquant/internal/browser"
)

// A keeper renames somebody and lets him out, whose window then ends; everybody changes the
// own password and signs in with it.
func TestAKeeperLooksAfterPeople(t *testing.T) {
	ida := begin(t, "ida")
	noor := ida.beside("noor")
	ida.run(chromedp.Navigate(ida.server.URL + "/people"))
	ida.until(`document.querySelector('[aria-label="What noor is called"]')`)
	ida.click(`document.querySelector('[aria-label="Let Noor Abadi out"]')`)
	ida.until(`document.querySelector('[aria-label="Let Noor Abadi in"]')`)
	noor.until(`location.pathname === '/sign-in'`)
	ida.click(`document.querySelector('[aria-label="Let Noor Abadi in"]')`)
	ida.until(`document.querySelector('[aria-label="Let Noor Abadi out"]')`)
	assert.Contains(t, ida.text(`document.querySelector('[aria-labelledby=people-log]').innerText`), "noor let out by ida")

	fields := `[...document.querySelectorAll('[aria-labelledby=own-password] input[type=password]')]`
	ida.fill(fields+`[1]`, "ida ida ida ida")
	ida.click(button("Change it"))
	ida.until(`document.querySelector('[aria-labelledby=own-password] [role=alert]')?.textContent.includes('own name')`)
	ida.fill(fields+`[1]`, "seven ladders of chalk")
	ida.click(button("Change it"))
	ida.until(`document.querySelector('[aria-labelledby=own-password] [role=status]')`)
	noor.run(chromedp.Navigate(noor.server.URL+"/sign-in"), browser.Until(`document.querySelector('[name=username]')`))
	noor.fill(`document.querySelector('[name=username]')`, "ida")
	noor.fill(`document.querySelector('[name=password]')`, "seven ladders of chalk")
	noor.key("Enter")
	noor.until(`location.pathname === '/' && document.querySelector('[aria-label="Ida Fenn, keeper"]')`)
}
