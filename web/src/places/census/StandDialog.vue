<script setup lang="ts">
import { computed, ref } from 'vue'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'
import { useDecision } from './census'

/** Lets findings and strays stand, as far as is chosen, with a reason. */
const props = defineProps<{ what: string; keys: string[]; spot?: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const ws = useWorkspace()
const reason = ref('')
const until = ref('')
const scope = ref('')
const scopes = computed(() =>
  [
    ['', props.keys.length > 1 ? `these ${props.keys.length}` : 'this one'],
    ['screen', 'the same on the whole screen'],
    ['spot', props.spot ? `the same wherever it is “${props.spot}”` : 'the same in its spot'],
    ['rule', 'the rule everywhere'],
  ].filter(([id]) => id !== 'rule' || (ws.canKeep && !props.keys[0]?.startsWith('stray|'))),
)
const { error, decide } = useDecision(
  () =>
    ask(
      POST('/api/census/let-stand', {
        body: {
          keys: props.keys,
          scope: scope.value || undefined,
          reason: reason.value,
          until: until.value || undefined,
          client: clientId,
        },
      }),
    ),
  () => emit('done'),
)
</script>

<template>
  <AppDialog title="Let stand" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="decide">
      <p class="text-ink2">{{ what }}</p>
      <label
        ><span class="label mb-1 block">Reason</span
        ><input v-model="reason" class="input w-full" required autofocus
      /></label>
      <fieldset>
        <legend class="label mb-1">How far</legend>
        <label v-for="[id, words] in scopes" :key="id" class="flex items-center gap-2 py-0.5"
          ><input v-model="scope" type="radio" name="scope" class="accent-moss" :value="id" />{{
            words
          }}</label
        >
      </fieldset>
      <label
        ><span class="label mb-1 block">Look again on (empty: never)</span
        ><input v-model="until" type="date" class="input"
      /></label>
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="$emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!reason.trim()">Let stand</button>
      </div>
    </form>
  </AppDialog>
</template>
