import type { Schemas } from '../../api/client'

export type Part = Schemas['PicturePart']
export type Rect = Schemas['PictureRect']

/** What changes the boxes of a plan; each leaves the tree that it is given as it is. */

export const count = (p: Part): number => 1 + (p.parts ?? []).reduce((n, c) => n + count(c), 0)

export function find(root: Part, id: string): Part | undefined {
  if (root.id === id) return root
  for (const c of root.parts ?? []) {
    const got = find(c, id)
    if (got) return got
  }
  return undefined
}

export function parentOf(root: Part, id: string): Part | undefined {
  for (const c of root.parts ?? []) {
    if (c.id === id) return root
    const got = parentOf(c, id)
    if (got) return got
  }
  return undefined
}

/** The tree with one part made into others: none, one or several. */
function become(root: Part, id: string, make: (p: Part) => Part[]): Part {
  if (!root.parts?.length) return root
  const parts = root.parts.flatMap(c => (c.id === id ? make(c) : [become(c, id, make)]))
  return { ...root, parts }
}

export const set = (root: Part, id: string, to: Partial<Part>): Part =>
  root.id === id ? { ...root, ...to } : become(root, id, p => [{ ...p, ...to }])

/** A box goes, what it holds stays where it stood. */
export const dissolve = (root: Part, id: string): Part => become(root, id, p => p.parts ?? [])

/** A box goes with all that it holds. */
export const remove = (root: Part, id: string): Part => become(root, id, () => [])

export const holds = (a: Rect, b: Rect) =>
  b.x >= a.x && b.y >= a.y && b.x + b.w <= a.x + a.w && b.y + b.h <= a.y + a.h

export function around(list: Rect[]): Rect {
  const x = Math.min(...list.map(r => r.x)),
    y = Math.min(...list.map(r => r.y))
  return {
    x,
    y,
    w: Math.max(...list.map(r => r.x + r.w)) - x,
    h: Math.max(...list.map(r => r.y + r.h)) - y,
  }
}

function free(root: Part): string {
  let most = 0
  const walk = (p: Part) => {
    most = Math.max(most, Number(/^p(\d+)$/.exec(p.id)?.[1] ?? 0))
    p.parts?.forEach(walk)
  }
  walk(root)
  return `p${most + 1}`
}

/** A box becomes two, one after the other; what it holds goes to the half it stands in. */
export function split(root: Part, id: string, across: boolean): Part {
  const p = find(root, id)
  if (!p || p === root || (across ? p.at.w : p.at.h) < 2) return root
  const half = Math.floor((across ? p.at.w : p.at.h) / 2)
  const first: Rect = across ? { ...p.at, w: half } : { ...p.at, h: half }
  const second: Rect = across
    ? { ...p.at, x: p.at.x + half, w: p.at.w - half }
    : { ...p.at, y: p.at.y + half, h: p.at.h - half }
  const middle = (r: Rect) => (across ? r.x + r.w / 2 : r.y + r.h / 2)
  const line = across ? second.x : second.y
  const other = free(root)
  const here = (p.parts ?? []).filter(c => middle(c.at) < line),
    there = (p.parts ?? []).filter(c => middle(c.at) >= line)
  return become(root, id, () => [
    { ...p, at: first, parts: here },
    { ...p, id: other, name: `${p.name} b`, at: second, parts: there, becomes: '', text: '' },
  ])
}

/** A box and its next sibling come to stand in a new one. */
export function join(root: Part, id: string): Part {
  const parent = parentOf(root, id)
  const at = parent?.parts?.findIndex(c => c.id === id) ?? -1
  const a = parent?.parts?.[at],
    b = parent?.parts?.[at + 1]
  if (!parent || !a || !b) return root
  const group: Part = {
    id: free(root),
    name: `${a.name} and ${b.name}`.slice(0, 80),
    at: around([a.at, b.at]),
    look: 'group',
    across: parent.across,
    parts: [a, b],
  }
  const parts = [...parent.parts!.slice(0, at), group, ...parent.parts!.slice(at + 2)]
  return set(root, parent.id, { parts })
}

/** A new box stands in the smallest that holds it, and takes in what lies in it. */
export function add(root: Part, at: Rect): { root: Part; id: string } {
  let parent = root
  for (let next: Part | undefined = root; next;) {
    parent = next
    next = parent.parts?.find(c => holds(c.at, at) && c.at.w * c.at.h > at.w * at.h)
  }
  const id = free(root)
  const inside = (parent.parts ?? []).filter(c => holds(at, c.at))
  const box: Part = {
    id,
    name: `box ${id.slice(1)}`,
    at,
    look: inside.length ? 'group' : 'text',
    parts: inside,
  }
  const rest = (parent.parts ?? []).filter(c => !inside.includes(c))
  const before = rest.filter(c =>
    parent.across ? c.at.x + c.at.w / 2 < at.x + at.w / 2 : c.at.y + c.at.h / 2 < at.y + at.h / 2,
  ).length
  return {
    root: set(root, parent.id, { parts: [...rest.slice(0, before), box, ...rest.slice(before)] }),
    id,
  }
}

/** A box changes places with the one before or after it. */
export function move(root: Part, id: string, by: 1 | -1): Part {
  const parent = parentOf(root, id)
  const parts = [...(parent?.parts ?? [])]
  const at = parts.findIndex(c => c.id === id)
  const to = at + by
  if (!parent || to < 0 || to >= parts.length) return root
  ;[parts[at], parts[to]] = [parts[to]!, parts[at]!]
  return set(root, parent.id, { parts })
}

/** A box goes into the one before it, or out of the one it stands in, to stand after it. */
export function nest(root: Part, id: string, deeper: boolean): Part {
  const parent = parentOf(root, id)
  const box = find(root, id)
  if (!parent || !box) return root
  if (deeper) {
    const before = parent.parts![parent.parts!.findIndex(c => c.id === id) - 1]
    if (!before) return root
    return set(remove(root, id), before.id, {
      parts: [...(before.parts ?? []), box],
      at: around([before.at, box.at]),
      look: before.parts?.length ? before.look : 'group',
    })
  }
  if (parent === root) return root
  return become(remove(root, id), parent.id, p => [p, box])
}

/** The place within the picture, whole pixels, at least one wide and high. */
export function within(at: Rect, all: Rect): Rect {
  const w = Math.max(1, Math.min(all.w, Math.round(at.w))),
    h = Math.max(1, Math.min(all.h, Math.round(at.h)))
  return {
    x: Math.max(0, Math.min(all.w - w, Math.round(at.x))),
    y: Math.max(0, Math.min(all.h - h, Math.round(at.y))),
    w,
    h,
  }
}

/** All boxes with how deep they stand, as lines. */
export function lines(root: Part): { part: Part; depth: number }[] {
  const out: { part: Part; depth: number }[] = []
  const walk = (p: Part, depth: number) => {
    out.push({ part: p, depth })
    p.parts?.forEach(c => walk(c, depth + 1))
  }
  root.parts?.forEach(c => walk(c, 0))
  return out
}
