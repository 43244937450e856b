import { html, css, nothing } from 'lit'
import { property } from 'lit/decorators.js'
import { SorrelElement, define, shared } from '../base.js'
import './icon.js'

/**
 * Rows and columns of records. Built as a grid with table roles, so that any element may stand in a cell.
 * @tag sorrel-table
 * @slot columns - One column element for each column.
 * @slot - Rows.
 * @slot empty - Shown under the head where there are no rows.
 */
@define('sorrel-table')
export class SorrelTable extends SorrelElement {
  static styles = [shared, css`
    :host { display: block; container-type: inline-size; }
    .scroll { overflow-x: auto; border: 1px solid var(--sorrel-color-line); border-radius: var(--sorrel-radius-box); background: var(--sorrel-color-surface); }
    .grid { display: grid; min-width: max-content; }
    .head { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; border-bottom: 1px solid var(--sorrel-color-line-strong); }
    ::slotted(sorrel-row:not(:last-of-type)) { border-bottom: 1px solid var(--sorrel-color-line); }
    :host([stripes]) ::slotted(sorrel-row:nth-of-type(even)) { background: var(--sorrel-color-stripe); }`]
  /** What the table is called for screen readers. @required */
  @property() label = ''
  /** Height of the rows. */
  @property({ reflect: true }) density: 'roomy' | 'tight' = 'roomy'
  /** Every other row tinted. */
  @property({ type: Boolean, reflect: true }) stripes = false
  private lay() {
    const columns = [...this.querySelectorAll<SorrelColumn>(':scope > sorrel-column')]
    const grid = this.renderRoot.querySelector<HTMLElement>('.grid')
    grid?.style.setProperty('grid-template-columns', columns.map(c => (c.width === 'narrow' ? 'max-content' : 'minmax(max-content, 1fr)')).join(' ') || '1fr')
    for (const row of this.querySelectorAll<SorrelRow>(':scope > sorrel-row'))
      [...row.children].forEach((cell, i) => {
        cell.toggleAttribute('data-number', columns[i]?.kind === 'number')
        cell.toggleAttribute('data-tight', this.density === 'tight')
      })
  }
  updated() { this.lay() }
  render() {
    return html`<div class="scroll"><div class="grid" role="table" aria-label=${this.label || nothing}>
      <div class="head" role="row"><slot name="columns" @slotchange=${this.lay}></slot></div><slot @slotchange=${this.lay}></slot></div><slot name="empty"></slot></div>`
  }
}

/**
 * The head of one column.
 * @tag sorrel-column
 * @slot - The column's name.
 */
@define('sorrel-column')
export class SorrelColumn extends SorrelElement {
  static styles = [shared, css`
    :host { display: block; padding: var(--sorrel-space-2) var(--sorrel-space-3); font-size: var(--sorrel-text-s); font-weight: 600; color: var(--sorrel-color-ink-2); }
    :host([kind='number']) { text-align: right; }`]
  /** What stands in it; numbers are set at the right. */
  @property({ reflect: true }) kind: 'text' | 'number' | 'actions' = 'text'
  /** Takes only the room it needs, or its share. */
  @property({ reflect: true }) width: 'share' | 'narrow' = 'share'
  connectedCallback() { super.connectedCallback(); this.setAttribute('role', 'columnheader') }
  render() { return html`<slot></slot>` }
}

/**
 * One record of a table.
 * @tag sorrel-row
 * @slot - Cells, one for each column.
 */
@define('sorrel-row')
export class SorrelRow extends SorrelElement {
  static styles = [shared, css`:host { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; align-items: center; }`]
  /** The record is chosen. */
  @property({ type: Boolean, reflect: true }) selected = false
  connectedCallback() { super.connectedCallback(); this.setAttribute('role', 'row') }
  render() { return html`<slot></slot>` }
}

/**
 * One value of a record.
 * @tag sorrel-cell
 * @slot - The value: text or elements.
 */
@define('sorrel-cell')
export class SorrelCell extends SorrelElement {
  static styles = [shared, css`
    :host { display: flex; align-items: center; gap: var(--sorrel-space-2); padding: var(--sorrel-space-3); min-width: 0; }
    :host([data-number]) { justify-content: flex-end; font-variant-numeric: tabular-nums; }
    :host([data-tight]) { padding: var(--sorrel-space-1) var(--sorrel-space-3); }`]
  connectedCallback() { super.connectedCallback(); this.setAttribute('role', 'cell') }
  render() { return html`<slot></slot>` }
}

/**
 * One number that matters, with its name.
 * @tag sorrel-stat
 */
@define('sorrel-stat')
export class SorrelStat extends SorrelElement {
  static styles = [shared, css`
    :host { display: block; padding: var(--sorrel-space-4); border-radius: var(--sorrel-radius-box); background: var(--sorrel-color-surface); border: 1px solid var(--sorrel-color-line); }
    :host([ground='accent']) { background: var(--sorrel-color-accent-soft); border-color: transparent; }
    .value { font-family: var(--sorrel-font-heading); font-size: var(--sorrel-text-xxl); font-weight: 700; line-height: 1.1; font-variant-numeric: tabular-nums; }
    .label { color: var(--sorrel-color-ink-2); } .note { font-size: var(--sorrel-text-s); color: var(--sorrel-color-ink-2); margin-top: var(--sorrel-space-1); }
    .up { color: var(--sorrel-color-good-ink); } .down { color: var(--sorrel-color-bad-ink); }`]
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
    return html`<div class="label">${this.label}</div><div class="value">${this.value}</div>
      ${this.note ? html`<div class="note ${this.trend}">${this.trend === 'up' ? '↑ ' : this.trend === 'down' ? '↓ ' : ''}${this.note}</div>` : nothing}`
  }
}

/**
 * A few numbers as bars, with a text alternative.
 * @tag sorrel-bars
 */
@define('sorrel-bars')
export class SorrelBars extends SorrelElement {
  static styles = [shared, css`
    :host { display: block; } .plot { display: flex; align-items: flex-end; gap: var(--sorrel-space-2); height: 140px; border-bottom: 1px solid var(--sorrel-color-line-strong); }
    .col { flex: 1; display: flex; flex-direction: column; justify-content: flex-end; height: 100%; text-align: center; font-size: var(--sorrel-text-s); color: var(--sorrel-color-ink-2); }
    svg { display: block; width: 100%; color: var(--sorrel-color-accent); } .names { display: flex; gap: var(--sorrel-space-2); font-size: var(--sorrel-text-s); color: var(--sorrel-color-ink-2); } .names span { flex: 1; text-align: center; }`]
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
    return html`<div role="img" aria-label="${this.label}: ${values.map((v, i) => `${names[i] ?? i + 1} ${v}`).join(', ')}">
      <div class="plot">${values.map(v => html`<div class="col">${v}<svg viewBox="0 0 10 100" preserveAspectRatio="none" height=${Math.round((110 * v) / most)}><rect width="10" height="100" fill="currentColor"/></svg></div>`)}</div>
      <div class="names">${values.map((_, i) => html`<span>${names[i] ?? ''}</span>`)}</div></div>`
  }
}
