<script setup lang="ts">
import { computed, ref } from 'vue'
import { ask, clientId, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'
import { useDecision } from './census'

/** Puts an open question to people: first to those who own the screens that it is about. */
const props = defineProps<{ question: Schemas['ApiQuestionView'] }>()
const emit = defineEmits<{ close: []; done: [] }>()
const ws = useWorkspace()
const asked = computed(() => props.question.asked)
/** How many of the screens somebody owns. */
const owns = computed(() => {
  const docs = new Set(props.question.sides.flatMap(s => s.docs ?? []))
  const n = new Map<string, number>()
  for (const d of ws.data?.docs ?? [])
    if (d.owner && docs.has(`${d.kind}:${d.id}`)) n.set(d.owner, (n.get(d.owner) ?? 0) + 1)
  return n
})
const people = computed(() =>
  Object.entries(ws.data?.owners ?? {}).toSorted(
    ([a], [b]) => (owns.value.get(b) ?? 0) - (owns.value.get(a) ?? 0),
  ),
)
const chosen = ref<string[]>(
  asked.value?.people ??
    people.value.map(([name]) => name).filter(n => owns.value.has(n) && n !== ws.data?.me.name),
)
const note = ref(asked.value?.note ?? '')
const due = ref(asked.value?.due ?? '')
const { error, decide } = useDecision(
  () =>
    ask(
      POST('/api/questions/ask', {
        body: {
          question: props.question.id,
          people: chosen.value,
          note: note.value.trim() || undefined,
          due: due.value || undefined,
          client: clientId,
        },
      }),
    ),
  () => emit('done'),
)
function noLonger() {
  chosen.value = []
  void decide()
}
</script>

<template>
  <AppDialog title="Ask people" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="decide">
      <p class="text-ink2">
        {{ question.what }}<template v-if="question.words">, {{ question.words }}</template>
      </p>
      <fieldset>
        <legend class="label mb-1">Who is asked</legend>
        <div class="max-h-52 overflow-auto border-y border-line">
          <label
            v-for="[name, full] in people"
            :key="name"
            class="flex items-center gap-2 border-b border-line py-1 last:border-0"
            ><input v-model="chosen" type="checkbox" class="accent-moss" :value="name" /><span
              class="min-w-0 flex-1 truncate"
              >{{ full }}</span
            ><span v-if="owns.get(name)" class="text-ink2"
              >owns {{ owns.get(name) }} of these screens</span
            ></label
          >
        </div>
      </fieldset>
      <label
        ><span class="label mb-1 block">What they should know (may stay empty)</span
        ><input v-model="note" class="input w-full" maxlength="400"
      /></label>
      <label
        ><span class="label mb-1 block">Answers by (may stay empty)</span
        ><input v-model="due" type="date" class="input"
      /></label>
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button v-if="asked" type="button" class="btn btn-bare mr-auto" @click="noLonger">
          No longer ask
        </button>
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!chosen.length">
          Ask {{ chosen.length || '' }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
