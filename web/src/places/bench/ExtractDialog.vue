<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, POST, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { freeSlug } from '../../use/slug'
import { byType } from './tree'
import { useBench } from './useBench'

/** A part of the screen becomes a piece: what it leaves to its uses, and where else
 * the same stands. */
const props = defineProps<{ elements: string[] }>()
const emit = defineEmits<{ close: []; done: [id: string] }>()
const bench = useBench()
const data = shallowRef<Schemas['PieceExtraction']>()
const error = ref('')
const busy = ref(false)
const title = ref('')
const names = ref<Record<string, string>>({})
const wanted = ref(new Set<string>()) // props and slots, by key
const twins = ref(new Set<number>())
const more = ref(false)
const pictures = shallowRef<Record<string, Schemas['ApiPage']>>({})

const keyOf = (t: Schemas['PieceTwin']) => `${t.doc}#${t.elements[0]}`
onMounted(async () => {
  try {
    const got = (data.value = await ask(
      POST('/api/pieces/propose', { body: { doc: bench.doc.value, elements: props.elements } }),
    ))
    title.value = got.title
    names.value = Object.fromEntries([...got.props, ...got.holes].map(p => [p.key!, p.name]))
    twins.value = new Set(got.twins.flatMap((t, i) => (t.equal ? [i] : [])))
    const out = await ask(
      POST('/api/fragments', {
        body: {
          items: [
            { doc: bench.doc.value, element: props.elements[0]! },
            ...got.twins.slice(0, 12).map(t => ({ doc: t.doc, element: t.elements[0]! })),
          ],
        },
      }),
    )
    pictures.value = Object.fromEntries(out.pages.map(p => [p.key, p]))
  } catch (e) {
    error.value = (e as Error).message
  }
})
/** What the chosen twins take is left to the uses, whether ticked or not. */
const needed = computed(
  () => new Set([...twins.value].flatMap(i => data.value?.twins[i]?.needs ?? [])),
)
const left = (key: string, must = false) => must || needed.value.has(key) || wanted.value.has(key)
const shown = computed(
  () => data.value?.props.filter(p => more.value || p.must || p.others > 0) ?? [],
)
const hidden = computed(
  () =>
    (data.value?.props.length ?? 0) -
    (data.value?.props.filter(p => p.must || p.others > 0).length ?? 0),
)
const id = computed(() => freeSlug(title.value, 'piece', data.value?.taken ?? [], 40))
function toggle<T>(set: Set<T>, key: T): Set<T> {
  const next = new Set(set)
  if (!next.delete(key)) next.add(key)
  return next
}
async function extract() {
  const got = data.value
  if (!got) return
  busy.value = true
  error.value = ''
  try {
    const order = {
      doc: bench.doc.value,
      elements: props.elements,
      id: id.value,
      title: title.value.trim(),
      props: got.props
        .filter(p => left(p.key, p.must))
        .map(p => ({ name: names.value[p.key]!, element: p.element, prop: p.prop })),
      holes: got.holes
        .filter(h => left(h.key!))
        .map(h => ({ ...h, name: names.value[h.key!] ?? '' })),
      twins: [...twins.value].map(i => ({
        doc: got.twins[i]!.doc,
        elements: got.twins[i]!.elements,
      })),
    }
    if (
      await bench.planned(
        seen => ask(POST('/api/pieces/extract', { body: { order, seen } })),
        root => byType(root, 'piece:' + order.id)?.id,
      )
    )
      emit('done', '')
    else error.value = bench.refusal.value
  } finally {
    busy.value = false
  }
}
const first = computed(() => pictures.value[`${bench.doc.value}#${props.elements[0]}`])
</script>

<template>
  <AppDialog title="Extract a piece" wide @close="emit('close')">
    <p v-if="error" role="alert" class="mb-2 text-rust">{{ error }}</p>
    <p v-if="!data && !error" class="text-ink2" role="status">Comparing with the other screens …</p>
    <form v-if="data" @submit.prevent="extract">
      <div class="flex items-end gap-3">
        <label class="min-w-0 flex-1"
          >Name<input v-model="title" class="input mt-0.5 w-full" required maxlength="60"
        /></label>
        <span class="pb-1 font-mono text-xs text-ink2"
          >piece:{{ id }}, {{ data.size }} {{ data.size === 1 ? 'element' : 'elements' }}</span
        >
      </div>
      <TileStage class="max-h-[46vh] overflow-auto">
        <figure v-if="first" class="mt-3">
          <LiveTile
            class="border border-line"
            :html="first.html"
            :props="first.props"
            :theme="bench.theme.value"
            :width="700"
            :height="120"
            fit
          />
        </figure>
        <fieldset class="mt-3">
          <legend class="font-semibold">Left to each use</legend>
          <p v-if="!shown.length && !data.holes.length" class="text-ink2">
            Nothing differs elsewhere; it stays as it is here.
          </p>
          <div
            v-for="p in shown"
            :key="p.key"
            class="grid grid-cols-[minmax(0,1fr)_150px_110px] items-center gap-x-2 py-px"
          >
            <label class="flex min-w-0 items-center gap-2"
              ><input
                type="checkbox"
                :checked="left(p.key, p.must)"
                :disabled="p.must || needed.has(p.key)"
                @change="wanted = toggle(wanted, p.key)"
              /><span class="shrink-0"
                >{{ p.of }} {{ p.prop === '@show' ? 'shown if' : p.prop || 'text' }}</span
              ><span
                class="truncate text-ink2"
                :class="{ 'font-mono text-slate': p.value.startsWith('= ') }"
                >{{ p.value }}</span
              ></label
            >
            <input
              v-if="left(p.key, p.must)"
              v-model="names[p.key]"
              class="input h-5 font-mono"
              :aria-label="`Name of the prop for ${p.of} ${p.prop || 'text'}`"
              pattern="[A-Za-z][A-Za-z0-9\-]*"
              required
            /><span v-else></span>
            <span class="text-xs text-ink2">{{
              p.must ? 'from outside' : p.others ? `differs on ${p.others}` : ''
            }}</span>
          </div>
          <div
            v-for="h in data.holes"
            :key="h.key"
            class="grid grid-cols-[minmax(0,1fr)_150px_110px] items-center gap-x-2 py-px"
          >
            <label class="flex min-w-0 items-center gap-2"
              ><input
                type="checkbox"
                :checked="left(h.key!)"
                :disabled="needed.has(h.key!)"
                @change="wanted = toggle(wanted, h.key!)"
              /><span
                >{{ h.all ? `what stands in ${h.in || 'the main slot'} of` : 'in place of' }}
                {{ h.of }}</span
              ></label
            >
            <input
              v-if="left(h.key!) && h.name"
              v-model="names[h.key!]"
              class="input h-5 font-mono"
              :aria-label="`Name of the slot for ${h.of}`"
            /><span v-else-if="left(h.key!)" class="text-ink2">a slot</span><span v-else></span>
            <span class="text-xs text-ink2">differs on {{ h.others }}</span>
          </div>
          <button
            v-if="hidden"
            type="button"
            class="text-xs underline"
            :aria-expanded="more"
            @click="more = !more"
          >
            {{ more ? 'only what differs' : `${hidden} more that could be` }}
          </button>
        </fieldset>
        <p v-if="data.tells.length" class="mt-3">
          <span class="font-semibold">Told by each use</span>: what
          <code>{{ data.tells.join(', ') }}</code>
          {{ data.tells.length === 1 ? 'holds' : 'hold' }}; what follows it here goes on doing so,
          by the name of the use.
        </p>
        <fieldset v-if="data.twins.length" class="mt-3">
          <legend class="font-semibold">The same elsewhere</legend>
          <div
            v-for="(t, i) in data.twins"
            :key="keyOf(t)"
            class="flex items-start gap-3 border-t border-line py-1"
          >
            <label class="flex w-56 shrink-0 items-start gap-2"
              ><input
                class="mt-1"
                type="checkbox"
                :checked="twins.has(i)"
                @change="twins = toggle(twins, i)"
              /><span
                >{{ t.title
                }}<span class="block text-xs text-ink2"
                  >{{ t.equal ? 'equal' : t.differences.slice(0, 3).join('; ')
                  }}<template v-if="t.differences.length > 3"
                    >; {{ t.differences.length - 3 }} more</template
                  ></span
                ></span
              ></label
            >
            <LiveTile
              v-if="pictures[keyOf(t)]"
              class="min-w-0 flex-1 border border-line"
              :html="pictures[keyOf(t)]!.html"
              :props="pictures[keyOf(t)]!.props"
              :theme="bench.theme.value"
              :width="700"
              :height="72"
              fit
            />
          </div>
        </fieldset>
        <p v-else class="mt-3 text-ink2">Nothing like it stands elsewhere yet.</p>
      </TileStage>
      <div class="mt-3 flex items-center justify-end gap-2">
        <span class="mr-auto text-ink2">The look stays; undo takes it back as one step.</span
        ><button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="busy">
          Extract{{ twins.size ? `, use it in ${twins.size + 1} places` : '' }}
        </button>
      </div>
    </form>
    <div v-else class="mt-3 flex justify-end">
      <button class="btn" @click="emit('close')">Close</button>
    </div>
  </AppDialog>
</template>
