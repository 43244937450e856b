import { ref, type ComputedRef } from 'vue'
import type { Box } from '../../frame/messages'
import { chosenIn } from './clipboard'
import { landing, type Drop } from './drop'
import { contains, findIn } from './tree'
import type { Bench } from './useBench'

/** Dragging elements on the Proof: where they would land is shown as a line between
 * their new neighbours, and they are dropped there as one move. */
export function useDrag(
  bench: Bench,
  boxes: ComputedRef<Box[]>,
  idOf: (key: string) => string,
  point: (e: PointerEvent) => { x: number; y: number },
) {
  const drop = ref<Drop>()
  const dragging = ref(false)

  function start(e: PointerEvent, id: string) {
    const from = { x: e.clientX, y: e.clientY }
    const moved = findIn(bench.root.value!, id)
    if (!moved?.parent) return
    const all = bench.chosen.value.includes(id)
      ? chosenIn(bench.root.value!, bench.chosen.value).filter(el => el.id !== bench.root.value!.id)
      : [moved.el]
    const move = (m: PointerEvent) => {
      if (!dragging.value && Math.hypot(m.clientX - from.x, m.clientY - from.y) < 5) return
      dragging.value = true
      const to = landing(
        { root: bench.root.value!, boxes: boxes.value, idOf, title: bench.title },
        moved.el,
        point(m),
      )
      drop.value = to && all.some(el => contains(el, to.parent)) ? undefined : to
    }
    const finish = (d?: Drop) => {
      removeEventListener('pointermove', move)
      removeEventListener('pointerup', up)
      removeEventListener('keydown', escape)
      drop.value = undefined
      dragging.value = false
      if (d) void bench.moveTo(all, d)
    }
    const up = () => finish(drop.value)
    const escape = (k: KeyboardEvent) => {
      if (k.key === 'Escape') finish()
    }
    addEventListener('pointermove', move)
    addEventListener('pointerup', up)
    addEventListener('keydown', escape)
  }
  return { drop, dragging, start }
}
