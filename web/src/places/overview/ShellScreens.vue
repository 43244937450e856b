<script setup lang="ts">
import { computed, ref } from 'vue'
import type { DocHead } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { metaStep } from '../../use/shells'
import { useWorkspace } from '../../use/workspace'

/** Which screens stand in a shell: several go in and out of it as one change. */
const props = defineProps<{ shell: DocHead }>()
const emit = defineEmits<{ close: [] }>()
const ws = useWorkspace()
const all = computed(() => ws.screens.filter(s => !s.source))
const read = computed(() => ws.screens.filter(s => s.source && s.shell === props.shell.id).length)
const chosen = ref(all.value.filter(s => s.shell === props.shell.id).map(s => s.id))
const wanted = ref('')
const error = ref('')
const busy = ref(false)
const titles = computed(
  () => new Map(ws.data?.docs.filter(d => d.kind === 'shell').map(d => [d.id, d.title])),
)
const listed = computed(() =>
  all.value.filter(s =>
    `${s.title} ${s.route} ${titles.value.get(s.shell ?? '') ?? ''}`
      .toLowerCase()
      .includes(wanted.value.toLowerCase()),
  ),
)
const enter = computed(() =>
  all.value.filter(s => chosen.value.includes(s.id) && s.shell !== props.shell.id),
)
const leave = computed(() =>
  all.value.filter(s => !chosen.value.includes(s.id) && s.shell === props.shell.id),
)
const words = computed(() =>
  [
    enter.value.length ? `${enter.value.length} go in` : '',
    leave.value.length ? `${leave.value.length} stand in no shell then` : '',
  ]
    .filter(Boolean)
    .join(', '),
)
async function save() {
  busy.value = true
  error.value = ''
  try {
    await ws.take({
      title: `Screens in the shell ${props.shell.title}`,
      steps: [
        ...enter.value.map(s => metaStep(s, { shell: props.shell.id })),
        ...leave.value.map(s => metaStep(s, { shell: '' })),
      ],
    })
    ws.say(`${props.shell.title}: ${words.value}. Undo takes it back as one step.`)
    await ws.load()
    emit('close')
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <AppDialog :title="`Screens in ${shell.title}`" wide @close="$emit('close')">
    <form @submit.prevent="save">
      <input
        v-model="wanted"
        class="input w-full"
        type="search"
        aria-label="Filter the screens"
        placeholder="Title, route, shell"
      />
      <div class="mt-2 max-h-[46vh] overflow-auto border-y border-line">
        <label
          v-for="s in listed"
          :key="s.id"
          class="grid grid-cols-[16px_minmax(0,1fr)_minmax(0,1fr)_120px] items-center gap-2 border-b border-line py-1 last:border-0"
          ><input v-model="chosen" type="checkbox" class="accent-moss" :value="s.id" /><span
            class="truncate"
            >{{ s.title }}</span
          ><span class="truncate font-mono text-xs text-ink2">{{ s.route }}</span
          ><span class="truncate text-ink2">{{
            s.shell ? (titles.get(s.shell) ?? s.shell) : 'no shell'
          }}</span></label
        >
        <p v-if="!listed.length" class="py-2 text-ink2">No screen matches “{{ wanted }}”.</p>
      </div>
      <p v-if="read" class="mt-2 text-ink2">
        {{ read }} more {{ read === 1 ? 'is' : 'are' }} read from code and changed there.
      </p>
      <p v-if="error" role="alert" class="mt-2 text-rust">{{ error }}</p>
      <div class="mt-3 flex items-center justify-end gap-2">
        <span class="mr-auto" aria-live="polite">{{ words }}</span>
        <button type="button" class="btn btn-bare" @click="$emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="busy || !words">Save</button>
      </div>
    </form>
  </AppDialog>
</template>
