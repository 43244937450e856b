<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import { bench, standWords, useLift } from './census'

/** What is let stand, why, and until when; no longer, where it was decided here. */
defineProps<{
  items: {
    key: string
    doc: string
    element: string
    title: string
    stand?: Schemas['AuditLetStand']
    words: string
  }[]
}>()
const emit = defineEmits<{ done: [] }>()
const ws = useWorkspace()
const lift = useLift(() => emit('done'))
</script>

<template>
  <section>
    <h2 class="mb-1 text-lg">Let stand</h2>
    <ul>
      <li v-for="f in items" :key="f.key" class="flex gap-3 py-0.5">
        <RouterLink class="w-40 shrink-0 underline" :to="bench(f.doc, f.element)">{{
          f.title
        }}</RouterLink><span>{{ f.words }}</span
        ><span class="text-ink2">{{ standWords(f.stand) }}</span
        ><button
          v-if="ws.canBuild && f.stand && !f.stand.id.startsWith('code:')"
          class="ml-auto whitespace-nowrap underline"
          @click="lift([f.stand.key])"
        >
          No longer
        </button>
      </li>
    </ul>
  </section>
</template>
