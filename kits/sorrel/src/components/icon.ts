import { html, css, nothing } from 'lit'
import { property } from 'lit/decorators.js'
import { unsafeSVG } from 'lit/directives/unsafe-svg.js'
import { SorrelElement, define, shared } from '../base.js'
import { icons } from '../icons.gen.js'

/**
 * A picture sign from the kit's icon set. Decorative unless it has a label.
 * @tag sorrel-icon
 */
@define('sorrel-icon')
export class SorrelIcon extends SorrelElement {
  static styles = [shared, css`
    :host { display: inline-flex; width: 20px; height: 20px; flex: none; color: inherit; vertical-align: -4px; }
    :host([size='s']) { width: 16px; height: 16px; vertical-align: -3px; }
    :host([size='l']) { width: 28px; height: 28px; }
    svg { width: 100%; height: 100%; }`]
  /** The icon's name. @required */
  @property() name = 'leaf'
  /** Edge length. */
  @property({ reflect: true }) size: 's' | 'm' | 'l' = 'm'
  /** What the icon says where no text beside it says so. */
  @property() label = ''
  render() {
    // The markup is the kit's own, inlined when it was built, never a caller's.
    const shape = Object.hasOwn(icons, this.name) ? icons[this.name] : icons.unknown
    return html`<svg viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="1.75" stroke-linecap="round" stroke-linejoin="round"
      role=${this.label ? 'img' : nothing} aria-label=${this.label || nothing} aria-hidden=${this.label ? nothing : 'true'}>${unsafeSVG(shape)}</svg>`
  }
}
