<script setup lang="ts">
import { computed, onMounted, shallowReactive, shallowRef } from 'vue'
import { ask, POST, type Page, type Schemas } from '../../api/client'
import type { Ink } from '../../frame/messages'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { gather, variantsTree } from './contrast'

/** Every pair of letters and ground that the kit's components show, measured where
 * they are drawn, in every theme. */
const props = defineProps<{ kit: Schemas['ApiKitOut']; themes?: string[] }>()
// Themes with the same colours show the same pairs: one of them is looked at.
const looked = computed(
  () =>
    props.themes ??
    props.kit.themes.filter(
      (t, i, all) =>
        all.findIndex(o =>
          props.kit.tokens.every(k => k.type !== 'color' || k.values[o] === k.values[t]),
        ) === i,
    ),
)
const pages = shallowRef<Record<string, Page>>({})
const seen = shallowReactive(new Map<string, Ink[]>())
const tiles = computed(() =>
  props.kit.components.flatMap(c =>
    looked.value.map(theme => ({ key: `${theme} ${c.tag}`, theme, c })),
  ),
)
const pairs = computed(() => gather(seen, props.kit))
const failing = computed(() => pairs.value.filter(p => p.fails).length)

onMounted(async () => {
  const out = await ask(
    POST('/api/render', { body: { trees: props.kit.components.map(variantsTree) } }),
  )
  pages.value = Object.fromEntries(out.pages.map((p, i) => [props.kit.components[i]!.tag, p]))
})
</script>

<template>
  <div class="grid gap-4 p-4">
    <section aria-label="Contrast" class="max-w-5xl">
      <h2 class="text-lg">
        Contrast
        <span class="text-base font-normal text-ink2" role="status">{{
          seen.size < tiles.length
            ? `looked at ${seen.size} of ${tiles.length} examples`
            : `${pairs.length} pairs in ${looked.length === 1 ? 'this theme' : looked.join(' and ')}, ${failing} too weak`
        }}</span>
      </h2>
      <p class="mb-2 text-ink2">
        Letters need 4.5 to their ground, large ones 3 (WCAG 2.2, 1.4.3). Measured on every variant
        below; what cannot be used is left out.
      </p>
      <table class="sheet w-full border-collapse">
        <thead>
          <tr>
            <th class="th">Sample</th>
            <th class="th">Theme</th>
            <th class="th">Letters</th>
            <th class="th">Ground</th>
            <th class="th text-right">Contrast</th>
            <th class="th">Where</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in pairs" :key="p.key" :class="{ 'bg-rustwash': p.fails }">
            <td class="td">
              <span
                class="inline-block max-w-40 truncate px-2 align-middle"
                :class="{ 'text-lg': p.large }"
                :style="{ color: p.ink, background: p.ground }"
                >{{ p.sample }}</span
              >
            </td>
            <td class="td">{{ p.theme }}</td>
            <td class="td">
              <code>{{ p.inkName || p.ink }}</code>
            </td>
            <td class="td">
              <code>{{ p.groundName || p.ground }}</code>
            </td>
            <td class="td text-right tabular-nums" :class="{ 'font-semibold text-rust': p.fails }">
              {{ p.ratio.toFixed(2) }}<span v-if="p.fails"> &lt; {{ p.needed }}</span>
            </td>
            <td class="td">
              <template v-for="(tag, i) in p.tags.slice(0, 4)" :key="tag"
                >{{ i ? ', ' : ''
                }}<RouterLink class="underline" :to="`/shelf/${tag}`">{{
                  tag
                }}</RouterLink></template
              ><span v-if="p.tags.length > 4" class="text-ink2">
                and {{ p.tags.length - 4 }} more</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <TileStage aria-hidden="true"
      ><div class="grid grid-cols-[repeat(auto-fill,minmax(56px,1fr))] gap-1">
        <LiveTile
          v-for="t in tiles"
          :key="t.key"
          :html="pages[t.c.tag]?.html"
          :props="pages[t.c.tag]?.props"
          :width="460"
          :height="40"
          :theme="t.theme"
          want-inks
          @inks="i => seen.set(t.key, i)"
        /></div
    ></TileStage>
  </div>
</template>
