<script setup lang="ts">
/** Three short bars, one shifted aside, further the more surprising. */
const props = defineProps<{ surprise: number; text: string }>()
const shift = Math.min(6, 1 + Math.round(props.surprise / 2))
</script>

<template>
  <svg
    viewBox="0 0 18 12"
    class="h-3 w-[18px] shrink-0 text-slate"
    role="img"
    :aria-label="'Stray: ' + text"
  >
    <title>{{ text }}</title>
    <g fill="currentColor">
      <rect x="0" y="0" width="10" height="2.5" />
      <rect :x="shift" y="4.75" width="10" height="2.5" />
      <rect x="0" y="9.5" width="10" height="2.5" />
    </g>
  </svg>
</template>
