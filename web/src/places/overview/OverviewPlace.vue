<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, POST, type DocHead, type Page } from '../../api/client'
import FindingMark from '../../ui/FindingMark.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import { counted } from '../../use/counted'
import { shellsFor } from '../../use/shells'
import DocMenu from './DocMenu.vue'
import DocTile from './DocTile.vue'
import { groupings } from './groups'
import NewScreen from './NewScreen.vue'
import NewShell from './NewShell.vue'
import ShellScreens from './ShellScreens.vue'
import SignDialog from './SignDialog.vue'

const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const pages = shallowRef<Record<string, Page>>({})
const filter = ref('')
const more = ref(false)
const signing = ref(false)
const filling = ref<DocHead>()
const beginning = ref(false) // a shell
const creating = computed({
  get: () => route.query.new === '1',
  set: on => void router.replace({ query: { ...route.query, new: on ? '1' : undefined } }),
})

type Doc = (typeof ws.screens)[number]
const shown = computed(() =>
  ws.screens
    .filter(s =>
      (s.title + ' ' + s.route + ' ' + s.owner).toLowerCase().includes(filter.value.toLowerCase()),
    )
    .toSorted((orders[order.value] ?? orders['']).by),
)
const removed = computed(() => ws.data?.docs.filter(d => d.removed) ?? [])
const average = computed(() =>
  Math.round(ws.screens.reduce((n, s) => n + s.score, 0) / (ws.screens.length || 1)),
)
const attention = computed(
  () => (more.value ? ws.data?.attention : ws.data?.attention.slice(0, 14)) ?? [],
)
const kinds: Record<string, [mark: string, words: string]> = {
  asked: ['bg-ink', 'put to people'],
  given: ['bg-ink', 'given to you'],
  error: ['bg-rust', 'error'],
  question: ['bg-moss', 'question'],
  stray: ['bg-slate', 'stray'],
  warning: ['bg-rust/50', 'warning'],
}
// The order of the screens is in the address, as what is filtered is not: it is typed anew.
const orders = {
  '': { words: 'as they stand', by: () => 0 },
  title: { words: 'by title', by: (a: Doc, b: Doc) => a.title.localeCompare(b.title) },
  score: { words: 'least consistent first', by: (a: Doc, b: Doc) => a.score - b.score },
  found: {
    words: 'most found first',
    by: (a: Doc, b: Doc) => found(b) - found(a),
  },
  owner: {
    words: 'by owner',
    by: (a: Doc, b: Doc) => (a.owner ?? '').localeCompare(b.owner ?? ''),
  },
  signed: {
    words: 'not signed off first',
    by: (a: Doc, b: Doc) => Number(!!a.signed) - Number(!!b.signed),
  },
}
const found = (d: Doc) => d.errors + d.warnings + d.strays
const order = computed({
  get: () => String(route.query.order ?? '') as keyof typeof orders,
  set: o => void router.replace({ query: { ...route.query, order: o || undefined } }),
})

const group = computed({
  get: () => String(route.query.group ?? ''),
  set: g => void router.replace({ query: { ...route.query, group: g || undefined } }),
})
const ways = computed(() => (ws.data ? groupings(ws.screens, ws.data) : []))
/** The screens as they are shown: in groups, or as one without a heading. */
const groups = computed(() => {
  const way = ways.value.find(w => w.id === group.value)
  if (!way) return [{ title: '', list: shown.value }]
  const out = new Map<string, Doc[]>()
  for (const s of shown.value) out.set(way.of(s), [...(out.get(way.of(s)) ?? []), s])
  return [...out]
    .map(([title, list]) => ({ title, list }))
    .toSorted((a, b) => a.title.localeCompare(b.title))
})
const meanOf = (list: Doc[]) =>
  Math.round(list.reduce((n, s) => n + s.score, 0) / (list.length || 1))
const shells = computed(() => shellsFor(ws.data?.docs ?? []))
const inside = (shell: DocHead) =>
  [
    counted(ws.screens.filter(s => s.shell === shell.id).length, 'screen'),
    counted(shells.value.filter(s => s.shell === shell.id).length, 'shell'),
  ]
    .filter((words, i) => i === 0 || !words.startsWith('0 '))
    .join(', ')

// Rendered is what stands near the view, and again once the workspace has moved on.
const near = new Set<string>()
const fresh = new Map<string, number | undefined>()
function seen(doc: string, on: boolean) {
  if (on) near.add(doc)
  else near.delete(doc)
  if (on) void draw()
}
const draw = useDebounceFn(async () => {
  const seq = ws.data?.seq
  // What was near and is there no more, as after an undo, would spoil it for all.
  const there = new Set(ws.data?.docs.map(d => `${d.kind}:${d.id}`))
  const docs = [...near]
    .filter(d => there.has(d) && (!fresh.has(d) || fresh.get(d) !== seq))
    .slice(0, 60)
  if (!docs.length) return
  for (const d of docs) fresh.set(d, seq)
  try {
    const out = await ask(POST('/api/pages', { body: { docs } }))
    pages.value = { ...pages.value, ...Object.fromEntries(out.pages.map(p => [p.key, p])) }
  } catch (e) {
    for (const d of docs) fresh.delete(d)
    ws.say((e as Error).message)
    return
  }
  await draw()
}, 60)
watch(
  () => ws.data?.seq,
  () => void draw(),
)
async function restore(kind: string, id: string, title: string) {
  await ws.take({ title: `Restore ${title}`, steps: [{ do: 'restore', doc: `${kind}:${id}` }] })
  await ws.load()
}
</script>

<template>
  <div class="grid h-full grid-cols-[minmax(0,1fr)_340px] max-lg:block max-lg:overflow-auto">
    <section class="min-h-0 scroll-pt-14 lg:overflow-auto" aria-label="Screens">
      <div
        class="sticky top-0 z-30 flex flex-wrap items-center gap-2 border-b border-line bg-ground px-4 py-2"
      >
        <h1 class="text-xl">{{ ws.data?.name }}</h1>
        <span class="text-ink2"
          >{{ counted(ws.screens.length, 'screen') }}, consistency {{ average }}</span
        >
        <input
          v-model="filter"
          class="input ml-auto w-30 max-md:ml-0 max-md:flex-1"
          type="search"
          aria-label="Filter screens"
          placeholder="Title, route, owner"
        />
        <select v-model="order" class="input w-30" aria-label="Order of the screens">
          <option v-for="(o, id) in orders" :key="id" :value="id">{{ o.words }}</option>
        </select>
        <select
          v-if="ways.length"
          v-model="group"
          class="input w-30"
          aria-label="Groups of the screens"
        >
          <option value="">not grouped</option>
          <option v-for="w in ways" :key="w.id" :value="w.id">{{ w.words }}</option>
        </select>
        <button v-if="ws.canBuild" class="btn" @click="signing = true">Sign off …</button>
        <button v-if="ws.canBuild" class="btn btn-main" @click="creating = true">New screen</button>
      </div>
      <TileStage>
        <section v-for="g in groups" :key="g.title" :aria-label="g.title || 'All'">
          <h2 v-if="g.title" class="flex items-baseline gap-3 px-4 pt-4 text-lg">
            {{ g.title }}
            <span class="text-sm text-ink2"
              >{{ counted(g.list.length, 'screen') }}, consistency {{ meanOf(g.list) }}</span
            >
          </h2>
          <ul class="grid grid-cols-[repeat(auto-fill,minmax(232px,1fr))] gap-4 p-4">
            <DocTile
              v-for="s in g.list"
              :key="s.id"
              :head="s"
              :page="pages['screen:' + s.id]"
              @near="seen"
            >
              <template #said
                ><span class="font-mono">{{ s.route }} · {{ s.owner }}</span></template
              >
              <FindingMark
                v-if="s.errors + s.warnings"
                :count="s.errors + s.warnings"
                :text="`${counted(s.errors, 'error')}, ${counted(s.warnings, 'warning')}`"
              />
              <span v-if="s.signed" class="text-xs text-moss" :title="s.signed">signed off</span>
              <span
                v-else-if="s.was"
                class="text-xs text-ink2"
                :title="`signed off by ${s.was}; ${counted(s.since ?? 0, 'edit')} since`"
                >changed since</span
              >
              <span
                class="flex items-center gap-1.5 text-xs"
                :title="[`Consistency ${s.score} of 100`, ...(s.why ?? [])].join('\n')"
                ><span class="h-2 w-8 bg-line"
                  ><span class="block h-2 bg-moss" :style="{ width: s.score + '%' }"></span></span
                >{{ s.score }}</span
              >
              <DocMenu v-if="ws.canBuild" :head="s" />
            </DocTile>
          </ul>
        </section>
        <p v-if="!shown.length && filter" class="p-6 text-ink2">
          No screen matches “{{ filter }}”.
        </p>
        <section class="border-t border-line" aria-labelledby="shells">
          <div class="flex items-baseline gap-3 px-4 pt-3">
            <h2 id="shells" class="text-lg">Shells</h2>
            <span class="text-ink2">what stands around screens</span>
            <button v-if="ws.canBuild" class="btn ml-auto" @click="beginning = true">
              New shell
            </button>
          </div>
          <ul class="grid grid-cols-[repeat(auto-fill,minmax(232px,1fr))] gap-4 p-4">
            <DocTile
              v-for="s in shells"
              :key="s.id"
              :head="s"
              :page="pages['shell:' + s.id]"
              @near="seen"
            >
              <template #said
                >{{ inside(s)
                }}<template v-if="s.shell"> · in the shell {{ s.shell }}</template></template
              >
              <FindingMark
                v-if="s.errors + s.warnings"
                :count="s.errors + s.warnings"
                :text="`${counted(s.errors, 'error')}, ${counted(s.warnings, 'warning')}`"
              />
              <DocMenu v-if="ws.canBuild && !s.source" :head="s" @fill="filling = s" />
            </DocTile>
          </ul>
        </section>
      </TileStage>
      <details v-if="removed.length" class="border-t border-line px-4 py-3">
        <summary>Removed ({{ removed.length }})</summary>
        <ul class="mt-2">
          <li v-for="d in removed" :key="d.kind + d.id" class="flex items-center gap-3 py-1">
            <span>{{ d.title }}</span><span class="font-mono text-xs text-ink2">{{ d.route }}</span
            ><button v-if="ws.canBuild" class="btn" @click="restore(d.kind, d.id, d.title)">
              Restore
            </button>
          </li>
        </ul>
      </details>
    </section>
    <aside
      class="min-h-0 border-l border-line lg:overflow-auto max-lg:border-l-0 max-lg:border-t"
      aria-label="What wants attention"
    >
      <h2 class="px-4 pt-3 pb-2 text-lg">What wants attention</h2>
      <ul>
        <li v-for="(a, i) in attention" :key="i" class="border-t border-line">
          <RouterLink :to="a.path" class="grid grid-cols-[4px_1fr] gap-3 px-4 py-2 hover:bg-wash">
            <span :class="kinds[a.kind]?.[0]"></span>
            <span class="min-w-0"
              ><span class="block">{{ a.title }}</span
              ><span class="block text-ink2"
                >{{ kinds[a.kind]?.[1] ?? a.kind }} · {{ a.detail }}</span
              ></span
            >
          </RouterLink>
        </li>
      </ul>
      <p v-if="!attention.length" class="px-4 text-ink2">
        Nothing. The screens agree with each other and with the rules.
      </p>
      <button
        v-if="!more && (ws.data?.attention.length ?? 0) > 14"
        class="btn m-4"
        @click="more = true"
      >
        All {{ ws.data?.attention.length }}
      </button>
    </aside>
    <NewScreen v-if="creating" @close="creating = false" />
    <NewShell v-if="beginning" @close="beginning = false" />
    <ShellScreens v-if="filling" :shell="filling" @close="filling = undefined" />
    <SignDialog v-if="signing" @close="signing = false" />
  </div>
</template>
