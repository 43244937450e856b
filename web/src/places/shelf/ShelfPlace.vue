<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, GET, POST, type Component, type Page, type Schemas } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { walkWall } from '../../use/wall'
import { useWorkspace } from '../../use/workspace'
import { onWall } from './example'
import ContrastSheet from './ContrastSheet.vue'
import IconSheet from './IconSheet.vue'
import ThemeSheet from './ThemeSheet.vue'
import TokenSheet from './TokenSheet.vue'

const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const kit = shallowRef<Schemas['ApiKitOut']>()
const pages = shallowRef<Record<string, Page>>({})
const query = ref(String(route.query.q ?? ''))
const matches = shallowRef<Schemas['FindMatch'][]>([])
const input = ref<HTMLInputElement>()
const sheets = ['wall', 'icons', 'tokens', 'themes', 'contrast'] as const
const sheet = computed(() => sheets.find(s => s === route.query.sheet) ?? 'wall')

onMounted(async () => {
  input.value?.focus()
  await load()
})
async function load() {
  kit.value = await ask(GET('/api/kit'))
  const components = [...kit.value.components, ...kit.value.pieces]
  // Large libraries come in parts, so that what is seen first is drawn first.
  for (let from = 0; from < components.length; from += 100) {
    const some = components.slice(from, from + 100)
    const out = await ask(POST('/api/render', { body: { trees: some.map(onWall) } }))
    pages.value = {
      ...pages.value,
      ...Object.fromEntries(out.pages.map((p, i) => [some[i]!.tag, p])),
    }
  }
}
// What the team adds to the kit, and how often what is used, may change while it is looked at.
watch(
  () => ws.data?.seq,
  async (now, before) => {
    if (before !== undefined && now !== before) kit.value = await ask(GET('/api/kit'))
  },
)
let latest = 0
watch(
  query,
  async q => {
    const mine = ++latest
    void router.replace({ query: { ...route.query, q: q || undefined } })
    if (!q) {
      matches.value = []
      return
    }
    const out = await ask(GET('/api/find', { params: { query: { q, only: 'kit' } } }))
    if (mine === latest) matches.value = out.matches
  },
  { immediate: true },
)

const why = computed(() => new Map(matches.value.map(m => [m.kind + m.id, m.why])))
const found = (list: Component[]) =>
  query.value
    ? matches.value.flatMap(m => list.filter(c => m.kind === 'component' && c.tag === m.id))
    : list
const groups = computed(() => {
  const all = [...(kit.value?.components ?? []), ...(kit.value?.pieces ?? [])]
  if (query.value) return [{ id: 'found', name: 'Found', list: found(all) }]
  return [...(kit.value?.families ?? []), { id: 'pieces', name: 'Pieces of the team' }].map(f => ({
    ...f,
    list: all.filter(c => c.family === f.id),
  }))
})
const icons = computed(
  () =>
    (query.value
      ? kit.value?.icons.filter(i => why.value.has('icon' + i.name))
      : kit.value?.icons) ?? [],
)
/** From the field, down leads to the first; up from the first line, back to the field. */
const walk = (e: KeyboardEvent) => walkWall(e, () => input.value?.focus())
const intoTheWall = () => document.querySelector<HTMLElement>('[data-wall]')?.focus()
</script>

<template>
  <div class="flex h-full flex-col overflow-auto">
    <div
      class="sticky top-0 z-30 flex flex-wrap items-center gap-3 border-b border-line bg-ground px-4 py-2"
    >
      <h1 class="text-xl">
        {{ kit?.title }} <span class="text-base font-normal text-ink2">{{ kit?.version }}</span>
      </h1>
      <input
        ref="input"
        v-model="query"
        type="search"
        class="input w-72 max-w-full"
        aria-label="Find in the kit"
        placeholder="Any word: popup, pill, delete, date"
        @keydown.down.prevent="intoTheWall"
      />
      <span class="text-ink2" role="status">{{
        query
          ? `${found(kit?.components ?? []).length} components, ${icons.length} icons`
          : `${kit?.components.length ?? 0} components, ${kit?.icons.length ?? 0} icons, ${kit?.tokens.length ?? 0} tokens`
      }}</span>
      <nav class="ml-auto flex gap-1" aria-label="Sheets">
        <RouterLink
          v-for="name in sheets"
          :key="name"
          class="btn btn-bare capitalize"
          :class="{ '!border-line': sheet === name }"
          :aria-current="sheet === name ? 'page' : undefined"
          :to="name === 'wall' ? '/shelf' : `/shelf?sheet=${name}`"
          >{{ name }}</RouterLink
        >
      </nav>
    </div>
    <IconSheet v-if="sheet === 'icons' && kit" :kit="kit" :icons="icons" :why="why" />
    <TokenSheet v-else-if="sheet === 'tokens' && kit" :kit="kit" />
    <ThemeSheet v-else-if="sheet === 'themes' && kit" :kit="kit" />
    <ContrastSheet v-else-if="sheet === 'contrast' && kit" :kit="kit" />
    <TileStage v-else @keydown="walk">
      <section v-for="g in groups" :key="g.id" class="px-4 pt-4" :aria-label="g.name">
        <h2 v-if="g.list.length" class="mb-2 border-b border-line pb-1 text-lg">
          {{ g.name }} <span class="text-base font-normal text-ink2">{{ g.list.length }}</span>
        </h2>
        <ul
          class="grid gap-4"
          :class="
            g.id === 'icons'
              ? 'grid-cols-[repeat(auto-fill,minmax(120px,1fr))]'
              : 'grid-cols-[repeat(auto-fill,minmax(250px,1fr))]'
          "
        >
          <li v-for="c in g.list" :key="c.tag">
            <RouterLink
              :to="`/shelf/${c.tag}`"
              data-wall
              class="block border border-line hover:border-ink"
            >
              <LiveTile
                :html="pages[c.tag]?.html"
                :props="pages[c.tag]?.props"
                :width="c.family === 'icons' ? 120 : c.level === 'composite' ? 380 : 300"
                :height="c.family === 'icons' ? 56 : 112"
                centred
                fit
              />
              <span class="flex items-baseline gap-2 border-t border-line px-2 py-1">
                <b
                  :class="{
                    'text-ink2 line-through': c.reasons.length,
                    'truncate text-xs': c.family === 'icons',
                  }"
                  :title="c.title"
                  >{{ c.title }}</b><span
                  v-if="c.level === 'composite'"
                  class="truncate text-xs text-ink2"
                  :title="`Made of ${c.made.join(', ')}`"
                  >ready-set{{ c.made.length ? `, of ${c.made.length}` : '' }}</span
                >
                <span
                  v-if="c.uses || c.family !== 'icons'"
                  class="ml-auto whitespace-nowrap text-xs text-ink2"
                  >{{ c.uses ? `${c.uses} on ${c.screens}` : 'not used' }}</span
                >
              </span>
              <span v-if="c.reasons.length" class="block px-2 pb-1 text-xs text-rust"
                >{{ c.reasons[0]!.words }} {{ c.reasons[0]!.remedy }}</span
              >
              <span
                v-else-if="why.get('component' + c.tag)"
                class="block truncate px-2 pb-1 text-xs text-slate"
                >{{ why.get('component' + c.tag) }}</span
              >
            </RouterLink>
          </li>
        </ul>
      </section>
    </TileStage>
    <IconSheet
      v-if="sheet === 'wall' && kit && icons.length"
      :kit="kit"
      :icons="icons"
      :why="why"
    />
    <p v-if="query && sheet === 'wall' && !matches.length" class="p-4 text-ink2">
      Nothing in the kit matches “{{ query }}”.
    </p>
  </div>
</template>
