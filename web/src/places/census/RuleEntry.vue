<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import type { Change, Schemas } from '../../api/client'
import AppDialog from '../../ui/AppDialog.vue'
import { useWorkspace } from '../../use/workspace'

/** One rule of the catalogue, and how the team holds it. */
const props = defineProps<{ rule: Schemas['ApiRuleView']; plain?: boolean }>()
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
const ranks: Record<string, number> = { off: 0, note: 1, warning: 2, error: 3 }
const lower = computed(
  () =>
    !!draft.severity &&
    (ranks[draft.severity] ?? 0) < (ranks[props.rule.severity] ?? 0) &&
    draft.severity !== props.rule.tuning?.severity,
)
// Who holds a rule lower than it comes says why.
const asking = ref(false)
const reason = ref('')
function leave() {
  asking.value = false
  draft.severity = props.rule.tuning?.severity ?? ''
}
const wordsOf = (name: string) =>
  (draft.settings[name] ?? '')
    .split(',')
    .map(w => w.trim())
    .filter(Boolean)
function toggle(name: string, word: string, on: boolean) {
  const now = wordsOf(name).filter(w => w !== word)
  draft.settings[name] = (on ? [...now, word] : now).join(', ')
}
async function save() {
  if (lower.value && !reason.value.trim()) {
    asking.value = true
    return
  }
  try {
    await ws.take({
      title: `Hold “${props.rule.title}” otherwise`,
      steps: [
        {
          do: 'tune',
          tuning: { ...wanted.value, reason: reason.value || props.rule.tuning?.reason },
        } as Change['steps'][number],
      ],
    })
    asking.value = false
    reason.value = ''
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
        v-if="!plain && ws.canKeep && rule.id !== 'house-rule'"
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
      <template v-else-if="!plain">{{ rule.tuning?.severity || rule.severity }}</template></label
    >
    <span v-if="rule.tuning" class="text-ink2"
      >{{ ws.data?.owners[rule.tuning.by ?? ''] ?? rule.tuning.by }}, {{ rule.tuning.when
      }}{{ rule.tuning.reason ? `: ${rule.tuning.reason}` : '' }}</span
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
    <template v-for="s in rule.settings" :key="s.name"
      ><fieldset v-if="s.choices" class="flex w-full flex-wrap items-center gap-x-4 gap-y-1">
        <legend class="float-left mr-4 text-ink2">{{ s.help }}</legend>
        <label v-for="c in s.choices" :key="c" class="flex items-center gap-1.5"
          ><input
            type="checkbox"
            class="accent-moss"
            :checked="wordsOf(s.name).includes(c)"
            :disabled="!ws.canKeep"
            @change="toggle(s.name, c, ($event.target as HTMLInputElement).checked)"
          />{{ c }}</label
        >
      </fieldset>
      <label v-else class="flex items-center gap-2"
        ><span class="text-ink2">{{ s.help }}</span>
        <input
          v-model="draft.settings[s.name]"
          class="input h-6"
          :class="s.number ? 'w-16' : 'w-64'"
          :type="s.number ? 'number' : 'text'"
          :min="s.number ? 1 : undefined"
          max="1000"
          :disabled="!ws.canKeep" /></label
    ></template>
    <button v-if="ws.canKeep" class="btn h-6" :disabled="!changed">Save</button>
  </form>
  <AppDialog v-if="asking" :title="`Hold “${rule.title}” lower`" @close="leave">
    <form class="grid gap-3" @submit.prevent="save">
      <label
        ><span class="label mb-1 block"
          >Why is it
          {{ draft.severity === 'off' ? 'turned off' : `only a ${draft.severity}` }}?</span
        ><input v-model="reason" class="input w-full" required
      /></label>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-bare" @click="leave">Cancel</button
        ><button class="btn btn-main" :disabled="!reason.trim()">Hold it so</button>
      </div>
    </form>
  </AppDialog>
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
