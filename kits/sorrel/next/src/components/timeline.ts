import { html, css, nothing } from 'lit'
import { property } from 'lit/decorators.js'
import { SorrelElement, define, shared } from '../base.js'

/**
 * What happened, one moment below the other.
 * @tag sorrel-timeline
 * @slot - Moments, in their order.
 */
@define('sorrel-timeline')
export class SorrelTimeline extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      .list {
        margin: 0;
        padding: 0;
      }
    `,
  ]
  /** What the moments belong to, for screen readers. @required */
  @property() label = ''
  render() {
    return html`<div class="list" role="list" aria-label=${this.label || nothing}>
      <slot></slot>
    </div>`
  }
}

/**
 * One moment of a timeline.
 * @tag sorrel-moment
 * @slot - What happened.
 */
@define('sorrel-moment')
export class SorrelMoment extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        padding-block: var(--sorrel-space-2);
        padding-inline-start: var(--sorrel-space-5);
        position: relative;
        border-inline-start: 2px solid var(--sorrel-color-line);
        margin-inline-start: var(--sorrel-space-2);
      }
      :host::before {
        content: '';
        position: absolute;
        inset-inline-start: -7px;
        top: var(--sorrel-space-3);
        width: 12px;
        height: 12px;
        border-radius: 50%;
        background: var(--sorrel-color-line-strong);
      }
      :host([tone='good'])::before {
        background: var(--sorrel-color-good);
      }
      :host([tone='bad'])::before {
        background: var(--sorrel-color-bad);
      }
      .when {
        font-size: var(--sorrel-text-s);
        color: var(--sorrel-color-ink-2);
      }
    `,
  ]
  /** When it happened, as shown. */
  @property() when = ''
  /** Its colour by meaning. */
  @property({ reflect: true }) tone: 'plain' | 'good' | 'bad' = 'plain'
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'listitem')
  }
  render() {
    return html`${this.when ? html`<div class="when">${this.when}</div>` : nothing}<slot></slot>`
  }
}
