import { describe, expect, it } from 'vitest'
import type { Element } from '../../api/client'
import {
  before,
  cellsUnder,
  contains,
  findIn,
  isBound,
  isSelector,
  linesOf,
  mates,
  narrowed,
  newIds,
  parseTyped,
  reuse,
  saysWord,
  slotWords,
  words,
  type KitIndex,
} from './tree'

const kit = new Map([
  [
    'x-form',
    {
      tag: 'x-form',
      title: 'form',
      telling: [],
      props: [],
      slots: [{ name: '' }, { name: 'actions' }],
      level: 'composite',
    },
  ],
  [
    'x-button',
    {
      tag: 'x-button',
      title: 'button',
      telling: ['emphasis', 'wide'],
      props: [],
      slots: [{ name: '' }],
      level: 'basic',
    },
  ],
]) as unknown as KitIndex

const form = (): Element => ({
  id: 'r',
  type: 'section',
  children: [
    {
      id: 'f',
      type: 'x-form',
      children: [
        {
          id: 's',
          type: 'x-button',
          slot: 'actions',
          text: 'Save',
          props: { emphasis: 'strong', wide: true },
        },
        { id: 'c', type: 'x-button', slot: 'actions', text: { expr: 'record.word' } },
        { id: 'n', type: 'x-unknown' },
      ],
    },
    { id: 'z', type: 'stack' },
  ],
})

describe('lines', () => {
  it('come parents first, in the order of the slots', () => {
    expect(linesOf(form(), kit, new Set()).map(l => [l.el.id, l.depth])).toEqual([
      ['r', 0],
      ['f', 1],
      ['n', 2],
      ['s', 2],
      ['c', 2],
      ['z', 1],
    ])
  })
  it('tell what an element says and is set to', () => {
    const [, , , save, bound] = linesOf(form(), kit, new Set())
    expect(save).toMatchObject({
      title: 'button',
      text: 'Save',
      bound: false,
      telling: [
        { prop: 'emphasis', text: 'strong' },
        { prop: 'wide', text: 'wide' },
      ],
    })
    expect(bound).toMatchObject({ text: 'record.word', bound: true, telling: [] })
  })
  it('name what the kit does not know by its type', () => {
    expect(linesOf(form(), kit, new Set()).find(l => l.el.id === 'n')!.title).toBe('x-unknown')
  })
  it('say which of how many siblings they are', () => {
    expect(linesOf(form(), kit, new Set()).map(l => l.place.join('/'))).toEqual([
      '1/1',
      '1/2',
      '1/3',
      '2/3',
      '3/3',
      '2/2',
    ])
  })
  it('hide what is folded', () => {
    const lines = linesOf(form(), kit, new Set(['f']))
    expect(lines.map(l => l.el.id)).toEqual(['r', 'f', 'z'])
    expect(lines[1]).toMatchObject({ folded: true, hasChildren: true })
  })
  it('keep their identity while they say the same', () => {
    const tree = form()
    const first = linesOf(tree, kit, new Set())
    const again = linesOf(tree, kit, new Set(['f']))
    expect(again[0]).toBe(first[0])
    expect(again[1]).not.toBe(first[1])
  })
})

describe('a new tree', () => {
  it('takes over every part that is the same', () => {
    const old = form(),
      next = form()
    next.children![0]!.children![0]!.text = 'Keep'
    const out = reuse(old, next)
    expect(out).not.toBe(old)
    expect(out.children![0]!.children![1]).toBe(old.children![0]!.children![1])
    expect(out.children![1]).toBe(old.children![1])
    expect(out.children![0]!.children![0]!.text).toBe('Keep')
  })
  it('is the old one where nothing differs', () => {
    const old = form()
    expect(reuse(old, form())).toBe(old)
  })
  it('notices a prop taken off, a child gone and an order changed', () => {
    for (const change of [
      (t: Element) => {
        delete t.children![0]!.children![0]!.props!.wide
      },
      (t: Element) => {
        t.children!.pop()
      },
      (t: Element) => {
        t.children!.reverse()
      },
      (t: Element) => {
        t.children![0]!.children![1]!.text = { expr: 'record.other' }
      },
    ]) {
      const old = form(),
        next = form()
      change(next)
      expect(JSON.stringify(reuse(old, next))).toBe(JSON.stringify(next))
    }
  })
  it('is filled from the old one where an answer leaves parts out', () => {
    const old = form()
    const answer: Element = {
      id: 'r',
      type: 'section',
      children: [
        { id: 'z', same: true } as Element,
        { id: 'f', type: 'x-form', children: [{ id: 'c', same: true } as Element] },
      ],
    }
    const out = reuse(old, answer)
    expect(out.children![0]).toBe(old.children![1])
    expect(out.children![1]!.children![0]).toBe(old.children![0]!.children![1])
  })
  it('stands for itself where there was none', () => {
    const next = form()
    expect(reuse(undefined, next)).toBe(next)
  })
})

describe('finding one’s way', () => {
  const tree = form()
  it('finds an element with its parent', () => {
    expect(findIn(tree, 's')).toMatchObject({ el: { id: 's' }, parent: { id: 'f' } })
    expect(findIn(tree, 'r')!.parent).toBeUndefined()
    expect(findIn(tree, 'nobody')).toBeUndefined()
    expect(contains(tree, 'n')).toBe(true)
    expect(contains(tree.children![1]!, 'n')).toBe(false)
  })
  it('knows siblings by their slot', () => {
    const f = tree.children![0]!
    expect(mates(f, f.children![2]!).map(e => e.id)).toEqual(['n'])
    expect(before(f, f.children![1]!)).toBe('s')
    expect(before(f, f.children![0]!)).toBe('')
    expect(before(f, f.children![2]!)).toBe('')
  })
  it('gives every element of a copy an id of its own', () => {
    const ids = newIds(tree)
    expect(Object.keys(ids).sort()).toEqual(['c', 'f', 'n', 'r', 's', 'z'])
    expect(new Set(Object.values(ids)).size).toBe(6)
  })
})

describe('values', () => {
  it('are typed as texts or, after =, as expressions', () => {
    expect(parseTyped('  Save ')).toBe('Save')
    expect(parseTyped('= record.name ')).toEqual({ expr: 'record.name' })
    expect(parseTyped('   ')).toBeUndefined()
  })
  it('are told in words', () => {
    expect(
      [undefined, 'a', 3, true, { expr: 'x' }, { token: 'space.3' }].map(v => words(v)),
    ).toEqual(['', 'a', '3', 'true', 'x', 'space.3'])
    expect([{ expr: 'x' }, { token: 't' }, 'a', undefined].map(v => isBound(v))).toEqual([
      true,
      false,
      false,
      false,
    ])
  })
})

describe('narrowing', () => {
  const root: Element = {
    id: 'r',
    type: 'stack',
    children: [
      { id: 'a', type: 'stack', children: [{ id: 'b', type: 'x', text: 'Oak' }] },
      { id: 'c', type: 'x', text: 'Elm' },
    ],
  }
  it('shows what is met with what is around it', () => {
    const all = linesOf(root, new Map(), new Set())
    expect(narrowed(all, new Set(['b'])).map(l => l.el.id)).toEqual(['r', 'a', 'b'])
    expect(narrowed(all, new Set()).length).toBe(0)
    expect(all.filter(l => saysWord(l, 'elm')).map(l => l.el.id)).toEqual(['c'])
  })
  it('tells a selector from a word', () => {
    expect(['sorrel-button', '[tone=bad]', 'stack > row', '#a'].every(isSelector)).toBe(true)
    expect(['ticket', 'New ticket', 'Oak'].some(isSelector)).toBe(false)
  })
})

describe('the head of a column', () => {
  const cell = (id: string): Element => ({ id, type: 'x-cell' })
  const head = (id: string): Element => ({ id, type: 'x-column', slot: 'columns' })
  const table: Element = {
    id: 't',
    type: 'x-table',
    children: [
      head('h1'),
      head('h2'),
      head('h3'),
      { id: 'r', type: 'x-row', children: [cell('c1'), cell('c2'), cell('c3')] },
      { id: 'r2', type: 'x-row', children: [cell('d1'), cell('d2'), cell('d3')] },
      { id: 'more', type: 'x-row', children: [cell('wide')] },
      { id: 'foot', type: 'x-pager', slot: 'footer' },
    ],
  }
  const ids = (list: Element[]) => list.map(e => e.id)
  it('has its cells under it', () => {
    const under = cellsUnder(table, table.children![1]!, ['x-table'])
    expect(ids(under.cells)).toEqual(['c2', 'd2'])
    expect(ids(under.others)).toEqual(['more'])
  })
  it('is nothing that may stand elsewhere, or in which something stands', () => {
    expect(cellsUnder(table, table.children![1]!, undefined).cells).toEqual([])
    expect(cellsUnder(table, table.children![1]!, ['x-grid']).cells).toEqual([])
    expect(cellsUnder(table, table.children![3]!, ['x-table']).cells).toEqual([])
    expect(cellsUnder(table, table, ['x-table']).cells).toEqual([])
  })
})

describe('a slot', () => {
  it('is read by the word that tells it apart', () => {
    for (const [slot, words] of Object.entries({
      actions: 'actions',
      '[acTitle]': 'acTitle',
      'ng-template[acTemplate=header]': 'header',
      'ng-template[acNote]': 'acNote',
      '#foot': 'foot',
      'ac-chip:not([below]), .ac-mark': 'ac-chip:not([below]), .ac-mark',
      '[slot="end"]': 'end',
    }))
      expect(slotWords(slot)).toBe(words)
  })
})
