<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../../api/client'
import { useCopy } from '../../use/copy'
import { download } from '../../use/download'
import { useWorkspace } from '../../use/workspace'
import CodeView from './CodeView.vue'
import FileList from './FileList.vue'
import RepositoryPlan from './RepositoryPlan.vue'
import { useDelivery } from './useDelivery'
import { order } from './words'

const ws = useWorkspace()
const route = useRoute()
const toClipboard = useCopy()
const d = useDelivery(String(route.query['target'] ?? ''))
const {
  targets,
  repositories,
  target,
  texts,
  into,
  off,
  screens,
  inCode,
  files,
  plan,
  notes,
  busy,
  error,
  chosen,
  listed,
} = d
const open = ref('')
const addition = ref<Schemas['ApiAdditionView']>()
const file = computed(() => (into.value ? undefined : files.value.find(f => f.path === open.value)))
const change = computed(() => plan.value?.changes.find(c => c.path === open.value))
const shown = computed(
  () =>
    addition.value?.patch ?? (change.value?.patch || change.value?.hand) ?? file.value?.text ?? '',
)
/** Nothing is written into the file: what is shown is what somebody edited in it. */
const byHand = computed(() => !addition.value && !change.value?.patch && !!change.value?.hand)
const purpose = computed(() => targets.value.find(t => t.id === target.value)?.purpose)

// The file of a document that somebody came for, else the first of a screen.
watch(listed, list => {
  addition.value = undefined
  const doc = route.query['doc']
  const asked = files.value.find(f => f.doc === doc && f.lines && Object.keys(f.lines).length)
  if (doc && asked && !into.value) open.value = asked.path
  else if (!list.some(f => f.path === open.value) || (into.value && !change.value?.patch))
    open.value = first()
})
/** What one would look at first: what changes most in a repository, else a screen. */
function first() {
  const changed = order
    .flatMap(what => plan.value?.changes.filter(c => c.what === what) ?? [])
    .find(c => c.patch)
  const screen = files.value.find(f => f.doc?.startsWith('screen:') && f.lines)
  return (into.value ? changed : screen)?.path ?? listed.value[0]?.path ?? ''
}
watch(open, () => (addition.value = undefined))
watch(into, () => {
  const found = d.repository.value?.target
  if (found) target.value = found
})

async function pack() {
  const answer = await fetch('/api/deliver/archive', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ target: target.value, screens: chosen.value, texts: texts.value }),
  })
  if (!answer.ok) {
    error.value = 'The delivery could not be packed.'
    return
  }
  download(`${ws.data?.name.toLowerCase() ?? 'screens'}-${target.value}.zip`, await answer.blob())
}
async function take() {
  const n = plan.value?.byHand?.taken.length ?? 0
  if (await d.take()) ws.say(`${n} ${n === 1 ? 'edit' : 'edits'} taken from ${into.value}.`)
}
async function write(connect: boolean) {
  if (await d.write(connect)) ws.say(`Delivered into ${into.value}.`)
}
</script>

<template>
  <div
    class="grid h-full grid-cols-[220px_300px_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:overflow-auto"
  >
    <section class="overflow-auto border-r border-line p-4" aria-label="What to deliver">
      <h1 class="mb-2 text-xl">Deliver</h1>
      <fieldset v-if="repositories.length" class="mb-4">
        <legend class="label">Where to</legend>
        <label class="flex gap-2 py-0.5"
          ><input v-model="into" type="radio" name="into" value="" class="accent-moss" />An
          application of its own</label
        >
        <label v-for="r in repositories" :key="r.name" class="flex gap-2 py-0.5" :title="r.problem"
          ><input
            v-model="into"
            type="radio"
            name="into"
            :value="r.name"
            :disabled="!!r.problem"
            class="accent-moss"
          /><span class="min-w-0"
            >{{ r.name
            }}<span v-if="r.target" class="block text-xs text-ink2"
              >{{ r.target }} {{ r.version }}</span
            ></span
          ></label
        >
      </fieldset>
      <fieldset class="mb-4">
        <legend class="label">Target</legend>
        <label v-for="t in targets" :key="t.id" class="flex gap-2 py-0.5" :title="t.purpose"
          ><input
            v-model="target"
            type="radio"
            name="target"
            :value="t.id"
            :disabled="
              !!t.refuses || (!!d.repository.value?.target && d.repository.value.target !== t.id)
            "
            class="accent-moss"
          />{{ t.title }}</label
        >
        <p class="text-xs text-ink2">{{ purpose }}</p>
        <p v-for="t in targets.filter(t => t.refuses)" :key="t.id" class="text-xs text-rust">
          {{ t.refuses }}.
        </p>
      </fieldset>
      <div class="mb-4">
        <h2 class="label text-sm font-normal">Texts</h2>
        <label class="flex gap-2 py-0.5"
          ><input
            v-model="texts"
            type="checkbox"
            class="accent-moss"
            :disabled="!!ws.data?.languages.length"
          />in files, one a language</label
        >
        <RouterLink class="text-xs underline" to="/texts">{{
          ws.data?.languages.length
            ? `and in ${ws.data.languages.map(l => l.name).join(', ')}`
            : 'all texts, and other languages'
        }}</RouterLink>
      </div>
      <fieldset>
        <legend class="label flex w-full items-baseline gap-2">
          Screens <span>{{ chosen.length }} of {{ screens.length }}</span>
        </legend>
        <div class="mb-1 flex gap-2">
          <button class="underline" @click="off = new Set()">all</button
          ><button class="underline" @click="off = new Set(screens.map(s => s.id))">none</button>
        </div>
        <label v-for="s in screens" :key="s.id" class="flex gap-2"
          ><input
            type="checkbox"
            :checked="!off.has(s.id)"
            class="accent-moss"
            @change="d.toggle(s.id)"
          /><span class="truncate">{{ s.title }}</span></label
        >
        <p v-if="inCode" class="mt-2 text-xs text-ink2">
          {{ inCode === 1 ? '1 more was' : `${inCode} more were` }} read from code, and stand there
          already.
        </p>
      </fieldset>
    </section>
    <section class="flex min-h-0 flex-col border-r border-line" aria-label="Files">
      <div class="flex min-h-[45px] items-center gap-2 border-b border-line px-3 py-2">
        <h2>Files</h2>
        <span class="text-ink2" role="status">{{
          busy ? (into ? 'looking …' : 'writing …') : listed.length
        }}</span><button
          v-if="!into"
          class="btn btn-main ml-auto"
          :disabled="!files.length"
          @click="pack"
        >
          Download
        </button>
      </div>
      <p v-if="error" role="alert" class="px-3 py-2 text-rust">{{ error }}</p>
      <RepositoryPlan
        v-if="into && plan"
        :plan="plan"
        :busy="busy"
        @write="write"
        @show="a => (addition = a)"
        @take="take"
        @look="path => (open = path)"
      />
      <details v-if="notes.length" class="border-b border-line px-3 py-2">
        <summary class="cursor-pointer text-rust">{{ notes.length }} left out or changed</summary>
        <ul class="mt-1 text-xs">
          <li v-for="(n, i) in notes" :key="i" class="mb-1">
            <RouterLink
              v-if="n.doc"
              class="underline"
              :to="{
                path: `/bench/${n.doc.replace(':', '/')}`,
                hash: n.element ? `#${n.element}` : '',
              }"
              >{{ n.doc.split(':')[1] }}</RouterLink
            >
            {{ n.message }}.
          </li>
        </ul>
      </details>
      <FileList v-model="open" :files="listed" />
      <p v-if="!chosen.length" class="p-3 text-ink2">
        {{
          screens.length
            ? 'Choose at least one screen.'
            : 'All screens were read from code. One that is assembled here can be delivered.'
        }}
      </p>
    </section>
    <section class="flex min-h-0 min-w-0 flex-col" aria-label="Code">
      <div class="flex min-h-[45px] items-center gap-2 border-b border-line px-3 py-2">
        <code class="truncate">{{ addition?.path ?? open }}</code><span
          v-if="change && !addition && (byHand || change.why)"
          class="truncate text-ink2"
          >{{ byHand ? 'edited by hand' : change.why }}</span
        ><button
          class="btn ml-auto"
          :disabled="!shown"
          @click="toClipboard(shown, into ? 'The patch' : 'The file')"
        >
          Copy
        </button>
      </div>
      <CodeView
        v-if="shown"
        :text="shown"
        :path="addition?.path ?? open"
        :patch="!!into"
        :doc="file?.doc"
        :lines="file?.lines"
        :element="typeof route.query['element'] === 'string' ? route.query['element'] : undefined"
      />
      <p v-else-if="change" class="p-4 text-ink2">
        {{ change.own ? 'Yours; it is left as it is.' : 'Nothing changes in it.' }}
      </p>
      <p v-else-if="file" class="p-4 text-ink2">{{ file.size }} bytes, not a text.</p>
    </section>
  </div>
</template>
