<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { ask, GET, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import { across, path, series, went } from './trend'

/** How it went: from the history, a point for each day on which something changed. */
const ws = useWorkspace()
const data = shallowRef<Schemas['ApiTrendOut']>()
const error = ref('')
let timer: ReturnType<typeof setTimeout> | undefined
async function load() {
  clearTimeout(timer)
  try {
    data.value = await ask(GET('/api/census/trend'))
    error.value = ''
    if (!data.value.done) timer = setTimeout(() => void load(), 700)
  } catch (e) {
    error.value = (e as Error).message
  }
}
onBeforeUnmount(() => clearTimeout(timer))
watch(() => ws.data?.seq, load, { immediate: true })
const points = computed(() => data.value?.points ?? [])
const now = computed(() => points.value.at(-1))
const name = (user: string) => ws.data?.owners[user] ?? user
const tables = computed(() =>
  [
    {
      title: 'By owner',
      of: 'Owner',
      rows: now.value?.owners.map(o => ({ ...o, of: name(o.of) || 'nobody' })) ?? [],
    },
    { title: 'By folder', of: 'Folder', rows: now.value?.folders ?? [] },
  ].filter(t => t.rows.length),
)
const width = 260
const height = 56
const percent = (part: number, of: number) => (of ? Math.round((100 * part) / of) : 100)
</script>

<template>
  <div class="mx-auto grid max-w-5xl gap-6 p-4">
    <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
    <p v-else-if="!now" role="status" class="text-ink2">Counting …</p>
    <template v-else>
      <p class="-mb-3 text-ink2" role="status">
        <template v-if="points.length > 1"
          >{{ points.length }} days on which something changed, from {{ points[0]!.day }} to
          {{ now.day }}, counted from the history.</template
        ><template v-else-if="data?.done"
          >What there is today; the next days will show how it goes.</template
        >
        <template v-if="!data?.done"> More of the past is still counted …</template>
        <template v-if="data?.since"> The past ends there: {{ data.since }}.</template>
      </p>
      <ul class="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-4">
        <li v-for="s in series" :key="s.id" class="sheet p-3">
          <h2 class="flex items-baseline gap-2">
            <span class="text-xl">{{ s.of(now) }}{{ s.unit }}</span
            ><span class="font-normal">{{ s.name }}</span>
          </h2>
          <p class="text-xs text-ink2">{{ went(s, points) }}</p>
          <svg
            :viewBox="`-2 -3 ${width + 4} ${height + 6}`"
            class="mt-2 block w-full text-moss"
            role="img"
            :aria-label="`${s.name}: ${points.map(p => `${p.day} ${s.of(p)}`).join(', ')}`"
          >
            <line
              v-for="(m, i) in data?.marks"
              :key="i"
              :x1="across(points, m.day) * width"
              :x2="across(points, m.day) * width"
              y1="0"
              :y2="height"
              stroke="var(--u-line)"
              :stroke-dasharray="m.kind === 'kit' ? undefined : '2 3'"
            >
              <title>{{ m.day }}: {{ m.title }}</title>
            </line>
            <path
              :d="path(s, points, width, height)"
              fill="none"
              stroke="currentColor"
              stroke-width="2"
            />
          </svg>
        </li>
      </ul>
      <section v-if="data?.marks.length" aria-label="What was decided">
        <h2 class="mb-1 text-lg">What was decided</h2>
        <ul>
          <li v-for="(m, i) in data.marks" :key="i" class="flex gap-3 py-0.5">
            <span class="w-24 shrink-0 font-mono text-ink2">{{ m.day }}</span><span
              class="w-10 shrink-0 text-ink2"
              >{{ m.kind }}</span
            ><span class="min-w-0 flex-1">{{ m.title }}</span
            ><span class="text-ink2">{{ name(m.by) }}</span>
          </li>
        </ul>
      </section>
      <section v-for="t in tables" :key="t.title" :aria-label="t.title">
        <h2 class="mb-1 text-lg">{{ t.title }}, now</h2>
        <table class="sheet w-full border-collapse">
          <thead>
            <tr>
              <th class="th">{{ t.of }}</th>
              <th class="th text-right">Screens</th>
              <th class="th text-right">Consistency</th>
              <th class="th text-right">From the kit</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="o in t.rows" :key="o.of">
              <td class="td">{{ o.of }}</td>
              <td class="td text-right">{{ o.screens }}</td>
              <td class="td text-right">{{ Math.round(o.score) }}</td>
              <td class="td text-right">
                {{ percent(o.fromKit, o.elements) }} % of {{ o.elements }}
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <details>
        <summary class="cursor-pointer text-ink2">All of it as numbers</summary>
        <div
          class="mt-2 overflow-auto"
          tabindex="0"
          role="region"
          aria-label="All of it as numbers"
        >
          <table class="sheet border-collapse whitespace-nowrap">
            <thead>
              <tr>
                <th class="th">Day</th>
                <th class="th text-right">Screens</th>
                <th v-for="s in series" :key="s.id" class="th text-right">{{ s.name }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="p in points.toReversed()" :key="p.day">
                <td class="td font-mono">{{ p.day }}</td>
                <td class="td text-right">{{ p.screens }}</td>
                <td v-for="s in series" :key="s.id" class="td text-right">
                  {{ s.of(p) }}{{ s.unit }}
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </details>
    </template>
  </div>
</template>
