import { useEffect, useSyncExternalStore } from 'react'
import type { Records } from './models'
import { ask, get, status, subscribe, type Name, type Params, type Status } from './store'

/** The records of a list, which are asked for. */
export function useRecords<K extends Name>(name: K): readonly Records[K][] {
  useEffect(() => ask(name), [name])
  return useSyncExternalStore(subscribe, () => get(name))
}

/** What a list is at. */
export function useStatus(name: Name): Status {
  return useSyncExternalStore(subscribe, () => status(name))
}

/** Asks for a list by what controls hold, anew whenever that changes. */
export function useSource(name: Name, params: Params): void {
  const key = JSON.stringify(params)
  useEffect(() => ask(name, JSON.parse(key) as Params), [name, key])
}
