<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { ask, POST, type Page, type Schemas } from '../../api/client'
import type { Box } from '../../frame/messages'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useWorkspace } from '../../use/workspace'
import { useBench } from './useBench'

/** The screen in all its states, or with all sample sets, side by side at the width
 * being worked at. */
const bench = useBench()
const ws = useWorkspace()
const pages = shallowRef<Page[]>([])
const heights = ref<Record<string, number>>({})
const area = ref<HTMLElement>()
const { width: room } = useElementSize(area)
interface Look {
  name: string
  set: string
  state: string
}
const looks = computed((): Look[] =>
  bench.strip.value === 'sets'
    ? (ws.data?.sets ?? []).map(s => ({
        name: s.name.toLowerCase(),
        set: s.id,
        state: bench.state.value,
      }))
    : ['', ...(bench.head.value?.states ?? []).map(s => s.name)].map(state => ({
        name: state || 'ready',
        set: bench.set.value,
        state,
      })),
)
const columns = computed(() => Math.max(1, Math.min(looks.value.length, 3)))
const scale = computed(() =>
  Math.min(
    0.6,
    Math.max(0.15, (room.value - 16 * (columns.value - 1)) / columns.value / bench.width.value),
  ),
)
watch(
  [looks, () => bench.seq.value, bench.language],
  async () => {
    try {
      pages.value = (
        await Promise.all(
          looks.value.map(l =>
            ask(
              POST('/api/pages', {
                body: {
                  docs: [bench.doc.value],
                  set: l.set,
                  state: l.state,
                  language: bench.language.value,
                },
              }),
            ),
          ),
        )
      ).map(p => p.pages[0]!)
    } catch (e) {
      ws.say((e as Error).message)
    }
  },
  { immediate: true },
)
// What was measured is judged: what sticks out, lies over its neighbour, shows nothing.
const judged = ref<Record<string, Schemas['GeometryFinding'][]>>({})
async function drawn(l: Look, height: number, boxes: Box[]) {
  heights.value[l.name] = height
  try {
    judged.value[l.name] = (
      await ask(
        POST('/api/geometry', {
          body: {
            doc: bench.doc.value,
            set: l.set,
            state: l.state,
            width: bench.width.value,
            boxes,
          },
        }),
      )
    ).findings
  } catch {
    delete judged.value[l.name]
  }
}
function show(l: Look, f: Schemas['GeometryFinding']) {
  work(l)
  if (!f.doc) bench.select(f.element)
  else
    ws.say(
      `It stands in ${f.doc === 'shell' ? 'the shell' : f.doc.replace(':', ' ')}: ${f.message}.`,
    )
}
const wrong = (i: number) => pages.value[i]?.problems ?? []
function work(l: Look) {
  bench.strip.value = ''
  bench.state.value = l.state
  bench.set.value = l.set === 'usual' ? '' : l.set
}
</script>

<template>
  <div ref="area">
    <TileStage v-if="room && pages.length === looks.length">
      <div class="flex flex-wrap items-start gap-4">
        <figure
          v-for="(l, i) in looks"
          :key="l.name"
          :style="{ width: bench.width.value * scale + 'px' }"
        >
          <figcaption class="mb-1 flex justify-between text-xs text-ink2">
            <span
              >{{ l.name
              }}<span
                v-if="wrong(i).length"
                class="ml-2 text-rust"
                :title="
                  wrong(i)
                    .map(p => p.message)
                    .join('; ')
                "
                >{{ wrong(i).length }} {{ wrong(i).length === 1 ? 'problem' : 'problems' }}</span
              ></span
            ><button class="underline" :aria-label="`Work at ${l.name}`" @click="work(l)">
              work at it
            </button>
          </figcaption>
          <LiveTile
            class="outline outline-1 outline-line"
            :html="pages[i]?.html"
            :props="pages[i]?.props"
            :theme="bench.theme.value"
            :width="bench.width.value"
            :height="Math.min(900, Math.max(120, (heights[l.name] ?? 600) * scale))"
            measure
            :label="`${bench.head.value?.title}, ${l.name}`"
            @drawn="(h, boxes) => drawn(l, h, boxes)"
          />
          <ul
            v-if="judged[l.name]?.length"
            class="mt-1 text-xs"
            :aria-label="`What looks wrong with ${l.name}`"
          >
            <li v-for="f in judged[l.name]!.slice(0, 6)" :key="f.element + f.kind">
              <button
                class="w-full truncate text-left text-rust hover:underline"
                @click="show(l, f)"
              >
                {{ f.message }}{{ f.times > 1 ? `, ${f.times} times` : '' }}
              </button>
            </li>
            <li v-if="judged[l.name]!.length > 6" class="text-ink2">
              and {{ judged[l.name]!.length - 6 }} more
            </li>
          </ul>
        </figure>
      </div>
    </TileStage>
  </div>
</template>
