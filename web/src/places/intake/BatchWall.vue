<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, POST, type Page } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { onWall } from '../shelf/example'
import BatchCompare from './BatchCompare.vue'
import { changeWords, shows, sure, type Batch, type Entry } from './intake'

/** All components of a kit that is reviewed, live, in light and dark. */
const props = defineProps<{ batch: Batch; without: Set<string> }>()
defineEmits<{ toggle: [tag: string] }>()
const route = useRoute()
const router = useRouter()
const pages = ref<Record<string, Page>>({})
const broken = ref<Record<string, string>>({})
const word = ref('')
const version = computed(() => props.batch.kit.kind !== 'another')
const filter = ref(version.value && props.batch.kit.state !== 'in use' ? 'touched' : 'all')

watch(
  () => props.batch.kit.hash,
  async hash => {
    const there = props.batch.entries.filter(e => e.change !== 'gone')
    for (let from = 0; from < there.length; from += 100) {
      const some = there.slice(from, from + 100)
      const out = await ask(
        POST('/api/kits/{hash}/render', {
          params: { path: { hash } },
          body: { trees: some.map(onWall) },
        }),
      )
      pages.value = {
        ...pages.value,
        ...Object.fromEntries(out.pages.map((p, i) => [some[i]!.tag, p])),
      }
    }
  },
  { immediate: true },
)

const matches = (e: Entry) =>
  !word.value ||
  [e.title, e.tag, e.export ?? '', e.summary ?? '', ...e.props.map(p => p.name)]
    .join(' ')
    .toLowerCase()
    .includes(word.value.toLowerCase())
const shown = (f: string, e: Entry) =>
  f === 'touched' ? e.change !== 'same' : shows(f, e, broken.value)
const filters = computed(() =>
  (version.value && props.batch.kit.state !== 'in use'
    ? ['touched', 'all', 'new', 'changed', 'gone', 'broken']
    : ['all', 'broken', 'unsure']
  ).map(id => ({
    id,
    label: {
      touched: 'What differs',
      all: 'All',
      new: 'New',
      changed: 'Changed',
      gone: 'Gone',
      broken: 'Cannot be drawn',
      unsure: 'Hardly sorted',
    }[id]!,
    count: props.batch.entries.filter(e => shown(id, e)).length,
  })),
)
const groups = computed(() => {
  const list = props.batch.entries.filter(e => shown(filter.value, e) && matches(e))
  return props.batch.named
    .map(f => ({ ...f, list: list.filter(e => e.family === f.id) }))
    .filter(g => g.list.length)
})
const chosen = computed(() => props.batch.entries.find(e => e.tag === route.query.component))
const choose = (tag?: string) => void router.replace({ query: { ...route.query, component: tag } })
const family = (e: Entry) => e.guesses?.find(g => g.what === 'family')
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col overflow-auto">
    <div
      class="sticky top-0 z-30 flex flex-wrap items-center gap-2 border-b border-line bg-ground px-4 py-1"
    >
      <div class="flex flex-wrap gap-1" role="group" aria-label="Which components">
        <button
          v-for="f in filters"
          :key="f.id"
          class="btn btn-bare"
          :class="{ '!border-line': filter === f.id }"
          :aria-pressed="filter === f.id"
          @click="filter = f.id"
        >
          {{ f.label }} <span class="text-ink2">{{ f.count }}</span>
        </button>
      </div>
      <input
        v-model="word"
        type="search"
        class="input w-56"
        placeholder="Any word"
        aria-label="Find in the batch"
      />
    </div>
    <BatchCompare
      v-if="chosen"
      :key="chosen.tag"
      :batch="batch"
      :entry="chosen"
      :page="pages[chosen.tag]"
      @close="choose()"
    />
    <p v-if="!groups.length" class="p-4 text-ink2" role="status">
      {{
        filter === 'touched' ? 'Nothing differs from the version in use.' : 'No component is so.'
      }}
    </p>
    <TileStage :from="batch.frame">
      <section v-for="g in groups" :key="g.id" class="px-4 pt-3" :aria-label="g.name">
        <h3 class="mb-2 border-b border-line pb-1 text-lg">
          {{ g.name }} <span class="text-base font-normal text-ink2">{{ g.list.length }}</span>
        </h3>
        <ul class="grid grid-cols-[repeat(auto-fill,minmax(290px,1fr))] gap-3 pb-2">
          <li
            v-for="e in g.list"
            :key="e.tag"
            class="border border-line"
            :class="{ 'opacity-50': without.has(e.tag) }"
          >
            <button
              class="block w-full text-left"
              :aria-label="`Look at ${e.title}`"
              @click="choose(e.tag)"
            >
              <span v-if="e.change === 'gone'" class="block h-24 p-2 text-rust">
                It is gone{{ e.replacement ? `; ${e.replacement} stands in its place` : '' }}.
              </span>
              <span v-else class="grid grid-cols-2">
                <LiveTile
                  v-for="theme in ['light', 'dark']"
                  :key="theme"
                  :html="pages[e.tag]?.html"
                  :props="pages[e.tag]?.props"
                  :width="e.level === 'composite' ? 380 : 220"
                  :height="96"
                  centred
                  fit
                  :theme="theme"
                  @broken="m => (broken = { ...broken, [e.tag]: m })"
                />
              </span>
            </button>
            <div class="border-t border-line px-2 py-1">
              <span class="flex items-baseline gap-2">
                <b class="truncate" :title="e.export || e.tag">{{ e.title }}</b>
                <span
                  v-if="version && e.change !== 'same'"
                  class="text-xs"
                  :class="e.breaks || e.change === 'gone' ? 'text-rust' : 'text-slate'"
                  >{{ changeWords[e.change] }}</span
                >
                <span class="ml-auto shrink-0 text-xs text-ink2">{{
                  e.uses ? `${e.uses} on ${e.screens}` : `${e.props.length} props`
                }}</span>
              </span>
              <span
                v-if="e.changes.length"
                class="block truncate text-xs text-slate"
                :title="e.changes.join('\n')"
                >{{ e.changes.join('; ') }}</span
              >
              <span
                v-else-if="family(e) && family(e)!.certainty < 0.6"
                class="block truncate text-xs text-slate"
                :title="family(e)!.why"
                >sorted here with {{ sure(family(e)!.certainty) }} certainty</span
              >
              <label
                v-if="batch.kit.state === 'waits' && e.change !== 'gone'"
                class="flex items-center gap-1 text-xs text-ink2"
                ><input
                  type="checkbox"
                  :checked="!without.has(e.tag)"
                  :aria-label="`Take ${e.title}`"
                  @change="$emit('toggle', e.tag)"
                />take</label
              >
            </div>
          </li>
        </ul>
      </section>
    </TileStage>
    <section
      v-if="batch.others.length && filter === 'touched'"
      class="px-4 py-3"
      aria-label="Tokens and icons"
    >
      <h3 class="mb-1 text-lg">Tokens and icons</h3>
      <ul class="columns-2 text-ink2">
        <li v-for="o in batch.others" :key="o">{{ o }}</li>
      </ul>
    </section>
  </div>
</template>
