<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { useBench } from './useBench'

/** Which state of the screen is worked at, and new ones. */
const bench = useBench()
const usual = ['loading', 'empty', 'error', 'dialog open']
const states = computed(() => bench.head.value?.states ?? [])
const naming = ref(false)
const name = ref('')
const input = ref<HTMLInputElement>()

async function add(state: string) {
  naming.value = false
  if (
    state &&
    (await bench.change({
      title: `State ${state}`,
      steps: [{ do: 'state', doc: bench.doc.value, state: { name: state } }],
    }))
  )
    bench.state.value = state
}
async function choose(e: Event) {
  const select = e.target as HTMLSelectElement
  const to = select.value
  select.value = bench.state.value
  if (to === '+own') {
    naming.value = true
    name.value = ''
    await nextTick()
    input.value?.focus()
  } else if (to.startsWith('+')) await add(to.slice(1))
  else bench.state.value = to
}
</script>

<template>
  <input
    v-if="naming"
    ref="input"
    v-model="name"
    class="input h-6 w-28"
    aria-label="Name of the new state"
    maxlength="40"
    @keydown.enter="add(name.trim())"
    @keydown.esc="naming = false"
    @blur="naming = false"
  />
  <label v-else-if="bench.head.value?.kind !== 'piece'"
    ><span class="sr-only">State</span>
    <select class="input h-6 w-24" :value="bench.state.value" @change="choose">
      <option value="">ready</option>
      <option v-for="s in states" :key="s.name" :value="s.name">{{ s.name }}</option>
      <optgroup v-if="bench.canBuild.value" label="New state">
        <option
          v-for="u in usual.filter(u => !states.some(s => s.name === u))"
          :key="u"
          :value="'+' + u"
        >
          + {{ u }}
        </option>
        <option value="+own">+ own …</option>
      </optgroup>
    </select></label
  >
</template>
