<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { shown, toRight, type Model, type Rec } from './grid'
import { pictureAt } from '../../use/pictures'

/** Where live records of a model come from. What the service gives now is seen, mapped
 * and checked, before it is kept; a keeper says which addresses may be asked. */
type Source = Schemas['SampleSource']
const props = defineProps<{
  model: Model
  source?: Source
  bases: Schemas['SampleBase'][]
  can: boolean
  keeper: boolean
  step: (title: string, step: object) => Promise<boolean>
}>()
const emit = defineEmits<{ close: [] }>()
const base = ref(props.source?.base ?? props.bases[0]?.name ?? '')
const path = ref(props.source?.path ?? `/${props.model.id}`)
const list = ref(props.source?.list ?? '')
const fields = ref<Record<string, string>>({ ...props.source?.fields })
const params = ref<Record<string, string>>({})
const names = computed(() => [...path.value.matchAll(/\{(\w+)\}/g)].map(m => m[1]!))
const all = computed(() => [{ name: 'id', type: 'text' }, ...props.model.fields])
const made = computed<Source>(() => ({
  model: props.model.id,
  base: base.value,
  path: path.value.trim() || undefined,
  list: list.value.trim() || undefined,
  fields: Object.fromEntries(
    Object.entries(fields.value)
      .map(([k, v]) => [k, v.trim()])
      .filter(([, v]) => v),
  ) as Record<string, string>,
}))
const out = shallowRef<Schemas['ApiSourceOut']>()
const problem = ref('')
const asking = ref(false)
let latest = 0
watchDebounced(
  [made, params],
  async () => {
    if (!base.value) return
    const mine = ++latest
    asking.value = true
    try {
      const got = await ask(
        POST('/api/sources/preview', { body: { source: made.value, params: params.value } }),
      )
      if (mine === latest) {
        out.value = got
        problem.value = ''
      }
    } catch (e) {
      if (mine === latest) {
        problem.value = (e as Error).message
        out.value = undefined
      }
    } finally {
      if (mine === latest) asking.value = false
    }
  },
  { debounce: 400, deep: true, immediate: true },
)
async function keep() {
  if (
    await props.step(`${props.model.name} live from ${base.value}`, {
      do: 'source',
      source: made.value,
    })
  )
    emit('close')
}
async function away() {
  if (
    await props.step(`${props.model.name} live no more`, {
      do: 'unsource',
      source: { model: props.model.id, base: '' },
    })
  )
    emit('close')
}
const address = ref({ name: '', address: '' })
async function allow() {
  if (
    await props.step(`Data may come from ${address.value.address}`, {
      do: 'base',
      origin: { ...address.value },
    })
  ) {
    base.value ||= address.value.name
    address.value = { name: '', address: '' }
  }
}
const forbid = (name: string) =>
  props.step(`Data comes from ${name} no more`, { do: 'unbase', origin: { name, address: '' } })
const states: Record<string, string> = { ready: 'came', refused: 'refused', failed: 'did not come' }
/** Whether an address is named as one of the server's own network. */
function inside(address: string): boolean {
  const host = URL.canParse(address) ? new URL(address).hostname : ''
  return (
    /^(localhost|127\.|10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.)/.test(host) ||
    /^\[(::1|f[cd])/.test(host)
  )
}
</script>

<template>
  <AppDialog
    :title="`Where ${model.name.toLowerCase()} records come from`"
    wide
    @close="emit('close')"
  >
    <section class="mb-3 border-b border-line pb-3" aria-label="Addresses that may be asked">
      <p v-if="!bases.length" class="text-ink2">
        No address may be asked yet. {{ keeper ? 'Allow one first.' : 'A keeper allows them.' }}
      </p>
      <ul v-else class="flex flex-wrap gap-2">
        <li v-for="b in bases" :key="b.name" class="border border-line px-2">
          <code>{{ b.name }}</code>{{ ' ' }} <span class="text-ink2">{{ b.address }}</span><span
            v-if="inside(b.address)"
            class="ml-1 text-rust"
            title="The server asks there with its own rights; whoever builds screens sees what it answers"
            >in the server’s own network</span
          ><button
            v-if="keeper"
            class="ml-1 px-1"
            :aria-label="`Do not ask ${b.name} any more`"
            @click="forbid(b.name)"
          >
            ×
          </button>
        </li>
      </ul>
      <form v-if="keeper" class="mt-2 flex flex-wrap gap-2" @submit.prevent="allow">
        <input
          v-model="address.name"
          class="input h-6 w-28 font-mono"
          required
          pattern="[a-z][a-zA-Z0-9]*"
          placeholder="office"
          aria-label="Name of an address"
        /><input
          v-model="address.address"
          class="input h-6 min-w-40 flex-1 font-mono"
          required
          placeholder="https://data.fernhollow.example"
          aria-label="Address that may be asked"
        /><button class="btn h-6">Allow</button>
      </form>
    </section>
    <form v-if="bases.length" class="grid gap-3" @submit.prevent="keep">
      <div class="flex flex-wrap items-end gap-3">
        <label
          ><span class="label mb-1 block">Address</span
          ><select v-model="base" class="input">
            <option v-for="b in bases" :key="b.name" :value="b.name">{{ b.name }}</option>
          </select></label
        >
        <label class="min-w-40 flex-1"
          ><span class="label mb-1 block">Path; {name} is what the control of that name holds</span
          ><input
            v-model="path"
            class="input w-full font-mono"
            spellcheck="false"
            placeholder="/visits?gate={gate}"
        /></label>
        <label
          ><span class="label mb-1 block">The list stands at</span
          ><input
            v-model="list"
            class="input w-36 font-mono"
            spellcheck="false"
            placeholder="the top"
            title="A JSON pointer, as /data/items"
        /></label>
      </div>
      <div v-if="names.length" class="flex flex-wrap items-center gap-3">
        <span class="text-ink2">tried with</span
        ><label v-for="n in names" :key="n" class="flex items-center gap-1"
          ><code>{{ n }}</code
          ><input v-model="params[n]" class="input h-6 w-32" :aria-label="`Try ${n} with`"
        /></label>
      </div>
      <fieldset>
        <legend class="label mb-1">Each field stands at</legend>
        <div class="grid grid-cols-3 gap-x-4 gap-y-1 max-md:grid-cols-1">
          <label v-for="f in all" :key="f.name" class="flex items-center gap-2"
            ><code class="w-24 truncate">{{ f.name }}</code
            ><input
              v-model="fields[f.name]"
              class="input h-6 min-w-0 flex-1 font-mono"
              :placeholder="`/${f.name}`"
              spellcheck="false"
          /></label>
        </div>
      </fieldset>
      <p v-if="problem" role="alert" class="text-rust">{{ problem }}</p>
      <div v-else role="status" class="text-ink2">
        <template v-if="asking">Asking …</template
        ><template v-else-if="out"
          ><code class="break-all">{{ out.url }}</code
          >{{ ' ' }}
          <span :class="out.status === 'ready' ? 'text-moss' : 'text-rust'">{{
            states[out.status] ?? out.status
          }}</span><template v-if="out.status === 'ready'"
            >, {{ out.count }} records</template
          ></template
        >
      </div>
      <ul v-if="out?.problems.length" class="text-rust">
        <li v-for="(p, i) in out.problems.slice(0, 4)" :key="i">{{ p }}</li>
        <li v-if="out.problems.length > 4">and {{ out.problems.length - 4 }} more</li>
      </ul>
      <div v-if="out?.records.length" class="max-h-[24vh] overflow-auto border border-line">
        <table class="w-full text-left">
          <caption class="sr-only">
            The first records
          </caption>
          <thead class="sticky top-0 bg-wash">
            <tr>
              <th
                v-for="f in out.fields"
                :key="f.name"
                class="px-2 font-semibold"
                :class="{ 'text-right': toRight(f.type) }"
              >
                {{ f.name }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in out.records as Rec[]" :key="r.id" class="border-t border-line">
              <td
                v-for="f in out.fields"
                :key="f.name"
                class="px-2"
                :class="{ 'text-right': toRight(f.type) }"
              >
                <img
                  v-if="pictureAt(r[f.name])"
                  :src="pictureAt(r[f.name])"
                  alt=""
                  class="h-5"
                /><template v-else>{{ shown(f, r[f.name]) }}</template>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="flex justify-end gap-2">
        <button v-if="source && can" type="button" class="btn mr-auto text-rust" @click="away">
          Samples only</button
        ><button type="button" class="btn btn-bare" @click="emit('close')">
          {{ can ? 'Cancel' : 'Close' }}</button
        ><button v-if="can" class="btn btn-main" :disabled="!!problem || !base">
          {{ source ? 'Change' : 'Use it' }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
