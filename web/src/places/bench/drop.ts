import type { Element } from '../../api/client'
import type { Box } from '../../frame/messages'
import { before, contains, findIn, type KitIndex, type Line } from './tree'

/** Where a dragged element would land: the mark that shows it, and the move. */
export interface Drop {
  x: number
  y: number
  w: number
  h: number
  parent: string
  slot: string
  after: string
  words: string
}

export interface Drawn {
  root: Element
  boxes: Box[] // parents first
  idOf: (key: string) => string
  title: (id: string) => string
}

const containers = ['stack', 'section', 'row', 'column', 'grid']

export const within = (b: Box, p: { x: number; y: number }) =>
  p.x >= b.x && p.x <= b.x + b.w && p.y >= b.y && p.y <= b.y + b.h

/** Finds where an element lands at a point: in an empty container, at the end of
 * the root, or before or after the innermost element there. */
export function landing(
  { root, boxes, idOf, title }: Drawn,
  moved: Element,
  p: { x: number; y: number },
): Drop | undefined {
  const target = boxes.findLast(b => within(b, p) && !contains(moved, idOf(b.key)))
  const f = target && findIn(root, idOf(target.key))
  if (!target || !f) return undefined
  if (!f.el.children?.length && containers.includes(f.el.type))
    return {
      x: target.x,
      y: target.y,
      w: target.w,
      h: target.h,
      parent: f.el.id,
      slot: '',
      after: '',
      words: `into ${title(f.el.id)}`,
    }
  if (!f.parent) {
    const last = f.el.children?.findLast(c => !c.slot && c.id !== moved.id)
    return {
      x: target.x,
      y: target.y + target.h - 2,
      w: target.w,
      h: 2,
      parent: f.el.id,
      slot: '',
      after: last?.id ?? '',
      words: `at the end of ${title(f.el.id)}`,
    }
  }
  const { el, parent } = f
  const siblings = boxes.filter(b =>
    parent.children!.some(c => c.id === idOf(b.key) && (c.slot ?? '') === (el.slot ?? '')),
  )
  // Siblings on one height stand side by side: the mark is upright between them.
  const across = siblings.some(
    b => b.key !== target.key && Math.abs(b.y - target.y) < Math.min(b.h, target.h) / 2,
  )
  const late = across ? p.x > target.x + target.w / 2 : p.y > target.y + target.h / 2
  let anchor = late ? el.id : before(parent, el)
  if (anchor === moved.id) anchor = before(parent, moved)
  const line = across
    ? { x: late ? target.x + target.w : target.x - 2, y: target.y, w: 2, h: target.h }
    : { x: target.x, y: late ? target.y + target.h : target.y - 2, w: target.w, h: 2 }
  return {
    ...line,
    parent: parent.id,
    slot: el.slot ?? '',
    after: anchor,
    words: `${late ? 'after' : 'before'} ${title(el.id)}`,
  }
}

/** Where dragged lines would land: the mark stands after the line `after` is seen at,
 * indented as what lands there will be, or around a line that takes it inside. */
export interface LineDrop {
  line: string
  edge: 'before' | 'after' | 'inside'
  depth: number
  parent: string
  slot: string
  after: string
  words: string
}

/** How far a line is indented for each level, in pixels. */
export const INDENT = 14

/** Finds where dragged elements land at a line: before or after it, or inside where the
 * pointer is at its middle. share is how far down the line the pointer is, from 0 to 1;
 * depth is the level that the pointer's place across stands for: after the last line of
 * a part it says after which of those around that ends here. */
export function lineLanding(
  root: Element,
  lines: readonly Line[],
  kit: KitIndex,
  moved: readonly Element[],
  id: string,
  share: number,
  depth: number,
): LineDrop | undefined {
  const at = lines.findIndex(l => l.el.id === id)
  const line = lines[at]
  if (!line || moved.some(m => contains(m, id))) return undefined
  const { el, parent } = line
  const title = (e: Element) => kit.get(e.type)?.title ?? e.type
  const isMoved = (e: Element) => moved.some(m => m.id === e.id)
  const takes = !!kit.get(el.type)?.slots.length || !!el.children?.length
  const own = (el.children ?? []).filter(c => !isMoved(c))
  const inside = (after: string, edge: LineDrop['edge']): LineDrop => ({
    line: id,
    edge,
    depth: line.depth + 1,
    parent: el.id,
    slot: '',
    after,
    words: `${after ? 'at the end of' : 'into'} ${title(el)}`,
  })
  const shown = !line.folded && own.length > 0
  if (!parent || (takes && share > 0.3 && share < 0.7))
    return inside(own.findLast(c => !c.slot)?.id ?? '', 'inside')
  if (share >= 0.5 && shown)
    return {
      ...inside('', 'after'),
      slot: own[0]!.slot ?? '',
      words: `into ${title(el)}, at the beginning`,
    }
  const beside = (a: Element, up: Element, late: boolean, level: number): LineDrop => {
    const list = (up.children ?? []).filter(c => (c.slot ?? '') === (a.slot ?? '') && !isMoved(c))
    const after = late ? a.id : (list[list.findIndex(c => c.id === a.id) - 1]?.id ?? '')
    return {
      line: id,
      edge: late ? 'after' : 'before',
      depth: level,
      parent: up.id,
      slot: a.slot ?? '',
      after,
      words: `${late ? 'after' : 'before'} ${title(a)}`,
    }
  }
  if (share < 0.5) return beside(el, parent, false, line.depth)
  // After the last of a part one can mean after the part, too.
  const next = lines[at + 1]?.depth ?? 0
  let a = el,
    up = parent,
    level = line.depth
  while (level > Math.max(depth, next, 1)) {
    const further = findIn(root, up.id)
    if (!further?.parent) break
    a = up
    up = further.parent
    level--
  }
  return moved.some(m => contains(m, up.id)) ? undefined : beside(a, up, true, level)
}
