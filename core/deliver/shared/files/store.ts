// Keeps the records that screens show. Where they come from is said in data.ts; lists that
// are made of others, and fields that are computed, follow by themselves.
import * as data from './data'
import { lists } from './lists'
import type { Records } from './models'
import { samples } from './samples'

export type Name = keyof Records
/** What a list is at: its records are there, are waited for, were refused, or failed. */
export type Status = 'ready' | 'loading' | 'refused' | 'failed'
/** What a list is asked by: what controls hold, by their names. */
export type Params = Readonly<Record<string, string | number | boolean | undefined>>
/** Gets the records of a list. Refused throws when the service will not give them. */
export type Load<R> = (params: Params, signal: AbortSignal) => readonly R[] | Promise<readonly R[]>
export type Loaders = { [K in Name]?: Load<Records[K]> }
export type Lists = { readonly [K in Name]: readonly Records[K][] }
/** How a list comes about. */
export interface Definition<R> {
  /** Its service. */
  load?: Load<R>
  /** The lists that what is computed speaks of. */
  needs?: readonly Name[]
  /** Adds what is computed to a record. */
  complete?: (record: R, lists: Lists) => R
  /** Makes the whole list of others. */
  make?: (lists: Lists) => R[]
}
export type Definitions = { [K in Name]: Definition<Records[K]> }

/** Keeps what a press did to a record of a list, where it is to last. What throws takes it back. */
export interface Saver<R> {
  add?: (record: R) => void | Promise<unknown>
  change?: (record: R, set: Partial<R>) => void | Promise<unknown>
  remove?: (record: R) => void | Promise<unknown>
}
export type Savers = { [K in Name]?: Saver<Records[K]> }

/** A service answered that these records are not for whoever asks. */
export class Refused extends Error {}

interface Entry {
  records: readonly unknown[]
  status: Status
  asked?: string
  stop?: AbortController
}
const entries = new Map<Name, Entry>()
const listeners = new Set<() => void>()
const made = new Map<Name, readonly unknown[]>()

const entry = (name: Name): Entry => {
  let e = entries.get(name)
  if (!e) entries.set(name, (e = { records: [], status: 'ready' }))
  return e
}
const all = Object.defineProperties(
  {},
  Object.fromEntries(Object.keys(lists).map(name => [name, { get: () => get(name as Name) }])),
) as Lists

function changed() {
  made.clear()
  for (const listener of listeners) listener()
}

/** The records as they are now; the same list until they change. */
export function get<K extends Name>(name: K): readonly Records[K][] {
  const have = made.get(name)
  if (have) return have as readonly Records[K][]
  const { make, complete } = lists[name] as unknown as Definition<Records[K]>
  const records = entry(name).records as readonly Records[K][]
  const now = make ? make(all) : complete ? records.map(r => complete(r, all)) : records
  made.set(name, now)
  return now
}

/** What a list is at. */
export const status = (name: Name): Status => entry(name).status

/** Hears of every change, until what comes back is called. */
export function subscribe(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** Puts records in place of those that are there: own code that knows better. */
export function put<K extends Name>(name: K, records: readonly Records[K][]) {
  entry(name).records = records
  changed()
}

/** What data.ts says of keeping; it may say nothing. */
const said: { loaders: unknown; savers?: Savers } = { ...data }
const saverOf = <K extends Name>(name: K) => said.savers?.[name] as Saver<Records[K]> | undefined

/** Does something to the records at once, and takes it back where it could not be kept. */
function touched<K extends Name>(
  name: K,
  next: readonly Records[K][],
  keep: (() => void | Promise<unknown>) | undefined,
) {
  const before = entry(name).records as readonly Records[K][]
  put(name, next)
  Promise.resolve()
    .then(keep)
    .catch((error: unknown) => {
      console.error(error)
      if (entry(name).records === next) put(name, before)
    })
}

/** A record comes, of what a form held; kinds say which fields are read as what. */
export function add<K extends Name>(
  name: K,
  values: unknown,
  kinds: Readonly<Record<string, string>>,
) {
  const set: Record<string, unknown> = {}
  for (const [field, value] of Object.entries(values as Record<string, unknown>)) {
    const kind = kinds[field]
    if (value === undefined || value === '') continue
    if (kind === 'number') set[field] = Number(value)
    else if (kind === 'yes/no') set[field] = value === true || value === 'true' || value === 'on'
    else if (kind) set[field] = Math.round(Number(value) * 10 ** Number(kind.slice(3)))
    else set[field] = value
  }
  const record = { ...set, id: `new-${Date.now().toString(36)}` } as unknown as Records[K]
  const saver = saverOf(name)
  touched(
    name,
    [...(entry(name).records as readonly Records[K][]), record],
    saver?.add && (() => saver.add?.(record)),
  )
}

/** Something stands in place of a record, or nothing. */
function replaced<K extends Name>(
  name: K,
  id: string,
  by: (record: Records[K]) => readonly Records[K][],
  keep: (saver: Saver<Records[K]>, record: Records[K]) => void | Promise<unknown>,
) {
  const records = entry(name).records as readonly Records[K][]
  const record = records.find(r => r.id === id)
  if (!record) return
  const saver = saverOf(name)
  touched(
    name,
    records.flatMap(r => (r === record ? by(r) : [r])),
    saver && (() => keep(saver, record)),
  )
}

/** Some fields of a record hold something else. */
export function change<K extends Name>(name: K, id: string, set: Partial<Records[K]>) {
  replaced(
    name,
    id,
    record => [{ ...record, ...set }],
    (saver, record) => saver.change?.(record, set),
  )
}

/** A record goes. */
export function remove(name: Name, id: string) {
  replaced(
    name,
    id,
    () => [],
    (saver, record) => saver.remove?.(record),
  )
}

/** Asks for the records of a list: once, or anew when what it is asked by has changed. */
export function ask(name: Name, params?: Params) {
  const { make, load, needs } = lists[name] as unknown as Definition<unknown>
  for (const other of needs ?? []) if (entry(other).asked === undefined) ask(other)
  if (make) return
  const e = entry(name)
  const key = JSON.stringify(params ?? {})
  if (e.asked === key || (!params && e.asked !== undefined)) return
  e.asked = key
  e.stop?.abort()
  const mine = (e.stop = new AbortController())
  const loader = (data.loaders[name] ?? load ?? samples[name]) as unknown as
    Load<unknown> | undefined
  if (!loader) return
  const done = (status: Status, records: readonly unknown[]) => {
    if (mine.signal.aborted) return
    e.status = status
    e.records = records
    changed()
  }
  e.status = 'loading'
  changed()
  Promise.resolve()
    .then(() => loader(params ?? {}, mine.signal))
    .then(
      records => done('ready', records),
      (error: unknown) => {
        if (!mine.signal.aborted && !(error instanceof Refused)) console.error(error)
        done(error instanceof Refused ? 'refused' : 'failed', [])
      },
    )
}
