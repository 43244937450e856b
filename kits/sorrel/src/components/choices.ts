import { autoUpdate, computePosition, flip, offset, size } from '@floating-ui/dom'
import { html, css, nothing } from 'lit'
import { property, query, state } from 'lit/decorators.js'
import { define, shared } from '../base.js'
import { Control, controlStyles } from './form.js'

/** A list written with commas. */
export const listOf = (text: string) =>
  text
    .split(',')
    .map(o => o.trim())
    .filter(Boolean)

const groupStyles = css`
  :host {
    display: block;
  }
  .all {
    border: 0;
    margin: 0;
    padding: 0;
    display: flex;
    flex-direction: column;
    gap: var(--sorrel-space-1);
  }
  :host([layout='across']) .all {
    flex-direction: row;
    flex-wrap: wrap;
    gap: var(--sorrel-space-4);
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
`

/**
 * One choice out of a few, all in view.
 * @tag sorrel-radio-group
 * @fires sorrel-change - Another choice was taken; detail.value is its text.
 */
@define('sorrel-radio-group')
export class SorrelRadioGroup extends Control {
  static styles = [shared, groupStyles]
  /** The choices, separated by commas. @required */
  @property() options = ''
  /** The choice taken. */
  @property() value = ''
  /** One under another or side by side. */
  @property({ reflect: true }) layout: 'down' | 'across' = 'down'
  /** What the group is called where no field names it. */
  @property() label = ''
  focus() {
    ;(
      this.renderRoot.querySelector<HTMLElement>('input:checked') ??
      this.renderRoot.querySelector<HTMLElement>('input')
    )?.focus()
  }
  updated() {
    this.internals.setFormValue(this.value)
  }
  private take(value: string) {
    this.value = value
    this.send(value)
  }
  render() {
    return html`<div
      class="all"
      role="radiogroup"
      aria-label=${this.fieldLabel || this.label || nothing}
      aria-description=${this.fieldHelp || nothing}
      aria-invalid=${this.invalid}
      aria-required=${this.required}
    >
      ${listOf(this.options).map(o => html`<label><input type="radio" name="choice" .checked=${o === this.value} ?disabled=${this.disabled} @change=${() => this.take(o)} />${o}</label>`)}
    </div>`
  }
}

/**
 * Any number of choices out of a few, all in view.
 * @tag sorrel-checkbox-group
 * @fires sorrel-change - The choices changed; detail.value lists them with commas.
 */
@define('sorrel-checkbox-group')
export class SorrelCheckboxGroup extends Control {
  static styles = [shared, groupStyles]
  /** The choices, separated by commas. @required */
  @property() options = ''
  /** The choices taken, separated by commas. */
  @property() value = ''
  /** One under another or side by side. */
  @property({ reflect: true }) layout: 'down' | 'across' = 'down'
  /** What the group is called where no field names it. */
  @property() label = ''
  focus() {
    this.renderRoot.querySelector<HTMLElement>('input')?.focus()
  }
  updated() {
    this.internals.setFormValue(this.value)
  }
  private turn(option: string) {
    const taken = new Set(listOf(this.value))
    if (!taken.delete(option)) taken.add(option)
    this.value = listOf(this.options)
      .filter(o => taken.has(o))
      .join(', ')
    this.send(this.value)
  }
  render() {
    const taken = listOf(this.value)
    return html`<div
      class="all"
      role="group"
      aria-label=${this.fieldLabel || this.label || nothing}
      aria-description=${this.fieldHelp || nothing}
    >
      ${listOf(this.options).map(o => html`<label><input type="checkbox" .checked=${taken.includes(o)} ?disabled=${this.disabled} @change=${() => this.turn(o)} />${o}</label>`)}
    </div>`
  }
}

/**
 * One choice out of a long list, narrowed by typing.
 * @tag sorrel-combobox
 * @fires sorrel-change - Another choice was taken; detail.value is its text.
 */
@define('sorrel-combobox')
export class SorrelCombobox extends Control {
  static styles = [
    shared,
    controlStyles,
    css`
      ul {
        position: absolute;
        z-index: 15;
        margin: 0;
        padding: var(--sorrel-space-1) 0;
        list-style: none;
        overflow: auto;
        background: var(--sorrel-color-surface);
        border: 1px solid var(--sorrel-color-line-strong);
        border-radius: var(--sorrel-radius-control);
        box-shadow: var(--sorrel-shadow-raised);
      }
      li {
        padding: var(--sorrel-space-2) var(--sorrel-space-3);
        cursor: default;
      }
      li[aria-selected='true'] {
        background: var(--sorrel-color-accent-soft);
        color: var(--sorrel-color-accent-ink);
      }
      .none {
        color: var(--sorrel-color-ink-2);
      }
    `,
  ]
  /** The choices, separated by commas. @required */
  @property() options = ''
  /** The choice taken. */
  @property() value = ''
  /** A sample of what to type. */
  @property() placeholder = ''
  /** Height. */
  @property({ reflect: true }) size: 's' | 'm' = 'm'
  /** What the control is called where no field names it. */
  @property() label = ''
  @state() private typed: string | undefined
  @state() private at = -1
  @query('input') private input!: HTMLInputElement
  @query('ul') private list!: HTMLElement | null
  private stop = () => {}
  private get open() {
    return this.typed !== undefined
  }
  private found() {
    const words = (this.typed ?? '').toLowerCase()
    return listOf(this.options).filter(o => o.toLowerCase().includes(words))
  }
  focus() {
    this.input?.focus()
  }
  disconnectedCallback() {
    super.disconnectedCallback()
    this.stop()
  }
  updated(changed: Map<string, unknown>) {
    this.internals.setFormValue(this.value)
    if (!changed.has('typed')) return
    this.stop()
    const { input, list } = this
    if (!list) return
    this.stop = autoUpdate(
      input,
      list,
      () =>
        void computePosition(input, list, {
          placement: 'bottom-start',
          middleware: [
            offset(2),
            flip(),
            size({
              apply: ({ rects, availableHeight }) =>
                void Object.assign(list.style, {
                  width: rects.reference.width + 'px',
                  maxHeight: Math.min(280, Math.max(80, availableHeight - 8)) + 'px',
                }),
            }),
          ],
        }).then(({ x, y }) => Object.assign(list.style, { left: x + 'px', top: y + 'px' })),
    )
  }
  private show(typed: string) {
    this.typed = typed
    this.at = -1
  }
  private hide() {
    this.typed = undefined
    this.at = -1
    this.input.value = this.value
  }
  private take(option: string) {
    this.value = option
    this.hide()
    this.send(option)
  }
  private key(e: KeyboardEvent) {
    const found = this.found()
    const step = { ArrowDown: 1, ArrowUp: -1 }[e.key]
    if (step) {
      e.preventDefault()
      if (!this.open) this.show('')
      else if (found.length) this.at = (this.at + step + found.length) % found.length
    } else if (e.key === 'Enter' && this.open && found[this.at]) {
      e.preventDefault()
      this.take(found[this.at])
    } else if (e.key === 'Escape' && this.open) {
      e.preventDefault()
      e.stopPropagation()
      this.hide()
    }
  }
  render() {
    const found = this.open ? this.found() : []
    return html`<input
        role="combobox"
        autocomplete="off"
        .value=${this.typed ?? this.value}
        placeholder=${this.placeholder || nothing}
        ?disabled=${this.disabled}
        aria-label=${this.fieldLabel || this.label || nothing}
        aria-description=${this.fieldHelp || nothing}
        aria-invalid=${this.invalid}
        aria-required=${this.required}
        aria-expanded=${this.open}
        aria-autocomplete="list"
        aria-controls="list"
        aria-activedescendant=${this.at >= 0 ? 'o' + this.at : nothing}
        @input=${() => this.show(this.input.value)}
        @keydown=${this.key}
        @click=${() => this.open || this.show('')}
        @blur=${() => this.open && this.hide()}
      />
      ${
        this.open
          ? html`<ul
              id="list"
              role="listbox"
              aria-label=${this.fieldLabel || this.label || 'Choices'}
              @pointerdown=${(e: Event) => e.preventDefault()}
            >
              ${found.map((o, i) => html`<li id="o${i}" role="option" aria-selected=${i === this.at} @click=${() => this.take(o)}>${o}</li>`)}
              ${found.length ? nothing : html`<li class="none">Nothing matches</li>`}
            </ul>`
          : nothing
      }`
  }
}

/**
 * A number, with its unit, limits and decimals; money too.
 * @tag sorrel-number-input
 * @fires sorrel-change - The value changed; detail.value is the number as text, empty for none.
 */
@define('sorrel-number-input')
export class SorrelNumberInput extends Control {
  static styles = [
    shared,
    controlStyles,
    css`
      .all {
        display: flex;
        align-items: center;
      }
      input {
        text-align: end;
        font-variant-numeric: tabular-nums;
        min-width: 0;
      }
      .unit {
        padding: 0 var(--sorrel-space-2);
        color: var(--sorrel-color-ink-2);
        white-space: nowrap;
      }
      .lead {
        order: -1;
      }
      .wrong {
        color: var(--sorrel-color-bad-ink);
        font-size: var(--sorrel-text-s);
      }
    `,
  ]
  /** The number, as text; empty is none. */
  @property() value = ''
  /** The least accepted number. */
  @property({ type: Number }) min?: number
  /** The greatest accepted number. */
  @property({ type: Number }) max?: number
  /** By how much the arrows change it. */
  @property({ type: Number }) step = 1
  /** Digits after the point. */
  @property({ reflect: true }) decimals: '0' | '1' | '2' | '3' = '0'
  /** Its unit, after the number. */
  @property() unit = ''
  /** A currency sign before the number. */
  @property({ reflect: true }) money: 'none' | 'euro' | 'pound' | 'dollar' = 'none'
  /** Height. */
  @property({ reflect: true }) size: 's' | 'm' = 'm'
  /** What the control is called where no field names it. */
  @property() label = ''
  @state() private typing = false
  @query('input') private input!: HTMLInputElement
  focus() {
    this.input?.focus()
  }
  updated() {
    this.internals.setFormValue(this.value)
  }
  private get contradiction() {
    return this.min !== undefined && this.max !== undefined && this.min > this.max
      ? 'The least number is above the greatest.'
      : ''
  }
  private fit(n: number) {
    const within = Math.min(this.max ?? Infinity, Math.max(this.min ?? -Infinity, n))
    return String(Number(within.toFixed(Number(this.decimals))))
  }
  private shown() {
    const n = Number(this.value)
    if (this.typing || this.value === '' || Number.isNaN(n)) return this.value
    return n.toLocaleString('en-GB', {
      minimumFractionDigits: Number(this.decimals),
      maximumFractionDigits: Number(this.decimals),
    })
  }
  private take(value: string) {
    this.value = value
    this.send(value)
  }
  private leave() {
    this.typing = false
    const n = Number(this.input.value.replaceAll(',', ''))
    this.take(this.input.value.trim() === '' || Number.isNaN(n) ? '' : this.fit(n))
  }
  private key(e: KeyboardEvent) {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[e.key]
    if (!by || this.disabled) return
    e.preventDefault()
    this.typing = false
    this.take(this.fit((Number(this.value) || 0) + by * this.step))
  }
  render() {
    const sign = { none: '', euro: '€', pound: '£', dollar: '$' }[this.money]
    return html`<div class="all">
        ${sign ? html`<span class="unit lead" aria-hidden="true">${sign}</span>` : nothing}
        <input
          inputmode="decimal"
          role="spinbutton"
          autocomplete="off"
          .value=${this.shown()}
          ?disabled=${this.disabled}
          aria-valuenow=${this.value || nothing}
          aria-valuemin=${this.min ?? nothing}
          aria-valuemax=${this.max ?? nothing}
          aria-label=${this.fieldLabel || this.label || nothing}
          aria-description=${[this.fieldHelp, this.unit].filter(Boolean).join('. ') || nothing}
          aria-invalid=${this.invalid || !!this.contradiction}
          aria-required=${this.required}
          @focus=${() => {
            this.typing = true
          }}
          @change=${this.leave}
          @blur=${this.leave}
          @keydown=${this.key}
        />
        ${this.unit ? html`<span class="unit" aria-hidden="true">${this.unit}</span>` : nothing}
      </div>
      ${this.contradiction ? html`<div class="wrong" role="alert">${this.contradiction}</div>` : nothing}`
  }
}

/**
 * A number, or a range of two, taken by dragging a handle along a line.
 * @tag sorrel-slider
 * @fires sorrel-change - A handle moved; detail.value is the number, or both with a comma.
 */
@define('sorrel-slider')
export class SorrelSlider extends Control {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      .all {
        position: relative;
        height: 28px;
      }
      input {
        position: absolute;
        inset: 0;
        width: 100%;
        margin: 0;
        background: none;
        pointer-events: none;
        accent-color: var(--sorrel-color-accent);
      }
      input:only-of-type {
        pointer-events: auto;
      }
      :host([range]) input {
        appearance: none;
      }
      :host([range]) .all::before {
        content: '';
        position: absolute;
        inset-inline: 0;
        top: 12px;
        height: 4px;
        border-radius: 2px;
        background: var(--sorrel-color-line-strong);
      }
      :host([range]) input::-webkit-slider-thumb {
        appearance: none;
        pointer-events: auto;
        width: 18px;
        height: 18px;
        border-radius: 50%;
        background: var(--sorrel-color-accent);
        border: 2px solid var(--sorrel-color-surface);
        cursor: grab;
      }
      :host([range]) input::-moz-range-thumb {
        pointer-events: auto;
        width: 14px;
        height: 14px;
        border-radius: 50%;
        background: var(--sorrel-color-accent);
        border: 2px solid var(--sorrel-color-surface);
      }
      .marks {
        display: flex;
        justify-content: space-between;
        color: var(--sorrel-color-ink-2);
        font-size: var(--sorrel-text-s);
      }
      output {
        display: block;
        text-align: end;
        line-height: 1;
        font-variant-numeric: tabular-nums;
        font-weight: var(--sorrel-weight-strong);
      }
    `,
  ]
  /** The number; of a range the lower one. */
  @property({ type: Number }) value = 0
  /** Takes a range with an upper handle. */
  @property({ type: Boolean, reflect: true }) range = false
  /** The upper number of a range. */
  @property({ type: Number }) upper = 100
  /** The least number. */
  @property({ type: Number }) min = 0
  /** The greatest number. */
  @property({ type: Number }) max = 100
  /** The distance between two numbers that can be taken. */
  @property({ type: Number }) step = 1
  /** Words below the line, from its start to its end, separated by commas. */
  @property() marks = ''
  /** Its unit. */
  @property() unit = ''
  /** What the control is called where no field names it. */
  @property() label = ''
  focus() {
    this.renderRoot.querySelector('input')?.focus()
  }
  private get text() {
    return this.range ? `${this.value}, ${this.upper}` : String(this.value)
  }
  updated() {
    this.internals.setFormValue(this.text)
  }
  private move(e: Event, upper: boolean) {
    const n = Number((e.target as HTMLInputElement).value)
    // The handles do not pass each other.
    if (upper) this.upper = Math.max(n, this.value)
    else this.value = this.range ? Math.min(n, this.upper) : n
    ;(e.target as HTMLInputElement).value = String(upper ? this.upper : this.value)
    this.send(this.text)
  }
  private handle(n: number, name: string, upper: boolean) {
    return html`<input
      type="range"
      min=${this.min}
      max=${this.max}
      step=${this.step}
      .value=${String(n)}
      ?disabled=${this.disabled}
      aria-label=${name || nothing}
      aria-description=${this.fieldHelp || nothing}
      aria-valuetext=${this.unit ? `${n} ${this.unit}` : nothing}
      @input=${(e: Event) => this.move(e, upper)}
    />`
  }
  render() {
    const name = this.fieldLabel || this.label
    return html`<output aria-hidden="true"
        >${this.range ? `${this.value} – ${this.upper}` : this.value} ${this.unit}</output
      >
      <div class="all">
        ${this.handle(this.value, this.range ? `${name} from` : name, false)}${this.range ? this.handle(this.upper, `${name} to`, true) : nothing}
      </div>
      ${this.marks ? html`<div class="marks" aria-hidden="true">${listOf(this.marks).map(m => html`<span>${m}</span>`)}</div>` : nothing}`
  }
}

/**
 * Two dates, from and to, that keep their order.
 * @tag sorrel-date-range
 * @fires sorrel-change - A date changed; detail.value is both with a comma.
 */
@define('sorrel-date-range')
export class SorrelDateRange extends Control {
  static styles = [
    shared,
    controlStyles,
    css`
      .all {
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        flex-wrap: wrap;
      }
      input {
        flex: 1;
        min-width: 130px;
      }
    `,
  ]
  /** The first day, YYYY-MM-DD. */
  @property() from = ''
  /** The last day, YYYY-MM-DD. */
  @property() to = ''
  /** The earliest day. */
  @property() min = ''
  /** The latest day. */
  @property() max = ''
  /** What the control is called where no field names it. */
  @property() label = ''
  focus() {
    this.renderRoot.querySelector('input')?.focus()
  }
  updated() {
    this.internals.setFormValue(`${this.from}, ${this.to}`)
  }
  private take(which: 'from' | 'to', value: string) {
    this[which] = value
    // A range that is the wrong way round is one day.
    if (this.from && this.to && this.from > this.to) this[which === 'from' ? 'to' : 'from'] = value
    this.send(`${this.from}, ${this.to}`)
  }
  private date(which: 'from' | 'to', min: string, max: string) {
    return html`<input
      type="date"
      .value=${this[which]}
      min=${min || nothing}
      max=${max || nothing}
      ?disabled=${this.disabled}
      aria-label=${`${this.fieldLabel || this.label} ${which}`.trim()}
      aria-description=${this.fieldHelp || nothing}
      aria-invalid=${this.invalid}
      aria-required=${this.required}
      @change=${(e: Event) => this.take(which, (e.target as HTMLInputElement).value)}
    />`
  }
  render() {
    return html`<div
      class="all"
      role="group"
      aria-label=${this.fieldLabel || this.label || nothing}
    >
      ${this.date('from', this.min, this.max)}<span aria-hidden="true">to</span
      >${this.date('to', this.from || this.min, this.max)}
    </div>`
  }
}

/**
 * Takes files from the person's device.
 * @tag sorrel-file-input
 * @fires sorrel-change - Files were chosen; detail.value lists their names with commas.
 */
@define('sorrel-file-input')
export class SorrelFileInput extends Control {
  static styles = [
    shared,
    controlStyles,
    css`
      input {
        padding: var(--sorrel-space-2);
      }
      input::file-selector-button {
        font: inherit;
        margin-inline-end: var(--sorrel-space-3);
        border: 1px solid var(--sorrel-color-line-strong);
        border-radius: var(--sorrel-radius-control);
        background: var(--sorrel-color-accent-soft);
        color: var(--sorrel-color-accent-ink);
        padding: 2px var(--sorrel-space-3);
      }
    `,
  ]
  /** Kinds of files, as the accept attribute of HTML has them. */
  @property() accept = ''
  /** Takes several. */
  @property({ type: Boolean }) several = false
  /** What the control is called where no field names it. */
  @property() label = ''
  @query('input') private input!: HTMLInputElement
  focus() {
    this.input?.focus()
  }
  private chosen() {
    const data = new FormData()
    for (const f of this.input.files ?? []) data.append(this.name || 'file', f)
    this.internals.setFormValue(data)
    this.tell('sorrel-change', { value: [...(this.input.files ?? [])].map(f => f.name).join(', ') })
  }
  render() {
    return html`<input
      type="file"
      accept=${this.accept || nothing}
      ?multiple=${this.several}
      ?disabled=${this.disabled}
      aria-label=${this.fieldLabel || this.label || nothing}
      aria-description=${this.fieldHelp || nothing}
      aria-invalid=${this.invalid}
      aria-required=${this.required}
      @change=${this.chosen}
    />`
  }
}
