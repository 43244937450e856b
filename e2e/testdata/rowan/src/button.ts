import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  ViewEncapsulation,
  inject,
  input,
} from '@angular/core'

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

/** Starts something at once: how much it asks to be seen is the attribute that it is written with. */
@Component({
  selector: 'button[rowanQuiet], button[rowanLoud]',
  template: '<ng-content />',
  host: { class: 'rowan-press', '[class.rowan-press-loud]': 'loud' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  encapsulation: ViewEncapsulation.None,
})
export class RowanPress {
  protected readonly loud =
    inject<ElementRef<HTMLElement>>(ElementRef).nativeElement.hasAttribute('rowanLoud')
}
