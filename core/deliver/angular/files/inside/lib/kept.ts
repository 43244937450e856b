import { DestroyRef, inject, signal, type Signal } from '@angular/core'
import { ActivatedRoute } from '@angular/router'

/** Values by their names, and what sets one of them. */
export type Kept<T extends object> = Signal<T> & {
  keep: <K extends keyof T>(name: K, value: T[K]) => void
}

export function kept<T extends object>(usual: T): Kept<T> {
  const now = signal(usual)
  return Object.assign(now.asReadonly(), {
    keep: <K extends keyof T>(name: K, value: T[K]) => now.update(n => ({ ...n, [name]: value })),
  })
}

/** A parameter of the route. */
export function param(name: string): Signal<string> {
  const route = inject(ActivatedRoute)
  const value = signal(route.snapshot.paramMap.get(name) ?? '')
  const heard = route.paramMap.subscribe(params => value.set(params.get(name) ?? ''))
  inject(DestroyRef).onDestroy(() => heard.unsubscribe())
  return value.asReadonly()
}
