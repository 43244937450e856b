import { html, css, nothing } from 'lit'
import { property } from 'lit/decorators.js'
import { Sheet, SorrelElement, define, shared } from '../base.js'
import './icon.js'

/**
 * Tells something that matters on this screen.
 * @tag sorrel-alert
 * @slot - What is told.
 * @slot actions - What can be done about it.
 */
@define('sorrel-alert')
export class SorrelAlert extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: flex;
        gap: var(--sorrel-space-3);
        align-items: flex-start;
        padding: var(--sorrel-space-3) var(--sorrel-space-4);
        border-radius: var(--sorrel-radius-box);
        background: var(--sorrel-color-info-soft);
        color: var(--sorrel-color-info-ink);
      }
      :host([tone='good']) {
        background: var(--sorrel-color-good-soft);
        color: var(--sorrel-color-good-ink);
      }
      :host([tone='warn']) {
        background: var(--sorrel-color-warn-soft);
        color: var(--sorrel-color-warn-ink);
      }
      :host([tone='bad']) {
        background: var(--sorrel-color-bad-soft);
        color: var(--sorrel-color-bad-ink);
      }
      .words {
        flex: 1;
      }
      .title {
        font-weight: var(--sorrel-weight-heavy);
      }
    `,
  ]
  /** Its colour by meaning. */
  @property({ reflect: true }) tone: 'info' | 'good' | 'warn' | 'bad' = 'info'
  /** A short line above the words. */
  @property() heading = ''
  private icon() {
    return { info: 'info', good: 'check', warn: 'warning', bad: 'warning' }[this.tone]
  }
  render() {
    return html`<sorrel-icon name=${this.icon()}></sorrel-icon>
      <div class="words" role=${this.tone === 'bad' ? 'alert' : 'status'}>
        ${this.heading ? html`<div class="title">${this.heading}</div>` : nothing}<slot></slot>
      </div>
      <slot name="actions"></slot>`
  }
}

/**
 * Asks for one decision before anything else goes on.
 * @tag sorrel-dialog
 * @slot - What is asked.
 * @slot actions - The answers; the main one last.
 * @fires sorrel-close - It was closed.
 */
@define('sorrel-dialog')
export class SorrelDialog extends Sheet {
  static styles = [
    shared,
    css`
      :host {
        display: none;
      }
      :host([open]) {
        display: flex;
        position: fixed;
        inset: 0;
        z-index: 20;
        align-items: center;
        justify-content: center;
        padding: var(--sorrel-space-4);
        background: color-mix(in oklab, black 45%, transparent);
      }
      .sheet {
        background: var(--sorrel-color-surface);
        border-radius: var(--sorrel-radius-box);
        padding: var(--sorrel-space-5);
        width: 100%;
        max-width: 480px;
        max-height: 100%;
        overflow: auto;
        box-shadow: var(--sorrel-shadow-raised);
      }
      :host([width='wide']) .sheet {
        max-width: 720px;
      }
      h2 {
        margin: 0 0 var(--sorrel-space-3);
        font-family: var(--sorrel-font-heading);
        font-size: var(--sorrel-text-l);
      }
      .actions {
        display: flex;
        justify-content: flex-end;
        gap: var(--sorrel-space-2);
        margin-top: var(--sorrel-space-5);
      }
    `,
  ]
  /** The question or title. @required */
  @property() heading = ''
  /** Shown now. */
  @property({ type: Boolean, reflect: true }) open = false
  /** How wide it may grow. */
  @property({ reflect: true }) width: 'narrow' | 'wide' = 'narrow'
  private key(e: KeyboardEvent) {
    if (e.key === 'Escape') {
      e.stopPropagation()
      this.close()
    }
    if (e.key !== 'Tab') return
    const stops = [
      ...this.querySelectorAll<HTMLElement>(
        'sorrel-button, sorrel-icon-button, sorrel-text-input, sorrel-select, sorrel-checkbox, sorrel-switch, sorrel-text-area',
      ),
    ]
    const active = (this.getRootNode() as Document | ShadowRoot).activeElement
    if (!stops.length) {
      e.preventDefault()
      return
    }
    if (!e.shiftKey && active === stops[stops.length - 1]) {
      e.preventDefault()
      stops[0].focus()
    }
    if (e.shiftKey && (active === stops[0] || active === (this as Element))) {
      e.preventDefault()
      stops[stops.length - 1].focus()
    }
  }
  render() {
    return html`<div
      class="sheet"
      role="dialog"
      aria-modal="true"
      aria-labelledby="title"
      tabindex="-1"
      @keydown=${this.key}
    >
      <h2 id="title">${this.heading}</h2>
      <slot></slot>
      <div class="actions"><slot name="actions"></slot></div>
    </div>`
  }
}

/**
 * Says that there is nothing here yet, and what to do about it.
 * @tag sorrel-empty-state
 * @slot - A sentence.
 * @slot actions - The invitation.
 */
@define('sorrel-empty-state')
export class SorrelEmptyState extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: flex;
        flex-direction: column;
        align-items: center;
        text-align: center;
        gap: var(--sorrel-space-3);
        padding: var(--sorrel-space-7) var(--sorrel-space-4);
        color: var(--sorrel-color-ink-2);
      }
      .title {
        font-family: var(--sorrel-font-heading);
        font-weight: var(--sorrel-weight-heavy);
        font-size: var(--sorrel-text-l);
        color: var(--sorrel-color-ink);
      }
      sorrel-icon {
        width: 40px;
        height: 40px;
      }
    `,
  ]
  /** What is missing. @required */
  @property() heading = ''
  /** A picture sign above. */
  @property() icon = 'leaf'
  render() {
    return html`<sorrel-icon name=${this.icon}></sorrel-icon>
      <div class="title">${this.heading}</div>
      <div><slot></slot></div>
      <slot name="actions"></slot>`
  }
}

/**
 * Shows that something is being fetched.
 * @tag sorrel-spinner
 */
@define('sorrel-spinner')
export class SorrelSpinner extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
      }
      .ring {
        width: 24px;
        height: 24px;
        border: 3px solid var(--sorrel-color-line-strong);
        border-top-color: var(--sorrel-color-accent);
        border-radius: 50%;
        animation: turn 1s linear infinite;
      }
      @keyframes turn {
        to {
          transform: rotate(360deg);
        }
      }
    `,
  ]
  /** What is being waited for. */
  @property() label = 'Loading'
  render() {
    return html`<span class="ring" role="status" aria-label=${this.label}></span>`
  }
}

/**
 * A label in a small box.
 * @tag sorrel-tag
 * @slot - One word.
 * @deprecated Use sorrel-chip.
 */
@define('sorrel-tag')
export class SorrelTag extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-block;
        font-size: var(--sorrel-text-s);
        border: 1px solid var(--sorrel-color-line-strong);
        padding: 1px 6px;
        border-radius: 3px;
      }
    `,
  ]
  /** Its colour by meaning. */
  @property({ reflect: true }) tone: 'neutral' | 'good' | 'bad' = 'neutral'
  render() {
    return html`<slot></slot>`
  }
}
