import { describe, expect, it } from 'vitest'
import { LINE, rowsOf, type Scrolled } from './window'

const heightOf = (s: Scrolled) => rowsOf(s).reduce((h, r) => h + (r.gap ?? LINE), 0)
const indexes = (s: Scrolled) => rowsOf(s).flatMap(r => r.index ?? [])
const long = { count: 2000, view: 660, blockAt: -1, block: 0 }

describe('the rows of a long list', () => {
  it('are all of a short one', () => {
    expect(indexes({ count: 5, top: 0, view: 400, blockAt: 2, block: 100 })).toEqual([
      0, 1, 2, 3, 4,
    ])
    expect(rowsOf({ count: 0, top: 0, view: 400, blockAt: -1, block: 0 })).toEqual([])
  })
  it('are few, wherever it is scrolled to', () => {
    for (const top of [0, 1, 500, 20000, 43340, 99999])
      expect(rowsOf({ ...long, top }).length).toBeLessThan(80)
  })
  it('leave the height as it is', () => {
    for (const top of [0, 333, 21000, 44000])
      for (const blockAt of [-1, 0, 7, 1000, 1999])
        expect(heightOf({ ...long, top, blockAt, block: 180 })).toBe(2000 * LINE)
  })
  it('cover what is in view', () => {
    for (const top of [0, 700, 21000]) {
      const seen = indexes({ ...long, top })
      for (let y = top; y < top + 660; y += LINE) expect(seen).toContain(Math.floor(y / LINE))
    }
  })
  it('cover what is in view below an unfolded line', () => {
    const top = 100 * LINE + 300 // 300 px of choices stand above
    const seen = indexes({ ...long, top, blockAt: 50, block: 300 })
    expect(seen).toContain(100)
    expect(seen).toContain(129)
  })
  it('hold the line with the block wherever it is, once and in order', () => {
    for (const blockAt of [0, 40, 999, 1001, 1999])
      for (const top of [0, 22000, 43000]) {
        const seen = indexes({ ...long, top, blockAt, block: 150 })
        expect(seen.filter(i => i === blockAt)).toHaveLength(1)
        expect(seen).toEqual([...seen].sort((a, b) => a - b))
      }
  })
  it('do not mind a line that is gone', () => {
    expect(heightOf({ count: 10, top: 0, view: 300, blockAt: 12, block: 100 })).toBe(10 * LINE)
  })
})
