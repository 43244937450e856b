import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { FromFrame, ToFrame } from './messages'
import type { Drawer, DrawNode } from './plan'

let send: (m: ToFrame) => void
let told: FromFrame[]

/** A drawer as plain as can be: it makes what it is told to, by keys. */
const plain: Drawer = {
  draw(box, node) {
    const make = (n: DrawNode): Element => {
      const known = box.querySelector(`[data-e="${n.id}"]`)
      const el = known ?? document.createElement(n.html ? n.c : 'x-of-framework')
      el.setAttribute('data-e', n.id)
      for (const [k, v] of Object.entries(n.props))
        if (typeof v !== 'function') Object.assign(el, { [k]: v })
      el.replaceChildren(...Object.values(n.slots).flat().map(make))
      return el
    }
    box.replaceChildren(make(node))
    return undefined
  },
  settled: async () => undefined,
  find: (box, id) => [...box.querySelectorAll(`[data-e="${id}"]`)],
  drop: () => undefined,
}

/** A frame whose kit is drawn by a framework, with elements of the page among its components. */
async function framed(html: string, theme = 'light', themes = '[]') {
  vi.resetModules()
  document.body.innerHTML = ''
  document.head.innerHTML = `<script data-kit="data:text/javascript,export const drawer = globalThis.plain" data-drawn="vue" data-themes='${themes}'></script>`
  Object.assign(globalThis, { plain })
  told = []
  Object.defineProperty(document, 'fonts', {
    value: { status: 'loaded', ready: Promise.resolve() },
    configurable: true,
  })
  await import('./agent')
  const port = {
    postMessage: (m: FromFrame) => told.push(m),
    onmessage: undefined as undefined | ((e: { data: ToFrame }) => void),
  }
  const event = new MessageEvent('message', { data: 'connect' })
  Object.defineProperties(event, { source: { value: parent }, ports: { value: [port] } })
  dispatchEvent(event)
  send = m => port.onmessage!({ data: m })
  await vi.waitFor(() => expect(told.some(m => m.type === 'ready')).toBe(true))
  send({ type: 'init', styles: [], go: '' })
  send({
    type: 'place',
    tiles: [{ id: 't', x: 0, y: 0, w: 9, h: 9, scale: 1, width: 9, theme, live: true }],
  })
  send({ type: 'fill', tile: { id: 't', html }, measure: true })
  await vi.waitFor(() => expect(told.some(m => m.type === 'drawn')).toBe(true))
}

const drawn = (key: string) => document.querySelector<HTMLElement>(`.u-drawn [data-e="${key}"]`)!
const goes = () => told.flatMap(m => (m.type === 'go' ? [m.to] : []))

describe('the ground that code gives the page', () => {
  it('is that of the tile, and the page keeps none', async () => {
    const draw = plain.draw
    plain.draw = (box, node, theme) => {
      const style = document.createElement('style')
      style.textContent = 'body { background-color: rgb(240, 248, 255); position: relative }'
      document.head.append(style)
      return draw(box, node, theme)
    }
    await framed(`<u-c data-c="Page" data-e="p"></u-c>`)
    plain.draw = draw
    const tile = document.querySelector<HTMLElement>('.u-screen')!.parentElement!
    await vi.waitFor(() => expect(tile.style.backgroundColor).toBe('rgb(240, 248, 255)'))
    expect(document.body.style.getPropertyPriority('background')).toBe('important')
  })
  it.each([
    ['.dark body { background-color: rgb(9, 9, 9); color: rgb(250, 250, 250) }', 'rgb(9, 9, 9)'],
    ['.other body { background-color: rgb(9, 9, 9) }', '#1B211C'],
  ])('is that of its theme, where the kit has one: %s', async (rule, ground) => {
    const draw = plain.draw
    plain.draw = (box, node, theme) => {
      const style = document.createElement('style')
      style.textContent = 'body { background-color: rgb(240, 248, 255); color: black }' + rule
      document.head.append(style)
      return draw(box, node, theme)
    }
    await framed(`<u-c data-c="Page" data-e="p"></u-c>`, 'dark', '[{"dark":"class=dark"}]')
    plain.draw = draw
    const screen = document.querySelector<HTMLElement>('.u-screen')!
    await vi.waitFor(() => expect(screen.parentElement!.style.backgroundColor).toBe(ground))
    expect(screen.style.color).toBe(ground === 'rgb(9, 9, 9)' ? 'rgb(250, 250, 250)' : '')
    expect(document.documentElement.className).toBe('')
  })
})

describe('elements of the page among components of a framework', () => {
  beforeEach(() =>
    framed(
      `<u-c data-c="Page" data-e="p"><u-c data-t="x-card" data-e="card" data-does="click|go:%2Fcard">` +
        `<u-c data-t="x-button" data-e="b" data-p='{"tone":"loud"}' data-does="click|go:%2Fbutton"></u-c></u-c>` +
        `<u-c data-t="x-day" data-e="day" data-p='{"value":"2026-09-14"}' data-holds="x-change|value|day" data-does="x-change|go:%2Fday"></u-c></u-c>`,
    ),
  )
  it('are elements, with their settings as properties', () => {
    expect(drawn('b').localName).toBe('x-button')
    expect((drawn('b') as unknown as { tone: string }).tone).toBe('loud')
    expect(drawn('p').localName).toBe('x-of-framework')
  })
  it('do what they are told to, the innermost alone at a click', async () => {
    drawn('b').click()
    await vi.waitFor(() => expect(goes()).toEqual(['/button']))
    drawn('card').click()
    await vi.waitFor(() => expect(goes()).toEqual(['/button', '/card']))
  })
  it('tell what they hold and do what they are told to at one click', async () => {
    await framed(
      `<u-c data-t="x-tick" data-e="k" data-p='{"on":true}' data-does="click|go:%2Fk" data-holds="click|on|k"></u-c>`,
    )
    drawn('k').click()
    await vi.waitFor(() => expect(goes()).toEqual(['/k']))
    await vi.waitFor(() =>
      expect(told.find(m => m.type === 'held')).toMatchObject({ name: 'k', value: true }),
    )
  })
  it('open by the flag that their library has for it, and are closed when they say so', async () => {
    await framed(
      `<u-c data-c="Page" data-e="p"><u-c data-t="x-button" data-e="b" data-does="click|open:d"></u-c>` +
        `<u-c data-t="x-sheet" data-e="d" data-opens="visible" data-closes="x-hide|visible"></u-c></u-c>`,
    )
    const is = () => (drawn('d') as unknown as { visible?: boolean }).visible
    drawn('b').click()
    await vi.waitFor(() => expect(is()).toBe(true))
    drawn('d').dispatchEvent(new Event('x-hide'))
    await vi.waitFor(() => expect(is()).toBe(false))
    drawn('b').click()
    await vi.waitFor(() => expect(is()).toBe(true))
  })
  it('set what controls hold, and tell it as if a person had chosen it', async () => {
    await framed(
      `<u-c data-c="Page" data-e="p"><u-c data-t="x-button" data-e="b" data-does="click|set:q%3D%22moss%22|set:late%3Dtrue"></u-c>` +
        `<u-c data-t="x-field" data-e="f" data-p='{"value":"fern"}' data-holds="x-change|value|q"></u-c>` +
        `<u-c data-t="x-tick" data-e="k" data-p='{"on":false}' data-holds="x-change|on|late"></u-c></u-c>`,
    )
    drawn('b').click()
    await vi.waitFor(() =>
      expect(told.filter(m => m.type === 'held')).toMatchObject([
        { name: 'q', value: 'moss' },
        { name: 'late', value: true },
      ]),
    )
    expect((drawn('f') as unknown as { value: string }).value).toBe('moss')
  })
  it('tell what they hold, by events of their own and nobody else’s', async () => {
    const day = drawn('day') as HTMLElement & { value: string }
    day.value = '2026-09-20'
    day.dispatchEvent(new CustomEvent('x-change', { bubbles: true }))
    await vi.waitFor(() =>
      expect(told.find(m => m.type === 'held')).toMatchObject({ name: 'day', value: '2026-09-20' }),
    )
    await vi.waitFor(() => expect(goes()).toEqual(['/day']))
    const inner = document.createElement('i')
    day.append(inner)
    inner.dispatchEvent(new CustomEvent('x-change', { bubbles: true }))
    await new Promise(r => setTimeout(r))
    expect(goes()).toEqual(['/day'])
  })
})
