import {
  useEventListener,
  useEventSource,
  useIntervalFn,
  useLocalStorage,
  useNow,
  useOnline,
} from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  ApiError,
  ask,
  clientId,
  GET,
  POST,
  reached,
  type Change,
  type ChangeOut,
  type Schemas,
} from '../api/client'

/** Where somebody else is looking. */
export interface Here {
  client: string
  name: string
  doc: string
  element?: string
}
export interface LiveEvent {
  seq: number
  docs?: string[]
  author?: string
  client?: string
}

/** What a window shows of a document: its revision, the sample set, the state. */
export interface Seen {
  view: string
  set: string
  state: string
  known?: number
}

/** A change that can be taken back, or done again. */
export interface Step {
  seq: number
  title: string
}

/** What somebody can take back and do again, of the changes that are kept, newest first:
 * undo goes on where it was left, in whatever window and session. */
export function remembered(
  rows: readonly { seq: number; author: string; title: string; undoes: number }[],
  me: string,
): { done: Step[]; undone: Step[] } {
  const done: Step[] = [],
    undone: Step[] = []
  const out = (list: Step[], seq: number) => {
    const at = list.findIndex(s => s.seq === seq)
    return at < 0 ? undefined : list.splice(at, 1)[0]
  }
  for (const r of rows.toReversed()) {
    if (!r.undoes) {
      if (r.author === me) {
        done.push({ seq: r.seq, title: r.title })
        undone.length = 0
      }
      continue
    }
    // Somebody else may have taken it back, too.
    const back = out(done, r.undoes),
      again = back ? undefined : out(undone, r.undoes)
    if (back && r.author === me) undone.push({ seq: r.seq, title: back.title })
    if (again && r.author === me) done.push({ seq: r.seq, title: again.title })
  }
  return { done, undone }
}

/** The workspace at a glance, who is here, what happens, and the one way to change it. */
export const useWorkspace = defineStore('workspace', () => {
  const data = shallowRef<Schemas['ApiWorkspaceOut']>()
  const signedOut = ref(false)
  const failure = ref('')
  const notice = ref('')
  const mode = useLocalStorage<'light' | 'dark'>(
    'ubiquant-mode',
    matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light',
  )
  watch(
    mode,
    m => {
      document.documentElement.dataset.mode = m
    },
    { immediate: true },
  )

  async function load() {
    try {
      data.value = await ask(GET('/api/workspace'))
      signedOut.value = false
      failure.value = ''
    } catch (e) {
      if (e instanceof ApiError && e.status === 401) signedOut.value = true
      else failure.value = (e as Error).message
    }
  }

  const events = useEventSource('/api/events', ['change', 'here', 'beat'] as const, {
    immediate: false,
    autoReconnect: { delay: 1000 },
  })
  const started = ref(false)
  const lastEvent = shallowRef<LiveEvent>()
  const others = shallowRef<Here[]>([])
  // A stream that says nothing for long is dead, whatever the browser believes.
  const heard = ref(0)
  const now = useNow({ interval: 2000 })
  watch([events.data, events.status], () => {
    heard.value = Date.now()
    if (events.status.value === 'OPEN') reached.value = true
  })
  watch(events.data, text => {
    if (!text || events.event.value === 'beat') return
    if (events.event.value === 'here') {
      others.value = ((JSON.parse(text) as { here?: Here[] }).here ?? []).filter(
        h => h.client !== clientId,
      )
      return
    }
    lastEvent.value = JSON.parse(text) as LiveEvent
    if (lastEvent.value.client !== clientId) void load()
  })
  const online = useOnline()
  const connected = computed(
    () =>
      !started.value ||
      (online.value &&
        reached.value &&
        events.status.value !== 'CLOSED' &&
        (!heard.value || now.value.getTime() - heard.value < 30_000)),
  )
  // A server that did not answer is asked again until it does.
  useIntervalFn(() => {
    if (started.value && !reached.value) void ask(GET('/api/health')).catch(() => undefined)
  }, 2000)
  // What happened meanwhile was not heard.
  watch(connected, on => {
    if (on) void load()
  })
  function listen() {
    if (!started.value) {
      started.value = true
      events.open()
    }
  }
  // A page that the browser sets aside must not hold its connection: there are only a
  // few to one server, and those that wait behind them would wait for ever.
  useEventListener(window, 'pagehide', () => {
    if (started.value) events.close()
  })
  useEventListener(window, 'pageshow', e => {
    if (started.value && e.persisted) {
      events.open()
      void load()
    }
  })

  const canBuild = computed(
    () => data.value?.me.role === 'builder' || data.value?.me.role === 'keeper',
  )
  const canKeep = computed(() => data.value?.me.role === 'keeper')
  const screens = computed(
    () => data.value?.docs.filter(d => d.kind === 'screen' && !d.removed) ?? [],
  )

  // Undo walks back over what this window changed, then over what one changed before.
  const done = ref<Step[]>([])
  const undone = ref<Step[]>([])
  let whose = ''
  async function remember() {
    // Somebody else who signs in here takes back what is their own.
    const me = data.value?.me.name ?? ''
    if (whose && whose !== me) {
      done.value = []
      undone.value = []
    }
    whose = me
    if (!canBuild.value || done.value.length) return
    try {
      const { changes } = await ask(GET('/api/changes', { params: { query: { most: 500 } } }))
      const kept = remembered(changes, me)
      if (whose === me && !done.value.length) {
        done.value = kept.done
        undone.value = kept.undone
      }
    } catch {
      /* without it, undo begins with what is changed from now on */
    }
  }
  function note(out: ChangeOut) {
    if (out.lost?.length)
      say(`Could not follow: ${out.lost.map(l => `${l.prop} on ${l.title}, ${l.why}`).join('; ')}.`)
    done.value.push({ seq: out.seq, title: out.title })
    undone.value = []
    if (data.value) data.value = { ...data.value, ...out.counts, seq: out.seq }
  }
  async function take(change: Change, seen?: Seen): Promise<ChangeOut> {
    const out = await ask(
      POST('/api/changes', {
        body: { change: change as Schemas['Change'], client: clientId, ...seen },
      }),
    )
    note(out)
    return out
  }
  // In turn: a second Ctrl+Z means the change before, not the same one again.
  let turn: Promise<unknown> = Promise.resolve()
  function step(...how: Parameters<typeof stepNow>) {
    const result = turn.then(() => stepNow(...how))
    turn = result.catch(() => undefined)
    return result
  }
  async function stepNow(from: typeof done, to: typeof done, seen?: Seen) {
    const last = from.value.at(-1)
    if (!last) return undefined
    const out = await ask(
      POST('/api/changes/{seq}/undo', {
        params: { path: { seq: last.seq } },
        body: { client: clientId, ...seen },
      }),
    )
    from.value.pop()
    to.value.push({ seq: out.seq, title: last.title })
    if (data.value) data.value = { ...data.value, ...out.counts, seq: out.seq }
    return out
  }
  /** Takes back one change by itself, whoever made it. */
  async function takeBack(seq: number, title: string, seen?: Seen): Promise<ChangeOut> {
    const out = await ask(
      POST('/api/changes/{seq}/undo', {
        params: { path: { seq } },
        body: { client: clientId, ...seen },
      }),
    )
    done.value = done.value.filter(d => d.seq !== seq)
    undone.value.push({ seq: out.seq, title })
    if (data.value) data.value = { ...data.value, ...out.counts, seq: out.seq }
    return out
  }
  const undo = (seen?: Seen) => step(done, undone, seen)
  const redo = (seen?: Seen) => step(undone, done, seen)

  let clearing = 0
  function say(text: string) {
    notice.value = text
    clearTimeout(clearing)
    clearing = window.setTimeout(() => {
      notice.value = ''
    }, 6000)
  }
  return {
    data,
    signedOut,
    failure,
    notice,
    mode,
    load,
    listen,
    lastEvent,
    others,
    connected,
    canBuild,
    canKeep,
    screens,
    remember,
    take,
    note,
    undo,
    redo,
    takeBack,
    done,
    undone,
    say,
  }
})
