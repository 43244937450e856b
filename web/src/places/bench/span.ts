import type { Element } from '../../api/client'
import type { Box } from '../../frame/messages'

/** How many of twelve columns an edge at x takes, from 1 to what is left beside it. */
export function spanAt(row: Box, column: Box, x: number): number {
  const step = row.w / 12
  return Math.max(
    1,
    Math.min(Math.round((row.x + row.w - column.x) / step), Math.round((x - column.x) / step)),
  )
}

/** The setting that holds at a width: of several the one from the widest that is met. */
export function holding(el: Element, prop: string, width: number): string {
  return (
    Object.keys(el.props ?? {})
      .filter(p => p.startsWith(prop + '@') && Number(p.slice(prop.length + 1)) <= width)
      .sort((a, b) => Number(b.slice(prop.length + 1)) - Number(a.slice(prop.length + 1)))[0] ??
    prop
  )
}

/** A spacing step and how much room it gives, in pixels. */
export interface Step {
  name: string
  px: number
}

/** The spacing steps of a kit in a theme, the least first. */
export const stepsOf = (
  tokens: readonly { path: string; values: Record<string, string> }[],
  theme: string,
): Step[] =>
  tokens
    .filter(t => /^space\.[^.]+$/.test(t.path))
    .map(t => ({
      name: t.path.slice(6),
      px: parseFloat(t.values[theme] ?? Object.values(t.values)[0] ?? ''),
    }))
    .filter(s => s.px >= 0)
    .sort((a, b) => a.px - b.px)

/** The step that gives about so much room. */
export const stepNear = (steps: readonly Step[], px: number): Step | undefined =>
  steps.reduce<Step | undefined>(
    (best, s) => (!best || Math.abs(s.px - px) < Math.abs(best.px - px) ? s : best),
    undefined,
  )

/** The room between the first two boxes that stand beside or below each other, and
 * which way it lies. */
export function gapOf(
  children: readonly Box[],
): { across: boolean; x: number; y: number; px: number; long: number } | undefined {
  for (const [i, b] of children.entries()) {
    const a = children[i - 1]
    if (!a) continue
    const right = b.x - (a.x + a.w),
      below = b.y - (a.y + a.h)
    if (right >= -0.5 && right > below)
      return {
        across: true,
        x: a.x + a.w + right / 2,
        y: Math.max(a.y, b.y) + Math.min(a.h, b.h) / 2,
        px: right,
        long: Math.min(a.h, b.h),
      }
    if (below >= -0.5)
      return {
        across: false,
        x: Math.max(a.x, b.x) + Math.min(a.w, b.w) / 2,
        y: a.y + a.h + below / 2,
        px: below,
        long: Math.min(a.w, b.w),
      }
  }
  return undefined
}
