<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { Ellipsis } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { DocHead } from '../../api/client'
import { ask, clientId, POST } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { metaStep, shellsFor } from '../../use/shells'
import { useWorkspace } from '../../use/workspace'

/** What is done to a screen or a shell as a whole. */
const props = defineProps<{ head: DocHead }>()
defineEmits<{ fill: [] }>()
const ws = useWorkspace()
const editing = ref(false)
const error = ref('')
const form = ref({ title: '', route: '', owner: '', shell: '' })
const isShell = computed(() => props.head.kind === 'shell')
const shells = computed(() => shellsFor(ws.data?.docs ?? [], props.head))

function rename() {
  form.value = {
    title: props.head.title,
    route: props.head.route ?? '',
    owner: props.head.owner ?? '',
    shell: props.head.shell ?? '',
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
const doc = () => `${props.head.kind}:${props.head.id}`
const save = () =>
  attempt(() =>
    ws.take({
      title:
        form.value.title === props.head.title
          ? `${props.head.title}: what is said of it`
          : `Rename to ${form.value.title}`,
      steps: [metaStep(props.head, form.value)],
    }),
  )
const remove = () =>
  attempt(async () => {
    await ws.take({ title: `Remove ${props.head.title}`, steps: [{ do: 'remove', doc: doc() }] })
    ws.say(`${props.head.title} is removed; it can be restored below.`)
  })
const sign = () =>
  attempt(async () => {
    ws.note(
      await ask(
        POST('/api/sign-off', {
          body: { docs: [doc()], drop: !!props.head.signed, client: clientId },
        }),
      ),
    )
    ws.say(`${props.head.title} is ${props.head.signed ? 'no longer ' : ''}signed off.`)
  })
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="btn btn-bare h-5 px-1" :aria-label="`More for ${head.title}`"
      ><Ellipsis :size="14" aria-hidden="true"
    /></MenuButton>
    <MenuItems class="absolute right-0 z-30 mt-1 w-44 border border-ink bg-sheet py-1">
      <MenuItem v-slot="{ active }"
        ><button
          class="block w-full px-3 py-1 text-left"
          :class="{ 'bg-wash': active }"
          @click="rename"
        >
          {{ isShell ? 'Rename, owner …' : 'Rename, route, shell …' }}
        </button></MenuItem
      >
      <MenuItem v-if="isShell" v-slot="{ active }"
        ><button
          class="block w-full px-3 py-1 text-left"
          :class="{ 'bg-wash': active }"
          @click="$emit('fill')"
        >
          Screens in it …
        </button></MenuItem
      >
      <MenuItem v-else v-slot="{ active }"
        ><button
          class="block w-full px-3 py-1 text-left"
          :class="{ 'bg-wash': active }"
          @click="sign"
        >
          {{ head.signed ? 'No longer signed off' : 'Sign off' }}
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
  <AppDialog v-if="editing" :title="head.title" @close="editing = false">
    <form class="grid gap-3" @submit.prevent="save">
      <label
        ><span class="label mb-1 block">Title</span
        ><input v-model="form.title" class="input w-full" required
      /></label>
      <label v-if="!isShell"
        ><span class="label mb-1 block">Route</span
        ><input v-model="form.route" class="input w-full font-mono" required
      /></label>
      <label
        ><span class="label mb-1 block">{{ isShell ? 'In the shell' : 'Shell' }}</span
        ><select v-model="form.shell" class="input w-full">
          <option v-for="s in shells" :key="s.id" :value="s.id">{{ s.title }}</option>
          <option value="">None</option>
        </select></label
      >
      <label
        ><span class="label mb-1 block">Owner</span
        ><select v-model="form.owner" class="input w-full">
          <option v-if="!form.owner" value="">Nobody</option>
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
