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

/** A short mark that stands out. */
@Component({
  selector: 'rowan-badge',
  template: '<span class="rowan-chip rowan-badge"><ng-content /></span>',
})
export class RowanBadge {}

@NgModule({ declarations: [RowanChip], imports: [CommonModule], exports: [RowanChip] })
export class RowanChipModule {}
