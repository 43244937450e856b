<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { ask, POST, type Component, type Page, type Schemas } from '../../api/client'
import type { State } from '../../frame/states'
import LiveTile from '../../ui/LiveTile.vue'
import { useWorkspace } from '../../use/workspace'
import { exampleTree, padded, statesOf } from './example'

/** Every variant of a component by two of its choices, in the themes looked at, each
 * weighted by how often the screens use it; and the states of the chosen one. */
const props = defineProps<{
  component: Component
  data: Schemas['ApiComponentOut']
  chosen: Record<string, string>
}>()
const emit = defineEmits<{ choose: [settings: Record<string, string>] }>()
const ws = useWorkspace()
const rowProp = ref('')
const colProp = ref('')
const looked = ref<string[]>([])
const pages = shallowRef<Record<string, Page>>({})
const stateless = ref(new Set<string>())

const themes = computed(() => ws.data?.themes ?? ['light'])
watch(
  themes,
  list => {
    if (!looked.value.length) looked.value = list.slice(0, 2)
  },
  { immediate: true },
)
// What reaches inside a piece is for single uses, no variant of it.
const axes = computed(() => props.component.props.filter(p => p.values?.length && !p.inner))
const rows = computed(() => axes.value.find(p => p.name === rowProp.value)?.values ?? [''])
const cols = computed(() => axes.value.find(p => p.name === colProp.value)?.values ?? [''])
const cells = computed(
  () =>
    new Map(
      (props.data.cells[`${rowProp.value}|${colProp.value}`] ?? []).map(c => [
        c.row + '|' + c.col,
        c.uses,
      ]),
    ),
)
const uses = (r: string, c: string) =>
  (!axes.value.length
    ? props.component.uses
    : colProp.value
      ? cells.value.get(r + '|' + c)
      : props.data.mixes[rowProp.value]?.find(v => v.value === r)?.uses) ?? 0
const most = computed(() =>
  Math.max(1, ...rows.value.flatMap(r => cols.value.map(c => uses(r, c)))),
)
const settings = (r: string, c: string) => ({
  ...(rowProp.value ? { [rowProp.value]: r } : {}),
  ...(colProp.value ? { [colProp.value]: c } : {}),
})
const all = computed(() => rows.value.flatMap(r => cols.value.map(c => [r, c] as const)))
const isChosen = (r: string, c: string) =>
  Object.entries(settings(r, c)).every(([k, v]) => props.chosen[k] === v)

watch(
  () => props.data,
  data => {
    // The most varied props span the sheet first, and its most used cell is the first example.
    const varied = [...axes.value].sort(
      (a, b) => (data.mixes[b.name]?.length ?? 0) - (data.mixes[a.name]?.length ?? 0),
    )
    rowProp.value = varied[0]?.name ?? ''
    colProp.value = varied[1]?.name ?? ''
    const best = [...all.value].sort((a, b) => uses(b[0], b[1]) - uses(a[0], a[1]))[0]
    emit('choose', best ? settings(best[0], best[1]) : {})
  },
  { immediate: true },
)

watch(
  [() => props.component.tag, rowProp, colProp],
  async () => {
    const out = await ask(
      POST('/api/render', {
        body: {
          trees: all.value.map(([r, c]) =>
            padded(exampleTree(props.component, settings(r, c)), props.component),
          ),
        },
      }),
    )
    pages.value = {
      ...pages.value,
      ...Object.fromEntries(out.pages.map((p, i) => [all.value[i]!.join('|'), p])),
    }
  },
  { immediate: true },
)

// The states of the chosen cell: those that a pointer or the focus gives, and those
// that a prop sets.
const states = computed(() =>
  [
    ...(['hover', 'focus'] as const).map(s => ({
      name: s,
      state: s as State | undefined,
      props: {} as Record<string, string>,
    })),
    ...statesOf(props.component).map(s => ({ ...s, state: undefined })),
  ].filter(s => !stateless.value.has(s.name)),
)
const stateWidth = computed(
  () => `calc((100% - ${states.value.length} * 8px) / ${Math.max(3, states.value.length)})`,
)
watch(
  [() => props.component.tag, () => props.chosen],
  async () => {
    const list = [
      { name: 'hover', props: {} },
      { name: 'focus', props: {} },
      ...statesOf(props.component),
    ]
    const out = await ask(
      POST('/api/render', {
        body: {
          trees: list.map(s =>
            padded(exampleTree(props.component, { ...props.chosen, ...s.props }), props.component),
          ),
        },
      }),
    )
    pages.value = {
      ...pages.value,
      ...Object.fromEntries(out.pages.map((p, i) => ['state ' + list[i]!.name, p])),
    }
  },
  { immediate: true },
)
watch(
  () => props.component.tag,
  () => {
    stateless.value = new Set()
  },
)

const wide = computed(() => props.component.level === 'composite')
const tile = computed(() =>
  wide.value ? { layout: 440, shown: 300, height: 110 } : { layout: 240, shown: 150, height: 56 },
)
function toggle(theme: string) {
  looked.value = looked.value.includes(theme)
    ? looked.value.filter(t => t !== theme || looked.value.length === 1)
    : themes.value.filter(t => t === theme || looked.value.includes(t))
}
</script>

<template>
  <section aria-label="Variant sheet">
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h2 class="text-lg">Variants</h2>
      <label v-if="axes.length" class="flex items-center gap-1"
        >down
        <select v-model="rowProp" class="input">
          <option v-for="a in axes" :key="a.name">{{ a.name }}</option>
        </select></label
      >
      <label v-if="axes.length > 1" class="flex items-center gap-1"
        >across
        <select v-model="colProp" class="input">
          <option value="">nothing</option>
          <option v-for="a in axes.filter(x => x.name !== rowProp)" :key="a.name">
            {{ a.name }}
          </option>
        </select></label
      >
      <span role="group" aria-label="Themes looked at" class="flex gap-1"
        ><button
          v-for="t in themes"
          :key="t"
          class="border px-1.5"
          :class="
            looked.includes(t)
              ? 'border-moss bg-mosswash text-moss'
              : 'border-transparent text-ink2 hover:border-line'
          "
          :aria-pressed="looked.includes(t)"
          @click="toggle(t)"
        >
          {{ t }}
        </button></span
      >
    </div>
    <div class="overflow-x-auto">
      <table class="border-collapse">
        <thead>
          <tr>
            <th class="th"></th>
            <th v-for="c in cols" :key="c" class="th" :colspan="looked.length">{{ c }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r">
            <th class="border-b border-line py-1 pr-3 text-left font-semibold text-ink2">
              {{ r }}
            </th>
            <template v-for="c in cols" :key="c"
              ><td v-for="theme in looked" :key="theme" class="border-b border-line p-1 align-top">
                <button
                  class="block border"
                  :class="
                    isChosen(r, c)
                      ? 'bracket border-transparent'
                      : 'border-transparent hover:border-ink'
                  "
                  :aria-pressed="isChosen(r, c)"
                  :aria-label="`${r} ${c} in ${theme}, ${uses(r, c)} uses; make it the example`"
                  @click="$emit('choose', settings(r, c))"
                >
                  <LiveTile
                    :html="pages[r + '|' + c]?.html"
                    :props="pages[r + '|' + c]?.props"
                    :theme="theme"
                    :width="tile.layout"
                    :height="tile.height"
                    :style="{ width: tile.shown + 'px' }"
                  />
                </button>
                <span
                  v-if="theme === looked[0]"
                  class="mt-0.5 flex items-center gap-1 text-xs text-ink2"
                  ><span
                    class="h-[3px] bg-moss"
                    :style="{ width: (60 * uses(r, c)) / most + 'px' }"
                  ></span
                  >{{ uses(r, c) || 'not used' }}</span
                >
              </td></template
            >
          </tr>
        </tbody>
      </table>
    </div>
    <template v-if="states.length">
      <h3 class="mt-4 mb-1">States of the chosen one</h3>
      <div v-for="theme in looked" :key="theme" class="mb-2 flex gap-2">
        <figure
          v-for="s in states"
          :key="s.name"
          class="min-w-0"
          :style="{ width: stateWidth, maxWidth: tile.layout + 'px' }"
        >
          <LiveTile
            :html="pages['state ' + s.name]?.html"
            :props="pages['state ' + s.name]?.props"
            :state="s.state"
            :theme="theme"
            :width="tile.layout"
            :height="tile.height"
            :label="`${s.name} in ${theme}`"
            @stateless="stateless = new Set([...stateless, s.name])"
          />
          <figcaption v-if="theme === looked.at(-1)" class="text-xs text-ink2">
            {{ s.name }}
          </figcaption>
        </figure>
      </div>
    </template>
  </section>
</template>
