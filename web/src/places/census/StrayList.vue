<script setup lang="ts">
import { computed, ref } from 'vue'
import LiveTile from '../../ui/LiveTile.vue'
import StrayMark from '../../ui/StrayMark.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import LineDialog from './LineDialog.vue'
import StandDialog from './StandDialog.vue'
import StoodList from './StoodList.vue'
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
const leans = computed(() => census.value?.leans ?? [])
const words = (s: (typeof strays.value)[number]) => s.why
const likely = (s: (typeof strays.value)[number]) => `${Math.round(100 * s.odds)} in 100`
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
const can = computed(() => strays.value.filter(s => s.fix?.length))
const picked = computed(() => can.value.filter(s => chosen.value.has(s.key)).map(s => s.key))
</script>

<template>
  <div class="sticky top-0 z-30 flex items-center gap-3 border-b border-line bg-ground px-4 py-2">
    <p class="text-ink2">
      What departs from how the others are made, most certain first. It informs; nothing fails
      because of it.
    </p>
    <button v-if="ws.done.length" class="btn ml-auto" @click="undo">
      Undo {{ ws.done.at(-1)?.title.toLowerCase() }}
    </button>
    <button
      class="btn"
      :class="{ 'ml-auto': !ws.done.length }"
      :disabled="!can.length"
      @click="chosen = picked.length === can.length ? new Set() : new Set(can.map(s => s.key))"
    >
      {{ picked.length === can.length && can.length ? 'None' : 'All' }}
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
            :disabled="!s.fix?.length"
            :aria-label="`Choose ${s.title}: ${words(s)}`"
            @change="toggle(s.key)"
          />
          <StrayMark :surprise="s.surprise" :text="words(s)" /><RouterLink
            class="font-semibold underline"
            :to="bench(s.doc, s.element)"
            >{{ s.title }}</RouterLink
          ><span class="min-w-0 flex-1 text-slate">{{ words(s) }}</span
          ><span v-if="s.certainty === 'look'" class="border border-slate px-1 text-slate"
            >worth a look</span
          >
          <button
            v-if="ws.canBuild"
            class="underline"
            @click="standing = { key: s.key, what: s.title + ': ' + words(s) }"
          >
            Let stand</button
          ><button v-if="ws.canBuild && s.fix?.length" class="btn" @click="lining = [s.key]">
            {{ s.fixTitle }}
          </button>
        </div>
        <p v-if="s.needs" class="px-3 pt-2 text-xs text-ink2">
          No repair by itself: it would bring “{{ s.needs }}”.
        </p>
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
      Nothing strays. Every element is made as the others are, or is let stand.
    </p>
    <StoodList
      v-if="census?.standingStrays.length"
      class="mx-auto max-w-6xl px-4 pb-6"
      :items="census.standingStrays.map(s => ({ ...s, words: s.why }))"
      @done="done"
    />
    <details v-if="leans.length" class="mx-auto max-w-6xl px-4 pb-6">
      <summary class="cursor-pointer text-ink2">
        {{ census?.leansAll }} more that depart, and are more likely meant{{
          (census?.leansAll ?? 0) > leans.length
            ? `; the ${leans.length} likeliest slips of them`
            : ''
        }}
      </summary>
      <ul class="mt-2 border-t border-line">
        <li
          v-for="s in leans"
          :key="s.key"
          class="flex flex-wrap items-baseline gap-3 border-b border-line py-1.5"
        >
          <RouterLink class="underline" :to="bench(s.doc, s.element)">{{
            s.title
          }}</RouterLink><span class="min-w-0 flex-1 text-slate">{{ words(s) }}</span
          ><span class="text-xs text-ink2">a slip with {{ likely(s) }}</span
          ><button v-if="ws.canBuild && s.fix?.length" class="underline" @click="lining = [s.key]">
            {{ s.fixTitle }}
          </button>
        </li>
      </ul>
    </details>
  </TileStage>
  <LineDialog v-if="lining" :strays="lining" @close="lining = undefined" @done="done" />
  <StandDialog
    v-if="standing"
    :keys="[standing.key]"
    :what="standing.what"
    @close="standing = undefined"
    @done="done"
  />
</template>
