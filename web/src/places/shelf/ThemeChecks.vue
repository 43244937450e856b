<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Preview } from './useTheme'

/** What was checked of a theme, and what its changes reach. */
const props = defineProps<{ preview: Preview }>()
const all = ref(false)
const failing = computed(() => props.preview.checks.filter(c => c.fails))
const list = computed(() => (all.value ? props.preview.checks : failing.value))
const name = (path: string) => path.replace(/^color\./, '')
</script>

<template>
  <div class="grid gap-4">
    <section v-if="preview.checks.length" aria-label="Contrast of the theme">
      <h3 class="mb-1">
        Contrast
        <span
          class="font-normal"
          :class="failing.length ? 'text-rust' : 'text-ink2'"
          role="status"
          >{{
            failing.length
              ? `${failing.length} of ${preview.checks.length} pairs too weak`
              : `all ${preview.checks.length} pairs can be read`
          }}</span
        >
      </h3>
      <ul v-if="list.length" class="sheet max-h-52 overflow-auto">
        <li
          v-for="c in list"
          :key="c.ink + c.ground"
          class="flex items-center gap-2 border-b border-line px-2 py-0.5 last:border-b-0"
        >
          <span
            class="w-7 shrink-0 text-center"
            :style="{ color: c.inkValue, background: c.groundValue }"
            aria-hidden="true"
            >Aa</span
          ><span class="truncate">{{ name(c.ink) }} on {{ name(c.ground) }}</span
          ><span class="ml-auto whitespace-nowrap" :class="{ 'text-rust': c.fails }"
            >{{ c.ratio.toFixed(2) }} of {{ c.needs }}</span
          >
        </li>
      </ul>
      <button class="mt-1 text-ink2 underline" @click="all = !all">
        {{ all ? 'only the weak ones' : 'show all pairs' }}
      </button>
    </section>
    <section v-if="preview.changes.length" aria-label="What it reaches">
      <h3 class="mb-1">Reaches</h3>
      <p class="text-ink2">
        {{ preview.reach.components.length }} components; {{ preview.reach.elements }} elements on
        {{ preview.reach.docs.length }} screens and shells.
      </p>
      <details class="mt-1">
        <summary>Which</summary>
        <ul class="max-h-52 overflow-auto">
          <li v-for="d in preview.reach.docs" :key="d.doc" class="flex gap-2">
            <RouterLink
              class="truncate underline"
              :to="`/bench/${d.doc.replace(':', '/')}#${d.elements[0]}`"
              >{{ d.title }}</RouterLink><span class="ml-auto text-ink2">{{
              d.elements.length
            }}</span>
          </li>
        </ul>
      </details>
      <details class="mt-1">
        <summary>Tokens</summary>
        <ul class="max-h-52 overflow-auto">
          <li v-for="c in preview.changes" :key="c.path" class="flex gap-2">
            <code class="truncate">{{ c.path }}</code><code class="ml-auto truncate text-ink2"
              >{{ c.before }} → {{ c.after }}</code
            >
          </li>
        </ul>
      </details>
    </section>
  </div>
</template>
