<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { ask, POST, type Page } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { exampleTree, padded } from '../shelf/example'
import { useWorkspace } from '../../use/workspace'
import { counted } from '../../use/counted'
import { published, sure, type Batch, type Entry } from './intake'

/** One component of a batch: before and after, in light and dark, and what is known of it. */
const props = defineProps<{ batch: Batch; entry: Entry; page?: Page }>()
defineEmits<{ close: [] }>()
const ws = useWorkspace()
const before = ref<Page>()
const compared = computed(() => props.batch.kit.kind === 'version' && props.entry.change !== 'new')
const head = ref<HTMLElement>()
onMounted(async () => {
  head.value?.focus()
  if (!compared.value) return
  const out = await ask(
    POST('/api/render', { body: { trees: [padded(exampleTree(props.entry), props.entry)] } }),
  )
  before.value = out.pages[0]
})
const from: Record<string, string> = {
  manifest: 'its manifest',
  types: 'type declarations',
  'web-types': 'web-types',
  'a person': 'a person',
}
</script>

<template>
  <section
    class="border-b border-line bg-sheet px-4 py-3"
    :aria-label="entry.title"
    @keydown.esc="$emit('close')"
  >
    <header class="flex items-baseline gap-3">
      <h3 ref="head" tabindex="-1" class="text-lg outline-none">{{ entry.title }}</h3>
      <code class="text-ink2">{{ entry.export || entry.tag }}</code>
      <span v-if="entry.uses" class="text-ink2"
        >{{ entry.uses }} on {{ counted(entry.screens, 'screen') }}</span
      >
      <button class="btn btn-bare ml-auto" @click="$emit('close')">Close</button>
    </header>
    <p v-if="entry.summary" class="max-w-prose text-ink2">{{ entry.summary }}</p>
    <p v-if="entry.deprecated" class="text-rust">{{ entry.deprecated }}</p>
    <div class="mt-2 grid gap-3" :class="compared ? 'md:grid-cols-2' : ''">
      <figure v-if="compared">
        <figcaption class="label mb-1">
          In use, {{ published(ws.data?.kitVersion ?? '') }}
        </figcaption>
        <TileStage>
          <div class="grid grid-cols-2 border border-line">
            <LiveTile
              v-for="theme in ['light', 'dark']"
              :key="theme"
              :html="before?.html"
              :props="before?.props"
              :width="entry.level === 'composite' ? 460 : 300"
              :height="150"
              :theme="theme"
            />
          </div>
        </TileStage>
      </figure>
      <figure v-if="entry.change !== 'gone'">
        <figcaption class="label mb-1">
          {{ compared ? `New, ${batch.kit.version}` : 'Light and dark' }}
        </figcaption>
        <TileStage :from="batch.frame">
          <div class="grid grid-cols-2 border border-line">
            <LiveTile
              v-for="theme in ['light', 'dark']"
              :key="theme"
              :html="page?.html"
              :props="page?.props"
              :width="entry.level === 'composite' ? 460 : 300"
              :height="150"
              :theme="theme"
            />
          </div>
        </TileStage>
      </figure>
    </div>
    <ul v-if="entry.changes.length" class="mt-2 list-inside list-disc text-slate">
      <li v-for="c in entry.changes" :key="c">{{ c }}</li>
    </ul>
    <div class="mt-3 grid gap-4 md:grid-cols-2">
      <table class="w-full text-left">
        <caption class="label text-left">
          Props
        </caption>
        <thead class="sr-only">
          <tr>
            <th>Name</th>
            <th>Takes</th>
            <th>Known from</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in entry.props" :key="p.name" class="border-t border-line align-top">
            <td class="pr-2">
              <code>{{ p.name }}</code><span v-if="p.required" class="text-rust" title="required"
                >*</span
              >
            </td>
            <td class="pr-2 text-ink2" :title="p.summary">
              {{
                p.values?.length
                  ? p.values.join(', ') + (p.open ? ', or any other' : '')
                  : p.json
                    ? `data: ${p.shape}`
                    : ['text', 'yes or no', 'a number', 'a choice'][p.type]
              }}{{ p.default ? ` · ${p.default}` : '' }}
            </td>
            <td class="text-xs text-ink2">{{ from[p.from ?? ''] ?? p.from }}</td>
          </tr>
          <tr v-if="!entry.props.length">
            <td class="text-ink2">It has none that is known.</td>
          </tr>
        </tbody>
      </table>
      <div>
        <p class="label">Slots and events</p>
        <p class="text-ink2">
          {{ entry.slots.map(s => s.name || 'main').join(', ') || 'no slot' }} ·
          {{ entry.events?.map(e => e.name).join(', ') || 'no event' }}
        </p>
        <template v-if="entry.guesses?.length">
          <p class="label mt-2">Proposed, since no source says it</p>
          <ul>
            <li v-for="g in entry.guesses" :key="g.what + g.value">
              {{ g.what }}: <b>{{ g.value }}</b>
              <span class="text-ink2">{{ sure(g.certainty) }}, {{ g.why }}</span>
            </li>
          </ul>
        </template>
      </div>
    </div>
  </section>
</template>
