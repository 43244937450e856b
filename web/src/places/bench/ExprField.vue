<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { ask, GET, type Schemas } from '../../api/client'
import { useBench } from './useBench'

/** A text, or an expression after "=": while it is typed, what may stand there is
 * offered, and what comes of it for a record is told. */
const props = defineProps<{
  modelValue: string
  element: string
  prop: string
  label: string
  always?: boolean
  placeholder?: string
  readonly?: boolean
  list?: string
  focusNow?: boolean
}>()
const emit = defineEmits<{ enter: [text: string]; focus: []; left: [] }>()
const bench = useBench()
const input = ref<HTMLInputElement>()
const text = ref(props.modelValue)
const first = ref(props.modelValue) // as it was when it was entered, or last sent
// What is being typed stays, whatever comes meanwhile.
watch(
  () => props.modelValue,
  v => {
    if (document.activeElement !== input.value || text.value === first.value)
      text.value = first.value = v
  },
)
const open = ref(false)
const at = ref(-1) // which of what is offered; -1 is what was typed
const look = shallowRef<Schemas['ApiExpressionOut']>()
const computedText = computed(() => props.always || text.value.trimStart().startsWith('='))
/** The expression, and where in the text it begins. */
const begin = computed(() =>
  text.value.trimStart().startsWith('=') ? text.value.indexOf('=') + 1 : 0,
)
const source = computed(() => text.value.slice(begin.value))
const bytes = (s: string) => new TextEncoder().encode(s).length

async function ahead() {
  if (!open.value || !computedText.value) {
    look.value = undefined
    return
  }
  const [kind, id] = bench.doc.value.split(':') as [string, string]
  const cursor = input.value?.selectionStart ?? text.value.length
  try {
    look.value = await ask(
      GET('/api/docs/{kind}/{id}/expression', {
        params: {
          path: { kind, id },
          query: {
            element: props.element,
            prop: props.prop,
            source: source.value,
            at: bytes(text.value.slice(begin.value, Math.max(begin.value, cursor))),
            state: bench.state.value || undefined,
            set: bench.set.value || undefined,
            record: bench.record.value,
          },
        },
      }),
    )
    at.value = -1
  } catch {
    look.value = undefined
  }
}
watchDebounced([text, open, bench.record], ahead, { debounce: 80 })

interface Offer {
  text: string
  why: string
  whole?: string
  put?: string
  from?: number
}
const offers = computed((): Offer[] => {
  const l = look.value
  if (!l) return []
  const blank = !source.value.trim()
  return [
    ...(blank
      ? l.met.map(m => ({
          text: m.source,
          why: `as on ${m.screens.slice(0, 2).join(', ')}${m.screens.length > 2 ? ` and ${m.screens.length - 2} more` : ''}`,
          whole: m.source,
        }))
      : []),
    ...l.completions.map(c => ({ text: c.text, why: c.why, put: c.put, from: c.from })),
  ]
})
async function take(o: Offer) {
  const prefix = props.always ? text.value.slice(0, begin.value) : '= '
  const src = source.value.trimStart(),
    cut = source.value.length - src.length
  const cursor = Math.max(0, (input.value?.selectionStart ?? text.value.length) - begin.value - cut)
  const next =
    o.whole ??
    new TextDecoder().decode(new TextEncoder().encode(src).slice(0, o.from)) +
      o.put +
      src.slice(cursor)
  const end = o.whole ? next.length : next.length - src.slice(cursor).length
  text.value = prefix + next
  at.value = -1
  await nextTick()
  input.value?.focus()
  input.value?.setSelectionRange(prefix.length + end, prefix.length + end)
}
function key(e: KeyboardEvent) {
  const n = offers.value.length
  if (open.value && e.altKey && (e.key === 'ArrowDown' || e.key === 'ArrowUp')) {
    e.preventDefault()
    e.stopPropagation()
    bench.record.value += e.key === 'ArrowDown' ? 1 : -1
    return
  }
  if (open.value && n && (e.key === 'ArrowDown' || e.key === 'ArrowUp')) {
    e.preventDefault()
    e.stopPropagation()
    at.value = ((at.value + (e.key === 'ArrowDown' ? 1 : -1) + n + 1 + 1) % (n + 1)) - 1
  } else if (open.value && at.value >= 0 && (e.key === 'Enter' || e.key === 'Tab')) {
    e.preventDefault()
    e.stopPropagation()
    void take(offers.value[at.value]!)
  } else if (
    open.value &&
    n &&
    e.key === 'Tab' &&
    computedText.value &&
    /[\w.]$/.test(source.value)
  ) {
    e.preventDefault()
    e.stopPropagation()
    void take(offers.value[0]!)
  } else if (e.key === 'Enter') {
    e.preventDefault()
    open.value = false
    send(true)
  } else if (e.key === 'Escape' && open.value && computedText.value) {
    e.preventDefault()
    e.stopPropagation()
    open.value = false
  }
}
function typed() {
  open.value = true
}
function send(asked = false) {
  if (!asked && text.value === first.value) return
  first.value = text.value
  emit('enter', text.value)
}
function left() {
  open.value = false
  if (text.value === first.value) emit('left')
  send()
}
function entered() {
  first.value = text.value
  open.value = true
  emit('focus')
}
watch(input, el => {
  if (el && props.focusNow) {
    el.focus()
    // What is begun is gone on with; what stands is typed over.
    if (text.value.trim() === '=') el.setSelectionRange(text.value.length, text.value.length)
    else el.select()
  }
})
</script>

<template>
  <div class="relative min-w-0" @keydown="key">
    <input
      ref="input"
      v-model="text"
      data-choice
      class="input h-5 w-full min-w-0"
      :class="{ 'font-mono text-slate': computedText }"
      :aria-label="label"
      :role="computedText ? 'combobox' : undefined"
      :aria-expanded="computedText ? offers.length > 0 : undefined"
      :aria-controls="computedText ? `offers-${element}-${prop}` : undefined"
      :aria-autocomplete="computedText ? 'list' : undefined"
      :aria-activedescendant="at >= 0 ? `offer-${at}` : undefined"
      :list="computedText ? undefined : list"
      :placeholder="placeholder"
      :readonly="readonly"
      @focus="entered"
      @input="typed"
      @click="ahead"
      @blur="left"
      @change="send()"
    />
    <div
      v-if="open && look && computedText && !readonly"
      class="absolute top-full left-0 z-30 w-full min-w-56 border border-ink bg-sheet"
      @pointerdown.prevent
    >
      <p
        v-if="look.problem || look.result"
        class="truncate border-b border-line px-2 py-0.5 text-xs"
        :class="look.problem ? 'text-rust' : 'text-ink2'"
        role="status"
        :title="look.problem || look.result"
      >
        {{ look.problem || `→ ${look.result}` }}
      </p>
      <p
        v-if="look.model && look.records"
        class="flex items-center gap-1 border-b border-line px-2 py-0.5 text-xs text-ink2"
      >
        <span class="truncate">{{ look.record }}</span><button
          type="button"
          class="ml-auto shrink-0 px-1 hover:bg-wash"
          aria-label="The record before"
          title="Alt ↑"
          @click="bench.record.value--"
        >
          ‹</button
        ><span class="shrink-0"
          >{{ (((bench.record.value % look.records) + look.records) % look.records) + 1 }} of
          {{ look.records }}</span
        ><button
          type="button"
          class="shrink-0 px-1 hover:bg-wash"
          aria-label="The next record"
          title="Alt ↓"
          @click="bench.record.value++"
        >
          ›
        </button>
      </p>
      <ul
        :id="`offers-${element}-${prop}`"
        role="listbox"
        class="max-h-44 overflow-auto"
        aria-label="What may stand here"
      >
        <li
          v-for="(o, i) in offers"
          :id="`offer-${i}`"
          :key="i"
          role="option"
          :aria-selected="i === at"
          class="flex cursor-pointer items-baseline gap-2 px-2 py-px"
          :class="{ 'bg-mosswash': i === at }"
          @click="take(o)"
        >
          <span class="min-w-0 truncate font-mono">{{ o.text }}</span><span
            class="ml-auto max-w-[55%] shrink-0 truncate text-xs text-ink2"
            >{{ o.why }}</span
          >
        </li>
      </ul>
    </div>
  </div>
</template>
