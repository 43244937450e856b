import type { Choice, Edit, Element, Value } from '../../api/client'
import { words } from './tree'

/** The value that a choice's text stands for. */
export function typed(c: Pick<Choice, 'type' | 'values'>, value: string): Value {
  if (c.type === 'yes/no') return value === 'true'
  const whole =
    c.type === 'choice' && c.values.length > 0 && c.values.every(v => /^\d+$/.test(v.value))
  return c.type === 'number' || whole ? Number(value) : value
}

/** The edit that brings a choice of an element to a value; none where it stands so. */
export function editFor(c: Choice, id: string, value: string, set: boolean): Edit[] {
  const back = value === c.default && !c.prop.includes('@')
  if (back) return set ? [{ op: 'unset', id, prop: c.prop }] : []
  return [{ op: 'set', id, prop: c.prop, value: typed(c, value) }]
}

/** What several elements are set to in one choice: the value they share, or each with
 * how many have it, the most frequent first. */
export function shared(
  c: Choice,
  elements: Element[],
): { value?: string; mix: [string, number][] } {
  const counts = new Map<string, number>()
  for (const el of elements) {
    const v = el.props?.[c.prop]
    const text = v === undefined ? c.default : words(v)
    counts.set(text, (counts.get(text) ?? 0) + 1)
  }
  const mix = [...counts].sort((a, b) => b[1] - a[1])
  return { value: mix.length === 1 ? mix[0]![0] : undefined, mix }
}

/** What every element has beside its props; "called" is its name for own code where the
 * component has a name of another kind. */
export const common = ['each', 'if', 'name', 'called'] as const

/** A setting as somebody types it: "emphasis strong", "level = record.depth", "name saveButton". */
export interface Typing {
  prop: string // what the first word means; empty where it means nothing here
  others: string[] // what else it may mean
  value?: string // undefined where what is typed is none of the choices
  values: string[] // the choices that what is typed may mean, for those with a list
  set: boolean // more than the prop was typed
}

const listed = (c: Choice) => ['choice', 'yes/no', 'token', 'action'].includes(c.type)
const said = (c: Choice, v: Choice['values'][number]) =>
  c.type === 'yes/no' ? (v.value === 'true' ? 'yes' : 'no') : (v.words ?? (v.value || 'none'))

/** Whether each word that is typed begins a word of what is said, one after the other: "change
 * state back" of "change state to back". */
export function abbreviates(typed: string, said: string): boolean {
  const words = said.split(/[\s“”"'()]+/)
  let at = 0
  return typed.split(/\s+/).every(t => {
    while (at < words.length && !words[at]!.startsWith(t)) at++
    return at++ < words.length
  })
}

/** Reads it against the choices of an element. Beginnings are enough; the choices come
 * in the order in which they are shown, so that the first that fits is the likeliest. */
export function typing(
  text: string,
  choices: readonly Choice[],
  models: readonly string[],
): Typing {
  const [, word = '', rest = ''] = /^\s*([^\s=]*)\s*([^]*)$/.exec(text) ?? []
  const w = word.toLowerCase()
  const names = [...choices.map(c => c.prop), ...common]
  const fits = [
    ...names.filter(n => n.toLowerCase() === w),
    ...names.filter(n => n.toLowerCase() !== w && n.toLowerCase().startsWith(w)),
    ...names.filter(n => !n.toLowerCase().startsWith(w) && n.toLowerCase().includes(w)),
  ]
  const [prop = '', ...others] = fits
  const c = choices.find(o => o.prop === prop)
  const value = rest.trim()
  const out = { prop, others, set: /[\s=]/.test(text.trim()) }
  const expression = value.startsWith('=')
  const list =
    prop === 'each'
      ? models.map(m => ({ value: m, words: m }))
      : c && listed(c) && !expression
        ? c.values.map(v => ({ value: v.value, words: said(c, v) }))
        : undefined
  if (!list) return { ...out, value, values: [] }
  const v = value.toLowerCase()
  // By how near it comes: the same, its beginning, some of it, the beginnings of its words in turn.
  const near = (words: string) =>
    words === v
      ? 0
      : words.startsWith(v)
        ? 1
        : words.includes(v)
          ? 2
          : abbreviates(v, words)
            ? 3
            : 4
  const meant = list
    .map(o => ({ o, at: near(o.words.toLowerCase()) }))
    .filter(m => m.at < 4)
    .toSorted((a, b) => a.at - b.at)
    .map(m => m.o)
  // A yes or no by itself turns over.
  if (!value && c?.type === 'yes/no')
    return { ...out, value: c.value === 'true' ? 'false' : 'true', values: ['yes', 'no'] }
  return {
    ...out,
    value: value ? meant[0]?.value : prop === 'each' ? '' : undefined,
    values: meant.map(o => o.words),
  }
}
