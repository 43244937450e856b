import { expect, test } from 'vitest'
import { across, path, series, went, type Point } from './trend'

const point = (day: string, over: Partial<Point>): Point =>
  ({ day, seq: 1, screens: 2, score: 90, elements: 10, fromKit: 8, causes: 4, ...over }) as Point
const score = series.find(s => s.id === 'score')!
const causes = series.find(s => s.id === 'causes')!

test('words say the change, and whether it is for the better', () => {
  const points = [point('2026-11-01', {}), point('2026-11-20', { score: 95.5, causes: 6 })]
  expect(went(score, points)).toBe('5.5 more than on 2026-11-01, better')
  expect(went(causes, points)).toBe('2 more than on 2026-11-01, worse')
  expect(went(score, points.slice(1))).toBe('nothing to compare with yet')
  expect(went(score, [points[0]!, points[0]!])).toBe('as on 2026-11-01')
})

test('a day stands where it falls between the first and the last', () => {
  const points = [point('2026-11-01', {}), point('2026-11-11', {}), point('2026-11-21', {})]
  expect(points.map(p => across(points, p.day))).toEqual([0, 0.5, 1])
})

test('a line stays in its box, and a value holds until the next', () => {
  for (const s of series) {
    const points = [
      point('2026-11-01', { score: 20, causes: 9 }),
      point('2026-11-03', { score: 100, causes: 0 }),
    ]
    const numbers = path(s, points, 200, 50)
      .match(/-?[\d.]+/g)!
      .map(Number)
    for (const n of numbers) {
      expect(n).toBeGreaterThanOrEqual(0)
      expect(n).toBeLessThanOrEqual(200)
    }
  }
  expect(path(causes, [point('2026-11-01', {})], 200, 50)).toBe('M0 0.0H200')
})
