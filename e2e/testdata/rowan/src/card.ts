import { NgTemplateOutlet } from '@angular/common'
import {
  ChangeDetectionStrategy,
  Component,
  Directive,
  TemplateRef,
  ViewEncapsulation,
  contentChild,
} from '@angular/core'

/** A note on a card, drawn as often as the card wants. */
@Directive({ selector: 'ng-template[rowanNote]' })
export class RowanNote {}

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
    <div class="rowan-card-more">
      <ng-container [ngTemplateOutlet]="more() ?? null" />
      <ng-container [ngTemplateOutlet]="note() ?? null" />
    </div>
  `,
  imports: [NgTemplateOutlet],
  host: { class: 'rowan-card' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  encapsulation: ViewEncapsulation.None,
})
export class RowanCard {
  protected readonly more = contentChild<TemplateRef<unknown>>('more')
  protected readonly note = contentChild(RowanNote, { read: TemplateRef })
}

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
