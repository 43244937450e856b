<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { ask, clientId, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { counted } from '../../use/counted'
import { useWorkspace } from '../../use/workspace'

/** Takes a translated file into a language: first what it brings, then as one step. */
const props = defineProps<{ language?: string }>()
const emit = defineEmits<{ close: []; done: [language: string] }>()
const ws = useWorkspace()
const text = ref('')
const language = ref(props.language ?? '')
const brings = shallowRef<Schemas['ApiTextFileOut']>()
const error = ref('')
const fresh = computed(() => (brings.value ? brings.value.new + brings.value.other : 0))

async function choose(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (!file) return
  const called = file.name.replace(/\.json$/i, '')
  if (/^[a-z]{2,3}(-[A-Za-z0-9]+)*$/.test(called)) language.value = called
  text.value = await file.text()
  await look()
}
async function look() {
  if (!text.value || !language.value) return
  try {
    brings.value = await ask(
      POST('/api/texts/file', {
        body: { language: language.value, text: text.value, look: true },
      }),
    )
    error.value = ''
  } catch (e) {
    brings.value = undefined
    error.value = (e as Error).message
  }
}
async function take() {
  try {
    const out = await ask(
      POST('/api/texts/file', {
        body: { language: language.value, text: text.value, client: clientId },
      }),
    )
    if (out.change) ws.note(out.change)
    await ws.load()
    emit('done', language.value)
  } catch (e) {
    error.value = (e as Error).message
  }
}
</script>

<template>
  <AppDialog title="Texts from a file" wide @close="$emit('close')">
    <div class="flex flex-wrap items-end gap-3">
      <input
        type="file"
        accept=".json,application/json"
        aria-label="File of texts"
        @change="choose"
      />
      <label
        ><span class="label mb-1 block">Language</span
        ><input
          v-model.trim="language"
          class="input w-24 font-mono"
          placeholder="de"
          @change="look"
      /></label>
    </div>
    <p v-if="error" role="alert" class="mt-3 text-rust">{{ error }}</p>
    <div v-if="brings" class="mt-3" role="status">
      <p>
        {{ counted(brings.new, 'text') }} new, {{ brings.other }} said otherwise,
        {{ brings.same }} as before; {{ brings.missing }} still missing.
      </p>
      <p v-if="brings.written" class="text-ink2">
        {{ brings.written }} of all {{ brings.written === 1 ? 'is' : 'are' }} as written on the
        screens.
      </p>
      <ul v-if="brings.wrong.length || brings.unknown.length" class="mt-2 max-h-60 overflow-auto">
        <li v-for="w in brings.wrong" :key="w.key" :class="w.stays ? 'text-rust' : 'text-slate'">
          <code class="text-xs">{{ w.key }}</code>
          {{ w.stays ? 'is not taken:' : 'is taken, though' }} {{ w.message }}.
        </li>
        <li v-for="k in brings.unknown" :key="k" class="text-rust">
          <code class="text-xs">{{ k }}</code> is the key of no text.
        </li>
      </ul>
    </div>
    <div class="mt-3 flex justify-end gap-2">
      <button class="btn btn-bare" @click="emit('close')">Cancel</button
      ><button class="btn btn-main" :disabled="!fresh" @click="take">
        Take {{ counted(fresh, 'text') }}
      </button>
    </div>
  </AppDialog>
</template>
