<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Token } from '../../api/client'
import type { Box } from '../../frame/messages'
import { gapOf, holding, spanAt, stepNear, stepsOf } from './span'
import { findIn, idOf, words } from './tree'
import { useBench } from './useBench'

/** Edges of the selected element that are dragged: a column to another of the twelve,
 * a gap or a padding to another spacing step. The arrow keys do the same. */
const props = defineProps<{
  boxes: Box[]
  scale: number
  point: (e: MouseEvent) => { x: number; y: number }
  tokens: Token[]
}>()
const emit = defineEmits<{ busy: [busy: boolean] }>()
const bench = useBench()
const boxOf = (id: string) => props.boxes.find(b => idOf(b.key) === id)
const steps = computed(() => stepsOf(props.tokens, bench.theme.value))

interface Edge {
  name: string
  prop: string
  now: string
  x: number
  y: number
  w: number
  h: number
  across: boolean
  words: string
  at: (p: { x: number; y: number }, from: { x: number; y: number }) => string
  nudge: (by: 1 | -1) => string
  guide?: Box
  tell: (value: string) => string
}

const column = computed((): Edge | undefined => {
  const f = bench.current.value
  if (f?.el.type !== 'column' || f.parent?.type !== 'row') return undefined
  const box = boxOf(f.el.id),
    row = boxOf(f.parent.id)
  if (!box || !row) return undefined
  const prop = holding(f.el, 'span', bench.width.value),
    now = words(f.el.props?.[prop])
  const from = Number(now) || spanAt(row, box, box.x + box.w)
  return {
    name: 'column',
    prop,
    now,
    x: box.x + box.w - 3,
    y: box.y + box.h / 2 - 12,
    w: 6,
    h: 24,
    across: true,
    words: `Columns of this column, ${now || 'auto'} of 12`,
    guide: row,
    at: p => String(spanAt(row, box, p.x)),
    nudge: by => String(Math.max(1, Math.min(12, from + by))),
    tell: v => `${v} of 12`,
  }
})
/** What is set in spacing steps: the edge, how much room there is, and which way it grows. */
type Spaced = 'gap' | 'padding' | 'above' | 'below'
const titles: Record<Spaced, string> = {
  gap: 'Gap',
  padding: 'Padding',
  above: 'Padding above',
  below: 'Padding below',
}
function spaced(
  name: Spaced,
  px: number,
  across: boolean,
  box: { x: number; y: number; w: number; h: number },
): Edge | undefined {
  const el = bench.current.value!.el
  const prop = holding(el, name, bench.width.value)
  const step = stepNear(steps.value, px)
  if (!step) return undefined
  const at = steps.value.indexOf(step)
  return {
    name,
    prop,
    now: words(el.props?.[prop]),
    ...box,
    across,
    words: `${titles[name]} of this ${bench.title(el.id)}, step ${step.name}`,
    at: (p, from) =>
      stepNear(
        steps.value,
        px + (across ? p.x - from.x : name === 'below' ? from.y - p.y : p.y - from.y),
      )!.name,
    nudge: by => steps.value[Math.max(0, Math.min(steps.value.length - 1, at + by))]!.name,
    tell: v => `${name} ${v}, ${steps.value.find(s => s.name === v)?.px} px`,
  }
}
const kinds = { gap: ['section', 'stack', 'row', 'column', 'grid'], padding: ['section', 'stack'] }
const gap = computed(() => {
  const el = bench.current.value?.el
  const g =
    el && kinds.gap.includes(el.type) && gapOf((el.children ?? []).flatMap(c => boxOf(c.id) ?? []))
  if (!g) return undefined
  const long = Math.min(24, g.long)
  return spaced(
    'gap',
    g.px,
    g.across,
    g.across
      ? { x: g.x - 3, y: g.y - long / 2, w: 6, h: long }
      : { x: g.x - long / 2, y: g.y - 3, w: long, h: 6 },
  )
})
const padding = computed(() => {
  const el = bench.current.value?.el,
    box = el && boxOf(el.id)
  const inner = el?.children?.flatMap(c => boxOf(c.id) ?? [])[0]
  return el && box && inner && kinds.padding.includes(el.type)
    ? spaced('padding', inner.x - box.x, true, {
        x: inner.x - 3,
        y: box.y + box.h / 2 - 12,
        w: 6,
        h: 24,
      })
    : undefined
})
/** Above and below there may be other room than at the sides. */
const ends = computed(() => {
  const el = bench.current.value?.el,
    box = el && boxOf(el.id)
  const inner = el?.children?.flatMap(c => boxOf(c.id) ?? []) ?? []
  if (!box || !inner.length || !kinds.padding.includes(el.type)) return []
  const top = Math.min(...inner.map(b => b.y)),
    bottom = Math.max(...inner.map(b => b.y + b.h))
  const x = box.x + box.w / 2 - 12
  return [
    spaced('above', top - box.y, false, { x, y: top - 6, w: 24, h: 6 }),
    spaced('below', box.y + box.h - bottom, false, { x, y: bottom, w: 24, h: 6 }),
  ]
})
const edges = computed(() =>
  [column.value, gap.value, padding.value, ...ends.value].filter(e => !!e),
)

const held = ref<{ edge: Edge; value: string }>()
watch(held, h => emit('busy', !!h))
function set(edge: Edge, value: string) {
  const f = bench.root.value && findIn(bench.root.value, bench.selected.value)
  if (f && value !== edge.now)
    void bench.edit(`${edge.prop} of ${bench.title(f.el.id)}: ${value}`, [
      { op: 'set', id: f.el.id, prop: edge.prop, value },
    ])
}
function drag(e: PointerEvent, edge: Edge) {
  const from = props.point(e)
  const move = (m: PointerEvent) => {
    held.value = { edge, value: edge.at(props.point(m), from) }
  }
  const end = (k?: Event) => {
    removeEventListener('pointermove', move)
    removeEventListener('pointerup', up)
    removeEventListener('keydown', escape)
    const value = held.value?.value
    held.value = undefined
    if (!k && value) set(edge, value)
  }
  const up = () => end()
  const escape = (k: KeyboardEvent) => {
    if (k.key === 'Escape') end(k)
  }
  move(e)
  addEventListener('pointermove', move)
  addEventListener('pointerup', up)
  addEventListener('keydown', escape)
}
function key(e: KeyboardEvent, edge: Edge) {
  const by = ({ ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 } as const)[e.key]
  if (!by) return
  e.preventDefault()
  set(edge, edge.nudge(by))
}
const place = (b: { x: number; y: number; w: number; h: number }) => ({
  left: b.x * props.scale + 'px',
  top: b.y * props.scale + 'px',
  width: Math.max(6, b.w * props.scale) + 'px',
  height: Math.max(6, b.h * props.scale) + 'px',
})
</script>

<template>
  <div
    v-if="held?.edge.guide"
    class="pointer-events-none absolute grid grid-cols-12"
    :style="place(held.edge.guide)"
    aria-hidden="true"
  >
    <span v-for="n in 12" :key="n" class="border-x border-moss/40 bg-moss/10"></span>
  </div>
  <button
    v-for="edge in edges"
    :key="edge.name"
    class="absolute bg-moss"
    :class="edge.across ? 'cursor-ew-resize' : 'cursor-ns-resize'"
    :data-edge="edge.name"
    :aria-label="edge.words"
    :style="place(edge)"
    @pointerdown.stop.prevent="drag($event, edge)"
    @keydown="key($event, edge)"
  ></button>
  <span
    v-if="held"
    class="pointer-events-none absolute z-10 bg-moss px-1 text-xs leading-4 whitespace-nowrap text-onmoss"
    :style="{
      left: (held.edge.x + held.edge.w) * scale + 4 + 'px',
      top: held.edge.y * scale - 16 + 'px',
    }"
    >{{ held.edge.tell(held.value)
    }}{{ held.edge.prop.includes('@') ? `, from ${held.edge.prop.split('@')[1]} px` : '' }}</span
  >
</template>
