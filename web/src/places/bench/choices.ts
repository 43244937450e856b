import type { Choice, Edit, Element, Value } from '../../api/client'
import { words } from './tree'

/** The value that a choice's text stands for. */
export function typed(c: Pick<Choice, 'type' | 'values'>, value: string): Value {
  if (c.type === 'yes/no') return value === 'true'
  const whole = c.type === 'choice' && c.values.length > 0 && c.values.every(v => /^\d+$/.test(v.value))
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
export function shared(c: Choice, elements: Element[]): { value?: string; mix: [string, number][] } {
  const counts = new Map<string, number>()
  for (const el of elements) {
    const v = el.props?.[c.prop]
    const text = v === undefined ? c.default : words(v)
    counts.set(text, (counts.get(text) ?? 0) + 1)
  }
  const mix = [...counts].sort((a, b) => b[1] - a[1])
  return { value: mix.length === 1 ? mix[0]![0] : undefined, mix }
}
