import {
  ChangeDetectionStrategy,
  Component,
  ViewEncapsulation,
  booleanAttribute,
  input,
  model,
  output,
} from '@angular/core'

/** Takes a text. */
@Component({
  selector: 'rowan-field',
  template: `
    <label class="rowan-field">
      {{ label() }}
      <input
        [value]="value()"
        [disabled]="disabled()"
        (input)="value.set($any($event.target).value)"
      />
    </label>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
  encapsulation: ViewEncapsulation.None,
})
export class RowanField {
  /** What it asks for. */
  readonly label = input.required<string>()
  /** The text. */
  readonly value = model('')
  /** Nothing can be typed. */
  readonly disabled = input(false, { transform: booleanAttribute })
}

/** What is told when somebody ticks. */
export interface RowanCheckChange {
  checked: boolean
  source: unknown
}

/** Is ticked, or not. */
@Component({
  selector: 'rowan-check',
  template: `
    <label>
      <input type="checkbox" [checked]="checked()" (change)="tick($event)" />
      <ng-content />
    </label>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RowanCheck {
  /** Whether it is ticked. */
  readonly checked = input(false)
  /** Somebody ticked. */
  readonly change = output<RowanCheckChange>()
  /** Tells that it was ticked. */
  tick(event: Event) {
    event.stopPropagation()
    this.change.emit({ checked: (event.target as HTMLInputElement).checked, source: this })
  }
}
