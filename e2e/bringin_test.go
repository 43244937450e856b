package e2e_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

const oldPage = `<div class="page"><div class="topbar"><a class="brand" href="/">Fernhollow</a><a href="/" class="active">Today</a><a href="/orders">Orders</a></div>
<h1>Seed orders</h1><p>What was ordered this year</p>
<div class="toolbar"><button class="icon-button active" aria-label="Newest first"><i class="icon-arrow-down"></i></button><button class="icon-button" aria-label="By supplier"><i class="icon-user"></i></button></div>
<div class="filters"><label for="q">Search</label><input id="q" type="search" name="q"><label><input type="checkbox" name="open"> Only open</label></div>
<table><thead><tr><th>Order</th><th>Supplier</th><th>Total</th></tr></thead><tbody><tr><td><a href="/orders/1">1001</a></td><td>Hedge and Sons</td><td>€ 120.00</td></tr><tr><td><a href="/orders/2">1002</a></td><td>Alder Seeds</td><td>€ 80.50</td></tr></tbody></table>
<marquee>Spring sale of bulbs</marquee><div onclick="buy()">Buy now</div>
<footer>Fernhollow Arboretum</footer><script>track()</script></div>`

// An old, unstyled page is pasted: it becomes the kit's bar, headings, buttons, fields,
// table and footer, with what was uncertain shown first, and nothing of it is lost.
func TestAnOldPageGetsANewCoat(t *testing.T) {
	j := begin(t, "noor")
	j.bench("not-found", ">= 1")
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	j.think()
	j.click(`document.querySelector('[data-line]')`)
	j.until(`document.activeElement?.dataset.line`)
	text, _ := json.Marshal(oldPage)
	j.allowClipboard()
	j.run(chromedp.Evaluate(`navigator.clipboard.writeText(`+string(text)+`)`, nil, awaited))
	j.command("v", "paste")
	j.until(
		`document.querySelector('[role=dialog] select') && document.querySelector('[role=dialog] [data-pending="0"]')`,
	)
	said := j.text(`document.querySelector('[role=dialog]').innerText`)
	assert.Contains(t, said, "onclick of <div>")
	assert.Contains(t, said, "<script>")
	j.think()
	j.click(
		`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim().startsWith('Put in'))`,
	)
	j.until(`!document.querySelector('[role=dialog]') && ` + lineTexts + `.some(t => t.includes('Hedge and Sons'))`)
	j.effort("an old page in a new coat", 10)
	for _, want := range []string{"navbar", "nav item", "Seed orders", "Only open", "column", "Hedge and Sons", "€ 80.50", "Spring sale of bulbs", "Buy now", "footer"} {
		assert.True(t, strings.Contains(j.text(lineTexts+`.join('\n')`), want), want)
	}
	j.untilInFrame(
		"Newest first,Search",
		`['sorrel-icon-button', 'sorrel-field'].map(t => document.querySelector('body > div').shadowRoot.querySelector('.u-section ' + t).getAttribute('label')).join()`,
	)
	j.untilInFrame(
		"2,3,1",
		`['sorrel-row', 'sorrel-column', 'sorrel-footer'].map(t => document.querySelector('body > div').shadowRoot.querySelectorAll('.u-section ' + t).length).join()`,
	)
	j.key("z", 2)
	j.until(`!` + lineTexts + `.some(t => t.includes('Hedge and Sons'))`)
}
