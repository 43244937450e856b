import { LitElement, css, type CSSResultGroup } from 'lit'

/** Styles every Sorrel element shares: box model, focus ring, reduced motion. */
export const shared = css`
  :host { box-sizing: border-box; font-family: var(--sorrel-font-text); color: var(--sorrel-color-ink); }
  :host([hidden]) { display: none !important; }
  *, *::before, *::after { box-sizing: border-box; }
  :focus-visible { outline: 2px solid var(--sorrel-color-focus); outline-offset: 2px; }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { transition: none !important; animation: none !important; } }
`

/** Base of all Sorrel elements. */
export class SorrelElement extends LitElement {
  static styles: CSSResultGroup = shared

  /** Dispatches a bubbling, composed event, the only kind Sorrel elements send. */
  protected tell<T>(name: string, detail?: T): boolean {
    return this.dispatchEvent(new CustomEvent(name, { detail, bubbles: true, composed: true, cancelable: true }))
  }
}

/** Registers an element once per document: loading the kit twice must not throw. */
export function define(tag: string) {
  return (ctor: CustomElementConstructor) => { if (!customElements.get(tag)) customElements.define(tag, ctor) }
}

/** Only these schemes may stand in a link; anything else becomes an inert address. */
export function safeHref(href: string): string {
  const trimmed = href.trim()
  return /^(https?:|mailto:|tel:|[/#?.]|[^:]*$)/i.test(trimmed) ? trimmed : '#'
}
