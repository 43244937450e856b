import type { Element } from '../../api/client'
import type { Box } from '../../frame/messages'
import { before, contains, findIn } from './tree'

/** Where a dragged element would land: the mark that shows it, and the move. */
export interface Drop { x: number; y: number; w: number; h: number; parent: string; slot: string; after: string; words: string }

export interface Drawn {
  root: Element
  boxes: Box[] // parents first
  idOf: (key: string) => string
  title: (id: string) => string
}

const containers = ['stack', 'section', 'row', 'column', 'grid']

export const within = (b: Box, p: { x: number; y: number }) => p.x >= b.x && p.x <= b.x + b.w && p.y >= b.y && p.y <= b.y + b.h

/** Finds where an element lands at a point: in an empty container, at the end of
 * the root, or before or after the innermost element there. */
export function landing({ root, boxes, idOf, title }: Drawn, moved: Element, p: { x: number; y: number }): Drop | undefined {
  const target = boxes.findLast(b => within(b, p) && !contains(moved, idOf(b.key)))
  const f = target && findIn(root, idOf(target.key))
  if (!target || !f) return undefined
  if (!f.el.children?.length && containers.includes(f.el.type)) return { x: target.x, y: target.y, w: target.w, h: target.h, parent: f.el.id, slot: '', after: '', words: `into ${title(f.el.id)}` }
  if (!f.parent) {
    const last = f.el.children?.findLast(c => !c.slot && c.id !== moved.id)
    return { x: target.x, y: target.y + target.h - 2, w: target.w, h: 2, parent: f.el.id, slot: '', after: last?.id ?? '', words: `at the end of ${title(f.el.id)}` }
  }
  const { el, parent } = f
  const siblings = boxes.filter(b => parent.children!.some(c => c.id === idOf(b.key) && (c.slot ?? '') === (el.slot ?? '')))
  // Siblings on one height stand side by side: the mark is upright between them.
  const across = siblings.some(b => b.key !== target.key && Math.abs(b.y - target.y) < Math.min(b.h, target.h) / 2)
  const late = across ? p.x > target.x + target.w / 2 : p.y > target.y + target.h / 2
  let anchor = late ? el.id : before(parent, el)
  if (anchor === moved.id) anchor = before(parent, moved)
  const line = across ? { x: late ? target.x + target.w : target.x - 2, y: target.y, w: 2, h: target.h } : { x: target.x, y: late ? target.y + target.h : target.y - 2, w: target.w, h: 2 }
  return { ...line, parent: parent.id, slot: el.slot ?? '', after: anchor, words: `${late ? 'after' : 'before'} ${title(el.id)}` }
}
