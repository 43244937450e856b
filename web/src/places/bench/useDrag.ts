import { ref, type ComputedRef } from 'vue'
import type { Element } from '../../api/client'
import type { Box } from '../../frame/messages'
import { before, contains, findIn } from './tree'
import type { Bench } from './useBench'

interface Drop { x: number; y: number; w: number; h: number; parent: string; slot: string; after: string; words: string }
const containers = ['stack', 'section', 'row', 'column', 'grid']

/** Dragging an element on the Proof: where it would land is shown as a line
 * between its new neighbours, and dropped there as one move. */
export function useDrag(bench: Bench, boxes: ComputedRef<Box[]>, idOf: (key: string) => string, point: (e: PointerEvent) => { x: number; y: number }) {
  const drop = ref<Drop>()
  const dragging = ref(false)

  function find(e: PointerEvent, moved: Element): Drop | undefined {
    const { x, y } = point(e)
    const target = boxes.value.findLast(b => x >= b.x && x <= b.x + b.w && y >= b.y && y <= b.y + b.h && !contains(moved, idOf(b.key)))
    const f = target && findIn(bench.root.value!, idOf(target.key))
    if (!target || !f) return undefined
    // An empty container takes the element in; else it lands before or after.
    if (!f.el.children?.length && containers.includes(f.el.type)) return { ...target, parent: f.el.id, slot: '', after: '', words: `into ${bench.title(f.el.id)}` }
    if (!f.parent) {
      const last = f.el.children?.findLast(c => !c.slot && c.id !== moved.id)
      return { x: target.x, y: target.y + target.h - 2, w: target.w, h: 2, parent: f.el.id, slot: '', after: last?.id ?? '', words: `at the end of ${bench.title(f.el.id)}` }
    }
    const siblings = boxes.value.filter(b => f.parent!.children!.some(c => c.id === idOf(b.key) && (c.slot ?? '') === (f.el.slot ?? '')))
    const across = siblings.some(b => b.key !== target.key && Math.abs(b.y - target.y) < Math.min(b.h, target.h) / 2)
    const late = across ? x > target.x + target.w / 2 : y > target.y + target.h / 2
    let anchor = late ? f.el.id : before(f.parent, f.el)
    if (anchor === moved.id) anchor = before(f.parent, moved)
    const line = across ? { x: late ? target.x + target.w : target.x - 2, y: target.y, w: 2, h: target.h } : { x: target.x, y: late ? target.y + target.h : target.y - 2, w: target.w, h: 2 }
    return { ...line, parent: f.parent.id, slot: f.el.slot ?? '', after: anchor, words: `${late ? 'after' : 'before'} ${bench.title(f.el.id)}` }
  }

  function start(e: PointerEvent, id: string) {
    const from = { x: e.clientX, y: e.clientY }
    const moved = findIn(bench.root.value!, id)
    if (!moved?.parent) return
    const move = (m: PointerEvent) => {
      if (!dragging.value && Math.hypot(m.clientX - from.x, m.clientY - from.y) < 5) return
      dragging.value = true
      drop.value = find(m, moved.el)
    }
    const finish = (d?: Drop) => {
      removeEventListener('pointermove', move)
      removeEventListener('pointerup', up)
      removeEventListener('keydown', escape)
      drop.value = undefined
      dragging.value = false
      if (d) void bench.edit(`Move ${bench.title(id)}`, [{ op: 'move', id, parent: d.parent, slot: d.slot, after: d.after }])
    }
    const up = () => finish(drop.value)
    const escape = (k: KeyboardEvent) => { if (k.key === 'Escape') finish() }
    addEventListener('pointermove', move)
    addEventListener('pointerup', up)
    addEventListener('keydown', escape)
  }
  return { drop, dragging, start }
}
