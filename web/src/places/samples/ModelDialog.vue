<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import type { Field, Model } from './grid'

/** Makes a model, or changes one; what the change reaches is told before it is taken. */
const props = defineProps<{
  model?: Model
  models: Model[]
  types: string[]
  tones?: string[]
  currencies: string[]
  draft?: { name: string; fields: Field[]; columns: string[] }
  rows?: number
  /** What its records have in a field, each value once; of the rows, by their columns. */
  met?: (field: string, column: string) => string[]
}>()
const emit = defineEmits<{
  close: []
  save: [
    model: { id: string; name: string; fields: Field[] },
    renames: Record<string, string>,
    columns: string[],
  ]
  remove: []
}>()
const name = ref(props.model?.name ?? props.draft?.name ?? '')
interface Row {
  was: string
  column: string
  field: Field
  choices: string
  meanings: Record<string, Meaning>
  meant: boolean
} // column: of the rows it is made from
type Meaning = Schemas['SampleMeaning']
const row = (f: Field, was: string, column = ''): Row => ({
  was,
  column,
  field: { ...f },
  choices: f.choices?.join(', ') ?? '',
  meanings: Object.fromEntries((f.meanings ?? []).map(m => [m.value, { ...m }])),
  meant: false,
})
/** A field that becomes a choice has the values to choose from that its records have. */
function typed(r: Row) {
  if (r.field.type !== 'choice' || r.choices.trim()) return
  const met = props.met?.(r.was || r.field.name, r.column) ?? []
  if (met.length <= 24) r.choices = met.join(', ')
}
const choicesOf = (r: Row) =>
  r.choices
    .split(',')
    .map(c => c.trim())
    .filter(Boolean)
/** What a choice means; the empty one is what is none of them. */
const meaningOf = (r: Row, value: string): Meaning => (r.meanings[value] ??= { value })
const meanings = (r: Row) => {
  const all = [...choicesOf(r), '']
    .map(v => r.meanings[v])
    .filter(m => m && (m.words || m.tone || m.icon))
  return all.length
    ? all.map(m => ({
        value: m!.value,
        words: m!.words?.trim() || undefined,
        tone: m!.tone?.trim() || undefined,
        icon: m!.icon?.trim() || undefined,
      }))
    : undefined
}
const list = ref<Row[]>(
  (
    props.model?.fields ??
    props.draft?.fields ?? [{ name: 'name', type: 'text', required: true }]
  ).map((f, i) => row(f, props.model ? f.name : '', props.draft?.columns[i])),
)
// Screens speak of its records by its id: a plural, as in code.
const plural = (s: string) => {
  const words = s
    .trim()
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9 ]/g, '')
    .split(/\s+/)
    .filter(Boolean)
  const last = words.pop() ?? ''
  const many = !last
    ? ''
    : /(s|x|ch|sh)$/.test(last)
      ? last + 'es'
      : /[^aeiou]y$/.test(last)
        ? last.slice(0, -1) + 'ies'
        : last + 's'
  return [...words, many]
    .filter(Boolean)
    .map((w, i) => (i ? w[0]!.toUpperCase() + w.slice(1) : w))
    .join('')
    .replace(/^[^a-z]+/, '')
}
const id = computed(() => props.model?.id ?? plural(name.value))
const refers = (t: string) => t === 'reference' || t === 'references'
const computable = (t: string) => !refers(t) && t !== 'picture'
const made = computed(() => ({
  id: id.value,
  name: name.value.trim(),
  fields: list.value
    .map(r => [r, r.field] as const)
    .map(([r, f]) => ({
      ...f,
      name: f.name.trim(),
      choices: f.type === 'choice' ? choicesOf(r) : undefined,
      meanings: f.type === 'choice' ? meanings(r) : undefined,
      model: refers(f.type) ? f.model || props.models[0]?.id : undefined,
      currency: f.type === 'money' ? f.currency || undefined : undefined,
      compute: computable(f.type) ? f.compute?.trim() || undefined : undefined,
      ...(f.compute?.trim() && computable(f.type)
        ? { required: undefined, unique: undefined, maker: undefined }
        : {}),
      least: f.least?.trim() || undefined,
      most: f.most?.trim() || undefined,
    })),
}))
const renames = computed(() =>
  Object.fromEntries(
    list.value
      .filter(r => r.was && r.was !== r.field.name.trim())
      .map(r => [r.was, r.field.name.trim()]),
  ),
)
const reach = shallowRef<Schemas['ApiModelReach']>()
watchDebounced(
  [made, renames],
  async () => {
    if (!id.value) {
      reach.value = undefined
      return
    }
    try {
      reach.value = await ask(
        POST('/api/models/preview', {
          body: { model: made.value as Schemas['StoredModel'], renames: renames.value },
        }),
      )
    } catch (e) {
      reach.value = { problem: (e as Error).message, records: 0, uses: [], gone: [] }
    }
  },
  { debounce: 200, deep: true, immediate: true },
)
const bounded = (t: string) =>
  ['text', 'long text', 'number', 'money', 'date', 'time', 'list', 'references'].includes(t)
function move(i: number, by: number) {
  const to = i + by
  if (to < 0 || to >= list.value.length) return
  const [r] = list.value.splice(i, 1)
  list.value.splice(to, 0, r!)
}
const fieldset = ref<HTMLElement>()
/** Goes on to the name of the field after one; behind the last there comes another. */
async function another(i: number) {
  if (i + 1 === list.value.length)
    list.value.push(row({ name: `field${list.value.length + 1}`, type: 'text' }, ''))
  await nextTick()
  const name = fieldset.value?.querySelector<HTMLInputElement>(
    `[aria-label="Name of field ${i + 2}"]`,
  )
  name?.focus()
  name?.select()
}
</script>

<template>
  <AppDialog :title="model ? `Fields of ${model.name}` : 'New model'" wide @close="emit('close')">
    <form
      class="grid gap-3"
      @submit.prevent="
        emit(
          'save',
          made,
          renames,
          list.map(r => r.column),
        )
      "
    >
      <label
        ><span class="label mb-1 block">What one of them is called</span
        ><input v-model="name" class="input w-72" required placeholder="Specimen" />{{ ' ' }}
        <span class="text-ink2"
          >screens speak of <code>{{ id || '…' }}</code></span
        ></label
      >
      <div ref="fieldset" class="-mx-1 max-h-[44vh] overflow-auto border-y border-line px-1">
        <div
          v-for="(r, i) in list"
          :key="i"
          class="grid grid-cols-[minmax(0,1fr)_104px_minmax(0,1.2fr)_auto] items-center gap-2 border-b border-line py-1 last:border-b-0"
          role="group"
          :aria-label="`Field ${r.field.name}`"
        >
          <input
            v-model="r.field.name"
            class="input w-full font-mono"
            required
            pattern="[a-z][a-zA-Z0-9]*"
            title="A lower-case letter, then letters and digits"
            :aria-label="`Name of field ${i + 1}`"
            @keydown.enter.prevent="another(i)"
          />
          <select
            v-model="r.field.type"
            class="input"
            :aria-label="`Type of ${r.field.name}`"
            @change="typed(r)"
          >
            <option v-for="t in types" :key="t">{{ t }}</option>
          </select>
          <div class="flex min-w-0 items-center gap-2">
            <input
              v-if="r.field.type === 'choice'"
              v-model="r.choices"
              class="input min-w-0 flex-1"
              placeholder="open, doing, done"
              :aria-label="`Choices of ${r.field.name}`"
            /><button
              v-if="r.field.type === 'choice'"
              type="button"
              class="shrink-0 text-xs underline"
              :aria-expanded="r.meant"
              @click="r.meant = !r.meant"
            >
              {{ meanings(r) ? 'meanings' : 'mean …' }}
            </button>
            <select
              v-else-if="refers(r.field.type)"
              v-model="r.field.model"
              class="input min-w-0 flex-1"
              :aria-label="`What ${r.field.name} refers to`"
            >
              <option v-for="m in models" :key="m.id" :value="m.id">{{ m.name }}</option>
            </select>
            <select
              v-if="r.field.type === 'money'"
              v-model="r.field.currency"
              class="input w-16"
              :aria-label="`Currency of ${r.field.name}`"
            >
              <option v-for="(c, n) in currencies" :key="c" :value="n ? c : undefined">
                {{ c }}
              </option>
            </select>
            <template v-if="bounded(r.field.type) && !r.field.compute"
              ><input
                v-model="r.field.least"
                class="input w-20 min-w-0"
                placeholder="least"
                :aria-label="`Least of ${r.field.name}`" /><input
                v-model="r.field.most"
                class="input w-20 min-w-0"
                placeholder="most"
                :aria-label="`Most of ${r.field.name}`"
            /></template>
            <button
              v-if="computable(r.field.type)"
              type="button"
              class="ml-auto shrink-0 text-xs underline"
              :aria-pressed="r.field.compute !== undefined"
              @click="r.field.compute = r.field.compute === undefined ? '' : undefined"
            >
              {{ r.field.compute === undefined ? 'compute …' : 'not computed' }}
            </button>
            <label
              v-if="r.field.compute === undefined"
              class="flex w-18 items-center gap-1 text-xs"
              :class="{ 'ml-auto': !computable(r.field.type) }"
              ><input
                v-model="r.field.required"
                type="checkbox"
                class="accent-moss"
              />required</label
            >
            <label
              v-if="
                ['text', 'number', 'link'].includes(r.field.type) && r.field.compute === undefined
              "
              class="flex w-16 items-center gap-1 text-xs"
              ><input v-model="r.field.unique" type="checkbox" class="accent-moss" />unique</label
            >
          </div>
          <span class="flex"
            ><button
              type="button"
              class="btn btn-bare h-6 px-1"
              :aria-label="`${r.field.name} earlier`"
              @click="move(i, -1)"
            >
              ↑</button
            ><button
              type="button"
              class="btn btn-bare h-6 px-1"
              :aria-label="`${r.field.name} later`"
              @click="move(i, 1)"
            >
              ↓</button
            ><button
              type="button"
              class="btn btn-bare h-6 px-1"
              :aria-label="`Without ${r.field.name}`"
              @click="list.splice(i, 1)"
            >
              ×
            </button></span
          >
          <label
            v-if="r.field.compute !== undefined && computable(r.field.type)"
            class="col-span-4 mb-1 ml-4 flex items-center gap-2 text-ink2"
            >computed of
            <input
              v-model="r.field.compute"
              class="input min-w-0 flex-1 font-mono text-ink"
              placeholder="record.price * record.count"
              :aria-label="`What ${r.field.name} is computed of`"
          /></label>
          <table
            v-if="r.field.type === 'choice' && r.meant"
            class="col-span-4 mb-1 ml-4 w-[calc(100%-1rem)] text-left"
          >
            <caption class="sr-only">
              What the choices of
              {{
                r.field.name
              }}
              mean
            </caption>
            <thead>
              <tr class="text-xs text-ink2">
                <th class="font-normal">Wherever it is</th>
                <th class="font-normal">words</th>
                <th class="font-normal">tone</th>
                <th class="font-normal">icon</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="v in [...choicesOf(r), '']" :key="v">
                <th class="pr-2 font-normal" :class="{ 'text-ink2': !v }">
                  {{ v || 'anything else' }}
                </th>
                <td>
                  <input
                    v-model="meaningOf(r, v).words"
                    class="input h-5 w-full"
                    :placeholder="v || 'as it is'"
                    :aria-label="`Words for ${v || 'anything else'}`"
                  />
                </td>
                <td>
                  <select
                    v-if="tones?.length"
                    v-model="meaningOf(r, v).tone"
                    class="input h-5 w-full"
                    :aria-label="`Tone of ${v || 'anything else'}`"
                  >
                    <option :value="undefined"></option>
                    <option v-for="t in tones" :key="t">{{ t }}</option></select
                  ><input
                    v-else
                    v-model="meaningOf(r, v).tone"
                    class="input h-5 w-full"
                    :aria-label="`Tone of ${v || 'anything else'}`"
                  />
                </td>
                <td>
                  <input
                    v-model="meaningOf(r, v).icon"
                    class="input h-5 w-full font-mono"
                    :aria-label="`Icon of ${v || 'anything else'}`"
                  />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </div>
      <div>
        <button type="button" class="btn h-6" @click="another(list.length - 1)">
          Another field
        </button>
      </div>
      <!-- Its room is there before it says anything: the buttons below do not move. -->
      <div class="min-h-10 text-ink2" role="status">
        <template v-if="reach">
          <p v-if="reach.problem" class="text-rust">{{ reach.problem }}</p>
          <template v-else>
            <p v-if="model && reach.records">{{ reach.records }} records change with it.</p>
            <p v-if="reach.gone.length" class="text-rust">
              {{ reach.gone.join(', ') }} and all
              {{ reach.gone.length === 1 ? 'its' : 'their' }} values fall away.
            </p>
            <p v-if="rows">{{ rows }} records come with it.</p>
          </template>
          <p v-if="reach.uses.length">
            {{ Object.keys(renames).length ? 'What speaks of it follows: ' : 'Spoken of on '
            }}<template v-for="(u, i) in reach.uses.slice(0, 6)" :key="i"
              ><template v-if="i">, </template
              ><RouterLink
                class="underline"
                :to="`/bench/${u.doc.replace(':', '/')}#${u.element}`"
                >{{ u.title }}</RouterLink
              >
              ({{ u.words }})</template
            ><template v-if="reach.uses.length > 6"> and {{ reach.uses.length - 6 }} more</template
            >.
          </p>
        </template>
      </div>
      <div class="flex flex-row-reverse gap-2">
        <button class="btn btn-main" :disabled="!id || !!reach?.problem || !list.length">
          {{ model ? 'Change' : 'Make it' }}</button><button
          type="button"
          class="btn btn-bare"
          @click="emit('close')"
        >
          Cancel</button
        ><button v-if="model" type="button" class="btn mr-auto text-rust" @click="emit('remove')">
          Remove the model
        </button>
      </div>
    </form>
  </AppDialog>
</template>
