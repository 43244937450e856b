package e2e_test

import "testing"

// An action typed into a row leads to the screen of the row's record, and says so as filled in.
func TestAnActionInARowLeadsToItsRecord(t *testing.T) {
	j := begin(t, "ida")
	j.newScreen("All work", "all-work")
	j.line("i", "tickets as table")
	j.until(lineWith("each tickets"))
	j.click(lineWith("each tickets"))
	j.line("i", "cell")
	j.line("i", "icon button | pencil | Edit ticket")
	j.until(lineWith("icon button", "pencil"))
	j.untilInFrame("true", `/^\/tickets\/\w+\/edit$/.test([...document.querySelectorAll('body > div')].map(d => d.shadowRoot?.querySelector('sorrel-row sorrel-icon-button')).find(Boolean).to)`)
}
