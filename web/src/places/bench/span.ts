import type { Element } from '../../api/client'
import type { Box } from '../../frame/messages'

/** How many of twelve columns an edge at x takes, from 1 to what is left beside it. */
export function spanAt(row: Box, column: Box, x: number): number {
  const step = row.w / 12
  return Math.max(1, Math.min(Math.round((row.x + row.w - column.x) / step), Math.round((x - column.x) / step)))
}

/** The setting that holds at a width: of several the one from the widest that is met. */
export function holding(el: Element, prop: string, width: number): string {
  return Object.keys(el.props ?? {}).filter(p => p.startsWith(prop + '@') && Number(p.slice(prop.length + 1)) <= width)
    .sort((a, b) => Number(b.slice(prop.length + 1)) - Number(a.slice(prop.length + 1)))[0] ?? prop
}
