<script setup lang="ts">
import { computed, ref } from 'vue'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'
import { useDecision } from './census'

/** Gives somebody something of the audit to see to, or takes it back. */
const props = defineProps<{ keys: string[]; what: string; to?: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const ws = useWorkspace()
const person = ref(props.to ?? '')
const note = ref('')
const due = ref('')
const people = computed(() => Object.entries(ws.data?.owners ?? {}))
const { error, decide } = useDecision(
  () =>
    ask(
      POST('/api/census/assign', {
        body: {
          keys: props.keys,
          to: person.value,
          note: note.value || undefined,
          due: due.value || undefined,
          client: clientId,
        },
      }),
    ),
  () => emit('done'),
)
</script>

<template>
  <AppDialog title="Give to" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="decide">
      <p class="text-ink2">{{ what }}</p>
      <label
        ><span class="label mb-1 block">Who sees to it</span
        ><select v-model="person" class="input w-full" autofocus>
          <option value="" :disabled="!to">{{ to ? 'nobody any more' : 'choose' }}</option>
          <option v-for="[name, full] in people" :key="name" :value="name">{{ full }}</option>
        </select></label
      >
      <template v-if="person"
        ><label
          ><span class="label mb-1 block">What is to be done, or asked (may stay empty)</span
          ><input v-model="note" class="input w-full" /></label
        ><label
          ><span class="label mb-1 block">By (may stay empty)</span
          ><input v-model="due" type="date" class="input" /></label
      ></template>
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!person && !to">
          {{ person ? 'Give' : 'Take back' }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
