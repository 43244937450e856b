<script setup lang="ts">
import { computed } from 'vue'
import { useBench } from './useBench'

/** What the piece on the Bench leaves to its uses, each under its name. */
const props = defineProps<{
  kit: Map<string, { props: { name: string }[]; slots: { name: string; text?: boolean }[] }>
}>()
const bench = useBench()
const list = computed(() => bench.head.value?.props ?? [])
const open = computed(() => {
  const el = bench.current.value?.el
  const def = el && props.kit.get(el.type)
  if (!el || !def) return []
  const own = [
    ...(def.slots.some(s => !s.name && s.text) ? [''] : []),
    ...def.props.map(p => p.name),
  ]
  return own.filter(p => !list.value.some(o => o.element === el.id && (o.prop ?? '') === p))
})
const save = (title: string, next: { name: string; element: string; prop?: string }[]) =>
  bench.change({
    title,
    steps: [
      {
        do: 'props',
        doc: bench.doc.value,
        kind: 'piece',
        document: {
          id: bench.head.value!.id,
          title: bench.head.value!.title,
          props: next,
          root: { id: 'none', type: 'stack' },
        },
      },
    ],
  })
function rename(i: number, name: string) {
  if (name && name !== list.value[i]!.name)
    void save(
      `Prop ${list.value[i]!.name} is called ${name}`,
      list.value.map((p, j) => (i === j ? { ...p, name } : p)),
    )
}
function add(e: Event) {
  const select = e.target as HTMLSelectElement
  const prop = select.value === '*' ? undefined : select.value === '(text)' ? '' : select.value
  select.value = '*'
  const el = bench.current.value?.el
  if (prop === undefined || !el) return
  const base =
    (el.name || bench.title(el.id).replace(/[^A-Za-z0-9]+/g, '-')) + (prop ? '-' + prop : '')
  let name = base
  for (let n = 2; list.value.some(p => p.name === name); n++) name = `${base}-${n}`
  void save(`Leave ${name} to the uses`, [
    ...list.value,
    { name, element: el.id, prop: prop || undefined },
  ])
}
</script>

<template>
  <div class="shrink-0 border-b border-line px-3 py-1" role="group" aria-label="Props of the piece">
    <div class="flex flex-wrap items-center gap-x-2 gap-y-1">
      <span class="text-ink2">uses set</span>
      <span v-for="(p, i) in list" :key="p.name" class="flex items-center border border-line">
        <input
          class="bg-transparent px-1 font-mono text-xs"
          :size="Math.max(4, p.name.length)"
          :value="p.name"
          :aria-label="`Name of the prop for ${bench.title(p.element)} ${p.prop || 'text'}`"
          :title="`${bench.title(p.element)} ${p.prop || 'text'}`"
          :readonly="!bench.canBuild.value"
          @change="rename(i, ($event.target as HTMLInputElement).value.trim())"
          @keydown.enter.stop="($event.target as HTMLInputElement).blur()"
          @keydown.stop
        />
        <button
          v-if="bench.canBuild.value"
          class="px-1 text-ink2 hover:text-rust"
          :aria-label="`No longer leave ${p.name} to the uses`"
          @click="
            save(
              `Keep ${p.name} in the piece`,
              list.filter((_, j) => j !== i),
            )
          "
        >
          ×
        </button>
      </span>
      <span v-if="!list.length" class="text-ink2">nothing yet</span>
      <label v-if="bench.canBuild.value && open.length"
        ><span class="sr-only">Leave a setting of the selected element to the uses</span
        ><select class="input h-5" @change="add">
          <option value="*">+ of {{ bench.title(bench.selected.value) }}</option>
          <option v-for="p in open" :key="p" :value="p || '(text)'">{{ p || 'text' }}</option>
        </select></label
      >
    </div>
  </div>
</template>
