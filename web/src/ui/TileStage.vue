<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { FromFrame, ToFrame } from '../frame/messages'
import { useDress } from '../use/dress'
import { frameStyles } from '../use/frame'
import { provideStage, type TileSpec } from '../use/stage'
import { useWorkspace } from '../use/workspace'

/** One sandboxed frame below its content. Tiles in the content tell where they
 * stand, and the frame draws them there; only tiles near the view are filled. */
const props = defineProps<{
  live?: boolean
  /** Where another kit's frame is than the one that the workspace stands on. */
  from?: string
}>()
const ws = useWorkspace()
const dress = useDress()
const root = ref<HTMLElement>()
const frame = ref<HTMLIFrameElement>()
const failed = ref('')
const base = computed(() => props.from ?? ws.data?.frame)
const src = computed(() => (base.value ? base.value + 'page' : undefined))

const tiles = new Map<string, TileSpec>()
const filled = new Set<string>()
const near = new Set<string>()
const pending = ref(new Set<string>())
let port: MessagePort | undefined
let ready = false
const isReady = ref(false)
let queued = false

const send = (m: ToFrame) => {
  if (ready) port?.postMessage(m)
}
const ids = new WeakMap<globalThis.Element, string>()
const seen = new IntersectionObserver(
  entries => {
    for (const e of entries) {
      const id = ids.get(e.target)
      if (!id) continue
      if (e.isIntersecting) near.add(id)
      else near.delete(id)
    }
    layout()
  },
  { rootMargin: '400px' },
)

function fill(id: string) {
  const spec = tiles.get(id)
  const content = spec?.content()
  if (!spec || !content) return
  filled.add(id)
  pending.value.add(id)
  send({
    type: 'fill',
    tile: { id, ...(JSON.parse(JSON.stringify(content)) as { html: string }) },
    measure: spec.measure,
  })
}
function place() {
  queued = false
  if (!ready || !root.value) return
  const origin = root.value.getBoundingClientRect()
  const shown = [...tiles].filter(([id, t]) => near.has(id) && t.content())
  send({
    type: 'place',
    tiles: shown.map(([id, t]) => {
      const r = t.el.getBoundingClientRect()
      const width = t.larger?.() ? t.width() : Math.max(t.width(), r.width) // else never enlarged
      return {
        id,
        x: r.x - origin.x,
        y: r.y - origin.y,
        w: r.width,
        h: r.height,
        scale: (r.width / width || 1) * t.shrink(),
        width,
        theme: t.theme(),
        live: t.live(),
        centred: t.centred?.(),
      }
    }),
  })
  for (const [id] of shown) if (!filled.has(id)) fill(id)
}
function layout() {
  if (!queued) {
    queued = true
    setTimeout(place)
  }
}

provideStage({
  add(id, tile) {
    tiles.set(id, tile)
    ids.set(tile.el, id)
    seen.observe(tile.el)
    layout()
  },
  remove(id) {
    const t = tiles.get(id)
    if (t) seen.unobserve(t.el)
    tiles.delete(id)
    near.delete(id)
    filled.delete(id)
    pending.value.delete(id)
    send({ type: 'drop', ids: [id] })
  },
  refill(id) {
    filled.delete(id)
    layout()
  },
  patch(id, patches, token) {
    if (!ready || !filled.has(id)) return // it is filled with what was patched, soon
    send({
      type: 'patch',
      id,
      patches: JSON.parse(JSON.stringify(patches)) as typeof patches,
      measure: true,
      token,
    })
  },
  layout,
})
useResizeObserver(root, layout)

watch(
  () => dress.message,
  m => send({ type: 'dress', ...m }),
)

/** How often the frame was put back, of those that can be; and what waits for it to answer. */
const round = ref(0)
const ROUNDS = 3
let silent: ReturnType<typeof setTimeout> | undefined
/** Something led the frame to another page than the kit's: it gets its own again. */
function putBack() {
  port?.close()
  if (round.value === ROUNDS) {
    failed.value = 'something in it leads its frame elsewhere, each time that it is put back'
    return
  }
  isReady.value = false
  round.value++
}

async function connect() {
  ready = false
  clearTimeout(silent)
  const channel = new MessageChannel()
  port = channel.port1
  port.onmessage = e => {
    const m = e.data as FromFrame
    switch (m.type) {
      case 'here':
        clearTimeout(silent)
        break
      case 'ready':
        ready = true
        isReady.value = true
        port?.postMessage({ type: 'init', styles, go: ws.data?.go ?? '' } satisfies ToFrame)
        send({ type: 'dress', ...dress.message })
        filled.clear()
        place()
        break
      case 'failed':
        failed.value = m.message
        break
      case 'inks':
        tiles.get(m.id)?.inks?.(Array.isArray(m.inks) ? m.inks : [])
        break
      case 'drawn':
        if (tiles.get(m.id)?.inks) send({ type: 'inks', id: m.id })
        pending.value.delete(m.id)
        tiles
          .get(m.id)
          ?.drawn?.(Number(m.height) || 0, Array.isArray(m.boxes) ? m.boxes : [], m.token)
        break
      case 'painted':
        tiles.get(m.id)?.painted?.(m.token)
        break
      case 'lost':
        tiles.get(m.id)?.lost?.()
        break
      case 'broken':
        tiles.get(m.id)?.broken?.(String(m.message))
        break
      case 'stateless':
        tiles.get(m.id)?.stateless?.()
        break
      case 'act':
        tiles.get(m.id)?.act?.(String(m.verb), String(m.to), m.on)
        break
      case 'held':
        tiles.get(m.id)?.held?.(String(m.name), m.value)
        break
      case 'go':
        tiles.get(m.id)?.go?.(String(m.to))
    }
  }
  const styles = await frameStyles(base.value!)
  frame.value?.contentWindow?.postMessage('connect', '*', [channel.port2])
  silent = setTimeout(putBack, 8000)
}
onBeforeUnmount(() => {
  clearTimeout(silent)
  seen.disconnect()
  port?.close()
})
</script>

<template>
  <div ref="root" class="relative" :data-pending="isReady ? pending.size : 'connecting'">
    <iframe
      v-if="src && (!failed || round < ROUNDS)"
      :key="round"
      ref="frame"
      :src="src"
      sandbox="allow-scripts allow-forms"
      title="Live kit"
      aria-hidden="true"
      tabindex="-1"
      class="absolute inset-0 h-full w-full"
      :class="props.live ? 'z-20' : 'pointer-events-none'"
      @load="connect"
    ></iframe>
    <p v-if="failed" role="alert" class="relative bg-rustwash p-2 text-rust">
      The kit could not be loaded: {{ failed }}
    </p>
    <div class="relative" :class="{ 'pointer-events-none': props.live }"><slot></slot></div>
  </div>
</template>
