<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, GET, POST, type Component, type Page, type Schemas } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import { exampleTree, padded } from './example'
import ContrastSheet from './ContrastSheet.vue'
import TokenSheet from './TokenSheet.vue'

const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const kit = shallowRef<Schemas['ApiKitOut']>()
const pages = shallowRef<Record<string, Page>>({})
const query = ref(String(route.query.q ?? ''))
const matches = shallowRef<Schemas['FindMatch'][]>([])
const input = ref<HTMLInputElement>()
const sheets = ['wall', 'tokens', 'contrast'] as const
const sheet = computed(() => sheets.find(s => s === route.query.sheet) ?? 'wall')

// The component that shows one icon, and the prop that names it.
const iconTag = computed(() => kit.value?.code.icon ?? '')
const iconProp = computed(() => kit.value?.components.find(c => c.tag === iconTag.value)?.props.find(p => p.icon)?.name ?? 'name')

onMounted(async () => {
  input.value?.focus()
  kit.value = await ask(GET('/api/kit'))
  const components = kit.value.components
  const out = await ask(POST('/api/render', { body: { trees: [...components.map(c => padded(exampleTree(c), c)), ...kit.value.icons.map(i => ({ id: 'x', type: iconTag.value, props: { [iconProp.value]: i.name } }))] } }))
  pages.value = Object.fromEntries(out.pages.map((p, i) => [i < components.length ? components[i]!.tag : 'icon:' + kit.value!.icons[i - components.length]!.name, p]))
})
let latest = 0
watch(query, async q => {
  const mine = ++latest
  void router.replace({ query: { ...route.query, q: q || undefined } })
  if (!q) { matches.value = []; return }
  const out = await ask(GET('/api/find', { params: { query: { q, only: 'kit' } } }))
  if (mine === latest) matches.value = out.matches
}, { immediate: true })

const why = computed(() => new Map(matches.value.map(m => [m.kind + m.id, m.why])))
const found = (list: Component[]) => (query.value ? matches.value.flatMap(m => list.filter(c => m.kind === 'component' && c.tag === m.id)) : list)
const groups = computed(() => {
  const all = kit.value?.components ?? []
  if (query.value) return [{ id: 'found', name: 'Found', list: found(all) }]
  return (kit.value?.families ?? []).map(f => ({ ...f, list: all.filter(c => c.family === f.id) }))
})
const icons = computed(() => (query.value ? kit.value?.icons.filter(i => why.value.has('icon' + i.name)) : kit.value?.icons) ?? [])
async function copyIcon(name: string) {
  await navigator.clipboard.writeText(`<${iconTag.value} ${iconProp.value}="${name}"></${iconTag.value}>`)
  ws.say(`The icon ${name} is on the clipboard.`)
}
</script>

<template>
  <div class="h-full overflow-auto">
    <div class="sticky top-0 z-30 flex flex-wrap items-center gap-3 border-b border-line bg-ground px-4 py-2">
      <h1 class="text-xl">{{ kit?.title }} <span class="text-base font-normal text-ink2">{{ kit?.version }}</span></h1>
      <input ref="input" v-model="query" type="search" class="input w-72 max-w-full" aria-label="Find in the kit" placeholder="Any word: popup, pill, delete, date" />
      <span class="text-ink2" role="status">{{ query ? `${found(kit?.components ?? []).length} components, ${icons.length} icons` : `${kit?.components.length ?? 0} components, ${kit?.icons.length ?? 0} icons, ${kit?.tokens.length ?? 0} tokens` }}</span>
      <nav class="ml-auto flex gap-1" aria-label="Sheets"><RouterLink v-for="name in sheets" :key="name" class="btn btn-bare capitalize" :class="{ '!border-line': sheet === name }" :aria-current="sheet === name ? 'page' : undefined" :to="name === 'wall' ? '/shelf' : `/shelf?sheet=${name}`">{{ name }}</RouterLink></nav>
    </div>
    <TokenSheet v-if="sheet === 'tokens' && kit" :kit="kit" />
    <ContrastSheet v-else-if="sheet === 'contrast' && kit" :kit="kit" />
    <TileStage v-else>
      <section v-for="g in groups" :key="g.id" class="px-4 pt-4" :aria-label="g.name">
        <h2 v-if="g.list.length" class="mb-2 border-b border-line pb-1 text-lg">{{ g.name }} <span class="text-base font-normal text-ink2">{{ g.list.length }}</span></h2>
        <ul class="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-4">
          <li v-for="c in g.list" :key="c.tag">
            <RouterLink :to="`/shelf/${c.tag}`" class="block border border-line hover:border-ink">
              <LiveTile :html="pages[c.tag]?.html" :props="pages[c.tag]?.props" :width="c.level === 'composite' ? 460 : 300" :height="132" />
              <span class="flex items-baseline gap-2 border-t border-line px-2 py-1">
                <b :class="{ 'text-ink2 line-through': c.deprecated }">{{ c.title }}</b><span v-if="c.level === 'composite'" class="text-xs text-ink2">composite</span>
                <span class="ml-auto text-xs text-ink2">{{ c.uses ? `${c.uses} on ${c.screens}` : 'not used' }}</span>
              </span>
              <span v-if="c.deprecated" class="block px-2 pb-1 text-xs text-rust">{{ c.deprecated }}</span>
              <span v-else-if="why.get('component' + c.tag)" class="block truncate px-2 pb-1 text-xs text-slate">{{ why.get('component' + c.tag) }}</span>
            </RouterLink>
          </li>
        </ul>
      </section>
      <section class="p-4" aria-label="Icons">
        <h2 v-if="icons.length" class="mb-2 border-b border-line pb-1 text-lg">Icons <span class="text-base font-normal text-ink2">{{ icons.length }}</span></h2>
        <ul class="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-1">
          <li v-for="i in icons" :key="i.name"><button class="flex w-full items-center gap-2 border border-transparent p-1 text-left hover:border-line" :title="(i.meanings ?? []).join(', ')" @click="copyIcon(i.name)"><LiveTile class="w-7 shrink-0 p-1" :html="pages['icon:' + i.name]?.html" :width="28" :height="28" /><span class="min-w-0"><span class="block truncate">{{ i.name }}</span><span class="block truncate text-xs text-ink2">{{ why.get('icon' + i.name) || (i.meanings ?? []).join(', ') }}</span></span></button></li>
        </ul>
      </section>
      <p v-if="query && !matches.length" class="p-4 text-ink2">Nothing in the kit matches “{{ query }}”.</p>
    </TileStage>
  </div>
</template>
