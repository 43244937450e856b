import { autoUpdate, computePosition, flip, offset, shift, type Placement } from '@floating-ui/dom'
import { html, css, nothing } from 'lit'
import { property, query, state } from 'lit/decorators.js'
import { Sheet, SorrelElement, define, safeHref, shared } from '../base.js'
import './icon.js'

const floating = css`
  .float {
    position: absolute;
    left: 0;
    top: 0;
    z-index: 15;
    width: max-content;
    max-width: min(320px, 90vw);
    background: var(--sorrel-color-surface);
    color: var(--sorrel-color-ink);
    border: 1px solid var(--sorrel-color-line-strong);
    border-radius: var(--sorrel-radius-box);
    box-shadow: var(--sorrel-shadow-raised);
  }
  [hidden] {
    display: none;
  }
`

/** Keeps a floating box at its anchor until the returned function is called. */
function anchored(anchor: Element, box: HTMLElement, placement: Placement): () => void {
  return autoUpdate(
    anchor,
    box,
    () =>
      void computePosition(anchor, box, {
        placement,
        middleware: [offset(6), flip(), shift({ padding: 6 })],
      }).then(({ x, y }) => Object.assign(box.style, { left: x + 'px', top: y + 'px' })),
  )
}

/**
 * Actions behind one button.
 * @tag sorrel-menu
 * @slot - Menu items.
 * @fires sorrel-close - It was closed.
 */
@define('sorrel-menu')
export class SorrelMenu extends SorrelElement {
  static styles = [
    shared,
    floating,
    css`
      :host {
        display: inline-block;
        position: relative;
      }
      button {
        font: inherit;
        font-weight: var(--sorrel-weight-strong);
        color: inherit;
        display: inline-flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        min-height: var(--sorrel-size-control);
        padding: 0 var(--sorrel-space-3);
        background: none;
        border: 1px solid transparent;
        border-radius: var(--sorrel-radius-control);
        cursor: pointer;
      }
      button:hover {
        background: var(--sorrel-color-accent-soft);
      }
      .float {
        padding: var(--sorrel-space-1) 0;
        min-width: 160px;
      }
    `,
  ]
  /** The words on the button, or its name where it shows an icon alone. @required */
  @property() label = ''
  /** An icon on the button. */
  @property() icon = ''
  /** Shows the icon alone. */
  @property({ type: Boolean, reflect: true }) slim = false
  /** Shown now. */
  @property({ type: Boolean, reflect: true }) open = false
  /** Which edge of the button it keeps to. */
  @property({ reflect: true }) align: 'start' | 'end' = 'start'
  @query('button') private button!: HTMLElement
  @query('.float') private box!: HTMLElement
  private stop = () => {}
  private typed = ''
  private items() {
    return [...this.children].filter(
      (c): c is SorrelMenuItem => c instanceof SorrelMenuItem && !c.disabled,
    )
  }
  focus() {
    this.button?.focus()
  }
  private away = (e: Event) => {
    if (!e.composedPath().includes(this)) this.hide(false)
  }
  updated(changed: Map<string, unknown>) {
    if (!changed.has('open')) return
    this.stop()
    document.removeEventListener('pointerdown', this.away)
    if (this.open) {
      this.stop = anchored(this.button, this.box, `bottom-${this.align}`)
      document.addEventListener('pointerdown', this.away)
    }
  }
  disconnectedCallback() {
    super.disconnectedCallback()
    this.stop()
    document.removeEventListener('pointerdown', this.away)
  }
  private async show(last = false) {
    this.open = true
    await this.updateComplete
    this.items()
      .at(last ? -1 : 0)
      ?.focus()
  }
  private hide(back = true) {
    if (!this.open) return
    this.open = false
    if (back) this.button.focus()
    this.tell('sorrel-close')
  }
  private key(e: KeyboardEvent) {
    if (!this.open) {
      if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
        e.preventDefault()
        void this.show(e.key === 'ArrowUp')
      }
      return
    }
    const items = this.items()
    const at = items.findIndex(i => i.matches(':focus-within, :focus'))
    const to = {
      ArrowDown: (at + 1) % items.length,
      ArrowUp: (at - 1 + items.length) % items.length,
      Home: 0,
      End: items.length - 1,
    }[e.key]
    if (to !== undefined) {
      e.preventDefault()
      items[to]?.focus()
    } else if (e.key === 'Escape') {
      e.stopPropagation()
      this.hide()
    } else if (e.key === 'Tab') this.hide(false)
    else if (e.key.length === 1 && !e.ctrlKey && e.key !== ' ') {
      this.typed += e.key.toLowerCase()
      setTimeout(() => {
        this.typed = ''
      }, 700)
      items.find(i => i.textContent!.trim().toLowerCase().startsWith(this.typed))?.focus()
    }
  }
  render() {
    return html`<button
        type="button"
        aria-haspopup="menu"
        aria-expanded=${this.open}
        aria-label=${this.slim ? this.label : nothing}
        @click=${() => (this.open ? this.hide() : this.show())}
        @keydown=${this.key}
      >
        ${this.icon ? html`<sorrel-icon name=${this.icon}></sorrel-icon>` : nothing}${this.slim ? nothing : this.label}
      </button>
      <div
        class="float"
        role="menu"
        aria-label=${this.label}
        ?hidden=${!this.open}
        @keydown=${this.key}
        @sorrel-press=${() => this.hide()}
      >
        <slot></slot>
      </div>`
  }
}

/**
 * One action in a menu.
 * @tag sorrel-menu-item
 * @slot - Its words.
 * @fires sorrel-press - It was chosen.
 */
@define('sorrel-menu-item')
export class SorrelMenuItem extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      button {
        font: inherit;
        color: inherit;
        width: 100%;
        text-align: start;
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        min-height: var(--sorrel-size-item);
        padding: 0 var(--sorrel-space-4);
        background: none;
        border: 0;
        cursor: pointer;
      }
      button:hover:not(:disabled),
      button:focus {
        background: var(--sorrel-color-accent-soft);
      }
      button:disabled {
        opacity: 0.45;
      }
      :host([intent='danger']) button {
        color: var(--sorrel-color-bad-ink);
      }
    `,
  ]
  /** An icon before the words. */
  @property() icon = ''
  /** The route or address it leads to. */
  @property() to = ''
  /** What it means for the person's data. */
  @property({ reflect: true }) intent: 'plain' | 'danger' = 'plain'
  /** Cannot be chosen now. */
  @property({ type: Boolean, reflect: true }) disabled = false
  focus() {
    this.renderRoot.querySelector('button')?.focus()
  }
  private press() {
    if (this.tell('sorrel-press') && this.to) this.tell('sorrel-go', { to: safeHref(this.to) })
  }
  render() {
    return html`<button
      type="button"
      role="menuitem"
      tabindex="-1"
      ?disabled=${this.disabled}
      @click=${this.press}
    >
      ${this.icon ? html`<sorrel-icon name=${this.icon} size="s"></sorrel-icon>` : nothing}<slot
      ></slot>
    </button>`
  }
}

/**
 * A short word on what is under the pointer or has the focus.
 * @tag sorrel-tooltip
 * @slot - What it is about: one control.
 */
@define('sorrel-tooltip')
export class SorrelTooltip extends SorrelElement {
  static styles = [
    shared,
    floating,
    css`
      :host {
        display: inline-block;
        position: relative;
      }
      .float {
        background: var(--sorrel-color-ink);
        color: var(--sorrel-color-surface);
        border: 0;
        border-radius: var(--sorrel-radius-control);
        padding: var(--sorrel-space-1) var(--sorrel-space-2);
        font-size: var(--sorrel-text-s);
        pointer-events: none;
      }
    `,
  ]
  /** The words. @required */
  @property() text = ''
  /** On which side it shows where there is room. */
  @property({ reflect: true }) side: 'top' | 'bottom' | 'left' | 'right' = 'top'
  @state() private shown = false
  @query('.float') private box!: HTMLElement
  private stop = () => {}
  private key = (e: KeyboardEvent) => {
    if (e.key === 'Escape' && this.shown) {
      e.stopPropagation()
      this.shown = false
    }
  }
  private name = () => this.querySelector('*')?.setAttribute('aria-description', this.text)
  updated(changed: Map<string, unknown>) {
    this.name()
    if (!changed.has('shown')) return
    this.stop()
    if (this.shown) this.stop = anchored(this, this.box, this.side)
  }
  disconnectedCallback() {
    super.disconnectedCallback()
    this.stop()
  }
  render() {
    const on = () => {
      this.shown = true
    }
    const off = () => {
      this.shown = false
    }
    return html`<div
        @pointerenter=${on}
        @pointerleave=${off}
        @focusin=${on}
        @focusout=${off}
        @keydown=${this.key}
      >
        <slot @slotchange=${this.name}></slot>
      </div>
      <div class="float" role="tooltip" ?hidden=${!this.shown}>${this.text}</div>`
  }
}

/**
 * More about something, shown at its button without leaving the place.
 * @tag sorrel-popover
 * @slot - What it shows.
 * @fires sorrel-close - It was closed.
 */
@define('sorrel-popover')
export class SorrelPopover extends SorrelElement {
  static styles = [
    shared,
    floating,
    css`
      :host {
        display: inline-block;
        position: relative;
      }
      .float {
        padding: var(--sorrel-space-4);
      }
      button {
        font: inherit;
        font-weight: var(--sorrel-weight-strong);
        color: var(--sorrel-color-accent-ink);
        min-height: var(--sorrel-size-control);
        padding: 0 var(--sorrel-space-3);
        background: none;
        border: 0;
        border-radius: var(--sorrel-radius-control);
        cursor: pointer;
        text-decoration: underline;
        text-underline-offset: 3px;
      }
    `,
  ]
  /** The words on the button. @required */
  @property() label = ''
  /** Shown now. */
  @property({ type: Boolean, reflect: true }) open = false
  /** On which side it shows where there is room. */
  @property({ reflect: true }) side: 'top' | 'bottom' = 'bottom'
  @query('button') private button!: HTMLElement
  @query('.float') private box!: HTMLElement
  private stop = () => {}
  private away = (e: Event) => {
    if (!e.composedPath().includes(this)) this.hide(false)
  }
  focus() {
    this.button?.focus()
  }
  updated(changed: Map<string, unknown>) {
    if (!changed.has('open')) return
    this.stop()
    document.removeEventListener('pointerdown', this.away)
    if (this.open) {
      this.stop = anchored(this.button, this.box, `${this.side}-start`)
      document.addEventListener('pointerdown', this.away)
    }
  }
  disconnectedCallback() {
    super.disconnectedCallback()
    this.stop()
    document.removeEventListener('pointerdown', this.away)
  }
  private hide(back = true) {
    if (!this.open) return
    this.open = false
    if (back) this.button.focus()
    this.tell('sorrel-close')
  }
  private key(e: KeyboardEvent) {
    if (e.key === 'Escape' && this.open) {
      e.stopPropagation()
      this.hide()
    }
  }
  render() {
    return html`<div @keydown=${this.key}>
      <button
        type="button"
        aria-expanded=${this.open}
        aria-controls="box"
        @click=${() => {
          if (this.open) this.hide()
          else this.open = true
        }}
      >
        ${this.label}
      </button>
      <div class="float" id="box" role="group" aria-label=${this.label} ?hidden=${!this.open}>
        <slot></slot>
      </div>
    </div>`
  }
}

/**
 * A sheet at an edge of the screen for a side task.
 * @tag sorrel-drawer
 * @slot - What it holds.
 * @slot actions - The buttons at its foot; the main one last.
 * @fires sorrel-close - It was closed.
 */
@define('sorrel-drawer')
export class SorrelDrawer extends Sheet {
  static styles = [
    shared,
    css`
      :host {
        display: none;
      }
      :host([open]) {
        display: block;
        position: fixed;
        inset: 0;
        z-index: 20;
        background: color-mix(in oklab, black 45%, transparent);
      }
      .sheet {
        position: absolute;
        top: 0;
        bottom: 0;
        inset-inline-end: 0;
        width: min(400px, 90%);
        display: flex;
        flex-direction: column;
        background: var(--sorrel-color-surface);
        padding: var(--sorrel-space-5);
        box-shadow: var(--sorrel-shadow-raised);
      }
      :host([edge='start']) .sheet {
        inset-inline: 0 auto;
      }
      .head {
        display: flex;
        justify-content: space-between;
        align-items: start;
        gap: var(--sorrel-space-3);
      }
      h2 {
        margin: 0 0 var(--sorrel-space-3);
        font-family: var(--sorrel-font-heading);
        font-size: var(--sorrel-text-l);
      }
      .body {
        flex: 1;
        overflow: auto;
      }
      .actions {
        display: flex;
        justify-content: flex-end;
        gap: var(--sorrel-space-2);
        margin-top: var(--sorrel-space-4);
      }
      .shut {
        background: none;
        border: 0;
        color: inherit;
        width: 40px;
        height: 40px;
        cursor: pointer;
        margin: calc(-1 * var(--sorrel-space-2));
      }
    `,
  ]
  /** Its title. @required */
  @property() heading = ''
  /** Shown now. */
  @property({ type: Boolean, reflect: true }) open = false
  /** The edge it comes from. */
  @property({ reflect: true }) edge: 'start' | 'end' = 'end'
  private key(e: KeyboardEvent) {
    if (e.key === 'Escape') {
      e.stopPropagation()
      this.close()
    }
  }
  /** The edges of the sheet pass the focus on to its other end. */
  private round(last: boolean) {
    const stops = [
      ...this.querySelectorAll<HTMLElement>(
        'sorrel-button, sorrel-icon-button, sorrel-text-input, sorrel-select, sorrel-checkbox, sorrel-switch, a[href]',
      ),
    ]
    ;(last
      ? (stops.at(-1) ?? this.renderRoot.querySelector<HTMLElement>('.shut'))
      : this.renderRoot.querySelector<HTMLElement>('.shut')
    )?.focus()
  }
  render() {
    return html`<span tabindex=${this.open ? 0 : -1} @focus=${() => this.round(true)}></span>
      <div
        class="sheet"
        role="dialog"
        aria-modal="true"
        aria-labelledby="title"
        tabindex="-1"
        @keydown=${this.key}
      >
        <div class="head">
          <h2 id="title">${this.heading}</h2>
          <button class="shut" type="button" aria-label="Close" @click=${this.close}>
            <sorrel-icon name="close"></sorrel-icon>
          </button>
        </div>
        <div class="body"><slot></slot></div>
        <div class="actions"><slot name="actions"></slot></div>
      </div>
      <span tabindex=${this.open ? 0 : -1} @focus=${() => this.round(false)}></span>`
  }
}

/**
 * Says what was just done, and goes by itself.
 * @tag sorrel-toast
 * @slot - What was done, with which value.
 * @slot actions - What can be done about it, such as taking it back.
 * @fires sorrel-close - It went or was closed.
 */
@define('sorrel-toast')
export class SorrelToast extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: none;
      }
      :host([open]) {
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-3);
        width: fit-content;
        max-width: 100%;
        padding: var(--sorrel-space-3) var(--sorrel-space-4);
        border-radius: var(--sorrel-radius-box);
        background: var(--sorrel-color-ink);
        color: var(--sorrel-color-surface);
        box-shadow: var(--sorrel-shadow-raised);
      }
      button {
        background: none;
        border: 0;
        color: inherit;
        width: 32px;
        height: 32px;
        cursor: pointer;
      }
    `,
  ]
  /** Shown now. */
  @property({ type: Boolean, reflect: true }) open = false
  /** Seconds until it goes; 0 stays. It waits while the pointer or the focus is on it. */
  @property({ type: Number }) seconds = 6
  private timer = 0
  private held = false
  private wait() {
    clearTimeout(this.timer)
    if (this.open && this.seconds > 0 && !this.held && !this.closest('[data-still]'))
      this.timer = window.setTimeout(() => this.close(), this.seconds * 1000)
  }
  private hold(on: boolean) {
    this.held = on
    this.wait()
  }
  updated(changed: Map<string, unknown>) {
    if (changed.has('open') || changed.has('seconds')) this.wait()
  }
  disconnectedCallback() {
    super.disconnectedCallback()
    clearTimeout(this.timer)
  }
  private close() {
    this.open = false
    this.tell('sorrel-close')
  }
  render() {
    return html`<div
        role="status"
        @pointerenter=${() => this.hold(true)}
        @pointerleave=${() => this.hold(false)}
        @focusin=${() => this.hold(true)}
        @focusout=${() => this.hold(false)}
      >
        <slot></slot>
      </div>
      <slot name="actions"></slot
      ><button type="button" aria-label="Close" @click=${this.close}>
        <sorrel-icon name="close" size="s"></sorrel-icon>
      </button>`
  }
}
