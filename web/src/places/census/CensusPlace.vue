<script setup lang="ts">
import { computed, onMounted, provide, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { ask, GET } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import CountTable from './CountTable.vue'
import DecisionsDialog from './DecisionsDialog.vue'
import FindingList from './FindingList.vue'
import LineUp from './LineUp.vue'
import QuestionList from './QuestionList.vue'
import RuleCatalogue from './RuleCatalogue.vue'
import StrayList from './StrayList.vue'
import TrendView from './TrendView.vue'
import WorkList from './WorkList.vue'
import { censusKey, type Census } from './census'

const ws = useWorkspace()
const route = useRoute()
const census = shallowRef<Census>()
const error = ref('')
async function load() {
  try {
    census.value = await ask(GET('/api/census'))
    error.value = ''
  } catch (e) {
    error.value = (e as Error).message
  }
}
provide(censusKey, { census, load })
onMounted(load)
watch(() => ws.data?.seq, load)
const part = computed(() => String(route.params.part || 'questions'))
const parts = computed(() => [
  { id: 'questions', label: 'Open questions', count: census.value?.questions.length },
  { id: 'work', label: 'Worklist' },
  { id: 'strays', label: 'Strays', count: census.value?.strays.length },
  { id: 'line-up', label: 'Line-up' },
  { id: 'count', label: 'Count' },
  { id: 'findings', label: 'Findings', count: census.value?.findings.length },
  { id: 'rules', label: 'House rules', count: census.value?.house.length },
  { id: 'trend', label: 'Trend' },
])
// What is decided about screens in code is wanted where their build looks.
const inCode = computed(() => ws.screens.some(s => s.source))
const deciding = ref(false)
const views: Record<string, unknown> = {
  questions: QuestionList,
  work: WorkList,
  strays: StrayList,
  'line-up': LineUp,
  count: CountTable,
  findings: FindingList,
  rules: RuleCatalogue,
  trend: TrendView,
}
</script>

<template>
  <div class="flex h-full flex-col">
    <h1 class="sr-only">Census</h1>
    <nav
      class="flex h-9 shrink-0 items-stretch gap-1 overflow-x-auto border-b border-line px-3"
      aria-label="Census"
    >
      <RouterLink
        v-for="p in parts"
        :key="p.id"
        :to="`/census/${p.id}`"
        class="flex items-center border-b-2 px-2 whitespace-nowrap hover:bg-wash"
        :class="part === p.id ? 'border-moss font-semibold' : 'border-transparent text-ink2'"
        :aria-current="part === p.id ? 'page' : undefined"
        >{{ p.label
        }}<span v-if="p.count !== undefined" class="ml-1.5 text-xs font-normal text-ink2">{{
          p.count
        }}</span></RouterLink
      ><button
        v-if="inCode"
        class="ml-auto self-center whitespace-nowrap text-ink2 underline"
        @click="deciding = true"
      >
        Decisions into the repository …
      </button>
    </nav>
    <DecisionsDialog v-if="deciding" @close="deciding = false" />
    <p v-if="error" role="alert" class="p-4 text-rust">{{ error }}</p>
    <div v-else-if="census" class="relative min-h-0 flex-1 overflow-auto">
      <component :is="views[part] ?? QuestionList" />
    </div>
    <p v-else class="p-4 text-ink2" role="status">Counting …</p>
  </div>
</template>
