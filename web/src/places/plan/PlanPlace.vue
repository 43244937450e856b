<script setup lang="ts">
import { onKeyStroke, useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { typing } from '../../use/keys'
import { useWorkspace } from '../../use/workspace'
import BoxLine from './BoxLine.vue'
import * as boxes from './boxes'
import PictureBoxes from './PictureBoxes.vue'
import { accepted, usePlan } from './usePlan'

/** A screen is planned from a picture of a finished page: its boxes, what each becomes, and
 * the screen beside the picture at any time. */
const route = useRoute()
const ws = useWorkspace()
const id = computed(() => route.params.id as string)
const plan = usePlan(() => id.value)
const view = ref<'boxes' | 'beside' | 'over'>('boxes')
const cut = ref(50) // where the screen ends and the picture begins, in hundredths
const drawnHeight = ref(0)
const over = ref(false) // a file is held over the place
onMounted(plan.load)
watch(id, plan.load)
watch(
  () => ws.lastEvent,
  e => {
    if (e?.docs?.includes('screen:' + id.value)) void plan.load()
  },
)

const locked = computed(() => !ws.canBuild || !ws.connected)
const list = computed(() => (plan.root.value ? boxes.lines(plan.root.value) : []))
const picture = computed(() => plan.data.value?.picture)
const shown = computed(() => plan.data.value?.shown)
const title = (p: boxes.Part) => {
  if (p.becomes === 'leave') return 'nothing'
  const piece = p.becomes?.startsWith('piece:') ? p.becomes.slice(6) : ''
  if (piece) return plan.data.value?.pieces.find(o => o.id === piece)?.title ?? piece
  const type = shown.value?.types[p.id]
  return shown.value?.choices[p.id]?.find(c => c.type === type)?.title ?? ''
}
const noted = computed(() => new Map((shown.value?.notes ?? []).map(n => [n.what, n.why] as const)))
const others = computed(() =>
  (shown.value?.notes ?? []).filter(n => !list.value.some(l => l.part.name === n.what)),
)
const siblings = computed(
  () => (plan.root.value && boxes.parentOf(plan.root.value, plan.selected.value)?.parts) ?? [],
)

async function select(to: string, focus = false) {
  plan.selected.value = to
  await nextTick()
  const line = document.querySelector<HTMLElement>(`[data-box="${CSS.escape(to)}"]`)
  line?.nextElementSibling?.scrollIntoView({ block: 'nearest' })
  line?.scrollIntoView({ block: 'nearest' })
  if (focus) line?.focus({ preventScroll: true })
}
const all = computed(() => ({ x: 0, y: 0, w: picture.value!.width, h: picture.value!.height }))
function set(p: boxes.Part, to: Partial<boxes.Part>) {
  const next = to.at ? { ...to, at: boxes.within(to.at, all.value) } : to
  return plan.change(`Plan: ${p.name}`, root => boxes.set(root, p.id, next))
}
async function draw(at: boxes.Rect) {
  let made = ''
  await plan.change('Plan: a new box', root => {
    const out = boxes.add(root, at)
    made = out.id
    return out.root
  })
  await select(made)
}
const acts = {
  across: (r: boxes.Part, i: string) => boxes.split(r, i, true),
  down: (r: boxes.Part, i: string) => boxes.split(r, i, false),
  join: boxes.join,
  dissolve: boxes.dissolve,
  remove: boxes.remove,
  up: (r: boxes.Part, i: string) => boxes.move(r, i, -1),
  after: (r: boxes.Part, i: string) => boxes.move(r, i, 1),
  in: (r: boxes.Part, i: string) => boxes.nest(r, i, true),
  out: (r: boxes.Part, i: string) => boxes.nest(r, i, false),
}
/** A box in the middle of the selected one, to be moved by its numbers: drawing without a
 * pointer. */
function drawInside() {
  const at = plan.part.value?.at
  if (at)
    void draw(
      boxes.within({ x: at.x + at.w / 4, y: at.y + at.h / 4, w: at.w / 2, h: at.h / 2 }, all.value),
    )
}
async function act(what: keyof typeof acts | 'new') {
  if (what === 'new') {
    drawInside()
    return
  }
  const at = list.value.findIndex(l => l.part.id === plan.selected.value)
  const was = list.value[at]?.part
  if (!was) return
  await plan.change(`Plan: ${was.name}`, root => acts[what](root, was.id))
  if (!list.value.some(l => l.part.id === was.id))
    await select(list.value[Math.min(at, list.value.length - 1)]?.part.id ?? '', true)
}
function walk(by: number) {
  const at = list.value.findIndex(l => l.part.id === plan.selected.value)
  const to = list.value[Math.min(Math.max(at + by, 0), list.value.length - 1)]
  if (to) void select(to.part.id, true)
}
function key(e: KeyboardEvent) {
  if (locked.value && !e.key.startsWith('Arrow')) return
  if (e.altKey) {
    const what = (
      { ArrowUp: 'up', ArrowDown: 'after', ArrowRight: 'in', ArrowLeft: 'out' } as const
    )[e.key as 'ArrowUp']
    if (!what || locked.value) return
    e.preventDefault()
    void act(what)
  } else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
    e.preventDefault()
    walk(e.key === 'ArrowDown' ? 1 : -1)
  } else if (e.key === 'Delete') {
    e.preventDefault()
    void act('remove')
  } else if (e.key === 'u') void act('dissolve')
}
onKeyStroke(['z', 'Z'], async e => {
  if (!(e.ctrlKey || e.metaKey) || typing(e)) return
  e.preventDefault()
  await plan.step(!e.shiftKey)
})

function offered(files: FileList | undefined | null) {
  const file = files?.[0]
  if (file && !locked.value) void plan.read(file)
}
useEventListener('paste', (e: ClipboardEvent) => {
  if (e.clipboardData?.files.length) {
    e.preventDefault()
    offered(e.clipboardData.files)
  }
})
function drop(e: DragEvent) {
  over.value = false
  offered(e.dataTransfer?.files)
}
const views = [
  ['boxes', 'Boxes'],
  ['beside', 'Beside the screen'],
  ['over', 'Over the screen'],
] as const
</script>

<template>
  <div
    class="flex h-full flex-col"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <header class="flex flex-wrap items-center gap-3 border-b border-line px-4 py-2">
      <h1 class="text-lg">{{ plan.data.value?.title }}, from a picture</h1>
      <RouterLink :to="`/bench/screen/${id}`" class="underline">To its lines</RouterLink>
      <template v-if="picture">
        <div class="ml-auto flex" role="radiogroup" aria-label="What is shown">
          <button
            v-for="[v, words] in views"
            :key="v"
            class="btn -ml-px"
            role="radio"
            :aria-checked="view === v"
            :class="{ 'bg-mosswash font-semibold': view === v }"
            @click="view = v"
          >
            {{ words }}
          </button>
        </div>
        <label class="btn focus-within:outline-2 focus-within:outline-moss"
          >Another picture<input
            type="file"
            class="sr-only"
            :accept="accepted.join(',')"
            :disabled="locked"
            @change="offered(($event.target as HTMLInputElement).files)"
        /></label>
        <button
          class="btn btn-main"
          :disabled="locked || plan.stands.value || !!plan.busy.value"
          @click="plan.stand()"
        >
          {{ plan.plan.value?.stood ? 'Bring the screen up to it' : 'Make the screen' }}
        </button>
      </template>
    </header>
    <p v-if="plan.error.value" role="alert" class="border-b border-line px-4 py-1 text-rust">
      {{ plan.error.value }}
    </p>
    <div
      v-if="plan.left.value.length"
      role="status"
      class="border-b border-line px-4 py-1 text-slate"
    >
      Not done, because the screen has changed since:
      {{ plan.left.value.slice(0, 3).join('; ')
      }}<template v-if="plan.left.value.length > 3"
        >, and {{ plan.left.value.length - 3 }} more</template
      >.
    </div>
    <p v-if="plan.busy.value" role="status" class="px-4 py-1 text-ink2">{{ plan.busy.value }}</p>

    <div v-if="plan.data.value && !picture" class="grid flex-1 place-items-center p-6">
      <label
        class="grid w-full max-w-xl cursor-pointer gap-2 border border-dashed p-10 text-center focus-within:border-moss"
        :class="over ? 'border-moss bg-mosswash' : 'border-ink2 bg-sheet'"
        ><span class="text-lg font-semibold"
          >Drop, paste or choose a picture of a finished page</span
        ><span class="text-ink2"
          >PNG, JPEG or WebP, up to 8 MB. It is read here and stays on this server. Its areas become
          boxes, the boxes components of the kit.</span
        ><input
          type="file"
          class="sr-only"
          :accept="accepted.join(',')"
          :disabled="locked"
          @change="offered(($event.target as HTMLInputElement).files)"
        /><span class="mt-2"><span class="btn btn-main">Choose a picture</span></span></label
      >
    </div>

    <div v-else-if="picture && plan.root.value" class="flex min-h-0 flex-1 max-md:flex-col">
      <section
        class="flex w-[410px] shrink-0 flex-col border-r border-line max-md:h-1/2 max-md:w-full"
        aria-label="Boxes"
      >
        <p class="border-b border-line px-3 py-1 text-ink2">
          {{ list.length }} boxes. Drag on the picture for another.
          <span v-if="plan.stands.value">The screen stands as planned.</span>
        </p>
        <ul class="min-h-0 flex-1 overflow-auto py-1" role="tree" aria-label="Boxes">
          <li v-for="l in list" :key="l.part.id" role="none">
            <div
              :data-box="l.part.id"
              :data-home="l.part.id === plan.selected.value ? '' : undefined"
              role="treeitem"
              :aria-level="l.depth + 1"
              :aria-selected="l.part.id === plan.selected.value"
              :tabindex="l.part.id === plan.selected.value ? 0 : -1"
              class="flex min-h-6 cursor-default items-center gap-2 pr-2"
              :class="
                l.part.id === plan.selected.value
                  ? 'border-l-2 border-moss bg-mosswash font-semibold'
                  : 'border-l-2 border-transparent hover:bg-wash'
              "
              :style="{ paddingLeft: 10 + l.depth * 14 + 'px' }"
              @click="select(l.part.id, true)"
              @keydown="key"
            >
              <span class="min-w-0 flex-1 truncate"
                >{{ l.part.name
                }}<span v-if="l.part.text" class="font-normal text-ink2">
                  “{{ l.part.text }}”</span
                ></span
              >
              <span
                v-if="noted.has(l.part.name)"
                class="text-xs font-normal text-slate"
                :title="noted.get(l.part.name)"
                >{{ shown?.types[l.part.id] ? 'not as chosen' : 'left out'
                }}<span class="sr-only">: {{ noted.get(l.part.name) }}</span></span
              >
              <span v-else class="text-xs font-normal text-ink2">{{ title(l.part) }}</span>
            </div>
            <BoxLine
              v-if="l.part.id === plan.selected.value"
              :part="l.part"
              :choices="shown?.choices[l.part.id] ?? []"
              :pieces="plan.data.value?.pieces ?? []"
              :left="noted.has(l.part.name) && !shown?.types[l.part.id]"
              :step="shown?.steps[l.part.id] ?? ''"
              :locked="locked"
              :first="siblings[0]?.id === l.part.id"
              :last="siblings.at(-1)?.id === l.part.id"
              :style="{ marginLeft: 10 + l.depth * 14 + 'px' }"
              @set="set(l.part, $event)"
              @piece="plan.piece($event)"
              @act="act"
            />
          </li>
        </ul>
        <ul v-if="others.length" class="border-t border-line px-3 py-1 text-xs text-slate">
          <li v-for="n in others" :key="n.what + n.why">{{ n.what }}: {{ n.why }}</li>
        </ul>
      </section>
      <section class="min-h-0 min-w-0 flex-1 overflow-auto bg-wash p-4" aria-label="Picture">
        <PictureBoxes
          v-if="view === 'boxes'"
          :src="picture.data"
          :width="picture.width"
          :height="picture.height"
          :root="plan.root.value"
          :selected="plan.selected.value"
          :locked="locked"
          class="border border-line"
          @select="select($event, true)"
          @draw="draw"
          @place="(part, at) => plan.change('Plan: a box moves', r => boxes.set(r, part, { at }))"
        />
        <TileStage v-else>
          <div v-if="view === 'beside'" class="grid grid-cols-2 gap-4">
            <figure>
              <figcaption class="mb-1 text-ink2">The picture</figcaption>
              <img :src="picture.data" alt="The picture" class="block w-full border border-line" />
            </figure>
            <figure>
              <figcaption class="mb-1 text-ink2">The screen, as wide</figcaption>
              <LiveTile
                class="border border-line"
                :style="{
                  aspectRatio: `${picture.width} / ${Math.max(picture.height, drawnHeight)}`,
                }"
                :html="plan.page.value?.html"
                :props="plan.page.value?.props"
                :width="picture.width"
                label="The screen as it stands"
                measure
                @drawn="h => (drawnHeight = h)"
              />
            </figure>
          </div>
          <div v-else>
            <label class="mb-2 flex items-center gap-3"
              >The picture<input
                v-model.number="cut"
                type="range"
                min="0"
                max="100"
                class="flex-1 accent-moss"
                aria-label="How much of the screen is shown, from the right"
              />the screen</label
            >
            <div class="relative border border-line">
              <img :src="picture.data" alt="The picture" class="block w-full" />
              <div
                class="absolute inset-0 overflow-hidden"
                :style="{ clipPath: `inset(0 0 0 ${100 - cut}%)` }"
              >
                <LiveTile
                  class="h-full"
                  :html="plan.page.value?.html"
                  :props="plan.page.value?.props"
                  :width="picture.width"
                  label="The screen as it stands"
                  measure
                />
              </div>
              <div
                class="pointer-events-none absolute inset-y-0 w-px bg-rust"
                :style="{ left: 100 - cut + '%' }"
              ></div>
            </div>
          </div>
        </TileStage>
      </section>
    </div>
  </div>
</template>
