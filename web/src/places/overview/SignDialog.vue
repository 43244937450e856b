<script setup lang="ts">
import { computed, ref } from 'vue'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'

/** Signs several screens off at once: those that meet what the team asks for. */
const emit = defineEmits<{ close: [] }>()
const ws = useWorkspace()
const mine = computed(() =>
  ws.screens.filter(s => !s.signed && (ws.canKeep || s.owner === ws.data?.me.name)),
)
const ready = computed(() => mine.value.filter(s => !s.unmet?.length))
const open = computed(() => mine.value.filter(s => s.unmet?.length))
const others = computed(() => ws.screens.filter(s => !s.signed).length - mine.value.length)
const chosen = ref<string[]>([])
const error = ref('')
const picked = computed(() => ready.value.filter(s => chosen.value.includes(s.id)))
const all = computed({
  get: () => picked.value.length === ready.value.length && ready.value.length > 0,
  set: on => {
    chosen.value = on ? ready.value.map(s => s.id) : []
  },
})
async function sign() {
  try {
    ws.note(
      await ask(
        POST('/api/sign-off', {
          body: { docs: picked.value.map(s => 'screen:' + s.id), client: clientId },
        }),
      ),
    )
    ws.say(`${picked.value.length} signed off; undo takes it back as one step.`)
    await ws.load()
    emit('close')
  } catch (e) {
    error.value = (e as Error).message
  }
}
</script>

<template>
  <AppDialog title="Sign off" wide @close="$emit('close')">
    <p v-if="error" role="alert" class="mb-2 text-rust">{{ error }}</p>
    <form @submit.prevent="sign">
      <fieldset v-if="ready.length">
        <legend class="mb-1 font-semibold">Ready: nothing that the team asks for is open</legend>
        <label class="flex items-center gap-2 border-b border-line py-1"
          ><input v-model="all" type="checkbox" class="accent-moss" /> all {{ ready.length }}</label
        >
        <div class="max-h-[32vh] overflow-auto">
          <label
            v-for="s in ready"
            :key="s.id"
            class="flex items-center gap-2 border-b border-line py-1"
            ><input v-model="chosen" type="checkbox" class="accent-moss" :value="s.id" /><span
              class="min-w-0 flex-1 truncate"
              >{{ s.title }}</span
            ><span v-if="s.was" class="text-ink2"
              >{{ s.since }} {{ s.since === 1 ? 'edit' : 'edits' }} since {{ s.was }}</span
            ></label
          >
        </div>
      </fieldset>
      <p v-else class="text-ink2">None is ready that you may sign off.</p>
      <details v-if="open.length" class="mt-3" :open="!ready.length">
        <summary class="cursor-pointer font-semibold">Not yet: {{ open.length }}</summary>
        <ul class="max-h-[28vh] overflow-auto">
          <li v-for="s in open" :key="s.id" class="border-b border-line py-1">
            <RouterLink class="underline" :to="`/bench/screen/${s.id}`">{{ s.title }}</RouterLink>{{
              ' '
            }}
            <span class="text-ink2"
              >{{ s.unmet?.[0]
              }}{{ (s.unmet?.length ?? 0) > 1 ? `, and ${s.unmet!.length - 1} more` : '' }}</span
            >
          </li>
        </ul>
      </details>
      <p class="mt-3 text-ink2">
        <template v-if="others">{{ others }} more are for their owners to sign off. </template>
        What a sign-off asks for stands under
        <RouterLink class="underline" to="/census/rules#sign-off">House rules</RouterLink>.
      </p>
      <div class="mt-3 flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!picked.length">
          Sign off {{ picked.length || '' }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
