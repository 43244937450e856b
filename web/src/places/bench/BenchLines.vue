<script setup lang="ts">
import {
  Clock,
  CodeXml,
  Copy,
  FileInput,
  Image as ImageIcon,
  Puzzle,
  Redo2,
  Search,
  Undo2,
} from '@lucide/vue'
import { useElementSize, useEventListener, useScroll } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import type { Edit } from '../../api/client'
import CodeLines from '../../ui/CodeLines.vue'
import { nobody } from '../../use/focus'
import { useWorkspace } from '../../use/workspace'
import BenchLine from './BenchLine.vue'
import CodePane from './CodePane.vue'
import BringDialog from './BringDialog.vue'
import ExtractDialog from './ExtractDialog.vue'
import ShellDialog from './ShellDialog.vue'
import ShellRow from './ShellRow.vue'
import HistoryDialog from './HistoryDialog.vue'
import InsertLine from './InsertLine.vue'
import LineChoices from './LineChoices.vue'
import ManyChoices from './ManyChoices.vue'
import PieceProps from './PieceProps.vue'
import SettingLine from './SettingLine.vue'
import AssembleDialog from './AssembleDialog.vue'
import {
  chosenIn,
  fragmentType,
  isMarkup,
  markupOf,
  readFragment,
  writeFragment,
} from './clipboard'
import { before, type KitIndex } from './tree'
import { INDENT } from './drop'
import { useLineDrag } from './useLineDrag'
import { useBench } from './useBench'
import { rowsOf } from './window'

const props = defineProps<{ kit: KitIndex }>()
const bench = useBench()
const ws = useWorkspace()
const history = ref(false)
const extracting = ref<string[]>()
const shelling = ref('')
const bringing = ref<string>()
const coding = ref(false)
const assembling = ref(false)
const showsCode = ref(false)
/** A selector as this kit's components would have it. */
const sample = computed(() => {
  const of = [...props.kit.values()].filter(c => c.level !== 'layout')
  const c =
    of.find(c => /button/.test(c.tag) && c.props.some(p => p.values?.length)) ??
    of.find(c => c.props.some(p => p.values?.length))
  const p = c?.props.find(p => p.values?.length)
  return c && p ? `${c.tag}[${p.name}=${p.values!.at(-1)}]` : 'section'
})
const differences = computed(
  () => bench.head.value?.states?.find(s => s.name === bench.state.value)?.differences ?? 0,
)
const list = ref<HTMLElement>()
const choices = ref<InstanceType<typeof LineChoices>[]>()
const { lines, selected, extra, inserting, editingText } = bench

// Only the lines near the view are drawn.
const block = ref<HTMLElement[]>()
const { height: blockHeight } = useElementSize(() => block.value?.[0])
const { height: view } = useElementSize(list)
const { y: top } = useScroll(list)
const openAt = computed(() => inserting.value?.at ?? selected.value)
const rows = computed(() =>
  rowsOf({
    count: lines.value.length,
    top: top.value,
    view: view.value,
    blockAt: lines.value.findIndex(l => l.el.id === openAt.value),
    block: blockHeight.value,
  }).map(r =>
    r.gap === undefined
      ? { key: lines.value[r.index]!.el.id, line: lines.value[r.index]!, gap: 0 }
      : { key: r.key, line: undefined, gap: r.gap },
  ),
)

const { drop, dragging, start: grab } = useLineDrag(bench, () => props.kit, list)
const lineEl = () =>
  list.value?.querySelector<HTMLElement>(`[data-line="${CSS.escape(selected.value)}"]`)
async function focusLine() {
  await nextTick()
  lineEl()?.focus({ preventScroll: true })
}
function focusFirst() {
  const hit = lines.value.find(l => bench.hits.value?.has(l.el.id))
  if (hit) bench.select(hit.el.id)
  void focusLine()
}
watch(selected, async () => {
  await nextTick()
  lineEl()?.scrollIntoView({ block: 'nearest' })
})

// Who comes to a screen can go on by keys at once, unless they are somewhere else already.
const idle = () => nobody() || !!document.activeElement?.closest('header, [role=dialog]')
watch(
  () => [bench.doc.value, !!bench.root.value],
  async ([, there], was) => {
    if (!there || (was && was[0] === bench.doc.value && was[1])) return
    await nextTick()
    if (idle())
      setTimeout(() => {
        if (idle()) void focusLine()
      }, 50) // once a dialog that led here has given the focus back
  },
  { immediate: true },
)

function walk(step: number, more: boolean) {
  const to = lines.value[lines.value.findIndex(l => l.el.id === selected.value) + step]
  if (!to) return
  if (more)
    extra.value = [...new Set([...extra.value, selected.value])].filter(id => id !== to.el.id)
  bench.select(to.el.id, more)
  void focusLine()
}
/** Opens a new line after, before or inside the selected element. */
function open(where: 'after' | 'before' | 'inside') {
  const at = bench.current.value
  if (!at || !bench.canBuild.value) return
  const { el, parent } = at
  const from = lines.value.findIndex(l => l.el.id === el.id)
  const depth = lines.value[from]?.depth ?? 0
  // After an element is after all that shows below it.
  const below = lines.value.slice(from + 1).findIndex(l => l.depth <= depth)
  const last = (below < 0 ? lines.value.at(-1) : lines.value[from + below])?.el.id ?? el.id
  if (where === 'inside' || !parent)
    inserting.value = {
      parent: el.id,
      after: '',
      slot: '*',
      depth: depth + 1,
      at: el.id,
      before: false,
    }
  else
    inserting.value = {
      parent: parent.id,
      after: where === 'after' ? el.id : before(parent, el),
      slot: el.slot ?? '',
      depth,
      at: where === 'after' ? last : el.id,
      before: where === 'before',
    }
}
function fold(on: boolean) {
  const l = lines.value.find(x => x.el.id === selected.value)
  if (!l) return
  if (on && l.parent && (!l.hasChildren || l.folded)) {
    bench.select(l.parent.id)
    void focusLine()
    return
  }
  const next = new Set(bench.folded.value)
  if (on && l.hasChildren) next.add(l.el.id)
  else next.delete(l.el.id)
  bench.folded.value = next
}

/** The first repair that a finding of the selected line offers. */
async function repair() {
  const f = bench.marks.value.get(selected.value)?.findings.find(f => f.fix?.length)
  if (f) await bench.edit(f.fixTitle ?? 'Repair', f.fix as unknown as Edit[])
  else
    ws.say(
      bench.marks.value.get(selected.value)?.findings.length
        ? 'Nothing repairs this by itself; its line says what is meant.'
        : 'Nothing is held against this line.',
    )
}
function extract() {
  if (bench.canBuild.value) extracting.value = [...bench.chosen.value]
}
function extracted(id: string) {
  extracting.value = undefined
  if (id) bench.select(id)
  void focusLine()
}

const keys: Record<string, () => unknown> = {
  ArrowDown: () => walk(1, false),
  ArrowUp: () => walk(-1, false),
  'Shift+ArrowDown': () => walk(1, true),
  'Shift+ArrowUp': () => walk(-1, true),
  'Alt+ArrowDown': () => bench.move('down').then(focusLine),
  'Alt+ArrowUp': () => bench.move('up').then(focusLine),
  'Alt+ArrowRight': () => bench.move('in').then(focusLine),
  'Alt+ArrowLeft': () => bench.move('out').then(focusLine),
  ArrowLeft: () => fold(true),
  ArrowRight: () => fold(false),
  Enter: () => {
    editingText.value = selected.value
  },
  n: () => open('after'),
  N: () => open('before'),
  i: () => open('inside'),
  r: () => bench.again().then(focusLine),
  c: () => bench.copyBeside().then(focusLine),
  w: () => bench.wrap().then(focusLine),
  u: () => bench.unwrap().then(focusLine),
  e: extract,
  o: () => {
    coding.value = true
  },
  p: () => {
    if (bench.canBuild.value && !extra.value.length) setting.value = true
    else ws.say('One element at a time is set by typing.')
  },
  f: () => repair().then(focusLine),
  Delete: () => bench.remove().then(focusLine),
  Backspace: () => bench.remove().then(focusLine),
  s: () => {
    bench.walkMarks(1)
    void focusLine()
  },
  S: () => {
    bench.walkMarks(-1)
    void focusLine()
  },
  m: () => choices.value?.[0]?.takeMost(),
}
function key(e: KeyboardEvent) {
  if ((e.target as HTMLElement).dataset.line === undefined || e.ctrlKey || e.metaKey) return
  if (/^[1-9]$/.test(e.key) && !e.altKey) {
    e.preventDefault()
    choices.value?.[0]?.digit(Number(e.key))
    return
  }
  const act =
    keys[
      (e.altKey ? 'Alt+' : '') + (e.shiftKey && e.key.startsWith('Arrow') ? 'Shift+' : '') + e.key
    ]
  if (act) {
    e.preventDefault()
    void act()
  }
}
// Copy, cut and paste act while a line has the focus; in texts they are the browser's.
const onLine = () =>
  (document.activeElement as HTMLElement | null)?.dataset.line !== undefined &&
  list.value?.contains(document.activeElement)
function copy(e: ClipboardEvent): boolean {
  const tree = bench.root.value
  if (!onLine() || !tree || !e.clipboardData) return false
  const elements = chosenIn(tree, bench.chosen.value).filter(el => el.id !== tree.id)
  if (!elements.length) {
    ws.say('The root of a screen stays where it is.')
    return false
  }
  const html = markupOf(
    bench.picture.value?.page.html ?? '',
    elements.map(el => el.id),
  )
  e.preventDefault()
  e.clipboardData.setData(fragmentType, writeFragment(elements))
  e.clipboardData.setData('text/html', html)
  e.clipboardData.setData('text/plain', html)
  ws.say(
    `${elements.length === 1 ? bench.title(elements[0]!.id) : elements.length + ' elements'} on the clipboard.`,
  )
  return true
}
useEventListener(document, 'copy', copy)
useEventListener(document, 'cut', e => {
  if (copy(e)) void bench.remove().then(focusLine)
})
useEventListener(document, 'paste', e => {
  if (!onLine() || !e.clipboardData) return
  const elements = readFragment(e.clipboardData.getData(fragmentType))
  if (elements) {
    e.preventDefault()
    void bench.paste(elements).then(focusLine)
    return
  }
  // Code copied as text is meant as it reads; else what a page put there.
  const written = e.clipboardData.getData('text/plain')
  const html = isMarkup(written) ? written : e.clipboardData.getData('text/html') || written
  if (!html.trim() || !bench.canBuild.value) return
  e.preventDefault()
  bringing.value = html
})
async function inserted(id: string, editText: boolean, next?: 'inside' | 'after') {
  inserting.value = undefined
  bench.select(id)
  if (next) {
    await nextTick()
    open(next)
    return
  }
  if (editText) editingText.value = id
  else await focusLine()
}
// Named, so that it stays the same function and lines that say the same are not drawn again.
const openAfter = () => open('after')
const setting = ref(false) // a prop of the selected line is being typed
const typedFirst = ref('')
function write(typed: string) {
  if (bench.canBuild.value) {
    extra.value = []
    typedFirst.value = typed
    setting.value = true
  }
}
function set() {
  const had = !!document.activeElement?.closest('[role=tree]') || nobody()
  setting.value = false
  typedFirst.value = ''
  if (had) void focusLine()
}
function cancel() {
  inserting.value = undefined
  void focusLine()
}
function edited() {
  editingText.value = ''
  void focusLine()
}
/** Closes what is open over the lines; they take the focus back. */
function backToLines() {
  coding.value = history.value = false
  extracting.value = bringing.value = undefined
  shelling.value = ''
  focusLine()
}
/** Where the selected element stands in code; where none does, the file. */
const inCode = computed(() => {
  const at = bench.current.value?.el.origin
  return at?.range ? `${at.file}:${at.range}` : (bench.head.value?.source ?? '')
})
async function copyPlace() {
  await navigator.clipboard.writeText(inCode.value)
  ws.say(`Copied: ${inCode.value}`)
}
function unwant() {
  bench.wanted.value = ''
  focusLine()
}
</script>

<template>
  <section class="flex min-h-0 flex-col" aria-label="Lines">
    <div class="flex h-9 shrink-0 items-center gap-2 border-b border-line px-3">
      <h1 class="truncate text-base">{{ bench.head.value?.title }}</h1>
      <span class="truncate font-mono text-xs text-ink2">{{ bench.head.value?.route }}</span>
      <span
        v-for="o in bench.others.value"
        :key="o.client"
        class="bg-slate px-1 text-xs leading-4 text-ground"
        :title="`${o.name} is on this screen`"
        >{{
          o.name
            .split(' ')
            .map(w => w[0])
            .join('')
        }}</span
      >
      <span
        v-if="bench.head.value"
        class="ml-auto flex items-center gap-1.5 text-xs"
        :title="`Consistency ${bench.head.value.score} of 100`"
        ><span class="h-2 w-8 bg-line"
          ><span
            class="block h-2 bg-moss"
            :style="{ width: bench.head.value.score + '%' }"
          ></span></span
        >{{ bench.head.value.score }}</span
      >
    </div>
    <div class="flex h-8 shrink-0 items-center gap-px border-b border-line px-1">
      <button class="btn btn-bare h-6" :disabled="!bench.canBuild.value" @click="open('after')">
        New line <kbd class="kbd">n</kbd>
      </button>
      <button class="btn btn-bare h-6" :disabled="!bench.canBuild.value" @click="open('inside')">
        Inside <kbd class="kbd">i</kbd>
      </button>
      <button
        class="btn btn-bare h-6 px-1"
        aria-label="Copy beside"
        title="Copy beside, key c"
        :disabled="!bench.canBuild.value"
        @click="bench.copyBeside()"
      >
        <Copy :size="14" aria-hidden="true" />
      </button>
      <button
        class="btn btn-bare h-6 px-1"
        aria-label="Extract a piece"
        title="Extract a piece, key e"
        :disabled="!bench.canBuild.value"
        @click="extract"
      >
        <Puzzle :size="14" aria-hidden="true" />
      </button>
      <span class="ml-auto"></span>
      <button
        class="btn btn-bare h-6 px-1"
        aria-label="Lines as code"
        title="Lines as code, key o"
        :aria-pressed="coding"
        @click="coding = !coding"
      >
        <CodeXml :size="14" aria-hidden="true" />
      </button>
      <button
        class="btn btn-bare h-6 px-1"
        aria-label="Bring in markup"
        title="Bring in markup; pasting it does too"
        :disabled="!bench.canBuild.value"
        @click="bringing = ''"
      >
        <FileInput :size="14" aria-hidden="true" />
      </button>
      <RouterLink
        v-if="bench.doc.value.startsWith('screen:') && !bench.head.value?.source"
        class="btn btn-bare h-6 px-1"
        aria-label="From a picture"
        title="Plan it from a picture"
        :to="`/bench/screen/${bench.doc.value.slice(7)}/picture`"
      >
        <ImageIcon :size="14" aria-hidden="true" />
      </RouterLink>
      <button
        class="btn btn-bare h-6 px-1"
        aria-label="History"
        title="What happened to it"
        @click="history = true"
      >
        <Clock :size="14" aria-hidden="true" />
      </button>
      <button
        class="btn btn-bare h-6 px-1"
        :disabled="!ws.done.length"
        :title="`Undo: ${ws.done.at(-1)?.title ?? 'nothing'}`"
        @click="bench.undo()"
      >
        <Undo2 :size="14" aria-hidden="true" /><span class="sr-only">Undo</span>
      </button>
      <button
        class="btn btn-bare h-6 px-1"
        :disabled="!ws.undone.length"
        :title="`Redo: ${ws.undone.at(-1)?.title ?? 'nothing'}`"
        @click="bench.redo()"
      >
        <Redo2 :size="14" aria-hidden="true" /><span class="sr-only">Redo</span>
      </button>
    </div>
    <div class="flex h-7 shrink-0 items-center gap-2 border-b border-line px-3">
      <Search :size="12" class="text-ink2" aria-hidden="true" /><input
        v-model="bench.wanted.value"
        class="min-w-0 flex-1 bg-transparent outline-none"
        type="search"
        aria-label="Filter the lines by a word or a selector"
        :placeholder="`Filter: a word, or ${sample}`"
        @keydown.stop
        @keydown.esc="unwant"
        @keydown.down.prevent="focusFirst"
      />
      <span v-if="bench.hits.value" class="text-xs text-ink2">{{ bench.hits.value.size }}</span>
    </div>
    <div
      v-if="bench.head.value?.source"
      class="flex shrink-0 items-baseline gap-2 border-b border-line bg-wash px-3 py-1"
      title="Read from code: it is changed there. Repairs come as a patch: ubiquant audit REPO --patch FILE"
    >
      <span class="shrink-0 text-ink2">read from</span>
      <span class="min-w-0 truncate font-mono text-xs" dir="rtl"
        ><bdi>{{ inCode }}</bdi></span
      >
      <button
        v-if="ws.canBuild"
        class="btn btn-bare ml-auto h-6 shrink-0 px-1 text-xs"
        :aria-expanded="showsCode"
        @click="showsCode = !showsCode"
      >
        Lines</button
      ><button
        v-if="ws.canBuild && bench.head.value.kind === 'screen'"
        class="btn btn-bare h-6 shrink-0 px-1 text-xs"
        title="Make a screen of its own of it, to be changed here"
        @click="assembling = true"
      >
        Assemble …</button
      ><button class="btn btn-bare h-6 shrink-0 px-1 text-xs" @click="copyPlace">Copy</button>
    </div>
    <div
      v-if="showsCode && bench.head.value?.source"
      class="max-h-[30vh] shrink-0 overflow-auto border-b border-line px-3 py-1"
    >
      <CodeLines
        v-if="bench.current.value?.el.origin"
        :doc="`${bench.head.value.kind}:${bench.head.value.id}`"
        :element="bench.current.value.el.id"
      />
      <p v-else class="text-xs text-ink2">This line has no place of its own in the code.</p>
    </div>
    <ShellRow
      v-if="bench.head.value && bench.head.value.kind !== 'piece'"
      @make="shelling = $event"
    />
    <div
      v-if="bench.state.value"
      class="flex shrink-0 items-baseline gap-2 border-b border-line bg-wash px-3 py-1"
      role="status"
    >
      <span
        >When <span class="font-semibold">{{ bench.state.value }}</span>, {{ differences }}
        {{ differences === 1 ? 'difference' : 'differences' }} from ready. What is done here holds
        only then.</span
      >
      <button
        v-if="bench.canBuild.value"
        class="ml-auto shrink-0 underline"
        @click="
          bench.change({
            title: `No state ${bench.state.value}`,
            steps: [{ do: 'unstate', doc: bench.doc.value, state: { name: bench.state.value } }],
          })
        "
      >
        Take away
      </button>
    </div>
    <PieceProps v-if="bench.head.value?.kind === 'piece'" :kit="kit" />
    <CodePane v-if="coding" @close="backToLines" />
    <div
      v-show="!coding"
      ref="list"
      role="tree"
      aria-label="Elements"
      class="min-h-0 flex-1 overflow-x-hidden overflow-y-auto pb-24"
      @keydown="key"
    >
      <template v-for="{ key: id, line, gap } in rows" :key="id">
        <div v-if="!line" :style="{ height: gap + 'px' }"></div>
        <template v-else>
          <div v-if="inserting?.at === id && inserting.before" ref="block">
            <InsertLine v-bind="inserting" @cancel="cancel" @inserted="inserted" />
          </div>
          <BenchLine
            :line="line"
            :selected="id === selected"
            :also="extra.includes(id)"
            :mark="bench.marks.value.get(id)"
            :differs="bench.changed.value.has(id)"
            :editing="editingText === id"
            :class="{ 'opacity-50': dragging.has(id) }"
            @edited="edited"
            @next="openAfter"
            @grab="
              e => {
                if (bench.canBuild.value && editingText !== id) grab(e, id)
              }
            "
            @set="write"
          />
          <div
            v-if="drop?.line === id"
            class="pointer-events-none relative z-10"
            data-line-drop
            aria-hidden="true"
          >
            <div
              class="absolute right-2"
              :class="
                drop.edge === 'inside'
                  ? '-top-[22px] h-[22px] outline outline-1 outline-moss'
                  : drop.edge === 'before'
                    ? '-top-[23px] h-0.5 bg-moss'
                    : '-top-px h-0.5 bg-moss'
              "
              :style="{ left: 8 + drop.depth * INDENT + 'px' }"
            >
              <span
                class="absolute right-0 bg-moss px-1 text-xs leading-4 whitespace-nowrap text-onmoss"
                :class="drop.edge === 'inside' ? 'top-0.5' : '-top-2'"
                >{{ drop.words }}{{ dragging.size > 1 ? `, all ${dragging.size}` : '' }}</span
              >
            </div>
          </div>
          <div
            v-if="inserting ? inserting.at === id && !inserting.before : id === openAt"
            ref="block"
          >
            <InsertLine v-if="inserting" v-bind="inserting" @cancel="cancel" @inserted="inserted" />
            <ManyChoices
              v-else-if="extra.length"
              :ids="bench.chosen.value"
              :kit="kit"
              @back="focusLine"
            />
            <SettingLine
              v-if="setting && !inserting && !extra.length"
              :key="line.el.id + typedFirst"
              :line="line"
              :first="typedFirst"
              @done="set"
            />
            <LineChoices
              v-if="!inserting && !extra.length"
              ref="choices"
              :line="line"
              @back="focusLine"
            />
          </div>
        </template>
      </template>
    </div>
    <ShellDialog v-if="shelling" :element="shelling" @close="backToLines" @done="backToLines" />
    <ExtractDialog
      v-if="extracting"
      :elements="extracting"
      @close="backToLines"
      @done="extracted"
    />
    <AssembleDialog
      v-if="assembling && bench.head.value"
      :screen="bench.head.value"
      @close="assembling = false"
    />
    <BringDialog
      v-if="bringing !== undefined"
      :html="bringing"
      @close="backToLines"
      @done="backToLines"
    />
    <HistoryDialog v-if="history" @close="backToLines" />
  </section>
</template>
