<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import TokenDialog from './TokenDialog.vue'

const props = defineProps<{ kit: Schemas['ApiKitOut'] }>()
const ws = useWorkspace()
const changing = ref<{ token: Schemas['KitToken']; theme: string }>()
const sample = (t: Schemas['KitToken'], theme: string) =>
  (
    ({
      fontFamily: { fontFamily: t.values[theme] },
      fontWeight: { fontWeight: t.values[theme] },
      shadow: { boxShadow: t.values[theme] },
    }) as Record<string, Record<string, string | undefined>>
  )[t.type]
const groups = computed(() => {
  const out = new Map<string, Schemas['KitToken'][]>()
  for (const t of props.kit.tokens) {
    const g = t.path.split('.')[0]!
    out.set(g, [...(out.get(g) ?? []), t])
  }
  return [...out]
})
// Who uses a token: components by their styles, elements by being set to it.
const components = computed(() => {
  const out = new Map<string, Schemas['ApiComponentHead'][]>()
  for (const c of props.kit.components)
    for (const name of c.tokens ?? []) out.set(name, [...(out.get(name) ?? []), c])
  return out
})
</script>

<template>
  <div class="grid max-w-6xl gap-6 p-4">
    <section v-for="[name, tokens] in groups" :key="name" :aria-label="name">
      <h2 class="mb-1 text-lg">
        {{ name }} <span class="text-base font-normal text-ink2">{{ tokens.length }}</span>
      </h2>
      <table class="sheet w-full border-collapse">
        <thead>
          <tr>
            <th class="th">Token</th>
            <th v-for="t in kit.themes" :key="t" class="th">{{ t }}</th>
            <th class="th">Custom property</th>
            <th class="th">Used by</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in tokens" :key="t.path">
            <td class="td">
              {{ t.path.slice(name.length + 1)
              }}<span v-if="t.alias" class="text-xs text-ink2"> → {{ t.alias }}</span>
            </td>
            <td v-for="theme in kit.themes" :key="theme" class="td">
              <span class="flex items-center gap-2">
                <span
                  v-if="t.type === 'color'"
                  class="size-4 shrink-0 border border-line"
                  :style="{ background: t.values[theme] }"
                ></span>
                <span
                  v-else-if="t.type === 'dimension'"
                  class="h-2 shrink-0 bg-moss"
                  :style="{ width: `min(160px, ${t.values[theme]})` }"
                ></span
                ><span v-else-if="sample(t, theme)" class="shrink-0 px-1" :style="sample(t, theme)"
                  >Aa</span
                >
                <component
                  :is="ws.canKeep ? 'button' : 'span'"
                  class="max-w-44 truncate font-mono text-xs"
                  :class="{
                    'text-ink2':
                      theme !== kit.themes[0] && t.values[theme] === t.values[kit.themes[0]!],
                    'border-b border-dotted border-ink2 hover:border-solid hover:border-ink':
                      ws.canKeep,
                  }"
                  :title="t.values[theme]"
                  :aria-label="
                    ws.canKeep ? `Change ${t.path} in ${theme}, ${t.values[theme]}` : undefined
                  "
                  @click="ws.canKeep && (changing = { token: t, theme })"
                  >{{ t.values[theme] }}</component
                ></span
              >
            </td>
            <td class="td">
              <code class="text-ink2">{{ t.css }}</code>
            </td>
            <td class="td whitespace-nowrap">
              <details v-if="components.get(t.css)" class="inline-block align-top">
                <summary>
                  {{
                    components.get(t.css)!.length === 1
                      ? '1 component'
                      : `${components.get(t.css)!.length} components`
                  }}
                </summary>
                <ul class="max-h-40 overflow-auto">
                  <li v-for="c in components.get(t.css)" :key="c.tag">
                    <RouterLink class="underline" :to="`/shelf/${c.tag}`">{{
                      c.title
                    }}</RouterLink>{{ ' ' }}
                    <span class="text-ink2">{{ c.uses }}</span>
                  </li>
                </ul>
              </details>
              <span v-if="kit.chosen[t.path]" class="text-ink2"
                ><template v-if="components.get(t.css)">, </template
                >{{ kit.chosen[t.path]!.uses }} elements on
                {{ kit.chosen[t.path]!.screens }} screens</span
              ><span v-if="!components.get(t.css) && !kit.chosen[t.path]" class="text-ink2">{{
                kit.page.includes(t.css) ? 'the page itself' : 'no component'
              }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <TokenDialog
      v-if="changing"
      :token="changing.token"
      :in-theme="changing.theme"
      @close="changing = undefined"
    />
  </div>
</template>
