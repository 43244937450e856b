<script setup lang="ts">
import { computed, ref } from 'vue'
import LiveTile from '../../ui/LiveTile.vue'
import StrayMark from '../../ui/StrayMark.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import LineDialog from './LineDialog.vue'
import StandDialog from './StandDialog.vue'
import { bench, useCensus, useFragments } from './census'

const ws = useWorkspace()
const { census, load } = useCensus()
const strays = computed(() => census.value?.strays ?? [])
const chosen = ref(new Set<string>())
const lining = ref<string[]>()
const standing = ref<{ key: string; what: string }>()
// The stray itself is drawn in its surroundings, as is the one it strays from.
const own = (s: (typeof strays.value)[number]) => ({
  doc: s.doc,
  element: s.element,
  up: s.typical.up,
})
const { page, load: redraw } = useFragments(() => strays.value.flatMap(s => [own(s), s.typical]))
const words = (s: (typeof strays.value)[number]) =>
  `${s.prop} is ${s.value || 'not set'} here, ${s.norm || 'not set'} on ${s.screens} of ${s.of} screens`
function toggle(key: string) {
  const next = new Set(chosen.value)
  if (!next.delete(key)) next.add(key)
  chosen.value = next
}
async function done() {
  lining.value = undefined
  standing.value = undefined
  chosen.value = new Set()
  await load()
  await redraw()
}
async function undo() {
  await ws.undo()
  await ws.load()
  await done()
}
const picked = computed(() => strays.value.filter(s => chosen.value.has(s.key)).map(s => s.key))
</script>

<template>
  <div class="sticky top-0 z-30 flex items-center gap-3 border-b border-line bg-ground px-4 py-2">
    <p class="text-ink2">
      Elements that depart from a clear norm, most certain first. They inform; nothing fails because
      of them.
    </p>
    <button v-if="ws.done.length" class="btn ml-auto" @click="undo">
      Undo {{ ws.done.at(-1)?.title.toLowerCase() }}
    </button>
    <button
      class="btn"
      :class="{ 'ml-auto': !ws.done.length }"
      :disabled="!strays.length"
      @click="
        chosen = picked.length === strays.length ? new Set() : new Set(strays.map(s => s.key))
      "
    >
      {{ picked.length === strays.length && strays.length ? 'None' : 'All' }}
    </button>
    <button
      class="btn btn-main"
      :disabled="!picked.length || !ws.canBuild"
      @click="lining = picked"
    >
      Bring {{ picked.length || '' }} into line
    </button>
  </div>
  <TileStage>
    <ul class="mx-auto max-w-6xl p-4">
      <li v-for="s in strays" :key="s.key" class="mb-4 border border-line">
        <div class="flex flex-wrap items-center gap-3 border-b border-line px-3 py-1.5">
          <input
            type="checkbox"
            class="accent-moss"
            :checked="chosen.has(s.key)"
            :aria-label="`Choose ${s.title}: ${words(s)}`"
            @change="toggle(s.key)"
          />
          <StrayMark :surprise="s.surprise" :text="words(s)" /><RouterLink
            class="font-semibold underline"
            :to="bench(s.doc, s.element)"
            >{{ s.title }}</RouterLink
          ><span>{{ s.words }}</span
          ><span class="text-slate">{{ words(s) }}</span>
          <button
            v-if="ws.canBuild"
            class="ml-auto underline"
            @click="standing = { key: s.key, what: s.title + ': ' + words(s) }"
          >
            Let stand</button
          ><button v-if="ws.canBuild" class="btn" @click="lining = [s.key]">Into line</button>
        </div>
        <div class="grid grid-cols-2 gap-3 p-3">
          <figure>
            <LiveTile
              class="border border-line"
              :html="page(own(s))?.html"
              :props="page(own(s))?.props"
              :width="620"
              :height="130"
              fit
            />
            <figcaption class="text-xs text-ink2">here, on {{ s.title }}</figcaption>
          </figure>
          <figure>
            <LiveTile
              class="border border-line"
              :html="page(s.typical)?.html"
              :props="page(s.typical)?.props"
              :width="620"
              :height="130"
              fit
            />
            <figcaption class="text-xs text-ink2">as {{ s.screens }} others</figcaption>
          </figure>
        </div>
      </li>
    </ul>
    <p v-if="!strays.length" class="px-4 text-ink2">
      Nothing strays. Every element keeps to the norm of its spot, or is let stand.
    </p>
  </TileStage>
  <LineDialog v-if="lining" :strays="lining" @close="lining = undefined" @done="done" />
  <StandDialog
    v-if="standing"
    :id="standing.key"
    :what="standing.what"
    @close="standing = undefined"
    @done="done"
  />
</template>
