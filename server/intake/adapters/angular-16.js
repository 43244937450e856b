// What differs from version to version, of those that want a zone to tell them of changes.
import 'zone.js'
import { signal } from '@angular/core'

export const provided = () => []
export const box = value => {
  const held = signal(value)
  return { get: held, set: next => held.set(next) }
}
