<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import { computed, reactive } from 'vue'
import type { Schemas } from '../../api/client'
import type { Making, useTheme } from './useTheme'

/** The few decisions that a theme is made with. */
const props = defineProps<{ theme: ReturnType<typeof useTheme>; kit: Schemas['ApiKitOut'] }>()
const t = props.theme
const own = computed(() => !t.theme.value || t.theme.value.own)
const can = (what: string) => t.data.value?.makable.includes(what)
const value = (path: string) => t.preview.value?.values[path] ?? ''
const bare = computed(() => t.data.value?.themes.filter(x => !x.own) ?? [])
const families = computed(() => [
  ...new Set([
    ...(t.data.value?.families ?? []),
    ...(t.data.value?.fonts.map(f => f.family) ?? []),
    'system-ui',
    'Georgia, serif',
    'ui-monospace, monospace',
  ]),
])
const set = computed(() => Object.entries(t.draft.tokens))
function decide<K extends keyof Making>(what: K, v: Making[K] | undefined) {
  const next = { ...t.draft.making }
  if (v === undefined || v === '' || Number.isNaN(v)) delete next[what]
  else next[what] = v
  t.draft.making = next
}
// What is being typed stays as it is while the rest is brought up to date; it counts
// once the field is left.
const typed = reactive<Record<string, string>>({})
const current = (what: 'accent' | 'ground' | 'font' | 'heading') =>
  typed[what] ?? t.draft.making[what] ?? ''
function settle(what: 'accent' | 'ground' | 'font' | 'heading') {
  decide(what, typed[what]?.trim())
  delete typed[what]
}
const text = (e: Event) => (e.target as HTMLInputElement).value
const number = (e: Event) => (text(e) === '' ? undefined : Number(text(e)))
const colours = [
  { what: 'accent', label: 'Accent', path: 'color.accent' },
  { what: 'ground', label: 'Ground', path: 'color.ground' },
] as const
const lengths = [
  { what: 'radius', label: 'Corners', path: 'radius.control', min: 0, max: 40 },
  { what: 'step', label: 'Spacing step', path: 'space.1', min: 1, max: 16 },
  { what: 'size', label: 'Text size', path: 'text.m', min: 10, max: 24 },
] as const
const fonts = [
  { what: 'font', label: 'Font', path: 'font.text' },
  { what: 'heading', label: 'Headings', path: 'font.heading' },
] as const
const files = useFileDialog({ accept: '.json', multiple: false, reset: true })
files.onChange(list => {
  if (list?.[0]) void t.readFile(list[0])
})
const written = (v: unknown) => (typeof v === 'string' ? v : JSON.stringify(v))
const shown = (path: string, v: unknown) => t.preview.value?.values[path] ?? written(v)
function forget(path: string) {
  const next = { ...t.draft.tokens }
  delete next[path]
  t.draft.tokens = next
}
</script>

<template>
  <section :aria-label="own ? 'Make a theme' : `Change ${t.draft.id}`" class="grid gap-2">
    <h3>
      {{ t.draft.id ? (own ? t.draft.name : `The kit’s theme ${t.draft.id}`) : 'A new theme' }}
    </h3>
    <template v-if="own">
      <label class="row"
        ><span>Name</span
        ><input v-model="t.draft.name" class="input" placeholder="Evening" maxlength="40"
      /></label>
      <label class="row"
        ><span>Starts from</span
        ><select v-model="t.draft.from" class="input">
          <option v-for="x in bare" :key="x.id">{{ x.id }}</option>
        </select></label
      >
    </template>
    <div v-for="c in colours.filter(x => can(x.what))" :key="c.what" class="row">
      <span :id="'make-' + c.what">{{ c.label }}</span>
      <span class="flex min-w-0 items-center gap-1"
        ><input
          type="color"
          class="size-7 shrink-0 border border-line bg-sheet p-0.5"
          :aria-label="`${c.label}, choose`"
          :value="(t.draft.making[c.what] || value(c.path)).slice(0, 7).toLowerCase()"
          @input="decide(c.what, text($event).toUpperCase())"
        />
        <input
          class="input w-24 font-mono"
          :aria-labelledby="'make-' + c.what"
          :placeholder="value(c.path)"
          :value="current(c.what)"
          @input="typed[c.what] = text($event)"
          @change="settle(c.what)"
        />
        <button
          v-if="t.draft.making[c.what]"
          class="text-ink2 underline"
          :aria-label="`${c.label} as the start has it`"
          @click="decide(c.what, undefined)"
        >
          undo
        </button></span
      >
    </div>
    <div v-if="can('density')" class="row">
      <span id="make-density">Density</span
      ><span role="radiogroup" aria-labelledby="make-density" class="flex gap-1"
        ><button
          v-for="d in t.data.value?.densities"
          :key="d"
          role="radio"
          :aria-checked="(t.draft.making.density ?? 'normal') === d"
          class="border px-1.5"
          :class="
            (t.draft.making.density ?? 'normal') === d
              ? 'border-moss bg-mosswash font-semibold text-moss'
              : 'border-transparent hover:border-line'
          "
          @click="decide('density', d === 'normal' ? undefined : d)"
        >
          {{ d }}
        </button></span
      >
    </div>
    <label v-for="l in lengths.filter(x => can(x.what))" :key="l.what" class="row"
      ><span>{{ l.label }}</span
      ><span class="flex items-center gap-1"
        ><input
          type="number"
          class="input w-20"
          :min="l.min"
          :max="l.max"
          :placeholder="value(l.path).replace('px', '')"
          :value="t.draft.making[l.what] ?? ''"
          @input="decide(l.what, number($event))"
        /><span class="text-ink2">px</span></span
      ></label
    >
    <label v-for="f in fonts.filter(x => can(x.what))" :key="f.what" class="row"
      ><span>{{ f.label }}</span
      ><input
        class="input min-w-0"
        list="theme-fonts"
        :placeholder="value(f.path).replaceAll('\'', '')"
        :value="current(f.what)"
        @input="typed[f.what] = text($event)"
        @change="settle(f.what)"
    /></label>
    <datalist id="theme-fonts">
      <option v-for="f in families" :key="f" :value="f"></option>
    </datalist>
    <div v-if="set.length">
      <h4 class="mt-1 text-ink2">
        Set one by one
        <button class="ml-2 underline" @click="t.draft.tokens = {}">forget all</button>
      </h4>
      <ul class="max-h-40 overflow-auto">
        <li
          v-for="[path, v] in set"
          :key="path"
          class="flex gap-2"
          :class="{ 'text-rust': path === t.where.value }"
        >
          <code class="truncate">{{ path }}</code><code class="ml-auto truncate text-ink2">{{
            shown(path, v)
          }}</code
          ><button class="underline" :aria-label="`Forget ${path}`" @click="forget(path)">
            forget
          </button>
        </li>
      </ul>
    </div>
    <p class="text-ink2">
      Single tokens are changed in
      <RouterLink class="underline" to="/shelf?sheet=tokens">their sheet</RouterLink>, or
      <button class="underline" @click="files.open()">read from a design tokens file</button>.
    </p>
  </section>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 100px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
}
</style>
