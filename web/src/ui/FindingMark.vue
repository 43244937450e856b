<script setup lang="ts">
/** A short rust bar with the count of findings. */
defineProps<{ count: number; text: string }>()
</script>

<template>
  <span
    class="inline-flex items-center gap-1 text-xs text-rust"
    role="img"
    :aria-label="`${count} findings: ${text}`"
    :title="text"
    ><span class="h-3 w-1 bg-rust"></span>{{ count }}</span
  >
</template>
