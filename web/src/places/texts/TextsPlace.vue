<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { counted } from '../../use/counted'
import { useWorkspace } from '../../use/workspace'
import LanguageList from './LanguageList.vue'
import TextFileDialog from './TextFileDialog.vue'
import TextRow from './TextRow.vue'
import { is, kinds, type Kind } from './texts'
import { useTexts } from './useTexts'

/** All texts of the screens in one list, and what they are in other languages. */
const ws = useWorkspace()
const t = useTexts()
const { data, error, language, kind, search, groups, titles, shown, alike } = t
const file = ref<string>()
const typed = ref(search.value)
const seek = useDebounceFn(() => (search.value = typed.value.trim()), 150)
const count = computed(() => groups.value.reduce((n, g) => n + g.entries.length, 0))
const of = (k: Kind) => data.value?.texts.filter(e => is(e, k)).length ?? 0
const shownKinds = computed(() => (Object.keys(kinds) as Kind[]).filter(k => k === 'all' || of(k)))

/** The field of the next text takes the keys. */
function next(from: HTMLElement) {
  const fields = [...document.querySelectorAll<HTMLElement>('[data-texts] textarea')]
  fields[fields.indexOf(from) + 1]?.focus()
}
async function sayAsElsewhere() {
  const n = alike.value.length
  const wrong = await t.sayAlike()
  ws.say(wrong || `${counted(n, 'text')} said as elsewhere.`)
}
function taken(id: string) {
  file.value = undefined
  language.value = id
  ws.say('The file is taken in.')
}
</script>

<template>
  <div class="grid h-full grid-cols-[250px_minmax(0,1fr)] max-md:grid-cols-1 max-md:overflow-auto">
    <section class="overflow-auto border-r border-line p-4" aria-label="Languages">
      <h1 class="mb-3 text-xl">Texts</h1>
      <LanguageList
        v-if="data"
        :languages="data.languages"
        :chosen="language"
        :editable="ws.canBuild"
        :change="t.change"
        @choose="id => (language = id)"
        @file="id => (file = id)"
      />
      <details v-if="data?.lost.length" class="mt-4">
        <summary class="cursor-pointer text-slate">
          {{ counted(data.lost.length, 'translation') }} of no text any more
        </summary>
        <ul class="mt-1 text-xs">
          <li v-for="s in data.lost" :key="s.key" class="mb-1 break-words">
            <span class="text-ink2">{{ s.key }}</span><br />{{ s.is }}
            <button v-if="ws.canBuild" class="underline" @click="t.say(s.key, '')">
              throw away
            </button>
          </li>
        </ul>
      </details>
      <details v-if="data?.left.length" class="mt-4">
        <summary class="cursor-pointer text-ink2">{{ data.left.length }} that are no texts</summary>
        <ul class="mt-1 text-xs">
          <li v-for="l in data.left" :key="l.doc + l.element + l.prop" class="mb-1.5 break-words">
            <RouterLink
              class="underline"
              :to="{ path: `/bench/${l.doc.replace(':', '/')}`, hash: `#${l.element}` }"
              >{{ titles.get(l.doc) }}, {{ l.prop }}</RouterLink
            >: “{{ l.says }}”; {{ l.why }}.
          </li>
        </ul>
      </details>
    </section>
    <section class="flex min-h-0 min-w-0 flex-col" aria-label="Texts">
      <div class="flex min-h-[45px] flex-wrap items-center gap-3 border-b border-line px-4 py-2">
        <input
          v-model="typed"
          type="search"
          data-home
          class="input w-56"
          aria-label="Search the texts"
          placeholder="Words, a key, a screen"
          @input="seek"
        />
        <div v-if="shown" role="group" aria-label="Which texts" class="flex gap-1">
          <button
            v-for="k in shownKinds"
            :key="k"
            class="btn btn-bare h-6"
            :class="{ '!border-line': kind === k }"
            :aria-pressed="kind === k"
            @click="kind = k"
          >
            {{ kinds[k] }} <span class="text-ink2">{{ of(k) }}</span>
          </button>
        </div>
        <button v-if="ws.canBuild && alike.length" class="btn h-6" @click="sayAsElsewhere">
          Say {{ alike.length }} as elsewhere
        </button>
        <span class="ml-auto text-ink2" role="status">{{ counted(count, 'text') }}</span>
      </div>
      <p v-if="error" role="alert" class="px-4 py-2 text-rust">{{ error }}</p>
      <div class="min-h-0 flex-1 overflow-auto" data-texts>
        <section
          v-for="g in groups"
          :key="g.doc"
          class="[contain-intrinsic-size:auto_300px] [content-visibility:auto]"
          :aria-label="g.title"
        >
          <h2
            class="sticky top-0 z-[1] flex items-baseline gap-2 border-b border-line bg-wash px-4 py-1"
          >
            {{ g.title
            }}<span class="text-xs font-normal text-ink2"
              >{{ g.doc.split(':')[0] }} · {{ g.entries.length }}</span
            >
          </h2>
          <ul>
            <TextRow
              v-for="e in g.entries"
              :key="e.key"
              :entry="e"
              :language="shown?.written ? undefined : shown"
              :editable="ws.canBuild"
              :say="t.say"
              @next="next"
            />
          </ul>
        </section>
        <p v-if="data && !groups.length" class="p-4 text-ink2">No text is such.</p>
      </div>
    </section>
    <TextFileDialog
      v-if="file !== undefined"
      :language="file || undefined"
      @close="file = undefined"
      @done="taken"
    />
  </div>
</template>
