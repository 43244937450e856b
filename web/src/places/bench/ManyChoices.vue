<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { ask, GET, type Choice, type Choices } from '../../api/client'
import ChoiceRow from './ChoiceRow.vue'
import { editFor, shared, typed } from './choices'
import { findIn, type KitIndex } from './tree'
import { useBench } from './useBench'

/** The choices that several elements have in common; choosing sets all of them. */
const props = defineProps<{ ids: string[]; kit: KitIndex }>()
const emit = defineEmits<{ back: [] }>()
const bench = useBench()
const data = shallowRef<Choices>()
const elements = computed(() =>
  props.ids.flatMap(id => (bench.root.value && findIn(bench.root.value, id)?.el) ?? []),
)
const first = computed(() => elements.value[0])
watch(
  [() => first.value?.id, () => bench.seq.value],
  async () => {
    const [kind, id] = bench.doc.value.split(':') as [string, string]
    if (!first.value) return
    try {
      data.value = await ask(
        GET('/api/docs/{kind}/{id}/choices', {
          params: {
            path: { kind, id },
            query: { element: first.value.id, state: bench.state.value || undefined },
          },
        }),
      )
    } catch {
      data.value = undefined
    }
  },
  { immediate: true },
)
const common = computed(() =>
  (data.value?.choices ?? []).filter(
    c =>
      !c.prop.includes('@') &&
      elements.value.every(el =>
        props.kit
          .get(el.type)
          ?.props.some(
            p =>
              p.name === c.prop &&
              String(p.values ?? '') ===
                String(
                  props.kit.get(first.value!.type)?.props.find(q => q.name === c.prop)?.values ??
                    '',
                ),
          ),
      ),
  ),
)
const rows = computed(() =>
  common.value
    .map(c => {
      const s = shared(c, elements.value)
      return {
        choice: { ...c, value: s.value ?? '', set: s.value !== undefined && c.set },
        mix: s.value === undefined ? s.mix : [],
      }
    })
    .filter(
      r => r.mix.length || r.choice.varies || ['choice', 'yes/no', 'token'].includes(r.choice.type),
    ),
)
const all = (c: Choice, value: string) =>
  bench.edit(
    `${c.prop} of ${elements.value.length} elements: ${value || 'none'}`,
    elements.value.flatMap(el => editFor(c, el.id, value, el.props?.[c.prop] !== undefined)),
  )
function enter(c: Choice, text: string) {
  const t = text.trim()
  if (t)
    void bench.edit(
      `${c.prop} of ${elements.value.length} elements`,
      elements.value.map(el => ({
        op: 'set',
        id: el.id,
        prop: c.prop,
        value: t.startsWith('=') ? { expr: t.slice(1).trim() } : typed(c, t),
      })),
    )
}
</script>

<template>
  <div
    class="border-b border-line bg-sheet px-6 py-1"
    role="group"
    :aria-label="`Choices of ${elements.length} elements`"
    @keydown.esc.stop="emit('back')"
    @keydown.stop
  >
    <p class="text-ink2">{{ elements.length }} elements selected; a choice sets all of them.</p>
    <div v-for="r in rows" :key="r.choice.prop">
      <ChoiceRow
        :choice="r.choice"
        :focused="false"
        :can="bench.canBuild.value"
        @choose="v => all(r.choice, v)"
        @enter="t => enter(r.choice, t)"
      />
      <p v-if="r.mix.length" class="pl-[92px] text-xs text-slate">
        differs: {{ r.mix.map(([v, n]) => `${v || 'none'} ${n}`).join(', ') }}
      </p>
    </div>
    <p v-if="data && !rows.length" class="text-ink2">They have no choice in common.</p>
  </div>
</template>
