<script setup lang="ts">
import { computed, onMounted, shallowRef } from 'vue'
import { ask, GET, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'
import { useBench } from './useBench'

/** What happened to this document, newest first. Each change can be taken back by
 * itself; what was done after it stays where it can. */
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const ws = useWorkspace()
const rows = shallowRef<Schemas['StoreChangeRow'][]>([])
const loaded = shallowRef(false)
const name = (author: string) => ws.data?.owners[author] ?? author
const days = computed(() => {
  const out = new Map<string, Schemas['StoreChangeRow'][]>()
  for (const r of rows.value) {
    const day = new Date(r.at).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })
    out.set(day, [...(out.get(day) ?? []), r])
  }
  return [...out]
})
const time = (at: string) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

async function load() {
  rows.value = (await ask(GET('/api/changes', { params: { query: { doc: bench.doc.value, most: 200 } } }))).changes
  loaded.value = true
}
onMounted(load)
async function back(r: Schemas['StoreChangeRow']) { if (await bench.takeBack(r.seq, r.title)) await load() }
</script>

<template>
  <AppDialog :title="`History of ${bench.head.value?.title}`" wide @close="emit('close')">
    <p v-if="loaded && !rows.length" class="text-ink2">Nothing happened to it since the workspace was made.</p>
    <section v-for="[day, list] in days" :key="day" class="mb-3" :aria-label="day">
      <h3 class="mb-1 text-ink2">{{ day }}</h3>
      <ul class="sheet"><li v-for="r in list" :key="r.seq" class="flex items-baseline gap-3 border-b border-line px-3 py-1 last:border-b-0">
        <span class="text-xs text-ink2">{{ time(r.at) }}</span><span class="min-w-0 truncate" :class="{ 'text-ink2 line-through': r.undone }">{{ r.title }}</span><span class="truncate text-ink2">{{ name(r.author) }}</span>
        <span class="ml-auto shrink-0"><span v-if="r.undone" class="text-xs text-ink2">taken back</span><button v-else-if="ws.canBuild" class="underline" :aria-label="`Take back: ${r.title}`" @click="back(r)">take back</button></span></li></ul>
    </section>
    <div class="flex justify-end"><button class="btn" @click="emit('close')">Close</button></div>
  </AppDialog>
</template>
