<script setup lang="ts">
import { ref } from 'vue'
import { ask, clientId, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useDecision } from './census'

/** Says what one thinks of an open question, and why. */
const props = defineProps<{
  question: Schemas['ApiQuestionView']
  side: Schemas['NormSide']
  why?: string
}>()
const emit = defineEmits<{ close: []; done: [] }>()
const why = ref(props.why ?? '')
const { error, decide } = useDecision(
  () =>
    ask(
      POST('/api/questions/answer', {
        body: {
          question: props.question.id,
          value: props.side.value,
          why: why.value.trim() || undefined,
          client: clientId,
        },
      }),
    ),
  () => emit('done'),
)
</script>

<template>
  <AppDialog :title="`You say: ${side.words}`" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="decide">
      <p class="text-ink2">
        {{ question.what }}<template v-if="question.words">, {{ question.words }}</template>
      </p>
      <label
        ><span class="label mb-1 block">Why (may stay empty)</span
        ><textarea
          v-model="why"
          class="input h-20 w-full py-1"
          maxlength="1000"
          autofocus
        ></textarea>
      </label>
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main">Say so</button>
      </div>
    </form>
  </AppDialog>
</template>
