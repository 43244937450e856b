<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Element, Repeat } from '../../api/client'
import ExprField from './ExprField.vue'
import { useWorkspace } from '../../use/workspace'
import { findIn, newId, type Line } from './tree'
import { useBench } from './useBench'

/** What a line repeats over, when it shows, and the name by which own code reaches it. */
const props = defineProps<{ line: Line }>()
const bench = useBench()
const ws = useWorkspace()
const repeat = ref<Repeat>({ model: '' })
const show = ref('')
const name = ref('')
// What is being typed stays, whatever comes meanwhile: only what changed is taken over.
watch(
  () => props.line.el,
  (el, was) => {
    const now: Repeat = { model: '', ...el.repeat },
      before: Repeat = { model: '', ...was?.repeat }
    if (el.id !== was?.id) {
      repeat.value = now
      show.value = el.show ?? ''
      name.value = el.name ?? ''
      return
    }
    for (const k of ['model', 'where', 'sort', 'limit', 'page'] as const)
      if (now[k] !== before[k]) Object.assign(repeat.value, { [k]: now[k] })
    if (el.show !== was.show) show.value = el.show ?? ''
    if (el.name !== was.name) name.value = el.name ?? ''
  },
  { immediate: true },
)
// What holds a number under a name can say which page is shown.
const pagers = computed(() => [
  ...new Set([
    ...(bench.choices.value?.pagers ?? []),
    ...(repeat.value.page ? [repeat.value.page] : []),
  ]),
])
// What it can stand once for each of: what the record around holds, then the models.
const over = computed(() => [
  ...new Set([
    ...(bench.choices.value?.element === props.line.el.id ? bench.choices.value.over : []),
    ...(ws.data?.models.map(m => m.id) ?? []),
    ...(repeat.value.model ? [repeat.value.model] : []),
  ]),
])
/** Puts a pager after what holds the records, and has it say which page is shown. */
function addPager() {
  const tree = bench.root.value,
    tag = bench.choices.value?.pager
  const at = tree && findIn(tree, id.value)
  if (!tree || !tag || !at?.parent) return
  const holder = findIn(tree, at.parent.id)!
  const names = new Set<string>()
  const walk = (el: Element) => {
    if (el.name) names.add(el.name)
    el.children?.forEach(walk)
  }
  walk(tree)
  const free = (name: string) => {
    let n = name
    for (let i = 2; names.has(n); i++) n = name + i
    return n
  }
  const list = props.line.el.name || free('list'),
    page = free('page')
  void bench.edit(`Pages for ${props.line.title}`, [
    ...(props.line.el.name ? [] : [{ op: 'rename' as const, id: id.value, name: list }]),
    {
      op: 'insert',
      parent: holder.parent?.id ?? holder.el.id,
      after: holder.parent ? holder.el.id : at.el.id,
      tree: {
        id: newId(),
        type: tag,
        name: page,
        props: { pages: { expr: `pages.${identifier(list)}` } },
      },
    },
    {
      op: 'repeat',
      id: id.value,
      repeat: { ...repeat.value, limit: Number(repeat.value.limit) || 10, page },
    },
  ])
}
const identifier = (name: string) =>
  name
    .replace(/[^\p{L}\p{N}]+(.)?/gu, (_, c: string | undefined) => c?.toUpperCase() ?? '')
    .replace(/^./, c => c.toLowerCase())
const id = computed(() => props.line.el.id)

function saveRepeat() {
  const r = repeat.value
  const value: Repeat | undefined = r.model
    ? {
        model: r.model,
        where: r.where || undefined,
        sort: r.sort || undefined,
        limit: Number(r.limit) || undefined,
        page: r.page || undefined,
      }
    : undefined
  void bench.edit(
    value ? `Repeat ${props.line.title} over ${value.model}` : `Repeat ${props.line.title} no more`,
    [{ op: 'repeat', id: id.value, repeat: value }],
  )
}
function saveShow() {
  if (show.value !== (props.line.el.show ?? ''))
    void bench.edit(`When ${props.line.title} shows`, [
      { op: 'show', id: id.value, name: show.value.trim() },
    ])
}
function saveName() {
  if (name.value !== (props.line.el.name ?? ''))
    void bench.edit(`Name of ${props.line.title}`, [
      { op: 'rename', id: id.value, name: name.value.trim() },
    ])
}
</script>

<template>
  <div class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-x-2 gap-y-px">
    <span class="text-ink2">each</span>
    <div class="flex flex-wrap gap-1">
      <select
        v-model="repeat.model"
        class="input h-5 min-w-0 basis-full px-1"
        aria-label="Repeat over"
        :disabled="!bench.canBuild.value"
        @change="saveRepeat"
      >
        <option value="">stands once</option>
        <option v-for="m in over" :key="m" :value="m">{{ m }}</option>
      </select>
      <template v-if="line.el.repeat"
        ><ExprField
          class="flex-1"
          always
          :model-value="repeat.where ?? ''"
          :element="line.el.id"
          prop="where"
          label="Only records where"
          placeholder="where"
          @enter="
            t => {
              if (t !== (repeat.where ?? '')) {
                repeat.where = t
                saveRepeat()
              }
            }
          "
        /><input
          v-model="repeat.sort"
          class="input h-5 w-16 min-w-0 px-1"
          aria-label="Sort by fields, parted by commas; - before one turns it"
          placeholder="sort"
          @change="saveRepeat"
        /><input
          v-model="repeat.limit"
          class="input h-5 w-10 min-w-0 px-1"
          :aria-label="repeat.page ? 'So many on a page' : 'At most so many'"
          placeholder="all"
          inputmode="numeric"
          @change="saveRepeat"
        />
        <select
          v-if="pagers.length"
          v-model="repeat.page"
          class="input h-5 min-w-0 px-1"
          aria-label="Page from"
          :disabled="!bench.canBuild.value"
          @change="saveRepeat"
        >
          <option :value="undefined">no pages</option>
          <option v-for="n in pagers" :key="n" :value="n">page of {{ n }}</option>
        </select>
        <button
          v-else-if="bench.canBuild.value && bench.choices.value?.pager"
          class="h-5 underline"
          @click="addPager"
        >
          pages
        </button></template
      >
    </div>
    <span class="text-ink2">if</span
    ><ExprField
      always
      :model-value="show"
      :element="line.el.id"
      prop="if"
      label="Shows if"
      placeholder="always"
      :readonly="!bench.canBuild.value"
      @enter="
        t => {
          show = t
          saveShow()
        }
      "
    />
    <span class="text-ink2">name</span
    ><input
      v-model="name"
      class="input h-5 w-full min-w-0 font-mono"
      aria-label="Name for own code"
      :readonly="!bench.canBuild.value"
      @change="saveName"
    />
  </div>
</template>
