<script setup lang="ts">
import { useVirtualList } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, GET } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import AdoptDialog from './AdoptDialog.vue'
import GiveDialog from './GiveDialog.vue'
import LineDialog from './LineDialog.vue'
import StandDialog from './StandDialog.vue'
import MeasureRun from './MeasureRun.vue'
import WorkDetail from './WorkDetail.vue'
import { bench, useCensus, useLift } from './census'
import {
  grouped,
  groupings,
  levelOf,
  levels,
  matching,
  rowsOf,
  type Filter,
  type Grouping,
  type Row,
  type Work,
} from './work'

/** All there is to look at in one list, grouped by what is behind it and worked by keys. */
const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const { load: reload } = useCensus()
const all = shallowRef<Work[]>()
const error = ref('')
const chosen = ref(new Set<string>())
const open = ref(new Set<string>())
const at = ref(0)
const lining = shallowRef<{ strays: string[]; findings: string[] }>()
const standing = shallowRef<{ keys: string[]; what: string; spot?: string }>()
const adopting = shallowRef<Work>()
const giving = shallowRef<{ keys: string[]; what: string; to?: string }>()

// What is shown is in the address, so that it can be kept and sent.
const query = (name: string) =>
  computed({
    get: () => String(route.query[name] ?? ''),
    set: (v: string) => void router.replace({ query: { ...route.query, [name]: v || undefined } }),
  })
const by = query('by')
const level = query('level')
const owner = query('owner')
const given = query('given')
const component = query('component')
const words = query('words')
const filter = computed<Filter>(() => ({
  level: level.value,
  owner: owner.value,
  given: given.value,
  component: component.value,
  words: words.value,
}))
const grouping = computed<Grouping>(() =>
  by.value in groupings ? (by.value as Grouping) : 'cause',
)

async function load() {
  try {
    all.value = (await ask(GET('/api/census/work'))).work
    error.value = ''
  } catch (e) {
    error.value = (e as Error).message
  }
}
watch(() => ws.data?.seq, load, { immediate: true })

const shown = computed(() => matching(all.value ?? [], filter.value))
const groups = computed(() => grouped(shown.value, grouping.value))
const rows = computed(() => rowsOf(groups.value, open.value))
const counts = computed(() => {
  const out: Record<string, number> = {}
  for (const w of all.value ?? []) out[levelOf(w)] = (out[levelOf(w)] ?? 0) + 1
  return out
})
const components = computed(() =>
  [...new Map((all.value ?? []).filter(w => w.type).map(w => [w.type, w.typeName]))].sort((a, b) =>
    a[1].localeCompare(b[1]),
  ),
)
/** Who comes for one thing finds it under the cursor, whatever sort it is. */
async function find(key: string) {
  const w = all.value?.find(x => x.key === key)
  if (!w) return ws.say('That is no longer there.')
  if (!shown.value.includes(w))
    await router.replace({ query: { at: key, by: by.value || undefined, level: levelOf(w) } })
  await nextTick()
  const group = groups.value.find(g => g.items.includes(w))
  if (!group) return
  open.value = new Set([...open.value, group.id])
  go(rows.value.findIndex(r => r.item === w))
  tree.value?.focus({ preventScroll: true })
}
watch([all, () => route.query.at], ([now, key], [was]) => {
  if (now && key && (!was || key !== found)) void find((found = String(key)))
})
let found = ''
// What was open and under the cursor stays so as far as it is still there.
watch([groups, grouping], ([now], [was]) => {
  if (was && !was.length && now.length) open.value = new Set([now[0]!.id])
  chosen.value = new Set(shown.value.map(w => w.key).filter(k => chosen.value.has(k)))
})
watch(
  rows,
  (now, was) => {
    const id = was?.[at.value]?.id
    const same = id ? now.findIndex(r => r.id === id) : -1
    at.value = Math.max(0, Math.min(same < 0 ? at.value : same, now.length - 1))
  },
  { flush: 'sync' },
)
watch(grouping, () => {
  open.value = new Set(groups.value[0] ? [groups.value[0].id] : [])
  at.value = 0
})
const row = computed(() => rows.value[at.value])
const work = computed(() => row.value?.item ?? row.value?.group.items[0])
const next = computed(() => {
  const r = rows.value[at.value + 1]
  return r?.item ?? r?.group.items[0]
})
/** What an action is about: those chosen, else what is under the cursor. */
const subject = computed<Work[]>(() => {
  if (chosen.value.size) return shown.value.filter(w => chosen.value.has(w.key))
  if (!row.value) return []
  return row.value.item ? [row.value.item] : row.value.group.items
})

const height = 28
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(rows, {
  itemHeight: height,
  overscan: 12,
})
const tree = containerProps.ref
async function show() {
  await nextTick()
  const el = tree.value
  if (!el) return
  const top = at.value * height
  if (top < el.scrollTop || top + height > el.scrollTop + el.clientHeight)
    scrollTo(Math.max(0, at.value - 3))
}
function go(to: number) {
  at.value = Math.max(0, Math.min(rows.value.length - 1, to))
  void show()
}
function fold(r: Row, on: boolean) {
  const now = new Set(open.value)
  if (on) now.add(r.group.id)
  else now.delete(r.group.id)
  open.value = now
  if (!on) go(rows.value.findIndex(x => !x.item && x.group.id === r.group.id))
}
function choose(items: Work[]) {
  const now = new Set(chosen.value)
  const all = items.every(w => now.has(w.key))
  for (const w of items) {
    if (all) now.delete(w.key)
    else now.add(w.key)
  }
  chosen.value = now
}
const state = (r: Row): boolean | 'mixed' => {
  const items = r.item ? [r.item] : r.group.items
  const n = items.filter(w => chosen.value.has(w.key)).length
  return n === items.length || (n > 0 && 'mixed')
}
/** The next or the last group from here. */
function jump(by: number) {
  for (let i = at.value + by; i >= 0 && i < rows.value.length; i += by)
    if (!rows.value[i]!.item) return go(i)
}
const said = (list: Work[]) =>
  list.length === 1 ? `${list[0]!.title}: ${list[0]!.message}` : `${list.length} of the worklist`
function repair() {
  const list = subject.value.filter(w => w.fixTitle)
  if (!list.length) return ws.say('None of it has a repair by itself.')
  lining.value = {
    strays: list.filter(w => w.kind !== 'finding').map(w => w.key),
    findings: list.filter(w => w.kind === 'finding').map(w => w.key),
  }
}
function stand() {
  const list = subject.value.filter(w => w.kind !== 'question' && !w.stood)
  if (!list.length) return ws.say('A question is settled, not let stand.')
  standing.value = {
    keys: list.map(w => w.key),
    what: said(list),
    spot: list.length === 1 ? list[0]!.spotName : undefined,
  }
}
function give() {
  const list = subject.value.filter(w => !w.stood)
  if (list.length)
    giving.value = {
      keys: list.map(w => w.key),
      what: said(list),
      to: list.find(w => w.given)?.given?.to,
    }
}
const lifted = useLift(() => done())
const lift = () => lifted([...new Set(subject.value.flatMap(w => (w.stood ? [w.stood.key] : [])))])
async function done() {
  lining.value = standing.value = giving.value = adopting.value = undefined
  chosen.value = new Set()
  await ws.load()
  await Promise.all([load(), reload()])
}
async function undo() {
  await ws.undo()
  await done()
}
function key(e: KeyboardEvent) {
  if (e.ctrlKey || e.metaKey || e.altKey || !row.value) return
  const r = row.value
  const page = Math.max(1, Math.floor((tree.value?.clientHeight ?? 300) / height) - 1)
  const does: Record<string, () => unknown> = {
    ArrowDown: () => go(at.value + 1),
    ArrowUp: () => go(at.value - 1),
    PageDown: () => go(at.value + page),
    PageUp: () => go(at.value - page),
    Home: () => go(0),
    End: () => go(rows.value.length - 1),
    ArrowRight: () =>
      open.value.has(r.group.id) ? go(at.value + (r.item ? 0 : 1)) : fold(r, true),
    ArrowLeft: () => (r.item || open.value.has(r.group.id)) && fold(r, false),
    n: () => jump(1),
    N: () => jump(-1),
    ' ': () => choose(r.item ? [r.item] : r.group.items),
    a: () => choose(r.group.items),
    A: () => choose(shown.value),
    Escape: () => (chosen.value = new Set()),
    Enter: () => work.value && router.push(bench(work.value.doc, work.value.element)),
    f: repair,
    l: () => (r.item?.stood ? lift() : stand()),
    g: give,
  }
  const act = does[e.key]
  if (!act) return
  e.preventDefault()
  act()
}
const initials = (user: string) =>
  (ws.data?.owners[user] ?? user)
    .split(' ')
    .map(w => w[0])
    .join('')
    .slice(0, 2)
const mark = (w: Work) =>
  w.stood
    ? 'bg-line'
    : ({ error: 'bg-rust', warning: 'bg-rust/50', stray: 'bg-slate', question: 'bg-moss' }[
        levelOf(w)
      ] ?? 'bg-line')
const people = computed(() => Object.entries(ws.data?.owners ?? {}))
const owners = computed(() =>
  [...new Set((all.value ?? []).flatMap(w => w.owner || []))]
    .map(id => [id, ws.data?.owners[id] ?? id])
    .sort(),
)
</script>

<template>
  <div class="flex h-full flex-col">
    <div
      class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-4 py-1.5"
    >
      <label class="flex items-center gap-1"
        >By
        <select v-model="by" class="input" aria-label="Group by">
          <option v-for="(g, id) in groupings" :key="id" :value="id === 'cause' ? '' : id">
            {{ g.words }}
          </option>
        </select></label
      >
      <select v-model="level" class="input" aria-label="What sort">
        <option value="">all that is open</option>
        <option v-for="[id, name] in levels" :key="id" :value="id">
          {{ name }} {{ counts[id] ?? 0 }}
        </option>
      </select>
      <select v-model="component" class="input max-w-36" aria-label="Component">
        <option value="">every component</option>
        <option v-for="[id, name] in components" :key="id" :value="id">{{ name }}</option>
      </select>
      <select v-model="owner" class="input" aria-label="Owner of the screen">
        <option value="">every owner</option>
        <option value="-">without an owner</option>
        <option v-for="[id, name] in owners" :key="id" :value="id">{{ name }}</option>
      </select>
      <select v-model="given" class="input" aria-label="Who sees to it">
        <option value="">given or not</option>
        <option value="-">not given</option>
        <option v-for="[id, name] in people" :key="id" :value="id">to {{ name }}</option>
      </select>
      <input
        v-model="words"
        type="search"
        class="input w-44"
        aria-label="Words"
        placeholder="Screen, place, words"
      />
      <span role="status" class="ml-auto text-ink2"
        ><template v-if="chosen.size">{{ chosen.size }} chosen of </template>{{ shown.length }} in
        {{ groups.length }} {{ groups.length === 1 ? 'group' : 'groups' }}</span
      >
      <button class="btn" :disabled="!shown.length" @click="choose(shown)">
        {{ shown.length && chosen.size === shown.length ? 'None' : 'All' }}
      </button>
      <button v-if="ws.done.length" class="btn" @click="undo">
        Undo {{ ws.done.at(-1)?.title.toLowerCase() }}
      </button>
      <MeasureRun @measured="load" />
    </div>
    <p v-if="error" role="alert" class="p-4 text-rust">{{ error }}</p>
    <p v-else-if="!all" role="status" class="p-4 text-ink2">Counting …</p>
    <p v-else-if="!rows.length" class="p-4 text-ink2">
      {{
        all.length ? 'Nothing matches.' : 'Nothing is open. The screens agree and keep the rules.'
      }}
    </p>
    <div v-else class="flex min-h-0 flex-1 max-md:flex-col">
      <div
        v-bind="containerProps"
        role="tree"
        aria-label="Worklist"
        aria-multiselectable="true"
        :aria-activedescendant="row ? `work-${at}` : undefined"
        tabindex="0"
        data-home
        class="min-h-0 w-1/2 border-r border-line outline-none max-md:h-1/2 max-md:w-full max-md:border-b"
        @keydown="key"
      >
        <div v-bind="wrapperProps">
          <div
            v-for="{ data: r, index } in list"
            :id="`work-${index}`"
            :key="r.id"
            role="treeitem"
            :aria-level="r.item ? 2 : 1"
            :aria-expanded="r.item ? undefined : open.has(r.group.id)"
            :aria-selected="index === at"
            :aria-checked="state(r)"
            :aria-posinset="r.nth"
            :aria-setsize="r.of"
            class="flex items-center gap-2 pr-3"
            :class="[
              index === at ? 'bracket bg-wash' : '',
              r.item ? 'pl-7' : 'border-t border-line pl-2 font-semibold',
            ]"
            :style="{ height: height + 'px' }"
            @click="go(index)"
            @keydown.enter="go(index)"
          >
            <button
              v-if="!r.item"
              tabindex="-1"
              class="w-4 shrink-0 text-ink2"
              :aria-label="open.has(r.group.id) ? 'Fold' : 'Unfold'"
              @click.stop="fold(r, !open.has(r.group.id))"
            >
              {{ open.has(r.group.id) ? '▾' : '▸' }}
            </button>
            <input
              type="checkbox"
              tabindex="-1"
              class="shrink-0 accent-moss"
              :checked="state(r) === true"
              :indeterminate="state(r) === 'mixed'"
              :aria-label="r.item ? `Choose ${r.item.message}` : `Choose all of ${r.group.name}`"
              @click.stop
              @change="choose(r.item ? [r.item] : r.group.items)"
            />
            <span class="h-3 w-1 shrink-0" :class="mark(r.item ?? r.group.items[0]!)"></span>
            <template v-if="r.item">
              <span
                v-if="grouping !== 'screen'"
                class="w-32 shrink-0 truncate"
                :title="r.item.title"
                >{{ r.item.title }}</span
              >
              <span class="min-w-0 flex-1 truncate text-ink2" :title="r.item.message">{{
                grouping === 'cause' ? r.item.path : r.item.message
              }}</span>
              <span v-if="r.item.again" class="shrink-0 text-xs text-rust">again</span>
              <span
                v-if="r.item.given"
                class="shrink-0 border border-slate px-1 text-xs text-slate"
                :title="`given to ${ws.data?.owners[r.item.given.to] ?? r.item.given.to}`"
                >{{ initials(r.item.given.to) }}</span
              >
            </template>
            <template v-else
              ><span class="min-w-0 flex-1 truncate" :title="r.group.name">{{ r.group.name }}</span
              ><span class="max-w-[45%] shrink-0 truncate font-normal text-ink2">{{
                grouping === 'screen' || r.group.items.length > 1
                  ? r.group.items.length + (r.group.screens > 1 ? ` on ${r.group.screens}` : '')
                  : r.group.items[0]!.title
              }}</span></template
            >
          </div>
        </div>
      </div>
      <div class="min-h-0 flex-1 overflow-auto">
        <WorkDetail
          v-if="work"
          :work="work"
          :group="row?.item ? undefined : row?.group"
          :chosen="subject.length"
          :fixable="subject.some(w => w.fixTitle)"
          :next="next"
          @repair="repair"
          @stand="stand"
          @lift="lift"
          @give="give"
          @adopt="adopting = work"
        />
      </div>
    </div>
    <LineDialog
      v-if="lining"
      :strays="lining.strays"
      :findings="lining.findings"
      @close="lining = undefined"
      @done="done"
    />
    <StandDialog v-if="standing" v-bind="standing" @close="standing = undefined" @done="done" />
    <AdoptDialog v-if="adopting" :work="adopting" @close="adopting = undefined" @done="done" />
    <GiveDialog v-if="giving" v-bind="giving" @close="giving = undefined" @done="done" />
  </div>
</template>
