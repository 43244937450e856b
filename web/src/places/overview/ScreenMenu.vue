<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { Ellipsis } from '@lucide/vue'
import { ref } from 'vue'
import type { DocHead } from '../../api/client'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'

const props = defineProps<{ screen: DocHead }>()
const ws = useWorkspace()
const editing = ref(false)
const error = ref('')
const form = ref({ title: '', route: '', owner: '', shell: '' })

function rename() {
  form.value = {
    title: props.screen.title,
    route: props.screen.route ?? '',
    owner: props.screen.owner ?? '',
    shell: props.screen.shell ?? '',
  }
  error.value = ''
  editing.value = true
}
async function attempt(what: () => Promise<unknown>) {
  try {
    await what()
    await ws.load()
    editing.value = false
  } catch (e) {
    error.value = (e as Error).message
    ws.say(error.value)
  }
}
const doc = () => 'screen:' + props.screen.id
const save = () =>
  attempt(() =>
    ws.take({
      title: `Rename to ${form.value.title}`,
      steps: [
        {
          do: 'meta',
          doc: doc(),
          kind: 'screen',
          document: { id: props.screen.id, ...form.value, root: { id: 'unused', type: 'section' } },
        },
      ],
    }),
  )
const remove = () =>
  attempt(async () => {
    await ws.take({ title: `Remove ${props.screen.title}`, steps: [{ do: 'remove', doc: doc() }] })
    ws.say(`${props.screen.title} is removed; it can be restored below.`)
  })
const sign = () =>
  attempt(async () => {
    ws.note(
      await ask(
        POST('/api/sign-off', {
          body: { docs: [doc()], drop: !!props.screen.signed, client: clientId },
        }),
      ),
    )
    ws.say(`${props.screen.title} is ${props.screen.signed ? 'no longer ' : ''}signed off.`)
  })
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="btn btn-bare h-5 px-1" :aria-label="`More for ${screen.title}`"
      ><Ellipsis :size="14" aria-hidden="true"
    /></MenuButton>
    <MenuItems class="absolute right-0 z-30 mt-1 w-40 border border-ink bg-sheet py-1">
      <MenuItem v-slot="{ active }"
        ><button
          class="block w-full px-3 py-1 text-left"
          :class="{ 'bg-wash': active }"
          @click="rename"
        >
          Rename, route …
        </button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button
          class="block w-full px-3 py-1 text-left"
          :class="{ 'bg-wash': active }"
          @click="sign"
        >
          {{ screen.signed ? 'No longer signed off' : 'Sign off' }}
        </button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button
          class="block w-full px-3 py-1 text-left text-rust"
          :class="{ 'bg-wash': active }"
          @click="remove"
        >
          Remove
        </button></MenuItem
      >
    </MenuItems>
  </Menu>
  <AppDialog v-if="editing" :title="screen.title" @close="editing = false">
    <form class="grid gap-3" @submit.prevent="save">
      <label
        ><span class="label mb-1 block">Title</span
        ><input v-model="form.title" class="input w-full" required
      /></label>
      <label
        ><span class="label mb-1 block">Route</span
        ><input v-model="form.route" class="input w-full font-mono" required
      /></label>
      <label
        ><span class="label mb-1 block">Owner</span
        ><select v-model="form.owner" class="input w-full">
          <option v-for="(full, name) in ws.data?.owners" :key="name" :value="name">
            {{ full }}
          </option>
        </select></label
      >
      <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="editing = false">Cancel</button
        ><button class="btn btn-main">Save</button>
      </div>
    </form>
  </AppDialog>
</template>
