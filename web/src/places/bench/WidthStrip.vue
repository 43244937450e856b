<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { useBench } from './useBench'

/** The screen at all widths side by side, each as it is being edited. */
const props = defineProps<{ widths: number[] }>()
const bench = useBench()
const tiles = ref<InstanceType<typeof LiveTile>[]>([])
const heights = ref<Record<number, number>>({})
// All at one scale, so that what stands beside each other compares, and in view.
const frame = ref<HTMLElement>()
const { width: room } = useElementSize(frame)
const gap = 16
const scale = computed(() =>
  Math.min(
    0.6,
    Math.max(
      0.2,
      (room.value - gap * (props.widths.length - 1)) / props.widths.reduce((a, b) => a + b, 0),
    ),
  ),
)
defineExpose({
  patch: (list: Parameters<InstanceType<typeof LiveTile>['patch']>[0]) => {
    for (const t of tiles.value) t.patch(list)
  },
})
const height = (w: number) => Math.max(120, (heights.value[w] ?? 600) * scale.value)
function look(width: number) {
  bench.width.value = width
  bench.strip.value = ''
}
</script>

<template>
  <div ref="frame">
    <TileStage v-if="room" class="w-max">
      <div class="flex items-start gap-4">
        <figure v-for="w in props.widths" :key="w" :style="{ width: w * scale + 'px' }">
          <figcaption class="mb-1 flex justify-between text-xs text-ink2">
            <span>{{ w }} px</span
            ><button class="underline" :aria-label="`Work at ${w} pixels`" @click="look(w)">
              work at it
            </button>
          </figcaption>
          <LiveTile
            ref="tiles"
            class="outline outline-1 outline-line"
            :picture="bench.picture.value"
            :theme="bench.theme.value"
            :width="w"
            :height="height(w)"
            measure
            :label="`${bench.head.value?.title} at ${w} pixels`"
            @drawn="h => (heights[w] = h)"
            @lost="bench.redraw"
          />
        </figure>
      </div>
    </TileStage>
  </div>
</template>
