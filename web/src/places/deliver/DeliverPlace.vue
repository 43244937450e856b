<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { ask, GET, POST, type Schemas } from '../../api/client'
import { useCopy } from '../../use/copy'
import { useWorkspace } from '../../use/workspace'

const ws = useWorkspace()
const toClipboard = useCopy()
const targets = shallowRef<Schemas['ApiTargetView'][]>([])
const target = ref('vue')
const off = ref(new Set<string>())
const files = shallowRef<Schemas['ApiFileView'][]>([])
const open = ref('')
const busy = ref(false)
const error = ref('')
const chosen = computed(() => ws.screens.filter(s => !off.value.has(s.id)).map(s => s.id))
const file = computed(() => files.value.find(f => f.path === open.value))
const size = (n: number) => (n < 1024 ? `${n} B` : `${(n / 1024).toFixed(1)} KB`)
const tree = computed(() =>
  files.value.map(f => ({
    ...f,
    dir: f.path.includes('/') ? f.path.slice(0, f.path.lastIndexOf('/') + 1) : '',
    name: f.path.slice(f.path.lastIndexOf('/') + 1),
  })),
)

onMounted(async () => {
  targets.value = (await ask(GET('/api/targets'))).targets
})
let latest = 0
watch(
  [target, chosen],
  async () => {
    const mine = ++latest
    if (!chosen.value.length) {
      files.value = []
      return
    }
    busy.value = true
    error.value = ''
    try {
      const out = await ask(
        POST('/api/deliver', { body: { target: target.value, screens: chosen.value } }),
      )
      if (mine !== latest) return
      files.value = out.files
      if (!files.value.some(f => f.path === open.value))
        open.value =
          files.value.find(f => f.path.includes('screens/') || f.path.endsWith('.html'))?.path ??
          files.value[0]?.path ??
          ''
    } catch (e) {
      error.value = (e as Error).message
    } finally {
      if (mine === latest) busy.value = false
    }
  },
  { immediate: true },
)
function toggle(id: string) {
  const next = new Set(off.value)
  if (!next.delete(id)) next.add(id)
  off.value = next
}
async function download() {
  const answer = await fetch('/api/deliver/archive', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ target: target.value, screens: chosen.value }),
  })
  if (!answer.ok) {
    error.value = 'The delivery could not be packed.'
    return
  }
  const a = document.createElement('a')
  a.href = URL.createObjectURL(await answer.blob())
  a.download = `${ws.data?.name.toLowerCase() ?? 'screens'}-${target.value}.zip`
  a.click()
  URL.revokeObjectURL(a.href)
}
const copy = () => toClipboard(file.value?.text ?? '', 'The file')
</script>

<template>
  <div
    class="grid h-full grid-cols-[220px_280px_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:overflow-auto"
  >
    <section class="overflow-auto border-r border-line p-4" aria-label="What to deliver">
      <h1 class="mb-2 text-xl">Deliver</h1>
      <fieldset class="mb-4">
        <legend class="label">Target</legend>
        <label v-for="t in targets" :key="t.id" class="flex gap-2 py-0.5" :title="t.purpose"
          ><input v-model="target" type="radio" name="target" :value="t.id" class="accent-moss" />{{
            t.title
          }}</label
        >
        <p class="text-xs text-ink2">{{ targets.find(t => t.id === target)?.purpose }}</p>
      </fieldset>
      <fieldset>
        <legend class="label flex w-full items-baseline gap-2">
          Screens <span>{{ chosen.length }} of {{ ws.screens.length }}</span>
        </legend>
        <div class="mb-1 flex gap-2">
          <button class="underline" @click="off = new Set()">all</button
          ><button class="underline" @click="off = new Set(ws.screens.map(s => s.id))">none</button>
        </div>
        <label v-for="s in ws.screens" :key="s.id" class="flex gap-2"
          ><input
            type="checkbox"
            :checked="!off.has(s.id)"
            class="accent-moss"
            @change="toggle(s.id)"
          /><span class="truncate">{{ s.title }}</span></label
        >
      </fieldset>
    </section>
    <section class="flex min-h-0 flex-col border-r border-line" aria-label="Files">
      <div class="flex items-center gap-2 border-b border-line px-3 py-2">
        <h2>Files</h2>
        <span class="text-ink2" role="status">{{ busy ? 'writing …' : files.length }}</span><button
          class="btn btn-main ml-auto"
          :disabled="!files.length"
          @click="download"
        >
          Download
        </button>
      </div>
      <p v-if="error" role="alert" class="px-3 py-2 text-rust">{{ error }}</p>
      <ul class="min-h-0 flex-1 overflow-auto py-1">
        <li v-for="f in tree" :key="f.path">
          <button
            class="flex w-full items-baseline px-3 text-left font-mono text-xs leading-5 hover:bg-wash"
            :class="{ 'bg-mosswash': f.path === open }"
            :aria-pressed="f.path === open"
            @click="open = f.path"
          >
            <span class="text-ink2">{{ f.dir }}</span><span class="truncate">{{ f.name }}</span
            ><span class="ml-auto shrink-0 pl-2 whitespace-nowrap text-ink2">{{
              size(f.size)
            }}</span>
          </button>
        </li>
      </ul>
      <p v-if="!chosen.length" class="p-3 text-ink2">Choose at least one screen.</p>
    </section>
    <section class="flex min-h-0 min-w-0 flex-col" aria-label="Code">
      <div class="flex items-center gap-2 border-b border-line px-3 py-2">
        <code class="truncate">{{ open }}</code><button
          class="btn ml-auto"
          :disabled="!file?.text"
          @click="copy"
        >
          Copy
        </button>
      </div>
      <pre
        v-if="file?.text"
        class="min-h-0 flex-1 overflow-auto p-3 text-xs leading-[18px]"
      ><code>{{ file.text }}</code></pre>
      <p v-else-if="file" class="p-4 text-ink2">{{ size(file.size) }}, not a text.</p>
    </section>
  </div>
</template>
