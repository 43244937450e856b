<script setup lang="ts">
import { computed, ref } from 'vue'
import { useWorkspace } from '../../use/workspace'
import LineDialog from './LineDialog.vue'
import StandDialog from './StandDialog.vue'
import StoodList from './StoodList.vue'
import { bench, useCensus } from './census'

const ws = useWorkspace()
const { census, load } = useCensus()
const filter = ref('')
const chosen = ref(new Set<string>())
const lining = ref<string[]>()
const standing = ref<{ key: string; what: string }>()
const findings = computed(() =>
  (census.value?.findings ?? []).filter(f =>
    (f.title + f.rule + f.message).toLowerCase().includes(filter.value.toLowerCase()),
  ),
)
const fixable = computed(() => findings.value.filter(f => f.fix?.length))
const picked = computed(() => fixable.value.filter(f => chosen.value.has(f.key)).map(f => f.key))
function toggle(key: string) {
  const next = new Set(chosen.value)
  if (!next.delete(key)) next.add(key)
  chosen.value = next
}
async function done() {
  lining.value = undefined
  standing.value = undefined
  chosen.value = new Set()
  await load()
}
async function undo() {
  await ws.undo()
  await ws.load()
  await done()
}
</script>

<template>
  <div
    class="sticky top-0 z-10 flex flex-wrap items-center gap-3 border-b border-line bg-ground px-4 py-2"
  >
    <input
      v-model="filter"
      type="search"
      class="input w-56"
      aria-label="Filter findings"
      placeholder="Screen, rule, words"
    /><span class="text-ink2">{{ findings.length }} findings, {{ fixable.length }} with a fix</span>
    <button v-if="ws.done.length" class="btn ml-auto" @click="undo">
      Undo {{ ws.done.at(-1)?.title.toLowerCase() }}
    </button>
    <button
      class="btn btn-main"
      :class="{ 'ml-auto': !ws.done.length }"
      :disabled="!picked.length || !ws.canBuild"
      @click="lining = picked"
    >
      Repair {{ picked.length || '' }}
    </button>
  </div>
  <table class="w-full border-collapse">
    <thead class="sr-only">
      <tr>
        <th>Choose</th>
        <th>Level</th>
        <th>Screen</th>
        <th>Finding</th>
        <th>Rule</th>
        <th>What to do</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="f in findings" :key="f.key" class="hover:bg-wash">
        <td class="td w-8 pl-4">
          <input
            v-if="f.fix?.length"
            type="checkbox"
            class="accent-moss"
            :checked="chosen.has(f.key)"
            :aria-label="`Choose ${f.message}`"
            @change="toggle(f.key)"
          />
        </td>
        <td class="td w-20">
          <span class="flex items-center gap-1.5"
            ><span class="h-3 w-1" :class="f.severity === 'error' ? 'bg-rust' : 'bg-slate'"></span
            >{{ f.severity }}</span
          >
        </td>
        <td class="td w-40">
          <RouterLink class="underline" :to="bench(f.doc, f.element)">{{ f.title }}</RouterLink>
        </td>
        <td class="td">
          {{ f.message }}
          <span v-if="f.needs" class="block text-xs text-ink2"
            >No repair by itself: it would bring “{{ f.needs }}”.</span
          >
        </td>
        <td class="td w-40 whitespace-nowrap">
          <RouterLink class="text-ink2 underline" :to="`/census/rules#${f.rule}`">{{
            f.rule
          }}</RouterLink>
        </td>
        <td class="td w-64 text-right whitespace-nowrap">
          <template v-if="ws.canBuild"
            ><button v-if="f.fix?.length" class="mr-3 underline" @click="lining = [f.key]">
              {{ f.fixTitle }}</button
            ><button
              class="text-ink2 underline"
              @click="standing = { key: f.key, what: f.message }"
            >
              Let stand
            </button></template
          >
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="!findings.length" class="p-4 text-ink2">
    {{ filter ? `No finding matches “${filter}”.` : 'No findings. Every screen keeps the rules.' }}
  </p>
  <StoodList
    v-if="census?.standing.length"
    class="p-4"
    :items="census.standing.map(f => ({ ...f, words: f.message }))"
    @done="done"
  />
  <LineDialog v-if="lining" :findings="lining" @close="lining = undefined" @done="done" />
  <StandDialog
    v-if="standing"
    :keys="[standing.key]"
    :what="standing.what"
    @close="standing = undefined"
    @done="done"
  />
</template>
