<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask, GET } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { shellsFor } from '../../use/shells'
import { freeSlug } from '../../use/slug'
import { useWorkspace } from '../../use/workspace'

/** A shell begun: with nothing but the place for its screens, or as another one is. */
const emit = defineEmits<{ close: [] }>()
const ws = useWorkspace()
const router = useRouter()
const title = ref('')
const as = ref('')
const around = ref('')
const error = ref('')
const busy = ref(false)
const shells = computed(() => shellsFor(ws.data?.docs ?? []))

async function create() {
  busy.value = true
  error.value = ''
  const id = freeSlug(title.value, 'shell', ws.data?.docs.map(d => d.id) ?? [])
  try {
    let root: unknown = {
      id: 'root',
      type: 'stack',
      children: [{ id: 'outlet', type: 'outlet' }],
    }
    let inside = around.value
    if (as.value) {
      const path = { kind: 'shell', id: as.value }
      const other = await ask(GET('/api/docs/{kind}/{id}', { params: { path } }))
      root = other.root
      inside = shells.value.find(s => s.id === as.value)?.shell ?? ''
    }
    await ws.take({
      title: `New shell ${title.value}`,
      steps: [
        {
          do: 'create',
          kind: 'shell',
          document: {
            id,
            title: title.value.trim(),
            application: ws.data?.apps[0]?.id,
            shell: inside,
            owner: ws.data?.me.name,
            root,
          },
        },
      ],
    })
    await ws.load()
    emit('close')
    await router.push(`/bench/shell/${id}`)
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <AppDialog title="New shell" @close="$emit('close')">
    <form class="grid gap-3" @submit.prevent="create()">
      <label
        ><span class="label mb-1 block">Title</span
        ><input v-model="title" class="input w-full" required maxlength="60" autofocus
      /></label>
      <label
        ><span class="label mb-1 block">Begins</span
        ><select v-model="as" class="input w-full">
          <option value="">with nothing but the place for its screens</option>
          <option v-for="s in shells" :key="s.id" :value="s.id">as {{ s.title }} is</option>
        </select></label
      >
      <label v-if="!as && shells.length"
        ><span class="label mb-1 block">In the shell</span
        ><select v-model="around" class="input w-full">
          <option value="">None</option>
          <option v-for="s in shells" :key="s.id" :value="s.id">{{ s.title }}</option>
        </select></label
      >
      <p class="text-ink2">
        What already stands around a part of a screen becomes a shell on the Bench: choose the part,
        then <span class="font-semibold">Shell of the rest …</span>.
      </p>
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="$emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="busy || !title.trim()">Create</button>
      </div>
    </form>
  </AppDialog>
</template>
