import { describe, expect, it } from 'vitest'
import { holding, spanAt } from './span'

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
    const el = { id: 'a', type: 'column', props: { 'span': 12, 'span@640': 4, 'span@1280': 3 } }
    expect([360, 640, 960, 1280].map(w => holding(el, 'span', w))).toEqual(['span', 'span@640', 'span@640', 'span@1280'])
  })
})
