import { describe, expect, it } from 'vitest'
import { gapOf, holding, spanAt, stepNear, stepsOf } from './span'

const box = (x: number, w: number) => ({ key: 'k', x, y: 0, w, h: 10 })

describe('dragging the edge of a column', () => {
  it('lands on the nearest of twelve columns', () => {
    expect(spanAt(box(0, 1200), box(0, 300), 310)).toBe(3)
    expect(spanAt(box(0, 1200), box(0, 300), 370)).toBe(4)
    expect(spanAt(box(100, 1200), box(100, 300), 700)).toBe(6)
  })
  it('takes at least one column and no more than are left', () => {
    expect(spanAt(box(0, 1200), box(300, 300), 200)).toBe(1)
    expect(spanAt(box(0, 1200), box(300, 300), 5000)).toBe(9)
  })
  it('changes the setting that holds at the width', () => {
    const el = { id: 'a', type: 'column', props: { span: 12, 'span@640': 4, 'span@1280': 3 } }
    expect([360, 640, 960, 1280].map(w => holding(el, 'span', w))).toEqual([
      'span',
      'span@640',
      'span@640',
      'span@1280',
    ])
  })
})

describe('dragging the room between things', () => {
  const tokens: { path: string; values: Record<string, string> }[] = [
    { path: 'space.2', values: { light: '8px', compact: '6px' } },
    { path: 'space.1', values: { light: '4px' } },
    { path: 'space.5', values: { light: '24px' } },
    { path: 'color.ink', values: { light: '#000' } },
  ]
  it('knows the steps of the theme, the least first', () => {
    expect(stepsOf(tokens, 'light')).toEqual([
      { name: '1', px: 4 },
      { name: '2', px: 8 },
      { name: '5', px: 24 },
    ])
    expect(stepsOf(tokens, 'compact').map(s => s.px)).toEqual([4, 6, 24])
  })
  it('lands on the nearest step', () => {
    const steps = stepsOf(tokens, 'light')
    expect([-9, 5, 7, 15, 17, 900].map(px => stepNear(steps, px)?.name)).toEqual([
      '1',
      '1',
      '2',
      '2',
      '5',
      '5',
    ])
    expect(stepNear([], 4)).toBeUndefined()
  })
  it('finds the gap, beside or below, whatever stands alone', () => {
    const at = (x: number, y: number) => ({ key: 'k', x, y, w: 100, h: 40 })
    expect(gapOf([at(0, 0), at(116, 0)])).toMatchObject({ across: true, px: 16, x: 108, y: 20 })
    expect(gapOf([at(0, 0), at(0, 48)])).toMatchObject({ across: false, px: 8, y: 44 })
    expect(gapOf([at(0, 0)])).toBeUndefined()
    expect(gapOf([at(0, 0), at(10, 10)]), 'one over the other').toBeUndefined()
  })
})
