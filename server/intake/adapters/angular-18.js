// What differs from version to version, of those that need no zone.
import { provideExperimentalZonelessChangeDetection, signal } from '@angular/core'

export const provided = () => [provideExperimentalZonelessChangeDetection()]
export const box = value => {
  const held = signal(value)
  return { get: held, set: next => held.set(next) }
}
