<script setup lang="ts">
import { reactive } from 'vue'
import type { Page } from '../../api/client'
import type { Ink } from '../../frame/messages'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import type { Batch, Entry } from './intake'

/** Entries of a part as they come and as they would stand beside the kit, in light and dark, each
 * with the least contrast of its letters. */
const props = defineProps<{
  batch: Batch
  entries: Entry[]
  pages: Record<string, { as: Page; then: Page }>
  frame: string
  beside: string
}>()
const least = reactive<Record<string, Ink | undefined>>({})
const hear = (key: string, inks: Ink[]) =>
  (least[key] = inks.toSorted((a, b) => a.ratio - b.ratio)[0])
/** Whether letters are too faint to be read, as WCAG 2.2 has it at level AA. */
const faint = (key: string) => {
  const i = least[key]
  return !!i && i.ratio < (i.large ? 3 : 4.5)
}
function words(key: string) {
  const i = least[key]
  if (!i) return ''
  return ` · least contrast ${i.ratio.toFixed(1)} : 1${faint(key) ? `, of “${i.sample}”` : ''}`
}
const sides = [
  { id: 'as', words: () => 'As it comes', frame: () => props.batch.frame },
  { id: 'then', words: () => `Beside ${props.beside}`, frame: () => props.frame },
] as const
</script>

<template>
  <section v-for="s in sides" :key="s.id" :aria-label="s.words()">
    <h3 class="mb-1 text-lg">{{ s.words() }}</h3>
    <TileStage :key="s.frame()" :from="s.frame()">
      <div v-for="e in entries" :key="e.tag" class="mb-2 grid grid-cols-2 border border-line">
        <figure v-for="theme in ['light', 'dark']" :key="theme">
          <LiveTile
            :html="pages[e.tag]?.[s.id].html"
            :props="pages[e.tag]?.[s.id].props"
            :width="300"
            :height="entries.length > 2 ? 150 : 250"
            :theme="theme"
            :label="`${e.title}, ${s.words()}, ${theme}`"
            fit
            want-inks
            @inks="i => hear(`${s.id} ${e.tag} ${theme}`, i)"
          />
          <figcaption
            class="border-t border-line px-2 text-xs"
            :class="faint(`${s.id} ${e.tag} ${theme}`) ? 'text-rust' : 'text-ink2'"
          >
            {{ theme }}{{ words(`${s.id} ${e.tag} ${theme}`) }}
          </figcaption>
        </figure>
      </div>
    </TileStage>
  </section>
</template>
