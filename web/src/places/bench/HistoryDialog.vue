<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, GET, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import { useBench } from './useBench'

/** What happened to this document, newest first. Each change can be taken back by
 * itself; what was done after it stays where it can. */
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const ws = useWorkspace()
const rows = shallowRef<Schemas['StoreChangeRow'][]>([])
const loaded = shallowRef(false)
const name = (author: string) => ws.data?.owners[author] ?? author
const days = computed(() => {
  const out = new Map<string, Schemas['StoreChangeRow'][]>()
  for (const r of rows.value) {
    const day = new Date(r.at).toLocaleDateString('en-GB', {
      weekday: 'long',
      day: 'numeric',
      month: 'long',
    })
    out.set(day, [...(out.get(day) ?? []), r])
  }
  return [...out]
})
const time = (at: string) =>
  new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

async function load() {
  rows.value = (
    await ask(GET('/api/changes', { params: { query: { doc: bench.doc.value, most: 200 } } }))
  ).changes
  loaded.value = true
}
onMounted(load)
// Two revisions beside each other: as it was after a change, and as it is now.
const compared = shallowRef<Schemas['StoreChangeRow']>()
const past = shallowRef<Schemas['ApiPastOut']>()
const heights = ref([200, 200])
const till = ref(0) // the change after which the other one is looked at; 0 is now
const later = computed(() => rows.value.filter(r => r.seq > (compared.value?.seq ?? 0)))
async function compare(r: Schemas['StoreChangeRow'], other = 0) {
  compared.value = r
  till.value = other
  past.value = undefined
  const [kind, id] = bench.doc.value.split(':') as [string, string]
  try {
    past.value = await ask(
      GET('/api/docs/{kind}/{id}/past', {
        params: { path: { kind, id }, query: { seq: r.seq, till: other || undefined } },
      }),
    )
  } catch (e) {
    ws.say((e as Error).message)
  }
}
async function restore(elements?: string[], what = 'all') {
  const r = compared.value!
  const [kind, id] = bench.doc.value.split(':') as [string, string]
  if (
    await bench.planned(seen =>
      ask(
        POST('/api/docs/{kind}/{id}/restore', {
          params: { path: { kind, id } },
          body: { seq: r.seq, title: `Bring back ${what} from ${r.title}`, elements, seen },
        }),
      ),
    )
  )
    await Promise.all([load(), compare(r)])
}
const version = ref('')
async function mark() {
  const name = version.value.trim()
  if (
    name &&
    (await bench.change({
      title: `Version ${name}`,
      steps: [{ do: 'mark', doc: bench.doc.value }],
    }))
  ) {
    version.value = ''
    await load()
  }
}
async function back(r: Schemas['StoreChangeRow']) {
  if (await bench.takeBack(r.seq, r.title)) await load()
}
</script>

<template>
  <AppDialog :title="`History of ${bench.head.value?.title}`" wide @close="emit('close')">
    <section v-if="compared" aria-label="What differs since">
      <!-- Above the pictures, so that nothing moves it while they are drawn. -->
      <div class="mb-2 flex items-center justify-between gap-3">
        <p>
          <button class="underline" @click="compared = undefined">All changes</button>{{ ' ' }}
          <span class="text-ink2">/</span> since
          <span class="font-semibold">{{ compared.title }}</span>, {{ time(compared.at) }}
          <label v-if="later.length" class="ml-2"
            >till
            <select
              class="input h-6 max-w-64"
              aria-label="Compare till"
              :value="till"
              @change="compare(compared, Number(($event.target as HTMLSelectElement).value))"
            >
              <option :value="0">now</option>
              <option v-for="r in later" :key="r.seq" :value="r.seq">
                {{ r.title }}, {{ time(r.at) }}
              </option>
            </select></label
          >
        </p>
        <button
          v-if="past?.differences.length && bench.canBuild.value && !till"
          class="btn btn-main shrink-0"
          @click="restore()"
        >
          Bring all back
        </button>
      </div>
      <p v-if="!past" class="text-ink2" role="status">Looking back …</p>
      <template v-else>
        <p v-if="!past.differences.length" class="text-ink2">
          {{ till ? 'The two are the same.' : 'It is as it was then.' }}
        </p>
        <ul v-else class="max-h-[24vh] overflow-auto border-y border-line">
          <li v-for="(d, i) in past.differences" :key="i" class="flex items-baseline gap-2 py-px">
            <span class="shrink-0">{{ d.title }}</span><span class="min-w-0 truncate text-ink2">{{
              d.words
            }}</span
            ><button
              v-if="bench.canBuild.value && !till"
              class="ml-auto shrink-0 underline"
              :aria-label="`Bring back ${d.title}: ${d.words}`"
              @click="restore([d.element], d.title)"
            >
              {{ d.words === 'added' ? 'take away' : 'bring back' }}
            </button>
          </li>
        </ul>
        <TileStage class="mt-2 max-h-[32vh] overflow-auto"
          ><div class="grid grid-cols-2 gap-3">
            <figure v-for="(p, i) in [past.before, past.after]" :key="i">
              <figcaption class="text-xs text-ink2">
                {{ i ? (till ? later.find(r => r.seq === till)?.title : 'now') : 'then' }}
              </figcaption>
              <LiveTile
                class="border border-line"
                :html="p.html"
                :props="p.props"
                :theme="bench.theme.value"
                :width="960"
                :height="heights[i]! * 0.37"
                measure
                :label="i ? 'Now' : 'Then'"
                @drawn="h => (heights[i] = h)"
              />
            </figure></div
        ></TileStage>
      </template>
    </section>
    <form v-else-if="bench.canBuild.value" class="mb-3 flex gap-2" @submit.prevent="mark">
      <input
        v-model="version"
        class="input min-w-0 flex-1"
        aria-label="Name of a version"
        placeholder="Name what stands now, to find it again"
        maxlength="60"
      /><button class="btn" :disabled="!version.trim()">Mark a version</button>
    </form>
    <template v-if="!compared"
      ><p v-if="loaded && !rows.length" class="text-ink2">
        Nothing happened to it since the workspace was made.
      </p>
      <section v-for="[day, list] in days" :key="day" class="mb-3" :aria-label="day">
        <h3 class="mb-1 text-ink2">{{ day }}</h3>
        <ul class="sheet">
          <li
            v-for="r in list"
            :key="r.seq"
            class="flex items-baseline gap-3 border-b border-line px-3 py-1 last:border-b-0"
          >
            <span class="text-xs text-ink2">{{ time(r.at) }}</span><span
              class="min-w-0 truncate"
              :class="{
                'text-ink2 line-through': r.undone,
                'font-semibold text-moss': r.title.startsWith('Version '),
              }"
              >{{ r.title }}</span
            ><span class="truncate text-ink2">{{ name(r.author) }}</span>
            <span class="ml-auto flex shrink-0 gap-3"
              ><button
                class="underline"
                :aria-label="`Compare with now: ${r.title}`"
                @click="compare(r)"
              >
                compare</button
              ><span v-if="r.undone" class="text-xs text-ink2">taken back</span
              ><button
                v-else-if="bench.canBuild.value && !r.title.startsWith('Version ')"
                class="underline"
                :aria-label="`Take back: ${r.title}`"
                @click="back(r)"
              >
                take back
              </button></span
            >
          </li>
        </ul>
      </section></template
    >
    <div class="mt-2 flex justify-end">
      <button class="btn" @click="emit('close')">Close</button>
    </div>
  </AppDialog>
</template>
