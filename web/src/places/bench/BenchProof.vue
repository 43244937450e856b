<script setup lang="ts">
import { until, useElementSize } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import type { Element } from '../../api/client'
import type { Box } from '../../frame/messages'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import StateSelect from './StateSelect.vue'
import StateStrip from './StateStrip.vue'
import WidthStrip from './WidthStrip.vue'
import { within } from './drop'
import { useBench } from './useBench'
import { useDrag } from './useDrag'

const bench = useBench()
const ws = useWorkspace()
const router = useRouter()
const area = ref<HTMLElement>()
const surface = ref<HTMLElement>()
const stripe = ref<InstanceType<typeof WidthStrip>>()
const tile = ref<InstanceType<typeof LiveTile>>()
const { width: room } = useElementSize(area)
const boxes = shallowRef<Box[]>([])
const height = ref(600)
const painted = ref(0)
const widths = [360, 640, 960, 1280]
const scale = computed(() => Math.min(1, Math.max(0.1, room.value / bench.width.value)))

// A box's key is an element id, with piece uses before and record keys after.
const idOf = (key: string) => key.split('#')[0]!.split('/')[0]!
const ids = computed(() => {
  const out = new Set<string>()
  const collect = (el: Element) => { out.add(el.id); el.children?.forEach(collect) }
  if (bench.root.value) collect(bench.root.value)
  return out
})
const own = computed(() => boxes.value.filter(b => ids.value.has(idOf(b.key))))
const selectedBoxes = computed(() => own.value.filter(b => bench.chosen.value.includes(idOf(b.key))))
const hover = ref('')
const hoverBox = computed(() => own.value.find(b => b.key === hover.value))
const problems = computed(() => bench.page.value?.problems ?? [])

// Resolves when the frame has painted, or soon where it is not shown.
onMounted(() => {
  bench.paint.value = (list, token) => {
    if (bench.strip.value) { stripe.value?.patch(list); return Promise.resolve() }
    const seen = until(painted).toBe(token, { timeout: 60, flush: 'sync' })
    tile.value?.patch(list, token)
    return seen
  }
})
function drawn(h: number, list: Box[]) {
  height.value = Math.max(320, h)
  boxes.value = list
}
function point(e: PointerEvent) {
  const r = surface.value!.getBoundingClientRect()
  return { x: (e.clientX - r.x) / scale.value, y: (e.clientY - r.y) / scale.value }
}
function hit(e: PointerEvent): Box | undefined {
  const p = point(e)
  // Boxes come parents first: the last that holds the point is the innermost.
  return own.value.findLast(b => within(b, p))
}
const { drop, dragging, start } = useDrag(bench, own, idOf, point)
function down(e: PointerEvent) {
  const b = hit(e)
  if (!b || e.button !== 0 || bench.preview.value) return
  bench.select(idOf(b.key), e.shiftKey)
  if (ws.canBuild) start(e, idOf(b.key))
}
function go(to: string) {
  const screen = ws.screens.find(s => s.route === to) ?? ws.screens.find(s => new RegExp('^' + (s.route ?? '').replace(/:[^/]+/g, '[^/]+') + '$').test(to))
  if (screen) void router.push(`/bench/screen/${screen.id}`)
  else ws.say(`There is no screen on ${to}.`)
}
const place = (b: { x: number; y: number; w: number; h: number }) => ({ left: b.x * scale.value + 'px', top: b.y * scale.value + 'px', width: Math.max(2, b.w * scale.value) + 'px', height: Math.max(2, b.h * scale.value) + 'px' })
</script>

<template>
  <section class="flex flex-col" aria-label="Proof">
    <div class="flex h-9 shrink-0 items-center gap-3 border-b border-line px-3">
      <div role="radiogroup" aria-label="Width" class="flex items-center">
        <template v-for="(w, i) in widths" :key="w"><span v-if="i" class="h-px w-4 bg-line"></span>
          <button role="radio" :aria-checked="bench.width.value === w" class="px-1" :class="bench.width.value === w ? 'font-semibold text-moss' : 'text-ink2'" @click="bench.width.value = w">{{ w }}</button></template>
      </div>
      <button class="btn btn-bare h-6" :class="{ '!border-line': bench.strip.value === 'widths' }" :aria-pressed="bench.strip.value === 'widths'" title="All widths side by side" @click="bench.strip.value = bench.strip.value === 'widths' ? '' : 'widths'">all</button>
      <input v-if="!bench.strip.value" v-model.number="bench.width.value" type="range" min="320" max="1600" step="20" class="w-24 accent-moss max-lg:hidden" aria-label="Width in pixels" />
      <span v-if="!bench.strip.value" class="text-xs whitespace-nowrap text-ink2 max-lg:hidden">{{ bench.width.value }} px{{ scale < 1 ? `, ${Math.round(scale * 100)} %` : '' }}</span>
      <span class="ml-auto"></span>
      <StateSelect />
      <button v-if="bench.head.value?.states?.length" class="btn btn-bare h-6" :class="{ '!border-line': bench.strip.value === 'states' }" :aria-pressed="bench.strip.value === 'states'" title="All states side by side" @click="bench.strip.value = bench.strip.value === 'states' ? '' : 'states'">states</button>
      <label><span class="sr-only">Theme of the Proof</span><select v-model="bench.theme.value" class="input h-6"><option v-for="t in ws.data?.themes" :key="t">{{ t }}</option></select></label>
      <label><span class="sr-only">Sample set</span><select v-model="bench.set.value" class="input h-6"><option value="">usual</option><option v-for="s in ws.data?.sets.filter(s => s.id !== 'usual')" :key="s.id" :value="s.id">{{ s.name.toLowerCase() }}</option></select></label>
      <button class="btn h-6" :class="{ 'btn-main': bench.preview.value }" :aria-pressed="bench.preview.value" title="The kit takes pointer and keys" @click="bench.preview.value = !bench.preview.value">Preview</button>
    </div>
    <div v-if="problems.length" class="shrink-0 truncate border-b border-line px-3 py-1 text-rust">{{ problems[0]!.message }}<span v-if="problems.length > 1"> and {{ problems.length - 1 }} more</span></div>
    <div class="min-h-0 flex-1 overflow-auto bg-wash p-4">
      <StateStrip v-if="bench.strip.value === 'states'" />
      <WidthStrip v-else-if="bench.strip.value" ref="stripe" :widths="widths" />
      <div v-else ref="area">
        <TileStage :live="bench.preview.value" class="mx-auto" :style="{ width: bench.width.value * scale + 'px' }">
          <div ref="surface" class="relative touch-none outline outline-1 outline-line select-none" :data-painted="painted" @pointermove="hover = hit($event)?.key ?? ''" @pointerleave="hover = ''" @pointerdown="down" @dblclick="bench.editingText.value = bench.selected.value">
            <LiveTile ref="tile" :html="bench.page.value?.html" :props="bench.page.value?.props" :width="bench.width.value" :theme="bench.theme.value" :height="height * scale" measure :live="bench.preview.value" :label="`Proof of ${bench.head.value?.title}`" @drawn="drawn" @painted="t => painted = t" @go="go" />
            <template v-if="!bench.preview.value">
              <div v-if="hoverBox && !dragging" class="pointer-events-none absolute outline outline-1 outline-slate" :style="place(hoverBox)"><span class="absolute -top-4 left-0 bg-slate px-1 text-xs leading-4 whitespace-nowrap text-ground">{{ bench.title(idOf(hoverBox.key)) }}</span></div>
              <div v-for="b in selectedBoxes" :key="b.key" class="bracket pointer-events-none !absolute" data-selected :style="place(b)"></div>
              <div v-if="drop" class="pointer-events-none absolute bg-moss" data-drop :style="place(drop)"><span class="absolute -top-4 bg-moss px-1 text-xs leading-4 whitespace-nowrap text-onmoss">{{ drop.words }}</span></div>
            </template>
          </div>
        </TileStage>
      </div>
    </div>
  </section>
</template>
