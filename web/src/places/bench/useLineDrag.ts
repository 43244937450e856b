import { onScopeDispose, shallowRef, type Ref } from 'vue'
import { chosenIn } from './clipboard'
import { INDENT, lineLanding, type LineDrop } from './drop'
import type { KitIndex } from './tree'
import type { Bench } from './useBench'

/** Dragging lines: all that are selected go along, a mark shows exactly where to, and
 * near the edges the list moves. Escape gives it up. */
export function useLineDrag(bench: Bench, kit: () => KitIndex, list: Ref<HTMLElement | undefined>) {
  const drop = shallowRef<LineDrop>()
  const dragging = shallowRef<ReadonlySet<string>>(new Set()) // ids of what goes along
  let stop: (() => void) | undefined
  onScopeDispose(() => stop?.())

  function start(e: PointerEvent, id: string) {
    const root = bench.root.value
    if (e.button !== 0 || e.shiftKey || !root || id === root.id || e.pointerType === 'touch') return
    const from = { x: e.clientX, y: e.clientY }
    const ids = bench.chosen.value.includes(id) ? bench.chosen.value : [id]
    const moved = chosenIn(root, ids).filter(el => el.id !== root.id)
    const move = (m: PointerEvent) => {
      if (!dragging.value.size && Math.hypot(m.clientX - from.x, m.clientY - from.y) < 5) return
      if (!dragging.value.size) dragging.value = new Set(moved.map(el => el.id))
      const box = list.value
      if (!box) return
      const { top, bottom } = box.getBoundingClientRect()
      if (m.clientY < top + 24) box.scrollTop -= 12
      else if (m.clientY > bottom - 24) box.scrollTop += 12
      const line = document
        .elementFromPoint(m.clientX, m.clientY)
        ?.closest<HTMLElement>('[data-line]')
      if (!line || !box.contains(line)) {
        drop.value = undefined
        return
      }
      const r = line.getBoundingClientRect()
      drop.value = lineLanding(
        bench.root.value!,
        bench.lines.value,
        kit(),
        moved,
        line.dataset.line!,
        (m.clientY - r.y) / r.height,
        Math.floor((m.clientX - r.x - 8) / INDENT),
      )
    }
    const finish = (to?: LineDrop, released = false) => {
      removeEventListener('pointermove', move)
      removeEventListener('pointerup', up)
      removeEventListener('keydown', escape, true)
      stop = undefined
      drop.value = undefined
      if (!dragging.value.size) return
      // The press that ends here selects nothing more.
      const swallow = (c: Event) => {
        c.stopPropagation()
      }
      const free = () =>
        setTimeout(() => {
          removeEventListener('click', swallow, true)
        })
      addEventListener('click', swallow, true)
      if (released) free()
      else addEventListener('pointerup', free, { once: true })
      dragging.value = new Set()
      if (to) void bench.moveTo(moved, to)
    }
    const up = () => finish(drop.value, true)
    const escape = (k: KeyboardEvent) => {
      if (k.key === 'Escape') {
        k.stopPropagation()
        finish()
      }
    }
    stop = () => finish()
    addEventListener('pointermove', move)
    addEventListener('pointerup', up)
    addEventListener('keydown', escape, true)
  }
  return { drop, dragging, start }
}
