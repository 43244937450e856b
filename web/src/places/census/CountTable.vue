<script setup lang="ts">
import { onMounted, shallowRef, watch } from 'vue'
import { ask, GET, type Schemas } from '../../api/client'
import MixBar from '../../ui/MixBar.vue'
import { useWorkspace } from '../../use/workspace'
import WhereSearch from './WhereSearch.vue'

const ws = useWorkspace()
const data = shallowRef<Schemas['ApiCountOut']>()
async function load() {
  data.value = await ask(GET('/api/census/count'))
}
onMounted(load)
watch(() => ws.data?.seq, load)
</script>

<template>
  <WhereSearch :sample="data?.rows.find(r => r.type.includes('-'))?.type" />
  <table v-if="data" class="border-collapse">
    <thead>
      <tr>
        <th class="th sticky top-0 left-0 z-20 bg-ground">Component</th>
        <th class="th sticky top-0 z-10 bg-ground text-right">Uses</th>
        <th class="th sticky top-0 z-10 bg-ground">Mix</th>
        <th
          v-for="d in data.docs"
          :key="d.id"
          class="sticky top-0 z-10 h-32 border-b border-line bg-ground p-0 align-bottom font-normal"
        >
          <RouterLink
            class="mx-auto block max-h-30 rotate-180 truncate py-1 text-xs hover:underline [writing-mode:vertical-rl]"
            :to="`/bench/${d.id.replace(':', '/')}`"
            :title="d.name"
            >{{ d.name }}</RouterLink
          >
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in data.rows" :key="r.type" class="hover:bg-wash">
        <th
          class="td sticky left-0 z-10 bg-ground py-0.5 text-left font-semibold whitespace-nowrap"
        >
          <RouterLink
            class="hover:underline"
            :to="r.type.includes('-') ? `/shelf/${r.type}` : `/census/line-up?component=${r.type}`"
            >{{ r.title }}</RouterLink><span
            v-if="!r.type.includes('-')"
            class="ml-1 font-normal text-ink2"
            >{{ r.type.startsWith('piece:') ? 'piece' : 'layout' }}</span
          >
        </th>
        <td class="td py-0.5 text-right">{{ r.uses }}</td>
        <td class="td py-0.5 whitespace-nowrap">
          <template v-if="r.mix.length > 1"
            ><MixBar :parts="r.mix" /> <span class="text-xs text-ink2">{{ r.prop }}</span></template
          >
        </td>
        <td
          v-for="d in data.docs"
          :key="d.id"
          class="border-b border-line px-1 text-center text-xs"
          :class="{ 'text-line': !r.docs[d.id] }"
        >
          {{ r.docs[d.id] ?? '·' }}
        </td>
      </tr>
    </tbody>
  </table>
</template>
