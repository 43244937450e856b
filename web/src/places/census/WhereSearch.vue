<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, GET, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import LineDialog from './LineDialog.vue'

/** Every element that a selector picks; those chosen can be set alike at once. */
defineProps<{ sample?: string }>()
const ws = useWorkspace()
const route = useRoute()
const router = useRouter()
const selector = ref('')
const where = shallowRef<Schemas['ApiWhereOut']>()
const kit = shallowRef<Schemas['ApiKitOut']>()
const chosen = ref(new Set<string>())
const error = ref('')
const prop = ref('text')
const value = ref('')
const replacing = ref(false)

const keyOf = (u: Schemas['ApiUseView']) => `${u.doc}#${u.element}`
async function search() {
  error.value = ''
  where.value = undefined
  if (!selector.value.trim()) return
  try {
    where.value = await ask(GET('/api/where', { params: { query: { selector: selector.value } } }))
    chosen.value = new Set(where.value.uses.map(keyOf))
  } catch (e) {
    error.value = (e as Error).message
  }
}
const submit = () =>
  router.replace({ query: { ...route.query, where: selector.value.trim() || undefined } })
watch(
  () => String(route.query.where ?? ''),
  w => {
    selector.value = w
    void search()
  },
  { immediate: true },
)
onMounted(async () => {
  kit.value = await ask(GET('/api/kit'))
})

// What the elements found can be set to.
const defs = computed(() => {
  const types = new Set(where.value?.uses.map(u => u.words))
  return [...(kit.value?.layouts ?? []), ...(kit.value?.components ?? [])].filter(c =>
    types.has(c.tag),
  )
})
const props = computed(() => [
  'text',
  ...new Set(defs.value.flatMap(c => c.props.map(p => p.name))),
])
const values = computed(() => {
  const found = defs.value.flatMap(c => c.props.filter(p => p.name === prop.value))
  if (found.some(p => p.icon)) return kit.value?.icons.map(i => i.name) ?? []
  return [
    ...new Set(
      found.flatMap(
        p => p.values ?? (['true', 'false'].includes(p.default ?? '') ? ['true', 'false'] : []),
      ),
    ),
  ]
})
watch(props, list => {
  if (!list.includes(prop.value)) prop.value = 'text'
})
function choose(u: Schemas['ApiUseView'], on: boolean) {
  const next = new Set(chosen.value)
  if (on) next.add(keyOf(u))
  else next.delete(keyOf(u))
  chosen.value = next
}
watch(() => ws.data?.seq, search)
</script>

<template>
  <form
    class="sticky left-0 flex flex-wrap items-center gap-2 border-b border-line px-4 py-2"
    @submit.prevent="submit"
  >
    <label class="flex items-center gap-2"
      >Where is
      <input
        v-model="selector"
        class="input w-96 max-w-full font-mono"
        :placeholder="`section > ${sample ?? '*'}[size=s]`" /></label
    ><button class="btn">Find</button>
    <span v-if="where" role="status" class="text-ink2"
      >{{ where.total }} {{ where.total === 1 ? 'use' : 'uses' }}</span
    ><span v-if="error" role="alert" class="text-rust">{{ error }}</span>
  </form>
  <section v-if="where" class="sticky left-0 border-b border-line px-4 py-2" aria-label="Found">
    <form
      v-if="where.uses.length && ws.canBuild"
      class="mb-2 flex flex-wrap items-center gap-2"
      @submit.prevent="replacing = true"
    >
      <label class="flex items-center gap-1"
        >Set
        <select v-model="prop" class="input h-7">
          <option v-for="p in props" :key="p">{{ p }}</option>
        </select></label
      >
      <label class="flex items-center gap-1"
        >to
        <input
          v-model="value"
          class="input h-7 w-56"
          list="where-values"
          :placeholder="values.slice(0, 3).join(', ')" /></label
      ><datalist id="where-values">
        <option v-for="v in values" :key="v" :value="v"></option>
      </datalist>
      <button class="btn" :disabled="!chosen.size">on {{ chosen.size }} …</button>
    </form>
    <ul class="grid max-h-60 grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-x-6 overflow-auto">
      <li v-for="u in where.uses" :key="keyOf(u)" class="flex items-center gap-2">
        <input
          v-if="ws.canBuild"
          type="checkbox"
          class="accent-moss"
          :checked="chosen.has(keyOf(u))"
          :aria-label="`${u.element} on ${u.title}`"
          @change="choose(u, ($event.target as HTMLInputElement).checked)"
        />
        <span class="min-w-0 truncate"
          ><RouterLink class="underline" :to="`/bench/${u.doc.replace(':', '/')}#${u.element}`">{{
            u.title
          }}</RouterLink
          >{{ ' ' }} <span class="text-ink2">{{ u.words }} {{ u.element }}</span></span
        >
      </li>
    </ul>
    <p v-if="where.total > where.uses.length" class="text-ink2">
      The first {{ where.uses.length }} are listed.
    </p>
  </section>
  <LineDialog
    v-if="replacing"
    :uses="[...chosen]"
    :prop="prop"
    :value="value"
    @close="replacing = false"
    @done="replacing = false"
  />
</template>
