import { html, css, nothing } from 'lit'
import { property } from 'lit/decorators.js'
import { SorrelElement, define, safeHref, shared } from '../base.js'
import './icon.js'

const buttonStyles = css`
  :host {
    display: inline-flex;
    vertical-align: middle;
  }
  button {
    --tone: var(--sorrel-color-accent);
    --on-tone: var(--sorrel-color-on-accent);
    --tone-soft: var(--sorrel-color-accent-soft);
    --tone-ink: var(--sorrel-color-accent-ink);
    font: inherit;
    font-weight: var(--sorrel-weight-strong);
    display: inline-flex;
    align-items: center;
    justify-content: center;
    gap: var(--sorrel-space-2);
    border: 1px solid transparent;
    border-radius: var(--sorrel-radius-control);
    cursor: pointer;
    width: 100%;
    font-size: var(--sorrel-text-m);
    line-height: var(--sorrel-leading-heading);
    min-height: var(--sorrel-size-control);
    padding: 0 var(--sorrel-space-4);
    white-space: nowrap;
    transition:
      background-color var(--sorrel-motion-quick) var(--sorrel-motion-ease),
      border-color var(--sorrel-motion-quick) var(--sorrel-motion-ease);
  }
  .danger {
    --tone: var(--sorrel-color-bad);
    --on-tone: var(--sorrel-color-on-bad);
    --tone-soft: var(--sorrel-color-bad-soft);
    --tone-ink: var(--sorrel-color-bad-ink);
  }
  .strong {
    background: var(--tone);
    color: var(--on-tone);
  }
  .strong:hover:not(:disabled) {
    background: color-mix(in oklab, var(--tone) 86%, black);
  }
  .soft {
    background: var(--tone-soft);
    color: var(--tone-ink);
    border-color: color-mix(in oklab, var(--tone) 28%, transparent);
  }
  .soft:hover:not(:disabled) {
    border-color: var(--tone);
  }
  .on {
    box-shadow: inset 0 0 0 2px var(--tone);
  }
  .bare {
    background: transparent;
    color: var(--tone-ink);
  }
  .bare:hover:not(:disabled) {
    background: var(--tone-soft);
  }
  .s {
    min-height: var(--sorrel-size-small);
    padding: 0 var(--sorrel-space-3);
    font-size: var(--sorrel-text-s);
  }
  .l {
    min-height: 48px;
    padding: 0 var(--sorrel-space-5);
    font-size: var(--sorrel-text-l);
  }
  button:disabled {
    opacity: 0.45;
    cursor: not-allowed;
  }
  .spin {
    width: 1em;
    height: 1em;
    border: 2px solid currentColor;
    border-right-color: transparent;
    border-radius: 50%;
    animation: spin 1s linear infinite;
  }
  @keyframes spin {
    to {
      transform: rotate(360deg);
    }
  }
`

/**
 * Starts an action on this screen. One strong button a group, the others soft or bare.
 * @tag sorrel-button
 * @slot - The words on the button.
 * @slot lead - An icon before the words.
 * @slot trail - An icon after the words.
 * @fires sorrel-press - The button was pressed.
 * @csspart control - The native button.
 */
@define('sorrel-button')
export class SorrelButton extends SorrelElement {
  static formAssociated = true
  static styles = [shared, buttonStyles]
  /** How much the button stands out: strong for the one main action of a group. */
  @property({ reflect: true }) emphasis: 'strong' | 'soft' | 'bare' = 'soft'
  /** What the action means for the person's data. */
  @property({ reflect: true }) intent: 'plain' | 'danger' = 'plain'
  /** Height and type size. */
  @property({ reflect: true }) size: 's' | 'm' | 'l' = 'm'
  /** Takes part in a form: submit sends it, reset clears it. */
  @property({ reflect: true }) action: 'none' | 'submit' | 'reset' = 'none'
  /** The route or address that a press leads to. */
  @property() to = ''
  /** Cannot be pressed now. */
  @property({ type: Boolean, reflect: true }) disabled = false
  /** A toggle that is on now. */
  @property({ type: Boolean, reflect: true }) pressed = false
  /** Shows that the action is under way and takes no further press. */
  @property({ type: Boolean, reflect: true }) busy = false
  private internals = this.attachInternals()

  private press() {
    if (this.busy || !this.tell('sorrel-press')) return
    if (this.action === 'submit') this.internals.form?.requestSubmit()
    if (this.action === 'reset') this.internals.form?.reset()
    if (this.to) this.tell('sorrel-go', { to: safeHref(this.to) })
  }
  focus() {
    this.renderRoot.querySelector('button')?.focus()
  }
  render() {
    return html`<button
      part="control"
      type="button"
      class="${this.emphasis} ${this.intent} ${this.size} ${this.pressed ? 'on' : ''}"
      ?disabled=${this.disabled}
      aria-pressed=${this.pressed ? 'true' : nothing}
      aria-busy=${this.busy ? 'true' : nothing}
      @click=${this.press}
    >
      ${this.busy ? html`<span class="spin" aria-hidden="true"></span>` : html`<slot name="lead"></slot>`}<slot
      ></slot><slot name="trail"></slot>
    </button>`
  }
}

/**
 * An action shown by an icon alone; its label is read out and shown on hover.
 * @tag sorrel-icon-button
 * @fires sorrel-press - The button was pressed.
 */
@define('sorrel-icon-button')
export class SorrelIconButton extends SorrelElement {
  static styles = [
    shared,
    buttonStyles,
    css`
      button {
        padding: 0;
        width: 40px;
      }
      .s {
        width: 32px;
        padding: 0;
      }
    `,
  ]
  /** What the button does, in words; required since there is no other text. @required */
  @property() label = ''
  /** The icon's name. @required */
  @property() icon = 'more'
  /** How much the button stands out. */
  @property({ reflect: true }) emphasis: 'soft' | 'bare' = 'bare'
  /** What the action means for the person's data. */
  @property({ reflect: true }) intent: 'plain' | 'danger' = 'plain'
  /** Height. */
  @property({ reflect: true }) size: 's' | 'm' = 'm'
  /** The route or address that a press leads to. */
  @property() to = ''
  /** A toggle that is on now. */
  @property({ type: Boolean, reflect: true }) pressed = false
  /** Cannot be pressed now. */
  @property({ type: Boolean, reflect: true }) disabled = false
  private press() {
    if (!this.tell('sorrel-press')) return
    if (this.to) this.tell('sorrel-go', { to: safeHref(this.to) })
  }
  render() {
    return html`<button
      part="control"
      type="button"
      class="${this.pressed ? 'soft' : this.emphasis} ${this.intent} ${this.size}"
      ?disabled=${this.disabled}
      aria-label=${this.label}
      title=${this.label}
      aria-pressed=${this.pressed ? 'true' : nothing}
      @click=${this.press}
    >
      <sorrel-icon name=${this.icon} size=${this.size}></sorrel-icon>
    </button>`
  }
}

/**
 * Buttons that belong together, in one row with the kit's own gap.
 * @tag sorrel-button-group
 * @slot - Buttons and icon buttons.
 */
@define('sorrel-button-group')
export class SorrelButtonGroup extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: flex;
        flex-wrap: wrap;
        gap: var(--sorrel-space-2);
        align-items: center;
      }
      :host([align='end']) {
        justify-content: flex-end;
      }
      :host([align='spread']) {
        justify-content: space-between;
      }
    `,
  ]
  /** Where the buttons gather. */
  @property({ reflect: true }) align: 'start' | 'end' | 'spread' = 'start'
  /** Whether one of the buttons is on, as with kinds of sorting. */
  @property({ reflect: true }) active: 'none' | 'one' = 'none'
  /** What the group is called for screen readers. */
  @property() label = ''
  connectedCallback() {
    super.connectedCallback()
    if (!this.hasAttribute('role')) this.setAttribute('role', 'group')
  }
  updated() {
    if (this.label) this.setAttribute('aria-label', this.label)
  }
  private press(e: Event) {
    if (this.active === 'none') return
    for (const b of this.children)
      if (b instanceof SorrelButton || b instanceof SorrelIconButton) b.pressed = b === e.target
  }
  render() {
    return html`<slot @sorrel-press=${this.press}></slot>`
  }
}

/**
 * Leads to another place. For actions use a button.
 * @tag sorrel-link
 * @slot - The words of the link.
 */
@define('sorrel-link')
export class SorrelLink extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline;
      }
      a {
        color: var(--sorrel-color-accent-ink);
        text-underline-offset: 3px;
        text-decoration-thickness: 1px;
      }
      :host([tone='quiet']) a {
        color: var(--sorrel-color-ink-2);
      }
      a:hover {
        text-decoration-thickness: 2px;
      }
    `,
  ]
  /** The route or address. @required */
  @property() to = ''
  /** Accent for links that lead on, quiet for secondary ones. */
  @property({ reflect: true }) tone: 'accent' | 'quiet' = 'accent'
  private go(e: Event) {
    if (!this.tell('sorrel-go', { to: safeHref(this.to) })) e.preventDefault()
  }
  render() {
    return html`<a href=${safeHref(this.to)} @click=${this.go}><slot></slot></a>`
  }
}
