<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { shown, type Model, type Names, type Rec } from './grid'
import { pictureAt } from '../../use/pictures'

/** Makes records up, field by field; what comes of it is seen before it is kept. */
const props = defineProps<{
  model: Model
  set: string
  names: Names
  kinds: Record<string, string[]>
}>()
const emit = defineEmits<{ close: []; keep: [records: Rec[], anew: boolean] }>()
type Maker = Schemas['SampleMaker']
const count = ref(24)
const seed = ref(1)
const anew = ref(!props.model.counts[props.set])
const makers = ref<Record<string, Maker>>(
  Object.fromEntries(
    Object.entries(props.model.makers).map(([name, m]) => [
      name,
      {
        ...m,
        least: m.least ?? 0,
        most: m.most ?? 0,
        decimals: m.decimals ?? 0,
        missing: m.missing ?? 0,
        ratio: m.ratio ?? 'photo',
      },
    ]),
  ),
)
const records = shallowRef<Rec[]>([])
const error = ref('')
watchDebounced(
  [count, seed, anew, makers],
  async () => {
    try {
      const out = await ask(
        POST('/api/samples/generate', {
          body: {
            model: props.model.id,
            set: props.set,
            count: Number(count.value) || 0,
            seed: Number(seed.value) || 0,
            anew: anew.value,
            makers: makers.value,
          },
        }),
      )
      records.value = out.records as Rec[]
      error.value = out.problems.length
        ? `${out.problems.length} values are outside their limits: ${out.problems[0]!.field} ${out.problems[0]!.reason}`
        : ''
    } catch (e) {
      error.value = (e as Error).message
      records.value = []
    }
  },
  { debounce: 200, deep: true, immediate: true },
)
const span: Record<string, [string, string]> = {
  words: ['words', 'to'],
  title: ['words', 'to'],
  sentence: ['words', 'to'],
  paragraph: ['words', 'to'],
  number: ['from', 'to'],
  money: ['from', 'to'],
  date: ['days from today', 'to'],
  time: ['from', 'to'],
  link: ['words', 'to'],
  list: ['how many', 'to'],
  references: ['how many', 'to'],
}
function weigh(m: Maker, i: number, of: number, value: string) {
  const list = m.weights?.length === of ? [...m.weights] : Array.from({ length: of }, () => 1)
  list[i] = Number(value) || 0
  m.weights = list
}
</script>

<template>
  <AppDialog :title="`Make ${model.name.toLowerCase()} records up`" wide @close="emit('close')">
    <form class="grid gap-3" @submit.prevent="emit('keep', records, anew)">
      <div class="flex flex-wrap items-end gap-3">
        <label
          ><span class="label mb-1 block">How many</span
          ><input v-model.number="count" class="input w-20" type="number" min="1" max="20000"
        /></label>
        <label title="The same seed gives the same records"
          ><span class="label mb-1 block">Seed</span
          ><input v-model.number="seed" class="input w-20" type="number" min="0"
        /></label>
        <label class="flex h-7 items-center gap-1"
          ><input v-model="anew" type="checkbox" class="accent-moss" />in place of those that
          stand</label
        >
      </div>
      <div class="max-h-[32vh] overflow-auto border-y border-line">
        <div
          v-for="f in model.fields.filter(f => !f.compute)"
          :key="f.name"
          class="grid grid-cols-[120px_110px_minmax(0,1fr)] items-center gap-2 border-b border-line py-1 last:border-b-0"
          role="group"
          :aria-label="`How ${f.name} is made`"
        >
          <code class="truncate">{{ f.name }}</code>
          <select
            v-model="makers[f.name]!.kind"
            class="input h-6"
            :aria-label="`Kind of ${f.name}`"
          >
            <option v-for="k in kinds[f.type]" :key="k">{{ k }}</option>
          </select>
          <div class="flex flex-wrap items-center gap-1 text-xs text-ink2">
            <template v-if="span[makers[f.name]!.kind]"
              >{{ span[makers[f.name]!.kind]![0] }}
              <input
                v-model.number="makers[f.name]!.least"
                class="input h-6 w-20"
                type="number"
                step="any"
                :aria-label="`Least of ${f.name}`" />
              to
              <input
                v-model.number="makers[f.name]!.most"
                class="input h-6 w-20"
                type="number"
                step="any"
                :aria-label="`Most of ${f.name}`"
            /></template>
            <template v-if="f.type === 'number'"
              >decimals
              <input
                v-model.number="makers[f.name]!.decimals"
                class="input h-6 w-14"
                type="number"
                min="0"
                max="6"
                :aria-label="`Decimals of ${f.name}`"
            /></template>
            <label v-if="f.type === 'number' || f.type === 'money'" class="flex items-center gap-1"
              ><input
                type="checkbox"
                class="accent-moss"
                :checked="makers[f.name]!.spread === 'low'"
                @change="
                  makers[f.name]!.spread = ($event.target as HTMLInputElement).checked ? 'low' : ''
                "
              />mostly low</label
            >
            <template v-if="f.type === 'choice'"
              ><label v-for="(c, i) in f.choices" :key="c" class="flex items-center gap-1"
                >{{ c }}
                <input
                  class="input h-6 w-12"
                  type="number"
                  min="0"
                  step="any"
                  :value="makers[f.name]!.weights?.[i] ?? 1"
                  :aria-label="`Weight of ${c}`"
                  @input="
                    weigh(
                      makers[f.name]!,
                      i,
                      f.choices!.length,
                      ($event.target as HTMLInputElement).value,
                    )
                  " /></label
            ></template>
            <label v-if="f.type === 'yes/no'" class="flex items-center gap-1"
              >share of yes
              <input
                class="input h-6 w-16"
                type="number"
                min="0"
                max="1"
                step="0.1"
                :value="makers[f.name]!.weights?.[0] ?? 0.5"
                @input="
                  makers[f.name]!.weights = [Number(($event.target as HTMLInputElement).value)]
                "
            /></label>
            <label v-if="f.type === 'picture'"
              >ratio
              <select v-model="makers[f.name]!.ratio" class="input h-6">
                <option>photo</option>
                <option>square</option>
                <option>wide</option>
              </select></label
            >
            <input
              v-if="makers[f.name]!.kind === 'pattern'"
              v-model="makers[f.name]!.pattern"
              class="input h-6 w-28 font-mono"
              placeholder="??-####"
              :aria-label="`Pattern of ${f.name}`"
            />
            <label v-if="!f.required" class="ml-auto flex items-center gap-1"
              >missing
              <input
                v-model.number="makers[f.name]!.missing"
                class="input h-6 w-16"
                type="number"
                min="0"
                max="1"
                step="0.05"
                :aria-label="`Share without ${f.name}`"
            /></label>
          </div>
        </div>
      </div>
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div
        class="max-h-40 overflow-auto border border-line"
        tabindex="0"
        role="region"
        aria-label="The first of them"
      >
        <table class="w-full border-collapse whitespace-nowrap">
          <tbody>
            <tr v-for="r in records.slice(0, 8)" :key="r.id">
              <td
                v-for="f in model.fields"
                :key="f.name"
                class="max-w-40 truncate border-b border-line px-2 py-0.5"
              >
                <img
                  v-if="pictureAt(r[f.name])"
                  :src="pictureAt(r[f.name])"
                  alt=""
                  class="h-5"
                /><template v-else>{{ shown(f, r[f.name], names) }}</template>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!records.length">
          {{ anew ? 'Replace by' : 'Add' }} {{ records.length }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
