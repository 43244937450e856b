<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, clientId, GET, POST, type Change, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import GenerateDialog from './GenerateDialog.vue'
import ImportDialog from './ImportDialog.vue'
import ModelDialog from './ModelDialog.vue'
import QueryDialog from './QueryDialog.vue'
import SourceDialog from './SourceDialog.vue'
import RecordGrid from './RecordGrid.vue'
import type { Cell, Field, How, Model, Names, Problem, Query, Rec } from './grid'

const route = useRoute()
const router = useRouter()
const ws = useWorkspace()
const data = shallowRef<Schemas['ApiSamplesOut']>()
const error = ref('')
const set = ref('usual')
const filter = ref('')
const records = shallowRef<Rec[]>([])
const names = shallowRef<Names>({})
const problems = shallowRef<Problem[]>([])
const grid = ref<InstanceType<typeof RecordGrid>>()
const open = ref<
  '' | 'query' | 'new-query' | 'source' | 'model' | 'new' | 'rows' | 'new-rows' | 'make'
>('')
const draft = shallowRef<{
  name: string
  fields: Field[]
  text: string
  columns: string[]
  all: string[]
  how?: How
}>()

const all = computed(() => (data.value?.models ?? []) as Model[])
const models = computed(() => all.value.filter(m => !m.query))
const queries = computed(() => all.value.filter(m => m.query))
const model = computed(() => all.value.find(m => m.id === route.params.model) ?? models.value[0])
const own = computed(
  () =>
    !!data.value?.sets.find(s => s.id === set.value)?.own ||
    (set.value === 'usual' && !data.value?.sets.some(s => s.id === 'usual')),
)
const source = computed(() => data.value?.sources.find(s => s.model === model.value?.id))
/** Choices that no record of this set shows: what is never seen is never looked at. */
const unseen = computed(() =>
  (records.value.length ? (model.value?.fields ?? []) : [])
    .filter(f => f.type === 'choice' && !model.value?.query)
    .flatMap(f =>
      (f.choices ?? [])
        .filter(c => !records.value.some(r => r[f.name] === c))
        .map(c => `${f.name} ${c}`),
    ),
)
const can = computed(() => ws.canBuild && own.value && !model.value?.query)

async function load() {
  try {
    data.value = await ask(GET('/api/samples'))
    error.value = ''
  } catch (e) {
    error.value = (e as Error).message
  }
}
let latest = 0
async function loadRecords() {
  const m = model.value,
    mine = ++latest
  if (!m) return
  try {
    const out = await ask(
      GET('/api/samples/{model}', { params: { path: { model: m.id }, query: { set: set.value } } }),
    )
    if (mine !== latest) return
    records.value = out.records as Rec[]
    names.value = out.names
    problems.value = out.problems
  } catch (e) {
    error.value = (e as Error).message
  }
}
onMounted(load)
watch([() => model.value?.id, set], loadRecords, { immediate: true })
watch(
  () => ws.lastEvent,
  async e => {
    if (e && e.client !== clientId && !e.docs?.length) {
      await load()
      await loadRecords()
    }
  },
)

/** Writes texts into cells; what does not fit is told, and nothing is written. */
async function write(
  title: string,
  cells: Cell[],
  fresh: number,
  after?: string,
  drop: string[] = [],
) {
  const m = model.value!
  try {
    const out = await ask(
      POST('/api/samples/{model}/cells', {
        params: { path: { model: m.id } },
        body: { set: set.value, cells, fresh, after, drop, client: clientId, title },
      }),
    )
    if (!out.change) {
      const w = out.wrong[0]!
      ws.say(
        `${w.field}${w.record?.startsWith('+') ? ' of a new record' : ' of ' + w.record}: ${w.reason}. Nothing was written.`,
      )
      return
    }
    ws.note(out.change)
    if (fresh || drop.length) {
      await loadRecords()
      await load()
    } else {
      const put = new Map((out.put as Rec[]).map(r => [r.id, r]))
      records.value = records.value.map(r => put.get(r.id) ?? r)
      problems.value = out.problems
    }
  } catch (e) {
    ws.say((e as Error).message)
  }
}
async function take(change: Change): Promise<boolean> {
  try {
    await ws.take(change)
    await load()
    await loadRecords()
    return true
  } catch (e) {
    ws.say((e as Error).message)
    return false
  }
}
async function undo(back: boolean) {
  try {
    await (back ? ws.undo() : ws.redo())
    await load()
    await loadRecords()
  } catch (e) {
    ws.say((e as Error).message)
  }
}
async function save(
  made: { id: string; name: string; fields: Field[] },
  renames: Record<string, string>,
  columns: string[],
) {
  const isNew = open.value === 'new'
  if (isNew && models.value.some(m => m.id === made.id)) {
    ws.say(`There is a model ${made.id} already.`)
    return
  }
  const steps: Change['steps'] = [{ do: 'model', model: made, renames } as Change['steps'][number]]
  const d = draft.value
  if (isNew && d?.text) {
    const out = await ask(
      POST('/api/samples/read', {
        body: {
          text: d.text,
          readings: d.how?.readings,
          list: d.how?.list || undefined,
          set: set.value,
          draft: made as unknown as Schemas['StoredModel'],
          fields: d.all.map(c => made.fields[columns.indexOf(c)]?.name ?? ''),
        },
      }),
    )
    steps.push({
      do: 'records',
      rows: { set: 'usual', model: made.id, put: out.records },
    } as Change['steps'][number])
    if (out.errors) ws.say(`${out.errors} values did not fit; their rows were left out.`)
  }
  if (await take({ title: isNew ? `New model ${made.name}` : `Fields of ${made.name}`, steps })) {
    open.value = ''
    draft.value = undefined
    if (isNew) {
      set.value = 'usual'
      await router.push(`/samples/${made.id}`)
    }
    await ws.load()
  }
}
async function remove() {
  const m = model.value!
  if (
    await take({
      title: `Remove the model ${m.name}`,
      steps: [
        { do: 'unmodel', model: { id: m.id, name: m.name, fields: [] } } as Change['steps'][number],
      ],
    })
  ) {
    open.value = ''
    await router.push('/samples')
    await ws.load()
  }
}
async function keep(list: Rec[], anew: boolean) {
  const m = model.value!
  const rows = anew
    ? { set: set.value, model: m.id, all: list }
    : { set: set.value, model: m.id, put: list }
  if (
    await take({
      title: `${list.length} ${m.name.toLowerCase()} records`,
      steps: [{ do: 'records', rows } as Change['steps'][number]],
    })
  )
    open.value = ''
}
async function saveQuery(q: Query) {
  const isNew = open.value === 'new-query'
  if (
    await take({
      title: isNew ? `New list ${q.name}` : `The list ${q.name}`,
      steps: [{ do: 'query', query: q } as unknown as Change['steps'][number]],
    })
  ) {
    open.value = ''
    if (isNew) await router.push(`/samples/${q.id}`)
    await ws.load()
  }
}
async function removeQuery() {
  const m = model.value!
  if (
    await take({
      title: `Remove the list ${m.name}`,
      steps: [{ do: 'unquery', query: m.query } as unknown as Change['steps'][number]],
    })
  ) {
    open.value = ''
    await router.push('/samples')
    await ws.load()
  }
}
async function step(title: string, s: object): Promise<boolean> {
  const done = await take({ title, steps: [s as Change['steps'][number]] })
  if (done) await ws.load()
  return done
}
/** A set that is made by itself becomes one's own, to be changed by hand. */
async function makeOwn() {
  const id = set.value,
    name = data.value!.sets.find(s => s.id === id)!.name
  const all: Record<string, unknown[]> = {}
  for (const m of models.value)
    all[m.id] = (
      await ask(
        GET('/api/samples/{model}', { params: { path: { model: m.id }, query: { set: id } } }),
      )
    ).records
  await take({
    title: `The set ${name} by hand`,
    steps: [{ do: 'set', set: { id, name, records: all } } as unknown as Change['steps'][number]],
  })
}
/** What the records of the model have in a field, each value once, or the rows that it is made of
 * in a column: the most frequent first. */
function met(field: string, column: string): string[] {
  const all =
    open.value === 'model' && model.value
      ? records.value.map(r => r[field])
      : (draft.value?.how?.met.get(column) ?? [])
  const times = new Map<string, number>()
  for (const v of all)
    if (
      (typeof v === 'string' || typeof v === 'number') &&
      String(v).trim() &&
      !`${v}`.includes(',')
    )
      times.set(String(v), (times.get(String(v)) ?? 0) + 1)
  return [...times].toSorted((a, b) => b[1] - a[1]).map(([v]) => v)
}
function openNew() {
  draft.value = undefined
  open.value = 'new'
}
</script>

<template>
  <div class="flex h-full max-md:flex-col">
    <p v-if="error" role="alert" class="p-6 text-rust">{{ error }}</p>
    <nav
      class="flex w-52 shrink-0 flex-col overflow-auto border-r border-line py-2 max-md:w-full"
      aria-label="Models"
    >
      <h1 class="px-4 pb-1 text-lg">Models</h1>
      <RouterLink
        v-for="m in models"
        :key="m.id"
        :to="`/samples/${m.id}`"
        class="flex gap-2 px-4 py-1 hover:bg-wash"
        :class="{ 'bg-mosswash font-semibold': m.id === model?.id }"
        :aria-current="m.id === model?.id ? 'true' : undefined"
        ><span class="truncate">{{ m.name }}</span
        ><span class="ml-auto font-normal text-ink2"
          ><template v-if="m.unused">unused · </template>{{ m.counts[set] ?? 0 }}</span
        ></RouterLink
      >
      <template v-if="queries.length"
        ><h2 class="px-4 pt-3 pb-1 text-ink2">Made of them</h2>
        <RouterLink
          v-for="m in queries"
          :key="m.id"
          :to="`/samples/${m.id}`"
          class="flex gap-2 px-4 py-1 hover:bg-wash"
          :class="{ 'bg-mosswash font-semibold': m.id === model?.id }"
          :aria-current="m.id === model?.id ? 'true' : undefined"
          ><span class="truncate">{{ m.name }}</span
          ><span class="ml-auto font-normal text-ink2"
            ><template v-if="m.unused">unused · </template>{{ m.counts[set] }}</span
          ></RouterLink
        ></template
      >
      <div v-if="ws.canBuild" class="mt-3 grid gap-1 px-3">
        <button class="btn h-6" @click="openNew">New model</button
        ><button class="btn h-6" @click="open = 'new-rows'">Model from rows</button
        ><button class="btn h-6" :disabled="!models.length" @click="open = 'new-query'">
          List made of one
        </button>
      </div>
    </nav>
    <section v-if="model" class="flex min-h-0 min-w-0 flex-1 flex-col" :aria-label="model.name">
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-4 py-1.5">
        <h2 class="text-xl">{{ model.name }}</h2>
        <code class="text-ink2">{{ model.id }}</code>
        <div class="flex" role="radiogroup" aria-label="Sample set">
          <button
            v-for="s in data?.sets"
            :key="s.id"
            role="radio"
            :aria-checked="s.id === set"
            class="px-2"
            :class="s.id === set ? 'font-semibold text-moss' : 'text-ink2'"
            @click="set = s.id"
          >
            {{ s.name.toLowerCase() }}
          </button>
        </div>
        <span class="ml-auto truncate text-ink2"
          ><template v-if="model.unused">nothing speaks of it</template
          ><template v-if="model.uses.length">on </template
          ><template v-for="(u, i) in model.uses.slice(0, 4)" :key="u.id"
            ><template v-if="i">, </template
            ><RouterLink class="underline" :to="`/bench/${u.id.replace(':', '/')}`">{{
              u.name
            }}</RouterLink></template
          ><template v-if="model.uses.length > 4">
            and {{ model.uses.length - 4 }} more</template
          ></span
        >
      </div>
      <div class="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1">
        <input
          v-model="filter"
          type="search"
          class="input h-6 w-44"
          aria-label="Find in the records"
          placeholder="Find in the records"
          @keydown.stop
        />
        <span class="text-ink2"
          >{{ filter ? `${grid?.rows.length ?? 0} of ` : '' }}{{ records.length }} records</span
        >
        <span
          v-if="problems.length"
          class="text-rust"
          :title="`${problems[0]!.record}, ${problems[0]!.field}: ${problems[0]!.reason}`"
          >{{ problems.length }} not as they should be</span
        >
        <span v-if="unseen.length" class="truncate text-ochre" :title="unseen.join(', ')"
          >no record with {{ unseen.slice(0, 3).join(', ')
          }}{{ unseen.length > 3 ? ` and ${unseen.length - 3} more` : '' }}</span
        >
        <span class="ml-auto"></span>
        <template v-if="can"
          ><button class="btn btn-bare h-6" title="Ctrl Enter" @click="grid?.add()">
            New record</button
          ><button class="btn btn-bare h-6" @click="open = 'rows'">Paste rows</button
          ><button class="btn btn-bare h-6" @click="open = 'make'">Make up …</button></template
        >
        <span v-else-if="model.query" class="truncate text-ink2"
          >made of {{ model.query.from }}</span
        >
        <button
          v-else-if="ws.canBuild"
          class="btn btn-bare h-6"
          title="It is made by itself; by hand it stays as you leave it"
          @click="makeOwn"
        >
          Change by hand
        </button>
        <a
          class="btn btn-bare h-6"
          :href="`/api/samples/${model.id}/export?as=csv&set=${set}`"
          download
          >CSV</a
        ><a
          class="btn btn-bare h-6"
          :href="`/api/samples/${model.id}/export?as=json&set=${set}`"
          download
          >JSON</a
        ><a
          v-if="!model.query"
          class="btn btn-bare h-6"
          :href="`/api/samples/${model.id}/export?as=schema`"
          download
          title="The fields as a JSON Schema"
          >Schema</a
        >
        <button
          v-if="!model.query && (source || (ws.canBuild && (data?.bases.length || ws.canKeep)))"
          class="btn btn-bare h-6"
          @click="open = 'source'"
        >
          {{ source ? `Live from ${source.base}` : 'Live …' }}
        </button>
        <button v-if="ws.canBuild" class="btn h-6" @click="open = model.query ? 'query' : 'model'">
          {{ model.query ? 'How it is made' : 'Fields' }}
        </button>
      </div>
      <RecordGrid
        ref="grid"
        :model="model"
        :records="records"
        :names="names"
        :problems="problems"
        :can="can"
        :filter="filter"
        @write="write"
        @drop="ids => write(`Remove ${ids.length} records`, [], 0, undefined, ids)"
        @undo="undo"
      />
      <p v-if="!records.length" class="p-4 text-ink2">
        <template v-if="model.query">Nothing comes of {{ model.query.from }} in this set.</template
        ><template v-else-if="can"
          >There are no records yet. Paste rows, make some up, or begin with a new one.</template
        ><template v-else
          >This set has no records of {{ model.name.toLowerCase() }}, on purpose: screens are to be
          seen with nothing, too.</template
        >
      </p>
      <p class="flex gap-4 border-t border-line px-4 py-1 text-xs text-ink2 max-md:hidden">
        <span v-if="can"><kbd class="kbd">Enter</kbd> edit</span
        ><span><kbd class="kbd">Shift ↑↓</kbd> select</span
        ><span v-if="can"><kbd class="kbd">Ctrl D</kbd> fill down</span
        ><span><kbd class="kbd">Ctrl C V</kbd> copy, paste</span
        ><template v-if="can"
          ><span><kbd class="kbd">Ctrl Enter</kbd> new record</span
          ><span><kbd class="kbd">Ctrl Delete</kbd> remove</span></template
        >
      </p>
    </section>
    <p v-else-if="data" class="p-6 text-ink2">There are no models yet.</p>
    <ModelDialog
      v-if="open === 'model' || open === 'new'"
      :model="open === 'model' ? model : undefined"
      :models="models"
      :types="data?.types ?? []"
      :tones="data?.tones"
      :currencies="data?.currencies ?? []"
      :draft="draft"
      :rows="draft?.text ? undefined : 0"
      :met="met"
      @close="open = ''"
      @save="save"
      @remove="remove"
    />
    <QueryDialog
      v-if="open === 'query' || open === 'new-query'"
      :query="open === 'query' ? model?.query : undefined"
      :models="models"
      :set="set"
      @close="open = ''"
      @save="saveQuery"
      @remove="removeQuery"
    />
    <SourceDialog
      v-if="open === 'source' && model"
      :model="model"
      :source="source"
      :bases="data?.bases ?? []"
      :can="ws.canBuild"
      :keeper="ws.canKeep"
      :step="step"
      @close="open = ''"
    />
    <ImportDialog
      v-if="open === 'rows' || open === 'new-rows'"
      :model="open === 'rows' ? model : undefined"
      :set="set"
      @close="open = ''"
      @take="list => keep(list, false)"
      @make="
        (fields, text, columns, name, how) => {
          draft = {
            name: name ?? '',
            fields,
            text,
            columns: columns.filter(c => c.toLowerCase() !== 'id'),
            all: columns,
            how,
          }
          open = 'new'
        }
      "
    />
    <GenerateDialog
      v-if="open === 'make' && model"
      :model="model"
      :set="set"
      :names="names"
      :kinds="data?.kinds ?? {}"
      @close="open = ''"
      @keep="keep"
    />
  </div>
</template>
