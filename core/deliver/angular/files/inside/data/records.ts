import { DestroyRef, effect, inject, signal, untracked, type Signal } from '@angular/core'
import type { Records } from './models'
import { ask, get, status, subscribe, type Name, type Params, type Status } from './store'

function followed<T>(read: () => T): Signal<T> {
  const now = signal(read())
  inject(DestroyRef).onDestroy(subscribe(() => now.set(read())))
  return now.asReadonly()
}

/** The records of a list, which are asked for. */
export function recordsOf<K extends Name>(name: K): Signal<readonly Records[K][]> {
  ask(name)
  return followed(() => get(name))
}

/** What a list is at. */
export const statusOf = (name: Name): Signal<Status> => followed(() => status(name))

/** Asks for a list by what controls hold, anew whenever that changes. */
export function sourceOf(name: Name, params: () => Params): void {
  ask(name, untracked(params))
  effect(() => {
    const now = params()
    untracked(() => ask(name, now))
  })
}
