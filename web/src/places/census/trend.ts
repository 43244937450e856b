import type { Schemas } from '../../api/client'

export type Point = Schemas['ApiTrendPoint']

/** A series of the trend: what is counted, in words, and whether more of it is better. */
export interface Series {
  id: string
  name: string
  of: (p: Point) => number
  unit?: string
  most?: number
  better: 'more' | 'less'
}
const share = (part: number, of: number) => (of ? Math.round((1000 * part) / of) / 10 : 100)
export const series: Series[] = [
  {
    id: 'score',
    name: 'Consistency',
    of: p => Math.round(p.score * 10) / 10,
    most: 100,
    better: 'more',
  },
  { id: 'causes', name: 'Open causes', of: p => p.causes, better: 'less' },
  { id: 'errors', name: 'Errors', of: p => p.errors, better: 'less' },
  { id: 'warnings', name: 'Warnings', of: p => p.warnings, better: 'less' },
  { id: 'strays', name: 'Strays', of: p => p.strays, better: 'less' },
  { id: 'questions', name: 'Open questions', of: p => p.questions, better: 'less' },
  {
    id: 'kit',
    name: 'From the kit',
    of: p => share(p.fromKit, p.elements),
    unit: '%',
    most: 100,
    better: 'more',
  },
  { id: 'deprecated', name: 'Deprecated in use', of: p => p.deprecated, better: 'less' },
  { id: 'stood', name: 'Let stand', of: p => p.stood, better: 'less' },
]

/** How a series went, in words. */
export function went(s: Series, points: Point[]): string {
  const first = points[0],
    last = points.at(-1)
  if (!first || !last || points.length < 2) return 'nothing to compare with yet'
  const d = Math.round((s.of(last) - s.of(first)) * 10) / 10
  if (!d) return `as on ${first.day}`
  const better = d > 0 === (s.better === 'more')
  return `${Math.abs(d)}${s.unit ?? ''} ${d > 0 ? 'more' : 'less'} than on ${first.day}, ${better ? 'better' : 'worse'}`
}

const dayOf = (day: string) => Date.parse(day) / 86_400_000

/** Where a day stands between the first and the last, from 0 to 1. */
export function across(points: Point[], day: string): number {
  const from = dayOf(points[0]!.day),
    to = dayOf(points.at(-1)!.day)
  return to > from ? (dayOf(day) - from) / (to - from) : 1
}

/** The line of a series as a path in a box: a day's value holds until the next. */
export function path(s: Series, points: Point[], width: number, height: number): string {
  const values = points.map(s.of)
  const top = s.most ?? Math.max(1, ...values)
  // What moves little near the top is drawn from where it moves.
  const low = s.most ? Math.min(...values, s.most - 5) - 1 : 0
  const y = (v: number) => height - ((v - low) / (top - low || 1)) * height
  let d = ''
  points.forEach((p, i) => {
    const x = across(points, p.day) * width
    d += i
      ? `H${x.toFixed(1)}V${y(values[i]!).toFixed(1)}`
      : `M${x.toFixed(1)} ${y(values[i]!).toFixed(1)}`
  })
  return points.length === 1 ? `M0 ${y(values[0]!).toFixed(1)}H${width}` : d
}
