<script setup lang="ts">
import { nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { ask, GET, POST, type Choices } from '../../api/client'
import CodeText from '../../ui/CodeText.vue'
import { languageOf } from '../../ui/tones'
import { nobody } from '../../use/focus'
import { useBench } from './useBench'

/** The lines as code: read, edited, and taken as the same edits; and the selected
 * element as it is delivered. Where the caret stands, that element is selected. */
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const code = ref('')
const loaded = ref('')
const revision = ref(0)
const error = ref('')
const area = ref<HTMLTextAreaElement>()
const delivered = shallowRef<Choices['code']>({})
const target = ref('lines')
const path = () => {
  const [kind, id] = bench.doc.value.split(':') as [string, string]
  return { kind, id }
}

async function load() {
  const out = await ask(GET('/api/docs/{kind}/{id}/code', { params: { path: path() } }))
  // What is being written is not thrown away for what somebody else did.
  if (code.value !== loaded.value && loaded.value) {
    error.value =
      'The screen was changed meanwhile; what you wrote stays here until you take the new code.'
    return
  }
  code.value = loaded.value = out.code
  revision.value = out.revision
  error.value = ''
  await nextTick()
  show()
}
function show() {
  const at = code.value.indexOf(` key="${bench.selected.value}"`)
  if (at < 0 || !area.value || document.activeElement === area.value) return
  const start = code.value.lastIndexOf('\n', at) + 1
  area.value.setSelectionRange(
    start,
    code.value.indexOf('\n', at) < 0 ? code.value.length : code.value.indexOf('\n', at),
  )
  area.value.scrollTop = (code.value.slice(0, start).split('\n').length - 4) * 18
}
onMounted(async () => {
  await load()
  if (nobody()) area.value?.focus({ preventScroll: true })
})
watch(() => bench.seq.value, load)
watch(
  bench.selected,
  async id => {
    show()
    try {
      delivered.value = (
        await ask(
          GET('/api/docs/{kind}/{id}/choices', {
            params: { path: path(), query: { element: id } },
          }),
        )
      ).code
    } catch {
      delivered.value = {}
    }
  },
  { immediate: true },
)
/** The element whose tag the caret stands in or after. */
function caret() {
  const before = code.value.slice(
    0,
    code.value.indexOf('>', area.value!.selectionStart) + 1 || undefined,
  )
  const id = [...before.matchAll(/ key="([^"]+)"/g)].at(-1)?.[1]
  if (id) bench.select(id)
}
async function put() {
  error.value = ''
  if (
    await bench.planned(seen =>
      ask(
        POST('/api/docs/{kind}/{id}/code', {
          params: { path: path() },
          body: { code: code.value, revision: revision.value, seen },
        }),
      ),
    )
  ) {
    loaded.value = ''
    await load()
    return
  }
  error.value = bench.refusal.value
  const line = Number(/^line (\d+):/.exec(error.value)?.[1])
  if (!line || !area.value) return
  const start =
    code.value
      .split('\n')
      .slice(0, line - 1)
      .join('\n').length + (line > 1 ? 1 : 0)
  area.value.focus()
  area.value.setSelectionRange(
    start,
    code.value.indexOf('\n', start) < 0 ? code.value.length : code.value.indexOf('\n', start),
  )
}
async function fresh() {
  loaded.value = ''
  await load()
}
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col" @keydown.stop>
    <div
      class="flex h-7 shrink-0 items-center gap-1 border-b border-line px-3"
      role="tablist"
      aria-label="Code"
    >
      <button
        v-for="t in ['lines', ...Object.keys(delivered)]"
        :key="t"
        role="tab"
        :aria-selected="target === t"
        class="px-1"
        :class="target === t ? 'font-semibold text-moss' : 'text-ink2'"
        @click="target = t"
      >
        {{ t === 'lines' ? 'lines' : `as delivered, ${t}` }}
      </button>
      <button class="ml-auto underline" @click="emit('close')">back to lines</button>
    </div>
    <textarea
      v-show="target === 'lines'"
      ref="area"
      v-model="code"
      class="min-h-0 flex-1 resize-none bg-sheet p-2 font-mono text-xs leading-[18px] whitespace-pre outline-none"
      spellcheck="false"
      wrap="off"
      aria-label="The screen as code"
      data-home
      :readonly="!bench.canBuild.value"
      @keydown.ctrl.enter.prevent="put"
      @keydown.esc="emit('close')"
      @click="caret"
      @keyup="e => e.key.startsWith('Arrow') && caret()"
    ></textarea>
    <CodeText
      v-if="target !== 'lines'"
      class="min-h-0 flex-1 overflow-auto bg-sheet p-2 text-xs leading-[18px]"
      :code="delivered[target] ?? ''"
      :language="languageOf(target)"
    />
    <RouterLink
      v-if="target !== 'lines' && bench.selected.value"
      class="shrink-0 border-t border-line px-3 py-1 underline"
      :to="{
        path: '/deliver',
        query: { doc: bench.doc.value, element: bench.selected.value, target },
      }"
      >In its delivered file</RouterLink
    >
    <p v-if="error" role="alert" class="shrink-0 border-t border-line px-3 py-1 text-rust">
      {{ error }}
      <button v-if="error.includes('meanwhile')" class="underline" @click="fresh">
        Take the new code
      </button>
    </p>
    <div
      v-if="target === 'lines' && bench.canBuild.value"
      class="flex shrink-0 items-center justify-end gap-2 border-t border-line px-3 py-1"
    >
      <span class="mr-auto text-xs text-ink2"
        >key tells which element a tag is; a new one has none</span
      ><button class="btn btn-main h-6" :disabled="code === loaded" @click="put">
        Apply <kbd class="kbd">Ctrl Enter</kbd>
      </button>
    </div>
  </div>
</template>
