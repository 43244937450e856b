import { InjectionToken, signal, type WritableSignal } from '@angular/core'

/** The state of the screen around. */
export const SCREEN_STATE = new InjectionToken<WritableSignal<string>>('the state of the screen', {
  factory: () => signal('ready'),
})
