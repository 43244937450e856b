import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

const answers: { path: string; body?: unknown; status: number; data: unknown }[] = []
const asked: { path: string; body: unknown }[] = []

vi.stubGlobal(
  'EventSource',
  class {
    close() {}
    addEventListener() {}
  },
)
vi.stubGlobal('fetch', async (request: Request) => {
  const path = new URL(request.url, 'http://x').pathname
  asked.push({ path, body: request.method === 'POST' ? await request.clone().json() : undefined })
  const a = answers.shift()
  if (!a) throw new TypeError('offline')
  return new Response(JSON.stringify(a.data), {
    status: a.status,
    headers: { 'content-type': 'application/json' },
  })
})
const answer = (path: string, data: unknown, status = 200) => answers.push({ path, data, status })

const shown = {
  name: 'Fernhollow',
  me: { name: 'noor', role: 'builder' },
  docs: [
    { kind: 'screen', id: 'a', removed: false },
    { kind: 'screen', id: 'b', removed: true },
    { kind: 'shell', id: 's' },
  ],
  questions: 3,
  strays: 7,
  findings: 20,
  seq: 1,
}

let useWorkspace: (typeof import('./workspace'))['useWorkspace']
let remembered: (typeof import('./workspace'))['remembered']
beforeEach(async () => {
  answers.length = asked.length = 0
  vi.stubGlobal('location', new URL('http://127.0.0.1:4780/'))
  setActivePinia(createPinia())
  ;({ useWorkspace, remembered } = await import('./workspace'))
})

describe('what can be taken back', () => {
  const row = (seq: number, author: string, undoes = 0) => ({
    seq,
    author,
    title: 'c' + seq,
    undoes,
  })
  const of = (...rows: ReturnType<typeof row>[]) => remembered(rows.toReversed(), 'ida')
  it('is what one did oneself, the latest last', () => {
    expect(of(row(1, 'ida'), row(2, 'noor'), row(3, 'ida'))).toEqual({
      done: [
        { seq: 1, title: 'c1' },
        { seq: 3, title: 'c3' },
      ],
      undone: [],
    })
  })
  it('follows what was taken back and done again', () => {
    expect(of(row(1, 'ida'), row(2, 'ida'), row(3, 'ida', 2))).toEqual({
      done: [{ seq: 1, title: 'c1' }],
      undone: [{ seq: 3, title: 'c2' }],
    })
    expect(of(row(1, 'ida'), row(2, 'ida'), row(3, 'ida', 2), row(4, 'ida', 3))).toEqual({
      done: [
        { seq: 1, title: 'c1' },
        { seq: 4, title: 'c2' },
      ],
      undone: [],
    })
  })
  it('is done again no more after something new', () => {
    expect(of(row(1, 'ida'), row(2, 'ida', 1), row(3, 'ida')).undone).toEqual([])
  })
  it('leaves out what somebody else took back', () => {
    expect(of(row(1, 'ida'), row(2, 'noor', 1))).toEqual({ done: [], undone: [] })
  })
})

describe('the workspace', () => {
  it('knows who may do what', async () => {
    const ws = useWorkspace()
    answer('/api/workspace', shown)
    await ws.load()
    expect([ws.canBuild, ws.canKeep]).toEqual([true, false])
    expect(ws.screens.map(s => s.id)).toEqual(['a'])
  })
  it('tells being signed out from having failed', async () => {
    const ws = useWorkspace()
    answer('/api/workspace', { title: 'Sign in first' }, 401)
    await ws.load()
    expect([ws.signedOut, ws.failure]).toEqual([true, ''])
    answer('/api/workspace', { title: 'Broken', detail: 'the database is gone' }, 500)
    await ws.load()
    expect(ws.failure).toBe('the database is gone')
    await ws.load()
    expect(ws.failure).toBe('The server cannot be reached.')
  })
  it('takes a change, shows the new counts and remembers it for undo', async () => {
    const ws = useWorkspace()
    answer('/api/workspace', shown)
    await ws.load()
    answer('/api/changes', {
      seq: 2,
      title: 'Set emphasis',
      counts: { questions: 3, strays: 6, findings: 20 },
    })
    await ws.take(
      { title: 'Set emphasis', steps: [] },
      { view: 'screen:a', set: '', state: '', known: 4 },
    )
    expect(asked.at(-1)).toMatchObject({
      path: '/api/changes',
      body: { view: 'screen:a', known: 4 },
    })
    expect(ws.data).toMatchObject({ strays: 6, seq: 2, name: 'Fernhollow' })
    expect(ws.done).toEqual([{ seq: 2, title: 'Set emphasis' }])
  })
  it('goes on taking back where it was left, each person their own', async () => {
    const ws = useWorkspace()
    answer('/api/workspace', shown)
    await ws.load()
    answer('/api/changes', {
      changes: [
        { seq: 3, author: 'ida', title: 'c3', undoes: 0 },
        { seq: 2, author: 'noor', title: 'c2', undoes: 0 },
      ],
    })
    await ws.remember()
    expect(ws.done).toEqual([{ seq: 2, title: 'c2' }])
    await ws.remember()
    expect(asked.filter(a => a.path === '/api/changes')).toHaveLength(1)
    answer('/api/workspace', { ...shown, me: { name: 'ida', role: 'builder' } })
    await ws.load()
    answer('/api/changes', { changes: [{ seq: 3, author: 'ida', title: 'c3', undoes: 0 }] })
    await ws.remember()
    expect(ws.done).toEqual([{ seq: 3, title: 'c3' }])
  })
  it('takes two undos in a hurry as two changes, one after the other', async () => {
    const ws = useWorkspace()
    const counts = { questions: 0, strays: 0, findings: 0 }
    for (const seq of [1, 2]) {
      answer('', { seq, title: 'c' + seq, counts })
      await ws.take({ title: 'c' + seq, steps: [] })
    }
    answer('', { seq: 3, title: '', counts })
    answer('', { seq: 4, title: '', counts })
    await Promise.all([ws.undo(), ws.undo(), ws.undo()])
    expect(asked.slice(2).map(a => a.path)).toEqual(['/api/changes/2/undo', '/api/changes/1/undo'])
    expect(ws.undone.map(d => d.title)).toEqual(['c2', 'c1'])
  })
  it('takes back and brings back, and a new change ends what could be brought back', async () => {
    const ws = useWorkspace()
    const counts = { questions: 0, strays: 0, findings: 0 }
    for (const seq of [1, 2]) {
      answer('', { seq, title: 'c' + seq, counts })
      await ws.take({ title: 'c' + seq, steps: [] })
    }
    answer('', { seq: 3, title: 'Take back: c2', counts })
    await ws.undo()
    expect(asked.at(-1)!.path).toBe('/api/changes/2/undo')
    expect(ws.undone).toEqual([{ seq: 3, title: 'c2' }])
    answer('', { seq: 4, title: 'again', counts })
    await ws.redo()
    expect(asked.at(-1)!.path).toBe('/api/changes/3/undo')
    expect(ws.done.map(d => d.title)).toEqual(['c1', 'c2'])
    answer('', { seq: 5, title: '', counts })
    await ws.undo()
    answer('', { seq: 6, title: 'c3', counts })
    await ws.take({ title: 'c3', steps: [] })
    expect(ws.undone).toEqual([])
    expect(await ws.redo()).toBeUndefined()
  })
  it('keeps what could not be taken back', async () => {
    const ws = useWorkspace()
    answer('', { seq: 1, title: 'c', counts: {} })
    await ws.take({ title: 'c', steps: [] })
    answer('', { title: 'Not now', detail: 'another change builds on it' }, 422)
    await expect(ws.undo()).rejects.toThrow('another change builds on it')
    expect(ws.done).toHaveLength(1)
  })
  it('says a thing for a while', () => {
    vi.useFakeTimers()
    const ws = useWorkspace()
    ws.say('first')
    vi.advanceTimersByTime(4000)
    ws.say('second')
    vi.advanceTimersByTime(4000)
    expect(ws.notice).toBe('second')
    vi.advanceTimersByTime(3000)
    expect(ws.notice).toBe('')
    vi.useRealTimers()
  })
})
