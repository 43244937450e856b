import { ChangeDetectionStrategy, Component, ViewEncapsulation, input } from '@angular/core'

/** Starts something. */
@Component({
  selector: 'button[rowanButton], a[rowanButton]',
  template: '<ng-content />',
  host: { class: 'rowan-button', '[class.rowan-button-loud]': "tone() === 'loud'" },
  changeDetection: ChangeDetectionStrategy.OnPush,
  encapsulation: ViewEncapsulation.None,
})
export class RowanButton {
  /** How much it asks to be seen. */
  readonly tone = input<'quiet' | 'loud'>('quiet')
}
