<script setup lang="ts">
import { onKeyStroke, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, provide, shallowRef, watch } from 'vue'
import { ask, GET, type Element, type Schemas } from '../../api/client'
import { typing } from '../../use/keys'
import { nobody } from '../../use/focus'
import { useWorkspace } from '../../use/workspace'
import BenchLines from './BenchLines.vue'
import BenchProof from './BenchProof.vue'
import { iconsKey } from './insertion'
import type { KitIndex } from './tree'
import { provideBench } from './useBench'

const kit = shallowRef<Schemas['ApiKitOut']>()
const index = computed<KitIndex>(
  () =>
    new Map(
      [
        ...(kit.value?.components ?? []),
        ...(kit.value?.pieces ?? []),
        ...(kit.value?.layouts ?? []),
      ].map(c => [c.tag, c]),
    ),
)
const bench = provideBench(() => index.value)
provide(iconsKey, () => kit.value?.icons ?? [])
const ws = useWorkspace()
const linesWidth = useLocalStorage('ubiquant-lines', 410)
const widen = (by: number) => {
  linesWidth.value = Math.min(720, Math.max(280, linesWidth.value + by))
}
const load = async () => {
  kit.value = await ask(GET('/api/kit'))
}
onMounted(load)
// A piece that was just made is known here as well.
watch(
  () => bench.root.value,
  root => {
    const known = (el: Element): boolean =>
      (!el.type.startsWith('piece:') || index.value.has(el.type)) &&
      (el.children ?? []).every(known)
    if (kit.value && root && !known(root)) void load()
  },
)

onKeyStroke(['z', 'Z'], async e => {
  if (!(e.ctrlKey || e.metaKey) || typing(e)) return
  e.preventDefault()
  const onLine = (document.activeElement as HTMLElement | null)?.dataset.line !== undefined
  await (e.shiftKey ? bench.redo() : bench.undo())
  await nextTick()
  // Where the line went with the change, the keys go on from the one selected now.
  if (onLine && nobody())
    document
      .querySelector<HTMLElement>(`[data-line="${CSS.escape(bench.selected.value)}"]`)
      ?.focus({ preventScroll: true })
})
function drag(e: PointerEvent) {
  let last = e.clientX
  const move = (m: PointerEvent) => {
    widen(m.clientX - last)
    last = m.clientX
  }
  const up = () => {
    removeEventListener('pointermove', move)
    removeEventListener('pointerup', up)
  }
  addEventListener('pointermove', move)
  addEventListener('pointerup', up)
}
</script>

<template>
  <div class="flex h-full max-md:flex-col">
    <datalist id="routes">
      <option v-for="s in ws.screens" :key="s.id" :value="s.route">{{ s.title }}</option>
    </datalist>
    <datalist id="icons">
      <option v-for="i in kit?.icons" :key="i.name" :value="i.name">
        {{ i.meanings?.join(', ') }}
      </option>
    </datalist>
    <div v-if="bench.error.value" role="alert" class="p-6">
      <p class="text-rust">{{ bench.error.value }}</p>
      <RouterLink to="/" class="underline">To the overview</RouterLink>
    </div>
    <template v-else>
      <BenchLines
        :kit="index"
        class="shrink-0 max-md:h-1/2 max-md:!w-full"
        :style="{ width: linesWidth + 'px' }"
      />
      <div
        class="w-1 shrink-0 cursor-col-resize border-l border-line hover:bg-moss max-md:hidden"
        role="separator"
        aria-orientation="vertical"
        aria-label="Width of the lines"
        tabindex="0"
        :aria-valuenow="linesWidth"
        aria-valuemin="280"
        aria-valuemax="720"
        @pointerdown.prevent="drag"
        @keydown.left="widen(-16)"
        @keydown.right="widen(16)"
      ></div>
      <BenchProof class="min-h-0 min-w-0 flex-1" :tokens="kit?.tokens ?? []" />
    </template>
  </div>
</template>
