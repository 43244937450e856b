<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, GET, type Schemas } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import StrayMark from '../../ui/StrayMark.vue'
import TileStage from '../../ui/TileStage.vue'
import { walkWall } from '../../use/wall'
import { useWorkspace } from '../../use/workspace'
import LineDialog from './LineDialog.vue'
import { bench, useCensus, useFragments } from './census'

const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const { load: reload } = useCensus()
const kit = shallowRef<Schemas['ApiKitOut']>()
const data = shallowRef<Schemas['ApiLineUpOut']>()
const chosen = ref(new Set<string>())
const lining = ref(false)
const target = ref('')
const component = computed({
  get: () =>
    String(
      // Without a choice it is the one that differs most.
      route.query.component ?? data.value?.component ?? '',
    ),
  set: c => void router.replace({ query: { component: c } }),
})
const prop = computed({
  get: () => String(route.query.prop ?? ''),
  set: p => void router.replace({ query: { component: component.value, prop: p || undefined } }),
})
const used = computed(() => [
  ...(kit.value?.layouts ?? []).map(l => ({ tag: l.tag, title: l.title })),
  ...(kit.value?.components ?? []).filter(c => c.uses),
])
async function load() {
  kit.value ??= await ask(GET('/api/kit'))
  data.value = await ask(
    GET('/api/census/line-up', {
      params: {
        query: {
          component: String(route.query.component ?? '') || undefined,
          prop: prop.value || undefined,
        },
      },
    }),
  )
  more.value = {}
  chosen.value = new Set()
}
watch(
  [() => route.query.component, prop],
  () => {
    if (route.params.part === 'line-up') void load()
  },
  { immediate: true },
)
watch(
  () => ws.data?.seq,
  async () => {
    if (route.params.part === 'line-up') {
      await load()
      await redraw()
    }
  },
)
const words = ref('')
const step = 24
const more = ref<Record<number, number>>({}) // so many more of a group are shown
const groups = computed(() => {
  const wanted = words.value.toLowerCase()
  return (data.value?.groups ?? [])
    .map((g, i) => ({
      ...g,
      nth: i,
      uses: wanted
        ? g.uses.filter(u => `${u.title} ${u.words} ${u.doc}`.toLowerCase().includes(wanted))
        : g.uses,
    }))
    .filter(g => g.uses.length)
})
const seen = (g: { nth: number; uses: Schemas['ApiLineUpUse'][] }) =>
  g.uses.slice(0, step + (more.value[g.nth] ?? 0))
const { page, load: redraw } = useFragments(() =>
  groups.value.flatMap(g => seen(g).map(u => u.fragment)),
)
const def = computed(() =>
  [...(kit.value?.components ?? []), ...(kit.value?.layouts ?? [])].find(
    c => c.tag === component.value,
  ),
)
const values = computed(() => {
  const p = def.value?.props.find(x => x.name === prop.value)
  return p?.values?.length
    ? p.values
    : p?.type === 1
      ? ['false', 'true']
      : [...new Set(data.value?.groups.map(g => g.values[prop.value] ?? ''))]
})
const keyOf = (u: { doc: string; element: string }) => `${u.doc}#${u.element}`
function toggle(key: string) {
  const next = new Set(chosen.value)
  if (!next.delete(key)) next.add(key)
  chosen.value = next
}
function toggleGroup(g: Schemas['ApiGroup']) {
  const next = new Set(chosen.value)
  const all = g.uses.every(u => next.has(keyOf(u)))
  for (const u of g.uses) {
    if (all) next.delete(keyOf(u))
    else next.add(keyOf(u))
  }
  chosen.value = next
}
// Two are chosen: one as it should be, one as it should not, whichever is which.
const pair = computed(() => [...chosen.value])
function nameOf(key: string) {
  const group = data.value?.groups.find(g => g.uses.some(u => keyOf(u) === key))
  const use = group?.uses.find(u => keyOf(u) === key)
  const set = Object.values(group?.values ?? {}).filter(Boolean)[0]
  const others = data.value?.groups.filter(g => g.uses.some(u => chosen.value.has(keyOf(u))))
  return set && others?.length === 2 ? set : (use?.title ?? key)
}
const beside = ref(false) // the groups stand side by side
/** What most do comes first; one key brings the use under the cursor, or those chosen, into line
 * with it. */
function intoLine(key: string) {
  const most = data.value?.groups[0]
  const what = prop.value
  if (!most || !ws.canBuild) return
  if (!what) return ws.say('Choose a prop under “by” to bring them into line.')
  if (!chosen.value.size) chosen.value = new Set([key])
  target.value = most.values[what] ?? ''
  if (!target.value) return ws.say(`Most do not set ${what}; choose what it is to be.`)
  lining.value = true
}
function keys(e: KeyboardEvent) {
  const at = (e.target as HTMLElement).closest<HTMLElement>('[data-wall]')
  if (!at || e.ctrlKey || e.metaKey || e.altKey) return
  const key = at.dataset.use!
  if (e.key === ' ') toggle(key)
  else if (e.key === 'm') intoLine(key)
  else return walkWall(e)
  e.preventDefault()
}
async function done() {
  lining.value = false
  await Promise.all([load(), reload()])
  await redraw()
}
async function undo() {
  await ws.undo()
  await ws.load()
  await done()
}
</script>

<template>
  <div
    class="sticky top-0 z-30 flex flex-wrap items-center gap-3 border-b border-line bg-ground px-4 py-2"
  >
    <label class="flex items-center gap-1"
      >Every
      <select v-model="component" class="input">
        <option v-for="c in used" :key="c.tag" :value="c.tag">{{ c.title }}</option>
      </select></label
    >
    <label class="flex items-center gap-1"
      >by
      <select v-model="prop" class="input">
        <option value="">all that varies</option>
        <option v-for="p in data?.props" :key="p">{{ p }}</option>
      </select></label
    >
    <input
      v-model="words"
      type="search"
      class="input w-40"
      aria-label="Only these"
      placeholder="Screen, spot"
    />
    <span class="text-ink2">{{ data?.total }} uses, set in {{ data?.groups.length }} ways</span>
    <label v-if="groups.length > 1" class="flex items-center gap-1"
      ><input v-model="beside" type="checkbox" class="accent-moss" />side by side</label
    >
    <button v-if="ws.done.length" class="btn ml-auto" @click="undo">
      Undo {{ ws.done.at(-1)?.title.toLowerCase() }}
    </button>
    <template v-if="chosen.size && prop"
      ><label class="flex items-center gap-1" :class="{ 'ml-auto': !ws.done.length }"
        >{{ prop }} to
        <select v-model="target" class="input">
          <option v-for="v in values" :key="v" :value="v">{{ v || 'none' }}</option>
        </select></label
      ><button class="btn btn-main" :disabled="!target || !ws.canBuild" @click="lining = true">
        Bring {{ chosen.size }} into line
      </button></template
    >
    <span v-else-if="chosen.size" class="ml-auto text-ink2"
      >Choose a prop under “by” to bring them into line.</span
    >
    <template v-if="chosen.size === 2 && ws.canKeep"
      ><RouterLink
        v-for="[like, unlike] in [pair, pair.toReversed()]"
        :key="like"
        class="btn"
        :to="{ path: '/census/rules', query: { like, unlike } }"
        >Rule: like {{ nameOf(like!) }}, not {{ nameOf(unlike!) }}</RouterLink
      ></template
    >
  </div>
  <TileStage>
    <div
      :class="beside ? 'grid auto-cols-[minmax(300px,1fr)] grid-flow-col overflow-x-auto' : ''"
      @keydown="keys"
    >
      <section v-for="g in groups" :key="g.nth" class="min-w-0 px-4 pt-3">
        <h2 class="mb-2 flex items-baseline gap-3 border-b border-line pb-1">
          <label class="flex items-center gap-2"
            ><input
              type="checkbox"
              class="accent-moss"
              :checked="g.uses.every(u => chosen.has(keyOf(u)))"
              @change="toggleGroup(g)"
            /><span>{{
              Object.entries(g.values)
                .map(([k, v]) => `${k} ${v || 'none'}`)
                .join(', ') || 'all alike'
            }}</span></label
          ><span class="font-normal text-ink2">{{ g.uses.length }}</span>
        </h2>
        <ul class="grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-3">
          <li v-for="u in seen(g)" :key="keyOf(u)">
            <RouterLink
              :to="bench(u.doc, u.element)"
              class="block border border-line hover:border-ink"
              :class="{ bracket: chosen.has(keyOf(u)) }"
              data-wall
              :data-use="keyOf(u)"
              aria-keyshortcuts="Space m"
              :aria-label="`${u.words} on ${u.title}${chosen.has(keyOf(u)) ? ', chosen' : ''}`"
              ><LiveTile
                :html="page(u.fragment)?.html"
                :props="page(u.fragment)?.props"
                :width="420"
                :height="96"
                fit
                ><span
                  v-if="page(u.fragment) && !page(u.fragment)?.html"
                  class="block p-2 text-xs text-ink2"
                  >not shown with the usual records</span
                ></LiveTile
              ></RouterLink
            >
            <label class="flex items-center gap-2 text-xs"
              ><input
                type="checkbox"
                class="accent-moss"
                :checked="chosen.has(keyOf(u))"
                @change="toggle(keyOf(u))"
              /><StrayMark v-if="u.stray" :surprise="6" text="departs from the norm" /><span
                class="truncate"
                >{{ u.title }}</span
              ></label
            >
          </li>
        </ul>
        <button
          v-if="g.uses.length > seen(g).length"
          class="btn mt-2"
          @click="more = { ...more, [g.nth]: (more[g.nth] ?? 0) + 2 * step }"
        >
          Show more of the {{ g.uses.length - seen(g).length }} others
        </button>
      </section>
    </div>
    <p v-if="data && !data.total" class="p-4 text-ink2">No screen uses it.</p>
  </TileStage>
  <LineDialog
    v-if="lining"
    :uses="[...chosen]"
    :prop="prop"
    :value="target"
    @close="lining = false"
    @done="done"
  />
</template>
