// The times of a day to choose one from. It speaks of colours by custom properties of its own.
const sheet = new CSSStyleSheet()
sheet.replaceSync(`
:host {
  display: block;
  font: inherit;
  color: var(--campion-text, #22262B);
}
:host([disabled]) { opacity: 0.6; }
.label { display: block; font-weight: 600; margin-bottom: 4px; }
.times { display: grid; grid-template-columns: repeat(auto-fill, minmax(64px, 1fr)); gap: 4px; }
button {
  font: inherit;
  color: inherit;
  background: var(--campion-background, #FFFFFF);
  border: 1px solid var(--campion-border, #C9CED6);
  border-radius: var(--campion-radius, 6px);
  min-height: 32px;
  cursor: pointer;
}
button:hover, button:focus-visible { border-color: currentColor; }
button[aria-checked='true'] {
  background: var(--campion-accent, #1F5F6B);
  color: var(--campion-on-accent, #FFFFFF);
}
`)

const steps = { hour: 60, half: 30, quarter: 15 }
const two = n => String(n).padStart(2, '0')

export class CampionHours extends HTMLElement {
  static observedAttributes = ['label', 'value', 'from', 'to', 'every', 'disabled']
  #root = this.attachShadow({ mode: 'open' })
  constructor() {
    super()
    this.#root.adoptedStyleSheets = [sheet]
    this.#root.addEventListener('click', e => {
      const time = e.target.closest?.('button')?.dataset.time
      if (time && !this.disabled) this.#choose(time)
    })
    this.#root.addEventListener('keydown', e => {
      const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[e.key]
      const all = this.#times()
      const at = all.indexOf(e.target.dataset?.time)
      if (!by || at < 0) return
      e.preventDefault()
      this.#choose(all[(at + by + all.length) % all.length])
    })
  }
  connectedCallback() {
    this.#draw()
  }
  attributeChangedCallback() {
    if (this.isConnected) this.#draw()
  }
  #choose(time) {
    this.value = time
    this.dispatchEvent(new CustomEvent('campion-change', { bubbles: true, composed: true }))
    this.#root.querySelector(`[data-time='${time}']`)?.focus()
  }
  #times() {
    const step = steps[this.every] ?? steps.hour
    const out = []
    for (let at = this.from * 60; at <= this.to * 60; at += step)
      out.push(`${two(Math.floor(at / 60))}:${two(at % 60)}`)
    return out
  }
  #draw() {
    const chosen = this.value
    const all = this.#times()
    // One stop for Tab: at what is chosen, or at the first.
    const stop = all.includes(chosen) ? chosen : all[0]
    const times = all.map(
      at =>
        `<button type="button" role="radio" data-time="${at}" aria-checked="${at === chosen}" tabindex="${at === stop ? 0 : -1}"${this.disabled ? ' disabled' : ''}>${at}</button>`,
    )
    this.#root.innerHTML = `<span class="label" id="l"></span><div class="times" role="radiogroup" aria-labelledby="l">${times.join('')}</div>`
    const label = this.#root.getElementById('l')
    label.textContent = this.label
    label.hidden = !this.label
  }
}

const reflect = (name, read, usual) =>
  Object.defineProperty(CampionHours.prototype, name, {
    get() {
      const is = this.getAttribute(name)
      return is == null ? usual : read(is)
    },
    set(to) {
      if (to == null || to === '') this.removeAttribute(name)
      else this.setAttribute(name, to)
    },
    configurable: true,
    enumerable: true,
  })
reflect('label', String, '')
reflect('value', String, '')
reflect('every', String, 'hour')
reflect('from', Number, 8)
reflect('to', Number, 18)
Object.defineProperty(CampionHours.prototype, 'disabled', {
  get() {
    return this.hasAttribute('disabled')
  },
  set(to) {
    this.toggleAttribute('disabled', Boolean(to))
  },
  configurable: true,
  enumerable: true,
})
if (!customElements.get('campion-hours')) customElements.define('campion-hours', CampionHours)
