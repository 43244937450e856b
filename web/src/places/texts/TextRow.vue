<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { where, type Entry } from './texts'

/** One text, and what it is in the language that is looked at. */
const props = defineProps<{
  entry: Entry
  language: Schemas['ApiLanguageView'] | undefined // none shows the text alone
  editable: boolean
  say: (key: string, is: string) => Promise<string>
}>()
const emit = defineEmits<{ next: [from: HTMLElement] }>()
const is = ref(props.entry.is ?? '')
const refused = ref('')
const saving = ref(false)
const field = ref<HTMLTextAreaElement>()
// What others say meanwhile shows; what is being typed here stays.
watch([() => props.entry.is, () => props.language?.id], back)
const rows = computed(() =>
  Math.min(6, Math.max(1, Math.ceil(Math.max(is.value.length, props.entry.message.length) / 48))),
)
const values = computed(() => props.entry.values.map(v => `{${v.name}}`).join(' '))
const wrong = computed(() => refused.value || props.entry.wrong || '')
const bench = computed(() => ({
  path: `/bench/${props.entry.doc.replace(':', '/')}`,
  hash: props.entry.element ? `#${props.entry.element}` : '',
}))

async function save(text = is.value): Promise<boolean> {
  if (saving.value) return false
  if (text === (props.entry.is ?? '')) return true
  saving.value = true
  refused.value = await props.say(props.entry.key, text)
  saving.value = false
  return !refused.value
}
async function enter(e: KeyboardEvent) {
  if (e.isComposing) return
  e.preventDefault()
  const field = e.currentTarget as HTMLElement
  if (await save()) emit('next', field)
}
function back() {
  is.value = props.entry.is ?? ''
  refused.value = ''
}
async function take(text: string) {
  field.value?.focus() // what was pressed goes
  is.value = text
  saving.value = true
  refused.value = await props.say(props.entry.key, text)
  saving.value = false
}
</script>

<template>
  <li
    class="grid grid-cols-[180px_minmax(0,1fr)_minmax(0,1fr)] gap-x-4 border-b border-line px-4 py-1.5 max-md:grid-cols-1"
  >
    <RouterLink
      :to="bench"
      class="truncate pt-1 text-xs text-ink2 hover:underline"
      :title="entry.key"
      >{{ where(entry) }}</RouterLink
    >
    <p class="min-w-0 pt-0.5 break-words whitespace-pre-wrap">{{ entry.message }}</p>
    <div v-if="language" class="min-w-0">
      <textarea
        ref="field"
        v-model="is"
        class="input block h-auto w-full resize-none py-0.5"
        :class="{ '!border-rust': wrong }"
        :rows="rows"
        :lang="language.id"
        :dir="language.direction"
        :readonly="!editable"
        :aria-label="`${entry.message} in ${language.name}`"
        :aria-invalid="!!wrong"
        :aria-describedby="wrong ? `wrong-${entry.key}` : undefined"
        spellcheck="true"
        @keydown.enter.exact="enter"
        @keydown.esc.stop="back"
        @blur="save()"
      ></textarea>
      <p v-if="wrong" :id="`wrong-${entry.key}`" class="text-xs text-rust" role="alert">
        {{ wrong }}.
      </p>
      <p v-else-if="entry.doubt" class="text-xs text-slate">{{ entry.doubt }}.</p>
      <p v-if="entry.was" class="text-xs text-slate">
        Said of “{{ entry.was }}”<template v-if="editable"
          >; <button class="underline" @click="take(is)">it still holds</button></template
        >
      </p>
      <p v-if="!entry.is && values" class="text-xs text-ink2">puts in {{ values }}</p>
      <p v-if="!entry.is && entry.like && editable && !is" class="text-xs">
        <button class="underline" @click="take(entry.like)">
          as elsewhere: <span :lang="language.id" :dir="language.direction">{{ entry.like }}</span>
        </button>
      </p>
    </div>
  </li>
</template>
