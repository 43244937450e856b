package e2e_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

const bedsTable = `<sorrel-table label="Beds" %s>
  <sorrel-column slot="columns" sort="none">Name</sorrel-column><sorrel-column slot="columns" kind="number" sort="none">Plants</sorrel-column><sorrel-column slot="columns">Note</sorrel-column>
  <sorrel-row><sorrel-cell>Lake 10</sorrel-cell><sorrel-cell>1,200</sorrel-cell><sorrel-cell>wet</sorrel-cell></sorrel-row>
  <sorrel-row><sorrel-cell>Lake 9</sorrel-cell><sorrel-cell>80</sorrel-cell><sorrel-cell>dry</sorrel-cell></sorrel-row>
  <sorrel-row><sorrel-cell>Alder walk</sorrel-cell><sorrel-cell>300</sorrel-cell><sorrel-cell>new</sorrel-cell></sorrel-row>
</sorrel-table>`

const names = `[...document.querySelectorAll('sorrel-row')].map(r => r.children[0].textContent).join()`

func table(t *testing.T, attributes string) *journey {
	return kitPage(
		t,
		900,
		"<script>addEventListener('sorrel-sort', e => told.push('sort' + JSON.stringify(e.detail))); addEventListener('sorrel-select', e => told.push('select' + JSON.stringify(e.detail)))</script>"+
			fmt.Sprintf(
				bedsTable,
				attributes,
			),
	)
}

func TestATableSortsByItsHeads(t *testing.T) {
	j := table(t, "")
	sorts := `[...document.querySelectorAll('sorrel-column')].map(c => c.getAttribute('aria-sort')).join()`
	assert.Equal(t, "none,none,", j.text(sorts), "a column that does not sort says nothing")
	j.key("Tab")
	j.key("Enter")
	j.until(names + ` === 'Alder walk,Lake 9,Lake 10'`) // numbers within words count as numbers
	assert.Equal(t, "ascending,none,", j.text(sorts))
	j.key("Enter")
	j.until(names + ` === 'Lake 10,Lake 9,Alder walk'`)
	j.key("Tab")
	j.key(" ")
	j.until(names + ` === 'Lake 9,Alder walk,Lake 10'`)
	assert.Equal(t, "none,ascending,", j.text(sorts))
	assert.Equal(
		t,
		`sort{"column":0,"order":"up"} sort{"column":0,"order":"down"} sort{"column":1,"order":"up"}`,
		j.text(`told.join(' ')`),
	)
	// An application that sorts by itself says so.
	j.run(chromedp.Evaluate(`document.addEventListener('sorrel-sort', e => e.preventDefault())`, nil))
	j.key("Enter")
	j.until(`told.length === 4`)
	assert.Equal(t, "Lake 9,Alder walk,Lake 10", j.text(names))
}

func TestRowsAreChosenByKeyAllOfThemToo(t *testing.T) {
	j := table(t, `selection="many"`)
	chosen := `[...document.querySelectorAll('sorrel-row')].map(r => r.getAttribute('aria-selected')).join()`
	assert.Equal(t, "false,false,false", j.text(chosen))
	j.key("Tab")
	assert.Equal(t, "Choose all", j.text(focused))
	j.key(" ")
	j.until(chosen + ` === 'true,true,true'`)
	for range 3 {
		j.key("Tab")
	}
	assert.Equal(t, "Choose Lake 10", j.text(focused), "each box is named by its row")
	j.key(" ")
	j.until(chosen + ` === 'false,true,true'`)
	assert.Equal(
		t,
		"true",
		j.text(`String(document.querySelector('sorrel-table').shadowRoot.querySelector('input').indeterminate)`),
	)
	assert.Equal(t, `select{"rows":[0,1,2]} select{"rows":[1,2]}`, j.text(`told.join(' ')`))

	one := table(t, `selection="one"`)
	one.run(
		chromedp.Evaluate(
			`[...document.querySelectorAll('sorrel-row')].forEach(r => r.shadowRoot.querySelector('input').click())`,
			nil,
		),
	)
	one.until(chosen + ` === 'false,false,true'`)
	plain := table(t, "")
	assert.Equal(t, ",,", plain.text(chosen), "rows that cannot be chosen say nothing of it")
}

func TestAHeadThatStaysIsSeenWhileTheRowsScroll(t *testing.T) {
	j := table(t, `head="stays"`)
	j.run(
		chromedp.Evaluate(
			`(() => { const t = document.querySelector('sorrel-table'); for (let i = 0; i < 40; i++) t.append(t.querySelector('sorrel-row').cloneNode(true)) })()`,
			nil,
		),
	)
	j.until(`document.querySelector('sorrel-table').shadowRoot.querySelector('.scroll').scrollHeight > 800`)
	j.run(
		chromedp.Evaluate(
			`document.querySelector('sorrel-table').shadowRoot.querySelector('.scroll').scrollTop = 600`,
			nil,
		),
	)
	j.until(
		`Math.abs(document.querySelector('sorrel-column').getBoundingClientRect().top - document.querySelector('sorrel-table').getBoundingClientRect().top) < 12`,
	)
	assert.Equal(
		t,
		"region Beds 0",
		j.text(
			`(s => [s.getAttribute('role'), s.getAttribute('aria-label'), s.tabIndex].join(' '))(document.querySelector('sorrel-table').shadowRoot.querySelector('.scroll'))`,
		),
		"keys can scroll it",
	)
}

func TestBarsNestGroupsAndDropDown(t *testing.T) {
	j := kitPage(
		t,
		900,
		`<sorrel-side-nav><sorrel-nav-group label="Growing"><sorrel-nav-item to="/a">Specimens</sorrel-nav-item><sorrel-nav-group label="Beds"><sorrel-nav-item to="/b">Lake</sorrel-nav-item></sorrel-nav-group></sorrel-nav-group></sorrel-side-nav>
<sorrel-navbar><sorrel-nav-item to="/c">Today</sorrel-nav-item><sorrel-menu label="More"><sorrel-menu-item>Archive</sorrel-menu-item></sorrel-menu></sorrel-navbar>`,
	)
	seen := `[...document.querySelectorAll('sorrel-side-nav sorrel-nav-item')].filter(e => e.checkVisibility()).map(e => e.textContent).join()`
	assert.Empty(t, j.text(seen))
	j.key("Tab")
	j.key("Enter")
	j.until(seen + ` === 'Specimens'`)
	assert.Equal(
		t,
		"true",
		j.text(
			`document.querySelector('sorrel-nav-group').shadowRoot.querySelector('button').getAttribute('aria-expanded')`,
		),
	)
	j.key("Tab")
	j.key("Tab")
	j.key(" ")
	j.until(seen + ` === 'Specimens,Lake'`)
	for range 3 {
		j.key("Tab")
	}
	j.key("ArrowDown")
	j.until(`document.querySelector('sorrel-menu').open && document.activeElement.textContent.trim() === 'Archive'`)
	j.key("Escape")
	j.until(`!document.querySelector('sorrel-menu').open`)
}

func TestOneButtonOfAGroupIsOn(t *testing.T) {
	j := kitPage(
		t,
		900,
		`<sorrel-button-group active="one" label="Sort"><sorrel-icon-button label="By name" icon="sort" pressed></sorrel-icon-button><sorrel-icon-button label="By date" icon="calendar"></sorrel-icon-button></sorrel-button-group>`,
	)
	on := `[...document.querySelectorAll('sorrel-icon-button')].map(b => b.shadowRoot.querySelector('button').getAttribute('aria-pressed')).join()`
	assert.Equal(t, "true,", j.text(on))
	j.key("Tab")
	j.key("Tab")
	j.key("Enter")
	j.until(on + ` === ',true'`)
	assert.Equal(
		t,
		"group Sort",
		j.text(
			`(g => g.getAttribute('role') + ' ' + g.getAttribute('aria-label'))(document.querySelector('sorrel-button-group'))`,
		),
	)
}

func TestAWholeCardLeadsOnAndItsButtonsStayTheirOwn(t *testing.T) {
	j := kitPage(
		t,
		900,
		`<sorrel-card to="/beds/lake" label="Lake bed"><sorrel-button slot="footer">Water</sorrel-button>Wet ground.</sorrel-card>`,
	)
	j.key("Tab")
	assert.Equal(t, "Lake bed", j.text(focused))
	j.run(chromedp.Evaluate(`addEventListener('sorrel-go', e => e.preventDefault())`, nil))
	j.key("Enter")
	j.until(`told.join() === 'sorrel-go{"to":"/beds/lake"}'`)
	j.key("Tab")
	j.key("Enter")
	j.until(`told.join() === 'sorrel-go{"to":"/beds/lake"},sorrel-press""'`)
	j.run(chromedp.Evaluate(`document.querySelector('sorrel-card').to = 'javascript:told.push(1)'`, nil))
	j.until(`document.querySelector('sorrel-card').shadowRoot.querySelector('a').getAttribute('href') === '#'`)
}

func TestPartsStandBeforeAndAfterWhatIsTyped(t *testing.T) {
	j := kitPage(
		t,
		900,
		`<sorrel-text-input label="Find"><sorrel-icon slot="lead" name="search"></sorrel-icon><span slot="trail">kg</span></sorrel-text-input>`,
	)
	apart := `(() => { const f = document.querySelector('sorrel-text-input'), i = f.shadowRoot.querySelector('input'), s = getComputedStyle(i), r = i.getBoundingClientRect(), lead = f.children[0].getBoundingClientRect(), trail = f.children[1].getBoundingClientRect(); return lead.right <= r.left + parseFloat(s.paddingLeft) && trail.left >= r.right - parseFloat(s.paddingRight) })()`
	j.until(apart)
	j.run(chromedp.Evaluate(`document.dir = 'rtl'`, nil))
	j.until(
		`(() => { const f = document.querySelector('sorrel-text-input'); return f.children[0].getBoundingClientRect().left > f.children[1].getBoundingClientRect().left })()`,
	)
}

// Read from right to left, sides and arrow keys turn round.
func TestTheKitIsReadFromRightToLeft(t *testing.T) {
	j := kitPage(
		t,
		900,
		`<script>document.dir = 'rtl'</script><sorrel-tabs><sorrel-tab label="One">1</sorrel-tab><sorrel-tab label="Two">2</sorrel-tab><sorrel-tab label="Three">3</sorrel-tab></sorrel-tabs>
<sorrel-navbar><sorrel-text slot="brand">Fernhollow</sorrel-text><sorrel-nav-item to="/">Today</sorrel-nav-item><sorrel-avatar slot="end" name="Ida Fenn"></sorrel-avatar></sorrel-navbar>
<sorrel-switch>Dark</sorrel-switch><sorrel-icon name="arrow-right"></sorrel-icon><sorrel-icon name="leaf"></sorrel-icon><sorrel-drawer heading="Columns" open>x</sorrel-drawer>
<sorrel-table label="B"><sorrel-column slot="columns">Name</sorrel-column><sorrel-column slot="columns" kind="number">Plants</sorrel-column><sorrel-row><sorrel-cell>Lake</sorrel-cell><sorrel-cell>3</sorrel-cell></sorrel-row></sorrel-table>`,
	)
	left := func(what string) string { return what + `.getBoundingClientRect().left` }
	in := func(host, inner string) string {
		return `document.querySelector('` + host + `').shadowRoot.querySelector('` + inner + `')`
	}
	for _, claim := range []string{
		left(`document.querySelector('sorrel-avatar')`) + ` < ` + left(`document.querySelector('sorrel-navbar sorrel-text')`),
		in("sorrel-drawer", ".sheet") + `.getBoundingClientRect().left < 2`,
		left(`document.querySelectorAll('sorrel-column')[1]`) + ` < ` + left(`document.querySelectorAll('sorrel-column')[0]`),
		`getComputedStyle(document.querySelectorAll('sorrel-icon')[0].shadowRoot.querySelector('svg')).transform.startsWith('matrix(-1')`,
		`getComputedStyle(document.querySelectorAll('sorrel-icon')[1].shadowRoot.querySelector('svg')).transform === 'none'`,
	} {
		assert.Equal(t, "true", j.text(`String(`+claim+`)`), claim)
	}
	j.run(chromedp.Evaluate(`document.querySelector('sorrel-drawer').open = false`, nil))
	j.run(chromedp.Evaluate(in("sorrel-tabs", "button")+`.focus()`, nil))
	j.key("ArrowLeft")
	j.until(focused + ` === 'Two'`)
	j.key("ArrowRight")
	j.until(focused + ` === 'One'`)
	j.run(chromedp.Evaluate(`document.dir = 'ltr'`, nil))
	j.key("ArrowRight")
	j.until(focused + ` === 'Two'`)
}

func TestIconsOfOnesOwnAreShownWhereTheyWereUnknown(t *testing.T) {
	j := kitPage(
		t,
		600,
		`<sorrel-icon name="rail" label="Fence"></sorrel-icon><sorrel-icon name="leaf"></sorrel-icon>`,
	)
	inner := `document.querySelector('sorrel-icon').shadowRoot.querySelector('svg').innerHTML`
	assert.NotContains(t, j.text(inner), "M1 2h3")
	j.run(
		chromedp.Evaluate(
			`import('/dist/sorrel.js').then(m => m.addIcons({ rail: '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><path d="M1 2h3"></path></svg>' }))`,
			nil,
		),
	)
	j.until(inner + `.includes('M1 2h3')`)
	j.run(
		chromedp.Evaluate(
			`import('/dist/sorrel.js').then(m => m.addIcons({ rail: '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 20"><path d="M1 2h3"></path></svg>' }))`,
			nil,
		),
	)
	j.until(`(r => r.width === 60 && r.height === 20)(document.querySelector('sorrel-icon').getBoundingClientRect())`)
	assert.Equal(
		t,
		"img Fence",
		j.text(
			`(s => s.getAttribute('role') + ' ' + s.getAttribute('aria-label'))(document.querySelector('sorrel-icon').shadowRoot.querySelector('[role=img]'))`,
		),
	)
}

func TestTheCompactThemeTakesLessRoomInTheLightAndInTheDark(t *testing.T) {
	j := kitPage(
		t,
		900,
		`<div data-theme="light"><sorrel-button>A</sorrel-button></div><div data-theme="compact"><sorrel-button>A</sorrel-button></div><div data-theme="dark compact"><sorrel-button emphasis="strong">A</sorrel-button></div>`,
	)
	height := func(n string) string {
		return j.text(`String(document.querySelectorAll('sorrel-button')[` + n + `].getBoundingClientRect().height)`)
	}
	assert.Equal(t, "40", height("0"))
	assert.Equal(t, "32", height("1"))
	assert.Equal(t, "32", height("2"))
	assert.Equal(
		t,
		"rgb(99, 183, 198)",
		j.text(
			`getComputedStyle(document.querySelectorAll('sorrel-button')[2].shadowRoot.querySelector('button')).backgroundColor`,
		),
		"dark and compact at once",
	)
}
