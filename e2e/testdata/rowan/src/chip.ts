import { CommonModule } from '@angular/common'
import { Component, EventEmitter, Input, NgModule, Output } from '@angular/core'

/** A short mark. It comes with its module, as older components do. */
@Component({
  selector: 'rowan-plain-chip, rowan-chip',
  template: '<span class="rowan-chip">{{ label }}<ng-content /></span>',
  standalone: false,
})
export class RowanChip {
  /** What it says. */
  @Input() label = ''
  /** Somebody took it away. */
  @Output() readonly removed = new EventEmitter<void>()
}

@NgModule({ declarations: [RowanChip], imports: [CommonModule], exports: [RowanChip] })
export class RowanChipModule {}
