<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Finding, Stray } from '../../api/client'
import FindingMark from '../../ui/FindingMark.vue'
import StrayMark from '../../ui/StrayMark.vue'
import ExprField from './ExprField.vue'
import { isBound, parseTyped, slotWords, words, type Line } from './tree'
import { useBench } from './useBench'

const props = defineProps<{
  line: Line
  selected: boolean
  also: boolean
  editing: boolean
  differs?: boolean
  mark?: { findings: Finding[]; strays: Stray[] }
}>()
const emit = defineEmits<{ edited: []; next: []; grab: [e: PointerEvent]; set: [typed: string] }>()
const bench = useBench()
const here = computed(() => bench.others.value.filter(o => o.element === props.line.el.id))
const text = ref('')
const ctrl = ref(false)
const written = () => (props.line.bound ? '= ' : '') + props.line.text
watch(
  () => props.editing,
  on => {
    if (on) text.value = written()
  },
  { immediate: true },
)

let saving = false
async function save(more: boolean) {
  if (saving) return // leaving the field after Enter must not send it twice
  saving = true
  const kept =
    text.value === written() ||
    (await bench.edit(`Text of ${props.line.title}`, [
      { op: 'text', id: props.line.el.id, value: parseTyped(text.value) },
    ]))
  saving = false
  if (!kept) return // what was typed stays, to be sent when it can be
  emit('edited')
  if (more) emit('next')
}
function click(e: MouseEvent) {
  if (e.shiftKey) bench.selectMore(props.line.el.id)
  else bench.select(props.line.el.id)
}
/** A part of the line is written where it stands: its name, a setting, what it repeats over. */
function write(e: MouseEvent, typed: string) {
  if (!props.selected || e.shiftKey) return // the first press selects the line
  e.stopPropagation()
  emit('set', typed)
}
const valueOf = (prop: string) => {
  const v = props.line.el.props?.[prop]
  return isBound(v) ? `= ${words(v)}` : typeof v === 'boolean' ? (v ? 'yes' : 'no') : words(v)
}
function fold() {
  const next = new Set(bench.folded.value)
  if (props.line.folded) next.delete(props.line.el.id)
  else next.add(props.line.el.id)
  bench.folded.value = next
}
</script>

<template>
  <div
    role="treeitem"
    :aria-level="line.depth + 1"
    :aria-posinset="line.place[0]"
    :aria-setsize="line.place[1]"
    :aria-selected="selected"
    :aria-expanded="line.hasChildren ? !line.folded : undefined"
    :data-line="line.el.id"
    :tabindex="selected ? 0 : -1"
    :data-home="selected || undefined"
    class="flex h-[22px] items-center gap-1.5 pr-2 whitespace-nowrap outline-none select-none"
    :class="[selected ? 'bracket bg-mosswash' : also ? 'bg-mosswash' : 'hover:bg-wash']"
    :style="{ paddingLeft: 8 + line.depth * 14 + 'px' }"
    @click="click"
    @pointerdown="$emit('grab', $event)"
    @dblclick="bench.editingText.value = line.el.id"
  >
    <button
      v-if="line.hasChildren"
      class="w-3 shrink-0 text-ink2"
      tabindex="-1"
      :aria-label="line.folded ? 'Unfold' : 'Fold'"
      @click.stop="fold"
    >
      {{ line.folded ? '▸' : '▾' }}</button><span v-else class="w-3 shrink-0"></span>
    <span
      v-if="line.el.slot"
      class="max-w-48 shrink-0 truncate text-xs text-slate"
      :title="`In the slot ${line.el.slot}`"
      >{{ slotWords(line.el.slot) }}</span
    >
    <span class="shrink-0" :class="line.text ? 'text-ink2' : ''">{{ line.title }}</span>
    <ExprField
      v-if="editing"
      :model-value="text"
      class="flex-1"
      :element="line.el.id"
      prop="text"
      focus-now
      :label="`Text of ${line.title}; begin with = for an expression`"
      @keydown.capture="ctrl = $event.ctrlKey"
      @keydown.stop
      @keydown.esc="$emit('edited')"
      @enter="
        t => {
          text = t
          if (editing) save(ctrl)
        }
      "
      @left="editing && text === written() && $emit('edited')"
    />
    <template v-else>
      <span
        v-if="line.text"
        class="min-w-0 truncate"
        :class="line.bound ? 'font-mono text-slate' : 'font-semibold'"
        >{{ line.text }}</span
      >
      <span
        v-for="t in line.telling"
        :key="t.prop"
        class="min-w-0 shrink cursor-text truncate text-xs text-ink2 hover:text-ink hover:underline"
        :title="`${t.prop}; press to write another`"
        @click="write($event, `${t.prop} ${valueOf(t.prop)}`)"
        >{{ t.text }}</span
      >
    </template>
    <span class="ml-auto flex shrink-0 items-center gap-1.5 pl-2">
      <span
        v-if="line.el.name"
        class="cursor-text font-mono text-xs text-moss hover:underline"
        title="Stable name; press to write another"
        @click="write($event, `called ${line.el.name}`)"
        >.{{ line.el.name }}</span
      >
      <span
        v-if="line.el.repeat"
        class="cursor-text text-xs text-slate hover:underline"
        :title="`Stands once for each of ${line.el.repeat.model}; press to write another`"
        @click="write($event, `each ${line.el.repeat.model}`)"
        >each {{ line.el.repeat.model }}</span
      >
      <span
        v-for="o in here"
        :key="o.client"
        class="bg-slate px-1 text-xs leading-4 text-ground"
        :title="`${o.name} is here`"
        >{{
          o.name
            .split(' ')
            .map(w => w[0])
            .join('')
        }}</span
      >
      <span v-if="differs" class="text-xs text-slate" title="Otherwise in this state">differs</span>
      <span
        v-if="line.el.show"
        class="cursor-text text-xs text-slate hover:underline"
        :title="`${line.el.show}; press to write another`"
        @click="write($event, `if ${line.el.show}`)"
        >if</span
      >
      <StrayMark v-for="s in mark?.strays" :key="s.prop" :surprise="s.surprise" :text="s.why" />
      <FindingMark
        v-if="mark?.findings.length"
        :count="mark.findings.length"
        :text="mark.findings.map(f => f.message).join('; ')"
      />
    </span>
  </div>
</template>
