import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { ChangeOut, Page } from '../../api/client'
import type { Patch } from '../../frame/messages'

/** A server whose document is at a revision, and says of each what it looks like. */
const server = { revision: 1 }
const pageAt = (revision: number, doc = 'screen:a'): Page =>
  ({ key: doc, revision, html: `${doc} as of ${revision}`, problems: [] }) as unknown as Page

vi.mock('../../api/client', () => ({
  POST: (path: string, options: { body: { docs?: string[] } }) => ({ path, options }),
  ask: async (call: { path: string; options: { body: { docs?: string[] } } }) => {
    const page = pageAt(server.revision, call.options.body.docs?.[0])
    await new Promise(done => setTimeout(done, Math.random() * 3))
    return call.path === '/api/pages'
      ? { pages: [page] }
      : { patches: [patchTo(server.revision, 'held')], problems: [] }
  },
}))

function patchTo(revision: number, what = 'edit'): Patch {
  return { op: 'text', key: what, text: `screen:a as of ${revision}` } as unknown as Patch
}

/** An edit, answered as the server does: with patches where the window is up to date. */
function edit(known: number): ChangeOut {
  const whole = known !== server.revision
  server.revision++
  return {
    seq: server.revision,
    patches: whole ? [] : [patchTo(server.revision)],
    page: whole ? pageAt(server.revision) : undefined,
    view: { head: { revision: server.revision } },
  } as unknown as ChangeOut
}

beforeEach(() => {
  server.revision = 1
})

async function start() {
  const { usePicture } = await import('./usePicture')
  const look = { doc: ref('screen:a'), set: ref(''), state: ref(''), language: ref('') }
  const at = usePicture(look)
  const shown = () => {
    const edits = at.picture.value!.since.filter(p => p.key === 'edit')
    return edits.at(-1)?.text ?? at.picture.value!.page.html
  }
  return { look, at, shown }
}

describe('what the Proof shows', () => {
  it('is the last revision, whatever comes in whatever order', async () => {
    for (let round = 0; round < 60; round++) {
      server.revision = 1
      const { at, shown } = await start()
      await at.redraw()
      for (let i = 0; i < 12; i++) {
        const known = at.picture.value!.revision
        const dice = Math.random()
        if (dice < 0.5) await at.adopt(edit(known), known)
        else if (dice < 0.7) {
          // Somebody else's edit is not known here until the page is fetched.
          const others = edit(server.revision)
          expect(others.view!.head.revision).toBe(server.revision)
          if (Math.random() < 0.5) await at.redraw()
        } else if (dice < 0.85) await at.redraw()
        else await at.hold('q', i)
      }
      const known = at.picture.value!.revision
      await at.adopt(edit(known), known)
      expect(shown()).toBe(`screen:a as of ${server.revision}`)
      expect(at.picture.value!.revision).toBe(server.revision)
    }
  })

  it('keeps patches for those who draw it later', async () => {
    const { at } = await start()
    await at.redraw()
    const drawn: Patch[] = []
    at.paint.value = list => Promise.resolve(drawn.push(...list))
    await at.adopt(edit(1), 1)
    await at.adopt(edit(2), 2)
    expect(drawn).toHaveLength(2)
    expect(at.picture.value!.since).toEqual(drawn)
  })

  it('asks for the page where patches start from another one', async () => {
    const { at, shown } = await start()
    await at.redraw()
    server.revision = 5 // others have edited; this window's lines know, its picture does not
    await at.adopt(edit(5), 5)
    expect(shown()).toBe('screen:a as of 6')
    expect(at.picture.value!.since).toEqual([])
  })

  it('takes no page of a document that was left meanwhile', async () => {
    const { at, look } = await start()
    await at.redraw()
    const late = at.redraw()
    look.doc.value = 'screen:b'
    await late
    expect(at.picture.value!.page.key).toBe('screen:a')
    await at.redraw()
    expect(at.picture.value!.page.key).toBe('screen:b')
  })

  it('keeps what controls hold where the page is the same', async () => {
    const { at } = await start()
    await at.redraw()
    await at.hold('q', 'oak')
    const held = at.picture.value!.since
    await at.redraw()
    expect(at.picture.value!.since).toBe(held)
  })

  it('asks anew rather than pile patches up', async () => {
    const { at, shown } = await start()
    await at.redraw()
    for (let i = 0; i < 900; i++) {
      const known = at.picture.value!.revision
      await at.adopt(edit(known), known)
      expect(at.picture.value!.since.length).toBeLessThanOrEqual(400)
    }
    expect(shown()).toBe('screen:a as of 901')
  })
})
