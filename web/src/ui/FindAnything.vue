<script setup lang="ts">
import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
} from '@headlessui/vue'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ask, GET, type Schemas } from '../api/client'
import { useGiveBack } from '../use/focus'
import { useWorkspace } from '../use/workspace'

type Match = Pick<Schemas['FindMatch'], 'kind' | 'id' | 'title' | 'hint' | 'why'>
useGiveBack()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const ws = useWorkspace()
const query = ref('')
// What is listed belongs to one query: nothing changes places under the hand.
const answer = shallowRef<{ query: string; matches: Match[] }>({ query: '', matches: [] })

const commands: { title: string; words: string; run: () => unknown }[] = [
  { title: 'New screen', words: 'create add screen', run: () => router.push('/?new=1') },
  {
    title: 'Switch light and dark',
    words: 'theme mode',
    run: () => {
      ws.mode = ws.mode === 'dark' ? 'light' : 'dark'
    },
  },
  {
    title: 'Open questions',
    words: 'census settle disagree',
    run: () => router.push('/census/questions'),
  },
  { title: 'Strays', words: 'census depart', run: () => router.push('/census/strays') },
  { title: 'House rules', words: 'census catalogue', run: () => router.push('/census/rules') },
  {
    title: 'Texts and languages',
    words: 'translate translation words i18n',
    run: () => router.push('/texts'),
  },
  { title: 'Deliver as Vue', words: 'code export', run: () => router.push('/deliver') },
]
const found = computed<Match[]>(() => {
  const { query: asked, matches } = answer.value
  const typed = asked.trim().toLowerCase()
  const words = typed.split(/\s+/).filter(Boolean)
  const own = commands
    .filter(c => words.every(w => (c.title + ' ' + c.words).toLowerCase().includes(w)))
    .map(c => ({ kind: 'command', id: c.title, title: c.title, hint: '', why: '' }))
  // A command that is being typed out is meant; others come after what was found.
  const meant = own.filter(c => c.title.toLowerCase().startsWith(typed))
  return [...meant, ...matches.slice(0, 30), ...own.filter(c => !meant.includes(c))]
})

let latest = 0
async function search() {
  const mine = ++latest
  const asked = query.value
  const out = await ask(GET('/api/find', { params: { query: { q: asked } } }))
  if (mine === latest) answer.value = { query: asked, matches: out.matches }
}
watch(query, search)
onMounted(search)

/** Enter takes the first of what was found, where none was walked to. */
function enter(e: KeyboardEvent) {
  const first = found.value[0]
  if (
    !first ||
    answer.value.query !== query.value ||
    document.querySelector('[role=option][data-headlessui-state*=active]')
  )
    return
  e.preventDefault()
  e.stopPropagation()
  open(first)
}
function open(m: Match | null) {
  if (!m) return
  emit('close')
  const doc = (key: string) => {
    const [where, el] = key.split('#')
    return `/bench/${where!.replace(':', '/')}${el ? '#' + el : ''}`
  }
  switch (m.kind) {
    case 'command':
      commands.find(c => c.title === m.id)?.run()
      break
    case 'component':
      void router.push(`/shelf/${m.id}`)
      break
    case 'icon':
      void router.push(`/shelf?sheet=icons&q=${encodeURIComponent(m.id)}`)
      break
    case 'token':
      void router.push('/shelf?sheet=tokens')
      break
    case 'element':
      void router.push(doc(m.id))
      break
    case 'finding':
      void router.push(doc(m.hint ?? ''))
      break
    default:
      void router.push(doc(m.id))
  }
}
</script>

<template>
  <Dialog open class="relative z-50" @close="$emit('close')">
    <div class="fixed inset-0 bg-veil" aria-hidden="true"></div>
    <div class="fixed inset-0 flex items-start justify-center p-4 pt-[10vh]">
      <DialogPanel class="w-full max-w-xl border border-ink bg-sheet">
        <Combobox :model-value="null" @update:model-value="open">
          <ComboboxInput
            class="h-10 w-full bg-transparent px-3 text-lg outline-none"
            aria-label="Find anything"
            placeholder="Screen, component, element, finding, command"
            @change="query = $event.target.value"
            @keydown.enter.capture="enter"
          />
          <ComboboxOptions
            static
            :aria-busy="answer.query !== query"
            class="max-h-[55vh] overflow-auto border-t border-line"
          >
            <ComboboxOption v-for="m in found" :key="m.kind + m.id" v-slot="{ active }" :value="m">
              <div
                class="grid cursor-pointer grid-cols-[84px_1fr] gap-x-3 px-3 py-1"
                :class="{ 'bg-mosswash': active }"
              >
                <span class="text-ink2">{{ m.kind }}</span>
                <span class="min-w-0"
                  ><span class="block truncate">{{ m.title || m.id }}</span
                  ><span class="block truncate text-xs text-ink2">{{ m.why || m.hint }}</span></span
                >
              </div>
            </ComboboxOption>
            <li v-if="!found.length" class="px-3 py-2 text-ink2">
              Nothing found for “{{ answer.query }}”.
            </li>
          </ComboboxOptions>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
