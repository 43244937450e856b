<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import type { Part, Rect } from './boxes'

/** What the selected box is called, says and becomes, unfolded below its line. */
const props = defineProps<{
  part: Part
  choices: Schemas['PlanChoice'][]
  pieces: { id: string; title: string }[]
  step: string
  left: boolean // it is left out by itself
  locked: boolean
  first: boolean
  last: boolean
}>()
const emit = defineEmits<{
  set: [to: Partial<Part>]
  piece: [title: string]
  act: [
    what:
      'new' | 'across' | 'down' | 'join' | 'dissolve' | 'remove' | 'up' | 'after' | 'in' | 'out',
  ]
}>()
const name = ref(props.part.name)
const text = ref(props.part.text ?? '')
watch(
  () => props.part,
  p => {
    name.value = p.name
    text.value = p.text ?? ''
  },
)
const wordy = computed(() => !props.part.parts?.length)
const most = computed(() => Math.max(1, ...props.choices.map(c => c.uses)))
const now = computed(
  () => props.part.becomes || (props.left ? 'leave' : (props.choices[0]?.type ?? '')),
)
const making = ref('')
const sides: { key: keyof Rect; label: string }[] = [
  { key: 'x', label: 'Left' },
  { key: 'y', label: 'Top' },
  { key: 'w', label: 'Width' },
  { key: 'h', label: 'Height' },
]
const place = (key: keyof Rect, e: Event) => {
  const value = Math.round(Number((e.target as HTMLInputElement).value))
  if (Number.isFinite(value)) emit('set', { at: { ...props.part.at, [key]: value } })
}
const choose = (type: string) => emit('set', { becomes: type === props.part.becomes ? '' : type })
function take() {
  if (making.value.trim()) emit('piece', making.value.trim())
  making.value = ''
}
</script>

<template>
  <div class="grid gap-2 border-l-2 border-moss bg-mosswash/40 py-2 pr-2 pl-3">
    <div class="grid grid-cols-2 gap-2">
      <label
        ><span class="label block">Name</span
        ><input
          v-model="name"
          class="input w-full"
          maxlength="80"
          :disabled="locked"
          @change="name.trim() ? emit('set', { name: name.trim() }) : (name = part.name)"
      /></label>
      <label v-if="wordy"
        ><span class="label block">{{ part.look === 'icon' ? 'Which icon' : 'Words' }}</span
        ><input
          v-model="text"
          class="input w-full"
          maxlength="1000"
          :placeholder="part.look === 'icon' ? 'search, edit, star' : part.name"
          :disabled="locked"
          @change="emit('set', { text })"
      /></label>
      <span v-else class="self-end pb-1 text-ink2"
        >{{ part.parts!.length }} inside,
        {{ part.across ? 'beside each other' : 'one below the other'
        }}<template v-if="step && part.gap"
          >, gap {{ part.gap }} px, step {{ step }}</template
        ></span
      >
    </div>
    <fieldset>
      <legend class="label">Becomes</legend>
      <div class="grid gap-px">
        <label
          v-for="c in choices"
          :key="c.type"
          class="grid cursor-pointer grid-cols-[16px_minmax(0,1fr)_64px_60px] items-center gap-2 px-1 hover:bg-wash"
          :title="c.why"
          ><input
            type="radio"
            :name="'becomes-' + part.id"
            :checked="now === c.type"
            :disabled="locked"
            @change="choose(c.type)"
          /><span class="truncate">{{ c.title }}</span
          ><span class="h-2 bg-line" aria-hidden="true"
            ><span
              class="block h-2 bg-moss"
              :style="{ width: (c.uses / most) * 100 + '%' }"
            ></span></span
          ><span class="text-right text-xs text-ink2">{{ c.uses }} uses</span></label
        >
        <label class="flex items-center gap-2 px-1 hover:bg-wash"
          ><input
            type="radio"
            :name="'becomes-' + part.id"
            :checked="now === 'leave'"
            :disabled="locked"
            @change="choose('leave')"
          />nothing: it stands elsewhere, as in the shell</label
        >
        <label v-if="pieces.length" class="flex items-center gap-2 px-1"
          ><input
            type="radio"
            :name="'becomes-' + part.id"
            :checked="now.startsWith('piece:')"
            :disabled="locked"
            @change="choose('piece:' + pieces[0]!.id)"
          />the same as
          <select
            class="input h-6 min-w-0 flex-1"
            aria-label="Piece"
            :value="now.startsWith('piece:') ? now : ''"
            :disabled="locked"
            @change="emit('set', { becomes: ($event.target as HTMLSelectElement).value })"
          >
            <option value="" disabled>a piece</option>
            <option v-for="p in pieces" :key="p.id" :value="'piece:' + p.id">{{ p.title }}</option>
          </select></label
        >
        <form class="flex items-center gap-2 px-1" @submit.prevent="take">
          <input
            v-model="making"
            class="input h-6 min-w-0 flex-1"
            aria-label="Name of a new piece"
            placeholder="a new piece, for other pictures too"
            :disabled="locked"
          /><button class="btn h-6" :disabled="locked || !making.trim()">Make piece</button>
        </form>
      </div>
    </fieldset>
    <div class="flex flex-wrap items-end gap-2">
      <label v-for="s in sides" :key="s.key" class="w-16"
        ><span class="label block">{{ s.label }}</span
        ><input
          class="input h-6 w-full"
          type="number"
          :value="part.at[s.key]"
          :disabled="locked"
          @change="place(s.key, $event)"
      /></label>
    </div>
    <div class="flex flex-wrap gap-1" role="group" aria-label="Change the boxes">
      <button class="btn h-6" :disabled="locked" @click="emit('act', 'new')">New box inside</button>
      <button class="btn h-6" :disabled="locked" @click="emit('act', 'across')">
        Split beside
      </button>
      <button class="btn h-6" :disabled="locked" @click="emit('act', 'down')">Split below</button>
      <button class="btn h-6" :disabled="locked || last" @click="emit('act', 'join')">
        Join with next
      </button>
      <button class="btn h-6" :disabled="locked || first" @click="emit('act', 'up')">Before</button>
      <button class="btn h-6" :disabled="locked || last" @click="emit('act', 'after')">
        After
      </button>
      <button
        v-if="part.parts?.length"
        class="btn h-6"
        :disabled="locked"
        @click="emit('act', 'dissolve')"
      >
        Keep only what is inside
      </button>
      <button class="btn h-6" :disabled="locked" @click="emit('act', 'remove')">Remove</button>
    </div>
  </div>
</template>
