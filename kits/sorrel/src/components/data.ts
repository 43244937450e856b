import { html, css, nothing } from 'lit'
import { property, state } from 'lit/decorators.js'
import { SorrelElement, define, shared } from '../base.js'
import './icon.js'

/**
 * Rows and columns of records. Built as a grid with table roles, so that any element may stand in a cell.
 * Heads of columns that sort put the rows in order by themselves, unless sorrel-sort is prevented.
 * @tag sorrel-table
 * @slot columns - One column element for each column.
 * @slot - Rows.
 * @slot empty - Shown under the head where there are no rows.
 * @fires sorrel-sort - A head was pressed; detail has the column's index and the order.
 * @fires sorrel-select - Rows were chosen or left; detail has the indexes of those chosen.
 * @csspart scroll - The frame that scrolls.
 * @csspart head - The line of column heads.
 */
@define('sorrel-table')
export class SorrelTable extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        container-type: inline-size;
      }
      .scroll {
        overflow-x: auto;
        border: 1px solid var(--sorrel-color-line);
        border-radius: var(--sorrel-radius-box);
        background: var(--sorrel-color-surface);
      }
      :host([head='stays']) .scroll {
        overflow-y: auto;
        max-height: 440px;
      }
      .grid {
        display: grid;
        min-width: max-content;
      }
      .head {
        display: grid;
        grid-template-columns: subgrid;
        grid-column: 1 / -1;
        align-items: center;
        border-bottom: 1px solid var(--sorrel-color-line-strong);
        background: var(--sorrel-color-surface);
      }
      :host([head='stays']) .head {
        position: sticky;
        top: 0;
        z-index: 1;
      }
      .all {
        padding-inline-start: var(--sorrel-space-3);
      }
      input {
        width: 16px;
        height: 16px;
        margin: 0;
        accent-color: var(--sorrel-color-accent);
      }
      ::slotted(sorrel-row:not(:last-of-type)) {
        border-bottom: 1px solid var(--sorrel-color-line);
      }
      :host([stripes]) ::slotted(sorrel-row:nth-of-type(even)) {
        background: var(--sorrel-color-stripe);
      }
    `,
  ]
  /** What the table is called for screen readers. @required */
  @property() label = ''
  /** Height of the rows. */
  @property({ reflect: true }) density: 'roomy' | 'tight' = 'roomy'
  /** Every other row tinted. */
  @property({ type: Boolean, reflect: true }) stripes = false
  /** Whether rows can be chosen, and how many. */
  @property({ reflect: true }) selection: 'none' | 'one' | 'many' = 'none'
  /** Whether the head stays in view while long tables scroll in a frame of their own. */
  @property({ reflect: true }) head: 'moves' | 'stays' = 'moves'
  @state() private chosen = 0
  private rows() {
    return [...this.querySelectorAll<SorrelRow>(':scope > sorrel-row')]
  }
  private columns() {
    return [...this.querySelectorAll<SorrelColumn>(':scope > sorrel-column')]
  }
  private lay() {
    const columns = this.columns()
    const grid = this.renderRoot.querySelector<HTMLElement>('.grid')
    const widths = columns.map(c =>
      c.width === 'narrow' ? 'max-content' : 'minmax(max-content, 1fr)',
    )
    if (this.selection !== 'none') widths.unshift('max-content')
    grid?.style.setProperty('grid-template-columns', widths.join(' ') || '1fr')
    for (const row of this.rows()) {
      row.pick = this.selection
      ;[...row.children].forEach((cell, i) => {
        cell.toggleAttribute('data-number', columns[i]?.kind === 'number')
        cell.toggleAttribute('data-tight', this.density === 'tight')
      })
    }
    this.count()
  }
  private count() {
    this.chosen = this.rows().filter(r => r.selected).length
  }
  private sort(e: Event) {
    const column = e.target as SorrelColumn
    const columns = this.columns()
    const order = column.sort === 'up' ? 'down' : 'up'
    e.stopPropagation()
    if (!this.tell('sorrel-sort', { column: columns.indexOf(column), order })) return
    for (const c of columns) if (c.sort !== 'off') c.sort = c === column ? order : 'none'
    const value = (row: SorrelRow) =>
      row.children[columns.indexOf(column)]?.textContent?.trim() ?? ''
    const number = (text: string) => Number(text.replace(/[^0-9.+-]/g, ''))
    const compare =
      column.kind === 'number'
        ? (a: string, b: string) => number(a) - number(b)
        : new Intl.Collator(undefined, { numeric: true }).compare
    // Sorting is stable: what was in order before stays so among equals.
    const sorted = this.rows()
      .map((row, at) => ({ row, at, value: value(row) }))
      .sort((a, b) => (order === 'up' ? 1 : -1) * compare(a.value, b.value) || a.at - b.at)
    for (const { row } of sorted) this.append(row)
  }
  private select(e: Event) {
    e.stopPropagation()
    const rows = this.rows()
    if (this.selection === 'one') for (const r of rows) if (r !== e.target) r.selected = false
    this.report()
  }
  private all(e: Event) {
    for (const r of this.rows()) r.selected = (e.target as HTMLInputElement).checked
    this.report()
  }
  private report() {
    this.count()
    this.tell('sorrel-select', { rows: this.rows().flatMap((r, i) => (r.selected ? [i] : [])) })
  }
  updated(changed: Map<string, unknown>) {
    if (!(changed.size === 1 && changed.has('chosen'))) this.lay()
  }
  render() {
    const rows = this.rows().length
    return html`<div
      class="scroll"
      part="scroll"
      role=${this.head === 'stays' ? 'region' : nothing}
      aria-label=${this.head === 'stays' ? this.label || 'Table' : nothing}
      tabindex=${this.head === 'stays' ? '0' : nothing}
    >
      <div
        class="grid"
        role="table"
        aria-label=${this.label || nothing}
        @sorrel-head=${this.sort}
        @sorrel-pick=${this.select}
      >
        <div class="head" part="head" role="row">
          ${
            this.selection === 'none'
              ? nothing
              : html`<span class="all" role="columnheader"
                  >${
                    this.selection === 'many'
                      ? html`<input
                          type="checkbox"
                          aria-label="Choose all"
                          .checked=${rows > 0 && this.chosen === rows}
                          .indeterminate=${this.chosen > 0 && this.chosen < rows}
                          @change=${this.all}
                        />`
                      : nothing
                  }</span
                >`
          }<slot name="columns" @slotchange=${this.lay}></slot>
        </div>
        <slot @slotchange=${this.lay}></slot>
      </div>
      <slot name="empty"></slot>
    </div>`
  }
}

/**
 * The head of one column.
 * @tag sorrel-column
 * @slot - The column's name.
 */
@define('sorrel-column')
export class SorrelColumn extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        padding: var(--sorrel-space-2) var(--sorrel-space-3);
        font-size: var(--sorrel-text-s);
        font-weight: var(--sorrel-weight-strong);
        color: var(--sorrel-color-ink-2);
      }
      :host([kind='number']) {
        text-align: end;
      }
      button {
        font: inherit;
        color: inherit;
        background: none;
        border: 0;
        padding: 0;
        cursor: pointer;
        display: inline-flex;
        align-items: center;
        gap: var(--sorrel-space-1);
        min-height: 24px;
      }
      button:hover {
        color: var(--sorrel-color-ink);
      }
      .way {
        width: 1em;
        text-align: center;
      }
      .none {
        opacity: 0.55;
      }
    `,
  ]
  /** What stands in it; numbers are set at the end. */
  @property({ reflect: true }) kind: 'text' | 'number' | 'actions' = 'text'
  /** Takes only the room it needs, or its share. */
  @property({ reflect: true }) width: 'share' | 'narrow' = 'share'
  /** Whether its head sorts the rows: off; not by it now; by it, upwards or downwards. */
  @property({ reflect: true }) sort: 'off' | 'none' | 'up' | 'down' = 'off'
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'columnheader')
  }
  updated() {
    if (this.sort === 'off') this.removeAttribute('aria-sort')
    else
      this.setAttribute(
        'aria-sort',
        { none: 'none', up: 'ascending', down: 'descending' }[this.sort],
      )
  }
  render() {
    if (this.sort === 'off') return html`<slot></slot>`
    return html`<button @click=${() => this.tell('sorrel-head')}>
      <slot></slot
      ><span class="way ${this.sort}" aria-hidden="true"
        >${{ none: '↕', up: '↑', down: '↓' }[this.sort]}</span
      >
    </button>`
  }
}

/**
 * One record of a table.
 * @tag sorrel-row
 * @slot - Cells, one for each column.
 */
@define('sorrel-row')
export class SorrelRow extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: grid;
        grid-template-columns: subgrid;
        grid-column: 1 / -1;
        align-items: center;
      }
      :host([selected]) {
        background: var(--sorrel-color-accent-soft) !important;
      }
      .pick {
        padding-inline-start: var(--sorrel-space-3);
      }
      input {
        width: 16px;
        height: 16px;
        margin: 0;
        display: block;
        accent-color: var(--sorrel-color-accent);
      }
    `,
  ]
  /** The record is chosen. */
  @property({ type: Boolean, reflect: true }) selected = false
  /** How its table lets rows be chosen. @internal */
  @state() pick: 'none' | 'one' | 'many' = 'none'
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'row')
  }
  private change(e: Event) {
    this.selected = (e.target as HTMLInputElement).checked
    this.tell('sorrel-pick')
  }
  updated() {
    if (this.pick === 'none') this.removeAttribute('aria-selected')
    else this.setAttribute('aria-selected', String(this.selected))
  }
  render() {
    const name = this.firstElementChild?.textContent?.trim() || 'this row'
    return html`${this.pick === 'none' ? nothing : html`<span class="pick" role="cell"><input type=${this.pick === 'one' ? 'radio' : 'checkbox'} aria-label="Choose ${name}" .checked=${this.selected} @change=${this.change} /></span>`}<slot
      ></slot>`
  }
}

/**
 * One value of a record.
 * @tag sorrel-cell
 * @slot - The value: text or elements.
 */
@define('sorrel-cell')
export class SorrelCell extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        padding: var(--sorrel-space-3);
        min-width: 0;
      }
      :host([data-number]) {
        justify-content: flex-end;
        font-variant-numeric: tabular-nums;
      }
      :host([data-tight]) {
        padding: var(--sorrel-space-1) var(--sorrel-space-3);
      }
    `,
  ]
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'cell')
  }
  render() {
    return html`<slot></slot>`
  }
}

/**
 * One number that matters, with its name.
 * @tag sorrel-stat
 */
@define('sorrel-stat')
export class SorrelStat extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        padding: var(--sorrel-space-4);
        border-radius: var(--sorrel-radius-box);
        background: var(--sorrel-color-surface);
        border: 1px solid var(--sorrel-color-line);
      }
      :host([ground='accent']) {
        background: var(--sorrel-color-accent-soft);
        border-color: transparent;
      }
      .value {
        font-family: var(--sorrel-font-heading);
        font-size: var(--sorrel-text-xxl);
        font-weight: var(--sorrel-weight-heavy);
        line-height: 1.1;
        font-variant-numeric: tabular-nums;
      }
      .label {
        color: var(--sorrel-color-ink-2);
      }
      .note {
        font-size: var(--sorrel-text-s);
        color: var(--sorrel-color-ink-2);
        margin-top: var(--sorrel-space-1);
      }
      .up {
        color: var(--sorrel-color-good-ink);
      }
      .down {
        color: var(--sorrel-color-bad-ink);
      }
    `,
  ]
  /** The number's name. @required */
  @property() label = ''
  /** The number as shown. @required */
  @property() value = ''
  /** A word on where it comes from or goes. */
  @property() note = ''
  /** Which way it moves. */
  @property({ reflect: true }) trend: 'none' | 'up' | 'down' = 'none'
  /** Its ground. */
  @property({ reflect: true }) ground: 'plain' | 'accent' = 'plain'
  render() {
    return html`<div class="label">${this.label}</div>
      <div class="value">${this.value}</div>
      ${this.note ? html`<div class="note ${this.trend}">${this.trend === 'up' ? '↑ ' : this.trend === 'down' ? '↓ ' : ''}${this.note}</div>` : nothing}`
  }
}

/**
 * A few numbers as bars, with a text alternative.
 * @tag sorrel-bars
 */
@define('sorrel-bars')
export class SorrelBars extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      .plot {
        display: flex;
        align-items: flex-end;
        gap: var(--sorrel-space-2);
        height: 140px;
        border-bottom: 1px solid var(--sorrel-color-line-strong);
      }
      .col {
        flex: 1;
        display: flex;
        flex-direction: column;
        justify-content: flex-end;
        height: 100%;
        text-align: center;
        font-size: var(--sorrel-text-s);
        color: var(--sorrel-color-ink-2);
      }
      svg {
        display: block;
        width: 100%;
        color: var(--sorrel-color-accent);
      }
      .names {
        display: flex;
        gap: var(--sorrel-space-2);
        font-size: var(--sorrel-text-s);
        color: var(--sorrel-color-ink-2);
      }
      .names span {
        flex: 1;
        text-align: center;
      }
    `,
  ]
  /** What the bars show. @required */
  @property() label = ''
  /** The numbers, separated by commas. @required */
  @property() values = ''
  /** Names of the bars, separated by commas. */
  @property() names = ''
  render() {
    const values = this.values.split(',').map(Number).filter(Number.isFinite)
    const names = this.names.split(',').map(n => n.trim())
    const most = Math.max(1, ...values)
    return html`<div
      role="img"
      aria-label="${this.label}: ${values.map((v, i) => `${names[i] ?? i + 1} ${v}`).join(', ')}"
    >
      <div class="plot">
        ${values.map(
          v =>
            html`<div class="col">
              ${v}<svg
                viewBox="0 0 10 100"
                preserveAspectRatio="none"
                height=${Math.round((110 * v) / most)}
              >
                <rect width="10" height="100" fill="currentColor" />
              </svg>
            </div>`,
        )}
      </div>
      <div class="names">${values.map((_, i) => html`<span>${names[i] ?? ''}</span>`)}</div>
    </div>`
  }
}
