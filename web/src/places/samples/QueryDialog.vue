<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { shown, toRight, type Model, type Query, type Rec } from './grid'
import { pictureAt } from '../../use/pictures'

/** Makes a list of another: grouped, counted, summed. What comes of it is seen at once. */
const props = defineProps<{ query?: Query; models: Model[]; set: string }>()
const emit = defineEmits<{ close: []; save: [query: Query]; remove: [] }>()
const name = ref(props.query?.name ?? '')
const from = ref(props.query?.from ?? props.models[0]?.id ?? '')
const where = ref(props.query?.where ?? '')
const group = ref<string[]>([...(props.query?.group ?? [])])
const each = ref(
  props.query?.each?.map(v => ({ ...v })) ?? [
    { name: 'count', do: 'count', field: '' as string | undefined },
  ],
)
const sort = ref(props.query?.sort ?? '')
const limit = ref(props.query?.limit || '')
const does = ['count', 'sum', 'average', 'least', 'most', 'distinct']
// The fields of the records and of those that they refer to.
const paths = computed(() => {
  const m = props.models.find(m => m.id === from.value)
  return (m?.fields ?? []).flatMap(f => [
    f.name,
    ...(f.type === 'reference'
      ? (props.models.find(o => o.id === f.model)?.fields ?? []).map(o => `${f.name}.${o.name}`)
      : []),
  ])
})
const id = computed(
  () =>
    props.query?.id ??
    name.value
      .trim()
      .normalize('NFKD')
      .replace(/[^a-zA-Z0-9 ]/g, '')
      .split(/\s+/)
      .filter(Boolean)
      .map((w, i) => (i ? w[0]!.toUpperCase() + w.slice(1) : w.toLowerCase()))
      .join('')
      .replace(/^[^a-z]+/, ''),
)
const made = computed<Query>(() => ({
  id: id.value,
  name: name.value.trim(),
  from: from.value,
  where: where.value.trim() || undefined,
  group: group.value.length ? group.value : undefined,
  each: each.value
    .filter(v => v.name.trim())
    .map(v => ({
      name: v.name.trim(),
      do: v.do,
      field: v.do === 'count' ? undefined : v.field || undefined,
    })),
  sort: sort.value.trim() || undefined,
  limit: Number(limit.value) || undefined,
}))
const out = shallowRef<Schemas['ApiQueryOut']>()
const problem = ref('')
watchDebounced(
  [made, () => props.set],
  async () => {
    try {
      const got = await ask(
        POST('/api/queries/preview', {
          body: {
            query: { ...made.value, id: made.value.id || 'made', name: made.value.name || 'Made' },
            set: props.set,
          },
        }),
      )
      problem.value = got.problem ?? ''
      if (!got.problem) out.value = got
    } catch (e) {
      problem.value = (e as Error).message
    }
  },
  { debounce: 200, deep: true, immediate: true },
)
function add() {
  const field = paths.value.find(p => !p.includes('.')) ?? ''
  each.value.push({ name: `value${each.value.length + 1}`, do: 'distinct', field })
}
</script>

<template>
  <AppDialog
    :title="query ? `How ${query.name} is made` : 'A list made of another'"
    wide
    @close="emit('close')"
  >
    <form class="grid gap-3" @submit.prevent="emit('save', made)">
      <div class="flex flex-wrap items-end gap-3">
        <label
          ><span class="label mb-1 block">Name</span
          ><input v-model="name" class="input w-56" required placeholder="Tickets by state"
        /></label>
        <label
          ><span class="label mb-1 block">Made of</span
          ><select v-model="from" class="input" @change="group = []">
            <option v-for="m in models" :key="m.id" :value="m.id">{{ m.name }}</option>
          </select></label
        >
        <label class="min-w-40 flex-1"
          ><span class="label mb-1 block">Only records where</span
          ><input
            v-model="where"
            class="input w-full font-mono"
            placeholder="record.state != 'done'"
            spellcheck="false"
        /></label>
      </div>
      <p class="text-ink2">
        Screens repeat over <code>{{ id || '…' }}</code>.
      </p>
      <fieldset>
        <legend class="label mb-1">One record for each</legend>
        <div class="flex flex-wrap items-center gap-1">
          <span v-for="(g, i) in group" :key="g" class="flex items-center border border-line px-2"
            ><code>{{ g }}</code
            ><button
              type="button"
              class="ml-1 px-1"
              :aria-label="`Not by ${g}`"
              @click="group.splice(i, 1)"
            >
              ×
            </button></span
          >
          <select
            class="input h-6"
            aria-label="Group by"
            :value="''"
            @change="
              e => {
                const t = e.target as HTMLSelectElement
                if (t.value) group.push(t.value)
                t.value = ''
              }
            "
          >
            <option value="">{{ group.length ? 'and by …' : 'all in one; or by …' }}</option>
            <option v-for="p in paths.filter(p => !group.includes(p))" :key="p">{{ p }}</option>
          </select>
        </div>
      </fieldset>
      <fieldset>
        <legend class="label mb-1">With</legend>
        <div
          v-for="(v, i) in each"
          :key="i"
          class="mb-1 flex flex-wrap items-center gap-2"
          role="group"
          :aria-label="`Value ${v.name}`"
        >
          <input
            v-model="v.name"
            class="input h-6 w-32 font-mono"
            required
            pattern="[a-z][a-zA-Z0-9]*"
            title="A lower-case letter, then letters and digits"
            :aria-label="`Name of value ${i + 1}`"
          />
          <select v-model="v.do" class="input h-6" :aria-label="`What ${v.name} is`">
            <option v-for="d in does" :key="d" :value="d">
              {{ d === 'count' ? 'how many' : d === 'distinct' ? 'different' : d }}
            </option>
          </select>
          <select
            v-if="v.do !== 'count'"
            v-model="v.field"
            class="input h-6"
            :aria-label="`Of which field ${v.name} is`"
          >
            <option v-for="p in paths" :key="p">{{ p }}</option>
          </select>
          <button
            type="button"
            class="btn btn-bare h-6 px-1"
            :aria-label="`Without ${v.name}`"
            @click="each.splice(i, 1)"
          >
            ×
          </button>
        </div>
        <button type="button" class="btn h-6" @click="add">Another value</button>
      </fieldset>
      <div class="flex gap-3">
        <label
          ><span class="label mb-1 block">Order</span
          ><input
            v-model="sort"
            class="input w-44 font-mono"
            placeholder="-count"
            spellcheck="false"
        /></label>
        <label
          ><span class="label mb-1 block">At most</span
          ><input v-model="limit" class="input w-20" inputmode="numeric" placeholder="all"
        /></label>
      </div>
      <p v-if="problem" role="alert" class="text-rust">{{ problem }}</p>
      <div
        v-if="out"
        class="max-h-[26vh] overflow-auto border border-line"
        :class="{ 'opacity-50': problem }"
      >
        <table class="w-full text-left">
          <caption class="sr-only">
            What comes of it
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
      <p class="text-ink2" role="status">
        {{ out?.count ?? 0 }} records<template v-if="(out?.count ?? 0) > (out?.records.length ?? 0)"
          >, the first {{ out?.records.length }} shown</template
        >
      </p>
      <div class="flex justify-end gap-2">
        <button v-if="query" type="button" class="btn mr-auto text-rust" @click="emit('remove')">
          Remove the list</button
        ><button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!id || !!problem">
          {{ query ? 'Change' : 'Make it' }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
