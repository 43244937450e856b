// Reads records from services that answer in JSON.
import { Refused, type Load, type Params } from './store'

/** How a field of a record stands in an answer: a JSON pointer (RFC 6901). */
export interface Column {
  name: string
  at: string
  type: 'text' | 'number' | 'money' | 'yes/no' | 'date' | 'list'
  /** Of money: how many digits its minor unit has. */
  decimals?: number
}

const at = (value: unknown, pointer: string): unknown =>
  pointer
    .split('/')
    .slice(1)
    .reduce<unknown>(
      (v, part) =>
        (v as Record<string, unknown> | null | undefined)?.[
          part.replaceAll('~1', '/').replaceAll('~0', '~')
        ],
      value,
    )

/** A value of an answer as one of a field; undefined where it is none. Money that is a
 * number is in minor units; written as a text it is an amount. */
function taken(v: unknown, { type, decimals = 2 }: Column): unknown {
  if (v == null) return undefined
  if (type === 'list') {
    const parts = Array.isArray(v) ? (v as unknown[]) : String(v).split(/[,;]/)
    const list = parts
      .map(i => String((i as { id?: unknown } | null)?.id ?? i).trim())
      .filter(Boolean)
    return list.length ? list : undefined
  }
  if (type === 'number' || type === 'money') {
    const n =
      typeof v === 'number'
        ? v
        : typeof v === 'string' && v.trim()
          ? Number(v) * (type === 'money' ? 10 ** decimals : 1)
          : NaN
    if (!Number.isFinite(n)) return undefined
    return type === 'money' ? Math.round(n) : n
  }
  if (type === 'yes/no') return typeof v === 'boolean' ? v : undefined
  const s = typeof v === 'string' ? v : typeof v === 'number' ? String(v) : undefined
  if (type !== 'date' || s === undefined) return s
  return /^\d{4}-\d\d-\d\d($|T)/.test(s) ? s.slice(0, 10) : undefined
}

/** A list whose records a service gives: the whole answer, or what stands in it at a
 * pointer. */
export const fromService =
  <R>(address: (params: Params) => string, list: string, columns: readonly Column[]): Load<R> =>
  async (params, signal) => {
    const answer = await fetch(address(params), {
      signal,
      headers: { Accept: 'application/json' },
    })
    if (answer.status === 401 || answer.status === 403) throw new Refused(answer.statusText)
    if (!answer.ok) throw new Error(`${answer.status} ${answer.statusText}`)
    const found = at(await answer.json(), list)
    if (!Array.isArray(found)) throw new Error(`the answer holds no list at "${list}"`)
    return found.map((item, i) => {
      const record: Record<string, unknown> = {}
      for (const column of columns) {
        const value = taken(at(item, column.at), column)
        if (value !== undefined) record[column.name] = value
      }
      record['id'] ??= `r${i + 1}`
      return record as R
    })
  }

/** A parameter as a part of an address. */
export const part = (v: Params[string]): string =>
  encodeURIComponent(v === undefined ? '' : String(v))
