<script setup lang="ts">
import type { Schemas } from '../../api/client'

/** One prop of the example: its values with how often the screens have them, or a
 * text to type. */
const props = defineProps<{
  prop: Schemas['KitProp']
  value: string
  icons: string[]
  mix: { value: string; uses: number }[]
}>()
const emit = defineEmits<{ choose: [value: string] }>()
const uses = (v: string) => props.mix.find(m => m.value === v)?.uses ?? 0
const flag = ['true', 'false'].includes(props.prop.default ?? '') && !props.prop.values?.length
const values = flag ? ['false', 'true'] : (props.prop.values ?? [])
const word = (v: string) => (flag ? { true: 'yes', false: 'no' }[v] : v)
function key(e: KeyboardEvent, i: number) {
  const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key]
  if (!step) return
  e.preventDefault()
  const to = (i + step + values.length) % values.length
  emit('choose', values[to]!)
  ;(e.currentTarget as HTMLElement).parentElement
    ?.querySelectorAll<HTMLElement>('[role=radio]')
    [to]?.focus()
}
</script>

<template>
  <div v-if="values.length" role="radiogroup" :aria-label="prop.name" class="flex flex-wrap gap-1">
    <button
      v-for="(v, i) in values"
      :key="v"
      role="radio"
      :aria-checked="v === value"
      :tabindex="v === value || (!values.includes(value) && !i) ? 0 : -1"
      class="border px-1.5"
      :class="
        v === value
          ? 'border-moss bg-mosswash font-semibold text-moss'
          : 'border-transparent hover:border-line'
      "
      @click="$emit('choose', v)"
      @keydown="key($event, i)"
    >
      {{ word(v)
      }}<span v-if="uses(v)" class="ml-1 text-xs font-normal text-ink2">{{ uses(v) }}</span>
    </button>
  </div>
  <select
    v-else-if="prop.icon"
    class="input h-6"
    :value="value"
    :aria-label="prop.name"
    @change="$emit('choose', ($event.target as HTMLSelectElement).value)"
  >
    <option value="">none</option>
    <option v-for="n in icons" :key="n">{{ n }}</option>
  </select>
  <input
    v-else
    class="input h-6 w-full max-w-60"
    :value="value"
    :aria-label="prop.name"
    @input="$emit('choose', ($event.target as HTMLInputElement).value)"
  />
</template>
