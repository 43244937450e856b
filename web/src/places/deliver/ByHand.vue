<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'

/** What was edited by hand in the code of the screens: what the screens can take, and what stays. */
defineProps<{ byHand: Schemas['IntoByHand']; busy: boolean }>()
const emit = defineEmits<{ take: []; look: [path: string] }>()
const ws = useWorkspace()

function place(path: string, line: number) {
  return `${path.slice(path.lastIndexOf('/') + 1)}:${line}`
}
</script>

<template>
  <section class="mt-2" aria-label="Edited by hand">
    <h3 class="label">Edited by hand</h3>
    <p v-if="!byHand.taken.length && !byHand.left.length">
      All of it is in the screens; the next delivery renews these files.
    </p>
    <details v-if="byHand.taken.length" open>
      <summary class="cursor-pointer">
        {{ byHand.taken.length }} {{ byHand.taken.length === 1 ? 'edit' : 'edits' }} of the screens,
        too
      </summary>
      <ul class="max-h-48 overflow-auto text-xs">
        <li v-for="(t, i) in byHand.taken" :key="i" class="py-0.5">
          <button
            class="font-mono break-all underline"
            :title="t.path"
            @click="emit('look', t.path)"
          >
            {{ place(t.path, t.line) }}
          </button>
          {{ t.says }}
        </li>
      </ul>
      <button
        class="btn mt-1"
        :disabled="busy || !ws.canBuild"
        :title="ws.canBuild ? undefined : 'Builders take edits into the screens'"
        @click="emit('take')"
      >
        Take into the screens
      </button>
    </details>
    <details v-if="byHand.left.length" class="mt-1">
      <summary class="cursor-pointer text-rust">{{ byHand.left.length }} in the code alone</summary>
      <ul class="max-h-48 overflow-auto text-xs">
        <li v-for="(l, i) in byHand.left" :key="i" class="py-0.5">
          <button
            class="font-mono break-all underline"
            :title="l.path"
            @click="emit('look', l.path)"
          >
            {{ place(l.path, l.line) }}
          </button>
          {{ l.what }}: {{ l.why }}.
        </li>
      </ul>
    </details>
  </section>
</template>
