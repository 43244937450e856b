import type { Component, Element, Value } from '../../api/client'

/** One line of the screen: an element with what is told of it inline. */
export interface Line {
  el: Element
  parent?: Element
  depth: number
  title: string
  text: string
  bound: boolean
  telling: { prop: string; text: string }[]
  folded: boolean
  hasChildren: boolean
  /** Which of how many among its siblings, from 1. */
  place: [number, number]
}

export type KitIndex = Map<
  string,
  Pick<Component, 'tag' | 'title' | 'telling' | 'props' | 'slots' | 'level' | 'parents'>
>

export function words(v: Value | undefined): string {
  if (v === undefined || v === null) return ''
  if (typeof v === 'object') return 'expr' in v ? v.expr : 'bound' in v ? v.bound : v.token
  return String(v)
}
export const isBound = (v: Value | undefined) =>
  typeof v === 'object' && v !== null && ('expr' in v || 'bound' in v)

/** How a type is called that no kit has: plain elements, as code that was read has them. */
const plain = (type: string) =>
  type.startsWith('html-')
    ? `<${type.slice(5)}>`
    : type.startsWith('other-')
      ? type.slice(6).replace(/-/g, ' ')
      : type

/** The new tree with every part that did not change taken from the old one, so
 * that what shows it can tell by identity. An answer to an edit holds no more of
 * such a part than its id and "same". */
export function reuse(old: Element | undefined, next: Element): Element {
  if (!old) return next
  const was = new Map<string, Element>()
  const note = (el: Element) => {
    was.set(el.id, el)
    el.children?.forEach(note)
  }
  note(old)
  const fill = (el: Element): Element => {
    if (el.same) return was.get(el.id) ?? el
    el.children = el.children?.map(fill)
    return el
  }
  return kept(old, fill(next))
}

function kept(old: Element | undefined, next: Element): Element {
  if (!old || old === next || old.id !== next.id) return next
  const was = new Map((old.children ?? []).map(c => [c.id, c]))
  let same = (old.children?.length ?? 0) === (next.children?.length ?? 0)
  next.children = next.children?.map((c, i) => {
    const el = kept(was.get(c.id), c)
    same &&= el === old.children?.[i]
    return el
  })
  return same && alike(old, next, 'children') ? old : next
}

/** Whether two plain values hold the same, one key left out. */
function alike(a: unknown, b: unknown, except?: string): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || !a || !b) return false
  const x = a as Record<string, unknown>,
    y = b as Record<string, unknown>
  for (const k in x) if (k !== except && !alike(x[k], y[k])) return false
  for (const k in y) if (k !== except && !(k in x)) return false
  return true
}

const known = new WeakMap<Element, Line>()

/** The tree as lines, parents first; what is folded hides what is below. */
export function linesOf(root: Element, kit: KitIndex, folded: Set<string>): Line[] {
  const out: Line[] = []
  const visit = (
    el: Element,
    parent: Element | undefined,
    depth: number,
    place: [number, number],
  ) => {
    const def = kit.get(el.type)
    const telling = (def?.telling ?? []).flatMap(p => {
      const v = el.props?.[p]
      return v === undefined ? [] : [{ prop: p, text: v === true ? p : words(v) }]
    })
    const line: Line = {
      el,
      parent,
      depth,
      title: def?.title ?? plain(el.type),
      text: words(el.text),
      bound: isBound(el.text),
      telling,
      folded: folded.has(el.id),
      hasChildren: !!el.children?.length,
      place,
    }
    const before = known.get(el)
    // A line that says the same keeps its identity, and is not drawn again.
    if (
      before &&
      before.depth === depth &&
      before.folded === line.folded &&
      before.title === line.title &&
      before.telling.map(t => t.text).join() === telling.map(t => t.text).join()
    )
      out.push(Object.assign(before, { parent, place }))
    else {
      known.set(el, line)
      out.push(line)
    }
    if (folded.has(el.id) || !el.children) return
    // In the order of the kit's slots, as a reader meets them on the screen.
    const rank = (c: Element) => def?.slots.findIndex(s => s.name === (c.slot ?? '')) ?? 0
    el.children
      .toSorted((a, b) => rank(a) - rank(b))
      .forEach((c, i, all) => visit(c, el, depth + 1, [i + 1, all.length]))
  }
  visit(root, undefined, 0, [1, 1])
  return out
}

/** Whether a text is meant as a selector, not as a word. */
export const isSelector = (q: string) => /[[\]>#:=*]|^[a-z]+-[a-z]/.test(q)

/** Whether a line says a word, in its text, name, kind or telling props. */
export function saysWord(l: Line, q: string): boolean {
  const w = q.toLowerCase()
  return [l.title, l.text, l.el.name ?? '', l.el.id, ...l.telling.map(t => t.text)].some(s =>
    s.toLowerCase().includes(w),
  )
}

/** The lines that are met, with those around them. */
export function narrowed(lines: Line[], hits: Set<string>): Line[] {
  const keep = new Set<Line>()
  const path: Line[] = []
  for (const l of lines) {
    path.length = l.depth
    path[l.depth] = l
    if (hits.has(l.el.id)) for (const p of path) keep.add(p)
  }
  return lines.filter(l => keep.has(l))
}

export interface Found {
  el: Element
  parent?: Element
}

export function findIn(root: Element, id: string, parent?: Element): Found | undefined {
  if (root.id === id) return { el: root, parent }
  for (const c of root.children ?? []) {
    const deeper = findIn(c, id, root)
    if (deeper) return deeper
  }
  return undefined
}

/** The first element of a type. */
export function byType(root: Element, type: string): Element | undefined {
  if (root.type === type) return root
  for (const c of root.children ?? []) {
    const deeper = byType(c, type)
    if (deeper) return deeper
  }
  return undefined
}

/** The element that a box or a node of the Proof is of: its key is the id, with uses of
 * pieces before and records after. */
export const idOf = (key: string) => key.split('#')[0]!.split('/')[0]!

export const contains = (el: Element, id: string): boolean => !!findIn(el, id)

/** The siblings in the same slot, the element among them. */
export const mates = (parent: Element, el: Element) =>
  (parent.children ?? []).filter(c => (c.slot ?? '') === (el.slot ?? ''))

/** The id of the sibling before in the same slot, or '' for the first. */
export function before(parent: Element, el: Element): string {
  const list = mates(parent, el)
  return list[list.findIndex(c => c.id === el.id) - 1]?.id ?? ''
}

/** Ids are made by the client, so that an edit names what it makes. */
/** The cells that stand under the head of a column: at its place in each row that has as many
 * cells as there are heads, and what rows have another number. Only what may stand nowhere else
 * is taken for a head. */
export function cellsUnder(root: Element, head: Element, parents: readonly string[] | undefined) {
  const parent = findIn(root, head.id)?.parent
  const none = { cells: [] as Element[], others: [] as Element[] }
  if (!parent || !head.slot || head.children?.length || !parents?.includes(parent.type)) return none
  const heads = mates(parent, head).filter(m => m.type === head.type)
  const at = heads.findIndex(h => h.id === head.id)
  const beside = parent.children!.filter(c => c.slot !== head.slot)
  const full = (r: Element) => r.children?.length === heads.length
  const row = beside.find(full)?.type
  const rows = beside.filter(c => c.type === row)
  return {
    cells: rows.filter(full).map(r => r.children![at]!),
    others: rows.filter(r => !full(r)),
  }
}

export const newId = () =>
  'e' + crypto.getRandomValues(new Uint32Array(2)).reduce((s, n) => s + n.toString(36), '')

/** New ids for an element and all below it, by the old ones. */
export function newIds(el: Element, ids: Record<string, string> = {}): Record<string, string> {
  ids[el.id] = newId()
  for (const c of el.children ?? []) newIds(c, ids)
  return ids
}

/** A text typed by a person: "= …" is an expression, nothing is no value. */
export function parseTyped(text: string): Value | undefined {
  const t = text.trim()
  if (!t) return undefined
  return t.startsWith('=') ? { expr: t.slice(1).trim() } : t
}

/** A slot as people read it: those of Angular are selectors, of which the word that tells it apart is shown. */
export const slotWords = (slot: string): string =>
  /^(?:[\w-]*\[[\w-]+=["']?([^\]"']+)["']?\]|[\w-]*\[([\w-]+)\]|#([\w$]+))$/
    .exec(slot)
    ?.slice(1)
    .find(Boolean) ?? slot
