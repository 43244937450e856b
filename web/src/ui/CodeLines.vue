<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { ask, GET, type Schemas } from '../api/client'
import { languageOf, toned, wears } from './tones'

/** The lines of code around an element that was read from a repository. */
const props = defineProps<{ doc: string; element: string }>()
const data = shallowRef<Schemas['ApiCodeLinesOut']>()
const error = shallowRef('')
const lines = computed(() =>
  data.value ? toned((data.value.lines ?? []).join('\n'), languageOf(data.value.file)) : [],
)
watch(
  () => `${props.doc}#${props.element}`,
  async () => {
    data.value = undefined
    try {
      data.value = await ask(
        GET('/api/code/lines', { params: { query: { doc: props.doc, element: props.element } } }),
      )
      error.value = ''
    } catch (e) {
      error.value = (e as Error).message
    }
  },
  { immediate: true },
)
</script>

<template>
  <p v-if="error || data?.why" class="text-xs text-ink2">{{ error || data?.why }}</p>
  <pre
    v-else-if="data"
    class="overflow-auto border border-line bg-sheet py-1 text-xs leading-5"
    tabindex="0"
    :aria-label="`Lines of ${data.file}`"
  ><span
    v-for="(l, i) in lines"
    :key="i"
    class="flex"
    :class="data.from + i === data.line ? 'bg-mosswash font-semibold' : ''"
  ><span class="w-10 shrink-0 pr-2 text-right text-ink2 select-none">{{ data.from + i }}</span><code><span v-for="(s, k) in l" :key="k" :class="wears[s.tone]">{{ s.text }}</span><template v-if="!l.length">{{ ' ' }}</template></code></span></pre>
</template>
