<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { ask, clientId, GET, POST, type Page, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import PartLooks from './PartLooks.vue'
import { lookOf, sure, type Batch } from './intake'

/** Components of another library beside the kit in use: which of them, and what of their looks
 * follows the kit's tokens, seen as they come and as they would be. */
const props = defineProps<{ batch: Batch }>()
const emit = defineEmits<{ took: [change: Schemas['ApiChangeOut']] }>()
const ws = useWorkspace()
const info = ref<Schemas['ApiBesideOut']>()
const look = ref<Schemas['ApiBesideLook']>()
const chosen = ref<string[]>([])
const ties = ref<Record<string, string>>({})
const pages = ref<Record<string, { as: Page; then: Page }>>({})
const error = ref('')
const busy = ref(false)
const steps = ref<HTMLElement>()
const entries = computed(() => props.batch.entries.filter(e => e.change !== 'gone'))
const shown = computed(() => entries.value.filter(e => chosen.value.includes(e.tag)).slice(0, 6))
const all = ref(false)
/** What can be told of first: proposed, tied, or a colour; the rest on demand. */
const rows = computed(() =>
  (info.value?.properties ?? []).filter(
    p => all.value || p.token || ties.value[p.name] || p.type === 'color',
  ),
)
const path = computed(() => ({ hash: props.batch.kit.hash }))
const body = computed(() => ({
  components: chosen.value,
  ties: Object.entries(ties.value)
    .filter(([, token]) => token)
    .map(([property, token]) => ({ property, token })),
}))

async function load() {
  error.value = ''
  try {
    const out = await ask(GET('/api/kits/{hash}/beside', { params: { path: path.value } }))
    const stands = out.taken.length > 0
    chosen.value = stands ? out.taken : entries.value.length === 1 ? [entries.value[0]!.tag] : []
    ties.value = stands
      ? Object.fromEntries(out.ties.map(t => [t.property, t.token]))
      : Object.fromEntries(out.properties.flatMap(p => (p.token ? [[p.name, p.token]] : [])))
    info.value = out
  } catch (e) {
    error.value = (e as Error).message
  }
}
void load()

let number = 0
const again = useDebounceFn(async () => {
  const mine = ++number
  if (!chosen.value.length || info.value?.problem) {
    look.value = undefined
    return
  }
  try {
    const out = await ask(
      POST('/api/kits/{hash}/beside', { params: { path: path.value }, body: body.value }),
    )
    const render = async (hash: string) =>
      (
        await ask(
          POST('/api/kits/{hash}/render', {
            params: { path: { hash } },
            body: { trees: shown.value.map(lookOf) },
          }),
        )
      ).pages
    const [as, then] = await Promise.all([render(props.batch.kit.hash), render(out.hash)])
    if (mine !== number) return
    error.value = ''
    pages.value = Object.fromEntries(
      shown.value.map((e, i) => [e.tag, { as: as[i]!, then: then[i]! }]),
    )
    look.value = out
  } catch (e) {
    if (mine === number) error.value = (e as Error).message
  }
}, 200)
watch([chosen, ties, info], () => void again(), { deep: true })

async function take(components: string[]) {
  busy.value = true
  error.value = ''
  try {
    const out = await ask(
      POST('/api/kits/{hash}/beside/take', {
        params: { path: path.value },
        body: { ...body.value, components, client: clientId },
      }),
    )
    emit('took', out)
    await load()
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
    // What was pressed is gone or waits for its looks; one goes on at what stands in its place.
    await nextTick()
    steps.value?.focus()
  }
}
/** What a token is, each value once, with the themes that have it. */
function valuesOf(token: string) {
  const out: { is: string; themes: string }[] = []
  for (const theme of info.value?.themes ?? []) {
    const is = info.value?.tokens.find(t => t.path === token)?.values[theme] ?? ''
    const same = out.find(o => o.is === is)
    if (same) same.themes += `, ${theme}`
    else out.push({ is, themes: theme })
  }
  return out
}
const fitting = (type: string) =>
  (info.value?.tokens ?? []).filter(t => !type || t.type === type).map(t => t.path)
const stands = computed(() => !!info.value?.taken.length)
const needs = computed(() => [
  `${props.batch.kit.name} ${props.batch.kit.version}`,
  ...Object.entries(props.batch.meta.peers ?? {}).map(([name, v]) => `${name} ${v}`),
  ...(props.batch.meta.wrap ? [`${props.batch.meta.wrap} around it`] : []),
])
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col overflow-auto">
    <p v-if="error" role="alert" class="bg-rustwash px-4 py-1 text-rust">{{ error }}</p>
    <p v-if="info?.problem" class="p-4 text-rust" role="status">
      It cannot stand beside {{ info.beside }}: {{ info.problem }}.
    </p>
    <div
      v-else-if="info"
      class="grid gap-x-6 gap-y-4 p-4 xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]"
    >
      <div class="grid content-start gap-4">
        <section aria-labelledby="beside-which">
          <h3 id="beside-which" class="mb-1 text-lg">
            What of it stands beside {{ info.beside }}
            <span class="text-base font-normal text-ink2"
              >{{ chosen.length }} of {{ entries.length }}</span
            >
          </h3>
          <ul class="max-h-48 columns-[14rem] overflow-auto">
            <li v-for="e in entries" :key="e.tag">
              <label class="flex items-center gap-1"
                ><input v-model="chosen" type="checkbox" :value="e.tag" />{{ e.title
                }}<code class="text-xs text-ink2">{{ e.export || e.tag }}</code></label
              >
            </li>
          </ul>
          <p class="mt-1 text-ink2">An application needs {{ needs.join(', ') }}.</p>
        </section>
        <section aria-labelledby="beside-ties">
          <h3 id="beside-ties" class="mb-1 text-lg">What follows {{ info.beside }}</h3>
          <p v-if="!info.properties.length" class="text-ink2">
            Its styles speak of no custom property: its looks cannot be tied.
          </p>
          <table v-else class="w-full text-left">
            <thead>
              <tr class="text-xs text-ink2">
                <th class="font-normal">Property, as it comes</th>
                <th class="font-normal">Follows</th>
                <th class="font-normal">In each theme</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="p in rows" :key="p.name" class="border-t border-line">
                <td class="max-w-52 py-1 pr-2">
                  <code class="block truncate" :title="p.name">{{ p.name }}</code>
                  <span class="block truncate text-xs text-ink2" :title="p.value">
                    <span
                      v-if="p.type === 'color' && p.value"
                      class="mr-1 inline-block size-3 border border-line align-middle"
                      :style="{ background: p.value }"
                    ></span
                    >{{ p.value || 'not said' }}
                  </span>
                </td>
                <td class="w-56 pr-2">
                  <select
                    class="input w-full"
                    :aria-label="`What ${p.name} follows`"
                    :value="ties[p.name] ?? ''"
                    @change="ties[p.name] = ($event.target as HTMLSelectElement).value"
                  >
                    <option value="">nothing</option>
                    <option v-for="t in fitting(p.type)" :key="t" :value="t">{{ t }}</option>
                  </select>
                  <span
                    v-if="p.token && p.token === ties[p.name]"
                    class="block text-xs text-ink2"
                    :title="p.why"
                    >{{ sure(p.certainty) }} sure: {{ p.why?.split(';')[0] }}</span
                  >
                </td>
                <td class="max-w-28 truncate">
                  <template v-if="ties[p.name]">
                    <span v-for="(value, i) in valuesOf(ties[p.name]!)" :key="i">
                      <span
                        v-if="p.type === 'color'"
                        class="mr-1 inline-block size-4 border border-line align-middle"
                        :style="{ background: value.is }"
                        :title="`${value.themes}: ${value.is}`"
                        ><span class="sr-only">{{ value.themes }} {{ value.is }}</span></span
                      >
                      <span v-else class="text-xs text-ink2" :title="`${value.themes}: ${value.is}`"
                        >{{ value.is }}
                      </span>
                    </span>
                  </template>
                </td>
              </tr>
            </tbody>
          </table>
          <button
            v-if="rows.length < info.properties.length || all"
            class="btn btn-bare mt-1"
            :aria-pressed="all"
            @click="all = !all"
          >
            {{ all ? 'Colours alone' : `All ${info.properties.length} properties` }}
          </button>
        </section>
      </div>
      <div class="grid content-start gap-4">
        <div
          v-if="ws.data?.me.role === 'keeper'"
          ref="steps"
          role="group"
          :aria-label="`Beside ${info.beside}`"
          tabindex="-1"
          class="flex gap-2"
        >
          <button
            class="btn btn-main"
            :disabled="busy || !chosen.length || !look"
            @click="take(chosen)"
          >
            {{ stands ? 'Change it' : `Take it beside ${info.beside}` }}
          </button>
          <button v-if="stands" class="btn" :disabled="busy" @click="take([])">Take it out</button>
        </div>
        <p v-else class="text-ink2">A keeper takes it in.</p>
        <p v-if="!chosen.length" class="text-ink2">
          Choose what of it is needed: each entry is one more thing to keep alike.
        </p>
        <PartLooks
          v-else-if="look"
          :batch="batch"
          :entries="shown"
          :pages="pages"
          :frame="look.frame"
          :beside="info.beside"
        />
        <section v-if="look?.lost.length" aria-label="What is lost">
          <h3 class="text-lg text-rust">
            {{ look.lost.length }} settings have no counterpart then
          </h3>
          <ul class="max-h-40 overflow-auto">
            <li v-for="(l, i) in look.lost" :key="i">{{ l.words }}</li>
          </ul>
        </section>
      </div>
    </div>
  </div>
</template>
