<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

const props = defineProps<{ kit: Schemas['ApiKitOut'] }>()
const groups = computed(() => {
  const out = new Map<string, Schemas['KitToken'][]>()
  for (const t of props.kit.tokens) {
    const g = t.path.split('.')[0]!
    out.set(g, [...(out.get(g) ?? []), t])
  }
  return [...out]
})
</script>

<template>
  <div class="grid max-w-5xl gap-6 p-4">
    <section v-for="[name, tokens] in groups" :key="name" :aria-label="name">
      <h2 class="mb-1 text-lg">{{ name }} <span class="text-base font-normal text-ink2">{{ tokens.length }}</span></h2>
      <table class="sheet w-full border-collapse">
        <thead><tr><th class="th">Token</th><th v-for="t in kit.themes" :key="t" class="th">{{ t }}</th><th class="th">Custom property</th></tr></thead>
        <tbody>
          <tr v-for="t in tokens" :key="t.path"><td class="td">{{ t.path.slice(name.length + 1) }}<span v-if="t.alias" class="text-xs text-ink2"> → {{ t.alias }}</span></td>
            <td v-for="theme in kit.themes" :key="theme" class="td"><span class="flex items-center gap-2">
              <span v-if="t.type === 'color'" class="size-4 shrink-0 border border-line" :style="{ background: t.values[theme] }"></span>
              <span v-else-if="t.type === 'dimension'" class="h-2 shrink-0 bg-moss" :style="{ width: `min(160px, ${t.values[theme]})` }"></span><code class="truncate">{{ t.values[theme] }}</code></span></td>
            <td class="td"><code class="text-ink2">{{ t.css }}</code></td></tr>
        </tbody>
      </table>
    </section>
  </div>
</template>
