<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import type { Field, Model, Rec } from './grid'

/** Rows from a spreadsheet, a CSV or a JSON file: into a model, or as a new one. */
const props = defineProps<{ model?: Model; set: string }>()
const emit = defineEmits<{
  close: []
  take: [records: Rec[]]
  make: [fields: Field[], text: string, columns: string[], name?: string]
}>()
const text = ref('')
const fields = ref<string[]>()
const out = shallowRef<Schemas['ApiReadOut']>()
const error = ref('')
const chosen = ref(0) // of several schemas
watchDebounced(
  [text, fields],
  async () => {
    if (!text.value.trim()) {
      out.value = undefined
      error.value = ''
      return
    }
    try {
      out.value = await ask(
        POST('/api/samples/read', {
          body: { text: text.value, model: props.model?.id, set: props.set, fields: fields.value },
        }),
      )
      error.value = ''
    } catch (e) {
      error.value = (e as Error).message
      out.value = undefined
    }
  },
  { debounce: 250, deep: true },
)
async function choose(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (!file) return
  fields.value = undefined
  // Bytes that are no UTF-8 are told apart by the server, so nothing is guessed here.
  const bytes = new Uint8Array(await file.arrayBuffer())
  text.value = new TextDecoder(isUtf8(bytes) ? 'utf-8' : 'windows-1252').decode(bytes)
}
function isUtf8(b: Uint8Array) {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(b)
    return true
  } catch {
    return false
  }
}
function map(i: number, to: string) {
  fields.value = out.value!.fields.map((f, j) => (j === i ? to : f === to ? '' : f))
}
function take() {
  if (!out.value) return
  const schema = out.value.schemas?.[chosen.value]
  if (schema) emit('make', schema.fields, '', [], schema.name)
  else if (props.model) emit('take', out.value.records as Rec[])
  else
    emit(
      'make',
      out.value.guesses.map(g => g.field),
      text.value,
      out.value.columns,
    )
}
</script>

<template>
  <AppDialog
    :title="model ? `Rows into ${model.name}` : 'A model from rows or a schema'"
    wide
    @close="emit('close')"
  >
    <form class="grid gap-3" @submit.prevent="take">
      <label
        ><span class="label mb-1 block">{{
          model
            ? 'Paste rows of a table, CSV or JSON; the first line names the columns'
            : 'Paste rows of a table, CSV or JSON, or a JSON Schema or OpenAPI document'
        }}</span
        ><textarea
          v-model="text"
          class="input h-32 w-full py-1 font-mono"
          spellcheck="false"
          @input="fields = undefined"
        ></textarea>
      </label>
      <input
        type="file"
        accept=".csv,.tsv,.txt,.json,.yaml,.yml,text/csv,application/json"
        aria-label="Or choose a file"
        @change="choose"
      />
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <fieldset v-if="out?.schemas?.length" class="max-h-[40vh] overflow-auto border-y border-line">
        <legend class="sr-only">Which of the models</legend>
        <label
          v-for="(s, i) in out.schemas"
          :key="s.name"
          class="flex gap-2 border-b border-line py-1 last:border-b-0"
          ><input
            v-model="chosen"
            type="radio"
            class="accent-moss"
            :value="i"
            name="schema"
            :disabled="!s.fields.length"
          />
          <span class="min-w-0"
            ><span class="font-semibold">{{ s.name }}</span
            >{{ ' ' }}
            <span class="text-ink2">{{
              s.fields.map(f => `${f.name} ${f.type}`).join(', ')
            }}</span><span v-for="n in s.notes" :key="n" class="block text-rust">{{
              n
            }}</span></span
          ></label
        >
      </fieldset>
      <template v-else-if="out">
        <p class="text-ink2">
          {{ out.total }} rows<template v-if="out.notes.length"
            >, {{ out.notes.join(', ') }}</template
          >. <template v-if="model">{{ out.records.length }} can be taken.</template>
        </p>
        <div
          class="max-h-[34vh] overflow-auto border border-line"
          tabindex="0"
          role="region"
          aria-label="What was read"
        >
          <table class="w-full border-collapse whitespace-nowrap">
            <thead>
              <tr>
                <th
                  v-for="(c, i) in out.columns"
                  :key="c"
                  class="sticky top-0 border-b border-line bg-sheet px-2 py-1 text-left align-top"
                >
                  <span class="block">{{ c }}</span>
                  <select
                    v-if="model"
                    class="input h-6 w-full font-normal"
                    :value="out.fields[i]"
                    :aria-label="`Field for ${c}`"
                    @change="map(i, ($event.target as HTMLSelectElement).value)"
                  >
                    <option value="">{{ c.toLowerCase() === 'id' ? 'the id' : 'left out' }}</option>
                    <option v-for="f in model.fields" :key="f.name">{{ f.name }}</option>
                  </select>
                  <span v-else class="block text-xs font-normal text-ink2"
                    >{{ out.guesses.find(g => g.column === c)?.field.type ?? 'the id' }},
                    {{ out.guesses.find(g => g.column === c)?.why }}</span
                  >
                </th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(r, i) in out.rows.slice(0, 12)" :key="i">
                <td
                  v-for="(v, j) in r"
                  :key="j"
                  class="max-w-48 truncate border-b border-line px-2 py-0.5"
                  :class="{
                    'text-rust': out.wrong.some(w => w.row === i + 1 && w.field === out!.fields[j]),
                  }"
                >
                  {{ v }}
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <ul v-if="out.errors" class="max-h-24 overflow-auto text-rust" role="status">
          <li v-for="(w, i) in out.wrong.slice(0, 20)" :key="i">
            Row {{ w.row }}, {{ w.field }}: {{ w.reason }}
          </li>
          <li v-if="out.errors > 20">
            and {{ out.errors - 20 }} more; rows with something wrong are left out.
          </li>
        </ul>
      </template>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!out || (!!model && !out.records.length)">
          {{ model ? `Take ${out?.records.length ?? 0}` : 'Go on to the fields' }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
