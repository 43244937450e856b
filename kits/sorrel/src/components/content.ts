import { html, css, nothing } from 'lit'
import { property } from 'lit/decorators.js'
import { SorrelElement, define, safeHref, shared } from '../base.js'
import './icon.js'

/**
 * A heading of the page's outline.
 * @tag sorrel-heading
 * @slot - The words.
 */
@define('sorrel-heading')
export class SorrelHeading extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      h1,
      h2,
      h3,
      h4 {
        margin: 0;
        font-family: var(--sorrel-font-heading);
        line-height: var(--sorrel-leading-heading);
        font-size: var(--sorrel-text-l);
      }
      :host([size='xl']) :is(h1, h2, h3, h4) {
        font-size: var(--sorrel-text-xxl);
      }
      :host([size='l']) :is(h1, h2, h3, h4) {
        font-size: var(--sorrel-text-xl);
      }
      :host([size='s']) :is(h1, h2, h3, h4) {
        font-size: var(--sorrel-text-m);
      }
    `,
  ]
  /** Its level in the outline, 1 to 4. */
  @property({ type: Number, reflect: true }) level: 1 | 2 | 3 | 4 = 2
  /** How large it is set. */
  @property({ reflect: true }) size: 's' | 'm' | 'l' | 'xl' = 'm'
  render() {
    switch (this.level) {
      case 1:
        return html`<h1><slot></slot></h1>`
      case 3:
        return html`<h3><slot></slot></h3>`
      case 4:
        return html`<h4><slot></slot></h4>`
      default:
        return html`<h2><slot></slot></h2>`
    }
  }
}

/**
 * Running text.
 * @tag sorrel-text
 * @slot - The words; links may stand among them.
 */
@define('sorrel-text')
export class SorrelText extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        line-height: var(--sorrel-leading-text);
        font-size: var(--sorrel-text-m);
      }
      :host([size='s']) {
        font-size: var(--sorrel-text-s);
      }
      :host([size='l']) {
        font-size: var(--sorrel-text-l);
      }
      :host([tone='quiet']) {
        color: var(--sorrel-color-ink-2);
      }
      :host([tone='good']) {
        color: var(--sorrel-color-good-ink);
      }
      :host([tone='bad']) {
        color: var(--sorrel-color-bad-ink);
      }
    `,
  ]
  /** Type size. */
  @property({ reflect: true }) size: 's' | 'm' | 'l' = 'm'
  /** Its colour by meaning. */
  @property({ reflect: true }) tone: 'plain' | 'quiet' | 'good' | 'bad' = 'plain'
  /** A colour of its own. @deprecated Use tone, so that themes reach it. */
  @property() color = ''
  updated() {
    if (this.color) this.style.setProperty('color', this.color)
    else this.style.removeProperty('color')
  }
  render() {
    return html`<slot></slot>`
  }
}

/**
 * A picture in a box of fixed ratio, cropped to fill.
 * @tag sorrel-picture
 */
@define('sorrel-picture')
export class SorrelPicture extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      img {
        display: block;
        width: 100%;
        object-fit: cover;
        background: var(--sorrel-color-stripe);
        aspect-ratio: 4 / 3;
      }
      :host([ratio='square']) img {
        aspect-ratio: 1;
      }
      :host([ratio='wide']) img {
        aspect-ratio: 16 / 9;
      }
      :host([rounded]) img {
        border-radius: var(--sorrel-radius-box);
      }
    `,
  ]
  /** Where the picture is. @required */
  @property() src = ''
  /** What it shows, for those who do not see it. */
  @property() alt = ''
  /** Shape of the box. */
  @property({ reflect: true }) ratio: 'photo' | 'square' | 'wide' = 'photo'
  /** With round corners. */
  @property({ type: Boolean, reflect: true }) rounded = false
  /** Only adornment: screen readers pass it by. */
  @property({ type: Boolean }) decorative = false
  render() {
    return html`<img
      src=${safeHrefOrData(this.src)}
      alt=${this.decorative ? '' : this.alt || nothing}
    />`
  }
}
function safeHrefOrData(src: string) {
  return /^data:image\/(svg\+xml|png|jpeg|webp)[;,]/i.test(src) ? src : safeHref(src)
}

/**
 * One thing with its picture, words and actions.
 * @tag sorrel-card
 * @slot picture - A picture over the full width.
 * @slot header - Title line.
 * @slot - The body.
 * @slot footer - Actions or facts at its end.
 */
@define('sorrel-card')
export class SorrelCard extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: flex;
        flex-direction: column;
        overflow: hidden;
        border-radius: var(--sorrel-radius-box);
        height: 100%;
        background: var(--sorrel-color-surface);
        border: 1px solid var(--sorrel-color-line);
      }
      :host([ground='none']) {
        background: transparent;
        border-color: transparent;
      }
      :host([ground='raised']) {
        border-color: transparent;
        box-shadow: var(--sorrel-shadow-raised);
      }
      .inside {
        display: flex;
        flex-direction: column;
        gap: var(--sorrel-space-2);
        padding: var(--sorrel-space-4);
        flex: 1;
      }
      :host([padding='s']) .inside {
        padding: var(--sorrel-space-3);
      }
      .head {
        font-weight: var(--sorrel-weight-heavy);
        font-family: var(--sorrel-font-heading);
        font-size: var(--sorrel-text-l);
        display: flex;
        gap: var(--sorrel-space-2);
        align-items: center;
        justify-content: space-between;
        flex-wrap: wrap;
      }
      .foot {
        margin-top: auto;
        display: flex;
        gap: var(--sorrel-space-2);
        flex-wrap: wrap;
        align-items: center;
      }
      :host {
        position: relative;
      }
      .whole {
        position: absolute;
        inset: 0;
        border-radius: inherit;
      }
      .whole:focus-visible {
        outline-offset: -2px;
      }
      :host(:hover) .whole {
        outline: 1px solid var(--sorrel-color-accent);
        outline-offset: -1px;
      }
      ::slotted(:is(sorrel-button, sorrel-icon-button, sorrel-link, sorrel-menu)) {
        position: relative;
      }
      :host([caption='over']) .inside {
        position: absolute;
        inset-inline: 0;
        bottom: 0;
        flex: none;
        pointer-events: none;
        background: color-mix(in oklab, var(--sorrel-color-surface) 90%, transparent);
      }
    `,
  ]
  /** What it stands on. */
  @property({ reflect: true }) ground: 'plain' | 'raised' | 'none' = 'plain'
  /** Room inside. */
  @property({ reflect: true }) padding: 's' | 'm' = 'm'
  /** Whether its words stand below the picture or over it. */
  @property({ reflect: true }) caption: 'below' | 'over' = 'below'
  /** Where a press anywhere on the card leads; empty where the card itself leads nowhere. */
  @property() to = ''
  /** The words that name the way there, for screen readers. */
  @property() label = ''
  private go(e: Event) {
    if (!this.tell('sorrel-go', { to: safeHref(this.to) })) e.preventDefault()
  }
  render() {
    return html`${this.to ? html`<a class="whole" href=${safeHref(this.to)} aria-label=${this.label || 'Open'} @click=${this.go}></a>` : nothing}<slot
        name="picture"
      ></slot>
      <div class="inside">
        <div class="head"><slot name="header"></slot></div>
        <slot></slot>
        <div class="foot"><slot name="footer"></slot></div>
      </div>`
  }
}

/**
 * A short fact about a thing: its condition, its kind.
 * @tag sorrel-chip
 * @slot - One or two words.
 */
@define('sorrel-chip')
export class SorrelChip extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
        align-items: center;
        gap: 4px;
        font-size: var(--sorrel-text-s);
        font-weight: var(--sorrel-weight-strong);
        line-height: 1;
        padding: 5px 9px;
        border-radius: 99px;
        white-space: nowrap;
        background: var(--sorrel-color-stripe);
        color: var(--sorrel-color-ink-2);
        align-self: flex-start;
      }
      :host([shape='square']) {
        border-radius: var(--sorrel-radius-control);
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
      :host([tone='info']) {
        background: var(--sorrel-color-info-soft);
        color: var(--sorrel-color-info-ink);
      }
    `,
  ]
  /** Its colour by meaning. */
  @property({ reflect: true }) tone: 'neutral' | 'good' | 'warn' | 'bad' | 'info' = 'neutral'
  /** Outline. */
  @property({ reflect: true }) shape: 'round' | 'square' = 'round'
  /** An icon before the words. */
  @property() icon = ''
  render() {
    return html`${this.icon ? html`<sorrel-icon name=${this.icon} size="s"></sorrel-icon>` : nothing}<slot
      ></slot>`
  }
}

/**
 * A person, by picture or initials.
 * @tag sorrel-avatar
 */
@define('sorrel-avatar')
export class SorrelAvatar extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
        flex: none;
        width: 36px;
        height: 36px;
        border-radius: 50%;
        overflow: hidden;
        align-items: center;
        justify-content: center;
        font-weight: var(--sorrel-weight-heavy);
        font-size: var(--sorrel-text-s);
        background: var(--sorrel-color-accent-soft);
        color: var(--sorrel-color-accent-ink);
      }
      :host([tone='neutral']) {
        background: var(--sorrel-color-line);
        color: var(--sorrel-color-ink);
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
      :host([tone='info']) {
        background: var(--sorrel-color-info-soft);
        color: var(--sorrel-color-info-ink);
      }
      :host([size='s']) {
        width: 28px;
        height: 28px;
      }
      :host([size='l']) {
        width: 56px;
        height: 56px;
        font-size: var(--sorrel-text-l);
      }
      :host([shape='square']) {
        border-radius: var(--sorrel-radius-control);
      }
      img {
        width: 100%;
        height: 100%;
        object-fit: cover;
      }
    `,
  ]
  /** The person's name. @required */
  @property() name = ''
  /** A picture; initials stand in where there is none. */
  @property() src = ''
  /** Edge length. */
  @property({ reflect: true }) size: 's' | 'm' | 'l' = 'm'
  /** Outline. */
  @property({ reflect: true }) shape: 'round' | 'square' = 'round'
  /** What its colour says. */
  @property({ reflect: true }) tone: 'accent' | 'neutral' | 'good' | 'warn' | 'bad' | 'info' =
    'accent'
  render() {
    const initials = this.name
      .split(/\s+/)
      .filter(Boolean)
      .slice(0, 2)
      .map(w => Array.from(w)[0]?.toUpperCase())
      .join('')
    return this.src
      ? html`<img src=${safeHrefOrData(this.src)} alt=${this.name} />`
      : html`<span role="img" aria-label=${this.name}>${initials}</span>`
  }
}

/**
 * A line between parts.
 * @tag sorrel-divider
 */
@define('sorrel-divider')
export class SorrelDivider extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        height: 1px;
        background: var(--sorrel-color-line);
      }
    `,
  ]
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'separator')
  }
  render() {
    return nothing
  }
}

/**
 * Words at the foot of every screen.
 * @tag sorrel-footer
 * @slot - Words and links.
 */
@define('sorrel-footer')
export class SorrelFooter extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        padding: var(--sorrel-space-5);
        color: var(--sorrel-color-ink-2);
        font-size: var(--sorrel-text-s);
        border-top: 1px solid var(--sorrel-color-line);
      }
      :host([align='center']) {
        text-align: center;
      }
    `,
  ]
  /** Where the words stand. */
  @property({ reflect: true }) align: 'start' | 'center' = 'start'
  render() {
    return html`<footer><slot></slot></footer>`
  }
}
