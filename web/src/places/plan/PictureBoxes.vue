<script setup lang="ts">
import { computed, ref } from 'vue'
import * as boxes from './boxes'

/** A picture with the boxes of its plan drawn over it. A click selects the innermost box, a
 * drag on the picture draws a new one, the corners and edges of the selected one move. */
const props = defineProps<{
  src: string
  width: number
  height: number
  root: boxes.Part
  selected: string
  locked: boolean
}>()
const emit = defineEmits<{
  select: [id: string]
  draw: [at: boxes.Rect]
  place: [id: string, at: boxes.Rect]
}>()
const all = computed(() => ({ x: 0, y: 0, w: props.width, h: props.height }))
const svg = ref<SVGSVGElement>()
const drawn = ref<boxes.Rect>() // while it is being drawn
const moved = ref<boxes.Rect>() // the selected box while its edges move
const list = computed(() => boxes.lines(props.root))
const chosen = computed(() => boxes.find(props.root, props.selected))
const edges = computed(() => moved.value ?? chosen.value?.at)

function point(e: PointerEvent) {
  const box = svg.value!.getBoundingClientRect()
  return {
    x: ((e.clientX - box.x) / box.width) * props.width,
    y: ((e.clientY - box.y) / box.height) * props.height,
  }
}
function follow(move: (p: { x: number; y: number }) => void, end: () => void) {
  const go = (e: PointerEvent) => move(point(e))
  const up = () => {
    removeEventListener('pointermove', go)
    removeEventListener('pointerup', up)
    end()
  }
  addEventListener('pointermove', go)
  addEventListener('pointerup', up)
}
function press(e: PointerEvent) {
  if (e.button) return
  const from = point(e)
  follow(
    to => {
      const at = boxes.around([
        { ...from, w: 0, h: 0 },
        { ...to, w: 0, h: 0 },
      ])
      if (!props.locked && (at.w > 6 || at.h > 6)) drawn.value = boxes.within(at, all.value)
    },
    () => {
      if (drawn.value && drawn.value.w > 3 && drawn.value.h > 3) emit('draw', drawn.value)
      else {
        // The innermost box under the pointer.
        const hit = list.value
          .filter(l => boxes.holds(l.part.at, { ...from, w: 0, h: 0 }))
          .toSorted((a, b) => a.part.at.w * a.part.at.h - b.part.at.w * b.part.at.h)[0]
        if (hit) emit('select', hit.part.id)
      }
      drawn.value = undefined
    },
  )
}
const grips = [
  [0, 0],
  [0.5, 0],
  [1, 0],
  [1, 0.5],
  [1, 1],
  [0.5, 1],
  [0, 1],
  [0, 0.5],
] as const
function grip(e: PointerEvent, gx: number, gy: number) {
  const was = chosen.value
  if (!was || props.locked) return
  const { x, y, w, h } = was.at
  follow(
    p => {
      const left = gx === 0 ? p.x : x,
        right = gx === 1 ? p.x : x + w
      const top = gy === 0 ? p.y : y,
        bottom = gy === 1 ? p.y : y + h
      moved.value = boxes.within(
        { x: left, y: top, w: Math.max(1, right - left), h: Math.max(1, bottom - top) },
        all.value,
      )
    },
    () => {
      if (moved.value) emit('place', was.id, moved.value)
      moved.value = undefined
    },
  )
}
</script>

<template>
  <div class="relative" :style="{ aspectRatio: `${width} / ${height}` }">
    <img :src="src" alt="The picture that is planned from" class="block h-full w-full" />
    <svg
      ref="svg"
      class="absolute inset-0 h-full w-full touch-none"
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      :aria-label="`${list.length} boxes on the picture`"
      @pointerdown.prevent="press"
    >
      <rect
        v-for="l in list"
        :key="l.part.id"
        :x="l.part.at.x"
        :y="l.part.at.y"
        :width="l.part.at.w"
        :height="l.part.at.h"
        :class="l.part.becomes === 'leave' ? 'stroke-slate' : 'stroke-moss'"
        :stroke-dasharray="l.part.becomes === 'leave' ? '6 4' : undefined"
        fill="transparent"
        stroke-width="1"
        vector-effect="non-scaling-stroke"
        :opacity="l.part.id === selected ? 0 : 0.55"
      />
      <g v-if="edges">
        <rect
          :x="edges.x"
          :y="edges.y"
          :width="edges.w"
          :height="edges.h"
          class="fill-moss stroke-moss"
          fill-opacity="0.12"
          stroke-width="2"
          vector-effect="non-scaling-stroke"
        />
        <template v-if="!locked">
          <rect
            v-for="[gx, gy] in grips"
            :key="`${gx} ${gy}`"
            :x="edges.x + edges.w * gx - width / 260"
            :y="edges.y + edges.h * gy - width / 260"
            :width="width / 130"
            :height="width / 130"
            class="fill-sheet stroke-moss"
            vector-effect="non-scaling-stroke"
            :class="
              gx === 0.5
                ? 'cursor-ns-resize'
                : gy === 0.5
                  ? 'cursor-ew-resize'
                  : gx === gy
                    ? 'cursor-nwse-resize'
                    : 'cursor-nesw-resize'
            "
            @pointerdown.prevent.stop="grip($event, gx, gy)"
          />
        </template>
      </g>
      <rect
        v-if="drawn"
        :x="drawn.x"
        :y="drawn.y"
        :width="drawn.w"
        :height="drawn.h"
        class="fill-none stroke-moss"
        stroke-width="2"
        stroke-dasharray="4 3"
        vector-effect="non-scaling-stroke"
      />
    </svg>
  </div>
</template>
