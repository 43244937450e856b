<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { ask, GET, POST, type Page } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import MixBar from '../../ui/MixBar.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import { published, sure, type Batch, type Carry } from './intake'

/** What becomes of the screens on another kit: what corresponds, what is lost, and a
 * screen in both. */
const props = defineProps<{ batch: Batch }>()
const ws = useWorkspace()
const carry = ref<Carry>()
const error = ref('')
const only = ref('used')
const doc = ref('')
const theme = ref('light')
const width = ref(1280)
const before = ref<Page>()
const after = ref<Page>()
const height = ref(420)
const file = ref<HTMLInputElement>()
const builds = computed(() => ws.data?.me.role !== 'reader')

async function plan(body: {
  decide?: { from: string; to: string; back?: boolean }[]
  file?: string
}) {
  error.value = ''
  try {
    carry.value = await ask(
      POST('/api/kits/{hash}/carry', { params: { path: { hash: props.batch.kit.hash } }, body }),
    )
    await show()
  } catch (e) {
    error.value = (e as Error).message
  }
}
const screens = computed(() => ws.data?.docs.filter(d => d.kind === 'screen' && !d.removed) ?? [])
async function show() {
  doc.value ||=
    carry.value?.result.lost?.find(l => l.doc.startsWith('screen:'))?.doc ??
    (screens.value[0] ? `screen:${screens.value[0].id}` : '')
  if (!doc.value) return
  const [was, is] = await Promise.all([
    ask(POST('/api/pages', { body: { docs: [doc.value] } })),
    ask(
      GET('/api/kits/{hash}/page', {
        params: { path: { hash: props.batch.kit.hash }, query: { doc: doc.value } },
      }),
    ),
  ])
  before.value = was.pages[0]
  after.value = is.pages[0]
}
watch(
  () => props.batch.kit.hash,
  () => plan({}),
  { immediate: true },
)
watch(doc, (_, was) => {
  if (was) void show()
})

const title = (tag: string) => props.batch.entries.find(e => e.tag === tag)?.title ?? tag
const rows = computed(() =>
  (carry.value?.mapping.components ?? [])
    .map(c => ({ ...c, uses: carry.value!.uses[c.from] ?? 0 }))
    .filter(c =>
      only.value === 'used'
        ? c.uses > 0
        : only.value === 'none'
          ? !c.to
          : only.value === 'unsure'
            ? c.to && !c.decided && c.certainty < 0.6
            : true,
    )
    .sort((a, b) => b.uses - a.uses),
)
const decide = (from: string, to: string) => plan({ decide: [{ from, to }] })
const lostHere = computed(() => carry.value?.result.lost?.filter(l => l.doc === doc.value) ?? [])
async function read(list: FileList | null) {
  const text = await list?.[0]?.text()
  if (text) await plan({ file: text })
}
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col overflow-auto">
    <p v-if="error" role="alert" class="bg-rustwash px-4 py-1 text-rust">{{ error }}</p>
    <p v-if="!carry" class="p-4 text-ink2" role="status">Comparing the kits …</p>
    <template v-else>
      <section class="border-b border-line px-4 py-3" aria-label="Coverage">
        <p>
          <b>{{ carry.coverage.corresponds }}</b> of {{ carry.coverage.components }} components have
          a counterpart, {{ carry.coverage.unsure }} of them unsure;
          {{ carry.coverage.decided }} decided. <b>{{ carry.coverage.carried }}</b> of
          {{ carry.coverage.uses }} elements on the screens can be carried.
        </p>
        <p class="mt-1">
          Of all settings and words:
          <MixBar
            :width="160"
            :parts="[
              { value: 'as they are', uses: carry.result.same },
              { value: 'called otherwise', uses: carry.result.renamed },
              { value: 'without a place', uses: carry.result.without },
            ]"
          />
          {{ carry.result.same }} as they are, {{ carry.result.renamed }} called otherwise,
          <span :class="{ 'text-rust': carry.result.without }"
            >{{ carry.result.without }} without a place</span
          >. These stay written on their elements, and are findings there.
        </p>
        <p class="mt-1 flex gap-2">
          <a class="btn" :href="`/api/kits/${batch.kit.hash}/mapping`" download
            >Mapping as a file</a
          >
          <button v-if="builds" class="btn" @click="file?.click()">Read a mapping</button>
          <input
            ref="file"
            type="file"
            accept=".json"
            class="sr-only"
            tabindex="-1"
            aria-label="Mapping file"
            @change="read(($event.target as HTMLInputElement).files)"
          />
        </p>
      </section>
      <section class="border-b border-line px-4 py-3" aria-label="A screen in both">
        <div class="mb-2 flex flex-wrap items-center gap-3">
          <label class="flex items-center gap-2"
            ><span class="label">Screen</span>
            <select v-model="doc" class="input">
              <option v-for="s in screens" :key="s.id" :value="`screen:${s.id}`">
                {{ s.title }}
              </option>
            </select></label
          >
          <label class="flex items-center gap-2"
            ><span class="label">Width</span>
            <select v-model.number="width" class="input">
              <option v-for="w in [360, 640, 960, 1280]" :key="w" :value="w">{{ w }}</option>
            </select></label
          >
          <label class="flex items-center gap-2"
            ><span class="label">Theme</span>
            <select v-model="theme" class="input">
              <option v-for="t in ['light', 'dark']" :key="t" :value="t">{{ t }}</option>
            </select></label
          >
        </div>
        <div class="grid gap-3 lg:grid-cols-2">
          <figure>
            <figcaption class="label mb-1">
              {{ ws.data?.kit }} {{ published(ws.data?.kitVersion ?? '') }}
            </figcaption>
            <TileStage>
              <LiveTile
                :html="before?.html"
                :props="before?.props"
                :width="width"
                :theme="theme"
                :height="height"
                measure
                class="border border-line"
                :label="`The screen in ${ws.data?.kit}`"
              />
            </TileStage>
          </figure>
          <figure>
            <figcaption class="label mb-1">{{ batch.title }} {{ batch.kit.version }}</figcaption>
            <TileStage :from="batch.frame">
              <LiveTile
                :html="after?.html"
                :props="after?.props"
                :width="width"
                :theme="theme"
                :height="height"
                measure
                class="border border-line"
                :label="`The screen in ${batch.title}`"
              />
            </TileStage>
          </figure>
        </div>
        <ul v-if="lostHere.length" class="mt-2">
          <li v-for="l in lostHere" :key="l.element + l.name" class="text-rust">
            <RouterLink
              :to="`/bench/${l.doc.replace(':', '/')}?element=${l.element}`"
              class="underline"
              >{{ l.element }}</RouterLink
            >
            {{ l.words
            }}<span v-if="l.repairs?.length" class="text-ink2"
              >; there are {{ l.repairs.map(title).join(', ') }}</span
            >
          </li>
        </ul>
      </section>
      <section class="px-4 py-3" aria-label="What corresponds">
        <div class="mb-2 flex flex-wrap items-center gap-2">
          <h3 class="text-lg">What corresponds</h3>
          <div class="flex gap-1" role="group" aria-label="Which rows">
            <button
              v-for="f in [
                ['used', 'Used here'],
                ['none', 'Without a counterpart'],
                ['unsure', 'Unsure'],
                ['all', 'All'],
              ]"
              :key="f[0]"
              class="btn btn-bare"
              :class="{ '!border-line': only === f[0] }"
              :aria-pressed="only === f[0]"
              @click="only = f[0]!"
            >
              {{ f[1] }}
            </button>
          </div>
        </div>
        <table class="w-full text-left">
          <thead>
            <tr class="text-ink2">
              <th class="font-normal">Here</th>
              <th class="font-normal">Uses</th>
              <th class="font-normal">There</th>
              <th class="font-normal">Why</th>
              <th class="font-normal">What is lost</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in rows" :key="c.from" class="border-t border-line align-top">
              <td class="py-1">{{ c.from }}</td>
              <td class="py-1 text-ink2">{{ c.uses || '' }}</td>
              <td class="py-1">
                <select
                  class="input max-w-56"
                  :value="c.to"
                  :disabled="!builds"
                  :aria-label="`Counterpart of ${c.from}`"
                  @change="decide(c.from, ($event.target as HTMLSelectElement).value)"
                >
                  <option value="">nothing</option>
                  <option value="stack">a stack that holds what stood in it</option>
                  <option value="row">a row that holds what stood in it</option>
                  <option value="markup">plain text</option>
                  <option v-for="o in c.others ?? []" :key="'o' + o" :value="o">
                    {{ title(o) }}
                  </option>
                  <option
                    v-for="e in batch.entries.filter(
                      e => e.change !== 'gone' && !c.others?.includes(e.tag),
                    )"
                    :key="e.tag"
                    :value="e.tag"
                  >
                    {{ e.title }}
                  </option>
                </select>
              </td>
              <td class="py-1 pr-2 text-ink2">
                {{
                  c.decided
                    ? `decided by ${c.decided}`
                    : c.to
                      ? `${sure(c.certainty)}, ${c.why}`
                      : c.why
                }}
              </td>
              <td class="py-1 text-ink2">
                {{
                  [
                    ...(c.to ? (c.props ?? []).filter(p => !p.to).map(p => p.from) : []),
                    ...(c.props ?? []).flatMap(p => (p.lost ?? []).map(v => `${p.from} ${v}`)),
                  ].join(', ')
                }}
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="!rows.length" class="text-ink2" role="status">
          {{ only === 'used' ? 'No screen uses a component yet.' : 'There is none.' }}
        </p>
      </section>
    </template>
  </div>
</template>
