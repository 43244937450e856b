<script setup lang="ts">
import { useElementSize, useScroll } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useWorkspace } from '../../use/workspace'
import {
  arranged,
  between,
  cellsOf,
  pasted,
  ROW,
  shown,
  textOf,
  toRight,
  type Cell,
  type Model,
  type Names,
  type Problem,
  type Rec,
} from './grid'
import PictureDialog from '../../ui/PictureDialog.vue'
import { pictureAt } from '../../use/pictures'

/** Records as a spreadsheet: walked, typed over, filled, copied and pasted by keys. It
 * tells what is to be written; what is written comes back as records. */
const ws = useWorkspace()
const props = defineProps<{
  model: Model
  records: Rec[]
  names: Names
  problems: Problem[]
  can: boolean
  filter: string
}>()
const emit = defineEmits<{
  write: [title: string, cells: Cell[], fresh: number, after?: string]
  drop: [ids: string[]]
  undo: [back: boolean]
}>()
const sort = ref('')
const fields = computed(() => props.model.fields)
const rows = computed(() =>
  arranged(props.records, fields.value, props.filter, sort.value, props.names),
)
const wrong = computed(() => new Map(props.problems.map(p => [p.record + ' ' + p.field, p.reason])))

const box = ref<HTMLElement>()
const { height: view } = useElementSize(box)
const { y: top } = useScroll(box)
const first = computed(() => Math.max(0, Math.floor(top.value / ROW) - 12))
const drawn = computed(() =>
  rows.value
    .slice(first.value, first.value + Math.ceil((view.value || 600) / ROW) + 24)
    .map((r, i) => ({ r, i: first.value + i })),
)

const at = ref({ row: 0, col: 0 }) // the cell that has the focus
const from = ref({ row: 0, col: 0 }) // the other corner of what is selected
const range = computed(() => between(at.value, from.value))
const editing = ref(false)
const text = ref('')
const input = ref<HTMLInputElement | HTMLSelectElement>()
const id = (row: number, col: number) => `cell-${row}-${col}`
const current = computed(() => rows.value[at.value.row])
const field = computed(() => fields.value[at.value.col])

watch(
  () => props.model.id,
  () => {
    at.value = from.value = { row: 0, col: 0 }
    sort.value = ''
    editing.value = false
  },
)
watch(
  () => rows.value.length,
  n => {
    if (at.value.row >= n) at.value = from.value = { row: Math.max(0, n - 1), col: at.value.col }
  },
)

function go(row: number, col: number, more = false) {
  at.value = {
    row: Math.max(0, Math.min(rows.value.length - 1, row)),
    col: Math.max(0, Math.min(fields.value.length - 1, col)),
  }
  if (!more) from.value = at.value
  const el = box.value
  if (!el) return
  const y = at.value.row * ROW,
    head = 40
  if (y < el.scrollTop) el.scrollTop = y
  else if (y + ROW + head > el.scrollTop + el.clientHeight)
    el.scrollTop = y + ROW + head - el.clientHeight
  void nextTick(() =>
    document
      .getElementById(id(at.value.row, at.value.col))
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' }),
  )
}
async function edit(with_?: string) {
  if (!props.can || !current.value || !field.value) return
  if (field.value.compute) {
    ws.say(`${field.value.name} is computed: ${field.value.compute}`)
    return
  }
  if (field.value.type === 'picture' && with_ === undefined) {
    choosing.value = { record: current.value.id, field: field.value.name }
    return
  }
  text.value = with_ ?? shown(field.value, current.value[field.value.name], props.names)
  editing.value = true
  await nextTick()
  const el = Array.isArray(input.value) ? (input.value as HTMLInputElement[])[0] : input.value
  el?.focus()
  if (with_ === undefined && el instanceof HTMLInputElement) el.select()
}
// A picture is chosen; its address can be typed, too.
const choosing = ref<{ record: string; field: string }>()
function chose(address: string) {
  const c = choosing.value
  choosing.value = undefined
  if (c) emit('write', `${c.field} of ${c.record}`, [{ ...c, text: address }], 0)
}
function done(by?: [number, number]) {
  if (!editing.value) return
  editing.value = false
  const r = current.value,
    f = field.value
  if (r && f && text.value !== shown(f, r[f.name], props.names))
    emit('write', `${f.name} of ${r.id}`, [{ record: r.id, field: f.name, text: text.value }], 0)
  if (by) go(at.value.row + by[0], at.value.col + by[1])
  box.value?.focus({ preventScroll: true })
}
function cancel() {
  editing.value = false
  box.value?.focus({ preventScroll: true })
}
function each(fill: (r: Rec, f: Model['fields'][number]) => string): Cell[] {
  const out: Cell[] = []
  for (let i = range.value.top; i <= range.value.bottom; i++)
    for (let j = range.value.left; j <= range.value.right; j++) {
      const r = rows.value[i],
        f = fields.value[j]
      if (r && f) out.push({ record: r.id, field: f.name, text: fill(r, f) })
    }
  return out
}
const many = () =>
  (range.value.bottom - range.value.top + 1) * (range.value.right - range.value.left + 1)
function key(e: KeyboardEvent) {
  if (editing.value) return
  const { row, col } = at.value
  const ctrl = e.ctrlKey || e.metaKey
  const page = Math.max(1, Math.floor(view.value / ROW) - 2)
  const moves: Record<string, [number, number]> = {
    ArrowDown: ctrl ? [rows.value.length - 1, col] : [row + 1, col],
    ArrowUp: ctrl ? [0, col] : [row - 1, col],
    ArrowLeft: ctrl ? [row, 0] : [row, col - 1],
    ArrowRight: ctrl ? [row, fields.value.length - 1] : [row, col + 1],
    PageDown: [row + page, col],
    PageUp: [row - page, col],
    Home: ctrl ? [0, 0] : [row, 0],
    End: ctrl ? [rows.value.length - 1, fields.value.length - 1] : [row, fields.value.length - 1],
  }
  const to = moves[e.key]
  if (to) {
    e.preventDefault()
    go(...to, e.shiftKey)
    return
  }
  if (ctrl && e.key === 'a') {
    e.preventDefault()
    from.value = { row: 0, col: 0 }
    at.value = { row: rows.value.length - 1, col: fields.value.length - 1 }
    return
  }
  if (ctrl && (e.key === 'z' || e.key === 'Z')) {
    e.preventDefault()
    e.stopPropagation()
    emit('undo', !e.shiftKey)
    return
  }
  if (!props.can) return
  if (ctrl && e.key === 'Enter') {
    e.preventDefault()
    add()
    return
  }
  if (ctrl && e.key === 'd') {
    e.preventDefault()
    const source = rows.value[range.value.top]!
    const cells = each((_, f) => shown(f, source[f.name], props.names)).filter(
      c => c.record !== source.id,
    )
    if (cells.length) emit('write', `Fill down ${cells.length} cells`, cells, 0)
    return
  }
  if (ctrl && (e.key === 'Backspace' || e.key === 'Delete')) {
    e.preventDefault()
    dropRows()
    return
  }
  if (ctrl) return
  if (e.key === 'Enter' || e.key === 'F2') {
    e.preventDefault()
    void edit()
  } else if (e.key === ' ' && field.value?.type === 'yes/no' && current.value) {
    e.preventDefault()
    emit(
      'write',
      `${field.value.name} of ${current.value.id}`,
      [
        {
          record: current.value.id,
          field: field.value.name,
          text: current.value[field.value.name] === true ? 'no' : 'yes',
        },
      ],
      0,
    )
  } else if (e.key === 'Delete' || e.key === 'Backspace') {
    e.preventDefault()
    emit(
      'write',
      `Clear ${many()} cells`,
      each(() => ''),
      0,
    )
  } else if (e.key === 'Tab') {
    /* leaves the grid */
  } else if (e.key.length === 1 && !e.altKey) {
    e.preventDefault()
    void edit(e.key)
  }
}
function editKey(e: KeyboardEvent) {
  e.stopPropagation()
  if (e.key === 'Enter') {
    e.preventDefault()
    done([e.shiftKey ? -1 : 1, 0])
  } else if (e.key === 'Tab') {
    e.preventDefault()
    done([0, e.shiftKey ? -1 : 1])
  } else if (e.key === 'Escape') {
    e.preventDefault()
    cancel()
  }
}
function add() {
  emit('write', `New record of ${props.model.name}`, [], 1, current.value?.id)
}
function dropRows() {
  const ids = rows.value.slice(range.value.top, range.value.bottom + 1).map(r => r.id)
  if (ids.length) emit('drop', ids)
}
function copy(e: ClipboardEvent) {
  if (editing.value || !e.clipboardData) return
  e.preventDefault()
  const out: string[][] = []
  for (let i = range.value.top; i <= range.value.bottom; i++)
    out.push(
      fields.value
        .slice(range.value.left, range.value.right + 1)
        .map(f => shown(f, rows.value[i]?.[f.name], props.names)),
    )
  e.clipboardData.setData('text/plain', textOf(out))
}
function paste(e: ClipboardEvent) {
  const held = e.clipboardData?.getData('text/plain')
  if (editing.value || !props.can || !held) return
  e.preventDefault()
  const { cells, fresh } = pasted(cellsOf(held), range.value, rows.value, fields.value)
  if (cells.length) emit('write', `Paste ${cells.length} cells`, cells, fresh)
}
function pick(e: PointerEvent, row: number, col: number) {
  if (editing.value) done()
  go(row, col, e.shiftKey)
  box.value?.focus({ preventScroll: true })
}
const drag = (e: PointerEvent, row: number, col: number) => {
  if (e.buttons === 1 && !editing.value) go(row, col, true)
}
const selected = (row: number, col: number) =>
  row >= range.value.top &&
  row <= range.value.bottom &&
  col >= range.value.left &&
  col <= range.value.right
const order = (name: string) => {
  sort.value = sort.value === name ? '-' + name : sort.value === '-' + name ? '' : name
}
const least = (f: Model['fields'][number]) =>
  f.type === 'picture'
    ? 70
    : toRight(f.type) || f.type === 'yes/no' || f.type === 'time'
      ? 84
      : f.type === 'long text'
        ? 220
        : 124
const widths = computed(
  () =>
    `96px ${fields.value.map(f => (f.type === 'picture' ? '70px' : `minmax(${least(f)}px, ${f.type === 'long text' ? 2 : toRight(f.type) ? 0.6 : 1}fr)`)).join(' ')}`,
)
const columns = computed(() => ({
  gridTemplateColumns: widths.value,
  minWidth: 96 + fields.value.reduce((n, f) => n + least(f), 0) + 'px',
}))
defineExpose({ add, dropRows, focus: () => box.value?.focus(), rows })
</script>

<template>
  <div
    ref="box"
    role="grid"
    tabindex="0"
    data-home
    class="relative min-h-0 flex-1 overflow-auto bg-sheet outline-offset-[-2px]"
    :aria-label="`Records of ${model.name}`"
    :aria-rowcount="rows.length + 1"
    :aria-colcount="fields.length + 1"
    :aria-activedescendant="rows.length ? id(at.row, at.col) : undefined"
    @keydown="key"
    @copy="copy"
    @cut="copy"
    @paste="paste"
  >
    <div
      role="row"
      class="sticky top-0 z-20 grid h-10 border-b border-line bg-ground"
      :style="columns"
    >
      <span role="columnheader" class="px-2 py-1 text-ink2">id</span>
      <button
        v-for="f in fields"
        :key="f.name"
        role="columnheader"
        class="min-w-0 px-2 py-1 leading-4 hover:bg-wash"
        :class="toRight(f.type) ? 'text-right' : 'text-left'"
        :aria-sort="sort === f.name ? 'ascending' : sort === '-' + f.name ? 'descending' : 'none'"
        :title="`Sort by ${f.name}`"
        @click="order(f.name)"
        @keydown.stop
      >
        <span class="block truncate font-semibold"
          >{{ f.name }}<span v-if="f.required" class="text-rust" title="required"> *</span>
          {{ sort === f.name ? '↑' : sort === '-' + f.name ? '↓' : '' }}</span
        ><span class="block truncate text-xs text-ink2"
          >{{ f.compute ? 'computed ' : '' }}{{ f.type }}{{ f.model ? ' to ' + f.model : ''
          }}{{ f.currency ? ' in ' + f.currency : '' }}{{ f.unique ? ', unique' : '' }}</span
        >
      </button>
    </div>
    <div class="relative" :style="{ height: rows.length * ROW + 'px' }">
      <div
        v-for="{ r, i } in drawn"
        :key="r.id"
        role="row"
        :aria-rowindex="i + 2"
        class="absolute inset-x-0 grid border-b border-line"
        :style="{ top: i * ROW + 'px', height: ROW + 'px', ...columns }"
      >
        <span role="rowheader" class="truncate px-2 py-1 font-mono text-xs leading-4 text-ink2">{{
          r.id
        }}</span>
        <div
          v-for="(f, j) in fields"
          :id="id(i, j)"
          :key="f.name"
          role="gridcell"
          :aria-selected="selected(i, j)"
          :aria-invalid="wrong.has(r.id + ' ' + f.name) || undefined"
          :title="wrong.get(r.id + ' ' + f.name)"
          class="relative min-w-0 truncate border-l border-line px-2 py-1 leading-4 select-none"
          :class="[
            toRight(f.type) ? 'text-right' : '',
            selected(i, j) ? 'bg-mosswash' : '',
            wrong.has(r.id + ' ' + f.name)
              ? 'text-rust shadow-[inset_2px_0_0_var(--color-rust)]'
              : '',
            i === at.row && j === at.col ? 'outline-2 -outline-offset-2 outline-moss outline' : '',
          ]"
          @pointerdown="pick($event, i, j)"
          @pointerenter="drag($event, i, j)"
          @dblclick="edit()"
        >
          <template v-if="editing && i === at.row && j === at.col">
            <select
              v-if="f.type === 'choice' || f.type === 'reference' || f.type === 'yes/no'"
              ref="input"
              v-model="text"
              class="input absolute inset-0 h-full w-full"
              :aria-label="`${f.name} of ${r.id}`"
              @keydown="editKey"
              @blur="done()"
              @pointerdown.stop
              @change="done()"
            >
              <option value=""></option>
              <option
                v-for="o in f.type === 'choice'
                  ? f.choices
                  : f.type === 'yes/no'
                    ? ['yes', 'no']
                    : (names[f.model ?? ''] ?? []).map(n => n.name)"
                :key="o"
              >
                {{ o }}
              </option>
            </select>
            <input
              v-else
              ref="input"
              v-model="text"
              class="input absolute inset-0 z-10 h-full w-full"
              :aria-label="`${f.name} of ${r.id}`"
              @keydown="editKey"
              @blur="done()"
              @pointerdown.stop
              @dblclick.stop
            />
          </template>
          <img
            v-else-if="pictureAt(r[f.name])"
            :src="pictureAt(r[f.name])"
            alt=""
            class="h-4.5"
          /><template v-else>{{ shown(f, r[f.name], names) }}</template>
        </div>
      </div>
    </div>
    <PictureDialog
      v-if="choosing"
      :title="`${choosing.field} of ${choosing.record}`"
      :current="String(current?.[choosing.field] ?? '')"
      @choose="chose"
      @close="choosing = undefined"
    />
  </div>
</template>
