import { LitElement, css, type CSSResultGroup } from 'lit'

/** Styles every Sorrel element shares: box model, focus ring, reduced motion. */
export const shared = css`
  :host {
    box-sizing: border-box;
    font-family: var(--sorrel-font-text);
    color: var(--sorrel-color-ink);
  }
  :host([hidden]) {
    display: none !important;
  }
  *,
  *::before,
  *::after {
    box-sizing: border-box;
  }
  :focus-visible {
    outline: 2px solid var(--sorrel-color-focus);
    outline-offset: 2px;
  }
  @media (prefers-reduced-motion: reduce) {
    *,
    *::before,
    *::after {
      transition: none !important;
      animation: none !important;
    }
  }
`

/** Base of all Sorrel elements. */
export class SorrelElement extends LitElement {
  static styles: CSSResultGroup = shared

  /** Dispatches a bubbling, composed event, the only kind Sorrel elements send. */
  protected tell<T>(name: string, detail?: T): boolean {
    return this.dispatchEvent(
      new CustomEvent(name, { detail, bubbles: true, composed: true, cancelable: true }),
    )
  }
}

/** Base of what lies over everything else: when it opens, its sheet takes the focus,
 * and when it closes, what had it before gets it back. */
export abstract class Sheet extends SorrelElement {
  abstract open: boolean
  private opener: Element | null = null
  updated(changed: Map<string, unknown>) {
    if (!changed.has('open')) return
    // In a still picture (a tile, a line-up) it must not take the focus from the page round it.
    if (this.open && !this.closest('[data-still]')) {
      this.opener = (this.getRootNode() as Document | ShadowRoot).activeElement
      this.renderRoot.querySelector<HTMLElement>('.sheet')?.focus()
    } else if (this.opener instanceof HTMLElement) this.opener.focus()
  }
  protected close() {
    this.open = false
    this.tell('sorrel-close')
  }
}

/** Registers an element once per document: loading the kit twice must not throw. */
export function define(tag: string) {
  return (ctor: CustomElementConstructor) => {
    if (!customElements.get(tag)) customElements.define(tag, ctor)
  }
}

/** Which way an arrow key goes along a line of things: 1 on, -1 back, by the
 * direction in which the page is read. */
export function along(e: KeyboardEvent, host: Element): 1 | -1 | undefined {
  const right = getComputedStyle(host).direction === 'rtl' ? -1 : 1
  return e.key === 'ArrowRight' ? right : e.key === 'ArrowLeft' ? (-right as 1 | -1) : undefined
}

/** Only these schemes may stand in a link; anything else becomes an inert address. */
export function safeHref(href: string): string {
  const trimmed = href.trim()
  return /^(https?:|mailto:|tel:|[/#?.]|[^:]*$)/i.test(trimmed) ? trimmed : '#'
}
