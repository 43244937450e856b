// Draws components whose own code is not here: each as a box with its name, what it says and what
// stands in it. The table holds, by tag, a title, a kind (inline, control or block), the names of
// places, and the settings that people read.
const components = {}

const sheet = css => {
  const out = new CSSStyleSheet()
  out.replaceSync(css)
  return out
}
const base = sheet(`
  :host { box-sizing: border-box; border: 1px dashed color-mix(in srgb, currentColor 40%, transparent);
    border-radius: 3px; padding: 4px 8px; min-width: 0; font-family: sans-serif }
  .name { font: 11px/16px sans-serif; opacity: 0.7; margin-inline-end: 6px }
  .says { margin-inline-end: 6px }
  [hidden] { display: none }
`)
const kinds = {
  inline: sheet(':host { display: inline-block; vertical-align: middle }'),
  control: sheet(':host { display: block; border-style: solid; min-height: 34px }'),
  block: sheet(':host { display: block } .name { display: block }'),
}

const outline = (title, kind, places, words) =>
  class extends HTMLElement {
    static observedAttributes = words
    #name = document.createElement('span')
    #says = document.createElement('span')
    constructor() {
      super()
      const root = this.attachShadow({ mode: 'open' })
      root.adoptedStyleSheets = [base, kinds[kind]]
      this.#name.className = 'name'
      this.#name.textContent = title
      this.#says.className = 'says'
      root.append(this.#name, this.#says)
      for (const place of places) {
        const slot = document.createElement('slot')
        slot.name = place
        slot.addEventListener('slotchange', () => this.#tell())
        root.append(slot)
      }
      this.#tell()
    }
    attributeChangedCallback() {
      this.#tell()
    }
    #tell() {
      const own = kind === 'inline' && this.textContent.trim() !== ''
      const says = own ? '' : (words.map(w => this.getAttribute(w)).find(Boolean) ?? '')
      this.#says.textContent = says
      this.#name.hidden = own || (kind === 'inline' && says !== '')
    }
  }

for (const [tag, told] of Object.entries(components))
  if (!customElements.get(tag)) customElements.define(tag, outline(...told))
