/** The height of a line in pixels; the style sheet has it too. */
export const LINE = 22

/** What is known of a long list of lines that is scrolled. One block of another
 * height (choices, a new line) may stand after a line. */
export interface Scrolled {
  count: number
  top: number
  view: number
  blockAt: number
  block: number
}

export interface Row {
  index: number
  gap?: never
}
export interface Gap {
  gap: number
  key: string
  index?: never
}

/** The rows to draw: the lines in view and some around, and the line the block
 * stands at wherever it is, with gaps as high as what is left out. */
export function rowsOf(s: Scrolled, around = 15): (Row | Gap)[] {
  const below = (y: number) => {
    const end = (s.blockAt + 1) * LINE // where the block begins
    if (s.blockAt < 0 || y <= end) return Math.floor(y / LINE)
    return Math.max(s.blockAt, Math.floor((y - s.block) / LINE))
  }
  const from = Math.min(s.count, Math.max(0, below(s.top) - around))
  const to = Math.min(s.count, below(s.top + s.view) + 1 + around)
  const at = s.blockAt >= 0 && s.blockAt < s.count ? s.blockAt : -1
  const rows: (Row | Gap)[] = []
  const gap = (lines: number, key: string) => {
    if (lines > 0) rows.push({ gap: lines * LINE, key })
  }
  if (at >= 0 && at < from) {
    gap(at, 'a')
    rows.push({ index: at })
    gap(from - at - 1, 'b')
  } else gap(from, 'a')
  for (let i = from; i < to; i++) rows.push({ index: i })
  if (at >= to) {
    gap(at - to, 'c')
    rows.push({ index: at })
    gap(s.count - at - 1, 'd')
  } else gap(s.count - to, 'd')
  return rows
}
