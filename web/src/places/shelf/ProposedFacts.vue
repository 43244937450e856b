<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'

/** What no source says of a component and was proposed; whoever knows better says so in
 * place, and that holds for later versions as well. */
const props = defineProps<{ data: Schemas['ApiComponentOut'] }>()
const emit = defineEmits<{ changed: [] }>()
const ws = useWorkspace()
const c = computed(() => props.data.component)
const guess = (what: string) => c.value.guesses?.find(g => g.what === what)
const builds = computed(() => ws.data?.me.role !== 'reader')
const texts = computed(() => c.value.props.filter(p => p.type === 0 && !p.json))

async function say(what: 'family' | 'role' | 'label', value: string) {
  const said = props.data.said
  try {
    await ws.take({
      title: `Say what ${c.value.title} is`,
      steps: [
        {
          do: 'correct',
          correction: {
            tag: c.value.tag,
            family: said?.family ?? '',
            role: said?.role ?? '',
            label: said?.label ?? '',
            [what]: value,
          },
        },
      ],
    } as unknown as Parameters<typeof ws.take>[0])
    emit('changed')
  } catch (e) {
    ws.say((e as Error).message)
  }
}
const rows = computed(() => [
  {
    what: 'family' as const,
    title: 'Family',
    value: c.value.family,
    choices: props.data.families.map(f => ({ id: f.id, name: f.name })),
  },
  {
    what: 'role' as const,
    title: 'Role',
    value: c.value.role || 'none',
    choices: ['none', 'action', 'link', 'control', 'bar', 'status'].map(id => ({ id, name: id })),
  },
  {
    what: 'label' as const,
    title: 'Labelled by',
    value: c.value.nameProp || 'none',
    choices: [
      { id: 'none', name: 'no prop' },
      ...texts.value.map(p => ({ id: p.name, name: p.name })),
    ],
  },
])
const why = (what: string) => {
  const g = guess(what)
  return g ? `${g.why}, ${Math.round(g.certainty * 100)} %` : 'no source says it'
}
</script>

<template>
  <section v-if="c.guesses?.length" aria-label="Proposed" class="mb-4">
    <h2 class="mb-1 text-lg">
      What it is
      <span class="text-base font-normal text-ink2">proposed, where no source says it</span>
    </h2>
    <ul class="sheet">
      <li v-for="r in rows" :key="r.what" class="item flex flex-wrap items-center gap-2">
        <label class="flex items-center gap-2"
          ><span class="w-24">{{ r.title }}</span>
          <select
            class="input"
            :value="r.value"
            :disabled="!builds"
            @change="say(r.what, ($event.target as HTMLSelectElement).value)"
          >
            <option v-for="o in r.choices" :key="o.id" :value="o.id">{{ o.name }}</option>
          </select></label
        >
        <span class="text-ink2">{{ why(r.what) }}</span>
      </li>
    </ul>
  </section>
</template>
