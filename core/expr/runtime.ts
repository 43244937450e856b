// The small runtime of translated expressions. A missing value is null or
// undefined: it joins to a text as nothing, compares as neither less nor
// greater, and is an error in arithmetic.
type Maybe<T> = T | null | undefined

const have = (v: Maybe<number>): number => {
  if (typeof v !== 'number') throw new Error('the number is missing in this record')
  return v
}
const both = <T>(a: Maybe<T>, b: Maybe<T>, test: (a: T, b: T) => boolean) =>
  a != null && b != null && test(a, b)
// Texts compare by code points, as in the tool, not by UTF-16 units.
const points = (s: string) => Array.from(s, c => c.codePointAt(0)!)
const compare = <T extends string | number>(a: T, b: T): number => {
  if (typeof a === 'number' || typeof b === 'number') return a < b ? -1 : a > b ? 1 : 0
  const p = points(a),
    q = points(b)
  for (let i = 0; i < Math.min(p.length, q.length); i++) if (p[i] !== q[i]) return p[i]! - q[i]!
  return p.length - q.length
}

export const lt = <T extends string | number>(a: Maybe<T>, b: Maybe<T>) =>
  both(a, b, (a, b) => compare(a, b) < 0)
export const le = <T extends string | number>(a: Maybe<T>, b: Maybe<T>) =>
  both(a, b, (a, b) => compare(a, b) <= 0)
export const gt = <T extends string | number>(a: Maybe<T>, b: Maybe<T>) =>
  both(a, b, (a, b) => compare(a, b) > 0)
export const ge = <T extends string | number>(a: Maybe<T>, b: Maybe<T>) =>
  both(a, b, (a, b) => compare(a, b) >= 0)
export const eq = (a: unknown, b: unknown): boolean =>
  Array.isArray(a) && Array.isArray(b)
    ? a.length === b.length && a.every((v, i) => eq(v, b[i]))
    : (a ?? null) === (b ?? null)
export const ne = (a: unknown, b: unknown) => !eq(a, b)
export const join = (a: Maybe<string>, b: Maybe<string>) => (a ?? '') + (b ?? '')
export const add = (a: Maybe<number>, b: Maybe<number>) => have(a) + have(b)
export const sub = (a: Maybe<number>, b: Maybe<number>) => have(a) - have(b)
export const mul = (a: Maybe<number>, b: Maybe<number>) => have(a) * have(b)
export const neg = (a: Maybe<number>) => -have(a)
const divisor = (b: Maybe<number>) => {
  if (have(b) === 0) throw new Error('division by zero')
  return have(b)
}
export const div = (a: Maybe<number>, b: Maybe<number>) => have(a) / divisor(b)
export const mod = (a: Maybe<number>, b: Maybe<number>) => have(a) % divisor(b)

const decimal = (v: number): string => {
  const [mantissa, exponent] = String(Math.abs(v)).split('e')
  if (!exponent) return mantissa!
  const [whole, frac = ''] = mantissa!.split('.')
  const e = Number(exponent)
  return e < 0 ? '0.' + '0'.repeat(-e - 1) + whole + frac : whole + frac.padEnd(e, '0')
}
export const text = (v: Maybe<string | number | boolean | readonly string[]>): string =>
  v == null
    ? ''
    : typeof v === 'object'
      ? v.join(', ')
      : typeof v === 'boolean'
        ? v
          ? 'yes'
          : 'no'
        : typeof v === 'number'
          ? (v < 0 || Object.is(v, -0) ? '-' : '') + decimal(v)
          : v
export const string = text
export const size = (v: Maybe<string | readonly unknown[]>) =>
  v == null ? 0 : typeof v === 'string' ? Array.from(v).length : v.length
export const lower = (s: Maybe<string>) => (s ?? '').toLowerCase()
export const upper = (s: Maybe<string>) => (s ?? '').toUpperCase()
export const initials = (s: Maybe<string>) =>
  (s ?? '')
    .split(/\s+/)
    .filter(Boolean)
    .slice(0, 2)
    .map(w => Array.from(w)[0]!.toUpperCase())
    .join('')
export const contains = (s: Maybe<string | readonly string[]>, part: Maybe<string>) =>
  (s ?? '').includes(part ?? '')
export const joined = (list: Maybe<readonly string[]>, by: Maybe<string>) =>
  (list ?? []).join(by ?? '')
export const startsWith = (s: Maybe<string>, part: Maybe<string>) =>
  (s ?? '').startsWith(part ?? '')
export const endsWith = (s: Maybe<string>, part: Maybe<string>) => (s ?? '').endsWith(part ?? '')
export const plural = (n: Maybe<number>, one: Maybe<string>, many: Maybe<string>) =>
  text(n) + ' ' + ((n === 1 ? one : many) ?? '')
/** Which plural form a number takes in a language: one, few, other … */
export const form = (n: Maybe<number>, language: Maybe<string>): string => {
  const [known] = Intl.getCanonicalLocales(
    /^[A-Za-z0-9-]+$/.test(language ?? '') ? language! : 'en',
  )
  return n == null ? 'other' : new Intl.PluralRules(known, { maximumFractionDigits: 20 }).select(n)
}
export const find = <R extends { id: string }>(
  list: readonly R[],
  id: Maybe<string>,
): R | undefined => list.find(r => r.id === (id ?? ''))
/** The records that a list of ids names, in its order. */
export const findAll = <R extends { id: string }>(
  list: readonly R[],
  ids: Maybe<readonly string[]>,
): R[] => (ids ?? []).map(id => find(list, id)).filter(r => r != null)
/** What a field is in the records of a list, each value once, in their order. */
export const values = <K extends string>(
  list: readonly { readonly [P in K]?: Maybe<string> }[],
  field: K,
): string[] => {
  const all = new Set(list.map(r => (r[field] ?? '').trim()))
  return [...all].filter(v => v !== '')
}
/** The sum of a field in the records of a list; what is missing adds nothing. */
export const sum = <K extends string>(
  list: readonly { readonly [P in K]?: Maybe<number> }[],
  field: K,
): number => list.reduce((total, r) => total + (r[field] ?? 0), 0)
/** The texts of a list as records, to be repeated over. */
export const items = (list: Maybe<readonly string[]>): { id: string; value: string }[] =>
  (list ?? []).map((value, i) => ({ id: String(i + 1), value }))

/** Rounds half away from zero on the shortest decimal form; commas between thousands. */
export const number = (v: Maybe<number>, decimals: Maybe<number>): string => {
  if (typeof v !== 'number') return ''
  const places = Math.min(Math.max(Math.trunc(decimals ?? 0), 0), 12)
  let [whole, frac = ''] = decimal(v).split('.') as [string, string?]
  const up = frac.length > places && frac[places]! >= '5'
  frac = frac.slice(0, places).padEnd(places, '0')
  const all = BigInt(whole + frac) + BigInt(up ? 1 : 0)
  const digits = all.toString().padStart(places + 1, '0')
  whole = digits.slice(0, digits.length - places).replace(/\B(?=(\d{3})+$)/g, ',')
  return (
    (v < 0 && all !== BigInt(0) ? '-' : '') +
    whole +
    (places ? '.' + digits.slice(digits.length - places) : '')
  )
}
// Signs before amounts, and how many decimals they have.
const currencies: Record<string, [sign: string, decimals: number]> = {
  EUR: ['€', 2],
  USD: ['$', 2],
  GBP: ['£', 2],
  CHF: ['CHF ', 2],
  JPY: ['¥', 0],
  SEK: ['SEK ', 2],
  NOK: ['NOK ', 2],
  DKK: ['DKK ', 2],
  PLN: ['PLN ', 2],
  CZK: ['CZK ', 2],
  CAD: ['CA$', 2],
  AUD: ['A$', 2],
  NZD: ['NZ$', 2],
  INR: ['₹', 2],
  CNY: ['CN¥', 2],
  KRW: ['₩', 0],
  BRL: ['R$', 2],
  KWD: ['KWD ', 3],
}
export const moneyIn = (v: Maybe<number>, currency: Maybe<string>): string => {
  if (typeof v !== 'number') return ''
  const [sign, decimals] = currencies[currency ?? ''] ?? currencies['EUR']!
  const s = number(v / 10 ** decimals, decimals)
  return s.startsWith('-') ? '-' + sign + s.slice(1) : sign + s
}
export const money = (v: Maybe<number>): string => moneyIn(v, 'EUR')
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
export const day = (s: Maybe<string>): string => {
  const m = /^(.{4})-(\d\d)-(\d\d)$/.exec(s ?? '')
  const month = m && months[Number(m[2]) - 1]
  return m && month ? `${Number(m[3])} ${month} ${m[1]}` : (s ?? '')
}

/** At most so many decimals: those that are nothing but zeros are left away. */
export const upTo = (v: Maybe<number>, decimals: Maybe<number>): string => {
  const s = number(v, decimals)
  return s.includes('.') ? s.replace(/\.?0+$/, '') : s
}
const dateOf = (s: Maybe<string>): Date | undefined => {
  if (!/^\d{4}-\d\d-\d\d$/.test(s ?? '')) return undefined
  const d = new Date(s + 'T00:00:00Z')
  return Number.isNaN(d.getTime()) || d.toISOString().slice(0, 10) !== s ? undefined : d
}
export const shortDay = (s: Maybe<string>): string => {
  const d = dateOf(s)
  return d ? `${d.getUTCDate()} ${months[d.getUTCMonth()]}` : (s ?? '')
}
const weekdays = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
export const weekday = (s: Maybe<string>): string => {
  const d = dateOf(s)
  return d ? `${weekdays[d.getUTCDay()]} ${shortDay(s)}` : (s ?? '')
}
const longMonths = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]
export const month = (s: Maybe<string>): string => {
  const d = dateOf(s)
  return d ? `${longMonths[d.getUTCMonth()]} ${s!.slice(0, 4)}` : (s ?? '')
}

/** The records in the order of their fields ("state, -due"); as they are where none is named.
 * One that lacks a field comes last. */
export function sorted<R extends object>(list: readonly R[], order: Maybe<string>): R[] {
  const keys = (order ?? '')
    .split(',')
    .map(k => k.trim())
    .filter(Boolean)
    .map(k => ({ field: k.replace(/^-\s*/, '') as keyof R, by: k.startsWith('-') ? -1 : 1 }))
  return [...list].sort((a, b) => {
    for (const { field, by } of keys) {
      const p = a[field],
        q = b[field]
      if (p == null && q == null) continue
      if (p == null || q == null) return p == null ? 1 : -1
      const c =
        typeof p === 'boolean'
          ? Number(p) - Number(q)
          : compare(p as string | number, q as string | number)
      if (c) return c * by
    }
    return 0
  })
}
/** The part of a list that stands on a page, from 1; past the last it is the last. */
export function pageOf<R>(list: readonly R[], size: number, page: Maybe<number>): R[] {
  const last = pages(list.length, size)
  const from = (Math.min(Math.max(Math.trunc(page ?? 1), 1), last) - 1) * size
  return list.slice(from, from + size)
}
/** The records of a repeat: those that pass, in their order, at most so many, or as many
 * on a page. */
export function rows<R extends object>(
  list: readonly R[],
  where: (record: R) => unknown,
  order = '',
  limit = 0,
  page = 1,
): R[] {
  const kept = sorted(
    list.filter(record => !!where(record)),
    order,
  )
  return limit > 0 ? pageOf(kept, limit, page) : kept
}
/** On how many pages so many records stand. */
export const pages = (count: number, size: number) =>
  size > 0 ? Math.max(1, Math.ceil(count / size)) : 1

/** The day it is, as a date is written: YYYY-MM-DD. */
export const today = (): string => {
  const now = new Date()
  const two = (n: number) => String(n).padStart(2, '0')
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
}
/** What comes of something; undefined where nothing can. */
export function maybe<T>(make: () => T): T | undefined {
  try {
    return make()
  } catch {
    return undefined
  }
}

/** A value as one of the few that somebody takes, whatever it is said to be. */
export const chosen = <T>(value: unknown): T => value as T

type Plain = string | number | boolean | string[] | undefined
/** A list made of another: records grouped by values, with values computed of each group. */
export function query<R extends object, T extends { id: string }>(
  list: readonly R[],
  q: {
    where: (record: R) => unknown
    group: Record<string, (record: R) => Plain>
    each: { name: string; do: string; of?: (record: R) => Plain; whole?: boolean }[]
    order: string
    limit: number
  },
): T[] {
  const groups = new Map<string, { row: Record<string, Plain>; members: R[] }>()
  for (const record of list) {
    if (!q.where(record)) continue
    const row: Record<string, Plain> = {}
    const id =
      Object.entries(q.group)
        .map(([name, of]) => {
          const v = of(record)
          if (v != null) row[name] = v
          return text(v)
        })
        .join('|') || 'all'
    row['id'] = id
    const group = groups.get(id) ?? { row, members: [] }
    groups.set(id, group)
    group.members.push(record)
  }
  if (!Object.keys(q.group).length && !groups.size)
    groups.set('all', { row: { id: 'all' }, members: [] })
  for (const { row, members } of groups.values()) {
    for (const e of q.each) {
      const v = computed(
        e.do,
        e.of ? members.map(e.of).filter(v => v != null) : members.map(() => 1),
        e.whole,
      )
      if (v != null) row[e.name] = v
    }
  }
  return rows(
    [...groups.values()].map(g => g.row as unknown as T),
    () => true,
    q.order,
    q.limit,
  )
}
function computed(what: string, values: Plain[], whole = false): Plain {
  if (what === 'count') return values.length
  if (what === 'distinct') return new Set(values).size
  if (what === 'least' || what === 'most') {
    let best: Plain
    for (const v of values as (string | number)[])
      if (best == null || (what === 'least' ? lt(v, best as typeof v) : gt(v, best as typeof v)))
        best = v
    return best
  }
  const sum = (values as number[]).reduce((a, b) => a + b, 0)
  if (what === 'sum') return sum
  if (!values.length) return undefined
  const mean = sum / values.length
  return whole ? Math.sign(mean) * Math.floor(Math.abs(mean) + 0.5) : mean
}

/** An address that may be followed; empty for one that would run something. */
export const url = (v: unknown): string => {
  const text = typeof v === 'string' ? v : ''
  // What browsers skip within a scheme counts for nothing here either.
  const plain = [...text].filter(c => c > ' ' && c !== '\u007f').join('')
  const scheme = /^([^/?#]*?):/.exec(plain)?.[1]?.toLowerCase()
  const harmless = ['http', 'https', 'mailto', 'tel']
  if (scheme === undefined || harmless.includes(scheme)) return text
  return /^data:image\/(png|jpeg|gif|webp|svg\+xml)[;,]/i.test(plain) ? text : ''
}
