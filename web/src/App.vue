<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { Moon, Search, Sun } from '@lucide/vue'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import FindAnything from './ui/FindAnything.vue'
import KeysHelp from './ui/KeysHelp.vue'
import PersonMenu from './ui/PersonMenu.vue'
import { keepFocus } from './use/focus'
import { typing } from './use/keys'
import { useWorkspace } from './use/workspace'

const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const finding = ref(false)
const helping = ref(false)

const firstScreen = computed(() => ws.screens[0])
const bench = ref('')
watch(
  () => route.fullPath,
  p => {
    if (route.name === 'bench') bench.value = p
  },
)
const places = computed(() => [
  { name: 'overview', label: 'Overview', to: '/' },
  { name: 'shelf', label: 'Shelf', to: '/shelf' },
  {
    name: 'bench',
    label: 'Bench',
    to: bench.value || (firstScreen.value ? `/bench/screen/${firstScreen.value.id}` : '/'),
  },
  { name: 'samples', label: 'Samples', to: '/samples' },
  { name: 'census', label: 'Census', to: '/census' },
  { name: 'intake', label: 'Intake', to: '/intake' },
  { name: 'deliver', label: 'Deliver', to: '/deliver' },
])
const place = computed(() =>
  route.name === 'component' ? 'shelf' : route.name === 'picture' ? 'bench' : route.name,
)
const subject = computed(() => {
  if (place.value !== 'bench') return ''
  const kind = route.params.kind ?? 'screen'
  return ws.data?.docs.find(d => d.kind === kind && d.id === route.params.id)?.title ?? ''
})

watch(
  () => ws.signedOut,
  out => {
    if (out && route.name !== 'sign-in')
      void router.replace({ name: 'sign-in', query: { to: route.fullPath } })
  },
)
watch(
  [subject, place],
  () => {
    document.title = [
      subject.value ||
        places.value.find(p => p.name === place.value)?.label ||
        (place.value === 'people' && 'People'),
      ws.data?.name,
      'Ubiquant',
    ]
      .filter(Boolean)
      .join(' · ')
  },
  { immediate: true },
)
onBeforeUnmount(keepFocus())
onMounted(async () => {
  await router.isReady()
  if (route.name !== 'sign-in') {
    await ws.load()
    if (ws.data) ws.listen()
  }
})
watch(
  () => ws.data,
  (d, was) => {
    if (d) ws.listen()
    if (d && d.me.name !== was?.me.name) void ws.remember()
  },
)

onKeyStroke('k', e => {
  if (e.ctrlKey || e.metaKey) {
    e.preventDefault()
    finding.value = true
  }
})
// The Bench has undo of its own, which shows what it takes back.
onKeyStroke(['z', 'Z'], async e => {
  if (!(e.ctrlKey || e.metaKey) || typing(e) || place.value === 'bench') return
  e.preventDefault()
  const last = (e.shiftKey ? ws.undone : ws.done).at(-1)
  try {
    if (!(await (e.shiftKey ? ws.redo() : ws.undo()))) return
    await ws.load()
    ws.say(`${e.shiftKey ? 'Brought back' : 'Taken back'}: ${last?.title}`)
  } catch (err) {
    ws.say((err as Error).message)
  }
})
onKeyStroke('?', e => {
  if (!typing(e)) {
    e.preventDefault()
    helping.value = true
  }
})
</script>

<template>
  <div class="flex h-full flex-col">
    <a
      href="#place"
      class="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2"
      >To the working surface</a
    >
    <header
      v-if="route.name !== 'sign-in'"
      class="flex h-10 shrink-0 items-center gap-4 border-b border-line px-3"
    >
      <RouterLink
        to="/"
        class="flex items-center gap-2 font-bold"
        aria-label="Ubiquant, to the overview"
      >
        <svg viewBox="0 0 16 16" class="size-4 text-moss" aria-hidden="true">
          <g fill="currentColor">
            <rect x="0" y="1" width="11" height="3" />
            <rect x="0" y="6.5" width="11" height="3" />
            <rect x="5" y="12" width="11" height="3" />
          </g>
        </svg>
        <span class="max-sm:hidden">{{ ws.data?.name ?? 'Ubiquant' }}</span>
      </RouterLink>
      <span v-if="subject" class="-ml-2 truncate text-ink2 max-md:hidden">▸ {{ subject }}</span>
      <nav
        class="flex h-full min-w-0 flex-1 items-stretch gap-1 overflow-x-auto"
        aria-label="Places"
      >
        <RouterLink
          v-for="p in places"
          :key="p.name"
          :to="p.to"
          class="flex items-center border-b-2 px-2 hover:bg-wash"
          :class="place === p.name ? 'border-moss font-semibold' : 'border-transparent text-ink2'"
          :aria-current="place === p.name ? 'page' : undefined"
        >
          {{ p.label
          }}<span
            v-if="p.name === 'census' && ws.data?.questions"
            class="ml-1.5 text-xs text-slate"
            :title="`${ws.data.questions} open questions`"
            >{{ ws.data.questions }}</span
          >
        </RouterLink>
      </nav>
      <button class="btn text-ink2" @click="finding = true">
        <Search :size="13" aria-hidden="true" /><span class="max-md:hidden">Find anything</span
        ><kbd class="kbd max-md:hidden">Ctrl K</kbd>
      </button>
      <button
        class="btn btn-bare px-1.5"
        :aria-label="ws.mode === 'dark' ? 'Light theme' : 'Dark theme'"
        @click="ws.mode = ws.mode === 'dark' ? 'light' : 'dark'"
      >
        <Sun v-if="ws.mode === 'dark'" :size="15" aria-hidden="true" /><Moon
          v-else
          :size="15"
          aria-hidden="true"
        />
      </button>
      <PersonMenu />
    </header>
    <p v-if="!ws.connected" role="alert" class="bg-rustwash px-3 py-1 text-rust">
      The connection is gone. What you type is kept; editing goes on when it is back.
    </p>
    <p v-if="ws.failure" role="alert" class="bg-rustwash px-3 py-1 text-rust">
      {{ ws.failure }} <button class="underline" @click="ws.load()">Try again</button>
    </p>
    <main id="place" class="min-h-0 flex-1" tabindex="-1">
      <RouterView
        v-if="ws.data || route.name === 'sign-in'"
        :key="route.name === 'bench' ? 'bench' : String(route.name)"
      />
      <div v-else class="p-6 text-ink2" role="status">Opening the workspace …</div>
    </main>
    <div
      aria-live="polite"
      class="pointer-events-none fixed bottom-3 left-1/2 z-40 -translate-x-1/2"
    >
      <p v-if="ws.notice" class="border border-ink bg-ink px-3 py-1.5 text-ground">
        {{ ws.notice }}
      </p>
    </div>
    <FindAnything v-if="finding" @close="finding = false" />
    <KeysHelp v-if="helping" @close="helping = false" />
  </div>
</template>
