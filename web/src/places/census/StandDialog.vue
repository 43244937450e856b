<script setup lang="ts">
import { ref } from 'vue'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'

const props = defineProps<{ what: string; id: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const ws = useWorkspace()
const reason = ref('')
const until = ref('')
const error = ref('')
async function stand() {
  try {
    ws.note(
      await ask(
        POST('/api/census/let-stand', {
          body: {
            key: props.id,
            reason: reason.value,
            until: until.value || undefined,
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
  <AppDialog title="Let stand" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="stand">
      <p class="text-ink2">{{ what }}</p>
      <label
        ><span class="label mb-1 block">Reason</span
        ><input v-model="reason" class="input w-full" required autofocus
      /></label>
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
