<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core'
import { useTemplateRef } from 'vue'
import type { DocHead, Page } from '../../api/client'
import LiveTile from '../../ui/LiveTile.vue'

/** A screen or a shell as it is, with what is said of it below. It tells when it comes near the
 * view, so that no more is rendered than somebody looks at. */
const props = defineProps<{ head: DocHead; page?: Page }>()
const emit = defineEmits<{ near: [doc: string, on: boolean] }>()
const el = useTemplateRef('el')
useIntersectionObserver(
  el,
  ([e]) => emit('near', `${props.head.kind}:${props.head.id}`, !!e?.isIntersecting),
  { rootMargin: '500px' },
)
</script>

<template>
  <li ref="el" class="min-w-0">
    <RouterLink
      :to="`/bench/${head.kind}/${head.id}`"
      class="block border border-line hover:border-ink"
      :aria-label="`${head.title}, open on the bench`"
    >
      <LiveTile :html="page?.html" :props="page?.props" :width="1120" :height="168" />
    </RouterLink>
    <div class="mt-1 flex items-start gap-2">
      <div class="min-w-0 flex-1">
        <RouterLink
          :to="`/bench/${head.kind}/${head.id}`"
          class="block truncate font-semibold hover:underline"
          >{{ head.title }}</RouterLink
        >
        <div class="truncate text-xs text-ink2"><slot name="said"></slot></div>
      </div>
      <slot></slot>
    </div>
  </li>
</template>
