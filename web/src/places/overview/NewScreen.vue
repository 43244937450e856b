<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import AppDialog from '../../ui/AppDialog.vue'
import { shellsFor } from '../../use/shells'
import { freeSlug, slug } from '../../use/slug'
import { useWorkspace } from '../../use/workspace'

const emit = defineEmits<{ close: [] }>()
const ws = useWorkspace()
const router = useRouter()
const title = ref('')
const route = ref('')
const touched = ref(false)
const shells = computed(() => shellsFor(ws.data?.docs ?? []))
const shell = ref(shells.value[0]?.id ?? '')
const app = ref(ws.data?.apps[0]?.id ?? '')
const error = ref('')
const busy = ref(false)
const base = computed(() => slug(title.value))
watch(base, s => {
  if (!touched.value) route.value = s ? '/' + s : ''
})

/** Made empty, or to be planned from a picture. */
async function create(picture = false) {
  busy.value = true
  error.value = ''
  const id = freeSlug(title.value, 'screen', ws.data?.docs.map(d => d.id) ?? [])
  try {
    // It starts as the team's screens do: one section with the norm's settings, marked as filled in.
    const preset = ws.data?.rootPreset ?? {}
    const root = { id: 'root', type: 'section', props: preset, filled: Object.keys(preset) }
    await ws.take({
      title: `New screen ${title.value}`,
      steps: [
        {
          do: 'create',
          kind: 'screen',
          document: {
            id,
            title: title.value,
            route: route.value,
            application: app.value,
            shell: shell.value,
            owner: ws.data?.me.name,
            root,
          },
        },
      ],
    })
    await ws.load()
    emit('close')
    await router.push(`/bench/screen/${id}${picture ? '/picture' : '#root'}`)
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <AppDialog title="New screen" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="create()">
      <label
        ><span class="label mb-1 block">Title</span
        ><input v-model="title" class="input w-full" required autofocus
      /></label>
      <label
        ><span class="label mb-1 block">Route</span
        ><input
          v-model="route"
          class="input w-full font-mono"
          required
          pattern="/.*"
          @input="touched = true"
      /></label>
      <label
        ><span class="label mb-1 block">Shell</span
        ><select v-model="shell" class="input w-full">
          <option v-for="s in shells" :key="s.id" :value="s.id">{{ s.title }}</option>
          <option value="">None</option>
        </select></label
      >
      <label v-if="(ws.data?.apps.length ?? 0) > 1"
        ><span class="label mb-1 block">Application</span
        ><select v-model="app" class="input w-full">
          <option v-for="a in ws.data?.apps" :key="a.id" :value="a.id">{{ a.name }}</option>
        </select></label
      >
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="$emit('close')">Cancel</button
        ><button
          type="button"
          class="btn"
          :disabled="busy || !title.trim() || !route.startsWith('/')"
          @click="create(true)"
        >
          From a picture
        </button>
        <button class="btn btn-main" :disabled="busy || !title.trim()">Create</button>
      </div>
    </form>
  </AppDialog>
</template>
