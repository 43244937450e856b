import { html, svg, css, nothing } from 'lit'
import { property } from 'lit/decorators.js'
import { SorrelElement, define, shared } from '../base.js'
import { listOf } from './choices.js'

/**
 * The opening of a page: a large heading, words and the first action.
 * @tag sorrel-hero
 * @slot - A sentence or two.
 * @slot actions - The first things to do.
 * @slot picture - A picture beside or behind it.
 */
@define('sorrel-hero')
export class SorrelHero extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: grid;
        grid-template-columns: 1fr;
        gap: var(--sorrel-space-5);
        align-items: center;
        padding: var(--sorrel-space-7) var(--sorrel-space-5);
        border-radius: var(--sorrel-radius-box);
        background: var(--sorrel-color-accent-soft);
        color: var(--sorrel-color-accent-ink);
        container-type: inline-size;
      }
      .all {
        display: grid;
        gap: var(--sorrel-space-5);
        align-items: center;
      }
      @container (min-width: 640px) {
        .all {
          grid-template-columns: 1.2fr 1fr;
        }
        .alone {
          grid-template-columns: 1fr;
        }
      }
      h1 {
        margin: 0 0 var(--sorrel-space-3);
        font-family: var(--sorrel-font-heading);
        font-size: var(--sorrel-text-xxl);
        line-height: 1.1;
      }
      .actions {
        display: flex;
        flex-wrap: wrap;
        gap: var(--sorrel-space-2);
        margin-top: var(--sorrel-space-4);
      }
      :host([align='center']) {
        text-align: center;
      }
      :host([align='center']) .actions {
        justify-content: center;
      }
    `,
  ]
  /** The large words. @required */
  @property() heading = ''
  /** Where the words stand. */
  @property({ reflect: true }) align: 'start' | 'center' = 'start'
  private get pictured() {
    return !!this.querySelector('[slot=picture]')
  }
  render() {
    return html`<div class="all ${this.pictured ? '' : 'alone'}">
      <div>
        <h1>${this.heading}</h1>
        <slot></slot>
        <div class="actions"><slot name="actions"></slot></div>
      </div>
      <slot name="picture" @slotchange=${() => this.requestUpdate()}></slot>
    </div>`
  }
}

/**
 * Pictures side by side in boxes of one shape.
 * @tag sorrel-gallery
 * @slot - Pictures.
 */
@define('sorrel-gallery')
export class SorrelGallery extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: grid;
        gap: var(--sorrel-space-3);
        grid-template-columns: repeat(auto-fill, minmax(min(100%, 220px), 1fr));
      }
      :host([size='s']) {
        grid-template-columns: repeat(auto-fill, minmax(min(100%, 120px), 1fr));
      }
      :host([size='l']) {
        grid-template-columns: repeat(auto-fill, minmax(min(100%, 340px), 1fr));
      }
    `,
  ]
  /** How large the pictures are. */
  @property({ reflect: true }) size: 's' | 'm' | 'l' = 'm'
  /** What the pictures show together. */
  @property() label = ''
  updated() {
    this.setAttribute('role', 'group')
    if (this.label) this.setAttribute('aria-label', this.label)
  }
  render() {
    return html`<slot></slot>`
  }
}

/**
 * Keys of a keyboard.
 * @tag sorrel-key
 */
@define('sorrel-key')
export class SorrelKey extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
        gap: 3px;
      }
      kbd {
        font: inherit;
        font-size: var(--sorrel-text-s);
        padding: 0 6px;
        min-width: 22px;
        text-align: center;
        border: 1px solid var(--sorrel-color-line-strong);
        border-bottom-width: 2px;
        border-radius: 4px;
        background: var(--sorrel-color-surface);
      }
    `,
  ]
  /** The keys pressed together, separated by commas. @required */
  @property() keys = ''
  render() {
    return html`${listOf(this.keys).map(k => html`<kbd>${k}</kbd>`)}`
  }
}

/**
 * Leads past the navigation, shown when it has the focus.
 * @tag sorrel-skip-link
 * @slot - Its words.
 */
@define('sorrel-skip-link')
export class SorrelSkipLink extends SorrelElement {
  static styles = [
    shared,
    css`
      a {
        position: absolute;
        inset-inline-start: -9999px;
      }
      a:focus {
        position: static;
        display: inline-block;
        padding: var(--sorrel-space-2) var(--sorrel-space-4);
        background: var(--sorrel-color-accent);
        color: var(--sorrel-color-on-accent);
      }
      :host([shown]) a {
        position: static;
        display: inline-block;
        padding: var(--sorrel-space-2) var(--sorrel-space-4);
        background: var(--sorrel-color-accent);
        color: var(--sorrel-color-on-accent);
      }
    `,
  ]
  /** The id of the part it leads to. @required */
  @property() to = 'main'
  /** Shown without the focus too, to be looked at. */
  @property({ type: Boolean, reflect: true }) shown = false
  private go(e: Event) {
    e.preventDefault()
    const target = (this.getRootNode() as Document | ShadowRoot).getElementById(this.to)
    if (!target) return
    if (!target.hasAttribute('tabindex')) target.setAttribute('tabindex', '-1')
    target.focus()
  }
  render() {
    return html`<a href="#${this.to}" @click=${this.go}><slot>To the content</slot></a>`
  }
}

/**
 * One or more rows of numbers as lines, with a legend and a table for screen readers.
 * @tag sorrel-lines
 */
@define('sorrel-lines')
export class SorrelLines extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      figure {
        margin: 0;
      }
      .c0 {
        --c: var(--sorrel-color-accent);
      }
      .c1 {
        --c: var(--sorrel-color-info);
      }
      .c2 {
        --c: var(--sorrel-color-warn);
      }
      .c3 {
        --c: var(--sorrel-color-good);
      }
      svg {
        width: 100%;
        height: 160px;
        overflow: visible;
      }
      .legend {
        display: flex;
        flex-wrap: wrap;
        gap: var(--sorrel-space-4);
        font-size: var(--sorrel-text-s);
      }
      .legend span::before {
        content: '';
        display: inline-block;
        width: 14px;
        height: 3px;
        margin-inline-end: 6px;
        vertical-align: middle;
        background: var(--c);
      }
      path {
        fill: none;
        stroke: var(--c);
        stroke-width: 2;
        vector-effect: non-scaling-stroke;
      }
      .axis {
        stroke: var(--sorrel-color-line);
      }
      .names {
        display: flex;
        justify-content: space-between;
        color: var(--sorrel-color-ink-2);
        font-size: var(--sorrel-text-s);
      }
      .out {
        position: absolute;
        width: 1px;
        height: 1px;
        overflow: hidden;
        clip-path: inset(50%);
      }
    `,
  ]
  /** What it shows. @required */
  @property() label = ''
  /** The numbers: rows separated by semicolons, numbers by commas. @required */
  @property() values = ''
  /** What stands below the numbers, separated by commas. */
  @property() names = ''
  /** What the rows are called, separated by commas. */
  @property() rows = ''
  render() {
    const rows = this.values
      .split(';')
      .map(r => listOf(r).map(Number).filter(Number.isFinite))
      .filter(r => r.length)
    const all = rows.flat(),
      least = Math.min(0, ...all),
      most = Math.max(1, ...all)
    const names = listOf(this.names),
      titles = listOf(this.rows)
    const path = (r: number[]) =>
      r
        .map(
          (n, i) =>
            `${i ? 'L' : 'M'}${((100 * i) / Math.max(1, r.length - 1)).toFixed(2)} ${(100 - (100 * (n - least)) / (most - least)).toFixed(2)}`,
        )
        .join('')
    return html`<figure aria-label=${this.label} role="figure">
      <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
        <path class="axis" d="M0 100H100"></path>
        <path class="axis" d="M0 0H100"></path>
        ${rows.map((r, i) => svg`<path class="c${i % 4}" d=${path(r)}></path>`)}
      </svg>
      <div class="names" aria-hidden="true">${names.map(n => html`<span>${n}</span>`)}</div>
      ${titles.length ? html`<div class="legend" aria-hidden="true">${titles.map((t, i) => html`<span class="c${i % 4}">${t}</span>`)}</div>` : nothing}
      <table class="out">
        <caption>
          ${this.label}
        </caption>
        <tbody>
          ${rows.map(
            (r, i) =>
              html`<tr>
                <th scope="row">${titles[i] ?? `Row ${i + 1}`}</th>
                ${r.map((n, j) => html`<td>${names[j] ? names[j] + ': ' : ''}${n}</td>`)}
              </tr>`,
          )}
        </tbody>
      </table>
    </figure>`
  }
}
