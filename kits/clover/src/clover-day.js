// A month of days to choose one from. It speaks of colours by custom properties of its own and
// knows no dark: what follows a team's theme is tied to it from outside.
const sheet = new CSSStyleSheet()
sheet.replaceSync(`
:host {
  display: inline-block;
  font: inherit;
  color: var(--clover-text, #22262B);
}
:host([disabled]) { opacity: 0.6; }
.label { display: block; font-weight: 600; margin-bottom: 4px; }
.month {
  background: var(--clover-background, #FFFFFF);
  border: 1px solid var(--clover-border, #C9CED6);
  border-radius: var(--clover-radius, 10px);
  padding: 8px;
}
.head { display: flex; align-items: center; gap: 8px; padding-bottom: 4px; }
.head b { flex: 1; text-align: center; }
button {
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid transparent;
  border-radius: 6px;
  min-width: 32px;
  min-height: 32px;
  cursor: pointer;
}
:host([size='snug']) button { min-width: 26px; min-height: 26px; }
button:hover, button:focus-visible { border-color: currentColor; }
button[disabled] { opacity: 0.45; cursor: default; }
button[aria-pressed='true'] {
  background: var(--clover-accent, #7A2E8E);
  color: var(--clover-on-accent, #FFFFFF);
}
table { border-collapse: collapse; }
th { font-weight: 400; font-size: 0.85em; color: var(--clover-muted-text, #5D6570); }
td, th { padding: 0; text-align: center; }
`)

const day = text => /^\d{4}-\d{2}-\d{2}$/.test(text ?? '')
const iso = (y, m, d) =>
  `${String(y).padStart(4, '0')}-${String(m + 1).padStart(2, '0')}-${String(d).padStart(2, '0')}`

export class CloverDay extends HTMLElement {
  static observedAttributes = ['label', 'value', 'min', 'max', 'size', 'disabled']
  #root = this.attachShadow({ mode: 'open', delegatesFocus: true })
  #month = ''

  constructor() {
    super()
    this.#root.adoptedStyleSheets = [sheet]
    this.#root.addEventListener('click', e => {
      const button = e.target.closest('button')
      if (!button || button.disabled) return
      if (button.dataset.by) {
        const [y, m] = this.#shown()
        const at = new Date(Date.UTC(y, m + Number(button.dataset.by), 1))
        this.#month = iso(at.getUTCFullYear(), at.getUTCMonth(), 1)
        this.#draw()
      } else this.#choose(button.dataset.day)
    })
    this.#root.addEventListener('keydown', e => {
      const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }[e.key]
      const from = e.target.dataset?.day
      if (!step || !from) return
      e.preventDefault()
      const at = new Date(from + 'T00:00:00Z')
      at.setUTCDate(at.getUTCDate() + step)
      const to = iso(at.getUTCFullYear(), at.getUTCMonth(), at.getUTCDate())
      if (to.slice(0, 7) !== from.slice(0, 7)) {
        this.#month = to
        this.#draw()
      }
      this.#root.querySelector(`[data-day='${to}']`)?.focus()
    })
  }
  connectedCallback() {
    this.#draw()
  }
  attributeChangedCallback(name) {
    if (name === 'value') this.#month = ''
    if (this.isConnected) this.#draw()
  }
  #choose(to) {
    this.value = to
    this.dispatchEvent(new CustomEvent('clover-change', { bubbles: true, composed: true }))
    this.#root.querySelector(`[data-day='${to}']`)?.focus()
  }
  #shown() {
    const from = [this.#month, this.value, this.min].find(day) ?? '2026-09-01'
    return [Number(from.slice(0, 4)), Number(from.slice(5, 7)) - 1]
  }
  #draw() {
    const [y, m] = this.#shown()
    const first = (new Date(Date.UTC(y, m, 1)).getUTCDay() + 6) % 7
    const days = new Date(Date.UTC(y, m + 1, 0)).getUTCDate()
    const cells = []
    for (let i = 0; i < Math.ceil((first + days) / 7) * 7; i++) {
      const n = i - first + 1
      if (n < 1 || n > days) {
        cells.push('<td></td>')
        continue
      }
      const at = iso(y, m, n)
      const out =
        this.disabled || (day(this.min) && at < this.min) || (day(this.max) && at > this.max)
      cells.push(
        `<td><button type="button" data-day="${at}" aria-pressed="${at === this.value}"${out ? ' disabled' : ''}>${n}</button></td>`,
      )
    }
    const rows = []
    for (let i = 0; i < cells.length; i += 7)
      rows.push(`<tr>${cells.slice(i, i + 7).join('')}</tr>`)
    const month = new Intl.DateTimeFormat('en', { month: 'long', year: 'numeric', timeZone: 'UTC' })
    const week = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su'].map(w => `<th>${w}</th>`).join('')
    this.#root.innerHTML = `<span class="label" id="l"></span><div class="month" role="group" aria-labelledby="l">
      <div class="head"><button type="button" data-by="-1" aria-label="The month before">&lsaquo;</button><b aria-live="polite">${month.format(Date.UTC(y, m, 1))}</b><button type="button" data-by="1" aria-label="The next month">&rsaquo;</button></div>
      <table role="presentation"><thead><tr>${week}</tr></thead><tbody>${rows.join('')}</tbody></table></div>`
    const label = this.#root.getElementById('l')
    label.textContent = this.label
    label.hidden = !this.label
  }
}
for (const name of ['label', 'value', 'min', 'max', 'size'])
  Object.defineProperty(CloverDay.prototype, name, {
    get() {
      return this.getAttribute(name) ?? ''
    },
    set(to) {
      if (to == null || to === '') this.removeAttribute(name)
      else this.setAttribute(name, to)
    },
    configurable: true,
    enumerable: true,
  })
Object.defineProperty(CloverDay.prototype, 'disabled', {
  get() {
    return this.hasAttribute('disabled')
  },
  set(to) {
    this.toggleAttribute('disabled', !!to)
  },
  configurable: true,
  enumerable: true,
})
if (!customElements.get('clover-day')) customElements.define('clover-day', CloverDay)
