<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import ByHand from './ByHand.vue'
import { happens, order } from './words'
import { download } from '../../use/download'

/** What delivering into a repository does, and what the application needs besides. */
const props = defineProps<{ plan: Schemas['ApiIntoOut']; busy: boolean }>()
const emit = defineEmits<{
  write: [connect: boolean]
  show: [addition: Schemas['ApiAdditionView']]
  take: []
  look: [path: string]
}>()
const ws = useWorkspace()
const connect = ref(true)
const counts = computed(() =>
  order
    .map(what => ({ what, n: props.plan.changes.filter(c => c.what === what).length }))
    .filter(c => c.n),
)
const open = computed(() => props.plan.additions.filter(a => !a.done))
const writes = computed(() =>
  props.plan.changes.some(c => !['same', 'kept', 'edited', 'left'].includes(c.what)),
)

/** What was pressed may be gone, or be of no use any more: one goes on from the plan. */
const section = useTemplateRef<HTMLElement>('section')
watch(
  () => props.busy,
  async busy => {
    await nextTick()
    if (!busy && document.activeElement === document.body) section.value?.focus()
  },
)

const toFile = () =>
  download(`${props.plan.folder.replaceAll('/', '-')}.patch`, props.plan.patch, 'text/x-patch')
</script>

<template>
  <section
    ref="section"
    class="border-b border-line px-3 py-2"
    aria-label="Into the repository"
    tabindex="-1"
  >
    <p class="font-mono text-xs break-all text-ink2">{{ plan.folder }}</p>
    <p role="status">
      <template v-for="(c, i) in counts" :key="c.what"
        ><template v-if="i">, </template>{{ c.n }} {{ happens[c.what]!.words }}</template
      >
    </p>
    <ByHand
      v-if="plan.byHand"
      :by-hand="plan.byHand"
      :busy="busy"
      @take="emit('take')"
      @look="path => emit('look', path)"
    />
    <h3 class="label mt-2">The application needs</h3>
    <ul>
      <li v-for="a in plan.additions" :key="a.what" class="flex gap-2">
        <span class="w-4 shrink-0 text-center" :class="a.done ? 'text-moss' : 'text-rust'">{{
          a.done ? '✓' : '·'
        }}</span>
        <span class="min-w-0">
          <button v-if="a.patch" class="text-left underline" @click="emit('show', a)">
            {{ a.what }}</button><template v-else>{{ a.what }}</template>
          <span v-if="a.by && !a.done" class="block text-xs text-ink2">By hand: {{ a.by }}.</span>
        </span>
      </li>
    </ul>
    <p v-for="s in plan.said ?? []" :key="s" class="mt-1 text-xs text-ink2">{{ s }}</p>
    <div class="mt-2 flex flex-wrap items-center gap-2">
      <button class="btn" @click="toFile">Patch</button>
      <button
        class="btn btn-main"
        :disabled="busy || !ws.canKeep || (!writes && !(connect && open.some(a => a.patch)))"
        :title="ws.canKeep ? undefined : 'A keeper writes into repositories; take the patch'"
        @click="emit('write', connect)"
      >
        Write
      </button>
      <label v-if="open.some(a => a.patch)" class="flex gap-1"
        ><input v-model="connect" type="checkbox" class="accent-moss" />with what it needs</label
      >
    </div>
  </section>
</template>
