<script setup lang="ts">
import { computed, watch } from 'vue'
import type { Fragment } from '../../api/client'
import CodeLines from '../../ui/CodeLines.vue'
import { useWorkspace } from '../../use/workspace'
import CropTile from './CropTile.vue'
import { bench, reach, useFragments } from './census'
import { levels, levelOf, type Group, type Work } from './work'

/** What is under the cursor: where it is, what it looks like there, and what can be done. */
const props = defineProps<{
  work: Work
  group?: Group
  chosen: number
  fixable: boolean // something of what is chosen has a repair
  next?: Work
}>()
defineEmits<{ repair: []; stand: []; lift: []; give: []; adopt: [] }>()
const ws = useWorkspace()
const partOf = (w: Work): Fragment => ({
  doc: w.doc,
  element: w.element,
  up: w.look ? 99 : -1, // what was measured stands where it did on the whole screen
  set: w.look?.set,
  state: w.look?.state,
})
const own = computed(() => partOf(props.work))
const like = computed<Fragment | undefined>(() =>
  props.work.like?.doc ? { ...props.work.like, up: -1 } : undefined,
)
// What comes next is fetched ahead, so that walking waits for nothing.
const ahead = computed<Fragment[]>(() => (props.next ? [partOf(props.next)] : []))
const { page, load } = useFragments(() => [
  own.value,
  ...(like.value ? [like.value] : []),
  ...ahead.value,
])
watch(() => ws.data?.seq, load)
const several = computed(() =>
  props.group && props.group.items.length > 1 ? props.group : undefined,
)
const level = computed(() => levels.find(([id]) => id === levelOf(props.work))?.[1])
const name = (user: string) => ws.data?.owners[user] ?? user
const screensOf = computed(() => {
  const found = new Map<string, { title: string; count: number }>()
  for (const w of props.group?.items ?? []) {
    const s = found.get(w.doc)
    if (s) s.count++
    else found.set(w.doc, { title: w.title, count: 1 })
  }
  return [...found.values()].sort((a, b) => b.count - a.count)
})
const seen = computed(() => {
  const l = props.work.look
  if (!l) return ''
  return [`, with ${l.set}`, `at ${l.width} px`, l.state, l.theme].filter(Boolean).join(', ')
})
const many = computed(() => (props.chosen > 1 ? ` ${props.chosen}` : ''))
</script>

<template>
  <section class="grid content-start gap-3 p-4" aria-label="What it is about">
    <template v-if="several">
      <h2 class="text-lg">{{ several.name }}</h2>
      <p class="text-ink2">
        {{ several.items.length }} on {{ screensOf.length }}
        {{ screensOf.length === 1 ? 'screen' : 'screens' }}:
        {{
          screensOf
            .slice(0, 6)
            .map(s => (s.count > 1 ? `${s.title} ${s.count}` : s.title))
            .join(', ')
        }}{{ screensOf.length > 6 ? ` and ${screensOf.length - 6} more` : '' }}. The first of them:
      </p>
    </template>
    <component :is="several ? 'h3' : 'h2'" :class="{ 'text-lg': !several }">{{
      work.message
    }}</component>
    <p class="-mt-2 text-ink2">
      {{ level?.replace(/s$/, '')
      }}<template v-if="work.odds">, a slip with {{ Math.round(100 * work.odds) }} in 100</template>
      ·
      <RouterLink class="underline" :to="bench(work.doc, work.element)">{{
        work.title
      }}</RouterLink>
      ▸ {{ work.path }}
    </p>
    <p v-if="work.again" class="border-l-2 border-rust pl-2">Again: {{ work.again }}.</p>
    <p v-if="work.stood" class="border-l-2 border-moss pl-2">
      Let stand{{ reach[work.stood.scope ?? ''] }} by {{ name(work.stood.by) }}, {{ work.stood.when
      }}{{ work.stood.until ? `, until ${work.stood.until}` : '' }}: {{ work.stood.reason }}
    </p>
    <p v-if="work.given" class="border-l-2 border-slate pl-2">
      Given to {{ name(work.given.to) }} by {{ name(work.given.by)
      }}{{ work.given.due ? `, to be done by ${work.given.due}` : ''
      }}{{ work.given.note ? `: ${work.given.note}` : '' }}
    </p>
    <div v-if="ws.canBuild" class="flex flex-wrap gap-2">
      <RouterLink v-if="work.kind === 'question'" class="btn btn-main" to="/census/questions"
        >To the question</RouterLink
      >
      <template v-else-if="work.stood"
        ><button class="btn" @click="$emit('lift')">Let{{ many }} stand no longer</button></template
      >
      <template v-else
        ><button v-if="fixable" class="btn btn-main" aria-keyshortcuts="f" @click="$emit('repair')">
          {{ chosen > 1 ? `Repair${many}` : work.fixTitle }} <kbd class="kbd ml-1">f</kbd></button
        ><button class="btn" aria-keyshortcuts="l" @click="$emit('stand')">
          Let{{ many }} stand <kbd class="kbd ml-1">l</kbd>
        </button></template
      >
      <button
        v-if="work.adopt && ws.canKeep && !work.stood && chosen < 2"
        class="btn"
        @click="$emit('adopt')"
      >
        Make it a rule …
      </button>
      <button v-if="!work.stood" class="btn" aria-keyshortcuts="g" @click="$emit('give')">
        Give{{ many }} to … <kbd class="kbd ml-1">g</kbd>
      </button>
    </div>
    <CropTile
      :key="`${work.look?.width} ${work.look?.theme}`"
      :page="page(own)"
      :element="work.element"
      :copy="work.copy"
      :width="work.look?.width"
      :theme="work.look?.theme"
      :label="`here, on ${work.title}${seen}`"
    />
    <CropTile
      v-if="like"
      :page="page(like)"
      :element="like.element"
      :label="work.screens === 1 ? 'as it is on one screen' : `as it is on ${work.screens} screens`"
    />
    <dl class="grid grid-cols-[auto_1fr] gap-x-3 text-ink2">
      <dt>Spot</dt>
      <dd>{{ work.spotName }}</dd>
      <dt>{{ work.kind === 'finding' ? 'Rule' : 'Cause' }}</dt>
      <dd>
        <RouterLink
          v-if="work.kind === 'finding' && !work.look"
          class="underline"
          :to="`/census/rules#${work.rule}`"
          >{{ work.ruleName }}</RouterLink><template v-else>{{ work.why }}</template>
      </dd>
      <template v-if="work.owner"
        ><dt>Owner</dt>
        <dd>{{ name(work.owner) }}</dd></template
      ><template v-if="work.code"
        ><dt>In code</dt>
        <dd class="font-mono">{{ work.code }}</dd></template
      >
    </dl>
    <CodeLines v-if="work.code && ws.canBuild" :doc="work.doc" :element="work.element" />
  </section>
</template>
