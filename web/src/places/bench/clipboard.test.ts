import { describe, expect, it } from 'vitest'
import type { Element } from '../../api/client'
import { chosenIn, copyOf, markupOf, pasteAt, readFragment, writeFragment } from './clipboard'

const tree: Element = {
  id: 'r',
  type: 'section',
  children: [
    {
      id: 'a',
      type: 'row',
      slot: 'top',
      name: 'first',
      children: [
        { id: 'b', type: 'text' },
        { id: 'c', type: 'text' },
      ],
    },
    { id: 'd', type: 'text' },
  ],
}

describe('copies', () => {
  it('open their own, and what was not copied stays', () => {
    const dialog = { id: 'd', type: 'x-dialog' }
    const out = copyOf(
      {
        id: 's',
        type: 'stack',
        children: [
          { id: 'b', type: 'x-button', props: { does: 'submit; open d; close other; go /open/d' } },
          dialog,
        ],
      },
      { s: 's2', b: 'b2', d: 'd2' },
    )
    expect(out.children![0]!.props!.does).toBe('submit; open d2; close other; go /open/d')
  })
})

describe('the clipboard', () => {
  it('holds what was chosen in reading order, nothing twice', () => {
    expect(chosenIn(tree, ['d', 'c', 'a']).map(e => e.id)).toEqual(['a', 'd'])
    expect(chosenIn(tree, ['c', 'b']).map(e => e.id)).toEqual(['b', 'c'])
    expect(chosenIn(tree, ['x'])).toEqual([])
  })
  it('is read back as it was written, and nothing else is taken for it', () => {
    expect(readFragment(writeFragment(tree.children!))).toEqual(tree.children)
    for (const bad of [
      '',
      'x',
      '[]',
      '{}',
      'null',
      '{"format":"ubiquant.fragment/1"}',
      '{"format":"ubiquant.fragment/1","elements":[]}',
      '{"format":"ubiquant.fragment/1","elements":[{"id":1,"type":"x"}]}',
      '{"format":"ubiquant.fragment/1","elements":[{"id":"a","type":"x","children":[null]}]}',
      '{"format":"ubiquant.fragment/9","elements":[{"id":"a","type":"x"}]}',
    ])
      expect(readFragment(bad), bad).toBeUndefined()
    const many = {
      id: 'a',
      type: 'x',
      children: Array.from({ length: 6000 }, (_, i) => ({ id: 'b' + i, type: 'x' })),
    }
    expect(readFragment(writeFragment([many])), 'too many').toBeUndefined()
  })
  it('makes copies with ids of their own and no names', () => {
    const copy = copyOf(tree.children![0]!)
    expect(copy).toMatchObject({
      type: 'row',
      slot: 'top',
      children: [{ type: 'text' }, { type: 'text' }],
    })
    expect(copy.name).toBeUndefined()
    expect(new Set([copy.id, ...copy.children!.map(c => c.id), 'a', 'b', 'c']).size).toBe(6)
    expect(tree.children![0]!.name).toBe('first')
  })
  it('gives plain markup to others', () => {
    expect(
      markupOf(
        '<main data-e="r"><b data-e="a" class="x">one <i data-e="b">two</i></b><u data-e="d"></u></main>',
        ['a', 'd', 'none'],
      ),
    ).toBe('<b class="x">one <i>two</i></b>\n<u></u>')
  })
  it('goes after what is selected, in its slot, or into the root', () => {
    expect(pasteAt(tree, 'a')).toEqual({ parent: 'r', slot: 'top', after: 'a' })
    expect(pasteAt(tree, 'b')).toEqual({ parent: 'a', slot: undefined, after: 'b' })
    expect(pasteAt(tree, 'r')).toEqual({ parent: 'r', after: 'd' })
  })
})
