<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import {
  ask,
  GET,
  POST,
  type Choice,
  type Choices,
  type Edit,
  type Element,
  type Finding,
  type Stray,
} from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import PictureDialog from '../../ui/PictureDialog.vue'
import { counted } from '../../use/counted'
import ActionRow from './ActionRow.vue'
import ChoiceRow from './ChoiceRow.vue'
import LineBinding from './LineBinding.vue'
import { editFor, typed } from './choices'
import { newId, type Line } from './tree'
import { useBench } from './useBench'

const props = defineProps<{ line: Line }>()
const emit = defineEmits<{ back: [] }>()
const bench = useBench()
const ws = useWorkspace()
const data = shallowRef<Choices>()
const spot = ref('')
const all = ref(false)
const focused = ref(0)
const rows = ref<HTMLElement>()

async function load() {
  const [kind, id] = bench.doc.value.split(':') as [string, string]
  try {
    data.value = await ask(
      GET('/api/docs/{kind}/{id}/choices', {
        params: {
          path: { kind, id },
          query: {
            element: props.line.el.id,
            spot: spot.value || undefined,
            state: bench.state.value || undefined,
          },
        },
      }),
    )
  } catch {
    data.value = undefined
  }
  bench.choices.value = data.value
}
watch([() => bench.seq.value, bench.state, spot, () => props.line.el.id], load, { immediate: true })

const shown = computed(() => data.value?.choices.filter(c => all.value || c.varies) ?? [])
const here = computed(() => data.value?.spots[data.value.spot])
const keepable = computed(() => props.line.el.filled ?? [])

function choose(c: Choice, value: string) {
  const edits = editFor(c, props.line.el.id, value, c.set)
  if (edits.length) void bench.edit(`${c.prop} of ${props.line.title}: ${value || 'none'}`, edits)
}
function enter(c: Choice, text: string) {
  const t = text.trim()
  if (t === (!c.set ? '' : (c.kind === 'expr' ? '= ' : '') + c.value)) return
  const id = props.line.el.id
  if (!t) void bench.edit(`${c.prop} back to its default`, [{ op: 'unset', id, prop: c.prop }])
  else
    void bench.edit(`${c.prop} of ${props.line.title}`, [
      {
        op: 'set',
        id,
        prop: c.prop,
        value: t.startsWith('=') ? { expr: t.slice(1).trim() } : typed(c, t),
      },
    ])
}
/** Puts something on the screen that opens, and lets this element open it. */
function make(tag: string, about: string, before: string) {
  const root = bench.root.value,
    m = data.value?.makes.find(o => o.tag === tag)
  if (!root || !m) return
  const id = newId()
  const tree: Element = m.about
    ? { id, type: tag, props: { [m.about]: about } }
    : { id, type: tag, text: about }
  void bench.edit(`${m.title} “${about}”, opened by ${props.line.title}`, [
    {
      op: 'insert',
      parent: root.id,
      after: root.children?.filter(c => !c.slot).at(-1)?.id ?? '',
      tree,
    },
    {
      op: 'set',
      id: props.line.el.id,
      prop: 'does',
      value: [before, `open ${id}`].filter(Boolean).join('; '),
    },
  ])
}
const intoLine = (s: Stray) => bench.edit(s.fixTitle ?? 'Into line', s.fix as unknown as Edit[])
// Which width a setting holds from, and the one that holds at the width looked at.
const from = computed(() => [1280, 960, 640].find(b => b <= bench.width.value))
const at = (c: Choice) => Number(c.prop.split('@')[1] ?? 0)
function holds(c: Choice): boolean {
  const base = c.prop.split('@')[0]
  const set = (data.value?.choices ?? []).filter(
    o => o.prop.split('@')[0] === base && at(o) <= bench.width.value,
  )
  return set.length > 1 && set.every(o => at(o) <= at(c))
}
const canVary = (c: Choice) =>
  c.responsive &&
  !c.prop.includes('@') &&
  !!from.value &&
  !data.value?.choices.some(o => o.prop === `${c.prop}@${from.value}`)
const vary = (c: Choice) =>
  bench.edit(`${c.prop} of ${props.line.title} from ${from.value} px`, [
    { op: 'set', id: props.line.el.id, prop: `${c.prop}@${from.value}`, value: typed(c, c.value) },
  ])
const endVary = (c: Choice) =>
  bench.edit(`${c.prop.split('@')[0]} of ${props.line.title} the same from ${at(c)} px`, [
    { op: 'unset', id: props.line.el.id, prop: c.prop },
  ])
// Of a picture: the one that is shown, and the words for it where the component has some.
const picturing = ref<Choice>()
const described = computed(() => data.value?.choices.find(c => c.describes))
function picture(address: string, words?: string) {
  const c = picturing.value,
    id = props.line.el.id
  picturing.value = undefined
  if (!c) return
  const edits: Edit[] = [{ op: 'set', id, prop: c.prop, value: address }]
  if (words && described.value)
    edits.push({ op: 'set', id, prop: described.value.prop, value: words })
  void bench.edit(`Picture of ${props.line.title}`, edits)
}
const fix = (f: Finding) => bench.edit(f.fixTitle ?? 'Repair', f.fix as unknown as Edit[])

/** Takes the most used value of the choice under focus. */
function takeMost() {
  const c = shown.value[focused.value]
  const most = c && [...c.values].sort((a, b) => b.uses - a.uses)[0]
  if (c && most?.uses) choose(c, most.value)
  else ws.say('Nobody uses it here yet.')
}
function digit(n: number) {
  const c = shown.value[focused.value]
  const v = c?.values[n - 1]
  if (c && v) choose(c, v.value)
}
// Of a piece's use: its piece, and a copy of its own.
const piece = computed(() =>
  props.line.el.type.startsWith('piece:') ? props.line.el.type.slice(6) : '',
)
function loose() {
  const type = props.line.el.type,
    cut = new Set<string>()
  const note = (el: Element) => {
    if (el.origin?.file === type) cut.add(el.id)
    el.children?.forEach(note)
  }
  if (bench.root.value) note(bench.root.value)
  const fresh = (el: Element): string | undefined =>
    el.origin?.file === type && !cut.has(el.id) ? el.id : el.children?.map(fresh).find(Boolean)
  void bench.planned(
    seen =>
      ask(
        POST('/api/pieces/loose', {
          body: { doc: bench.doc.value, element: props.line.el.id, seen },
        }),
      ),
    fresh,
  )
}
function key(e: KeyboardEvent) {
  e.stopPropagation()
  if (e.key === 'Escape') {
    e.preventDefault()
    emit('back')
    return
  }
  // In a list that drops down the arrows choose.
  if (
    (e.key === 'ArrowDown' || e.key === 'ArrowUp') &&
    (e.target as HTMLElement).tagName !== 'SELECT'
  ) {
    e.preventDefault()
    focused.value = Math.max(
      0,
      Math.min(shown.value.length - 1, focused.value + (e.key === 'ArrowDown' ? 1 : -1)),
    )
    rows.value?.querySelectorAll<HTMLElement>('[data-choice]')[focused.value]?.focus()
  }
  if (e.ctrlKey || e.metaKey || ['INPUT', 'SELECT'].includes((e.target as HTMLElement).tagName))
    return
  if (/^[1-9]$/.test(e.key)) {
    e.preventDefault()
    digit(Number(e.key))
  }
  if (e.key === 'm') {
    e.preventDefault()
    takeMost()
  }
}
defineExpose({ takeMost, digit })
</script>

<template>
  <div
    v-if="data"
    class="border-b border-line bg-sheet py-1 pr-2"
    :style="{ paddingLeft: 24 + line.depth * 14 + 'px' }"
    role="group"
    :aria-label="`Choices of ${line.title}`"
    @keydown="key"
  >
    <div v-for="s in data.strays" :key="s.prop" class="flex items-baseline gap-2 py-0.5 text-slate">
      <span class="min-w-0">{{ s.why }}</span>
      <button
        v-if="bench.canBuild.value && s.fix?.length"
        class="ml-auto shrink-0 underline"
        @click="intoLine(s)"
      >
        {{ s.fixTitle }}
      </button>
    </div>
    <div
      v-for="f in data.findings"
      :key="f.rule + f.prop"
      class="flex items-baseline gap-2 py-0.5 text-rust"
    >
      <span class="min-w-0">{{ f.message }}</span>
      <button
        v-if="f.fix?.length && bench.canBuild.value"
        class="ml-auto shrink-0 underline"
        @click="fix(f)"
      >
        {{ f.fixTitle }}
      </button>
    </div>
    <div ref="rows">
      <template v-for="(c, i) in shown" :key="c.prop">
        <ActionRow
          v-if="c.type === 'action'"
          :choice="c"
          :focused="i === focused"
          :can="bench.canBuild.value"
          :makes="data.makes"
          @focus="focused = i"
          @choose="v => choose(c, v)"
          @make="make"
        />
        <ChoiceRow
          v-else
          :choice="c"
          :focused="i === focused"
          :can="bench.canBuild.value"
          :holds="holds(c)"
          :element="/[-:]/.test(line.el.type) ? line.el.id : undefined"
          @focus="focused = i"
          @choose="v => choose(c, v)"
          @enter="t => enter(c, t)"
          @picture="picturing = c"
        />
        <p
          v-if="bench.canBuild.value && (canVary(c) || c.prop.includes('@'))"
          class="pl-[92px] text-xs text-ink2"
        >
          <button
            v-if="canVary(c)"
            class="underline"
            :aria-label="`${c.prop} otherwise from ${from} px`"
            @click="vary(c)"
          >
            otherwise from {{ from }} px</button
          ><button v-else class="underline" @click="endVary(c)">
            no longer otherwise from {{ at(c) }} px
          </button>
        </p>
      </template>
      <LineBinding v-if="all || line.el.repeat || line.el.show || line.el.name" :line="line" />
    </div>
    <PictureDialog
      v-if="picturing"
      title="Choose a picture"
      :current="picturing.value"
      :words="described && described.kind !== 'expr' ? described.value : undefined"
      @choose="picture"
      @close="picturing = undefined"
    />
    <p v-if="data.tells.length" class="py-0.5 text-ink2">
      <template v-if="line.el.name"
        >tells what its controls hold:
        <code class="break-words text-slate">{{ data.tells.join(', ') }}</code></template
      ><template v-else
        >with a name it tells what {{ data.tells.join(', ') }}
        {{ data.tells.length === 1 ? 'holds' : 'hold' }}</template
      >
    </p>
    <p v-if="piece" class="flex gap-3 py-0.5">
      <RouterLink class="underline" :to="`/bench/piece/${piece}`">Open the piece</RouterLink
      ><RouterLink class="underline" :to="`/shelf/piece:${piece}`">Where it is used</RouterLink
      ><button
        v-if="bench.canBuild.value"
        class="underline"
        title="It becomes a copy of its own, and misses all later changes of the piece"
        @click="loose"
      >
        Cut loose
      </button>
    </p>
    <p v-if="line.el.origin?.file?.startsWith('piece:')" class="py-0.5 text-slate">
      Cut loose from
      <RouterLink class="underline" :to="`/bench/piece/${line.el.origin.file.slice(6)}`"
        >its piece</RouterLink
      >: it misses what changes there.
    </p>
    <p v-if="keepable.length" class="py-0.5 text-ink2">
      {{ keepable.join(', ') }} filled in from the norm; it counts once kept.
      <button
        class="text-moss underline"
        @click="bench.edit('Keep what was filled in', [{ op: 'keep', id: line.el.id }])"
      >
        Keep
      </button>
    </p>
    <div class="flex flex-wrap items-baseline gap-x-2 pt-0.5 text-xs text-ink2">
      <span
        >spot: {{ here?.words }}, {{ counted(here?.uses ?? 0, 'use') }} on
        {{ counted(here?.screens ?? 0, 'screen') }}</span
      >
      <label v-if="data.spots.length > 1" class="flex max-w-full items-baseline gap-1"
        >widen
        <select
          v-model="spot"
          class="max-w-40 bg-transparent underline"
          aria-label="Widen the spot"
        >
          <option value="">most telling</option>
          <option v-for="s in data.spots" :key="s.name" :value="s.name">
            {{ s.words }} ({{ s.screens }})
          </option>
        </select></label
      >
      <button class="ml-auto underline" :aria-expanded="all" @click="all = !all">
        {{ all ? 'fewer' : `all ${data.choices.length} props, each, if, name` }}
      </button>
    </div>
  </div>
</template>
