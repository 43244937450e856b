import { refDebounced } from '@vueuse/core'
import { computed, inject, provide, ref, shallowRef, watch, type InjectionKey } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  ask,
  clientId,
  GET,
  type Change,
  type ChangeOut,
  type Choices,
  type DocHead,
  type Edit,
  type Element,
  type Finding,
  type Stray,
} from '../../api/client'
import { counted } from '../../use/counted'
import { useWorkspace, type Seen } from '../../use/workspace'
import { chosenIn, copyOf, freeNames, pasteAt } from './clipboard'
import {
  before,
  contains,
  findIn,
  isSelector,
  linesOf,
  narrowed,
  saysWord,
  mates,
  newId,
  newIds,
  reuse,
  cellsUnder,
  type KitIndex,
} from './tree'
import { usePicture, type Touch } from './usePicture'
import { usePresence } from './usePresence'

const key: InjectionKey<Bench> = Symbol('bench')
export type Bench = ReturnType<typeof createBench>
export const useBench = () => inject(key)!
export function provideBench(kit: () => KitIndex) {
  const bench = createBench(kit)
  provide(key, bench)
  return bench
}

/** Where a new line is being opened. */
export interface Opening {
  parent: string
  after: string
  slot: string
  depth: number
  at: string
  before: boolean
}

/** The document on the bench: its tree as the server has it, what is selected, and
 * the edits that change it. Every edit goes to the server and comes back confirmed. */
function createBench(kit: () => KitIndex) {
  const ws = useWorkspace()
  const route = useRoute()
  const router = useRouter()
  const head = shallowRef<DocHead>()
  // What was read from code is changed there.
  const canBuild = computed(() => ws.canBuild && !head.value?.source)
  const root = shallowRef<Element>()
  const findings = shallowRef<Finding[]>([])
  const strays = shallowRef<Stray[]>([])
  const error = ref('')
  const refusal = ref('') // why the last change was not taken
  const set = ref('')
  const language = ref('') // of the Proof's texts; empty is the one that they are written in
  const width = ref(1280)
  const theme = ref('light')
  const preview = ref(false)
  const strip = ref<'' | 'widths' | 'states' | 'sets'>('') // all of them side by side
  const state = ref('') // of the screen; empty is the usual one
  const changed = shallowRef(new Set<string>()) // what differs in it
  const folded = ref(new Set<string>())
  const extra = ref<string[]>([])
  const inserting = ref<Opening>()
  const record = ref(0) // which record expressions are tried on
  const choices = shallowRef<Choices>() // of the selected line, once they are known
  const editingText = ref('')
  const seq = ref(0)
  const selected = ref('')
  const doc = computed(() => `${String(route.params.kind)}:${String(route.params.id)}`)
  // Lines can be narrowed to those that a word or a selector meets.
  const wanted = ref('')
  const asked = refDebounced(wanted, 150)
  const hits = shallowRef<Set<string>>()
  const lines = computed(() => {
    const all = root.value ? linesOf(root.value, kit(), hits.value ? new Set() : folded.value) : []
    return hits.value ? narrowed(all, hits.value) : all
  })
  const marks = computed(() => {
    const out = new Map<string, { findings: Finding[]; strays: Stray[] }>()
    const at = (id: string) => {
      let m = out.get(id)
      if (!m) out.set(id, (m = { findings: [], strays: [] }))
      return m
    }
    for (const f of findings.value) at(f.element).findings.push(f)
    for (const s of strays.value) at(s.element).strays.push(s)
    return out
  })

  // While it is to be seen slow, a source is on its way first.
  const setShown = ref('')
  let slow = 0
  watch(
    set,
    now => {
      clearTimeout(slow)
      setShown.value = now === 'live-slow' ? 'live-loading' : now
      if (now === 'live-slow')
        slow = setTimeout(() => {
          if (set.value === 'live-slow') {
            setShown.value = 'live'
            void load()
          }
        }, 3000) as unknown as number
    },
    { flush: 'sync' },
  )

  const look = usePicture({ doc, set: setShown, state, language })

  /** Brings document and picture up to date, in turn with what is edited. */
  const load = () => inTurn(fetchAll)
  async function fetchAll() {
    error.value = ''
    const wanted = doc.value
    const [kind, id] = wanted.split(':') as [string, string]
    try {
      for (let tries = 0; tries < 4; tries++) {
        const out = await ask(
          GET('/api/docs/{kind}/{id}', {
            params: { path: { kind, id }, query: { state: state.value || undefined } },
          }),
        )
        const page = await look.rendered()
        if (doc.value !== wanted) return // another load follows
        // Somebody's edit came between the two: lines and picture would differ.
        if (!page || (page.revision !== out.head.revision && tries < 3)) continue
        show(out)
        look.draw(page)
        return
      }
    } catch (e) {
      error.value = (e as Error).message
      root.value = undefined
    }
  }
  let shownState = ''
  function show(view: NonNullable<ChangeOut['view']>) {
    head.value = view.head
    root.value = reuse(root.value, view.root as unknown as Element)
    findings.value = view.findings
    strays.value = view.strays
    seq.value = view.seq
    changed.value = new Set(view.changed)
    if (view.lost?.length) ws.say(`What no longer fits in this state: ${view.lost.join('; ')}`)
    shownState = state.value = view.state ?? ''
  }

  const seen = () => ({
    view: doc.value,
    set: setShown.value,
    state: state.value,
    known: head.value?.revision,
  })
  async function adopt(out: ChangeOut | undefined, known?: number, next?: string) {
    if (!out?.view) return
    // The picture first: bringing the lines up to date would hold it up.
    await look.adopt(out, known)
    show(out.view)
    // One selection only: a second would race with the first over the address.
    if (next) select(next)
    else if (selected.value && root.value && !findIn(root.value, selected.value))
      select(root.value.id)
  }

  /** A control of the preview was used: what follows from that is shown. */
  function hold(name: string, value: unknown) {
    void inTurn(async () => {
      try {
        const problem = await look.hold(name, value)
        if (problem) ws.say(problem)
      } catch (e) {
        ws.say((e as Error).message)
      }
    })
  }
  /** The preview touched a record: what follows from that is shown, and kept nowhere. */
  function touch(what: string) {
    void inTurn(async () => {
      try {
        const problem = await look.touch(JSON.parse(what) as Touch)
        if (problem) ws.say(problem)
      } catch (e) {
        ws.say((e as Error).message)
      }
    })
  }
  /** The picture's frame was given something that it cannot draw: it gets the whole. */
  const redraw = () =>
    inTurn(async () => {
      try {
        look.picture.value = undefined
        await look.redraw()
      } catch (e) {
        ws.say((e as Error).message)
      }
    })

  // One edit or undo at a time, in the order they were made: an answer taken in
  // after a later one would bring the older screen back to sight.
  let queue: Promise<unknown> = Promise.resolve()
  function inTurn<T>(run: () => Promise<T>): Promise<T> {
    const result = queue.then(run)
    queue = result.catch(() => undefined)
    return result
  }
  /** Takes a change that the server works out. */
  function planned(
    ask: (seen: { client: string } & Seen) => Promise<ChangeOut>,
    next?: (root: Element) => string | undefined,
  ): Promise<boolean> {
    return inTurn(async () => {
      refusal.value = ''
      try {
        if (state.value)
          throw new Error(
            `This changes the screen itself; go from ${state.value} back to ready first.`,
          )
        const as = seen()
        const out = await ask({ client: clientId, ...as })
        ws.note(out)
        await adopt(out, as.known)
        const to = root.value && next?.(root.value)
        if (to) select(to)
        return true
      } catch (e) {
        refusal.value = (e as Error).message
        ws.say(refusal.value)
        return false
      }
    })
  }
  const edit = (title: string, edits: Edit[], next?: string): Promise<boolean> =>
    change({ title, steps: [{ do: 'edit', doc: doc.value, edits }] }, next)
  /** Takes a change, here and elsewhere; what it does to this document shows at once. */
  function change(made: Change, next?: string): Promise<boolean> {
    return inTurn(async () => {
      refusal.value = ''
      if (!ws.canBuild) {
        ws.say('Readers look; a builder changes screens.')
        return false
      }
      if (head.value?.source && made.steps.some(s => s.do === 'edit' && s.doc === doc.value)) {
        ws.say(`It was read from ${head.value.source}: it is changed there.`)
        return false
      }
      if (!ws.connected) {
        ws.say('There is no connection; nothing was changed.')
        return false
      }
      try {
        // What is made here speaks of the revision that this window shows.
        // In a state, what is done is a difference of it.
        const steps = made.steps.map(s =>
          s.do !== 'edit' || s.doc !== doc.value
            ? s
            : state.value
              ? { do: 'edit-state', doc: s.doc, state: { name: state.value, edits: s.edits } }
              : { ...s, base: head.value?.revision },
        )
        const as = seen()
        const out = await ws.take(
          { title: state.value ? `${made.title} when ${state.value}` : made.title, steps },
          as,
        )
        await adopt(out, as.known, next)
        return true
      } catch (e) {
        refusal.value = (e as Error).message
        ws.say(refusal.value)
        return false
      }
    })
  }
  function step(back: boolean) {
    return inTurn(async () => {
      const last = (back ? ws.done : ws.undone).at(-1)
      try {
        const as = seen()
        const out = await (back ? ws.undo : ws.redo)(as)
        await adopt(out, as.known)
        // What changes elsewhere is not seen here, and is said.
        if (out && last && !out.page && !out.patches.length)
          ws.say(`${back ? 'Taken back' : 'Brought back'}: ${last.title}`)
      } catch (e) {
        ws.say((e as Error).message)
      }
    })
  }

  function takeBack(change: number, title: string): Promise<boolean> {
    return inTurn(async () => {
      try {
        const as = seen()
        await adopt(await ws.takeBack(change, title, as), as.known)
        return true
      } catch (e) {
        ws.say((e as Error).message)
        return false
      }
    })
  }

  function select(id: string, more = false) {
    if (!more) extra.value = []
    if (selected.value === id) return
    selected.value = id
    editingText.value = ''
    unfoldTo(id)
    if (route.hash !== '#' + id) void router.replace({ hash: '#' + id, query: route.query })
  }
  /** Selects one more, or gives up one that is selected already. */
  function selectMore(id: string) {
    if (extra.value.includes(id)) {
      extra.value = extra.value.filter(o => o !== id)
      return
    }
    extra.value = [...new Set([...extra.value, selected.value])].filter(o => o && o !== id)
    select(id, true)
  }
  /** What is hidden in a fold comes into view. */
  function unfoldTo(id: string) {
    const open = new Set(folded.value)
    const walk = (el: Element): boolean =>
      el.id === id || ((el.children ?? []).some(walk) && (open.delete(el.id), true))
    if (root.value && walk(root.value) && open.size !== folded.value.size) folded.value = open
  }
  const current = computed(() => (root.value ? findIn(root.value, selected.value) : undefined))
  const chosen = computed(() => [
    selected.value,
    ...extra.value.filter(id => id !== selected.value),
  ])
  const titleOf = (el: Element) => kit().get(el.type)?.title ?? el.type
  const title = (id: string) => {
    const f = root.value && findIn(root.value, id)
    return f ? titleOf(f.el) : id
  }

  async function remove() {
    const tree = root.value
    if (!tree) return
    const named = chosen.value.flatMap(id => findIn(tree, id)?.el ?? [])
    // The head of a column takes its cells along.
    const under = named.map(el => cellsUnder(tree, el, kit().get(el.type)?.parents))
    const all = [...new Set([...named, ...under.flatMap(u => u.cells)])]
    const cells = all.length - named.length
    // What stands inside another that goes as well needs no edit of its own.
    const gone = all.filter(
      el => el.id !== tree.id && !all.some(o => o.id !== el.id && contains(o, el.id)),
    )
    if (!gone.length) return
    const left = lines.value.filter(l => !gone.some(g => contains(g, l.el.id)))
    const at = lines.value.findIndex(l => l.el.id === gone[0]!.id)
    const beside = left.find(l => lines.value.indexOf(l) > at) ?? left.at(-1)
    const what = named.length === 1 ? titleOf(named[0]!) : `${gone.length - cells} elements`
    const taken = await edit(
      `Remove ${what}${cells ? ` and ${named.length > 1 ? 'their' : 'its'} ${cells === 1 ? 'cell' : 'cells'}` : ''}`,
      gone.map(el => ({ op: 'remove', id: el.id })),
      beside?.el.id,
    )
    const other = under.flatMap(u => u.others).length
    if (taken && other)
      ws.say(
        `${counted(other, 'row')} beside ${other === 1 ? 'has' : 'have'} another number of cells, and ${other === 1 ? 'keeps its' : 'keep their'} own.`,
      )
    else if (taken && cells)
      ws.say(`${counted(cells, 'cell')} went with ${named.length > 1 ? 'them' : 'it'}.`)
  }
  /** What is selected, in reading order, the root and what stands in another left out. */
  const blocks = () =>
    root.value ? chosenIn(root.value, chosen.value).filter(el => el.id !== root.value!.id) : []
  const named = (list: Element[]) =>
    list.length === 1 ? titleOf(list[0]!) : `${list.length} elements`
  async function copyBeside() {
    const list = blocks()
    if (!list.length) return
    const ids = list.map(el => newIds(el))
    const copies = list.map((el, i) => ids[i]![el.id]!)
    const edits: Edit[] = list.map((el, i) => ({ op: 'duplicate', id: el.id, ids: ids[i] }))
    // Copies of neighbours stand together after the last of them, not each after its own.
    const last = findIn(root.value!, list.at(-1)!.id)!
    if (list.length > 1 && list.every(el => mates(last.parent!, last.el).includes(el))) {
      edits.push(
        ...copies.map((id, i): Edit => ({
          op: 'move',
          id,
          parent: last.parent!.id,
          slot: last.el.slot ?? '',
          after: i ? copies[i - 1] : last.el.id,
        })),
      )
    }
    if (await edit(`Copy ${named(list)}`, edits, copies[0])) extra.value = copies.slice(1)
  }
  /** Moves elements to a place, in the order that they have. */
  async function moveTo(
    list: Element[],
    to: { parent: string; slot: string; after: string },
  ): Promise<boolean> {
    // What moves is none of those that it comes to stand after.
    let after = to.after
    const parent = root.value && findIn(root.value, to.parent)?.el
    const there = (parent?.children ?? []).filter(c => (c.slot ?? '') === to.slot)
    while (after && list.some(el => el.id === after))
      after = there[there.findIndex(c => c.id === after) - 1]?.id ?? ''
    const kept = extra.value
    const done = await edit(
      `Move ${named(list)}`,
      list.map((el, i): Edit => ({
        op: 'move',
        id: el.id,
        parent: to.parent,
        slot: to.slot,
        after: i ? list[i - 1]!.id : after,
      })),
    )
    if (done) extra.value = kept
    return done
  }
  /** Puts copies after the selected element; where they may not stand there, inside it. */
  async function paste(elements: Element[], named = false): Promise<boolean> {
    const tree = root.value
    if (!tree) return false
    const ids = elements.reduce((all, el) => newIds(el, all), {} as Record<string, string>)
    const free = freeNames(tree)
    const copies = elements.map(el => copyOf(el, ids, free))
    const put = (at: { parent: string; slot?: string; after: string }) =>
      copies.map((el, i): Edit => ({
        op: 'insert',
        parent: at.parent,
        after: i ? copies[i - 1]!.id : at.after,
        tree: { ...el, slot: at.slot },
      }))
    const title = `${named ? 'Bring in' : 'Paste'} ${copies.length === 1 ? titleOf(copies[0]!) : copies.length + ' elements'}`
    const at = pasteAt(tree, selected.value)
    const refused = ws.notice
    if (await edit(title, put(at), copies[0]!.id)) return true
    const inside = current.value?.el
    if (!inside || at.parent === inside.id || !kit().get(inside.type)?.slots.length) return false
    const into = await edit(
      title,
      put({ parent: inside.id, after: inside.children?.filter(c => !c.slot).at(-1)?.id ?? '' }),
      copies[0]!.id,
    )
    if (into) ws.notice = refused
    return into
  }
  // The last thing put on a screen by its line, for putting it again.
  const lastInsert = shallowRef<Element>()
  const lastSnippet = ref('') // what it was made of: made again, it takes names that are free
  async function again() {
    if (!lastInsert.value) {
      ws.say('Nothing was put on a screen yet that could be repeated.')
      return
    }
    if (!lastSnippet.value) {
      await paste([lastInsert.value])
      return
    }
    try {
      const made = await ask(
        GET('/api/snippet', {
          params: { query: { id: lastSnippet.value, app: head.value?.app ?? '', doc: doc.value } },
        }),
      )
      await paste([made.tree as unknown as Element], true)
    } catch (e) {
      ws.say((e as Error).message)
    }
  }
  async function wrap() {
    const many = lines.value.map(l => l.el.id).filter(id => chosen.value.includes(id))
    const id = newId()
    await edit('Wrap in a stack', [{ op: 'wrap', many, tree: { id, type: 'stack' } }], id)
  }
  async function unwrap() {
    const el = current.value?.el
    const first = el?.children?.[0]?.id
    if (el) await edit(`Unwrap ${titleOf(el)}`, [{ op: 'unwrap', id: el.id }], first)
  }
  async function move(direction: 'up' | 'down' | 'in' | 'out') {
    const all = blocks()
    const f = all.length && root.value ? findIn(root.value, all[0]!.id) : undefined
    if (!f?.parent || !root.value) return
    const { el, parent } = f
    const slot = el.slot ?? ''
    const list = mates(parent, el)
    // Those selected among the siblings of the first go together.
    const moved = list.filter(c => all.includes(c))
    if (moved.length < all.length) {
      ws.say('These stand in different places; those are moved by dragging.')
      return
    }
    const go = (to: string, s: string, a: string) =>
      moveTo(moved, { parent: to, slot: s, after: a })
    const prev = list[list.indexOf(moved[0]!) - 1],
      next = list[list.indexOf(moved.at(-1)!) + 1]
    if (direction === 'up' && prev) await go(parent.id, slot, before(parent, prev))
    if (direction === 'down' && next) await go(parent.id, slot, next.id)
    if (direction === 'in' && prev)
      await go(prev.id, '', prev.children?.filter(c => !c.slot).at(-1)?.id ?? '')
    if (direction === 'out') {
      const up = findIn(root.value, parent.id)
      if (up?.parent) await go(up.parent.id, parent.slot ?? '', parent.id)
    }
  }
  /** The next element that wants attention. */
  function walkMarks(by: 1 | -1) {
    if (!root.value) return
    const ids = linesOf(root.value, kit(), new Set())
      .map(l => l.el.id)
      .filter(id => marks.value.has(id) || id === selected.value)
    const to = ids[(ids.indexOf(selected.value) + by + ids.length) % ids.length]
    if (to && to !== selected.value) select(to)
    else ws.say('Nothing strays on this screen.')
  }

  // The address follows what is selected; only one that says otherwise selects.
  watch(
    () => route.hash,
    h => {
      const id = decodeURIComponent(h.slice(1))
      if (id && id !== selected.value) select(id)
    },
    { immediate: true },
  )
  watch(
    doc,
    async () => {
      selected.value = decodeURIComponent(route.hash.slice(1))
      extra.value = []
      state.value = ''
      inserting.value = undefined
      if (route.name !== 'bench') return
      await load()
      if (!selected.value && root.value) select(root.value.id)
    },
    { immediate: true },
  )
  watch([asked, () => seq.value], async () => {
    const q = asked.value.trim()
    if (!q || !root.value) {
      hits.value = undefined
      return
    }
    if (!isSelector(q)) {
      hits.value = new Set(
        linesOf(root.value, kit(), new Set())
          .filter(l => saysWord(l, q))
          .map(l => l.el.id),
      )
      return
    }
    try {
      const out = await ask(
        GET('/api/where', { params: { query: { selector: q, doc: doc.value } } }),
      )
      if (q === asked.value.trim()) hits.value = new Set(out.uses.map(u => u.element))
    } catch (e) {
      ws.say((e as Error).message)
    }
  })
  watch([set, language], load)
  watch(state, (now, was) => {
    if (now !== was && now !== shownState) void load()
  })
  // What was done in the preview does not stay; one begins from the page as it is served.
  watch(preview, on => {
    if (!on || look.picture.value?.edited) void redraw()
  })
  watch(
    () => ws.connected,
    on => {
      if (on) void load()
    },
  )
  const others = usePresence(doc, selected)
  watch(
    () => ws.lastEvent,
    e => {
      if (
        e &&
        e.client !== clientId &&
        e.seq > seq.value &&
        (!e.docs?.length || e.docs.includes(doc.value))
      )
        void load()
    },
  )
  return {
    doc,
    canBuild,
    head,
    root,
    findings,
    strays,
    picture: look.picture,
    paint: look.paint,
    redraw,
    error,
    set,
    language,
    width,
    theme,
    preview,
    strip,
    others,
    state,
    changed,
    wanted,
    hits,
    folded,
    extra,
    inserting,
    choices,
    record,
    editingText,
    selected,
    lines,
    marks,
    current,
    chosen,
    load,
    edit,
    change,
    planned,
    refusal,
    undo: () => step(true),
    redo: () => step(false),
    takeBack,
    hold,
    touch,
    select,
    selectMore,
    remove,
    copyBeside,
    paste,
    again,
    lastInsert,
    lastSnippet,
    wrap,
    unwrap,
    move,
    moveTo,
    walkMarks,
    title,
    seq,
  }
}
