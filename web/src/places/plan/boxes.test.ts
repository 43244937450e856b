import { describe, expect, it } from 'vitest'
import * as boxes from './boxes'

const at = (x: number, y: number, w: number, h: number) => ({ x, y, w, h })
const page: boxes.Part = {
  id: 'p1',
  name: 'page 1',
  at: at(0, 0, 100, 100),
  look: 'page',
  parts: [
    { id: 'p2', name: 'heading 1', at: at(10, 10, 50, 10), look: 'heading' },
    {
      id: 'p3',
      name: 'group 1',
      at: at(10, 30, 80, 40),
      look: 'group',
      across: true,
      parts: [
        { id: 'p4', name: 'panel 1', at: at(10, 30, 30, 40), look: 'panel' },
        { id: 'p5', name: 'panel 2', at: at(50, 30, 40, 40), look: 'panel' },
      ],
    },
  ],
}
const ids = (p: boxes.Part): unknown => [p.id, ...(p.parts ?? []).map(ids)]

describe('the boxes of a plan', () => {
  it('are found, with what they stand in', () => {
    expect(boxes.find(page, 'p5')?.name).toBe('panel 2')
    expect(boxes.parentOf(page, 'p5')?.id).toBe('p3')
    expect(boxes.count(page)).toBe(5)
    expect(boxes.lines(page).map(l => `${l.depth}${l.part.id}`)).toEqual([
      '0p2',
      '0p3',
      '1p4',
      '1p5',
    ])
  })
  it('dissolve into what they hold, or go with it', () => {
    expect(ids(boxes.dissolve(page, 'p3'))).toEqual(['p1', ['p2'], ['p4'], ['p5']])
    expect(ids(boxes.remove(page, 'p3'))).toEqual(['p1', ['p2']])
    expect(boxes.count(page), 'the tree that was given stays').toBe(5)
  })
  it('become two that share what they hold', () => {
    const two = boxes.split(page, 'p3', true)
    expect(ids(two)).toEqual(['p1', ['p2'], ['p3', ['p4']], ['p6', ['p5']]])
    expect(boxes.find(two, 'p6')!.at).toEqual(at(50, 30, 40, 40))
    expect(boxes.split(page, 'p1', true), 'the page stays one').toBe(page)
  })
  it('are joined with the next, and alone stay as they are', () => {
    const one = boxes.join(page, 'p4')
    expect(ids(one)).toEqual(['p1', ['p2'], ['p3', ['p6', ['p4'], ['p5']]]])
    expect(boxes.find(one, 'p6')!.at).toEqual(at(10, 30, 80, 40))
    expect(boxes.join(page, 'p5')).toBe(page)
  })
  it('are drawn into what holds them, and take in what they hold', () => {
    const drawn = boxes.add(page, at(9, 29, 82, 42))
    expect(ids(drawn.root)).toEqual(['p1', ['p2'], ['p6', ['p3', ['p4'], ['p5']]]])
    const inner = boxes.add(page, at(52, 32, 10, 10))
    expect(boxes.parentOf(inner.root, inner.id)?.id).toBe('p5')
    const between = boxes.add(page, at(10, 22, 20, 5))
    expect(ids(between.root)).toEqual(['p1', ['p2'], ['p6'], ['p3', ['p4'], ['p5']]])
  })
  it('change places and depth', () => {
    expect(ids(boxes.move(page, 'p2', 1))).toEqual(['p1', ['p3', ['p4'], ['p5']], ['p2']])
    expect(boxes.move(page, 'p2', -1)).toBe(page)
    expect(ids(boxes.nest(page, 'p3', true))).toEqual(['p1', ['p2', ['p3', ['p4'], ['p5']]]])
    expect(ids(boxes.nest(page, 'p4', false))).toEqual(['p1', ['p2'], ['p3', ['p5']], ['p4']])
    expect(boxes.nest(page, 'p2', false)).toBe(page)
  })
  it('stay in the picture', () => {
    expect(boxes.within(at(-5, 90.4, 20, 30), page.at)).toEqual(at(0, 70, 20, 30))
    expect(boxes.within(at(5, 5, 0, 500), page.at)).toEqual(at(5, 0, 1, 100))
  })
})
