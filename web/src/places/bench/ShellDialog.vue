<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { freeSlug } from '../../use/slug'
import { useWorkspace } from '../../use/workspace'
import { useBench } from './useBench'

/** All that stands around a part of the screen becomes a shell, of this screen and of others
 * around which the same stands. */
const props = defineProps<{ element: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const bench = useBench()
const ws = useWorkspace()
const data = shallowRef<Schemas['PieceSurroundings']>()
const title = ref('')
const twins = ref<string[]>([])
const error = ref('')
const busy = ref(false)
const id = computed(() => freeSlug(title.value, 'shell', data.value?.taken ?? []))
/** Like things once, with how many there are. */
const elements = computed(() => {
  const n = new Map<string, number>()
  for (const e of data.value?.elements ?? []) n.set(e, (n.get(e) ?? 0) + 1)
  return [...n].map(([e, times]) => (times > 1 ? `${times} × ${e}` : e)).join(', ')
})
onMounted(async () => {
  try {
    const body = { doc: bench.doc.value, element: props.element }
    data.value = await ask(POST('/api/shells/propose', { body }))
    twins.value = data.value.twins.filter(t => t.equal).map(t => t.doc)
  } catch (e) {
    error.value = (e as Error).message
  }
})
async function make() {
  busy.value = true
  error.value = ''
  const order = {
    doc: bench.doc.value,
    element: props.element,
    id: id.value,
    title: title.value.trim(),
    twins: twins.value,
  }
  const done = await bench.planned(
    seen => ask(POST('/api/shells', { body: { order, seen } })),
    root => root.id,
  )
  if (done) await ws.load() // the shell is among the documents now
  busy.value = false
  if (done) emit('done')
  else error.value = bench.refusal.value
}
</script>

<template>
  <AppDialog title="A shell of what stands around" wide @close="emit('close')">
    <p v-if="error" role="alert" class="mb-2 text-rust">{{ error }}</p>
    <p v-if="!data && !error" class="text-ink2" role="status">Comparing with the other screens …</p>
    <form v-if="data" @submit.prevent="make">
      <div class="flex items-end gap-3">
        <label class="min-w-0 flex-1"
          >Title of the shell<input
            v-model="title"
            class="input mt-0.5 w-full"
            required
            maxlength="60"
            autofocus /></label
        ><span class="pb-1 font-mono text-xs text-ink2">shell:{{ id }}</span>
      </div>
      <dl class="mt-3 grid grid-cols-[150px_minmax(0,1fr)] gap-x-3 gap-y-1">
        <dt class="text-ink2">Goes into the shell</dt>
        <dd>{{ elements || 'layouts alone' }}</dd>
        <dt class="text-ink2">Stays on the screen</dt>
        <dd>
          {{ data.title
          }}<template v-if="data.along.length"
            >, and what it opens: {{ data.along.join(', ') }}</template
          >
        </dd>
      </dl>
      <fieldset v-if="data.twins.length" class="mt-3">
        <legend class="font-semibold">The same stands around these screens, or nearly</legend>
        <div class="max-h-[40vh] overflow-auto border-y border-line">
          <label
            v-for="t in data.twins"
            :key="t.doc"
            class="grid grid-cols-[16px_180px_minmax(0,1fr)] items-start gap-2 border-b border-line py-1 last:border-0"
            ><input
              v-model="twins"
              class="mt-0.5 accent-moss"
              type="checkbox"
              :value="t.doc"
            /><span class="truncate">{{ t.title }}</span
            ><span class="text-ink2"
              ><template v-if="t.equal">equal</template
              ><template v-else
                >becomes as here, where it has: {{ t.differences.join('; ') }}</template
              ></span
            ></label
          >
        </div>
      </fieldset>
      <p v-else class="mt-3 text-ink2">The same stands around no other screen.</p>
      <div class="mt-3 flex items-center justify-end gap-2">
        <span class="mr-auto text-ink2">One change; undo takes it back.</span
        ><button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="busy || !title.trim()">
          Make the shell{{ twins.length ? ` for ${twins.length + 1} screens` : '' }}
        </button>
      </div>
    </form>
    <div v-else class="mt-3 flex justify-end">
      <button class="btn" @click="emit('close')">Close</button>
    </div>
  </AppDialog>
</template>
