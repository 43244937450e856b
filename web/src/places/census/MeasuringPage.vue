<script setup lang="ts">
import { useWorkspace } from '../../use/workspace'
import MeasureRun from './MeasureRun.vue'

/** Measures what is left, by itself: the server opens this page in a browser of its own. How it
 * ended is said on the page's root. */
const ws = useWorkspace()
function ended(error?: string) {
  document.documentElement.dataset.measured = error ?? 'all'
}
</script>

<template>
  <main class="flex flex-wrap items-center gap-3 p-6 text-sm">
    <h1 class="text-lg">Measuring what changed</h1>
    <MeasureRun v-if="ws.data" auto @ended="ended" />
  </main>
</template>
