import { html, css, nothing } from 'lit'
import { property, state } from 'lit/decorators.js'
import { SorrelElement, define, safeHref, shared } from '../base.js'
import './icon.js'

/**
 * Things one under another, each on a line.
 * @tag sorrel-list
 * @slot - List items.
 */
@define('sorrel-list')
export class SorrelList extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      :host([lines]) ::slotted(*:not(:last-child)) {
        border-bottom: 1px solid var(--sorrel-color-line);
      }
    `,
  ]
  /** What the list is called for screen readers. */
  @property() label = ''
  /** Lines between the items. */
  @property({ type: Boolean, reflect: true }) lines = false
  updated() {
    this.setAttribute('role', 'list')
    if (this.label) this.setAttribute('aria-label', this.label)
  }
  render() {
    return html`<slot></slot>`
  }
}

/**
 * One thing in a list.
 * @tag sorrel-list-item
 * @slot - Its words.
 * @slot lead - A picture, avatar or icon before them.
 * @slot trail - A chip, number or button after them.
 */
@define('sorrel-list-item')
export class SorrelListItem extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-3);
        padding: var(--sorrel-space-2) 0;
        min-height: 44px;
      }
      .words {
        flex: 1;
        min-width: 0;
      }
      .note {
        color: var(--sorrel-color-ink-2);
        font-size: var(--sorrel-text-s);
      }
      a {
        color: inherit;
        font-weight: var(--sorrel-weight-strong);
        text-underline-offset: 3px;
      }
    `,
  ]
  /** A quieter line under the words. */
  @property() note = ''
  /** The route or address it leads to. */
  @property() to = ''
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'listitem')
  }
  private go(e: Event) {
    if (!this.tell('sorrel-go', { to: safeHref(this.to) })) e.preventDefault()
  }
  render() {
    return html`<slot name="lead"></slot>
      <div class="words">
        ${this.to ? html`<a href=${safeHref(this.to)} @click=${this.go}><slot></slot></a>` : html`<slot></slot>`}${this.note ? html`<div class="note">${this.note}</div>` : nothing}
      </div>
      <slot name="trail"></slot>`
  }
}

/**
 * Names and values of one thing.
 * @tag sorrel-facts
 * @slot - Facts.
 */
@define('sorrel-facts')
export class SorrelFacts extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: grid;
        gap: var(--sorrel-space-3);
      }
      :host([layout='across']) {
        grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
      }
    `,
  ]
  /** One under another or side by side. */
  @property({ reflect: true }) layout: 'down' | 'across' = 'down'
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'list')
  }
  render() {
    return html`<slot></slot>`
  }
}

/**
 * One name with its value.
 * @tag sorrel-fact
 * @slot - The value where it is more than words.
 */
@define('sorrel-fact')
export class SorrelFact extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      .name {
        color: var(--sorrel-color-ink-2);
        font-size: var(--sorrel-text-s);
      }
      .value {
        font-weight: var(--sorrel-weight-strong);
      }
    `,
  ]
  /** What it is. @required */
  @property() name = ''
  /** Its value. */
  @property() value = ''
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'listitem')
  }
  render() {
    return html`<div class="name">${this.name}</div>
      <div class="value">${this.value}<slot></slot></div>`
  }
}

/**
 * Where one is in a task of several parts.
 * @tag sorrel-steps
 * @slot - Steps in order.
 */
@define('sorrel-steps')
export class SorrelSteps extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: flex;
        gap: var(--sorrel-space-4);
        flex-wrap: wrap;
      }
      :host([layout='down']) {
        flex-direction: column;
      }
    `,
  ]
  /** The step being done, from 1. */
  @property({ type: Number }) current = 1
  /** Side by side or one under another. */
  @property({ reflect: true }) layout: 'across' | 'down' = 'across'
  private sync = () =>
    [...this.children].forEach((c, i) => {
      if (c instanceof SorrelStep) {
        c.number = i + 1
        c.state = i + 1 < this.current ? 'done' : i + 1 === this.current ? 'now' : 'later'
      }
    })
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'list')
  }
  updated() {
    this.sync()
  }
  render() {
    return html`<slot @slotchange=${this.sync}></slot>`
  }
}

/**
 * One part of a task.
 * @tag sorrel-step
 * @slot - What is done in it.
 */
@define('sorrel-step')
export class SorrelStep extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        color: var(--sorrel-color-ink-2);
      }
      .number {
        width: 26px;
        height: 26px;
        border-radius: 50%;
        display: inline-flex;
        align-items: center;
        justify-content: center;
        border: 1px solid var(--sorrel-color-line-strong);
        font-size: var(--sorrel-text-s);
        font-weight: var(--sorrel-weight-heavy);
        flex: none;
      }
      .now {
        background: var(--sorrel-color-accent);
        color: var(--sorrel-color-on-accent);
        border-color: transparent;
      }
      .done {
        background: var(--sorrel-color-accent-soft);
        color: var(--sorrel-color-accent-ink);
        border-color: transparent;
      }
      .words.now,
      .words.done {
        background: none;
      }
      .words.now {
        color: var(--sorrel-color-ink);
        font-weight: var(--sorrel-weight-heavy);
      }
    `,
  ]
  /** @internal */ @state() number = 1
  /** @internal */ @state() state: 'done' | 'now' | 'later' = 'later'
  updated() {
    this.setAttribute('role', 'listitem')
    if (this.state === 'now') this.setAttribute('aria-current', 'step')
    else this.removeAttribute('aria-current')
  }
  render() {
    return html`<span class="number ${this.state}"
        >${this.state === 'done' ? html`<sorrel-icon name="check" size="s" label="done"></sorrel-icon>` : this.number}</span
      ><span class="words ${this.state}"><slot></slot></span>`
  }
}

/**
 * How far something has come.
 * @tag sorrel-progress
 */
@define('sorrel-progress')
export class SorrelProgress extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        --tone: var(--sorrel-color-accent);
      }
      :host([tone='good']) {
        --tone: var(--sorrel-color-good);
      }
      :host([tone='warn']) {
        --tone: var(--sorrel-color-warn);
      }
      :host([tone='bad']) {
        --tone: var(--sorrel-color-bad);
      }
      .words {
        display: flex;
        justify-content: space-between;
        font-size: var(--sorrel-text-s);
        margin-bottom: var(--sorrel-space-1);
        font-variant-numeric: tabular-nums;
      }
      .track {
        height: 8px;
        border-radius: 4px;
        background: var(--sorrel-color-line);
        overflow: hidden;
      }
      .done {
        height: 100%;
        background: var(--tone);
        border-radius: 4px;
        transition: width 0.2s;
      }
      .running .done {
        width: 40% !important;
        animation: run 1.4s ease-in-out infinite;
      }
      @keyframes run {
        from {
          margin-inline-start: -40%;
        }
        to {
          margin-inline-start: 100%;
        }
      }
      :host([shape='round']) {
        display: inline-block;
      }
      svg {
        width: 64px;
        height: 64px;
        transform: rotate(-90deg);
        display: block;
      }
      circle {
        fill: none;
        stroke-width: 7;
        stroke: var(--sorrel-color-line);
      }
      .arc {
        stroke: var(--tone);
      }
      .middle {
        position: absolute;
        inset: 0;
        display: flex;
        align-items: center;
        justify-content: center;
        font-size: var(--sorrel-text-s);
        font-weight: var(--sorrel-weight-heavy);
      }
      .dial {
        position: relative;
        width: 64px;
      }
    `,
  ]
  /** What comes along. @required */
  @property() label = ''
  /** How far it is, from 0 to 100. */
  @property({ type: Number }) value = 0
  /** How far is not known. */
  @property({ type: Boolean, reflect: true }) running = false
  /** Its colour by meaning. */
  @property({ reflect: true }) tone: 'plain' | 'good' | 'warn' | 'bad' = 'plain'
  /** A line or a dial. */
  @property({ reflect: true }) shape: 'line' | 'round' = 'line'
  // Set from code: a strict policy for contents drops style attributes.
  updated() {
    this.renderRoot
      .querySelector<HTMLElement>('.done')
      ?.style.setProperty('width', `${Math.min(100, Math.max(0, this.value || 0))}%`)
  }
  render() {
    const n = Math.min(100, Math.max(0, this.value || 0))
    const now = this.running ? nothing : n
    if (this.shape === 'round') {
      return html`<div
        class="dial"
        role="progressbar"
        aria-label=${this.label}
        aria-valuenow=${now}
        aria-valuemin="0"
        aria-valuemax="100"
      >
        <svg viewBox="0 0 64 64" aria-hidden="true">
          <circle cx="32" cy="32" r="28"></circle>
          <circle
            class="arc"
            cx="32"
            cy="32"
            r="28"
            pathLength="100"
            stroke-dasharray="${this.running ? 25 : n} 100"
          ></circle></svg
        ><span class="middle" aria-hidden="true">${this.running ? '' : `${Math.round(n)} %`}</span>
      </div>`
    }
    return html`<div class="words" aria-hidden="true">
        <span>${this.label}</span><span>${this.running ? '' : `${Math.round(n)} %`}</span>
      </div>
      <div
        class="track ${this.running ? 'running' : ''}"
        role="progressbar"
        aria-label=${this.label}
        aria-valuenow=${now}
        aria-valuemin="0"
        aria-valuemax="100"
      >
        <div class="done"></div>
      </div>`
  }
}

/**
 * A small number at the corner of something.
 * @tag sorrel-badge
 * @slot - What it stands on: an avatar, an icon, a button.
 */
@define('sorrel-badge')
export class SorrelBadge extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
        position: relative;
      }
      .count {
        position: absolute;
        inset-inline-end: -6px;
        top: -6px;
        min-width: 18px;
        height: 18px;
        padding: 0 5px;
        border-radius: 9px;
        background: var(--sorrel-color-bad);
        color: var(--sorrel-color-on-bad);
        font-size: 12px;
        line-height: 18px;
        text-align: center;
        font-weight: var(--sorrel-weight-heavy);
        font-variant-numeric: tabular-nums;
      }
      :host([tone='accent']) .count {
        background: var(--sorrel-color-accent);
        color: var(--sorrel-color-on-accent);
      }
    `,
  ]
  /** The number; none shows nothing. */
  @property({ type: Number }) count = 0
  /** The greatest number written out; more is shown with a plus. */
  @property({ type: Number }) most = 99
  /** What is counted, for screen readers. @required */
  @property() label = ''
  /** Its colour. */
  @property({ reflect: true }) tone: 'alarm' | 'accent' = 'alarm'
  render() {
    const text = this.count > this.most ? `${this.most}+` : String(this.count)
    return html`<slot></slot
      >${this.count > 0 ? html`<span class="count" role="status" aria-label="${this.count} ${this.label}">${text}</span>` : nothing}`
  }
}

/**
 * Several people, overlapping.
 * @tag sorrel-avatar-group
 * @slot - Avatars.
 */
@define('sorrel-avatar-group')
export class SorrelAvatarGroup extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
        align-items: center;
      }
      ::slotted(*) {
        border: 2px solid var(--sorrel-color-surface);
      }
      ::slotted(*:not(:first-child)) {
        margin-inline-start: -10px;
      }
      ::slotted([data-over]) {
        display: none !important;
      }
      .more {
        margin-inline-start: var(--sorrel-space-2);
        color: var(--sorrel-color-ink-2);
        font-size: var(--sorrel-text-s);
      }
    `,
  ]
  /** Who they are together, for screen readers. */
  @property() label = ''
  /** How many are shown; of the others the number is. */
  @property({ type: Number }) most = 4
  @state() private over = 0
  private sync = () => {
    const all = [...this.children]
    all.forEach((c, i) => c.toggleAttribute('data-over', i >= this.most))
    this.over = Math.max(0, all.length - this.most)
  }
  updated(changed: Map<string, unknown>) {
    this.setAttribute('role', 'group')
    if (this.label) this.setAttribute('aria-label', this.label)
    if (changed.has('most')) this.sync()
  }
  render() {
    return html`<slot @slotchange=${this.sync}></slot
      >${this.over ? html`<span class="more">+${this.over}</span>` : nothing}`
  }
}

/**
 * Holds the place of something that is being fetched.
 * @tag sorrel-skeleton
 */
@define('sorrel-skeleton')
export class SorrelSkeleton extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      .bar {
        height: 14px;
        border-radius: 4px;
        background: var(--sorrel-color-line);
        margin-bottom: var(--sorrel-space-2);
        animation: breathe 1.6s ease-in-out infinite;
      }
      .bar:last-child {
        width: 60%;
        margin: 0;
      }
      :host([shape='box']) .bar {
        height: 120px;
        width: 100%;
        border-radius: var(--sorrel-radius-box);
      }
      :host([shape='round']) .bar {
        width: 40px;
        height: 40px;
        border-radius: 50%;
      }
      @keyframes breathe {
        50% {
          opacity: 0.45;
        }
      }
    `,
  ]
  /** What it stands for. */
  @property({ reflect: true }) shape: 'text' | 'box' | 'round' = 'text'
  /** Lines of text. */
  @property({ type: Number }) lines = 3
  render() {
    return html`<div role="status" aria-label="Loading">
      ${Array.from({ length: this.shape === 'text' ? Math.min(20, Math.max(1, this.lines)) : 1 }, () => html`<div class="bar"></div>`)}
    </div>`
  }
}

/**
 * Filters of one list, folded away where there is little room.
 * @tag sorrel-filter-panel
 * @slot - Fields and checkboxes.
 * @fires sorrel-change - One of them changed.
 * @fires sorrel-reset - All are to be as they were.
 */
@define('sorrel-filter-panel')
export class SorrelFilterPanel extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        padding: var(--sorrel-space-4);
        border: 1px solid var(--sorrel-color-line);
        border-radius: var(--sorrel-radius-box);
        background: var(--sorrel-color-surface);
      }
      .head {
        display: flex;
        justify-content: space-between;
        align-items: center;
        gap: var(--sorrel-space-2);
        margin-bottom: var(--sorrel-space-3);
      }
      h2 {
        margin: 0;
        font-size: var(--sorrel-text-m);
      }
      .all {
        display: flex;
        flex-direction: column;
        gap: var(--sorrel-space-3);
      }
      :host([layout='across']) .all {
        flex-direction: row;
        flex-wrap: wrap;
        align-items: end;
      }
      button {
        font: inherit;
        background: none;
        border: 0;
        color: var(--sorrel-color-accent-ink);
        text-decoration: underline;
        text-underline-offset: 3px;
        cursor: pointer;
        min-height: 28px;
      }
    `,
  ]
  /** Its title. */
  @property() heading = 'Filter'
  /** One under another or side by side. */
  @property({ reflect: true }) layout: 'down' | 'across' = 'down'
  private reset() {
    for (const c of this.querySelectorAll<
      HTMLElement & { value?: unknown; checked?: boolean; on?: boolean }
    >('*')) {
      if (typeof c.value === 'string') c.value = c.getAttribute('value') ?? ''
      if (typeof c.checked === 'boolean') c.checked = false
      if (typeof c.on === 'boolean') c.on = false
    }
    this.tell('sorrel-reset')
  }
  render() {
    return html`<section aria-label=${this.heading}>
      <div class="head">
        <h2>${this.heading}</h2>
        <button type="button" @click=${this.reset}>Clear</button>
      </div>
      <div class="all"><slot></slot></div>
    </section>`
  }
}
