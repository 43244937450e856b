<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Page } from '../../api/client'
import type { Box } from '../../frame/messages'
import LiveTile from '../../ui/LiveTile.vue'
import TileStage from '../../ui/TileStage.vue'
import { idOf } from '../bench/tree'

/** An element in its surroundings at a readable size, bracketed, scrolled to where it is. */
const props = defineProps<{
  page?: Page
  element: string
  copy?: string // key of the copy that is meant
  label: string
  width?: number
  theme?: string
}>()
// What the part is laid out in; it is drawn smaller where less is there.
const room = props.width ?? 700
const most = 260
const frame = ref<HTMLElement>()
const tile = ref<InstanceType<typeof LiveTile>>()
const height = ref(120)
const scale = ref(1)
const box = ref<Box>()
const hidden = computed(() => props.page && !props.page.html)
watch(
  () => props.page?.html,
  () => {
    box.value = undefined
  },
)
async function drawn(h: number, boxes: Box[]) {
  const width = tile.value?.box?.getBoundingClientRect().width ?? room
  scale.value = Math.min(1, width / room)
  height.value = Math.max(40, Math.ceil(h * scale.value))
  box.value =
    boxes.find(b => b.key === props.copy) ?? boxes.find(b => idOf(b.key) === props.element)
  await nextTick()
  if (box.value && frame.value)
    frame.value.scrollTop =
      (box.value.y + box.value.h / 2) * scale.value - frame.value.clientHeight / 2
}
const place = computed(() => {
  const b = box.value
  if (!b) return undefined
  const pad = 3
  return {
    left: b.x * scale.value - pad + 'px',
    top: b.y * scale.value - pad + 'px',
    width: b.w * scale.value + 2 * pad + 'px',
    height: b.h * scale.value + 2 * pad + 'px',
  }
})
</script>

<template>
  <figure>
    <div
      ref="frame"
      class="overflow-auto border border-line"
      :style="{ maxHeight: most + 'px' }"
      :tabindex="height > most ? 0 : undefined"
      :role="height > most ? 'region' : undefined"
      :aria-label="height > most ? label : undefined"
    >
      <p v-if="hidden" class="p-3 text-ink2">
        With the usual records it does not show; open the screen to see when it does.
      </p>
      <TileStage v-else>
        <LiveTile
          ref="tile"
          :html="page?.html"
          :props="page?.props"
          :style="{ maxWidth: room + 'px' }"
          :width="room"
          :height="height"
          :theme="theme"
          measure
          :label="label"
          @drawn="drawn"
        >
          <div
            v-if="place"
            class="bracket pointer-events-none !absolute z-10"
            data-bracket
            :style="place"
          ></div
        ></LiveTile>
      </TileStage>
    </div>
    <figcaption class="mt-0.5 text-xs text-ink2">{{ label }}</figcaption>
  </figure>
</template>
