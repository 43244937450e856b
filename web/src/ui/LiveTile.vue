<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref, useId, watch } from 'vue'
import type { Box, Ink, Patch, Props } from '../frame/messages'
import type { State } from '../frame/states'
import { useStage } from '../use/stage'
import { useWorkspace } from '../use/workspace'

/** A live picture of rendered elements, drawn by the stage's frame in this box. */
const props = defineProps<{
  html?: string
  props?: Record<string, Record<string, unknown>>
  /** In place of html and props: a page with the patches that it has taken. */
  picture?: { page: { html: string; props?: unknown }; since: Patch[] }
  width?: number
  theme?: string
  height?: number
  measure?: boolean
  live?: boolean
  label?: string
  fit?: boolean
  wantInks?: boolean
  state?: State
  larger?: boolean
  centred?: boolean
}>()
const emit = defineEmits<{
  drawn: [height: number, boxes: Box[], token?: number]
  go: [to: string]
  act: [verb: string, to: string, on?: boolean]
  held: [name: string, value: unknown]
  painted: [token: number]
  inks: [inks: Ink[]]
  stateless: []
  broken: [message: string]
  lost: [] // what is drawn is not what the patches speak of
}>()
const ws = useWorkspace()
const stage = useStage()
const id = useId()
const box = ref<HTMLElement>()
// A tile that fits gives its content more room, as a table wants, and then shrinks it
// until all of its height shows, within reason.
const broken = ref('')
const room = ref(0)
const fitted = ref(1)
const layoutWidth = () =>
  room.value || Math.max(1, props.width || box.value!.getBoundingClientRect().width)

onMounted(() =>
  stage.add(id, {
    el: box.value!,
    measure: props.measure || props.fit || false,
    width: layoutWidth,
    larger: () => props.larger,
    centred: () => props.centred,
    shrink: () => fitted.value,
    theme: () => props.theme ?? ws.mode,
    live: () => props.live ?? false,
    content: () => {
      if (props.picture)
        return {
          html: props.picture.page.html,
          props: props.picture.page.props as Props,
          since: props.picture.since,
        }
      return props.html === undefined
        ? undefined
        : { html: props.html, props: props.props as Props, state: props.state }
    },
    lost: () => emit('lost'),
    stateless: () => emit('stateless'),
    broken: message => {
      broken.value = message
      emit('broken', message)
    },
    drawn: (h, boxes, token) => {
      const r = box.value?.getBoundingClientRect()
      if (props.fit && r?.width && h) {
        const width = layoutWidth()
        const share = r.height / (h * Math.min(1, r.width / width))
        const wanted = Math.min(1, Math.max(0.3, share))
        if (!room.value && share < 1) {
          room.value = Math.max(width, r.width) * Math.min(1.7, 1 / share)
          stage.layout()
          stage.refill(id)
        } else if (Math.abs(wanted - fitted.value) > 0.01) {
          fitted.value = wanted
          stage.layout()
        }
      }
      emit('drawn', h, boxes, token)
    },
    go: to => emit('go', to),
    act: (verb, to, on) => emit('act', verb, to, on),
    held: (name, value) => emit('held', name, value),
    painted: token => emit('painted', token),
    inks: props.wantInks ? inks => emit('inks', inks) : undefined,
  }),
)
onBeforeUnmount(() => stage.remove(id))
watch(
  () => [props.html, props.picture?.page.html, props.picture?.since],
  () => {
    broken.value = ''
    room.value = 0
    fitted.value = 1
    stage.refill(id)
  },
)
watch(
  () => [props.width, props.larger, props.theme, props.height, props.live, ws.mode],
  () => stage.layout(),
  { flush: 'post' },
)
useResizeObserver(box, () => stage.layout())
defineExpose({
  patch: (patches: Parameters<typeof stage.patch>[1], token?: number) =>
    stage.patch(id, patches, token),
  box,
})
</script>

<template>
  <div
    ref="box"
    :style="height ? { height: height + 'px' } : undefined"
    :role="label ? 'img' : undefined"
    :aria-label="label"
  >
    <slot></slot>
    <p
      v-if="broken"
      class="line-clamp-3 bg-rustwash px-1 text-[11px] leading-4 text-rust"
      :title="broken"
    >
      {{ broken }}
    </p>
  </div>
</template>
