<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { ask, POST, type Page } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import { useBench } from './useBench'

/** The screen in all its states side by side, at the width being worked at. */
const bench = useBench()
const ws = useWorkspace()
const pages = shallowRef<Page[]>([])
const heights = ref<Record<string, number>>({})
const area = ref<HTMLElement>()
const { width: room } = useElementSize(area)
const states = computed(() => ['', ...(bench.head.value?.states ?? []).map(s => s.name)])
const columns = computed(() => Math.max(1, Math.min(states.value.length, 3)))
const scale = computed(() => Math.min(0.6, Math.max(0.15, (room.value - 16 * (columns.value - 1)) / columns.value / bench.width.value)))
watch([states, () => bench.seq.value, () => bench.set.value], async () => {
  try { pages.value = (await Promise.all(states.value.map(state => ask(POST('/api/pages', { body: { docs: [bench.doc.value], set: bench.set.value, state } }))))).map(p => p.pages[0]!) } catch (e) { ws.say((e as Error).message) }
}, { immediate: true })
function work(state: string) { bench.strip.value = ''; bench.state.value = state }
</script>

<template>
  <div ref="area"><TileStage v-if="room && pages.length === states.length">
    <div class="flex flex-wrap items-start gap-4">
      <figure v-for="(state, i) in states" :key="state" :style="{ width: bench.width.value * scale + 'px' }">
        <figcaption class="mb-1 flex justify-between text-xs text-ink2"><span>{{ state || 'ready' }}</span><button class="underline" :aria-label="`Work at ${state || 'ready'}`" @click="work(state)">work at it</button></figcaption>
        <LiveTile class="outline outline-1 outline-line" :html="pages[i]!.html" :props="pages[i]!.props" :theme="bench.theme.value" :width="bench.width.value" :height="Math.max(120, (heights[state] ?? 600) * scale)" measure :label="`${bench.head.value?.title}, ${state || 'ready'}`" @drawn="h => heights[state] = h" />
      </figure>
    </div>
  </TileStage></div>
</template>
