<script setup lang="ts">
import { ref, shallowRef } from 'vue'
import { ask, clientId, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'

/** Takes rules from a file: first what it brings, then as one step. */
const emit = defineEmits<{ close: []; done: [] }>()
const ws = useWorkspace()
const text = ref('')
const data = shallowRef<Schemas['ApiTakeRulesOut']>()
const error = ref('')
async function choose(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (!file) return
  text.value = await file.text()
  await send(false)
}
async function send(apply: boolean) {
  try {
    const out = await ask(
      POST('/api/rules/file', { body: { text: text.value, apply, client: clientId } }),
    )
    error.value = ''
    if (!apply) {
      data.value = out
      return
    }
    if (out.taken) ws.note(out.taken)
    await ws.load()
    emit('done')
  } catch (e) {
    data.value = undefined
    error.value = (e as Error).message
  }
}
</script>

<template>
  <AppDialog title="Rules from a file" wide @close="$emit('close')">
    <input
      type="file"
      accept=".json,application/json"
      aria-label="File of rules"
      @change="choose"
    />
    <p v-if="error" role="alert" class="mt-3 text-rust">{{ error }}</p>
    <template v-if="data">
      <h3 class="mt-3">New</h3>
      <ul>
        <li v-for="n in data.new" :key="n">{{ n }}</li>
        <li v-if="!data.new.length" class="text-ink2">nothing</li>
      </ul>
      <h3 class="mt-2">In place of what is here</h3>
      <ul>
        <li v-for="n in data.changed" :key="n">{{ n }}</li>
        <li v-if="!data.changed.length" class="text-ink2">nothing</li>
      </ul>
      <p class="mt-2 text-ink2">
        {{ data.same }} {{ data.same === 1 ? 'is' : 'are' }} here already. What the team has beside
        these stays.
      </p>
    </template>
    <div class="mt-3 flex justify-end gap-2">
      <button class="btn btn-bare" @click="emit('close')">Cancel</button
      ><button class="btn btn-main" :disabled="!data || !ws.canKeep" @click="send(true)">
        Take them
      </button>
    </div>
  </AppDialog>
</template>
