// What screens do with the page around them.

import type { KitElements } from './elements'

/** The type of an element by its tag: the kit's own where it declares one, else what is known
 * of its properties. */
export type ElementOf<Tag extends string> = Tag extends keyof HTMLElementTagNameMap
  ? HTMLElementTagNameMap[Tag]
  : Tag extends keyof KitElements
    ? HTMLElement & KitElements[Tag]
    : HTMLElement

/** What a control holds when it says that it changed: what the event's element has, what the
 * event says of it, or what was given in its place. */
export const held = <T>(given: unknown, prop: string): T => {
  if (typeof given !== 'object' || given === null) return given as T
  const event = given as Record<string, unknown>
  const from = event['currentTarget'] ?? event['target'] ?? (Object.hasOwn(event, prop) && event)
  return (from ? (from as Record<string, unknown>)[prop] : given) as T
}

/** Whether an event comes from the element itself, not from what stands in it. */
export const itself = (event: { target: unknown; currentTarget: unknown }): boolean =>
  event.target === event.currentTarget

/** Sends the form that an element stands in. */
export function submit(event: unknown) {
  let up = ((event as Event).target as Element | null)?.parentElement
  for (; up; up = up.parentElement) {
    const form = up as Partial<HTMLFormElement>
    if (typeof form.requestSubmit === 'function') return form.requestSubmit()
  }
}

/** Turns a theme on or off among those that stand; what is on or ticked itself says which. */
export function theme(name: string, event: unknown) {
  const { dataset } = document.documentElement
  const list = (dataset['theme'] ?? '').split(' ').filter(t => t && t !== usualTheme)
  const is = list.includes(name)
  const { on, checked } = ((event as Event).target ?? {}) as { on?: unknown; checked?: unknown }
  const wanted = [on, checked].find(v => typeof v === 'boolean') ?? !is
  if (wanted === is) return
  const rest = list.filter(t => t !== name)
  dataset['theme'] = (is ? [usualTheme, ...rest] : [...rest, name]).join(' ')
  const dark = !is && name === 'dark'
  mark(kitDark, dark)
  mark(kitLight, !dark)
}
/** Puts a mark by which the kit knows a theme on the page: a class, or an attribute. */
function mark(by: string, on: boolean) {
  const [name = '', value = ''] = by.split('=')
  const root = document.documentElement
  if (name === 'class') root.classList.toggle(value, on)
  else if (name && on) root.setAttribute(name, value)
  else if (name && root.getAttribute(name) === value) root.removeAttribute(name)
}
const kitDark: string = '{{inner .Dark}}'
const kitLight: string = '{{inner .Light}}'
const usualTheme = '{{inner .Theme}}'

const below = (path: string, to: string): boolean =>
  path === to || (to !== '/' && path.startsWith(to + '/'))

/** Whether a place in the navigation leads to the route that is shown, nearer than those beside it. */
export const active = (path: string, to: string, beside: string[] = []): boolean =>
  below(path, to) && !beside.some(o => o !== to && below(o, to) && below(path, o))

/** The route that an event or a pressed link asks for; undefined where it is none of ours. */
export function routeOf(event: Event): string | undefined {
  if (event.defaultPrevented) return undefined
  const asked = (event as CustomEvent<{ to?: unknown } | null>).detail?.to
  if (typeof asked === 'string') return asked.startsWith('/') ? asked : undefined
  const { ctrlKey, metaKey, shiftKey, button } = event as MouseEvent
  if (ctrlKey || metaKey || shiftKey || button) return undefined
  const link = event.composedPath().find(e => e instanceof HTMLAnchorElement)
  const to = link?.getAttribute('href')
  return to?.startsWith('/') && !to.startsWith('//') && !link?.target ? to : undefined
}

/** Tells what screen is shown now: to the tab, and to those who hear the page; who used
 * the keyboard goes on at its beginning. */
export function arrived(title: string, moved: boolean) {
  document.title = title ? `${title} · ${application}` : application
  if (!moved) return
  const root = document.querySelector<HTMLElement>('[data-screen]')
  if (root) {
    root.tabIndex = -1
    root.focus({ preventScroll: true })
    window.scrollTo(0, 0)
  }
  let live = document.getElementById('arrived')
  if (!live) {
    live = document.createElement('div')
    live.id = 'arrived'
    live.className = 'u-told'
    live.setAttribute('aria-live', 'polite')
    document.body.append(live)
  }
  live.textContent = title
}
const application = '{{inner .Name}}'

/** What holds a value of a form: a property of its control, with what a text is read as. */
export type Holds = string | readonly [prop: string, as: 'number']

/** The part of the page that an event comes from with the controls of these names; a button that
 * sends stands among them. */
export function partOf(event: unknown, names: readonly string[]): Element {
  let target = ((event as Event).currentTarget ?? (event as Event).target) as Element
  while (
    target.tagName !== 'FORM' &&
    !names.some(name => controlIn(target, name)) &&
    target.parentElement
  )
    target = target.parentElement
  return target
}

/** A control by its name. */
export const controlIn = (part: Element, name: string): HTMLElement | undefined =>
  [...part.querySelectorAll<HTMLElement>('*')].find(
    c => (c as unknown as { name?: unknown }).name === name || c.getAttribute('name') === name,
  )

/** What a control of a form holds. */
export function valueIn(part: Element, name: string, prop: string): unknown {
  const form = part.tagName === 'FORM' ? (part as HTMLFormElement) : part.querySelector('form')
  const is = (controlIn(part, name) as unknown as Record<string, unknown> | undefined)?.[prop]
  return is ?? (form ? new FormData(form).get(name) : undefined) ?? undefined
}

/** The values of a form, by the names of its controls. */
export function valuesOf(event: unknown, fields: Readonly<Record<string, Holds>>): unknown {
  const part = partOf(event, Object.keys(fields))
  const values: Record<string, unknown> = {}
  for (const [name, holds] of Object.entries(fields)) {
    const [prop, as] = typeof holds === 'string' ? [holds] : holds
    const is = valueIn(part, name, prop)
    values[name] = as ? (is === '' || is === undefined ? undefined : Number(is)) : is
  }
  return values
}
