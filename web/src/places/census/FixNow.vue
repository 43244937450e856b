<script setup lang="ts">
import { computed } from 'vue'
import { counted } from '../../use/counted'
import { useWorkspace } from '../../use/workspace'

/** Whether what departs is brought into line at once; what stands in code is not, but by a patch. */
const props = defineProps<{
  words: string
  /** The documents in which something departs; all where that is not known. */
  docs?: string[]
}>()
const fix = defineModel<boolean>({ required: true })
const ws = useWorkspace()
const all = computed(() => {
  const heads = (ws.data?.docs ?? []).filter(d => !d.removed)
  return props.docs ? heads.filter(d => props.docs!.includes(`${d.kind}:${d.id}`)) : heads
})
const inCode = computed(() => all.value.filter(d => d.source).length)
</script>

<template>
  <label v-if="all.length > inCode" class="flex items-center gap-2"
    ><input v-model="fix" type="checkbox" class="accent-moss" />{{ words }}</label
  >
  <p v-if="inCode" class="text-ink2">
    <template v-if="docs"
      >{{ counted(inCode, 'screen') }} {{ inCode === 1 ? 'stands' : 'stand' }}</template
    >
    <template v-else>Screens that were read stand</template>
    in code: what departs there is found from now on, and the Worklist gives the patch.
  </p>
</template>
