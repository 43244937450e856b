import {
  computed,
  DestroyRef,
  inject,
  signal,
  type Signal,
  type WritableSignal,
} from '@angular/core'
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

/** As kept, with values beside them that whoever uses the component may give and is told of. */
export function held<T extends object, G extends object>(
  usual: T,
  given: { [K in keyof G]: WritableSignal<G[K]> },
): Kept<T & G> {
  const own = signal(usual)
  const now = computed(() => {
    const all = { ...own() } as T & G
    for (const name in given) Object.assign(all, { [name]: given[name]() })
    return all
  })
  return Object.assign(now, {
    keep: <K extends keyof (T & G)>(name: K, value: (T & G)[K]) => {
      if (name in given) given[name as unknown as keyof G].set(value as unknown as G[keyof G])
      else own.update(n => ({ ...n, [name]: value }))
    },
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
