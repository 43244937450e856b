<script setup lang="ts">
import { computed } from 'vue'
import { metaStep, shellsFor } from '../../use/shells'
import { useWorkspace } from '../../use/workspace'
import { useBench } from './useBench'

/** What stands around the document: another shell is chosen here, or made of what stands around
 * the selected line. */
const emit = defineEmits<{ make: [element: string] }>()
const ws = useWorkspace()
const bench = useBench()
const head = computed(() => bench.head.value)
const shells = computed(() => shellsFor(ws.data?.docs ?? [], head.value))
const makes = computed(
  () =>
    head.value?.kind === 'screen' &&
    bench.canBuild.value &&
    bench.chosen.value.length === 1 &&
    bench.selected.value !== bench.root.value?.id,
)
function around(shell: string) {
  const d = head.value!
  const name = shells.value.find(s => s.id === shell)?.title
  void bench.change({
    title: name ? `${d.title} in the shell ${name}` : `${d.title} in no shell`,
    steps: [metaStep(d, { shell })],
  })
}
</script>

<template>
  <div v-if="head" class="flex h-6 shrink-0 items-center gap-1 px-3 text-ink2">
    <label
      >in shell
      <select
        class="max-w-40 min-w-0 truncate bg-transparent text-ink"
        :disabled="!bench.canBuild.value"
        :value="head.shell ?? ''"
        @change="around(($event.target as HTMLSelectElement).value)"
      >
        <option value="">none</option>
        <option v-for="s in shells" :key="s.id" :value="s.id">{{ s.title }}</option>
      </select></label
    >
    <RouterLink
      v-if="head.shell"
      :to="`/bench/shell/${head.shell}`"
      class="px-1 hover:bg-wash hover:text-ink"
      :aria-label="`Open the shell ${head.shell}`"
      >open ▸</RouterLink
    >
    <button
      v-if="makes"
      class="btn btn-bare ml-auto h-5 px-1 text-xs"
      title="Make a shell of all that stands around the selected line; the line becomes the screen"
      @click="emit('make', bench.selected.value)"
    >
      Shell of the rest …
    </button>
  </div>
</template>
