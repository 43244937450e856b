<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { Choice, Choices } from '../../api/client'

/** What happens when an element is pressed, changed or sent: one line a thing, in
 * order, chosen from what there is. */
const props = defineProps<{
  choice: Choice
  focused: boolean
  can: boolean
  makes: Choices['makes']
}>()
const emit = defineEmits<{
  choose: [value: string]
  make: [tag: string, about: string, words: string]
  focus: []
}>()
const actions = computed(() =>
  props.choice.value
    .split(';')
    .map(a => a.trim())
    .filter(Boolean),
)
const known = computed(() => new Set(props.choice.values.map(v => v.value)))
/** What can happen, in the order in which it is offered. */
const kinds = {
  Open: ['open'],
  Close: ['close'],
  Send: ['submit'],
  'The record': ['change', 'tick', 'remove', 'add'],
  Controls: ['set'],
  States: ['state'],
  Theme: ['theme'],
  Go: ['go'],
}
const groups = computed(() =>
  Object.entries(kinds)
    .map(([label, verbs]) => ({
      label,
      values: props.choice.values.filter(v => verbs.includes(v.value.split(' ')[0]!)),
    }))
    .filter(g => g.values.length),
)
/** A control that is there may be set to anything, by writing it in the lines as code. */
const set = (a: string) => {
  const [verb, name, ...to] = a.split(' ')
  return verb === 'set' && to.length && known.value.has(`set ${name}`)
    ? `set ${name} to ${to.join(' ')}`
    : undefined
}
const there = (a: string) => known.value.has(a) || !!set(a)
const words = (a: string) =>
  props.choice.values.find(v => v.value === a)?.words ?? set(a) ?? `${a} (not there)`
const making = ref('')
const text = ref('')
const input = ref<HTMLInputElement>()
const asked = computed(() => props.makes.find(m => m.tag === making.value))

async function put(e: Event, at: number) {
  const select = e.target as HTMLSelectElement
  const to = select.value
  select.value = actions.value[at] ?? ''
  if (to.startsWith('+')) {
    making.value = to.slice(1)
    text.value = ''
    await nextTick()
    input.value?.focus()
    return
  }
  emit('choose', actions.value.toSpliced(at, 1, ...(to ? [to] : [])).join('; '))
}
function made() {
  const about = text.value.trim(),
    tag = making.value
  if (!about) return
  making.value = ''
  emit('make', tag, about, actions.value.join('; '))
}
</script>

<template>
  <div
    class="grid grid-cols-[84px_minmax(0,1fr)] items-start gap-x-2 py-px"
    :title="choice.summary"
  >
    <span class="truncate pt-px" :class="choice.set ? 'font-semibold' : 'text-ink2'">does</span>
    <div class="min-w-0 space-y-0.5" data-choice tabindex="-1" @focusin="$emit('focus')">
      <select
        v-for="(a, i) in [...actions, '']"
        :key="i + a"
        class="input h-5 w-full min-w-0 py-0"
        :class="{ 'text-ink2': !a, 'text-rust': a && !there(a) }"
        :disabled="!can"
        :aria-label="i ? `and then, ${i + 1}` : 'does'"
        :value="a"
        @change="put($event, i)"
      >
        <option value="">{{ a ? 'no longer' : i ? 'and then …' : 'nothing yet' }}</option>
        <option v-if="a && !known.has(a)" :value="a">{{ words(a) }}</option>
        <optgroup v-for="g in groups" :key="g.label" :label="g.label">
          <option v-for="v in g.values" :key="v.value" :value="v.value">{{ v.words }}</option>
        </optgroup>
        <optgroup v-if="!a && makes.length" label="Make and open">
          <option v-for="m in makes" :key="m.tag" :value="'+' + m.tag">
            a new {{ m.title }} …
          </option>
        </optgroup>
      </select>
      <input
        v-if="asked"
        ref="input"
        v-model="text"
        class="input h-5 w-full"
        :aria-label="`What the new ${asked.title} says`"
        :placeholder="`What the new ${asked.title} says, then Enter`"
        @keydown.enter.prevent="made"
        @keydown.esc.stop="making = ''"
        @blur="making = ''"
      />
    </div>
  </div>
</template>
