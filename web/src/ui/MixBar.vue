<script setup lang="ts">
import { computed } from 'vue'

/** The app's handwriting: a mix of values as one small horizontal bar. */
const props = defineProps<{ parts: { value: string; uses: number }[]; width?: number }>()
const shades = ['bg-moss', 'bg-slate', 'bg-ink2', 'bg-line']
const total = computed(() => props.parts.reduce((n, p) => n + p.uses, 0) || 1)
const text = computed(() => props.parts.map(p => `${p.value || 'not set'} ${p.uses}`).join(', '))
</script>

<template>
  <span
    class="inline-flex h-2 gap-px align-middle"
    :style="{ width: (width ?? 64) + 'px' }"
    role="img"
    :aria-label="text"
    :title="text"
  >
    <span
      v-for="(p, i) in parts"
      :key="p.value"
      :class="shades[Math.min(i, 3)]"
      :style="{ width: (100 * p.uses) / total + '%' }"
    ></span>
  </span>
</template>
