import { onScopeDispose, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import type { Records } from './models'
import { ask, get, status, subscribe, type Name, type Params, type Status } from './store'

/** The records of a list, which are asked for. */
export function useRecords<K extends Name>(name: K): Readonly<ShallowRef<readonly Records[K][]>> {
  const records = shallowRef<readonly Records[K][]>(get(name))
  onScopeDispose(subscribe(() => (records.value = get(name))))
  ask(name)
  return records
}

/** What a list is at. */
export function useStatus(name: Name): Readonly<Ref<Status>> {
  const is = shallowRef(status(name))
  onScopeDispose(subscribe(() => (is.value = status(name))))
  return is
}

/** Asks for a list by what controls hold, anew whenever that changes. */
export function useSource(name: Name, params: () => Params): void {
  watch(params, now => ask(name, now), { immediate: true, deep: true })
}
