<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, onMounted, reactive, ref, shallowRef } from 'vue'
import { ask, GET, POST, type Change, type Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { slug } from '../../use/slug'
import { useWorkspace } from '../../use/workspace'
import { bench } from './census'

/** A rule that the team writes: what it hits is shown while it is written. */
const props = defineProps<{
  rule?: Schemas['AuditOwnRule']
  /** By example: an element that keeps it, and one that does not, as doc#element. */
  like?: string
  unlike?: string
  taken: string[]
}>()
const emit = defineEmits<{ close: []; done: [] }>()
const ws = useWorkspace()
const draft = reactive<Schemas['AuditOwnRule']>({
  id: '',
  title: '',
  of: 'element',
  where: '',
  must: '',
  message: '',
  severity: 'warning',
  prop: '',
  value: '',
  why: '',
  ...props.rule,
})
const seen = shallowRef<Schemas['ApiRulePreviewOut']>()
const error = ref('')
const failed = ref('')
const kit = shallowRef<Schemas['ApiKitOut']>()
const whole = computed(() => draft.of && draft.of !== 'element')
onMounted(async () => {
  kit.value = await ask(GET('/api/kit'))
  if (!props.like || !props.unlike) return
  try {
    const out = await ask(
      POST('/api/rules/example', { body: { like: props.like, unlike: props.unlike } }),
    )
    Object.assign(draft, out.rule, { of: 'element' })
  } catch (e) {
    failed.value = `No rule could be read off the two: ${(e as Error).message}.`
  }
})
const wanted = computed<Schemas['AuditOwnRule']>(() => ({
  ...draft,
  of: draft.of === 'element' ? undefined : draft.of,
  where: whole.value ? undefined : draft.where,
  prop: draft.prop || undefined,
  value: draft.prop ? draft.value : undefined,
}))
watchDebounced(
  wanted,
  async rule => {
    if (!draft.must.trim() || (!whole.value && !draft.where?.trim())) {
      seen.value = undefined
      error.value = ''
      return
    }
    try {
      seen.value = await ask(POST('/api/rules/preview', { body: { rule } }))
      error.value = ''
    } catch (e) {
      seen.value = undefined
      error.value = (e as Error).message
    }
  },
  { debounce: 250, immediate: true },
)
async function save() {
  const base = draft.id || slug(draft.title) || 'rule'
  let id = base
  for (let n = 2; !draft.id && props.taken.includes(id); n++) id = `${base}-${n}`
  try {
    await ws.take({
      title: props.rule ? `Change the rule “${draft.title}”` : `New rule “${draft.title}”`,
      steps: [{ do: 'rule', rule: { ...wanted.value, id } } as Change['steps'][number]],
    })
    await ws.load()
    emit('done')
  } catch (e) {
    failed.value = (e as Error).message
  }
}
const tags = computed(() =>
  [...(kit.value?.layouts ?? []), ...(kit.value?.components ?? [])].map(c => c.tag),
)
const settable = computed(() => {
  const last = /([\w-]+)(\[[^\]]*\])*\s*$/.exec(draft.where ?? '')?.[1]
  return [...(kit.value?.layouts ?? []), ...(kit.value?.components ?? [])].find(c => c.tag === last)
})
const values = computed(() => settable.value?.props.find(p => p.name === draft.prop)?.values ?? [])
const examples: [string, string][] = [
  ['props.emphasis != "strong"', 'a setting'],
  ['count("a-button[emphasis=strong]") <= 1', 'how many inside'],
  ['beside("a-button") < 3', 'how many beside'],
  ['within("a-form")', 'what it stands in'],
  ['words(text) <= 3', 'how many words'],
  ['text.matches("^[A-Z]")', 'how it is written'],
  ['screen.route.startsWith("/admin")', 'where the screen is'],
]
</script>

<template>
  <AppDialog
    :title="rule ? 'A rule of your own' : like ? 'A rule by example' : 'A new rule'"
    wide="most"
    @close="$emit('close')"
  >
    <p v-if="failed" role="alert" class="mb-2 text-rust">{{ failed }}</p>
    <form class="grid gap-4 md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]" @submit.prevent="save">
      <div class="grid content-start gap-3">
        <label
          ><span class="label mb-1 block">Title</span
          ><input v-model="draft.title" class="input w-full" required maxlength="120"
        /></label>
        <div class="flex gap-3">
          <label
            ><span class="label mb-1 block">About</span
            ><select v-model="draft.of" class="input">
              <option value="element">elements</option>
              <option value="screen">whole screens</option>
              <option value="piece">whole pieces</option>
              <option value="shell">whole shells</option>
            </select></label
          ><label v-if="!whole" class="min-w-0 flex-1"
            ><span class="label mb-1 block">Which, as a selector</span
            ><input
              v-model="draft.where"
              class="input w-full font-mono"
              list="rule-tags"
              spellcheck="false"
              required
              :placeholder="`section ${tags[20] ?? '*'}`"
          /></label>
          <datalist id="rule-tags">
            <option v-for="t in tags" :key="t" :value="t"></option>
          </datalist>
        </div>
        <label
          ><span class="label mb-1 block">What must hold of each, as an expression</span
          ><textarea
            v-model="draft.must"
            class="input h-16 w-full py-1 font-mono"
            spellcheck="false"
            required
          ></textarea>
        </label>
        <details class="-mt-2 text-ink2">
          <summary class="cursor-pointer">What may be said</summary>
          <ul class="mt-1 grid gap-0.5">
            <li v-for="[say, what] in examples" :key="say">
              <code>{{ say }}</code> {{ what }}
            </li>
            <li>
              Also <code>component</code>, <code>name</code>, <code>slot</code>, <code>index</code>,
              <code>parent</code>, and of the screen <code>title</code>, <code>route</code>,
              <code>id</code>, <code>owner</code>. What is computed is not known, and nothing is
              said of it.
            </li>
          </ul>
        </details>
        <label
          ><span class="label mb-1 block">What to say of one that does not</span
          ><input v-model="draft.message" class="input w-full" required maxlength="300"
        /></label>
        <div class="flex flex-wrap gap-3">
          <label
            ><span class="label mb-1 block">Weighs as</span
            ><select v-model="draft.severity" class="input">
              <option>note</option>
              <option>warning</option>
              <option>error</option>
            </select></label
          ><template v-if="!whole"
            ><label
              ><span class="label mb-1 block">Repair: set</span
              ><select v-model="draft.prop" class="input max-w-40">
                <option value="">nothing</option>
                <option v-for="p in settable?.props" :key="p.name">{{ p.name }}</option>
              </select></label
            ><label v-if="draft.prop"
              ><span class="label mb-1 block">to</span
              ><input v-model="draft.value" class="input w-28" list="rule-values" /><datalist
                id="rule-values"
              >
                <option v-for="v in values" :key="v" :value="v"></option></datalist></label
          ></template>
        </div>
        <label
          ><span class="label mb-1 block">Why (may stay empty)</span
          ><input v-model="draft.why" class="input w-full" maxlength="300"
        /></label>
      </div>
      <section class="min-w-0 border-line md:border-l md:pl-4" aria-label="What it hits now">
        <h3 class="mb-1">What it hits now</h3>
        <p v-if="error" role="alert" class="text-rust">{{ error }}</p>
        <p v-else-if="!seen" class="text-ink2">Nothing is said yet.</p>
        <template v-else>
          <p role="status">
            <b>{{ seen.total }}</b> on {{ seen.screens }}
            {{ seen.screens === 1 ? 'screen' : 'screens'
            }}<template v-if="!whole">, of {{ seen.picked }} that the selector picks</template>.
          </p>
          <p v-if="draft.good || draft.bad" class="text-ink2">
            Its examples:
            <span :class="{ 'text-rust': !seen.goodKept }"
              >the good one {{ seen.goodKept ? 'keeps it' : 'does not keep it any more' }}</span
            >,
            <span :class="{ 'text-rust': !seen.badFound }"
              >the bad one is {{ seen.badFound ? 'found' : 'not found any more' }}</span
            >.
          </p>
          <ul class="mt-2 max-h-[42vh] overflow-auto border-t border-line">
            <li
              v-for="h in seen.hits"
              :key="h.doc + h.element"
              class="flex gap-2 border-b border-line py-1"
            >
              <RouterLink
                class="shrink-0 underline"
                target="_blank"
                :to="bench(h.doc, h.element)"
                >{{ h.title }}</RouterLink><span class="min-w-0 flex-1 truncate text-ink2">{{
                h.words
              }}</span
              ><span
                v-if="draft.message && h.message !== draft.message"
                class="min-w-0 flex-1 text-rust"
                >{{ h.message }}</span
              >
            </li>
          </ul>
          <p v-if="seen.total > seen.hits.length" class="text-ink2">
            The first {{ seen.hits.length }} are listed.
          </p>
        </template>
      </section>
      <div class="flex justify-end gap-2 md:col-span-2">
        <button type="button" class="btn btn-bare" @click="emit('close')">Cancel</button
        ><button class="btn btn-main" :disabled="!!error || !seen || !ws.canKeep">
          {{ rule ? 'Keep it so' : 'Make it a rule' }}
        </button>
      </div>
    </form>
  </AppDialog>
</template>
