<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, clientId, GET, POST, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import BatchReport from './BatchReport.vue'
import BatchWall from './BatchWall.vue'
import BesidePart from './BesidePart.vue'
import CarryOver from './CarryOver.vue'
import FetchLibrary from './FetchLibrary.vue'
import { useFetching } from './fetching'
import { drawn, kindWords, published, size, type Batch, type KitView } from './intake'

/** Kits as their makers publish them: reviewed, taken, or left. */
const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const kits = ref<KitView[]>([])
const batch = ref<Batch>()
const error = ref('')
const busy = ref('')
const file = ref<HTMLInputElement>()
const fetches = ref(false)
const keeper = computed(() => ws.data?.me.role === 'keeper')
const views = [
  { id: 'components', label: 'Components' },
  { id: 'beside', label: 'Beside the kit' },
  { id: 'carry', label: 'Screens carried over' },
  { id: 'report', label: 'What was read' },
] as const
const asked = computed(() => String(route.query.view ?? 'components'))
/** The views that say something of this batch. */
const offered = computed(() => {
  const { state, kind } = batch.value?.kit ?? { state: '', kind: '' }
  const other = kind === 'another' || kind === 'part'
  return views.filter(
    v =>
      (v.id !== 'carry' || (state !== 'in use' && state !== 'beside')) &&
      (v.id !== 'beside' || other),
  )
})
const view = computed(() =>
  offered.value.some(v => v.id === asked.value) ? asked.value : 'components',
)
const hash = computed(() => String(route.params.hash ?? ''))
const without = ref(new Set<string>())
const took = ref<{ seq: number; title: string }>()

async function load() {
  kits.value = (await ask(GET('/api/kits'))).kits
  // What waits is what somebody comes for.
  const waits = kits.value.filter(k => k.state === 'waits')
  const first = waits.find(k => k.kind === 'version') ?? waits[0] ?? kits.value[0]
  if (!hash.value && first) await router.replace(`/intake/${first.hash}`)
}
void load()
watch(
  [hash, () => ws.data?.kitVersion],
  async ([now], before) => {
    if (now !== before?.[0]) {
      batch.value = undefined
      without.value = new Set()
    }
    if (!now) return
    error.value = ''
    try {
      await load()
      const answer = await ask(GET('/api/kits/{hash}', { params: { path: { hash: now } } }))
      if (now === hash.value) batch.value = answer // somebody may have gone on meanwhile
    } catch (e) {
      if (now === hash.value) error.value = (e as Error).message
    }
  },
  { immediate: true },
)

async function upload(list: FileList | null | undefined) {
  const chosen = list?.[0]
  if (!chosen) return
  busy.value = `Bringing in ${chosen.name} (${size(chosen.size)})`
  error.value = ''
  try {
    const answer = await fetch('/api/kits', {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: chosen,
    })
    const said = (await answer.json()) as { hash?: string; title?: string; detail?: string }
    if (!answer.ok)
      throw new Error(`${chosen.name}: ${said.detail ?? said.title ?? answer.statusText}`)
    await load()
    await router.push(`/intake/${said.hash}`)
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = ''
    if (file.value) file.value.value = ''
  }
}

async function look(at: string) {
  fetches.value = false
  await router.push(`/intake/${at}`)
}
/** A library was fetched: it is looked at next, unless somebody went on meanwhile. */
const door = useFetching(async is => {
  await load()
  if (is.state === 'done' && fetches.value) await look(is.hash)
  if (is.state === 'failed' && !fetches.value)
    error.value = `${is.package} could not be brought in: ${is.why}`
})
void door.load()
const { now: fetching, running: fetchRuns } = door

async function take() {
  if (!batch.value) return
  const { title, kit } = batch.value
  busy.value = `Taking ${title} ${kit.version}`
  error.value = ''
  try {
    const out = await ask(
      POST('/api/kits/{hash}/take', {
        params: { path: { hash: kit.hash } },
        body: { without: [...without.value], client: clientId },
      }),
    )
    await noted(out)
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = ''
  }
}

/** Something was taken: it can be taken back, and everything is looked at anew. */
async function noted(out: Schemas['ApiChangeOut']) {
  ws.note(out)
  took.value = { seq: out.seq, title: out.title }
  await again()
}

/** Everything that stands on the kit, anew. */
async function again() {
  await ws.load()
  await load()
  const path = { hash: hash.value }
  const answer = await ask(GET('/api/kits/{hash}', { params: { path } }))
  if (path.hash === hash.value) batch.value = answer
}

async function takeBack() {
  if (!took.value) return
  busy.value = 'Taking it back'
  try {
    await ws.takeBack(took.value.seq, took.value.title)
    took.value = undefined
    await again()
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = ''
  }
}

async function leave(back: boolean) {
  if (!batch.value) return
  try {
    await ask(
      POST('/api/kits/{hash}/leave', {
        params: { path: { hash: batch.value.kit.hash } },
        body: { back },
      }),
    )
    await load()
    batch.value.kit.state = back ? 'waits' : 'left'
  } catch (e) {
    error.value = (e as Error).message
  }
}

function toggle(tag: string) {
  const next = new Set(without.value)
  if (!next.delete(tag)) next.add(tag)
  without.value = next
}
const taken = computed(
  () => (batch.value?.entries.filter(e => e.change !== 'gone').length ?? 0) - without.value.size,
)
</script>

<template>
  <div
    class="flex h-full flex-col md:flex-row"
    @dragover.prevent
    @drop.prevent="upload($event.dataTransfer?.files)"
  >
    <aside class="shrink-0 overflow-auto border-line p-3 max-md:border-b md:w-64 md:border-r">
      <h1 class="text-xl">Intake</h1>
      <p class="mt-1 text-ink2">Kits as their makers publish them.</p>
      <ul class="mt-3 grid gap-1" aria-label="Kits">
        <li v-for="k in kits" :key="k.hash">
          <RouterLink
            :to="`/intake/${k.hash}`"
            class="block border px-2 py-1 hover:border-ink"
            :class="k.hash === hash ? 'border-moss' : 'border-transparent'"
            :aria-current="k.hash === hash ? 'page' : undefined"
          >
            <span class="flex items-baseline gap-2"
              ><b class="truncate">{{ k.name }}</b
              ><span class="ml-auto shrink-0 text-xs text-ink2">{{
                published(k.version)
              }}</span></span
            >
            <span
              class="block truncate text-xs"
              :class="k.state === 'waits' ? 'text-slate' : 'text-ink2'"
              >{{ kindWords(k) }} · {{ drawn[k.drawn] }} · {{ k.components }}</span
            >
          </RouterLink>
        </li>
      </ul>
      <template v-if="ws.data?.me.role !== 'reader'">
        <button class="btn mt-3 w-full" :disabled="!!busy" @click="fetches = true">
          Fetch a library
        </button>
        <button class="btn mt-2 w-full" :disabled="!!busy" @click="file?.click()">
          Bring in a packed kit
        </button>
        <input
          ref="file"
          type="file"
          accept=".kit,.zip"
          class="sr-only"
          tabindex="-1"
          aria-label="Packed kit"
          @change="upload(($event.target as HTMLInputElement).files)"
        />
        <p class="mt-2 text-xs text-ink2">
          Of a library that no registry has: in the repository where the library is installed, run
          <code class="block bg-sheet p-1">ubiquant intake PACKAGE</code>
          and bring in the file that it writes, or drop it here.
        </p>
      </template>
    </aside>
    <section class="flex min-w-0 flex-1 flex-col overflow-hidden" aria-label="Batch">
      <p v-if="fetchRuns && !fetches" role="status" class="bg-slatewash px-4 py-1 text-slate">
        Fetching {{ fetching?.package }} for {{ fetching?.by }} …
      </p>
      <p v-if="busy" role="status" class="bg-slatewash px-4 py-1 text-slate">{{ busy }} …</p>
      <p v-if="error" role="alert" class="bg-rustwash px-4 py-1 text-rust">{{ error }}</p>
      <template v-if="batch">
        <header class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-4 py-2">
          <h2 class="text-xl">
            {{ batch.title }}
            <span class="text-base font-normal text-ink2">{{ published(batch.kit.version) }}</span>
          </h2>
          <span class="text-ink2"
            >{{ drawn[batch.kit.drawn]
            }}{{ batch.meta.framework ? ` (${batch.meta.framework})` : '' }},
            {{ batch.kit.components }}
            {{ batch.kit.components === 1 ? 'component' : 'components' }},
            {{ size(batch.kit.bytes) }}, brought in by {{ batch.kit.by }}</span
          >
          <span
            v-if="batch.parts.length && ['this', 'version'].includes(batch.kit.kind)"
            class="text-slate"
            >with {{ batch.parts.map(p => `${p.title} ${p.version}`).join(', ') }} beside it</span
          >
          <span class="ml-auto flex gap-2">
            <a
              class="btn btn-bare"
              :href="`/api/kits/${batch.kit.hash}/file`"
              download
              title="The packed kit as a file, for audits and deliveries without this server"
              >Take away</a
            >
            <template v-if="batch.kit.state === 'beside'">
              <span class="self-center text-moss">stands beside {{ ws.data?.kit }}</span>
            </template>
            <button
              v-if="took && batch.kit.state !== 'in use'"
              class="btn"
              :disabled="!!busy"
              :title="`Undo: ${took.title}`"
              @click="takeBack"
            >
              Undo
            </button>
            <template v-if="batch.kit.state !== 'in use' && batch.kit.state !== 'beside' && keeper">
              <button
                class="btn btn-bare"
                :disabled="!!busy"
                @click="leave(batch.kit.state === 'left')"
              >
                {{ batch.kit.state === 'left' ? 'Take up again' : 'Leave' }}
              </button>
              <button
                v-if="view !== 'beside'"
                class="btn btn-main"
                :disabled="!!busy"
                @click="take"
              >
                {{ without.size ? `Take with ${taken} of ${taken + without.size}` : 'Take it' }}
              </button>
            </template>
            <template v-else-if="batch.kit.state === 'in use'">
              <span class="self-center text-moss">in use here</span>
              <button
                v-if="took"
                class="btn"
                :disabled="!!busy"
                :title="`Undo: ${took.title}`"
                @click="takeBack"
              >
                Undo
              </button>
            </template>
          </span>
          <nav class="flex w-full gap-1" aria-label="Views of the batch">
            <RouterLink
              v-for="v in offered"
              :key="v.id"
              class="btn btn-bare"
              :class="{ '!border-line': view === v.id }"
              :aria-current="view === v.id ? 'page' : undefined"
              :to="{ query: v.id === 'components' ? {} : { view: v.id } }"
              >{{ v.label }}</RouterLink
            >
          </nav>
        </header>
        <BatchReport v-if="view === 'report'" :batch="batch" />
        <BesidePart
          v-else-if="view === 'beside'"
          :key="batch.kit.hash"
          :batch="batch"
          @took="noted"
        />
        <CarryOver v-else-if="view === 'carry'" :batch="batch" />
        <BatchWall
          v-else
          :key="batch.kit.hash"
          :batch="batch"
          :without="without"
          @toggle="toggle"
        />
      </template>
      <p v-else-if="hash && !error" role="status" class="p-4 text-ink2">Reading the kit …</p>
    </section>
    <FetchLibrary v-if="fetches" :door="door" @close="fetches = false" @look="look" />
  </div>
</template>
