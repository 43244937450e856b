// Runs inside the sandboxed frame, beside the kit's code. It draws tiles, each a
// shadow root, and tells where their elements stand. It touches only what it set.
import { measure } from '../../../core/geometry/measure.js'
import { follow, hear } from '../../../core/render/acts.js'
import { asking, elements, type Drawn } from '../../../core/render/asks'
import { inksOf } from './inks'
import { nodeOf, setSetting, settingsOf, stale, told, type Drawer, type Tells } from './plan'
import { tileSheet } from './sheets'
import { force } from './states'
import { joined } from './joined'
import { spared, whole } from './spared'
import type { FromFrame, Patch, Props, TileContent, TilePlace, ToFrame } from './messages'

// The policy of the page has no say over these: what is drawn could tell anybody anything by them.
// This stands before any of the kit's code runs.
for (const name of ['RTCPeerConnection', 'webkitRTCPeerConnection'])
  Object.defineProperty(globalThis, name, { value: undefined, configurable: false })

interface Tile {
  host: HTMLElement
  root: ShadowRoot | HTMLElement
  /** Of a kit that a framework draws: what is to be drawn, apart from the page. */
  plan?: HTMLElement
  tells?: Tells
  screen: HTMLElement
  place: TilePlace
  set: Map<Element, Set<string>>
  boxed?: boolean
  /** How high the page was when that was last told, and what sees it grow or shrink by itself. */
  height?: number
  grows?: ResizeObserver
  hear: () => void
}

const script = document.querySelector<HTMLScriptElement>('script[data-kit]')
const tiles = new Map<string, Tile>()
const sheets: CSSStyleSheet[] = []
// What the team adds comes after the kit's own styles, in the tiles and, since fonts
// count only there, in the page.
const dress = new CSSStyleSheet()
let kit: Record<string, unknown> = {}
// What draws the components, where they are a framework's.
let drawer: Drawer | undefined
const framed = (script?.dataset.drawn ?? 'elements') !== 'elements'
const themes = JSON.parse(script?.dataset.themes ?? '[]') as { light?: string; dark?: string }[]
let port: MessagePort | undefined
let goEvent = ''

const tell = (message: FromFrame) => port?.postMessage(message)

function tileOf(place: TilePlace): Tile {
  let tile = tiles.get(place.id)
  if (!tile) {
    const host = document.createElement('div')
    // A framework's styles are the page's; elements bring their own, and each tile keeps
    // the kit's sheet to itself.
    const root = framed ? host : host.attachShadow({ mode: 'open' })
    if (root instanceof ShadowRoot) root.adoptedStyleSheets = sheets
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
      asking(elements(key => byKey(made, key))),
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
    if (framed) {
      made.plan = document.createElement('div')
      const refused = asking(planned(made, id))
      made.tells = {
        does: el => perform(made, id, el, refused),
        closes: (el, args) => {
          const [, flag = ''] = el.getAttribute('data-closes')?.split('|') ?? []
          if (told(args, flag) === true) return // it tells that it was opened
          setSetting(el, flag, false)
          redraw(made, id)
        },
        holds: (el, args) => {
          const [, prop = '', name = ''] = el.getAttribute('data-holds')?.split('|') ?? []
          const value = told(args, prop)
          setSetting(el, prop, value)
          redraw(made, id)
          tell({
            type: 'held',
            id,
            name,
            value: ['string', 'number', 'boolean'].includes(typeof value) ? value : '',
          })
        },
      }
    }
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
  if (before.live !== place.live) watch(tile, place.id)
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
  const middle = place.centred ? `translateX(${(place.w - place.width * place.scale) / 2}px) ` : ''
  Object.assign(tile.screen.style, {
    width: `${place.width}px`,
    minHeight: `${place.h / place.scale}px`,
    display: place.centred ? 'grid' : '',
    alignContent: place.centred ? 'safe center' : '',
    transform: middle + `scale(${place.scale})`,
    transformOrigin: '0 0',
    contain: 'layout',
  })
  if (tile.screen.dataset.theme !== place.theme) {
    tile.screen.dataset.theme = place.theme
    dressed(tile.screen, place.theme)
    if (tile.plan?.firstElementChild) redraw(tile, place.id)
    if (tile.boxed) void look(tile, place.id)
  } else if (tile.boxed && (before.width !== place.width || before.scale !== place.scale))
    void look(tile, place.id)
  return tile
}

/** Says the theme to an element as the kit wants it said: a class or an attribute. */
function dressed(el: HTMLElement, theme: string) {
  const dark = theme.split(' ').includes('dark')
  // Kits that paint no ground of their own stand on one that goes with the theme.
  const host =
    el.getRootNode() instanceof ShadowRoot
      ? (el.getRootNode() as ShadowRoot).host
      : el.parentElement
  if (host instanceof HTMLElement) host.style.background = dark ? '#1B211C' : ''
  for (const [said, holds] of themes.flatMap(t => [
    [t.light, !dark] as const,
    [t.dark, dark] as const,
  ])) {
    const [name = '', value = ''] = said?.split('=') ?? []
    if (!value || name === 'data-theme') continue
    if (name === 'class') el.classList.toggle(value, holds)
    else if (holds) el.setAttribute(name, value)
    else if (el.getAttribute(name) === value) el.removeAttribute(name)
  }
}

const byKey = (tile: Tile, key: string) =>
  (tile.plan ?? tile.root).querySelector(`[data-e="${CSS.escape(key)}"]`)

/** What is done to a record, with what the form of a framework holds for it. */
function filled(tile: Tile, text: string): string {
  const { from, ...touch } = JSON.parse(text) as {
    from?: Record<string, [key: string, prop: string]>
    set?: unknown
  }
  if (from)
    touch.set = Object.fromEntries(
      Object.entries(from).map(([name, [key]]) => {
        const is = fieldOf(tile, key)
        return [name, is?.type === 'checkbox' ? is.checked : (is?.value ?? '')]
      }),
    )
  return JSON.stringify(touch)
}

/** The field on the page in which people type or choose for an element of the plan. */
function fieldOf(tile: Tile, key: string) {
  const at = drawer?.find(boxOf(tile), key)[0]
  const field = at?.matches('input, select, textarea')
    ? at
    : at?.querySelector('input, select, textarea')
  return (field ?? undefined) as HTMLInputElement | undefined
}

/** Elements of a plan, for forms that look at their fields. */
function planned(tile: Tile, id: string): Drawn {
  return {
    at: key => drawer?.find(boxOf(tile), key)[0] as HTMLElement | undefined,
    held: (key, prop) => {
      const field = fieldOf(tile, key)
      if (!field) return settingsOf(byKey(tile, key) ?? boxOf(tile))[prop]
      return field.type === 'checkbox' || field.type === 'radio' ? field.checked : field.value
    },
    setting: (key, prop) => settingsOf(byKey(tile, key) ?? boxOf(tile))[prop],
    set: (key, prop, value) => {
      const el = byKey(tile, key)
      if (!el) return
      setSetting(el, prop, value)
      void redraw(tile, id)
    },
  }
}

/** Does what an element of the plan is told to do. */
function perform(tile: Tile, id: string, el: Element, refused: (text: string) => boolean) {
  for (const part of el.getAttribute('data-does')?.split('|').slice(1) ?? []) {
    const [verb = '', rest = ''] = part.split(':')
    const to = decodeURIComponent(rest)
    if (verb === 'check') {
      if (refused(to)) return
    } else if (verb === 'open' || verb === 'close') {
      const other = byKey(tile, to)
      if (!other) continue
      setSetting(other, other.getAttribute('data-opens') ?? 'open', verb === 'open')
      redraw(tile, id)
    } else if (verb === 'go') tell({ type: 'go', id, to })
    else if (verb === 'set') {
      const at = to.indexOf('=')
      for (const control of tile.plan?.querySelectorAll('[data-holds]') ?? [])
        if (control.getAttribute('data-holds')?.split('|')[2] === to.slice(0, at))
          tile.tells?.holds(control, [JSON.parse(to.slice(at + 1))])
    } else if (verb === 'submit')
      drawer
        ?.find(boxOf(tile), el.getAttribute('data-e') ?? '')[0]
        ?.closest('form')
        ?.requestSubmit()
    else if (verb === 'touch') tell({ type: 'act', id, verb, to: filled(tile, to), on: undefined })
    else tell({ type: 'act', id, verb, to, on: undefined })
  }
}

// While a tile draws, what leaves for the body of the page goes into the tile: dialogs,
// menus and notices belong to the picture that opened them.
let body: HTMLElement | undefined
const realBody = document.body
const drawing: (() => Promise<void>)[] = []
let busy = false
if (framed) {
  Object.defineProperty(document, 'body', { configurable: true, get: () => body ?? realBody })
  const query = document.querySelector.bind(document)
  document.querySelector = ((selector: string) =>
    selector === 'body' && body ? body : query(selector)) as typeof document.querySelector
  const remove = Node.prototype.removeChild
  Node.prototype.removeChild = function <T extends Node>(this: Node, child: T): T {
    if (child.parentNode && child.parentNode !== this)
      return remove.call(child.parentNode, child) as T
    return child.parentNode ? (remove.call(this, child) as T) : child
  }
}

/** Draws one tile after the other. */
async function drawNext() {
  if (busy) return
  busy = true
  for (let next = drawing.shift(); next; next = drawing.shift()) await next()
  busy = false
}

const waiting = new Map<Tile, Promise<void>>()

/** Draws a tile's plan; several requests before it is drawn are one. */
function redraw(tile: Tile, id: string): Promise<void> {
  const under = waiting.get(tile)
  if (under) return under
  const done = new Promise<void>(resolve => {
    drawing.push(async () => {
      waiting.delete(tile)
      const first = tile.plan?.firstElementChild
      if (drawer && first && tile.tells && tiles.get(id) === tile) {
        body = tile.screen
        try {
          const message = drawer.draw(
            boxOf(tile),
            nodeOf(first, tile.tells),
            tile.screen.dataset.theme ?? '',
          )
          const late = new Promise<undefined>(r => setTimeout(r, 400))
          const after = await Promise.race([drawer.settled(boxOf(tile)), late])
          const said = message ?? after
          if (said) tell({ type: 'broken', id, message: String(said).slice(0, 300) })
        } catch (e) {
          const why = String((e as Error)?.message ?? e)
          tell({ type: 'broken', id, message: whole(why).slice(0, 300) })
        }
        body = undefined
        keyed(tile)
        grounded(tile)
      }
      resolve()
    })
  })
  waiting.set(tile, done)
  void drawNext()
  return done
}

/** What the kit's code gives the page in a theme, where that differs from the other theme's. */
interface PageLook {
  ground: string
  ink: string
}
let looks: { light: PageLook; dark: PageLook } | undefined
let lookedAt = 0

/** Reads what the page would look like: it has no look itself, since tiles of either theme stand on it.
 * Styles may come with what is drawn, so that it is read again from time to time. */
function pageLooks() {
  if (looks && performance.now() - lookedAt < 300) return looks
  const page = document.documentElement
  const own = document.querySelector('body')!
  own.style.setProperty('transition', 'none', 'important') // else it is read on its way
  own.style.removeProperty('background')
  const read = (): PageLook => {
    const { backgroundColor, color } = getComputedStyle(own)
    const none = /^(transparent|rgba\(.*, 0\))$/.test(backgroundColor)
    return { ground: none ? '' : backgroundColor, ink: color }
  }
  const light = read()
  let dark = light
  const said = themes.map(t => t.dark?.split('=') ?? []).find(([name, value]) => name && value)
  if (said) {
    const [name = '', value = ''] = said
    const before = page.getAttribute(name)
    if (name === 'class') page.classList.add(value)
    else page.setAttribute(name, value)
    dark = read()
    if (before === null) page.removeAttribute(name)
    else page.setAttribute(name, before)
  }
  own.style.setProperty('background', 'transparent', 'important')
  lookedAt = performance.now()
  return (looks = { light, dark })
}

/** Puts a tile on the ground that the kit's code gives the page in its theme, with the ink that goes
 * with it; where the page is the same in dark, it knows none, and the tile's own ground stays. */
function grounded(tile: Tile) {
  const { light, dark } = pageLooks()
  const isDark = tile.screen.dataset.theme?.split(' ').includes('dark')
  if (!isDark && light.ground) tile.host.style.background = light.ground
  if (isDark && dark.ground && dark.ground !== light.ground)
    tile.host.style.background = dark.ground
  tile.screen.style.color = isDark && dark.ink !== light.ink ? dark.ink : ''
}

/** The element that a framework draws into; overlays stand beside it in the tile. */
function boxOf(tile: Tile): HTMLElement {
  let box = tile.screen.querySelector<HTMLElement>(':scope > .u-drawn')
  if (!box) {
    box = document.createElement('div')
    box.className = 'u-drawn'
    tile.screen.append(box)
  }
  return box
}

/** Where the elements of a plan stand in the page, each by its key. */
function standing(tile: Tile): [Element, string][] {
  const out: [Element, string][] = []
  if (!drawer || !tile.plan) return out
  for (const el of tile.plan.querySelectorAll('[data-e]')) {
    const key = el.getAttribute('data-e') ?? ''
    for (const at of drawer.find(boxOf(tile), key).slice(0, 1)) out.push([at, key])
  }
  return out
}

/** Writes keys on the page's elements where none stands. */
function keyed(tile: Tile) {
  for (const [el, key] of standing(tile)) {
    if (!el.hasAttribute('data-e')) el.setAttribute('data-e', key)
    const planned = byKey(tile, key)
    if (planned?.hasAttribute('data-t')) listen(tile, el, key)
  }
}

const listening = new WeakMap<Element, Set<string>>()
/** Which element answered a click: what stands around it does not answer as well. */
const answered = new WeakMap<Event, Element>()

/** Elements of the page tell by events of their own what they do and what they hold. */
function listen(tile: Tile, el: Element, key: string) {
  const on = (name: string, act: (planned: Element) => void) => {
    const heard = listening.get(el) ?? new Set<string>()
    const type = byKey(tile, key)?.getAttribute(name)?.split('|')[0]
    if (!type || heard.has(name + type)) return
    listening.set(el, heard.add(name + type))
    el.addEventListener(type, e => {
      const planned = byKey(tile, key)
      // What elements send of themselves is theirs alone; a click may hit what is in them.
      const mine = e.type === 'click' ? (answered.get(e) ?? el) === el : e.target === el
      if (!mine || !planned?.getAttribute(name)?.startsWith(type + '|')) return
      if (e.type === 'click') answered.set(e, el)
      queueMicrotask(() => act(planned))
    })
  }
  on('data-does', planned => tile.tells?.does(planned, []))
  on('data-closes', planned => tile.tells?.closes(planned, []))
  on('data-holds', planned => {
    const prop = planned.getAttribute('data-holds')?.split('|')[1] ?? ''
    tile.tells?.holds(planned, [(el as unknown as Record<string, unknown>)[prop]])
  })
}

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
  if (tile.plan) {
    stale(el)
    stale(byKey(tile, patch.parent ?? ''))
  }
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
  if (tile.plan && patches.length) void redraw(tile, id)
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
  if (tile.plan) {
    await waiting.get(tile)
    return
  }
  // Off-screen frames get no animation frames; the elements' own promises do.
  for (let round = 0; round < 3; round++) {
    const waiting = [...tile.root.querySelectorAll('*')].filter(
      e => (e as Updating).isUpdatePending !== false && (e as Updating).updateComplete,
    ) as Updating[]
    if (!waiting.length) break
    await Promise.all(waiting.map(e => e.updateComplete))
  }
}

/**
 * How high the page is, in its own pixels: what is drawn, and what stands beside it in the flow, as a
 * dialog does whose styles lift it nowhere.
 */
function extent(tile: Tile): number {
  const top = tile.screen.getBoundingClientRect().top
  const ends = [...tile.screen.children].map((el, i) =>
    i && /^(fixed|absolute)$/.test(getComputedStyle(el).position)
      ? top
      : el.getBoundingClientRect().bottom,
  )
  return Math.max(0, ...ends.map(end => end - top)) / tile.place.scale
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
  const stands = tile.plan ? new Map(standing(tile)) : undefined
  const boxes = stands
    ? measure([...stands.keys()], tile.screen, k, el => stands.get(el))
    : measure(tile.root.querySelectorAll('[data-e]'), tile.screen, k)
  if (!stands) undefinedOnes(tile, id)
  tile.height = extent(tile)
  tell({ type: 'drawn', id, height: tile.height, boxes, token })
  // Texts change their widths when their font arrives.
  if (document.fonts.status === 'loading') void document.fonts.ready.then(() => look(tile, id))
}

/** Tells of elements that the kit's module does not define: they show nothing. */
function undefinedOnes(tile: Tile, id: string) {
  const names = new Set<string>()
  for (const el of tile.screen.querySelectorAll('[data-e]:not(:defined)')) names.add(el.localName)
  if (names.size)
    tell({
      type: 'broken',
      id,
      message: whole(`the kit does not define <${[...names].join('>, <')}>`),
    })
}

/** Looks again when the page grows or shrinks by what is done on it: an error that is shown, a
 * part that is opened. */
function watch(tile: Tile, id: string) {
  tile.grows?.disconnect()
  const content = tile.screen.firstElementChild
  if (!tile.boxed || !tile.place.live || !content) return
  tile.grows = new ResizeObserver(() => {
    if (tile.height && Math.abs(extent(tile) - tile.height) > 1) void look(tile, id)
  })
  tile.grows.observe(content)
}

function fill(content: TileContent, wantMeasure: boolean) {
  const tile = tiles.get(content.id)
  if (!tile) return
  tile.set.clear()
  tile.boxed = wantMeasure
  if (tile.plan) {
    tile.plan.replaceChildren(fragment(content.html))
    void redraw(tile, content.id)
  } else tile.screen.replaceChildren(fragment(content.html))
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
  watch(tile, content.id)
}

function receive(message: ToFrame) {
  switch (message.type) {
    case 'init':
      goEvent = message.go
      for (const text of message.styles) {
        sheets.push(tileSheet(text))
      }
      sheets.push(dress)
      // Fonts count only in the page, and what a framework draws stands there.
      document.adoptedStyleSheets = sheets
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
          tell({
            type: 'inks',
            id: message.id,
            inks: inksOf(tile.screen, new Map(standing(tile))),
          }),
        )
      break
    }
    case 'drop':
      for (const id of message.ids) {
        const tile = tiles.get(id)
        if (tile?.plan) drawer?.drop(boxOf(tile))
        tile?.grows?.disconnect()
        tile?.host.remove()
        tiles.delete(id)
      }
  }
}

addEventListener('message', e => {
  if (e.source !== parent || port || !e.ports[0]) return
  port = e.ports[0]
  port.onmessage = m => receive(m.data as ToFrame)
  tell({ type: 'here' })
  import(/* @vite-ignore */ script?.dataset.kit ?? '').then(
    (m: Record<string, unknown>) => {
      kit = m
      const drawers = Array.isArray(m.drawers) ? m.drawers : [m.drawer]
      drawer = joined((drawers as (Drawer | undefined)[]).map(d => d && spared(d)))
      void Promise.resolve(drawer?.ready?.()).then(
        () => tell({ type: 'ready' }),
        (err: unknown) => tell({ type: 'failed', message: String(err) }),
      )
    },
    (err: unknown) => tell({ type: 'failed', message: String(err) }),
  )
})
