import { html, css, nothing } from 'lit'
import { property, query, state } from 'lit/decorators.js'
import { SorrelElement, define, shared } from '../base.js'
import './icon.js'

export const controlStyles = css`
  :host {
    display: block;
  }
  input,
  select,
  textarea {
    font: inherit;
    width: 100%;
    min-height: var(--sorrel-size-control);
    padding: 0 var(--sorrel-space-3);
    color: inherit;
    background: var(--sorrel-color-surface);
    border: 1px solid var(--sorrel-color-line-strong);
    border-radius: var(--sorrel-radius-control);
  }
  textarea {
    padding: var(--sorrel-space-2) var(--sorrel-space-3);
    min-height: 88px;
    resize: vertical;
  }
  :host([size='s']) input,
  :host([size='s']) select {
    min-height: var(--sorrel-size-small);
  }
  input:disabled,
  select:disabled,
  textarea:disabled {
    opacity: 0.5;
  }
  [aria-invalid='true'] {
    border-color: var(--sorrel-color-bad);
  }
  ::placeholder {
    color: var(--sorrel-color-ink-2);
    opacity: 1;
  }
`

/** What a field tells the control inside it. */
export interface Labelled {
  fieldLabel: string
  fieldHelp: string
  invalid: boolean
  required: boolean
}

export abstract class Control extends SorrelElement implements Labelled {
  static formAssociated = true
  protected internals = this.attachInternals()
  /** The name under which the form sends the value. */
  @property() name = ''
  /** Cannot be changed now. */
  @property({ type: Boolean, reflect: true }) disabled = false
  /** Must be filled in. */
  @property({ type: Boolean, reflect: true }) required = false
  /** @internal */ @state() fieldLabel = ''
  /** @internal */ @state() fieldHelp = ''
  /** @internal */ @state() invalid = false
  protected send(value: string | null) {
    this.internals.setFormValue(value)
    this.tell('sorrel-change', { value })
  }
}

/**
 * Label, help and error round one control.
 * @tag sorrel-field
 * @slot - One control.
 */
@define('sorrel-field')
export class SorrelField extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      .label {
        display: block;
        font-weight: var(--sorrel-weight-strong);
        margin-bottom: var(--sorrel-space-1);
        cursor: default;
      }
      :host([layout='side']) .all {
        display: grid;
        grid-template-columns: 160px 1fr;
        gap: var(--sorrel-space-3);
        align-items: baseline;
      }
      .mark {
        color: var(--sorrel-color-bad-ink);
      }
      .help {
        color: var(--sorrel-color-ink-2);
        font-size: var(--sorrel-text-s);
        margin-top: var(--sorrel-space-1);
      }
      .error {
        color: var(--sorrel-color-bad-ink);
        font-size: var(--sorrel-text-s);
        margin-top: var(--sorrel-space-1);
      }
    `,
  ]
  /** The words that name the control. @required */
  @property() label = ''
  /** A hint under the control. */
  @property() help = ''
  /** What is wrong with the value; empty when nothing is. */
  @property() error = ''
  /** Marks the field as required. */
  @property({ type: Boolean, reflect: true }) required = false
  /** Label above the control or at its side. */
  @property({ reflect: true }) layout: 'above' | 'side' = 'above'
  private control() {
    return this.querySelector<HTMLElement & Labelled>('*')
  }
  private sync = () => {
    const c = this.control()
    if (!c) return
    c.fieldLabel = this.label
    c.fieldHelp = [this.error, this.help].filter(Boolean).join('. ')
    c.invalid = !!this.error
    if (this.required) c.required = true
  }
  updated() {
    this.sync()
  }
  render() {
    return html`<div class="all">
      <span class="label" @click=${() => this.control()?.focus()}
        >${this.label}${this.required ? html`<span class="mark" aria-hidden="true"> *</span>` : nothing}</span
      >
      <div>
        <slot @slotchange=${this.sync}></slot>
        ${this.error ? html`<div class="error" role="alert">${this.error}</div>` : nothing}${this.help ? html`<div class="help">${this.help}</div>` : nothing}
      </div>
    </div>`
  }
}

/**
 * One line of typed text, also a date, a number, a search or a secret.
 * @tag sorrel-text-input
 * @slot lead - An icon or a word before what is typed.
 * @slot trail - An icon, a unit or a small button after it.
 * @csspart control - The native field.
 * @fires sorrel-change - The value changed; detail.value is the text.
 */
@define('sorrel-text-input')
export class SorrelTextInput extends Control {
  static styles = [
    shared,
    controlStyles,
    css`
      .all {
        position: relative;
        display: flex;
        align-items: center;
      }
      .part {
        position: absolute;
        display: flex;
        align-items: center;
        color: var(--sorrel-color-ink-2);
        pointer-events: none;
      }
      .lead {
        inset-inline-start: var(--sorrel-space-3);
      }
      .trail {
        inset-inline-end: var(--sorrel-space-3);
      }
      .part.trail ::slotted(sorrel-icon-button) {
        pointer-events: auto;
      }
      .has-lead input {
        padding-inline-start: calc(var(--sorrel-space-5) + var(--sorrel-space-4));
      }
      .has-trail input {
        padding-inline-end: calc(var(--sorrel-space-5) + var(--sorrel-space-4));
      }
    `,
  ]
  /** What is typed. */
  @property({ reflect: true }) kind: 'text' | 'search' | 'email' | 'date' | 'number' | 'secret' =
    'text'
  /** The text in it. */
  @property() value = ''
  /** A sample of what to type. */
  @property() placeholder = ''
  /** Height. */
  @property({ reflect: true }) size: 's' | 'm' = 'm'
  /** What the control is called where no field names it. */
  @property() label = ''
  /** The least accepted number or date. */
  @property() min = ''
  /** The greatest accepted number or date. */
  @property() max = ''
  @query('input') private input!: HTMLInputElement
  focus() {
    this.input?.focus()
  }
  formResetCallback() {
    this.value = this.getAttribute('value') ?? ''
  }
  updated() {
    this.internals.setFormValue(this.value)
  }
  render() {
    const has = (slot: string) => !!this.querySelector(`:scope > [slot="${slot}"]`)
    return html`<div
      class="all ${has('lead') ? 'has-lead' : ''} ${has('trail') ? 'has-trail' : ''}"
    >
      <span class="part lead"
        ><slot name="lead" @slotchange=${() => this.requestUpdate()}></slot
      ></span>
      <input
        part="control"
        type=${this.kind === 'secret' ? 'password' : this.kind}
        .value=${this.value}
        placeholder=${this.placeholder || nothing}
        ?disabled=${this.disabled}
        min=${this.min || nothing}
        max=${this.max || nothing}
        aria-label=${this.fieldLabel || this.label || nothing}
        aria-description=${this.fieldHelp || nothing}
        aria-invalid=${this.invalid}
        aria-required=${this.required}
        @input=${() => {
          this.value = this.input.value
          this.send(this.value)
        }}
      /><span class="part trail"
        ><slot name="trail" @slotchange=${() => this.requestUpdate()}></slot
      ></span>
    </div>`
  }
}

/**
 * Several lines of typed text.
 * @tag sorrel-text-area
 * @fires sorrel-change - The value changed; detail.value is the text.
 */
@define('sorrel-text-area')
export class SorrelTextArea extends Control {
  static styles = [shared, controlStyles]
  /** The text in it. */
  @property() value = ''
  /** A sample of what to type. */
  @property() placeholder = ''
  /** What the control is called where no field names it. */
  @property() label = ''
  /** Lines shown. */
  @property({ type: Number }) rows = 4
  @query('textarea') private area!: HTMLTextAreaElement
  focus() {
    this.area?.focus()
  }
  updated() {
    this.internals.setFormValue(this.value)
  }
  render() {
    return html`<textarea
      .value=${this.value}
      rows=${this.rows}
      placeholder=${this.placeholder || nothing}
      ?disabled=${this.disabled}
      aria-label=${this.fieldLabel || this.label || nothing}
      aria-description=${this.fieldHelp || nothing}
      aria-invalid=${this.invalid}
      aria-required=${this.required}
      @input=${() => {
        this.value = this.area.value
        this.send(this.value)
      }}
    ></textarea>`
  }
}

/**
 * One choice out of a short list.
 * @tag sorrel-select
 * @fires sorrel-change - Another choice was taken; detail.value is its text.
 */
@define('sorrel-select')
export class SorrelSelect extends Control {
  static styles = [shared, controlStyles]
  /** The choices, separated by commas. @required */
  @property() options = ''
  /** The choice taken. */
  @property() value = ''
  /** Shown while nothing is chosen. */
  @property() placeholder = ''
  /** Height. */
  @property({ reflect: true }) size: 's' | 'm' = 'm'
  /** What the control is called where no field names it. */
  @property() label = ''
  @query('select') private select!: HTMLSelectElement
  focus() {
    this.select?.focus()
  }
  updated() {
    this.internals.setFormValue(this.value)
  }
  render() {
    const list = this.options
      .split(',')
      .map(o => o.trim())
      .filter(Boolean)
    return html`<select
      ?disabled=${this.disabled}
      aria-label=${this.fieldLabel || this.label || nothing}
      aria-description=${this.fieldHelp || nothing}
      aria-invalid=${this.invalid}
      aria-required=${this.required}
      @change=${() => {
        this.value = this.select.value
        this.send(this.value)
      }}
    >
      ${this.placeholder || !this.value ? html`<option value="" ?selected=${!this.value}>${this.placeholder}</option>` : nothing}
      ${list.map(o => html`<option ?selected=${o === this.value}>${o}</option>`)}
    </select>`
  }
}

/**
 * Ticks one thing, on its own or among others.
 * @tag sorrel-checkbox
 * @slot - The words beside the box.
 * @fires sorrel-change - It was ticked or unticked; detail.value is "on" or null.
 */
@define('sorrel-checkbox')
export class SorrelCheckbox extends Control {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      label {
        display: inline-flex;
        gap: var(--sorrel-space-2);
        align-items: center;
        min-height: 28px;
        cursor: pointer;
      }
      input {
        width: 18px;
        height: 18px;
        accent-color: var(--sorrel-color-accent);
        margin: 0;
      }
    `,
  ]
  /** Ticked. */
  @property({ type: Boolean, reflect: true }) checked = false
  @query('input') private box!: HTMLInputElement
  focus() {
    this.box?.focus()
  }
  updated() {
    this.internals.setFormValue(this.checked ? 'on' : null)
  }
  render() {
    return html`<label
      ><input
        type="checkbox"
        .checked=${this.checked}
        ?disabled=${this.disabled}
        aria-label=${this.fieldLabel || nothing}
        @change=${() => {
          this.checked = this.box.checked
          this.send(this.checked ? 'on' : null)
        }} /><slot></slot
    ></label>`
  }
}

/**
 * Turns a setting on or off at once.
 * @tag sorrel-switch
 * @slot - The words beside the switch.
 * @fires sorrel-change - It was turned; detail.value is "on" or null.
 */
@define('sorrel-switch')
export class SorrelSwitch extends Control {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      button {
        font: inherit;
        color: inherit;
        background: none;
        border: 0;
        padding: 0;
        display: inline-flex;
        align-items: center;
        gap: var(--sorrel-space-3);
        min-height: var(--sorrel-size-small);
        cursor: pointer;
        text-align: start;
      }
      .track {
        width: 40px;
        height: 22px;
        border-radius: 11px;
        background: var(--sorrel-color-line-strong);
        position: relative;
        flex: none;
        transition: background-color var(--sorrel-motion-quick) var(--sorrel-motion-ease);
      }
      .track::after {
        content: '';
        position: absolute;
        width: 16px;
        height: 16px;
        top: 3px;
        inset-inline-start: 3px;
        border-radius: 50%;
        background: var(--sorrel-color-surface);
        transition: inset-inline-start var(--sorrel-motion-quick) var(--sorrel-motion-ease);
      }
      [aria-checked='true'] .track {
        background: var(--sorrel-color-accent);
      }
      [aria-checked='true'] .track::after {
        inset-inline-start: 21px;
      }
    `,
  ]
  /** Turned on. */
  @property({ type: Boolean, reflect: true }) on = false
  focus() {
    this.renderRoot.querySelector('button')?.focus()
  }
  updated() {
    this.internals.setFormValue(this.on ? 'on' : null)
  }
  render() {
    return html`<button
      type="button"
      role="switch"
      aria-checked=${this.on}
      ?disabled=${this.disabled}
      aria-label=${this.fieldLabel || nothing}
      @click=${() => {
        this.on = !this.on
        this.send(this.on ? 'on' : null)
      }}
    >
      <span class="track"></span><slot></slot>
    </button>`
  }
}

/**
 * Controls that are sent together.
 * @tag sorrel-form
 * @slot - Fields in order.
 * @slot actions - The buttons at its end.
 * @fires sorrel-submit - The form was sent; detail holds the values by name.
 */
@define('sorrel-form')
export class SorrelForm extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        max-width: 720px;
      }
      :host([width='full']) {
        max-width: none;
      }
      form {
        display: flex;
        flex-direction: column;
        gap: var(--sorrel-space-4);
      }
      .actions {
        display: flex;
        gap: var(--sorrel-space-2);
      }
      :host([actions='end']) .actions {
        justify-content: flex-end;
      }
    `,
  ]
  /** How wide it may grow. */
  @property({ reflect: true }) width: 'reading' | 'full' = 'reading'
  /** Where its buttons gather. */
  @property({ reflect: true }) actions: 'start' | 'end' = 'start'
  /** What the form is called for screen readers. */
  @property() label = ''
  /** Sends the form, as its own button would. */
  requestSubmit() {
    const values: Record<string, string> = {}
    for (const c of this.querySelectorAll<
      HTMLElement & { name: string; value?: string; checked?: boolean; on?: boolean }
    >('*'))
      if ('name' in c && c.name) values[c.name] = c.value ?? String(c.checked ?? c.on ?? '')
    this.tell('sorrel-submit', values)
  }
  connectedCallback() {
    super.connectedCallback()
    this.addEventListener('sorrel-press', this.pressed)
  }
  // A button's own form is the document's, not this shadow root's, so a submit button is met here.
  private pressed = (e: Event) => {
    if ((e.target as HTMLElement).getAttribute('action') === 'submit') {
      e.preventDefault()
      this.requestSubmit()
    }
  }
  render() {
    return html`<form
      aria-label=${this.label || nothing}
      @submit=${(e: Event) => {
        e.preventDefault()
        this.requestSubmit()
      }}
    >
      <slot></slot>
      <div class="actions"><slot name="actions"></slot></div>
    </form>`
  }
}
