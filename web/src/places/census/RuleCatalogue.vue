<script setup lang="ts">
import { onMounted, shallowRef } from 'vue'
import { ask, clientId, GET, POST, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import { useCensus } from './census'

const ws = useWorkspace()
const { census, load } = useCensus()
const rules = shallowRef<Schemas['ApiRuleView'][]>([])
onMounted(async () => { rules.value = (await ask(GET('/api/rules'))).rules })
async function lift(id: string) {
  try { ws.note(await ask(POST('/api/census/unsettle', { body: { id, client: clientId } }))); await Promise.all([load(), ws.load()]) } catch (e) { ws.say((e as Error).message) }
}
</script>

<template>
  <div class="mx-auto grid max-w-5xl gap-6 p-4">
    <section aria-label="House rules"><h2 class="mb-1 text-lg">House rules</h2>
      <table v-if="census?.house.length" class="sheet w-full border-collapse"><thead><tr><th class="th">Spot</th><th class="th">Settled</th><th class="th">Why</th><th class="th">Who, when</th><th class="th"></th></tr></thead>
        <tbody><tr v-for="h in census.house" :id="h.id" :key="h.id"><td class="td">{{ h.words }}</td><td class="td">{{ h.prop }} is <b>{{ h.value }}</b></td><td class="td">{{ h.reason }}</td><td class="td whitespace-nowrap">{{ ws.data?.owners[h.by] ?? h.by }}, {{ h.when }}</td><td class="td text-right"><button v-if="ws.canKeep" class="underline" @click="lift(h.id)">Lift</button></td></tr></tbody></table>
      <p v-else class="text-ink2">None yet. Settle an open question to make one.</p>
    </section>
    <section aria-label="Rules"><h2 class="mb-1 text-lg">Rules <span class="text-base font-normal text-ink2">{{ rules.length }}</span></h2>
      <ul class="sheet"><li v-for="r in rules" :id="r.id" :key="r.id" class="border-b border-line px-3 py-2 last:border-b-0">
        <div class="flex items-baseline gap-3"><b>{{ r.title }}</b><code class="text-ink2">{{ r.id }}</code><span class="text-ink2">{{ r.severity }}</span><RouterLink v-if="r.findings" to="/census/findings" class="ml-auto text-rust underline">{{ r.findings }} findings</RouterLink></div>
        <p>{{ r.purpose }} <span class="text-ink2">{{ r.why }}</span></p>
        <details v-if="r.bad.length"><summary class="text-ink2">Examples</summary><div class="grid gap-2 pt-1 md:grid-cols-2"><pre class="overflow-auto border-l-4 border-rust bg-wash p-2 text-xs whitespace-pre-wrap">{{ r.bad.join('\n') }}</pre><pre class="overflow-auto border-l-4 border-moss bg-wash p-2 text-xs whitespace-pre-wrap">{{ r.good.join('\n') }}</pre></div></details>
      </li></ul>
    </section>
  </div>
</template>
