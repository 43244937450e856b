import { describe, expect, it } from 'vitest'
import type { Element } from '../../api/client'
import { landing, lineLanding, type Drawn } from './drop'
import { linesOf, type KitIndex } from './tree'

// A stack of a row with two buttons, an empty grid and a text; 100 wide.
const root: Element = {
  id: 'r',
  type: 'stack',
  children: [
    {
      id: 'row',
      type: 'row',
      children: [
        { id: 'a', type: 'x-button' },
        { id: 'b', type: 'x-button' },
      ],
    },
    { id: 'g', type: 'grid' },
    { id: 't', type: 'x-text' },
  ],
}
const drawn: Drawn = {
  root,
  idOf: key => key.split('#')[0]!,
  title: id => id.toUpperCase(),
  boxes: [
    { key: 'r', x: 0, y: 0, w: 100, h: 200 },
    { key: 'row', x: 0, y: 0, w: 100, h: 40 },
    { key: 'a', x: 0, y: 0, w: 50, h: 40 },
    { key: 'b', x: 50, y: 0, w: 50, h: 40 },
    { key: 'g', x: 0, y: 50, w: 100, h: 40 },
    { key: 't', x: 0, y: 100, w: 100, h: 40 },
  ],
}
const at = (moved: Element, x: number, y: number) => landing(drawn, moved, { x, y })
const text = root.children![2]!,
  buttonA = root.children![0]!.children![0]!,
  buttonB = root.children![0]!.children![1]!

describe('a dragged element', () => {
  it('lands left or right of siblings that stand side by side', () => {
    expect(at(text, 60, 20)).toMatchObject({
      parent: 'row',
      after: 'a',
      words: 'before B',
      w: 2,
      x: 48,
    })
    expect(at(text, 90, 20)).toMatchObject({ parent: 'row', after: 'b', words: 'after B', x: 100 })
    expect(at(text, 10, 20)).toMatchObject({ parent: 'row', after: '', words: 'before A' })
  })
  it('lands above or below siblings that stand one under another', () => {
    expect(at(buttonA, 50, 105)).toMatchObject({
      parent: 'r',
      after: 'g',
      words: 'before T',
      h: 2,
      y: 98,
    })
    expect(at(buttonA, 50, 135)).toMatchObject({
      parent: 'r',
      after: 't',
      words: 'after T',
      y: 140,
    })
  })
  it('lands in an empty container', () => {
    expect(at(text, 50, 70)).toMatchObject({ parent: 'g', after: '', words: 'into G', h: 40 })
  })
  it('lands at the end of the root where nothing else is', () => {
    expect(at(buttonA, 50, 190)).toMatchObject({
      parent: 'r',
      after: 't',
      words: 'at the end of R',
    })
    expect(at(text, 50, 190)).toMatchObject({ parent: 'r', after: 'g' })
  })
  it('never lands in itself', () => {
    expect(at(root.children![0]!, 10, 20)).toMatchObject({ parent: 'r' })
    expect(at(root, 10, 20)).toBeUndefined()
  })
  it('does not name itself as the one it comes after', () => {
    expect(at(buttonA, 60, 20)).toMatchObject({ parent: 'row', after: '' })
    expect(at(buttonB, 10, 20)).toMatchObject({ parent: 'row', after: '' })
  })
  it('lands nowhere off the picture', () => {
    expect(at(text, 500, 20)).toBeUndefined()
  })
})

describe('dragged lines', () => {
  const kit = new Map([
    [
      'x-button',
      { tag: 'x-button', title: 'button', telling: [], props: [], slots: [], level: 'basic' },
    ],
    ['x-text', { tag: 'x-text', title: 'text', telling: [], props: [], slots: [], level: 'basic' }],
    ...['stack', 'row', 'grid'].map(
      t =>
        [
          t,
          { tag: t, title: t, telling: [], props: [], slots: [{ name: '' }], level: 'layout' },
        ] as [string, object],
    ),
  ] as [string, object][]) as unknown as KitIndex
  const row = root.children![0]!
  const to = (moved: Element[], line: string, share: number, depth = 9, folded: string[] = []) =>
    lineLanding(root, linesOf(root, kit, new Set(folded)), kit, moved, line, share, depth)
  it('land before and after a line', () => {
    expect(to([text], 'a', 0.1)).toMatchObject({
      parent: 'row',
      after: '',
      edge: 'before',
      depth: 2,
      words: 'before button',
    })
    expect(to([text], 'b', 0.1)).toMatchObject({ parent: 'row', after: 'a' })
    expect(to([buttonA], 't', 0.9)).toMatchObject({
      parent: 'r',
      after: 't',
      edge: 'after',
      depth: 1,
    })
  })
  it('land inside at the middle of what takes something', () => {
    expect(to([text], 'g', 0.5)).toMatchObject({
      parent: 'g',
      after: '',
      edge: 'inside',
      words: 'into grid',
    })
    expect(to([text], 'row', 0.5)).toMatchObject({
      parent: 'row',
      after: 'b',
      words: 'at the end of row',
    })
    expect(to([text], 'a', 0.45)).toMatchObject({ parent: 'row', after: '', edge: 'before' })
  })
  it('land first in what is unfolded below, after what is folded', () => {
    expect(to([text], 'row', 0.9)).toMatchObject({
      parent: 'row',
      after: '',
      depth: 2,
      words: 'into row, at the beginning',
    })
    expect(to([text], 'row', 0.9, 9, ['row'])).toMatchObject({
      parent: 'r',
      after: 'row',
      depth: 1,
    })
  })
  it('land after what ends with the line, as far out as the pointer is', () => {
    expect(to([text], 'b', 0.9, 2)).toMatchObject({ parent: 'row', after: 'b', depth: 2 })
    expect(to([text], 'b', 0.9, 1)).toMatchObject({
      parent: 'r',
      after: 'row',
      depth: 1,
      words: 'after row',
    })
    expect(to([text], 'b', 0.9, 0)).toMatchObject({ parent: 'r', after: 'row', depth: 1 })
    expect(to([text], 'a', 0.9, 1)).toMatchObject({ parent: 'row', after: 'a' })
  })
  it('never land in themselves, and stand after none of themselves', () => {
    expect(to([row], 'a', 0.1)).toBeUndefined()
    expect(to([row], 'row', 0.5)).toBeUndefined()
    expect(to([buttonA], 'b', 0.1)).toMatchObject({ parent: 'row', after: '' })
    expect(to([text], 'r', 0.9)).toMatchObject({ parent: 'r', after: 'g', edge: 'inside' })
    expect(to([text], 'nowhere', 0.5)).toBeUndefined()
  })
})
