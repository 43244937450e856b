<script setup lang="ts">
import { onMounted, shallowRef, watch } from 'vue'
import { ask, clientId, GET, POST, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import { useCensus } from './census'
import RuleEntry from './RuleEntry.vue'

const ws = useWorkspace()
const { census, load } = useCensus()
const rules = shallowRef<Schemas['ApiRuleView'][]>([])
async function read() {
  rules.value = (await ask(GET('/api/rules'))).rules
}
async function changed() {
  await Promise.all([read(), load(), ws.load()])
}
onMounted(read)
watch(() => ws.data?.seq, read)
async function lift(id: string) {
  try {
    ws.note(await ask(POST('/api/census/unsettle', { body: { id, client: clientId } })))
    await Promise.all([load(), ws.load()])
  } catch (e) {
    ws.say((e as Error).message)
  }
}
</script>

<template>
  <div class="mx-auto grid max-w-5xl gap-6 p-4">
    <section aria-label="House rules">
      <h2 class="mb-1 text-lg">House rules</h2>
      <table v-if="census?.house.length" class="sheet w-full border-collapse">
        <thead>
          <tr>
            <th class="th">Spot</th>
            <th class="th">Settled</th>
            <th class="th">Why</th>
            <th class="th">Who, when</th>
            <th class="th"></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="h in census.house" :id="h.id" :key="h.id">
            <td class="td">{{ h.words }}</td>
            <td class="td">
              {{ h.prop }} is <b>{{ h.value }}</b>
            </td>
            <td class="td">{{ h.reason }}</td>
            <td class="td whitespace-nowrap">{{ ws.data?.owners[h.by] ?? h.by }}, {{ h.when }}</td>
            <td class="td text-right">
              <button v-if="ws.canKeep" class="underline" @click="lift(h.id)">Lift</button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="text-ink2">None yet. Settle an open question to make one.</p>
    </section>
    <section aria-label="Rules">
      <h2 class="mb-1 text-lg">
        Rules <span class="text-base font-normal text-ink2">{{ rules.length }}</span>
      </h2>
      <ul class="sheet">
        <li
          v-for="r in rules"
          :id="r.id"
          :key="r.id"
          class="border-b border-line px-3 py-2 last:border-b-0"
        >
          <RuleEntry :rule="r" @changed="changed" />
        </li>
      </ul>
    </section>
  </div>
</template>
