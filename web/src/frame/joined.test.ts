// @vitest-environment happy-dom
import { describe, expect, test } from 'vitest'
import { islandTag, joined } from './joined'
import type { Drawer, DrawNode } from './plan'

let count = 0
const node = (
  c: string,
  part: number,
  slots: Record<string, DrawNode[]> = {},
  html = false,
): DrawNode => ({ id: `${c}${++count}`, c, html, part, slot: '', props: {}, text: '', slots })

/** A drawer that writes what it draws, and counts what it draws anew. */
function writer(name: string) {
  const drawn = new Map<Element, DrawNode>()
  const log: string[] = []
  const write = (n: DrawNode): Element => {
    const el = document.createElement(n.html ? n.c : 'x-' + name)
    el.setAttribute('data-id', n.id)
    for (const [k, v] of Object.entries(n.props)) el.setAttribute(k, String(v))
    for (const list of Object.values(n.slots)) for (const k of list) el.append(write(k))
    return el
  }
  const drawer: Drawer = {
    draw(root, n) {
      if (drawn.get(root) !== n) {
        log.push(n.id)
        root.replaceChildren(write(n))
        drawn.set(root, n)
      }
      return n.c === 'fails' ? name + ' fails' : undefined
    },
    settled: async () => undefined,
    find: (root, id) => [...root.querySelectorAll(`[data-id="${id}"]`)],
    drop(root) {
      log.push('drop')
      drawn.delete(root)
    },
  }
  return { drawer, log }
}

async function drawnBy(d: Drawer, root: Element, n: DrawNode) {
  const said = d.draw(root, n, 'light')
  return said ?? (await d.settled(root))
}
const shape = (el: Element): string =>
  `${el.localName}(${[...el.children].map(shape).join(' ')})`.replace('()', '')

describe('what several bundles draw together', () => {
  test('each draws its own, in boxes that the other holds', async () => {
    const [a, b] = [writer('a'), writer('b')]
    const d = joined([a.drawer, b.drawer])!
    const root = document.createElement('div')
    const leaf = node('leaf', 0)
    const inner = node('day', 1, { '': [node('p', 0, { '': [leaf] }, true)] })
    const tree = node('page', 0, { '': [node('div', 0, { '': [inner] }, true)] })
    expect(await drawnBy(d, root, tree)).toBeUndefined()
    expect(shape(root)).toBe(`div(x-a(div(${islandTag}(x-b(p(${islandTag}(x-a)))))))`)
    // What is drawn is found wherever it stands.
    expect(d.find(root, inner.id)[0]!.localName).toBe('x-b')
    expect(d.find(root, leaf.id)[0]!.localName).toBe('x-a')
    expect(d.find(root, tree.id)[0]!.localName).toBe('x-a')
    expect(d.find(root, 'gone')).toEqual([])
  })

  test('what did not change is not drawn anew, and what goes is dropped', async () => {
    const [a, b] = [writer('a'), writer('b')]
    const d = joined([a.drawer, b.drawer])!
    const root = document.createElement('div')
    const [one, two] = [node('day', 1), node('day', 1)]
    const page = (...days: DrawNode[]) => ({ ...node('page', 0, { '': days }), id: 'page' })
    const first = page(one, two)
    await drawnBy(d, root, first)
    expect([a.log.length, b.log.length]).toEqual([1, 2])
    await drawnBy(d, root, first)
    expect([a.log.length, b.log.length]).toEqual([1, 2])
    await drawnBy(d, root, page(one))
    expect(b.log.filter(l => l === 'drop')).toHaveLength(2) // the one box that went, and that of the new page
    d.drop(root)
    expect(a.log.at(-1)).toBe('drop')
  })

  test('what fails in a box is told', async () => {
    const d = joined([writer('a').drawer, writer('b').drawer])!
    const root = document.createElement('div')
    expect(await drawnBy(d, root, node('page', 0, { '': [node('fails', 1)] }))).toBe('b fails')
  })

  test('elements alone need no second drawer', () => {
    const a = writer('a').drawer
    expect(joined([undefined, undefined])).toBeUndefined()
    expect(joined([undefined, a])).toBe(a)
  })
})
