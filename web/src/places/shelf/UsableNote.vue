<script setup lang="ts">
import { ref } from 'vue'
import { ask, clientId, POST, type Component, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useCopy } from '../../use/copy'
import { useWorkspace } from '../../use/workspace'

/** Why an entry cannot be used now, and what would make it usable; and for keepers,
 * leaving it out and taking it in. */
const props = defineProps<{ component: Component }>()
const emit = defineEmits<{ changed: [] }>()
const ws = useWorkspace()
const toClipboard = useCopy()
const asking = ref(false)
const reason = ref('')
async function take(title: string, step: Schemas['Change']['steps'][number]) {
  try {
    ws.note(
      await ask(
        POST('/api/changes', { body: { change: { title, steps: [step] }, client: clientId } }),
      ),
    )
    asking.value = false
    await ws.load()
    ws.say(`${title}; undo takes it back.`)
    emit('changed')
  } catch (e) {
    ws.say((e as Error).message)
  }
}
const copy = (text: string) => toClipboard(text, 'The command')
const leftOut = () => props.component.reasons.some(r => r.kind === 'left-out')
</script>

<template>
  <div>
    <div class="flex flex-wrap gap-3">
      <slot></slot
      ><button
        v-if="ws.canKeep && !leftOut()"
        class="ml-auto text-ink2 underline"
        @click="asking = true"
      >
        Leave it out here
      </button>
    </div>
    <ul
      v-if="component.reasons.length"
      class="mt-2 grid gap-1"
      aria-label="Why it cannot be used now"
    >
      <li
        v-for="r in component.reasons"
        :key="r.words"
        class="flex flex-wrap items-center gap-x-3 border-l-2 border-rust bg-rustwash px-3 py-1"
      >
        <span class="text-rust">{{ r.words }}</span>
        <RouterLink v-if="r.tag" class="underline" :to="`/shelf/${r.tag}`">{{
          r.remedy
        }}</RouterLink><RouterLink v-else-if="r.path" class="underline" :to="r.path">{{
          r.remedy
        }}</RouterLink
        ><span v-else-if="!(r.kind === 'left-out' && ws.canKeep)">{{ r.remedy }}</span>
        <span v-if="r.command" class="flex items-center gap-2"
          ><code>{{ r.command }}</code
          ><button class="btn h-6" @click="copy(r.command)">Copy</button></span
        >
        <button
          v-if="r.kind === 'left-out' && ws.canKeep"
          class="btn h-6"
          @click="
            take(`Take in ${component.title}`, { do: 'take-in', left: { tag: component.tag } })
          "
        >
          Take it in
        </button>
      </li>
    </ul>
    <AppDialog v-if="asking" :title="`Leave ${component.title} out`" @close="asking = false">
      <form
        class="grid gap-3"
        @submit.prevent="
          take(`Leave ${component.title} out`, {
            do: 'leave-out',
            left: { tag: component.tag, reason },
          })
        "
      >
        <p class="text-ink2">
          It is no longer offered when screens are assembled.
          {{
            component.uses
              ? `Its ${component.uses} uses stay and become findings.`
              : 'No screen uses it.'
          }}
        </p>
        <label class="grid gap-1"
          >Why<input v-model="reason" class="input" required placeholder="chips do the same"
        /></label>
        <div class="flex justify-end gap-2">
          <button type="button" class="btn" @click="asking = false">Keep it</button
          ><button class="btn btn-main" :disabled="!reason.trim()">Leave it out</button>
        </div>
      </form>
    </AppDialog>
  </div>
</template>
