import { beforeEach, describe, expect, it, vi } from 'vitest'
import { turned } from '../../../core/render/acts.js'
import type { FromFrame, Patch, ToFrame } from './messages'

let send: (m: ToFrame) => void
let told: FromFrame[]

/** A frame with its agent, connected as the application connects it. */
beforeEach(async () => {
  vi.resetModules()
  document.body.innerHTML = ''
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
  send({ type: 'init', styles: ['b { color: red }'], go: 'x-go' })
  send({
    type: 'place',
    tiles: [
      { id: 't', x: 10, y: 20, w: 300, h: 200, scale: 0.5, width: 600, theme: 'dark', live: false },
    ],
  })
  send({
    type: 'fill',
    tile: {
      id: 't',
      html: '<main data-e="r"><i data-e="a" tone="good" quiet="">one</i><i data-e="b">two</i></main>',
      props: { b: { value: 7 } },
    },
    measure: false,
  })
})

const root = () => document.body.querySelector('div')!.shadowRoot!
const el = (key: string) => root().querySelector(`[data-e="${key}"]`)!
const patch = (...patches: unknown[]) =>
  send({ type: 'patch', id: 't', patches: patches as Patch[], measure: false })
const order = () => [...el('r').children].map(c => c.getAttribute('data-e'))

describe('the frame’s agent', () => {
  it('draws a tile in a shadow root, in its place, theme and scale', () => {
    const host = document.body.querySelector('div')!
    expect(host.style.left).toBe('10px')
    expect(host.inert).toBe(true)
    expect(root().querySelector<HTMLElement>('.u-screen')!.dataset.theme).toBe('dark')
    expect(root().querySelector<HTMLElement>('.u-screen')!.style.transform).toBe('scale(0.5)')
    expect(order()).toEqual(['a', 'b'])
  })

  it('puts what is smaller than its tile in the middle of it', () => {
    send({
      type: 'place',
      tiles: [
        {
          ...{ id: 't', x: 10, y: 20, w: 300, h: 200, scale: 0.5, width: 400, theme: 'dark' },
          ...{ live: false, centred: true },
        },
      ],
    })
    const { style } = root().querySelector<HTMLElement>('.u-screen')!
    expect(style.transform).toBe('translateX(50px) scale(0.5)')
    expect(style.alignContent).toBe('safe center')
  })
  it('sets what is no attribute as a property', () => {
    expect((el('b') as unknown as { value: number }).value).toBe(7)
    patch({ op: 'attrs', key: 'b', attrs: [], props: { b: { value: 8 } } })
    expect((el('b') as unknown as { value: number }).value).toBe(8)
  })
  it('takes away only attributes that it set', () => {
    el('a').setAttribute('role', 'img') // as a component would by itself
    patch({
      op: 'attrs',
      key: 'a',
      attrs: [
        { name: 'tone', value: 'bad' },
        { name: 'wide', value: '', flag: true },
      ],
    })
    // What stood there when it was drawn counts as set by the renderer.
    expect(el('a').getAttribute('tone')).toBe('bad')
    expect(el('a').hasAttribute('quiet')).toBe(false)
    expect(el('a').getAttribute('wide')).toBe('')
    el('a').setAttribute('aria-busy', 'true')
    patch({ op: 'attrs', key: 'a', attrs: [{ name: 'tone', value: 'good' }] })
    expect(el('a').hasAttribute('wide')).toBe(false)
    expect(el('a').getAttribute('aria-busy')).toBe('true')
  })
  it('changes a text and leaves the elements beside it', () => {
    patch({ op: 'insert', parent: 'a', after: '', html: '<b data-e="c"></b>', key: 'c' })
    patch({ op: 'text', key: 'a', text: 'new <b>' })
    expect(el('a').textContent).toContain('new <b>')
    expect(el('c').parentElement).toBe(el('a'))
  })
  it('puts in, moves and removes', () => {
    patch({ op: 'insert', parent: 'r', after: 'a', html: '<i data-e="n">new</i>', key: 'n' })
    expect(order()).toEqual(['a', 'n', 'b'])
    patch({ op: 'insert', parent: 'r', after: '', html: '<i data-e="m"></i>', key: 'm' })
    expect(order()).toEqual(['m', 'a', 'n', 'b'])
    patch({ op: 'move', key: 'm', after: 'b' })
    expect(order()).toEqual(['a', 'n', 'b', 'm'])
    patch({ op: 'move', key: 'm', after: '' }, { op: 'remove', key: 'a' })
    expect(order()).toEqual(['m', 'n', 'b'])
  })
  it('does not stumble over what is not there, and asks for the page anew', () => {
    const lost = () => told.filter(m => m.type === 'lost').length
    const strays: Partial<Patch>[] = [
      { op: 'remove', key: 'nobody' },
      { op: 'text', key: 'nobody', text: 'x' },
      { op: 'attrs', key: 'nobody', attrs: [] },
      { op: 'insert', parent: 'nobody', after: '', html: '<i></i>', key: 'x' },
      { op: 'insert', parent: 'r', after: 'nobody', html: '<i data-e="y"></i>', key: 'y' },
      { op: 'insert', parent: 'r', after: '', html: '<i data-e="a"></i>', key: 'a' },
      { op: 'move', key: 'a', after: 'nobody' },
    ]
    for (const [i, p] of strays.entries()) {
      patch(p)
      expect(lost(), p.op).toBe(i + 1)
    }
    send({ type: 'patch', id: 'no-tile', patches: [], measure: true })
    send({ type: 'fill', tile: { id: 'no-tile', html: '' }, measure: true })
    expect(lost()).toBe(strays.length)
  })
  it('draws what was patched before it was there', () => {
    const since = [
      { op: 'insert', parent: 'r', after: 'a', html: '<i data-e="n">new</i>', key: 'n' },
      { op: 'remove', key: 'b' },
    ] as Patch[]
    send({
      type: 'fill',
      tile: {
        id: 't',
        html: '<main data-e="r"><i data-e="a"></i><i data-e="b"></i></main>',
        since,
      },
      measure: false,
    })
    expect(order()).toEqual(['a', 'n'])
    expect(told.some(m => m.type === 'lost')).toBe(false)
  })
  it('tells when it has drawn, and when it has painted', async () => {
    await vi.waitFor(() =>
      expect(told).toContainEqual(expect.objectContaining({ type: 'drawn', id: 't' })),
    )
    send({ type: 'patch', id: 't', patches: [], measure: true, token: 42 })
    await vi.waitFor(() => expect(told).toContainEqual({ type: 'painted', id: 't', token: 42 }))
  })
  it('measures again when the fonts have arrived', async () => {
    let arrive = () => {}
    Object.defineProperty(document, 'fonts', {
      value: {
        status: 'loading',
        ready: new Promise<void>(done => {
          arrive = done
        }),
      },
      configurable: true,
    })
    send({ type: 'patch', id: 't', patches: [], measure: true, token: 1 })
    const drawn = () => told.filter(m => m.type === 'drawn').length
    await vi.waitFor(() =>
      expect(told).toContainEqual(expect.objectContaining({ type: 'drawn', token: 1 })),
    )
    const before = drawn()
    Object.assign(document.fonts, { status: 'loaded' })
    arrive()
    await vi.waitFor(() => expect(drawn()).toBe(before + 1))
  })
  it('asks to go where a link of the kit wants to, and goes nowhere itself', () => {
    const go = new CustomEvent('x-go', {
      detail: { to: '/beds' },
      bubbles: true,
      composed: true,
      cancelable: true,
    })
    el('a').dispatchEvent(go)
    expect(go.defaultPrevented).toBe(true)
    expect(told).toContainEqual({ type: 'go', id: 't', to: '/beds' })
  })
  it('drops a tile', () => {
    send({ type: 'drop', ids: ['t', 'never'] })
    expect(document.body.children).toHaveLength(0)
  })
  it('takes one connection only', () => {
    const event = new MessageEvent('message', { data: 'connect' })
    const other = { postMessage: vi.fn(), onmessage: undefined }
    Object.defineProperties(event, { source: { value: parent }, ports: { value: [other] } })
    dispatchEvent(event)
    expect(other.onmessage).toBeUndefined()
  })
  it('does what its elements are told to, in order, and tells the rest', () => {
    send({
      type: 'fill',
      tile: {
        id: 't',
        html: '<main data-e="r"><i data-e="b" data-does="x-press|open:d%23r1|close:e|state:loading|go:%2Fbeds|theme:dark">press</i><u data-e="d#r1"></u><u data-e="e"></u><i data-e="l" data-does="click|go:%2Fa%3Bb"><em data-e="in">hit</em></i></main>',
      },
      measure: false,
    })
    const of = (key: string) => el(key) as unknown as { open?: boolean; on?: boolean }
    el('in').dispatchEvent(new MouseEvent('click', { bubbles: true, composed: true }))
    expect(told.at(-1)).toEqual({ type: 'go', id: 't', to: '/a;b' })
    el('b').dispatchEvent(new CustomEvent('x-press'))
    expect([of('d#r1').open, of('e').open]).toEqual([true, false])
    expect(told.slice(-3)).toEqual([
      { type: 'act', id: 't', verb: 'state', to: 'loading', on: undefined },
      { type: 'go', id: 't', to: '/beds' },
      { type: 'act', id: 't', verb: 'theme', to: 'dark', on: undefined },
    ])
    of('b').on = true
    el('b').dispatchEvent(new CustomEvent('x-press'))
    expect(told.at(-1)).toMatchObject({ to: 'dark', on: true })
  })
  it('answers once, to its own events only, and to elements that came later', () => {
    patch({
      op: 'insert',
      parent: 'r',
      after: '',
      key: 'card',
      html: '<section data-e="card" data-does="x-press|go:%2Fcard"><i data-e="n">in it</i></section>',
    })
    const before = told.length
    el('n').dispatchEvent(new CustomEvent('x-press', { bubbles: true, composed: true }))
    expect(told.length).toBe(before)
    patch({
      op: 'attrs',
      key: 'card',
      attrs: [{ name: 'data-does', value: 'x-press|go:%2Fother' }],
    })
    el('card').dispatchEvent(new CustomEvent('x-press', { bubbles: true }))
    expect(told.slice(before)).toEqual([{ type: 'go', id: 't', to: '/other' }])
  })
  it('turns themes on and off among those that stand', () => {
    expect(turned('light', 'dark', 'light')).toBe('dark')
    expect(turned('dark', 'dark', 'light')).toBe('light')
    expect(turned('dark', 'compact', 'light')).toBe('dark compact')
    expect(turned('dark compact', 'dark', 'light', false)).toBe('light compact')
    expect(turned('dark', 'dark', 'light', true)).toBe('dark')
  })
})
