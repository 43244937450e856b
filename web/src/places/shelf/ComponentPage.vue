<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { ask, GET, POST, type Page, type Schemas } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import MixBar from '../../ui/MixBar.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import { exampleTree, padded } from './example'
import ExampleChoice from './ExampleChoice.vue'

const ws = useWorkspace()
const route = useRoute()
const data = shallowRef<Schemas['ApiComponentOut']>()
const error = ref('')
const rowProp = ref('')
const colProp = ref('')
const themes = computed(() => ws.data?.themes ?? ['light'])
const chosen = ref<Record<string, string>>({})
const pages = shallowRef<Record<string, Page>>({})
const code = shallowRef<Record<string, string>>({})
const target = ref('vue')
const icons = shallowRef<string[]>([])
void ask(GET('/api/kit')).then(k => { icons.value = k.icons.map(i => i.name) }, () => {})

const component = computed(() => data.value?.component)
const axes = computed(() => component.value?.props.filter(p => p.values?.length) ?? [])
const rows = computed(() => axes.value.find(p => p.name === rowProp.value)?.values ?? [''])
const cols = computed(() => axes.value.find(p => p.name === colProp.value)?.values ?? [''])
const cells = computed(() => {
  const list = data.value?.cells[`${rowProp.value}|${colProp.value}`] ?? []
  return new Map(list.map(c => [c.row + '|' + c.col, c.uses]))
})
const uses = (r: string, c: string) => (colProp.value ? cells.value.get(r + '|' + c) : data.value?.mixes[rowProp.value]?.find(v => v.value === r)?.uses) ?? 0
const most = computed(() => Math.max(1, ...rows.value.flatMap(r => cols.value.map(c => uses(r, c)))))
const settings = (r: string, c: string) => ({ ...(rowProp.value ? { [rowProp.value]: r } : {}), ...(colProp.value ? { [colProp.value]: c } : {}) })

watch(() => route.params.tag, async tag => {
  if (route.name !== 'component') return
  error.value = ''
  try {
    data.value = await ask(GET('/api/kit/{tag}', { params: { path: { tag: String(tag) } } }))
    // The most varied props span the sheet first.
    const varied = [...axes.value].sort((a, b) => (data.value!.mixes[b.name]?.length ?? 0) - (data.value!.mixes[a.name]?.length ?? 0))
    rowProp.value = varied[0]?.name ?? ''
    colProp.value = varied[1]?.name ?? ''
    // The most used cell is the first example.
    const best = rows.value.flatMap(r => cols.value.map(k => [r, k] as const)).sort((a, b) => uses(b[0], b[1]) - uses(a[0], a[1]))[0]
    chosen.value = best ? settings(best[0], best[1]) : {}
  } catch (e) { error.value = (e as Error).message }
}, { immediate: true })

watch([component, rowProp, colProp], async () => {
  const c = component.value
  if (!c) return
  const list = rows.value.flatMap(r => cols.value.map(k => [r, k] as const))
  const out = await ask(POST('/api/render', { body: { trees: list.map(([r, k]) => padded(exampleTree(c, settings(r, k)), c)) } }))
  pages.value = { ...Object.fromEntries(out.pages.map((p, i) => [list[i]!.join('|'), p])), chosen: pages.value.chosen! }
})
watch([component, chosen], async () => {
  const c = component.value
  if (!c) return
  // What is the default anyway is not written.
  const tree = exampleTree(c, Object.fromEntries(Object.entries(chosen.value).filter(([k, v]) => c.props.find(p => p.name === k)?.default !== v)))
  const [page, written] = await Promise.all([ask(POST('/api/render', { body: { trees: [padded(tree, c)] } })), ask(POST('/api/code', { body: { tree } }))])
  pages.value = { ...pages.value, chosen: page.pages[0]! }
  code.value = written.code
})
async function copy(text: string) {
  await navigator.clipboard.writeText(text)
  ws.say('The code is on the clipboard.')
}
const tileWidth = computed(() => (component.value?.level === 'composite' ? 440 : 240))
</script>

<template>
  <div class="h-full overflow-auto">
    <div v-if="error" role="alert" class="p-6 text-rust">{{ error }}. <RouterLink to="/shelf" class="underline">To the shelf</RouterLink></div>
    <TileStage v-if="component">
      <div class="max-w-[1400px] px-4 pb-10">
        <header class="flex flex-wrap items-baseline gap-3 py-3"><RouterLink to="/shelf" class="text-ink2 underline">Shelf</RouterLink><h1 class="text-xl">{{ component.title }}</h1><code class="text-ink2">{{ component.tag }}</code><span class="text-ink2">{{ component.uses }} uses on {{ component.screens }} screens</span>
          <RouterLink class="ml-auto underline" :to="`/census/line-up?component=${component.tag}`">Line-up</RouterLink></header>
        <p class="max-w-prose">{{ component.summary }}</p>
        <p v-if="component.deprecated" class="mt-1 text-rust">{{ component.deprecated }} <RouterLink v-if="component.replacement" :to="`/shelf/${component.replacement}`" class="underline">{{ component.replacement }}</RouterLink></p>

        <section class="mt-4" aria-label="Variant sheet">
          <div class="mb-2 flex flex-wrap items-center gap-3"><h2 class="text-lg">Variants</h2>
            <label v-if="axes.length" class="flex items-center gap-1">down <select v-model="rowProp" class="input"><option v-for="a in axes" :key="a.name">{{ a.name }}</option></select></label>
            <label v-if="axes.length > 1" class="flex items-center gap-1">across <select v-model="colProp" class="input"><option value="">nothing</option><option v-for="a in axes.filter(x => x.name !== rowProp)" :key="a.name">{{ a.name }}</option></select></label>
          </div>
          <div class="overflow-x-auto">
            <table class="border-collapse">
              <thead><tr><th class="th"></th><th v-for="c in cols" :key="c" class="th" :colspan="themes.length">{{ c }}</th></tr></thead>
              <tbody>
                <tr v-for="r in rows" :key="r"><th class="border-b border-line py-1 pr-3 text-left font-semibold text-ink2">{{ r }}</th>
                  <template v-for="c in cols" :key="c"><td v-for="theme in themes" :key="theme" class="border-b border-line p-1 align-top">
                    <button class="block border hover:border-ink" :class="chosen[rowProp] === r && (!colProp || chosen[colProp] === c) ? 'bracket border-transparent' : 'border-transparent'" :aria-label="`${r} ${c} in ${theme}, ${uses(r, c)} uses; make it the example`" @click="chosen = settings(r, c)">
                      <LiveTile :html="pages[r + '|' + c]?.html" :props="pages[r + '|' + c]?.props" :theme="theme" :width="tileWidth" :height="component.level === 'composite' ? 110 : 56" :style="{ width: (component.level === 'composite' ? 300 : tileWidth * 0.62) + 'px' }" />
                    </button>
                    <span v-if="theme === themes[0]" class="mt-0.5 flex items-center gap-1 text-xs text-ink2"><span class="h-[3px] bg-moss" :style="{ width: (60 * uses(r, c)) / most + 'px' }"></span>{{ uses(r, c) || 'not used' }}</span>
                  </td></template></tr>
              </tbody>
            </table>
          </div>
        </section>

        <section class="mt-6 grid gap-4 lg:grid-cols-2" aria-label="Example and code">
          <div><h2 class="mb-1 text-lg">Example</h2><LiveTile class="border border-line" :html="pages.chosen?.html" :props="pages.chosen?.props" :width="component.level === 'composite' ? 640 : 400" :height="180" /></div>
          <div><div class="mb-1 flex items-baseline gap-2"><h2 class="text-lg">Code</h2><button v-for="(_, t) in code" :key="t" class="px-1" :class="target === t ? 'font-semibold text-moss' : 'text-ink2'" :aria-pressed="target === t" @click="target = String(t)">{{ t }}</button><button class="btn ml-auto" @click="copy(data!.needs.import + '\n\n' + (code[target] ?? ''))">Copy</button></div>
            <pre class="sheet max-h-[180px] overflow-auto p-2"><code>{{ data!.needs.import }}

{{ code[target] }}</code></pre></div>
        </section>

        <section class="mt-6" aria-label="Props"><h2 class="mb-1 text-lg">Props <span class="text-base font-normal text-ink2">choose, and the example and its code follow</span></h2>
          <table class="sheet w-full border-collapse"><thead><tr><th class="th">Prop</th><th class="th">In the example</th><th class="th">The screens</th><th class="th">What it does</th></tr></thead>
            <tbody><tr v-for="p in component.props" :key="p.name"><td class="td font-semibold whitespace-nowrap">{{ p.name }}<span v-if="p.required" class="text-rust" title="required"> *</span></td>
              <td class="td"><ExampleChoice :prop="p" :icons="icons" :value="chosen[p.name] ?? component.example.props?.[p.name] ?? p.default ?? ''" :mix="data!.mixes[p.name] ?? []" @choose="v => chosen = { ...chosen, [p.name]: v }" /></td>
              <td class="td whitespace-nowrap"><MixBar v-if="data!.mixes[p.name]?.length" :parts="data!.mixes[p.name]!" /></td>
              <td class="td">{{ p.summary }}<span v-if="p.deprecated" class="text-rust"> {{ p.deprecated }}</span></td></tr></tbody></table>
        </section>
        <div class="mt-6 grid gap-6 lg:grid-cols-2">
          <section aria-label="Slots"><h2 class="mb-1 text-lg">Slots</h2><ul v-if="component.slots.length" class="sheet"><li v-for="s in component.slots" :key="s.name" class="border-b border-line px-3 py-1.5 last:border-b-0"><b>{{ s.name || 'main' }}</b> {{ s.summary }} <span class="text-ink2">{{ [s.text ? 'text' : '', s.closed ? '' : s.accepts?.map(a => a.replace('role:', 'any ')).join(', ') || 'any element'].filter(Boolean).join(' and ') }}</span></li></ul><p v-else class="text-ink2">None.</p>
            <template v-if="component.events?.length"><h2 class="mt-4 mb-1 text-lg">Events</h2><ul class="sheet"><li v-for="e in component.events" :key="e.name" class="border-b border-line px-3 py-1.5 last:border-b-0"><code>{{ e.name }}</code> {{ e.summary }}</li></ul></template>
            <template v-if="data!.house.length"><h2 class="mt-4 mb-1 text-lg">House rules</h2><ul class="sheet"><li v-for="h in data!.house" :key="h.id" class="border-b border-line px-3 py-1.5 last:border-b-0">{{ h.words }}: {{ h.prop }} is <b>{{ h.value }}</b>. {{ h.reason }}</li></ul></template></section>
          <section aria-label="Needs"><h2 class="mb-1 text-lg">Needs</h2>
            <dl class="sheet grid grid-cols-[110px_1fr] gap-x-3 gap-y-1 px-3 py-2"><dt class="text-ink2">Package</dt><dd><code>{{ data!.needs.package }}</code></dd><dt class="text-ink2">Code</dt><dd><code>{{ data!.needs.import }}</code></dd>
              <template v-if="data!.needs.styles"><dt class="text-ink2">Styles, fonts</dt><dd><code>{{ data!.needs.styles }}</code></dd></template><dt class="text-ink2">Theme</dt><dd><code>{{ data!.needs.theme }}</code> on the root: {{ themes.join(', ') }}</dd>
              <template v-if="data!.needs.parents.length"><dt class="text-ink2">Stands in</dt><dd><template v-for="(p, i) in data!.needs.parents" :key="p">{{ i ? ', ' : '' }}<RouterLink class="underline" :to="`/shelf/${p}`">{{ p }}</RouterLink></template></dd></template>
              <template v-if="data!.needs.labels"><dt class="text-ink2">Named by</dt><dd><RouterLink class="underline" :to="`/shelf/${data!.needs.labels}`">{{ data!.needs.labels }}</RouterLink>, or its own label</dd></template>
              <template v-if="component.tokens?.length"><dt class="text-ink2">Tokens</dt><dd><details><summary>{{ component.tokens.length }}</summary><code class="text-xs">{{ component.tokens.join(' ') }}</code></details></dd></template></dl>
            <p class="mt-1 text-xs text-ink2">A delivery brings all of it along.</p>
            <template v-if="data!.findings.length"><h2 class="mt-4 mb-1 text-lg">Findings <span class="text-base font-normal text-ink2">{{ data!.findings.length }}</span></h2><ul class="sheet max-h-60 overflow-auto"><li v-for="f in data!.findings" :key="f.key" class="border-b border-line px-3 py-1.5 last:border-b-0"><RouterLink class="underline" :to="`/bench/${f.doc.replace(':', '/')}#${f.element}`">{{ f.title }}</RouterLink> {{ f.message }}</li></ul></template></section>
          <section aria-label="Where used"><h2 class="mb-1 text-lg">Where used</h2><ul class="sheet max-h-80 overflow-auto"><li v-for="u in data!.uses" :key="u.doc + u.element"><RouterLink class="flex gap-3 px-3 py-1 hover:bg-wash" :to="`/bench/${u.doc.replace(':', '/')}#${u.element}`"><span class="w-40 shrink-0 truncate">{{ u.title }}</span><span class="truncate text-ink2">{{ u.words }}</span></RouterLink></li><li v-if="!data!.uses.length" class="px-3 py-1 text-ink2">No screen uses it.</li></ul></section>
        </div>
      </div>
    </TileStage>
    <p v-else-if="!error" class="p-6 text-ink2" role="status">Opening …</p>
  </div>
</template>
