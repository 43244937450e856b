<script setup lang="ts">
/** A patch to be read: what comes, what goes, where. */
defineProps<{ text: string; label: string }>()
const tone = (line: string) =>
  /^(\+\+\+|---|@@)/.test(line)
    ? 'text-ink2'
    : line.startsWith('+')
      ? 'text-moss'
      : line.startsWith('-')
        ? 'text-rust'
        : ''
</script>

<template>
  <pre
    class="overflow-auto border border-line bg-wash p-2 text-xs leading-5"
    tabindex="0"
    :aria-label="label"
  ><span v-for="(l, i) in text.trimEnd().split('\n')" :key="i" class="block" :class="tone(l)">{{ l || ' ' }}</span></pre>
</template>
