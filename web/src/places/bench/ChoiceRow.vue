<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Choice } from '../../api/client'
import { counted } from '../../use/counted'
import ExprField from './ExprField.vue'

const props = defineProps<{
  choice: Choice
  focused: boolean
  can: boolean
  holds?: boolean
  element?: string
}>()
const emit = defineEmits<{
  choose: [value: string]
  enter: [text: string]
  focus: []
  picture: []
}>()
const text = ref('')
watch(
  () => props.choice,
  c => {
    text.value = !c.set ? '' : (c.kind === 'expr' ? '= ' : '') + c.value
  },
  { immediate: true },
)
const total = computed(() => props.choice.values.reduce((n, v) => n + v.uses, 0) || 1)
const binding = ref(false) // a choice is about to be computed
watch(
  () => props.choice,
  () => {
    binding.value = false
  },
)
const listed = computed(
  () =>
    ['choice', 'yes/no', 'token'].includes(props.choice.type) &&
    props.choice.kind !== 'expr' &&
    !binding.value,
)
const words: Record<string, string> = { norm: 'norm', leaning: 'leans', mixed: 'of two minds' }
const standing = computed(() =>
  props.choice.house
    ? `house rule: ${props.choice.house}`
    : (words[props.choice.verdict.standing] ?? ''),
)
const named = computed(() => props.choice.prop.replace('@', ' ≥ '))
const label = (v: string) =>
  props.choice.type === 'yes/no' ? (v === 'true' ? 'yes' : 'no') : v || 'none'
function step(e: KeyboardEvent, by: number) {
  const list = props.choice.values
  const to =
    list[
      Math.max(
        0,
        Math.min(list.length - 1, list.findIndex(v => v.value === props.choice.value) + by),
      )
    ]
  if (to) {
    e.preventDefault()
    e.stopPropagation()
    emit('choose', to.value)
  }
}
function choose(value: string) {
  emit('focus')
  emit('choose', value)
}
function compute() {
  binding.value = true
  text.value = '= '
}
</script>

<template>
  <div
    class="grid grid-cols-[84px_minmax(0,1fr)] items-start gap-x-2 py-px"
    :title="choice.summary"
  >
    <span class="truncate pt-px" :class="choice.set ? 'font-semibold' : 'text-ink2'"
      >{{ named
      }}<span v-if="holds" class="text-moss" title="It holds at the width looked at"> •</span
      ><span v-if="choice.required" class="text-rust" title="required"> *</span></span
    >
    <div
      v-if="listed"
      data-choice
      role="radiogroup"
      :aria-label="choice.prop"
      :tabindex="focused ? 0 : -1"
      class="flex flex-wrap items-center gap-x-1"
      @focus="$emit('focus')"
      @keydown.left="step($event, -1)"
      @keydown.right="step($event, 1)"
    >
      <button
        v-for="(v, i) in choice.values"
        :key="v.value"
        type="button"
        role="radio"
        tabindex="-1"
        :aria-checked="v.value === choice.value"
        :disabled="!can"
        class="relative px-1 pb-[5px] leading-[17px] hover:bg-wash"
        :class="v.value === choice.value ? 'bg-mosswash font-semibold text-moss' : ''"
        :title="`${counted(v.uses, 'use')} on ${counted(v.screens, 'screen')}${i < 9 ? ', key ' + (i + 1) : ''}`"
        @click="choose(v.value)"
      >
        {{ label(v.value) }} <span class="text-xs font-normal text-ink2">{{ v.uses || '' }}</span>
        <span
          class="absolute bottom-px left-1 h-[3px] bg-moss"
          :style="{ width: `calc((100% - 8px) * ${v.uses / total})` }"
          aria-hidden="true"
        ></span>
      </button>
      <button
        v-if="can && element && choice.type !== 'token' && !choice.responsive"
        type="button"
        class="px-1 text-xs text-ink2 hover:bg-wash"
        :aria-label="`Compute ${choice.prop}`"
        title="Compute it from the record"
        @click="compute"
      >
        =
      </button>
      <span
        v-if="standing"
        class="ml-1 text-xs"
        :class="choice.verdict.standing === 'mixed' ? 'text-slate' : 'text-ink2'"
        :title="`${Math.round(100 * choice.verdict.sure)} % sure that it holds on more than four in five screens`"
        >{{ standing }}</span
      >
    </div>
    <div v-else-if="element" class="flex min-w-0 items-start gap-1">
      <ExprField
        class="min-w-0 flex-1"
        :model-value="text"
        :element="element"
        :prop="choice.prop"
        :label="choice.prop"
        :list="choice.url ? 'routes' : choice.icon ? 'icons' : undefined"
        :placeholder="choice.default"
        :readonly="!can"
        :focus-now="binding"
        @focus="$emit('focus')"
        @enter="
          t => {
            if (t.trim() === '=') {
              binding = false
              return
            }
            $emit('enter', t)
          }
        "
      />
      <button
        v-if="choice.picture && can"
        type="button"
        class="shrink-0 px-1 underline hover:bg-wash"
        :aria-label="`Choose a picture for ${choice.prop}`"
        @click="$emit('picture')"
      >
        Choose …
      </button>
    </div>
    <input
      v-else
      v-model="text"
      data-choice
      :list="choice.url ? 'routes' : choice.icon ? 'icons' : undefined"
      class="input h-5 w-full min-w-0"
      :class="{ 'font-mono text-slate': choice.kind === 'expr' }"
      :aria-label="choice.prop"
      :placeholder="choice.default"
      :readonly="!can"
      @focus="$emit('focus')"
      @change="$emit('enter', text)"
    />
  </div>
</template>
