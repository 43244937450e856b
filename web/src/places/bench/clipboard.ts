import type { Element } from '../../api/client'
import { contains, findIn, newIds } from './tree'

/** What the clipboard holds besides HTML: elements as they stand in a workspace. */
export const fragmentType = 'application/x-ubiquant-fragment+json'
const format = 'ubiquant.fragment/1'

/** The chosen elements in reading order, without those inside another chosen one. */
export function chosenIn(root: Element, ids: readonly string[]): Element[] {
  const all: Element[] = []
  const walk = (el: Element) => {
    if (ids.includes(el.id)) all.push(el)
    el.children?.forEach(walk)
  }
  walk(root)
  return all.filter(el => !all.some(o => o !== el && contains(o, el.id)))
}

export const writeFragment = (elements: Element[]) => JSON.stringify({ format, elements })

const most = 5000

/** Reads a fragment. Undefined where the text is none; what it holds is checked by the
 * server, as every edit is. */
export function readFragment(text: string): Element[] | undefined {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    return undefined
  }
  const { format: said, elements } = (value ?? {}) as { format?: unknown; elements?: unknown }
  if (said !== format || !Array.isArray(elements)) return undefined
  let count = 0
  const whole = (el: unknown): el is Element => {
    const e = el as Partial<Element> | null
    return (
      ++count <= most &&
      !!e &&
      typeof e === 'object' &&
      typeof e.id === 'string' &&
      typeof e.type === 'string' &&
      (e.children === undefined || (Array.isArray(e.children) && e.children.every(whole)))
    )
  }
  return elements.length && elements.every(whole) ? elements : undefined
}

/** The names on a screen, as a question: whether one is free, which it then is no more. */
export function freeNames(root: Element | undefined): (name: string) => boolean {
  const taken = new Set<string>()
  const note = (el: Element) => {
    if (el.name) taken.add(el.name)
    el.children?.forEach(note)
  }
  if (root) note(root)
  return name => !taken.has(name) && !!taken.add(name)
}

/** A copy with ids of its own. Names stay unique on a screen, so a copy keeps only one
 * that is free there. */
export function copyOf(
  el: Element,
  ids = newIds(el),
  free: (name: string) => boolean = () => false,
): Element {
  const { name, same: _, ...rest } = el
  // What opens something that is copied as well opens the copy.
  const does = rest.props?.does
  if (typeof does === 'string')
    rest.props = {
      ...rest.props,
      does: does.replaceAll(/\b(open|close) ([^;]+)/g, (all: string, verb: string, id: string) =>
        ids[id.trim()] ? `${verb} ${ids[id.trim()]}` : all,
      ),
    }
  return {
    ...rest,
    ...(name && free(name) ? { name } : {}),
    id: ids[el.id]!,
    children: el.children?.map(c => copyOf(c, ids, free)),
  }
}

/** Whether a text is markup that somebody copied. */
export const isMarkup = (text: string) => /^\s*<(?:!doctype|!--|[a-z][\w-]*[\s/>])/i.test(text)

/** The rendered markup of elements, as others can use it: without what only the
 * application's own pictures need. */
export function markupOf(pageHtml: string, ids: readonly string[]): string {
  const page = new DOMParser().parseFromString(pageHtml, 'text/html')
  return ids
    .flatMap(id => {
      const el = page.querySelector(`[data-e="${CSS.escape(id)}"]`)
      if (!el) return []
      for (const n of [el, ...el.querySelectorAll('[data-e]')])
        for (const a of ['data-e', 'data-does', 'data-holds']) n.removeAttribute(a)
      return [el.outerHTML]
    })
    .join('\n')
}

/** Where pasted elements go: after the selected one, or into the root. */
export function pasteAt(
  root: Element,
  selected: string,
): { parent: string; slot?: string; after: string } {
  const at = findIn(root, selected)
  if (!at?.parent)
    return { parent: root.id, after: root.children?.filter(c => !c.slot).at(-1)?.id ?? '' }
  return { parent: at.parent.id, slot: at.el.slot, after: at.el.id }
}
