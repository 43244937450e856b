<script setup lang="ts">
import { computed } from 'vue'
import { toned, wears } from './tones'

/** Code in the application's few tones; long lines go on below, where the room ends. */
const props = defineProps<{ code: string; language: string }>()
const lines = computed(() => toned(props.code.replace(/\n$/, ''), props.language))
</script>

<template>
  <pre class="whitespace-pre-wrap break-words font-mono"><code><template
    v-for="(line, i) in lines"
    :key="i"
  ><template v-if="i">{{ '\n' }}</template><span
    v-for="(s, k) in line"
    :key="k"
    :class="wears[s.tone]"
  >{{ s.text }}</span></template></code></pre>
</template>
