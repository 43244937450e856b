<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import MixBar from '../../ui/MixBar.vue'
import { counted } from '../../use/counted'

/** The languages that the texts are in, how far each is, and how one is added. */
type View = Schemas['ApiLanguageView']
const props = defineProps<{
  languages: View[]
  chosen: string
  editable: boolean
  change: (id: string, how: { drop?: boolean; written?: boolean }) => Promise<string>
}>()
const emit = defineEmits<{ choose: [id: string]; file: [id: string] }>()
const fresh = ref('')
const error = ref('')
const written = computed(() => props.languages.find(l => l.written))
const others = computed(() => props.languages.filter(l => !l.written))
const all = computed(() => written.value?.said ?? 0)
const usual = [
  'ar',
  'cs',
  'de',
  'en',
  'es',
  'fr',
  'it',
  'ja',
  'nl',
  'pl',
  'pt-BR',
  'sv',
  'tr',
  'uk',
]
const names = new Intl.DisplayNames(['en'], { type: 'language', fallback: 'code' })
const offered = computed(() =>
  usual.filter(id => !props.languages.some(l => l.id === id)).map(id => [id, names.of(id)]),
)
const mix = (l: View) => [
  { value: 'said', uses: l.said - l.changed - l.wrong },
  { value: 'changed since', uses: l.changed },
  { value: 'cannot be shown', uses: l.wrong },
  { value: 'missing', uses: all.value - l.said },
]

async function add() {
  const id = fresh.value.trim()
  error.value = await props.change(id, {})
  if (error.value) return
  fresh.value = ''
  emit('choose', id)
}
async function drop(l: View) {
  error.value = await props.change(l.id, { drop: true })
}
async function write(e: Event) {
  const field = e.target as HTMLInputElement
  error.value = await props.change(field.value.trim(), { written: true })
  if (error.value && written.value) field.value = written.value.id
}
</script>

<template>
  <div>
    <div v-if="written" class="mb-4">
      <label class="label" for="written">Written in</label>
      <div class="flex items-center gap-2">
        <input
          id="written"
          class="input w-20 font-mono"
          :value="written.id"
          :readonly="!editable"
          @change="write"
        />
        <span class="min-w-0 truncate">{{ written.name }}</span>
      </div>
      <p class="mt-1 text-xs text-ink2">
        {{ counted(all, 'text') }} ·
        <a class="underline" :href="`/api/texts/file?language=${written.id}`" download
          >file to translate</a
        >
      </p>
    </div>
    <h2 class="label mb-1 text-sm font-normal">Translated into</h2>
    <ul>
      <li v-for="l in others" :key="l.id" class="mb-2">
        <button
          class="flex w-full items-center gap-2 px-1 py-0.5 text-left hover:bg-wash"
          :class="{ bracket: l.id === chosen }"
          :aria-pressed="l.id === chosen"
          @click="emit('choose', l.id)"
        >
          <span class="min-w-0 flex-1 truncate">{{ l.name }}</span>
          <MixBar :parts="mix(l)" :width="56" />
        </button>
        <p class="px-1 text-xs text-ink2">
          {{ l.said === all ? 'all said' : `${all - l.said} missing`
          }}<template v-if="l.changed">, {{ l.changed }} changed since</template
          ><template v-if="l.wrong"
            >, <span class="text-rust">{{ l.wrong }} wrong</span></template
          >
        </p>
        <p v-if="l.id === chosen" class="flex flex-wrap gap-x-3 px-1 text-xs">
          <a class="underline" :href="`/api/texts/file?language=${l.id}`" download>its file</a>
          <button v-if="editable" class="underline" @click="emit('file', l.id)">
            take a file in
          </button>
          <button
            v-if="editable"
            class="underline"
            :aria-label="`Remove ${l.name} and what is said in it`"
            @click="drop(l)"
          >
            remove
          </button>
        </p>
      </li>
      <li v-if="!others.length" class="text-ink2">no other language yet</li>
    </ul>
    <form v-if="editable" class="mt-3 flex items-end gap-2" @submit.prevent="add">
      <label class="min-w-0 flex-1"
        ><span class="label mb-1 block">Another language</span
        ><input
          v-model="fresh"
          class="input w-full font-mono"
          list="languages"
          placeholder="de"
          required
      /></label>
      <button class="btn">Add</button>
      <datalist id="languages">
        <option v-for="[id, name] in offered" :key="id" :value="id">{{ name }}</option>
      </datalist>
    </form>
    <button v-if="editable" class="mt-2 text-xs underline" @click="emit('file', '')">
      or take a translated file in
    </button>
    <p v-if="error" role="alert" class="mt-2 text-rust">{{ error }}.</p>
  </div>
</template>
