<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { ask, POST } from '../api/client'
import { useWorkspace } from '../use/workspace'

const ws = useWorkspace()
const router = useRouter()
const initials = computed(() =>
  (ws.data?.me.fullName ?? '')
    .split(' ')
    .map(w => w[0])
    .slice(0, 2)
    .join(''),
)
async function leave() {
  await ask(POST('/api/sign-out'))
  ws.data = undefined
  await router.push('/sign-in')
}
</script>

<template>
  <Menu v-if="ws.data" as="div" class="relative">
    <MenuButton
      class="grid size-7 place-items-center border border-line bg-mosswash text-xs font-semibold text-moss"
      :aria-label="`${ws.data.me.fullName}, ${ws.data.me.role}`"
      >{{ initials }}</MenuButton
    >
    <MenuItems class="absolute right-0 z-30 mt-1 w-56 border border-ink bg-sheet py-1">
      <div class="px-3 py-1">
        <b>{{ ws.data.me.fullName }}</b><br /><span class="text-ink2"
          >{{ ws.data.me.role }} · kit {{ ws.data.kit }}
          {{ ws.data.kitVersion.split('+')[0] }}</span
        >
      </div>
      <MenuItem v-slot="{ active }"
        ><RouterLink to="/people" class="block px-3 py-1" :class="{ 'bg-wash': active }"
          >People and password</RouterLink
        ></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><a href="/api/export" class="block px-3 py-1" :class="{ 'bg-wash': active }"
          >Take the workspace away</a
        ></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button
          class="block w-full px-3 py-1 text-left"
          :class="{ 'bg-wash': active }"
          @click="leave"
        >
          Sign out
        </button></MenuItem
      >
    </MenuItems>
  </Menu>
</template>
