<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ask, clientId, POST, type DocHead, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { slug } from '../../use/slug'
import { useWorkspace } from '../../use/workspace'

/** Makes of a screen that was read from code one that is assembled here. What does not come
 * along is said before anything is made. */
const props = defineProps<{ screen: DocHead }>()
const emit = defineEmits<{ close: [] }>()
const ws = useWorkspace()
const router = useRouter()
const docs = computed(() => ws.data?.docs ?? [])
function free(text: string, taken: (t: string) => boolean, next: (n: number) => string) {
  let out = text
  for (let n = 2; taken(out); n++) out = next(n)
  return out
}
const title = ref(`${props.screen.title}, assembled`)
const base = (props.screen.route ?? '/').replace(/\/$/, '') || '/start'
const route = ref(
  free(
    `/new${base}`,
    t => docs.value.some(d => d.route === t),
    n => `/new-${n}${base}`,
  ),
)
const id = computed(() =>
  free(
    slug(title.value, 40) || 'screen',
    t => docs.value.some(d => d.kind === 'screen' && d.id === t),
    n => `${slug(title.value, 40) || 'screen'}-${n}`,
  ),
)
const told = shallowRef<Schemas['ApiAssembleOut']>()
const error = ref('')
const busy = ref(false)
const body = () => ({ id: id.value, title: title.value, route: route.value })
const asked = refDebounced(
  computed(() => JSON.stringify(body())),
  250,
)
const path = { path: { id: props.screen.id } }
watch(
  asked,
  async now => {
    try {
      const out = await ask(
        POST('/api/screens/{id}/assemble', {
          params: path,
          body: { ...body(), preview: true },
        }),
      )
      if (now === asked.value) [told.value, error.value] = [out, '']
    } catch (e) {
      if (now === asked.value) error.value = (e as Error).message
    }
  },
  { immediate: true },
)
async function make() {
  busy.value = true
  try {
    const made = id.value
    const out = await ask(
      POST('/api/screens/{id}/assemble', { params: path, body: { ...body(), client: clientId } }),
    )
    if (out.change) ws.note(out.change)
    await ws.load()
    emit('close')
    await router.push(`/bench/screen/${made}`)
    ws.say(
      out.left.length
        ? `Assembled; ${out.left.length} things stand otherwise than in code. Undo takes it back.`
        : 'Assembled; everything came along.',
    )
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <AppDialog title="Assemble this screen here" wide @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="make">
      <p class="text-ink2">
        A screen of its own is made of what stands in {{ screen.source }}. The code stays as it is.
      </p>
      <div class="grid grid-cols-2 gap-3 max-md:grid-cols-1">
        <label class="grid gap-1"
          >Title<input v-model="title" class="input" maxlength="120"
        /></label>
        <label class="grid gap-1"
          >Route<input v-model="route" class="input font-mono" maxlength="200"
        /></label>
      </div>
      <p v-if="error" role="alert" class="bg-rustwash p-2 text-rust">{{ error }}</p>
      <template v-else-if="told">
        <p role="status">
          {{ told.elements }} elements come along.
          <template v-if="told.lists.length"
            >Records are made up for {{ told.lists.join(', ') }}, with the fields that the code
            shows.</template
          >
          {{
            told.left.length
              ? `${told.left.length} things will stand otherwise than in code:`
              : 'Nothing is left out.'
          }}
        </p>
        <div
          v-if="told.left.length"
          class="max-h-[36vh] overflow-auto border border-line"
          tabindex="0"
          role="region"
          aria-label="What will stand otherwise"
        >
          <table class="w-full border-collapse text-left">
            <thead>
              <tr class="sticky top-0 bg-ground text-ink2">
                <th class="px-2 py-1 font-normal">Element</th>
                <th class="px-2 py-1 font-normal">In code</th>
                <th class="px-2 py-1 font-normal">Here</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(l, i) in told.left" :key="i" class="border-t border-line align-top">
                <td class="px-2 py-1 whitespace-nowrap">
                  {{ l.title }} <span class="text-ink2">{{ l.what }}</span>
                </td>
                <td class="px-2 py-1 font-mono text-xs break-all">{{ l.source }}</td>
                <td class="px-2 py-1">{{ l.why }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn" @click="$emit('close')">Leave it</button
        ><button class="btn btn-main" :disabled="!told || !!error || busy || !title.trim()">
          Assemble it
        </button>
      </div>
    </form>
  </AppDialog>
</template>
