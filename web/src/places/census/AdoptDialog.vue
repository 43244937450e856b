<script setup lang="ts">
import { ref } from 'vue'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'
import type { Work } from './work'

/** Makes the norm that something departs from a house rule. */
const props = defineProps<{ work: Work }>()
const emit = defineEmits<{ close: []; done: [] }>()
const ws = useWorkspace()
const reason = ref('')
const fix = ref(true)
const error = ref('')
async function adopt() {
  const a = props.work.adopt!
  try {
    ws.note(
      await ask(
        POST('/api/census/settle', {
          body: {
            spot: a.spot,
            where: a.where || undefined,
            words: a.words || undefined,
            prop: props.work.prop ?? '',
            value: a.value,
            reason: reason.value,
            fix: fix.value,
            client: clientId,
          },
        }),
      ),
    )
    await ws.load()
    emit('done')
  } catch (e) {
    error.value = (e as Error).message
  }
}
</script>

<template>
  <AppDialog title="Make it a house rule" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="adopt">
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
      <label class="flex items-center gap-2"
        ><input v-model="fix" type="checkbox" class="accent-moss" />Bring into line at once what
        departs from it</label
      >
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!reason.trim()">Make it a rule</button>
      </div>
    </form>
  </AppDialog>
</template>
