<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { decoded } from './decode'
import type { Field, How, Model, Rec } from './grid'

/** Rows from a spreadsheet, a CSV or a JSON file: into a model, or as a new one. */
const props = defineProps<{ model?: Model; set: string }>()
const emit = defineEmits<{
  close: []
  take: [records: Rec[]]
  make: [fields: Field[], text: string, columns: string[], name?: string, how?: How]
}>()
const text = ref('')
const fields = ref<string[]>()
const out = shallowRef<Schemas['ApiReadOut']>()
const error = ref('')
const chosen = ref(0) // of several schemas
const readings = ref<Record<string, string>>({}) // that somebody chose, by column
const list = ref('') // of several in a JSON document
const encoding = ref('') // that a file was read in
const waiting = ref(false) // for what is read now
let asked = 0
watch([text, fields, readings, list], () => {
  waiting.value = true
  asked++
})
watchDebounced(
  [text, fields, readings, list],
  async () => {
    if (!text.value.trim()) {
      out.value = undefined
      error.value = ''
      waiting.value = false
      return
    }
    const mine = asked
    try {
      out.value = await ask(
        POST('/api/samples/read', {
          body: {
            text: text.value,
            model: props.model?.id,
            set: props.set,
            fields: fields.value,
            readings: readings.value,
            list: list.value || undefined,
          },
        }),
      )
      error.value = ''
    } catch (e) {
      error.value = (e as Error).message
      out.value = undefined
    }
    if (mine === asked) waiting.value = false
  },
  { debounce: 250, deep: true },
)
async function choose(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (!file) return
  fields.value = undefined
  anew()
  const read = decoded(new Uint8Array(await file.arrayBuffer()))
  encoding.value = read.as === 'utf-8' ? '' : read.as
  text.value = read.text
}
/** What is pasted or chosen is asked about anew. */
function anew() {
  fields.value = undefined
  readings.value = {}
  list.value = ''
  encoding.value = ''
}
const guess = (column: string) => out.value?.guesses.find(g => g.column === column)
/** Readings that somebody must choose among: the texts mean something else by another. */
const unclear = computed(() => (out.value?.guesses ?? []).filter(g => g.unclear))
const read = (column: string, id: string) => {
  readings.value = { ...readings.value, [column]: id }
}
/** Those that make sense for the field that a column goes to. */
function offered(column: string, i: number) {
  const all = guess(column)?.readings ?? []
  const to = props.model?.fields.find(f => f.name === out.value!.fields[i])
  return to ? all.filter(r => r.field.type === to.type) : props.model ? [] : all
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
      undefined,
      {
        // As they were read here, whatever becomes of the fields.
        readings: Object.fromEntries(out.value.guesses.map(g => [g.column, g.reading])),
        list: list.value,
        met: new Map(
          out.value.guesses.map(g => [g.column, out.value!.records.map(r => r[g.field.name])]),
        ),
      },
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
          @input="anew"
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
          ><template v-if="encoding">, the file read as {{ encoding }}</template
          >.
          <template v-if="model">{{ out.records.length }} can be taken.</template>
        </p>
        <label v-if="out.lists.length" class="flex items-center gap-2"
          ><span class="label">Which list of it</span
          ><select v-model="list" class="input">
            <option value="">the longest</option>
            <option v-for="l in out.lists" :key="l.path" :value="l.path">
              {{ l.path || 'the whole' }}, {{ l.rows }} rows
            </option>
          </select></label
        >
        <p v-if="unclear.length" class="text-rust" role="status">
          Nothing in {{ unclear.length === 1 ? 'the column' : 'the columns' }}
          {{ unclear.map(g => g.column).join(', ') }} says which is meant; choose below.
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
                  <select
                    v-if="offered(c, i).length > 1"
                    class="input mt-0.5 h-6 w-full max-w-64 min-w-36 font-normal"
                    :class="{ 'border-rust text-rust': guess(c)?.unclear }"
                    :value="guess(c)?.unclear ? '' : guess(c)?.reading"
                    :aria-label="`How ${c} is read`"
                    @change="read(c, ($event.target as HTMLSelectElement).value)"
                  >
                    <option v-if="guess(c)?.unclear" value="" disabled>which is meant?</option>
                    <option v-for="r in offered(c, i)" :key="r.id" :value="r.id">
                      {{ r.words }}{{ r.loses ? `, without ${r.loses}` : ''
                      }}{{ r.example ? `: ${r.example}` : '' }}
                    </option>
                  </select>
                  <span v-else-if="!model" class="block text-xs font-normal text-ink2"
                    >{{ guess(c)?.field.type ?? 'the id' }}, {{ guess(c)?.why }}</span
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
                  {{ out.read[i]?.[j] ?? v
                  }}<span
                    v-if="(out.read[i]?.[j] ?? v) !== v"
                    class="ml-2 text-xs text-ink2"
                    :title="`written as ${v}`"
                    >{{ v }}</span
                  >
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
        ><button
          class="btn btn-main"
          :disabled="!out || waiting || !!unclear.length || (!!model && !out.records.length)"
        >
          {{ model ? `Take ${out?.records.length ?? 0}` : 'Go on to the fields' }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
