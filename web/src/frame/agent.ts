// Runs inside the sandboxed frame, beside the kit's code. It draws tiles, each a
// shadow root, and tells where their elements stand. It touches only what it set.
import { measure } from '../../../core/geometry/measure.js'
import { follow, hear } from '../../../core/render/acts.js'
import { inksOf } from './inks'
import { force } from './states'
import type { FromFrame, Patch, Props, TileContent, TilePlace, ToFrame } from './messages'

interface Tile {
  host: HTMLElement
  root: ShadowRoot
  screen: HTMLElement
  place: TilePlace
  set: Map<Element, Set<string>>
  boxed?: boolean
  hear: () => void
}

const script = document.querySelector<HTMLScriptElement>('script[data-kit]')
const tiles = new Map<string, Tile>()
const sheets: CSSStyleSheet[] = []
// What the team adds comes after the kit's own styles, in the tiles and, since fonts
// count only there, in the page.
const dress = new CSSStyleSheet()
let kit: Record<string, unknown> = {}
let port: MessagePort | undefined
let goEvent = ''

const tell = (message: FromFrame) => port?.postMessage(message)

function tileOf(place: TilePlace): Tile {
  let tile = tiles.get(place.id)
  if (!tile) {
    const host = document.createElement('div')
    const root = host.attachShadow({ mode: 'open' })
    root.adoptedStyleSheets = sheets
    const screen = document.createElement('div')
    screen.className = 'u-screen'
    root.append(screen)
    document.body.append(host)
    const id = place.id
    const holds = follow(root, (name, value) =>
      tell({
        type: 'held',
        id,
        name,
        value: ['string', 'number', 'boolean'].includes(typeof value) ? value : '',
      }),
    )
    const does = hear(
      root,
      key => byKey(made, key),
      (verb, to, on) => {
        if (verb === 'go') tell({ type: 'go', id, to })
        else tell({ type: 'act', id, verb, to, on })
      },
    )
    const made: Tile = {
      host,
      root,
      screen,
      place,
      set: new Map(),
      hear: () => {
        does()
        holds()
      },
    }
    tile = made
    tiles.set(id, tile)
    root.addEventListener('click', e => {
      if ((e.composedPath() as Element[]).some(n => n.tagName === 'A')) e.preventDefault()
    })
    root.addEventListener('submit', e => e.preventDefault())
    if (goEvent)
      root.addEventListener(goEvent, e => {
        e.preventDefault()
        tell({ type: 'go', id, to: String((e as CustomEvent<{ to?: unknown }>).detail?.to ?? '') })
      })
  }
  const before = tile.place
  tile.place = place
  const { style } = tile.host
  Object.assign(style, {
    position: 'absolute',
    left: `${place.x}px`,
    top: `${place.y}px`,
    width: `${place.w}px`,
    height: `${place.h}px`,
    overflow: 'hidden',
    contain: 'strict',
  })
  tile.host.toggleAttribute('data-still', !place.live)
  tile.host.inert = !place.live
  Object.assign(tile.screen.style, {
    width: `${place.width}px`,
    minHeight: `${place.h / place.scale}px`,
    transform: `scale(${place.scale})`,
    transformOrigin: '0 0',
    contain: 'layout',
  })
  if (tile.screen.dataset.theme !== place.theme) {
    tile.screen.dataset.theme = place.theme
    if (tile.boxed) void look(tile, place.id)
  } else if (tile.boxed && (before.width !== place.width || before.scale !== place.scale))
    void look(tile, place.id)
  return tile
}

const byKey = (tile: Tile, key: string) => tile.root.querySelector(`[data-e="${CSS.escape(key)}"]`)

function setProps(tile: Tile, props: Props | undefined) {
  for (const [key, values] of Object.entries(props ?? {})) {
    const el = byKey(tile, key)
    if (el) Object.assign(el, values)
  }
}

function fragment(html: string): DocumentFragment {
  const template = document.createElement('template')
  template.innerHTML = html
  return template.content
}

/** Puts a node after a sibling within its parent; an empty key puts it first among
 * the elements the renderer made. */
function insertAfter(tile: Tile, parent: Element, node: Node, after: string) {
  const sibling = after ? byKey(tile, after) : null
  if (sibling) sibling.after(node)
  else {
    const first = [...parent.children].find(c => c.hasAttribute('data-e') && c !== node)
    if (first) first.before(node)
    else parent.append(node)
  }
}

/** Sets the attributes of an element to those wanted, and no others that were set here:
 * components reflect attributes onto themselves, and those stay. What somebody chose in a
 * control meanwhile stays chosen. */
function setAttributes(tile: Tile, el: Element, wanted: NonNullable<Patch['attrs']>) {
  const names = new Set(wanted.map(a => a.name))
  const holds = tile.place.live ? (el as HTMLElement).dataset.holds : undefined
  const held = holds?.split('|')[1]?.toLowerCase()
  const chosen = (name: string) => name.replaceAll('-', '') === held
  const known =
    tile.set.get(el) ?? new Set([...el.attributes].map(a => a.name).filter(n => n !== 'data-e'))
  for (const name of known) if (!names.has(name) && !chosen(name)) el.removeAttribute(name)
  for (const a of wanted) if (!chosen(a.name)) el.setAttribute(a.name, a.flag ? '' : a.value)
  tile.set.set(el, names)
}

/** Applies a patch; false where it speaks of what is not drawn. */
function apply(tile: Tile, patch: Patch): boolean {
  const el = byKey(tile, patch.key)
  const beside = !patch.after || !!byKey(tile, patch.after)
  let fits = true
  switch (patch.op) {
    case 'attrs':
      if (el) setAttributes(tile, el, patch.attrs ?? [])
      fits = !!el
      break
    case 'text': {
      const text = el && [...el.childNodes].find(n => n.nodeType === Node.TEXT_NODE)
      if (text) text.textContent = patch.text ?? ''
      else el?.prepend(patch.text ?? '')
      fits = !!el
      break
    }
    case 'remove':
      el?.remove()
      fits = !!el
      break
    case 'insert': {
      const parent = byKey(tile, patch.parent ?? '')
      const node = fragment(patch.html ?? '').firstElementChild
      if (parent && node) insertAfter(tile, parent, node, patch.after ?? '')
      fits = !!parent && !!node && beside && !el
      break
    }
    case 'move':
      if (el?.parentElement) insertAfter(tile, el.parentElement, el, patch.after ?? '')
      fits = !!el && beside
  }
  setProps(tile, patch.props as Props | undefined)
  tile.hear()
  return fits
}

/** Applies patches in order, and tells where one speaks of what is not drawn: then the
 * page is to be sent anew. */
function applyAll(tile: Tile, id: string, patches: Patch[]) {
  const lost = patches.filter(p => !apply(tile, p))
  if (lost.length) tell({ type: 'lost', id })
}

/** What elements of most libraries tell of their own rendering. */
type Updating = Element & { updateComplete?: Promise<unknown>; isUpdatePending?: boolean }

/** The next paint, or a moment later where the frame is not shown. */
const painted = () =>
  new Promise<void>(done => {
    requestAnimationFrame(() => setTimeout(done))
    setTimeout(done, 60)
  })

async function settled(tile: Tile) {
  // Off-screen frames get no animation frames; the elements' own promises do.
  for (let round = 0; round < 3; round++) {
    const waiting = [...tile.root.querySelectorAll('*')].filter(
      e => (e as Updating).isUpdatePending !== false && (e as Updating).updateComplete,
    ) as Updating[]
    if (!waiting.length) break
    await Promise.all(waiting.map(e => e.updateComplete))
  }
}

async function look(tile: Tile, id: string, token?: number, boxed = true) {
  await settled(tile)
  if (token) {
    await painted()
    tell({ type: 'painted', id, token })
  }
  if (!boxed) {
    tell({ type: 'drawn', id, height: 0, boxes: [], token })
    return
  }
  const k = tile.place.scale
  const boxes = measure(tile.root.querySelectorAll('[data-e]'), tile.screen, k)
  const content = tile.screen.firstElementChild?.getBoundingClientRect()
  tell({ type: 'drawn', id, height: content ? content.height / k : 0, boxes, token })
  // Texts change their widths when their font arrives.
  if (document.fonts.status === 'loading') void document.fonts.ready.then(() => look(tile, id))
}

function fill(content: TileContent, wantMeasure: boolean) {
  const tile = tiles.get(content.id)
  if (!tile) return
  tile.set.clear()
  tile.boxed = wantMeasure
  tile.screen.replaceChildren(fragment(content.html))
  setProps(tile, content.props)
  tile.hear()
  applyAll(tile, content.id, content.since ?? [])
  if (content.state) {
    const { state } = content
    void settled(tile).then(() => {
      if (!force(tile.screen, state)) tell({ type: 'stateless', id: content.id })
    })
  }
  void look(tile, content.id, undefined, wantMeasure)
}

function receive(message: ToFrame) {
  switch (message.type) {
    case 'init':
      goEvent = message.go
      for (const text of message.styles) {
        const s = new CSSStyleSheet()
        s.replaceSync(text)
        sheets.push(s)
      }
      sheets.push(dress)
      document.adoptedStyleSheets = [dress]
      break
    case 'dress': {
      dress.replaceSync(message.css)
      const add = kit[message.add]
      if (typeof add === 'function') add(message.icons)
      for (const [id, tile] of tiles) if (tile.boxed) void look(tile, id)
      break
    }
    case 'place':
      for (const p of message.tiles) tileOf(p)
      break
    case 'fill':
      fill(message.tile, message.measure)
      break
    case 'patch': {
      const tile = tiles.get(message.id)
      if (!tile) return
      applyAll(tile, message.id, message.patches)
      if (message.measure) void look(tile, message.id, message.token)
      break
    }
    case 'inks': {
      const tile = tiles.get(message.id)
      if (tile)
        void settled(tile).then(() =>
          tell({ type: 'inks', id: message.id, inks: inksOf(tile.screen) }),
        )
      break
    }
    case 'drop':
      for (const id of message.ids) {
        tiles.get(id)?.host.remove()
        tiles.delete(id)
      }
  }
}

addEventListener('message', e => {
  if (e.source !== parent || port || !e.ports[0]) return
  port = e.ports[0]
  port.onmessage = m => receive(m.data as ToFrame)
  import(/* @vite-ignore */ script?.dataset.kit ?? '').then(
    (m: Record<string, unknown>) => {
      kit = m
      tell({ type: 'ready' })
    },
    (err: unknown) => tell({ type: 'failed', message: String(err) }),
  )
})
