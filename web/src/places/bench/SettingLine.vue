<script setup lang="ts">
import { until } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import type { Edit } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import { editFor, typed, typing } from './choices'
import type { Line } from './tree'
import { useBench } from './useBench'

/** Sets what is typed: "emphasis strong". What it will do is told while typing. */
const props = defineProps<{ line: Line; first?: string }>()
const emit = defineEmits<{ done: [] }>()
const bench = useBench()
const ws = useWorkspace()
const text = ref(props.first ?? '')
const input = ref<HTMLInputElement>()
const known = computed(() =>
  bench.choices.value?.element === props.line.el.id ? bench.choices.value : undefined,
)
const read = computed(() =>
  typing(text.value, known.value?.choices ?? [], [
    ...(known.value?.over ?? []),
    ...(ws.data?.models.map(m => m.id) ?? []),
  ]),
)
const hint = computed(() => {
  const r = read.value
  if (!known.value) return '…'
  if (!text.value.trim())
    return known.value.choices
      .map(c => c.prop)
      .concat('each, if, called')
      .slice(0, 9)
      .join(', ')
  if (!r.prop) return `${props.line.title} has nothing like that`
  if (!r.set) return [r.prop, ...r.others.slice(0, 5)].join(', ')
  if (r.value === undefined)
    return r.values.length
      ? `${r.prop}: ${r.values.slice(0, 8).join(', ')}`
      : `${r.prop} is none of that`
  return `${r.prop} → ${r.values[0] ?? (r.value || 'its default')}`
})
onMounted(() => {
  input.value?.focus()
  // What stands there is replaced by typing, the prop's name stays.
  if (props.first) input.value?.setSelectionRange(props.first.indexOf(' ') + 1, props.first.length)
})

function edits(): Edit[] | undefined {
  const { prop, value } = read.value
  const { id } = props.line.el
  if (!prop || value === undefined) return undefined
  const c = known.value?.choices.find(o => o.prop === prop)
  // A name of the component's own, as a person's, comes before that for code.
  if (prop === 'called' || (prop === 'name' && !c)) return [{ op: 'rename', id, name: value }]
  if (prop === 'if') return [{ op: 'show', id, name: value.replace(/^=\s*/, '') }]
  if (prop === 'each') return [{ op: 'repeat', id, repeat: value ? { model: value } : undefined }]
  if (!c) return undefined
  if (value.startsWith('='))
    return [{ op: 'set', id, prop, value: { expr: value.slice(1).trim() } }]
  if (!value) return c.set ? [{ op: 'unset', id, prop }] : []
  return c.values.length
    ? editFor(c, id, value, c.set)
    : [{ op: 'set', id, prop, value: typed(c, value) }]
}
async function take() {
  await until(known).toBeTruthy({ timeout: 5000 }) // who types fast is ahead of the choices
  const list = edits()
  if (!list) {
    ws.say(hint.value)
    return
  }
  if (
    !list.length ||
    (await bench.edit(
      `${read.value.prop} of ${props.line.title}: ${read.value.value || 'its default'}`,
      list,
    ))
  )
    emit('done')
}
</script>

<template>
  <div
    class="flex items-baseline gap-2 border-b border-line bg-sheet pr-2"
    :style="{ paddingLeft: 24 + line.depth * 14 + 'px' }"
  >
    <input
      ref="input"
      v-model="text"
      class="h-6 min-w-0 flex-1 bg-transparent font-mono outline-none"
      :aria-label="`Set a prop of ${line.title}`"
      aria-describedby="setting-hint"
      placeholder="prop value"
      @keydown.stop
      @keydown.enter.prevent="take"
      @keydown.esc.prevent="emit('done')"
      @blur="emit('done')"
    />
    <span id="setting-hint" class="max-w-[60%] truncate text-xs text-ink2" role="status">{{
      hint
    }}</span>
  </div>
</template>
