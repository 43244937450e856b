/** What a framework is to draw: the page as the server renders it, with <u-c> for the
 * library's components. The plan is kept apart from the page and is changed by the same
 * patches; nodes that nothing changed stay the same objects, and are not drawn anew. */

export interface DrawNode {
  id: string
  c: string
  html: boolean
  /** Which of the bundles it belongs to: 0 is the kit, others are parts from elsewhere. */
  part: number
  /** The place it stands in, of what stands around it. */
  slot?: string
  props: Record<string, unknown>
  text: string
  slots: Record<string, DrawNode[]>
}

/** What draws a library's components; see the adapters. */
export interface Drawer {
  ready?: () => Promise<void>
  draw: (root: Element, node: DrawNode, theme: string) => string | undefined
  /** Resolves when it stands; with words where something could not be drawn. */
  settled: (root: Element) => Promise<string | undefined | void>
  find: (root: Element, id: string) => Element[]
  drop: (root: Element) => void
}

/** What elements of the plan tell when something happens to them. */
export interface Tells {
  does: (el: Element, args: unknown[]) => void
  holds: (el: Element, args: unknown[]) => void
  closes: (el: Element, args: unknown[]) => void
}

/** Attributes of HTML that are there or not. */
const flags = new Set(
  'checked disabled hidden multiple novalidate open readonly required reversed selected'.split(' '),
)

const nodes = new WeakMap<Element, DrawNode>()

/** Forgets what was read of an element and of all that it stands in. */
export function stale(el: Element | null | undefined) {
  for (let at = el; at; at = at.parentElement) nodes.delete(at)
}

/** The settings of an element, as its code takes them. */
export function settingsOf(el: Element): Record<string, unknown> {
  const text = el.getAttribute('data-p')
  return text ? (JSON.parse(text) as Record<string, unknown>) : {}
}

export function setSetting(el: Element, name: string, value: unknown) {
  el.setAttribute('data-p', JSON.stringify({ ...settingsOf(el), [name]: value }))
  stale(el)
}

/** How a framework is told what to call at an event: "click" is "onClick",
 * "update:modelValue" is "onUpdate:modelValue". */
export const handlerOf = (event: string) =>
  /^on[A-Z]/.test(event) ? event : 'on' + event.charAt(0).toUpperCase() + event.slice(1)

const parts = (el: Element, name: string) => el.getAttribute(name)?.split('|') ?? []

export function nodeOf(el: Element, tells: Tells): DrawNode {
  const known = nodes.get(el)
  if (known) return known
  const component = el.getAttribute('data-c')
  const tag = el.getAttribute('data-t')
  const node: DrawNode = {
    id: el.getAttribute('data-e') ?? '',
    c: component ?? tag ?? el.getAttribute('data-h') ?? el.localName,
    html: component === null,
    part: Number(el.getAttribute('data-k') ?? 0),
    slot: el.getAttribute('slot') ?? '',
    props: {},
    text: '',
    slots: {},
  }
  if (component !== null) {
    node.props = settingsOf(el)
    const [does] = parts(el, 'data-does')
    if (does) node.props[handlerOf(does)] = (...args: unknown[]) => tells.does(el, args)
    for (const what of ['holds', 'closes'] as const) {
      const [at] = parts(el, `data-${what}`)
      if (!at) continue
      const name = handlerOf(at)
      const also = node.props[name] as ((...args: unknown[]) => void) | undefined
      node.props[name] = (...args: unknown[]) => {
        tells[what](el, args)
        also?.(...args)
      }
    }
  } else if (tag !== null) node.props = settingsOf(el)
  else
    for (const a of el.attributes)
      if (a.name !== 'data-e' && a.name !== 'data-h' && a.name !== 'slot')
        node.props[a.name] = a.value === '' && flags.has(a.name) ? true : a.value
  for (const child of el.childNodes) {
    if (child.nodeType === Node.TEXT_NODE) node.text += child.textContent ?? ''
    else if (child instanceof Element) {
      const slot = child.getAttribute('slot') ?? ''
      const made = nodeOf(child, tells)
      // An element has its places filled by what says so itself; a plain one has no places.
      if (tag !== null && slot) made.props['slot'] = slot
      ;(node.slots[component === null ? '' : slot] ??= []).push(made)
    }
  }
  node.text = node.text.trim()
  nodes.set(el, node)
  return node
}

/** The value that a control tells, whatever the framework hands over; prop is what holds it. */
export function told(args: unknown[], prop: string): unknown {
  const [first, second] = args
  const target = (first as { target?: unknown } | null | undefined)?.target as
    { type?: string; checked?: boolean; value?: unknown } | undefined
  if (target && typeof target === 'object')
    return target.type === 'checkbox' || target.type === 'radio' ? target.checked : target.value
  // Some hand over the event first and the value behind it.
  if (first && typeof first === 'object' && !Array.isArray(first) && args.length > 1) return second
  // Others hand over what says how it is now: { checked: true }.
  if (first && typeof first === 'object' && Object.hasOwn(first, prop))
    return (first as Record<string, unknown>)[prop]
  return first
}
