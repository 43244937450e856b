<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { ask, GET, POST, type Page, type Schemas } from '../../api/client'
import type { Box, Ink } from '../../frame/messages'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'

/** Draws every screen that changed since it was measured, with all records, at all widths, in all
 * states and themes, and has what stands where judged: it comes into the worklist. */
type Look = Schemas['LiveLook']
interface Shown {
  key: number
  page: Page
  look: Look
}
const { auto } = defineProps<{
  /** Measures at once what is left, but for what could not be measured as it is. */
  auto?: boolean
}>()
const emit = defineEmits<{ measured: []; ended: [error?: string] }>()
const ws = useWorkspace()
const running = ref(false)
const left = ref<number>()
const behind = ref('off')
const said = ref('')
const count = ref({ screens: 0, of: 0, looks: 0 })
const shown = shallowRef<Shown>()
const title = ref('')
let stopped = false
onBeforeUnmount(() => (stopped = true))

/** How long a picture may take to be drawn. */
const patience = 20_000
let number = 0
let drawn: ((boxes: Box[]) => void) | undefined
let inked: ((inks: Ink[]) => void) | undefined

async function look(page: Page, at: Look) {
  const boxes = new Promise<Box[]>(resolve => (drawn = resolve))
  const inks = new Promise<Ink[]>(resolve => (inked = resolve))
  let timer = 0
  const late = new Promise<never>((_, reject) => {
    timer = window.setTimeout(() => reject(new Error('it was not drawn in time')), patience)
  })
  shown.value = { key: ++number, page, look: at }
  try {
    return await Promise.race([Promise.all([boxes, inks]), late])
  } finally {
    clearTimeout(timer)
  }
}

async function screen(open: Schemas['ApiMeasurable']) {
  const looks: Schemas['ApiLooked'][] = []
  let page: Page | undefined
  let of = ''
  for (const at of open.looks ?? []) {
    if (stopped) return
    if (!page || of !== `${at.set} ${at.state ?? ''}`) {
      of = `${at.set} ${at.state ?? ''}`
      page = (
        await ask(
          POST('/api/pages', { body: { docs: [open.doc], set: at.set, state: at.state ?? '' } }),
        )
      ).pages[0]!
    }
    const [boxes, inks] = await look(page, at)
    looks.push({ look: at, boxes, inks: inks.map(i => ({ ...i, keys: i.keys ?? [] })) })
    count.value.looks++
  }
  await ask(POST('/api/census/measured', { body: { doc: open.doc, drawn: open.drawn, looks } }))
}

async function asked() {
  const out = await ask(GET('/api/census/measured'))
  // What the server measured meanwhile is in the worklist.
  if (!running.value && left.value !== undefined && out.open.length < left.value) emit('measured')
  left.value = out.open.length
  behind.value = out.background
  return out
}
const looking = window.setInterval(() => {
  if (!running.value && behind.value !== 'off') void asked().catch(() => undefined)
}, 4000)
onBeforeUnmount(() => clearInterval(looking))

async function run() {
  stopped = false
  running.value = true
  const failed: string[] = []
  try {
    const todo = (await asked()).open.filter(o => !auto || !o.failed)
    count.value = { screens: 0, of: todo.length, looks: 0 }
    for (const open of todo) {
      if (stopped) break
      title.value = open.title
      try {
        await screen(open)
      } catch (e) {
        const why = (e as Error).message
        failed.push(`${open.title}: ${why}`)
        await ask(
          POST('/api/census/measured', {
            body: { doc: open.doc, drawn: open.drawn, looks: [], failed: why.slice(0, 120) },
          }),
        )
      }
      count.value.screens++
      emit('measured')
    }
    const now = await asked()
    said.value =
      `${now.screens - now.open.length} of ${now.screens} screens measured, ` +
      `${now.findings} ${now.findings === 1 ? 'finding' : 'findings'}` +
      (failed.length ? `; not measured: ${failed.join('; ')}` : '')
    ws.say(said.value)
    emit('ended')
  } catch (e) {
    ws.say((e as Error).message)
    emit('ended', (e as Error).message)
  }
  shown.value = undefined
  running.value = false
}
function stop() {
  stopped = true
}
const words = computed(() => {
  const l = shown.value?.look
  if (!l) return ''
  return [`${l.set} at ${l.width}`, l.state, l.theme].filter(Boolean).join(', ')
})
if (auto) void run()
else void asked().catch(() => undefined)
const aside = computed(() => {
  if (running.value || !left.value || behind.value === 'off') return ''
  return behind.value === 'measuring'
    ? 'The server is measuring …'
    : 'The server measures once nothing changes'
})
</script>

<template>
  <button
    v-if="ws.canBuild"
    class="btn"
    :title="
      running
        ? undefined
        : said ||
          'Draws every screen with all records, at all widths, in all states and themes, and tells what sticks out, overlaps or cannot be read'
    "
    @click="running ? stop() : run()"
  >
    {{ running ? 'Stop' : left ? `Measure ${left}` : 'Measure' }}
  </button>
  <span v-if="aside" role="status" class="text-ink2">{{ aside }}</span>
  <template v-if="running">
    <div class="flex w-full items-center gap-3 border-t border-line pt-1.5">
      <TileStage class="w-44 shrink-0">
        <LiveTile
          v-if="shown"
          :key="shown.key"
          class="border border-line"
          :html="shown.page.html"
          :props="shown.page.props"
          :theme="shown.look.theme"
          :width="shown.look.width"
          :height="64"
          measure
          want-inks
          :label="`${title}, as it is measured`"
          @drawn="(_, boxes) => drawn?.(boxes)"
          @inks="i => inked?.(i)"
        />
      </TileStage>
      <span role="status" class="min-w-0 truncate"
        >Measuring {{ title }} <span class="text-ink2">{{ words }}</span></span
      >
      <span
        class="ml-auto h-2 w-40 bg-line"
        role="progressbar"
        aria-label="Screens measured"
        :aria-valuenow="count.screens"
        :aria-valuemax="count.of"
        ><span
          class="block h-full bg-moss"
          :style="{ width: (100 * count.screens) / (count.of || 1) + '%' }"
        ></span
      ></span>
      <span class="shrink-0 text-ink2">{{ count.screens }} of {{ count.of }} screens</span>
    </div>
  </template>
</template>
