<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { ref } from 'vue'
import { useGiveBack, useKeepIn } from '../use/focus'

defineProps<{ title: string; wide?: boolean | 'most' }>()
defineEmits<{ close: [] }>()
const inner = ref<HTMLElement>()
useKeepIn(inner)
useGiveBack()
</script>

<template>
  <Dialog open class="relative z-50" @close="$emit('close')">
    <div class="fixed inset-0 bg-veil" aria-hidden="true"></div>
    <div
      class="fixed inset-0 flex items-start justify-center overflow-auto p-4"
      :class="wide === 'most' ? 'pt-[5vh]' : 'pt-[12vh]'"
    >
      <DialogPanel
        class="w-full border border-ink bg-sheet p-4"
        :class="wide === 'most' ? 'max-w-5xl' : wide ? 'max-w-3xl' : 'max-w-md'"
      >
        <div ref="inner" tabindex="-1" class="outline-none">
          <DialogTitle as="h2" class="mb-3 text-lg">{{ title }}</DialogTitle>
          <slot></slot>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
