import { describe, expect, test } from 'vitest'
import type { Drawer, DrawNode } from './plan'
import { spared } from './spared'

let count = 0
const node = (c: string, kids: DrawNode[] = [], props: Record<string, unknown> = {}): DrawNode => ({
  id: `${c}${++count}`,
  c,
  html: c === c.toLowerCase(),
  part: 0,
  props,
  text: '',
  slots: { '': kids },
})

/** A drawer of which some components throw, as the settings of the page have it. */
function picky(throws: (n: DrawNode, around: string[]) => string | undefined) {
  let shown = ''
  let draws = 0
  const write = (n: DrawNode, around: string[]): string => {
    const why = n.html ? undefined : throws(n, around)
    if (why) throw new Error(why)
    const name = (n.props['data-broken'] as string | undefined) ? `!${n.text}` : n.c
    const kids = Object.values(n.slots).flat()
    return name + (kids.length ? `(${kids.map(k => write(k, [...around, n.c])).join(' ')})` : '')
  }
  const drawer: Drawer = {
    draw(_, n) {
      draws++
      shown = ''
      try {
        shown = write(n, [])
        return undefined
      } catch (e) {
        return (e as Error).message
      }
    },
    settled: async () => undefined,
    find: () => [],
    drop: () => {},
  }
  return { drawer: spared(drawer), shown: () => shown, draws: () => draws }
}
const root = {} as Element

describe('a page of which some components throw', () => {
  test('is drawn without them, with all that is in them, and they are told', () => {
    const p = picky(n => (n.c === 'Toast' ? 'no place for it' : undefined))
    const page = node('div', [node('Toast', [node('Chip')]), node('Card', [node('Chip')])])
    expect(p.drawer.draw(root, page, '')).toBe('Toast cannot be drawn: no place for it')
    expect(p.shown()).toBe('div(!Toast(Chip) Card(Chip))')
  })

  test('several of them are each told with why, and no other goes', () => {
    const p = picky(n => ({ Toast: 'one', Map: 'two' })[n.c])
    const page = node('div', [node('Toast'), node('Card', [node('Map'), node('Chip')])])
    expect(p.drawer.draw(root, page, '')?.split('; ').sort()).toEqual([
      'Map cannot be drawn: two',
      'Toast cannot be drawn: one',
    ])
    expect(p.shown()).toBe('div(!Toast Card(!Map Chip))')
  })

  test('what can be drawn again is', () => {
    const p = picky((n, around) =>
      n.c === 'Tab' && !around.includes('Tabs') ? 'alone' : undefined,
    )
    const tab = node('Tab')
    expect(p.drawer.draw(root, node('div', [tab]), '')).toBe('Tab cannot be drawn: alone')
    const before = p.draws()
    expect(p.drawer.draw(root, node('div', [tab, node('p')]), '')).toContain('alone')
    expect(p.draws()).toBe(before + 1) // it is known
    expect(p.drawer.draw(root, node('div', [node('Tabs', [tab])]), '')).toBeUndefined()
    expect(p.shown()).toBe('div(Tabs(Tab))')
  })

  test('what throws by itself, or whatever is left out, is told as it is', () => {
    const p = picky(() => 'never')
    expect(p.drawer.draw(root, node('Card'), '')).toBe('It cannot be drawn: never')
    const lost: Drawer = {
      draw: () => 'the page is gone',
      settled: async () => undefined,
      find: () => [],
      drop: () => {},
    }
    expect(spared(lost).draw(root, node('div', [node('A'), node('B')]), '')).toBe(
      'It cannot be drawn: the page is gone',
    )
  })
})
