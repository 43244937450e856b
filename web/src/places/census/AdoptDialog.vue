<script setup lang="ts">
import { ref } from 'vue'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import FixNow from './FixNow.vue'
import { useDecision } from './census'
import type { Work } from './work'

/** Makes the norm that something departs from a house rule. */
const props = defineProps<{ work: Work }>()
const emit = defineEmits<{ close: []; done: [] }>()
const reason = ref('')
const fix = ref(true)
const { error, decide } = useDecision(
  () =>
    ask(
      POST('/api/census/settle', {
        body: {
          spot: props.work.adopt!.spot,
          where: props.work.adopt!.where || undefined,
          words: props.work.adopt!.words || undefined,
          prop: props.work.prop ?? '',
          value: props.work.adopt!.value,
          reason: reason.value,
          fix: fix.value,
          client: clientId,
        },
      }),
    ),
  () => emit('done'),
)
</script>

<template>
  <AppDialog title="Make it a house rule" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="decide">
      <p>
        <b>{{ work.prop }} is {{ work.adopt?.value || 'not set' }}</b>
        <span class="text-ink2">
          of {{ work.typeName }}{{ work.adopt?.words ? `, ${work.adopt.words}` : '' }}</span
        >
      </p>
      <label
        ><span class="label mb-1 block">Why</span
        ><input v-model="reason" class="input w-full" required
      /></label>
      <FixNow v-model="fix" words="Bring into line at once what departs from it" />
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!reason.trim()">Make it a rule</button>
      </div>
    </form>
  </AppDialog>
</template>
