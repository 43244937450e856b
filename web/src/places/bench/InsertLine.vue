<script setup lang="ts">
import { computed, inject, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { ask, GET, type Edit, type Element, type Suggestion } from '../../api/client'
import { counted } from '../../use/counted'
import { copyOf } from './clipboard'
import { iconsKey, treeFor, typedLine } from './insertion'
import { findIn, newId, newIds, slotWords } from './tree'
import { useBench } from './useBench'

const props = defineProps<{ parent: string; after: string; slot: string; depth: number }>()
const emit = defineEmits<{
  cancel: []
  inserted: [id: string, editText: boolean, next?: 'inside' | 'after']
}>()
const bench = useBench()
const query = ref('')
const at = ref(0)
const input = ref<HTMLInputElement>()
const list = ref<HTMLElement>()
const suggestions = shallowRef<Suggestion[]>([])
const elsewhere = shallowRef<Suggestion[]>([])
const typed = computed(() => typedLine(query.value))
const asked = computed(() => typed.value.asked)
const icons = inject(iconsKey, () => [])
/** Words behind the component's name that are none of it: they are its text. */
const rest = ref('')
const refused = ref('') // why what is typed is not taken

/** The last child that stands where the suggestion would: what comes next depends on it. */
function lastIn(slot: string): string {
  if (props.slot === slot) return props.after
  const parent = bench.root.value && findIn(bench.root.value, props.parent)?.el
  return parent?.children?.filter(c => (c.slot ?? '') === slot).at(-1)?.id ?? ''
}
type Next = Awaited<ReturnType<typeof next>>
function next(q: string) {
  const [kind, id] = bench.doc.value.split(':') as [string, string]
  return ask(
    GET('/api/docs/{kind}/{id}/next', {
      params: {
        path: { kind, id },
        query: {
          parent: props.parent,
          slot: props.slot,
          after: props.slot === '*' ? lastIn('') : props.after,
          q,
          state: bench.state.value || undefined,
        },
      },
    }),
  )
}
let latest = 0
let pending: Promise<void> = Promise.resolve()
async function search() {
  const mine = ++latest
  const words = asked.value.toLowerCase().split(/\s+/)
  let out = await next(asked.value)
  let beyond = ''
  // "icon edit" is an icon of which something is said, unless it is the name of something.
  const named = (all: Next, title: string) =>
    [...all.suggestions, ...all.elsewhere].some(s => s.title.toLowerCase() === title)
  const literal = [...out.suggestions, ...out.elsewhere].some(s =>
    words.every(w => `${s.title} ${s.why ?? ''}`.toLowerCase().includes(w)),
  )
  for (let n = words.length - 1; n > 0 && !literal && mine === latest; n--) {
    const title = words.slice(0, n).join(' ')
    const fewer = await next(title)
    if (named(fewer, title)) {
      out = fewer
      out.suggestions = out.suggestions.toSorted(
        (a, b) => Number(b.title.toLowerCase() === title) - Number(a.title.toLowerCase() === title),
      )
      beyond = asked.value.split(/\s+/).slice(n).join(' ')
      break
    }
  }
  if (mine !== latest) return
  rest.value = beyond
  elsewhere.value = out.elsewhere.filter(s => !s.around?.length && !s.other)
  suggestions.value = [
    ...out.suggestions,
    ...out.elsewhere.filter(s => s.around?.length || s.other),
  ]
  at.value = 0
}
watch(query, () => {
  refused.value = ''
})
watch(asked, () => {
  pending = search()
})
onMounted(async () => {
  input.value?.focus()
  pending = search()
  await pending
  await nextTick()
  list.value?.scrollIntoView({ block: 'nearest' })
})

/** A whole arrangement is made by the server from what the team has. */
async function takeSnippet(s: Suggestion, next?: 'inside' | 'after') {
  const made = await ask(
    GET('/api/snippet', {
      params: {
        query: {
          id: s.snippet!,
          app: bench.head.value?.app ?? '',
          doc: bench.doc.value,
          parent: props.parent,
          state: bench.state.value || undefined,
        },
      },
    }),
  )
  const whole = { ...(made.tree as unknown as Element), slot: s.slot || undefined }
  const tree = copyOf(whole, newIds(whole), () => true) // its names are free here
  const edits: Edit[] = [{ op: 'insert', parent: props.parent, after: lastIn(s.slot), tree }]
  const rows = made.into && bench.root.value && findIn(bench.root.value, made.into)?.el
  if (rows && made.beside)
    edits.push({
      op: 'insert',
      parent: rows.id,
      after: rows.children?.filter(c => !c.slot).at(-1)?.id ?? '',
      tree: copyOf(made.beside as unknown as Element),
    })
  if (await bench.edit(`New ${s.title}`, edits, tree.id)) {
    bench.lastInsert.value = tree
    bench.lastSnippet.value = rows ? '' : s.snippet!
    emit('inserted', tree.id, false, next)
  }
}
/** Puts it on the screen; next says where the line after it is opened at once. */
async function take(s: Suggestion | undefined, next?: 'inside' | 'after') {
  if (!s) return
  if (s.snippet) {
    await takeSnippet(s, next)
    return
  }
  const id = newId()
  const said = [rest.value, typed.value.text].filter(Boolean)
  const about = [...said.slice(1), typed.value.about].filter(Boolean).join(' | ')
  const { tree, lost } = treeFor(s, said[0] ?? '', about, id, icons())
  refused.value = lost.join('; ')
  if (lost.length) return
  if (
    await bench.edit(
      `New ${s.title}`,
      [{ op: 'insert', parent: props.parent, after: lastIn(s.slot), tree }],
      id,
    )
  ) {
    bench.lastInsert.value = tree
    bench.lastSnippet.value = ''
    emit('inserted', id, !next && s.asksText && !said.length, next)
  }
}
async function key(e: KeyboardEvent) {
  e.stopPropagation()
  const n = suggestions.value.length || 1
  if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
    e.preventDefault()
    at.value = (at.value + (e.key === 'ArrowDown' ? 1 : -1) + n) % n
    await nextTick()
    list.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' })
  } else if (e.key === 'Enter' || e.key === 'Tab') {
    e.preventDefault()
    await pending // who types fast must get what was typed
    await take(
      suggestions.value[at.value],
      e.key === 'Tab' ? 'inside' : e.ctrlKey || e.metaKey ? 'after' : undefined,
    )
  } else if (e.key === 'Escape') {
    e.preventDefault()
    emit('cancel')
  }
}
</script>

<template>
  <div class="bg-sheet" :style="{ paddingLeft: 22 + depth * 14 + 'px' }">
    <input
      ref="input"
      v-model="query"
      class="h-6 w-full bg-transparent outline-none"
      role="combobox"
      aria-expanded="true"
      aria-controls="next-list"
      aria-autocomplete="list"
      :aria-activedescendant="suggestions.length ? 'next-' + at : undefined"
      aria-label="New element: a component, then | and its text, then | and what it is about"
      placeholder="component | text | heading or label"
      @keydown="key"
      @blur="$emit('cancel')"
    />
    <p v-if="refused" role="alert" class="px-2 text-rust">Not taken: {{ refused }}.</p>
    <p v-else-if="rest" role="status" class="px-2 text-xs text-ink2">“{{ rest }}” is said of it.</p>
    <ul
      id="next-list"
      ref="list"
      role="listbox"
      aria-label="What comes next here"
      class="max-h-56 overflow-auto border-y border-line"
      @pointerdown.prevent
    >
      <li
        v-for="(s, i) in suggestions"
        :id="'next-' + i"
        :key="s.type + (s.snippet ?? '')"
        role="option"
        :aria-selected="i === at"
        class="flex cursor-pointer items-center gap-2 px-2 py-px"
        :class="{ 'bg-mosswash': i === at }"
        :title="s.summary"
        @click="take(s)"
        @pointermove="at = i"
      >
        <span class="h-1.5 w-8 shrink-0 bg-wash" :title="`${Math.round(100 * s.probability)} %`"
          ><span
            class="block h-1.5 bg-moss"
            :style="{ width: Math.max(2, 100 * s.probability) + '%' }"
          ></span
        ></span>
        <span class="shrink-0">{{ s.title }}</span>
        <span v-if="s.slot || s.other" class="max-w-40 shrink-0 truncate text-xs text-slate">{{
          s.slot ? slotWords(s.slot) : 'main slot'
        }}</span>
        <span
          class="min-w-0 truncate text-xs"
          :class="s.around?.length ? 'text-slate' : 'text-ink2'"
          >{{
            s.around?.length
              ? `in a new ${s.around.map(a => a.title).join(', in it a new ')}`
              : s.other
                ? 'its place here'
                : s.why || (s.screens ? `next here on ${counted(s.screens, 'screen')}` : s.summary)
          }}</span
        >
        <span
          v-if="Object.keys(s.preset).length || s.aboutUsual"
          class="ml-auto shrink-0 text-xs text-ink2"
          >{{
            [
              ...(s.aboutUsual && !typed.about && (s.takesText || !typed.text)
                ? [`“${s.aboutUsual}”`]
                : []),
              ...Object.entries(s.preset).map(([k, v]) => `${k} ${v}`),
            ].join(', ')
          }}</span
        >
      </li>
      <li v-if="!suggestions.length" class="px-2 py-1 text-ink2">
        Nothing that may stand here matches “{{ asked }}”.
      </li>
      <li
        v-for="s in elsewhere"
        :key="'x' + s.type"
        class="truncate px-2 py-px text-ink2"
        :title="s.why"
      >
        {{ s.title }}: {{ s.why }}
      </li>
    </ul>
  </div>
</template>
