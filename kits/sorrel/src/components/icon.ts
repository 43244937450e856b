import { html, css, nothing } from 'lit'
import { property } from 'lit/decorators.js'
import { unsafeSVG } from 'lit/directives/unsafe-svg.js'
import { SorrelElement, define, shared } from '../base.js'
import { icons } from '../icons.gen.js'

/** Pictures of the application's own, by icon name, and the elements that show one. */
const own = new Map<string, SVGElement>()
const shown = new Set<SorrelIcon>()

/** Adds icons of the application's own by name, each a whole svg element as text.
 * It must be a picture of your own making: what stands in it is shown as it is. */
export function addIcons(icons: Record<string, string>) {
  for (const [name, text] of Object.entries(icons)) {
    const svg = new DOMParser().parseFromString(text, 'image/svg+xml').documentElement
    if (svg instanceof SVGElement && svg.localName === 'svg') own.set(name, svg)
  }
  for (const icon of shown) icon.requestUpdate()
}

/** Signs that point along the line of reading, and turn with it. */
const pointing =
  /^(arrow-(left|right)|chevron-(left|right)|next|previous|back|forward|send|undo|redo|log-out|sign-out|external)$/

/**
 * A picture sign from the kit's icon set. Decorative unless it has a label.
 * @tag sorrel-icon
 */
@define('sorrel-icon')
export class SorrelIcon extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
        width: 20px;
        height: 20px;
        flex: none;
        color: inherit;
        vertical-align: -4px;
      }
      :host([size='s']) {
        width: 16px;
        height: 16px;
        vertical-align: -3px;
      }
      :host([size='l']) {
        width: 28px;
        height: 28px;
      }
      :host([data-shape]) {
        width: calc(20px * var(--shape, 1));
      }
      :host([size='s'][data-shape]) {
        width: calc(16px * var(--shape, 1));
      }
      :host([size='l'][data-shape]) {
        width: calc(28px * var(--shape, 1));
      }
      svg {
        width: 100%;
        height: 100%;
      }
      .turns:dir(rtl) {
        transform: scaleX(-1);
      }
    `,
  ]
  /** The icon's name. @required */
  @property() name = 'leaf'
  /** Edge length. */
  @property({ reflect: true }) size: 's' | 'm' | 'l' = 'm'
  /** What the icon says where no text beside it says so. */
  @property() label = ''
  connectedCallback() {
    super.connectedCallback()
    shown.add(this)
  }
  disconnectedCallback() {
    super.disconnectedCallback()
    shown.delete(this)
  }
  /** A logo keeps its shape: as high as an icon, as wide as its box says. */
  updated() {
    const [, , width, height] = (own.get(this.name)?.getAttribute('viewBox') ?? '')
      .split(/[ ,]+/)
      .map(Number)
    const shape = width && height ? width / height : 1
    this.toggleAttribute('data-shape', shape !== 1)
    if (shape !== 1) this.style.setProperty('--shape', String(shape))
    else this.style.removeProperty('--shape')
  }
  render() {
    const added = own.get(this.name)?.cloneNode(true) as SVGElement | undefined
    if (added) {
      added.setAttribute('aria-hidden', 'true')
      return this.label ? html`<span role="img" aria-label=${this.label}>${added}</span>` : added
    }
    // The markup is the kit's own, inlined when it was built, never a caller's.
    const shape = Object.hasOwn(icons, this.name) ? icons[this.name] : icons.unknown
    return html`<svg
      viewBox="0 0 24 24"
      fill="none"
      stroke="currentColor"
      stroke-width="1.75"
      stroke-linecap="round"
      stroke-linejoin="round"
      class=${pointing.test(this.name) ? 'turns' : nothing}
      role=${this.label ? 'img' : nothing}
      aria-label=${this.label || nothing}
      aria-hidden=${this.label ? nothing : 'true'}
    >
      ${unsafeSVG(shape)}
    </svg>`
  }
}
