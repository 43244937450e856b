<script setup lang="ts">
import { until, useElementSize, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { turned as withTheme } from '../../../../core/render/acts.js'
import { ask, GET, type Element, type Schemas, type Token } from '../../api/client'
import type { Box } from '../../frame/messages'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { home } from '../../use/focus'
import { useWorkspace } from '../../use/workspace'
import LookStrip from './LookStrip.vue'
import ProofEdges from './ProofEdges.vue'
import StateSelect from './StateSelect.vue'
import WidthStrip from './WidthStrip.vue'
import { within } from './drop'
import { findIn, idOf, parseTyped } from './tree'
import { useBench } from './useBench'
import { useDrag } from './useDrag'

defineProps<{ tokens: Token[] }>()
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
const fit = computed(() => Math.min(1, Math.max(0.1, room.value / bench.width.value)))
const zoom = ref(0) // percent; 0 fits
const scale = computed(() => (zoom.value ? zoom.value / 100 : fit.value))
// Devices lie down as well: what was their height becomes their width.
const lying: Record<number, number> = { 360: 780, 640: 1100, 960: 1380, 1280: 800 }
const turned = computed(() => Object.entries(lying).find(([, w]) => w === bench.width.value)?.[0])
const turn = () => {
  bench.width.value = Number(turned.value ?? lying[bench.width.value] ?? bench.width.value)
}

const ids = computed(() => {
  const out = new Set<string>()
  const collect = (el: Element) => {
    out.add(el.id)
    el.children?.forEach(collect)
  }
  if (bench.root.value) collect(bench.root.value)
  return out
})
const own = computed(() => boxes.value.filter(b => ids.value.has(idOf(b.key))))
const selectedBoxes = computed(() =>
  own.value.filter(b => bench.chosen.value.includes(idOf(b.key))),
)
const hover = ref('')
const hoverBox = computed(() => own.value.find(b => b.key === hover.value))
const problems = computed(() => bench.picture.value?.page.problems ?? [])

// Resolves when the frame has painted, or soon where it is not shown.
onMounted(() => {
  bench.paint.value = (list, token) => {
    if (bench.strip.value) {
      stripe.value?.patch(list)
      return Promise.resolve()
    }
    const seen = until(painted).toBe(token, { timeout: 60, flush: 'sync' })
    tile.value?.patch(list, token)
    return seen
  }
})
function drawn(h: number, list: Box[]) {
  height.value = Math.max(320, h)
  boxes.value = list
}
function point(e: MouseEvent) {
  const r = surface.value!.getBoundingClientRect()
  return { x: (e.clientX - r.x) / scale.value, y: (e.clientY - r.y) / scale.value }
}
function hit(e: MouseEvent): Box | undefined {
  const p = point(e)
  // Boxes come parents first: the last that holds the point is the innermost.
  return own.value.findLast(b => within(b, p))
}
const { drop, dragging, start } = useDrag(bench, own, idOf, point)
function down(e: PointerEvent) {
  const b = hit(e)
  if (!b || e.button !== 0 || bench.preview.value) return
  if (e.shiftKey) bench.selectMore(idOf(b.key))
  else bench.select(idOf(b.key))
  if (bench.canBuild.value && !e.shiftKey) start(e, idOf(b.key))
}
/** After the pointer, the line of what was pressed takes the keys. */
function toLine() {
  if (!writing.value && !bench.preview.value) home()?.focus({ preventScroll: true })
}
// Texts are written where they stand; what is computed is written on its line.
const writing = ref<Box>()
const text = ref('')
const field = ref<HTMLInputElement>()
async function write(e: MouseEvent) {
  const b = hit(e)
  const el = b && bench.root.value && findIn(bench.root.value, idOf(b.key))?.el
  if (!b || !el || !bench.canBuild.value) return
  if (bench.language.value) {
    ws.say('In this language, words are changed among the texts.')
    return
  }
  if (typeof el.text !== 'string') {
    bench.editingText.value = el.id
    return
  }
  text.value = el.text
  writing.value = b
  await nextTick()
  field.value?.select()
}
async function written() {
  const b = writing.value
  if (!b) return
  const id = idOf(b.key)
  const was = bench.root.value && findIn(bench.root.value, id)?.el.text
  if (
    text.value === was ||
    (await bench.edit(`Text of ${bench.title(id)}`, [
      { op: 'text', id, value: parseTyped(text.value) },
    ]))
  )
    writing.value = undefined
}
const stretching = ref(false)
/** The elements around the selected one, the outermost first. */
const path = computed(() => {
  const out: string[] = []
  for (
    let f = bench.current.value;
    f;
    f = f.parent && bench.root.value ? findIn(bench.root.value, f.parent.id) : undefined
  )
    out.unshift(f.el.id)
  return out
})
function go(to: string) {
  const screen =
    ws.screens.find(s => s.route === to) ??
    ws.screens.find(s =>
      new RegExp('^' + (s.route ?? '').replace(/:[^/]+/g, '[^/]+') + '$').test(to),
    )
  if (screen) void router.push(`/bench/screen/${screen.id}`)
  else ws.say(`There is no screen on ${to}.`)
}
// The page margin that the team's screens share, at the width looked at.
const rulers = useLocalStorage('ubiquant-rulers', false)
const margins = shallowRef<Schemas['ApiMargin'][]>([])
watch(
  [rulers, bench.doc],
  async () => {
    if (!rulers.value) return
    const [kind, id] = bench.doc.value.split(':') as [string, string]
    try {
      margins.value = (
        await ask(GET('/api/docs/{kind}/{id}/rulers', { params: { path: { kind, id } } }))
      ).margins
    } catch (e) {
      ws.say((e as Error).message)
    }
  },
  { immediate: true },
)
const margin = computed(() => {
  const m = margins.value.findLast(o => o.from <= bench.width.value)
  const page = own.value.find(b => idOf(b.key) === bench.root.value?.id)
  const px = m && parseFloat(m.sizes[bench.theme.value] ?? m.sizes[ws.data?.themes[0] ?? ''] ?? '')
  return rulers.value && page && m && px
    ? { ...m, px, left: page.x + px, right: page.x + page.w - px }
    : undefined
})
// What was opened in the preview does not stay so.
const fresh = ref(0)
watch(bench.preview, on => {
  if (!on) fresh.value++
})
/** What the preview is told to do beside going somewhere. */
function act(verb: string, to: string, on?: boolean) {
  if (verb === 'state') {
    const state = to === 'ready' ? '' : to
    if (!state || bench.head.value?.states?.some(s => s.name === state)) bench.state.value = state
    else ws.say(`The screen has no state ${to}.`)
  }
  if (verb === 'touch') bench.touch(to)
  if (verb === 'theme')
    bench.theme.value = withTheme(bench.theme.value, to, ws.data?.themes[0] ?? '', on)
}
const place = (b: { x: number; y: number; w: number; h: number }) => ({
  left: b.x * scale.value + 'px',
  top: b.y * scale.value + 'px',
  width: Math.max(2, b.w * scale.value) + 'px',
  height: Math.max(2, b.h * scale.value) + 'px',
})
</script>

<template>
  <section class="flex flex-col" aria-label="Proof">
    <div class="flex h-9 shrink-0 items-center gap-3 border-b border-line px-3">
      <div role="radiogroup" aria-label="Width" class="flex items-center">
        <template v-for="(w, i) in widths" :key="w"
          ><span v-if="i" class="h-px w-4 bg-line"></span>
          <button
            role="radio"
            :aria-checked="bench.width.value === w"
            class="px-1"
            :class="bench.width.value === w ? 'font-semibold text-moss' : 'text-ink2'"
            @click="bench.width.value = w"
          >
            {{ w }}
          </button></template
        >
      </div>
      <button
        class="btn btn-bare h-6"
        :class="{ '!border-line': bench.strip.value === 'widths' }"
        :aria-pressed="bench.strip.value === 'widths'"
        title="All widths side by side"
        @click="bench.strip.value = bench.strip.value === 'widths' ? '' : 'widths'"
      >
        all
      </button>
      <input
        v-if="!bench.strip.value"
        v-model.number="bench.width.value"
        type="range"
        min="320"
        max="1600"
        step="20"
        class="w-16 accent-moss max-xl:hidden"
        aria-label="Width in pixels"
      />
      <span
        v-if="!bench.strip.value"
        class="text-xs whitespace-nowrap text-ink2"
        :class="ws.data?.languages.length ? 'max-2xl:hidden' : 'max-lg:hidden'"
        >{{ bench.width.value }} px</span
      >
      <span class="ml-auto"></span>
      <StateSelect />
      <button
        v-if="bench.head.value?.states?.length"
        class="btn btn-bare h-6"
        :class="{ '!border-line': bench.strip.value === 'states' }"
        :aria-pressed="bench.strip.value === 'states'"
        title="All states side by side"
        @click="bench.strip.value = bench.strip.value === 'states' ? '' : 'states'"
      >
        states
      </button>
      <label v-if="ws.data?.languages.length"
        ><span class="sr-only">Language of the Proof</span
        ><select v-model="bench.language.value" class="input h-6 w-16">
          <option value="">as written</option>
          <option v-for="l in ws.data.languages" :key="l.id" :value="l.id">
            {{ l.id }} · {{ l.name }}
          </option>
        </select></label
      >
      <label
        ><span class="sr-only">Theme of the Proof</span
        ><select v-model="bench.theme.value" class="input h-6">
          <option v-for="t in ws.data?.themes" :key="t">{{ t }}</option>
        </select></label
      >
      <label
        ><span class="sr-only">Sample set</span
        ><select v-model="bench.set.value" class="input h-6 w-24">
          <option value="">usual</option>
          <option
            v-for="s in ws.data?.sets.filter(s => s.id !== 'usual')"
            :key="s.id"
            :value="s.id"
          >
            {{ s.name.toLowerCase() }}
          </option>
          <optgroup v-if="ws.data?.sourced.length" label="From the service">
            <option
              v-for="s in [
                'live',
                'live-loading',
                'live-slow',
                'live-refused',
                'live-failed',
                'live-empty',
              ]"
              :key="s"
              :value="s"
            >
              {{ s.replace('-', ', ') }}
            </option>
          </optgroup>
        </select></label
      >
      <button
        class="btn btn-bare h-6"
        :class="{ '!border-line': bench.strip.value === 'sets' }"
        :aria-pressed="bench.strip.value === 'sets'"
        title="With all sample sets side by side"
        @click="bench.strip.value = bench.strip.value === 'sets' ? '' : 'sets'"
      >
        sets
      </button>
      <button
        class="btn h-6"
        :class="{ 'btn-main': bench.preview.value }"
        :aria-pressed="bench.preview.value"
        title="The kit takes pointer and keys"
        @click="bench.preview.value = !bench.preview.value"
      >
        Preview
      </button>
    </div>
    <div v-if="problems.length" class="shrink-0 truncate border-b border-line px-3 py-1 text-rust">
      {{ problems[0]!.message
      }}<span v-if="problems.length > 1"> and {{ problems.length - 1 }} more</span>
    </div>
    <div class="min-h-0 flex-1 overflow-auto bg-wash p-4">
      <LookStrip v-if="bench.strip.value === 'states' || bench.strip.value === 'sets'" />
      <WidthStrip v-else-if="bench.strip.value" ref="stripe" :widths="widths" />
      <div v-else ref="area">
        <TileStage
          :live="bench.preview.value"
          class="mx-auto"
          :style="{ width: bench.width.value * scale + 'px' }"
        >
          <div
            ref="surface"
            class="relative touch-none outline outline-1 outline-line select-none"
            :data-painted="painted"
            @pointermove="hover = hit($event)?.key ?? ''"
            @pointerleave="hover = ''"
            @pointerdown="down"
            @dblclick="write"
            @click="toLine"
          >
            <LiveTile
              ref="tile"
              :key="fresh"
              :picture="bench.picture.value"
              :width="bench.width.value"
              :theme="bench.theme.value"
              :height="height * scale"
              :larger="scale > 1"
              measure
              :live="bench.preview.value"
              :label="`Proof of ${bench.head.value?.title}`"
              @drawn="drawn"
              @painted="t => (painted = t)"
              @go="go"
              @act="act"
              @held="bench.hold"
              @lost="bench.redraw"
            />
            <template v-if="!bench.preview.value">
              <div
                v-if="hoverBox && !dragging && !stretching"
                class="pointer-events-none absolute outline outline-1 outline-slate"
                :style="place(hoverBox)"
              >
                <span
                  class="absolute -top-4 left-0 bg-slate px-1 text-xs leading-4 whitespace-nowrap text-ground"
                  >{{ bench.title(idOf(hoverBox.key)) }}</span
                >
              </div>
              <template v-if="margin"
                ><div
                  v-for="(x, i) in [margin.left, margin.right]"
                  :key="i"
                  class="pointer-events-none absolute inset-y-0 w-0 border-l border-dashed border-slate"
                  data-ruler
                  :style="{ left: x * scale + 'px' }"
                >
                  <span
                    v-if="!i"
                    class="absolute top-full left-0 text-xs leading-4 whitespace-nowrap text-slate"
                    >margin {{ margin.px }} px, on {{ margin.screens }} of
                    {{ margin.of }} screens</span
                  >
                </div></template
              >
              <div
                v-for="b in selectedBoxes"
                :key="b.key"
                class="bracket pointer-events-none !absolute"
                data-selected
                :style="place(b)"
              ></div>
              <ProofEdges
                v-if="bench.canBuild.value"
                :boxes="own"
                :scale="scale"
                :point="point"
                :tokens="tokens"
                @busy="b => (stretching = b)"
              />
              <input
                v-if="writing"
                ref="field"
                v-model="text"
                class="input absolute z-10"
                :style="{
                  left: writing.x * scale + 'px',
                  top: writing.y * scale + 'px',
                  width: Math.max(120, writing.w * scale) + 'px',
                  height: Math.max(24, writing.h * scale) + 'px',
                }"
                :aria-label="`Text of ${bench.title(idOf(writing.key))}`"
                @pointerdown.stop
                @dblclick.stop
                @keydown.stop
                @keydown.enter="written"
                @keydown.esc="writing = undefined"
                @blur="written"
              />
              <div
                v-if="drop"
                class="pointer-events-none absolute bg-moss"
                data-drop
                :style="place(drop)"
              >
                <span
                  class="absolute -top-4 bg-moss px-1 text-xs leading-4 whitespace-nowrap text-onmoss"
                  >{{ drop.words }}</span
                >
              </div>
            </template>
          </div>
        </TileStage>
      </div>
    </div>
    <div
      class="flex h-7 shrink-0 items-center gap-3 border-t border-line px-3 text-xs whitespace-nowrap text-ink2"
    >
      <nav
        v-if="path.length > 1 && !bench.preview.value"
        class="flex min-w-0 items-center gap-1 overflow-x-auto"
        aria-label="What it stands in"
      >
        <template v-for="(id, i) in path" :key="id"
          ><span v-if="i" aria-hidden="true">▸</span
          ><button
            :aria-current="i === path.length - 1 ? 'true' : undefined"
            :class="i === path.length - 1 ? 'font-semibold text-ink' : 'hover:underline'"
            @click="bench.select(id)"
          >
            {{ bench.title(id) }}
          </button></template
        >
      </nav>
      <span v-if="!bench.strip.value" class="ml-auto flex shrink-0 items-center gap-3">
        <button
          :aria-pressed="rulers"
          :class="rulers ? 'font-semibold text-moss' : 'hover:underline'"
          title="The page margins that the screens share"
          @click="rulers = !rulers"
        >
          rulers
        </button>
        <button
          :disabled="!turned && !lying[bench.width.value]"
          class="enabled:hover:underline disabled:opacity-50"
          :title="`Turn the device: ${turned ?? lying[bench.width.value] ?? bench.width.value} px wide`"
          @click="turn"
        >
          turn
        </button>
        <label
          >zoom
          <select v-model.number="zoom" class="bg-transparent text-ink" aria-label="Zoom">
            <option :value="0">fit, {{ Math.round(fit * 100) }} %</option>
            <option v-for="z in [50, 75, 100, 150, 200]" :key="z" :value="z">{{ z }} %</option>
          </select></label
        >
      </span>
    </div>
  </section>
</template>
