<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'

import { languageOf, toned, wears, type Stretch } from '../../ui/tones'

/** A file, or a patch, line by line. Lines on which an element begins lead to it on the
 * Bench. */
const props = defineProps<{
  text: string
  path?: string // of the file, for its language
  doc?: string
  lines?: Record<string, number>
  patch?: boolean
  element?: string
}>()
const box = ref<HTMLElement>()
const rows = computed(() =>
  toned(props.text.replace(/\n$/, ''), props.patch ? '' : languageOf(props.path ?? '')),
)
const begins = computed(() => {
  const by = new Map<number, string>()
  for (const [id, line] of Object.entries(props.lines ?? {})) if (!by.has(line)) by.set(line, id)
  return by
})
const shown = computed(() => (props.element ? props.lines?.[props.element] : undefined))
const to = (id: string) => {
  const [kind, doc] = (props.doc ?? ':').split(':')
  return { path: `/bench/${kind}/${doc}`, hash: `#${id}` }
}
const tone = (row: Stretch[]) => {
  if (!props.patch) return ''
  const line = row[0]?.text ?? ''
  if (/^(diff|index|---|\+\+\+|new file|deleted|Binary)/.test(line)) return 'text-ink2'
  if (line.startsWith('@@')) return 'text-moss'
  if (line.startsWith('+')) return 'bg-mosswash'
  return line.startsWith('-') ? 'bg-rustwash' : ''
}
watch(
  [shown, () => props.text],
  async () => {
    await nextTick()
    if (shown.value)
      box.value?.querySelector(`[data-row="${shown.value}"]`)?.scrollIntoView({ block: 'center' })
    else box.value?.scrollTo(0, 0)
  },
  { immediate: true },
)
</script>

<template>
  <div ref="box" class="min-h-0 flex-1 overflow-auto py-2 text-xs leading-[18px]" tabindex="0">
    <div class="w-max min-w-full font-mono">
      <div
        v-for="(line, i) in rows"
        :key="i"
        :data-row="i + 1"
        class="flex"
        :class="[tone(line), { 'bg-mosswash': shown === i + 1 }]"
      >
        <span v-if="!patch" class="w-12 shrink-0 pr-3 text-right text-ink2 select-none">
          <RouterLink
            v-if="begins.has(i + 1) && doc"
            :to="to(begins.get(i + 1)!)"
            class="underline decoration-dotted"
            :aria-label="`Line ${i + 1}: show ${begins.get(i + 1)} on the Bench`"
            :title="`Show ${begins.get(i + 1)} on the Bench`"
            >{{ i + 1 }}</RouterLink><template v-else>{{ i + 1 }}</template>
        </span>
        <span class="pr-4 whitespace-pre" :class="{ 'pl-3': patch }"
          ><span v-for="(s, k) in line" :key="k" :class="wears[s.tone]">{{ s.text }}</span
          ><template v-if="!line.length">{{ ' ' }}</template></span
        >
      </div>
    </div>
  </div>
</template>
