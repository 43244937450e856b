<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, POST, type Page } from '../../api/client'
import FindingMark from '../../ui/FindingMark.vue'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import NewScreen from './NewScreen.vue'
import ScreenMenu from './ScreenMenu.vue'
import SignDialog from './SignDialog.vue'

const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const pages = shallowRef<Record<string, Page>>({})
const filter = ref('')
const more = ref(false)
const signing = ref(false)
const creating = computed({
  get: () => route.query.new === '1',
  set: on => void router.replace({ query: on ? { new: '1' } : {} }),
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

async function draw() {
  const docs = ws.screens.map(s => 'screen:' + s.id)
  if (!docs.length) return
  const out = await ask(POST('/api/pages', { body: { docs } }))
  pages.value = Object.fromEntries(out.pages.map(p => [p.key, p]))
}
onMounted(draw)
watch(() => ws.data?.seq, draw)
async function restore(kind: string, id: string, title: string) {
  await ws.take({ title: `Restore ${title}`, steps: [{ do: 'restore', doc: `${kind}:${id}` }] })
  await ws.load()
}
</script>

<template>
  <div class="grid h-full grid-cols-[minmax(0,1fr)_340px] max-lg:block max-lg:overflow-auto">
    <section class="min-h-0 lg:overflow-auto" aria-label="Screens">
      <div
        class="sticky top-0 z-30 flex flex-wrap items-center gap-3 border-b border-line bg-ground px-4 py-2"
      >
        <h1 class="text-xl">{{ ws.data?.name }}</h1>
        <span class="text-ink2">{{ ws.screens.length }} screens, consistency {{ average }}</span>
        <input
          v-model="filter"
          class="input ml-auto w-40"
          type="search"
          aria-label="Filter screens"
          placeholder="Title, route, owner"
        />
        <select v-model="order" class="input" aria-label="Order of the screens">
          <option v-for="(o, id) in orders" :key="id" :value="id">{{ o.words }}</option>
        </select>
        <button v-if="ws.canBuild" class="btn" @click="signing = true">Sign off …</button>
        <button v-if="ws.canBuild" class="btn btn-main" @click="creating = true">New screen</button>
      </div>
      <TileStage>
        <ul class="grid grid-cols-[repeat(auto-fill,minmax(232px,1fr))] gap-4 p-4">
          <li v-for="s in shown" :key="s.id" class="min-w-0">
            <RouterLink
              :to="`/bench/screen/${s.id}`"
              class="block border border-line hover:border-ink"
              :aria-label="`${s.title}, open on the bench`"
            >
              <LiveTile
                :html="pages['screen:' + s.id]?.html"
                :props="pages['screen:' + s.id]?.props"
                :width="1120"
                :height="168"
              />
            </RouterLink>
            <div class="mt-1 flex items-start gap-2">
              <div class="min-w-0 flex-1">
                <RouterLink
                  :to="`/bench/screen/${s.id}`"
                  class="block truncate font-semibold hover:underline"
                  >{{ s.title }}</RouterLink
                >
                <div class="truncate font-mono text-xs text-ink2">
                  {{ s.route }} · {{ s.owner }}
                </div>
              </div>
              <FindingMark
                v-if="s.errors + s.warnings"
                :count="s.errors + s.warnings"
                :text="`${s.errors} errors, ${s.warnings} warnings`"
              />
              <span v-if="s.signed" class="text-xs text-moss" :title="s.signed">signed off</span>
              <span
                v-else-if="s.was"
                class="text-xs text-ink2"
                :title="`signed off by ${s.was}; ${s.since} edits since`"
                >changed since</span
              >
              <span
                class="flex items-center gap-1.5 text-xs"
                :title="[`Consistency ${s.score} of 100`, ...(s.why ?? [])].join('\n')"
                ><span class="h-2 w-8 bg-line"
                  ><span class="block h-2 bg-moss" :style="{ width: s.score + '%' }"></span></span
                >{{ s.score }}</span
              >
              <ScreenMenu v-if="ws.canBuild" :screen="s" />
            </div>
          </li>
        </ul>
      </TileStage>
      <p v-if="!shown.length" class="p-6 text-ink2">No screen matches “{{ filter }}”.</p>
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
    <SignDialog v-if="signing" @close="signing = false" />
  </div>
</template>
