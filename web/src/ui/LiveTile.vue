<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref, useId, watch } from 'vue'
import type { Box, Ink, Props } from '../frame/messages'
import { useStage } from '../use/stage'
import { useWorkspace } from '../use/workspace'

/** A live picture of rendered elements, drawn by the stage's frame in this box. */
const props = defineProps<{ html?: string; props?: Record<string, Record<string, unknown>>; width?: number; theme?: string; height?: number; measure?: boolean; live?: boolean; label?: string; fit?: boolean; wantInks?: boolean }>()
const emit = defineEmits<{ drawn: [height: number, boxes: Box[], token?: number]; go: [to: string]; painted: [token: number]; inks: [inks: Ink[]] }>()
const ws = useWorkspace()
const stage = useStage()
const id = useId()
const box = ref<HTMLElement>()
// A tile that fits shrinks its content until all of its height shows.
const fitted = ref(0)

onMounted(() => stage.add(id, {
  el: box.value!, measure: props.measure || props.fit || false,
  width: () => fitted.value || props.width || Math.max(1, box.value!.getBoundingClientRect().width),
  theme: () => props.theme ?? ws.mode, live: () => props.live ?? false,
  content: () => (props.html === undefined ? undefined : { html: props.html, props: props.props as Props }),
  drawn: (h, boxes, token) => {
    const r = box.value?.getBoundingClientRect()
    if (props.fit && r && !fitted.value && h * (r.width / Math.max(props.width ?? 1, r.width)) > r.height) { fitted.value = Math.min(1600, (r.width * h) / r.height); stage.layout() }
    emit('drawn', h, boxes, token)
  }, go: to => emit('go', to), painted: token => emit('painted', token), inks: props.wantInks ? inks => emit('inks', inks) : undefined,
}))
onBeforeUnmount(() => stage.remove(id))
watch(() => props.html, () => { fitted.value = 0; stage.refill(id) })
watch(() => [props.width, props.theme, props.height, props.live, ws.mode], () => stage.layout(), { flush: 'post' })
useResizeObserver(box, () => stage.layout())
defineExpose({ patch: (patches: Parameters<typeof stage.patch>[1], token?: number) => stage.patch(id, patches, token), box })
</script>

<template>
  <div ref="box" :style="height ? { height: height + 'px' } : undefined" :role="label ? 'img' : undefined" :aria-label="label"><slot></slot></div>
</template>
