<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'

/** One rule of the catalogue, and how the team holds it. */
const props = defineProps<{ rule: Schemas['ApiRuleView'] }>()
const emit = defineEmits<{ changed: [] }>()
const ws = useWorkspace()
const draft = reactive({ severity: '', settings: {} as Record<string, string> })
watch(
  () => props.rule,
  r => {
    draft.severity = r.tuning?.severity ?? ''
    draft.settings = Object.fromEntries(
      r.settings.map(s => [s.name, r.tuning?.settings?.[s.name] ?? s.default]),
    )
  },
  { immediate: true },
)

// What is as the rule comes is not kept.
const wanted = computed(() => ({
  rule: props.rule.id,
  severity: draft.severity,
  settings: Object.fromEntries(
    props.rule.settings
      .filter(s => String(draft.settings[s.name]) !== s.default)
      .map(s => [s.name, String(draft.settings[s.name])]),
  ),
}))
const changed = computed(
  () =>
    wanted.value.severity !== (props.rule.tuning?.severity ?? '') ||
    JSON.stringify(wanted.value.settings) !== JSON.stringify(props.rule.tuning?.settings ?? {}),
)
async function save() {
  try {
    await ws.take({
      title: `Hold “${props.rule.title}” otherwise`,
      steps: [{ do: 'tune', tuning: wanted.value }],
    })
    emit('changed')
  } catch (e) {
    ws.say((e as Error).message)
  }
}
</script>

<template>
  <div class="flex items-baseline gap-3">
    <b :class="{ 'text-ink2 line-through': rule.tuning?.severity === 'off' }">{{
      rule.title
    }}</b><code class="text-ink2">{{ rule.id }}</code>
    <label class="flex items-baseline gap-1 text-ink2"
      ><span class="sr-only">Severity of {{ rule.title }}</span>
      <select
        v-if="ws.canKeep && rule.id !== 'house-rule'"
        v-model="draft.severity"
        class="input h-6"
        @change="save"
      >
        <option value="">{{ rule.severity }}, as it comes</option>
        <option
          v-for="s in ['error', 'warning', 'note', 'off'].filter(s => s !== rule.severity)"
          :key="s"
          :value="s"
        >
          {{ s }}
        </option>
      </select>
      <template v-else>{{ rule.tuning?.severity || rule.severity }}</template></label
    >
    <span v-if="rule.tuning" class="text-ink2"
      >{{ ws.data?.owners[rule.tuning.by ?? ''] ?? rule.tuning.by }}, {{ rule.tuning.when }}</span
    >
    <RouterLink v-if="rule.findings" to="/census/findings" class="ml-auto text-rust underline"
      >{{ rule.findings }} {{ rule.findings === 1 ? 'finding' : 'findings' }}</RouterLink
    >
  </div>
  <p>
    {{ rule.purpose }} <span class="text-ink2">{{ rule.why }}</span>
  </p>
  <form
    v-if="rule.settings.length"
    class="my-1 flex flex-wrap items-center gap-2"
    @submit.prevent="save"
  >
    <label v-for="s in rule.settings" :key="s.name" class="flex items-center gap-2"
      ><span class="text-ink2">{{ s.help }}</span>
      <input
        v-model="draft.settings[s.name]"
        class="input h-6"
        :class="s.number ? 'w-16' : 'w-64'"
        :type="s.number ? 'number' : 'text'"
        :min="s.number ? 1 : undefined"
        max="1000"
        :disabled="!ws.canKeep"
    /></label>
    <button v-if="ws.canKeep" class="btn h-6" :disabled="!changed">Save</button>
  </form>
  <details v-if="rule.bad.length">
    <summary class="text-ink2">Examples</summary>
    <div class="grid gap-2 pt-1 md:grid-cols-2">
      <pre class="overflow-auto border-l-4 border-rust bg-wash p-2 text-xs whitespace-pre-wrap">{{
        rule.bad.join('\n')
      }}</pre>
      <pre class="overflow-auto border-l-4 border-moss bg-wash p-2 text-xs whitespace-pre-wrap">{{
        rule.good.join('\n')
      }}</pre>
    </div>
  </details>
</template>
