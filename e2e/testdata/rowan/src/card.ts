import { ChangeDetectionStrategy, Component, Directive, ViewEncapsulation } from '@angular/core'

/** Holds what belongs together. */
@Component({
  selector: 'rowan-card',
  template: `
    <div class="rowan-card-head">
      <ng-content select="[rowanCardTitle]" />
      <ng-content select="rowan-chip:not([below]), .rowan-mark" />
    </div>
    <ng-content />
    <div class="rowan-card-foot"><ng-content select="rowan-card-actions" /></div>
  `,
  host: { class: 'rowan-card' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  encapsulation: ViewEncapsulation.None,
})
export class RowanCard {}

/** Names a card. */
@Directive({ selector: '[rowanCardTitle]', host: { class: 'rowan-card-title' } })
export class RowanCardTitle {}

/** What can be done with what a card holds. */
@Component({
  selector: 'rowan-card-actions',
  template: '<ng-content />',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RowanCardActions {}
