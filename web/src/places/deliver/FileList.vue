<script setup lang="ts">
import { computed } from 'vue'
import { happens, order } from './words'
import type { Listed } from './useDelivery'

/** The files of a delivery; in a repository with what happens to each. */
const props = defineProps<{ files: Listed[] }>()
const open = defineModel<string>({ required: true })
const size = (n: number) => (n < 1024 ? `${n} B` : `${(n / 1024).toFixed(1)} KB`)
const tones = { quiet: 'text-ink2', new: 'text-moss', warn: 'text-rust' }

const groups = computed(() => {
  if (!props.files.some(f => f.what)) return [{ what: '', files: props.files }]
  return order
    .map(what => ({ what, files: props.files.filter(f => f.what === what) }))
    .filter(g => g.files.length)
})
</script>

<template>
  <div class="min-h-0 flex-1 overflow-auto py-1">
    <template v-for="g in groups" :key="g.what">
      <h3 v-if="g.what" class="label px-3 pt-2" :class="tones[happens[g.what]!.tone]">
        {{ happens[g.what]!.words }} <span class="font-normal">{{ g.files.length }}</span>
      </h3>
      <ul>
        <li v-for="f in g.files" :key="f.path">
          <button
            class="flex w-full items-baseline px-3 text-left font-mono text-xs leading-5 hover:bg-wash"
            :class="{ 'bg-mosswash': f.path === open }"
            :aria-pressed="f.path === open"
            :title="f.why"
            @click="open = f.path"
          >
            <span class="text-ink2">{{ f.dir }}</span><span class="truncate">{{ f.name }}</span
            ><span v-if="f.own && !f.what" class="ml-auto shrink-0 pl-2 text-moss">yours</span
            ><span
              v-if="f.size !== undefined"
              class="shrink-0 pl-2 whitespace-nowrap text-ink2"
              :class="{ 'ml-auto': !f.own }"
              >{{ size(f.size) }}</span
            >
          </button>
        </li>
      </ul>
    </template>
  </div>
</template>
