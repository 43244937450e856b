import type { Schemas } from '../../api/client'

export type Model = Schemas['ApiModelView']
export type Query = Schemas['SampleQuery']
/** How pasted rows were read: by which reading each column, and what it holds. */
export interface How {
  readings: Record<string, string>
  list: string
  met: Map<string, unknown[]>
}
export type Field = Schemas['SampleField']
export type Rec = Record<string, unknown> & { id: string }
export type Problem = Schemas['SampleCellError']
export type Names = Record<string, { id: string; name: string }[]>

/** The height of a row in pixels. */
export const ROW = 26

export const toRight = (type: string) => type === 'number' || type === 'money'

/** How many decimals amounts of a field have; money is kept in minor units. */
export const decimalsOf = (f: Field): number =>
  new Intl.NumberFormat('en', {
    style: 'currency',
    currency: f.currency ?? 'EUR',
  }).resolvedOptions().maximumFractionDigits ?? 2

/** A value as a cell shows it, and as it is typed back. */
export function shown(f: Field, v: unknown, names?: Names): string {
  if (v === undefined || v === null) return ''
  if (f.type === 'money' && typeof v === 'number')
    return (v / 10 ** decimalsOf(f)).toFixed(decimalsOf(f))
  if (Array.isArray(v)) {
    const list =
      f.type === 'references'
        ? v.map(id => names?.[f.model ?? '']?.find(n => n.id === id)?.name ?? String(id))
        : v.map(String)
    return list.some(s => /[,;]/.test(s)) ? list.join('; ') + ';' : list.join(', ')
  }
  if (f.type === 'reference')
    return names?.[f.model ?? '']?.find(n => n.id === v)?.name ?? String(v)
  return v === true ? 'yes' : v === false ? 'no' : String(v)
}

/** Records that hold a text somewhere, in order of a field; "-" before it turns it. */
export function arranged(
  records: readonly Rec[],
  fields: readonly Field[],
  filter: string,
  sort: string,
  names?: Names,
): Rec[] {
  const w = filter.trim().toLowerCase()
  const kept = w
    ? records.filter(
        r =>
          r.id.toLowerCase().includes(w) ||
          fields.some(
            f => f.type !== 'picture' && shown(f, r[f.name], names).toLowerCase().includes(w),
          ),
      )
    : [...records]
  const down = sort.startsWith('-'),
    name = down ? sort.slice(1) : sort
  const f = fields.find(o => o.name === name)
  if (!f) return kept
  const key = (r: Rec) =>
    typeof r[name] === 'number' || typeof r[name] === 'boolean'
      ? Number(r[name])
      : shown(f, r[name], names).toLowerCase()
  return kept.sort((a, b) => {
    if (a[name] === undefined || b[name] === undefined)
      return Number(a[name] === undefined) - Number(b[name] === undefined)
    const x = key(a),
      y = key(b)
    return (x < y ? -1 : x > y ? 1 : 0) * (down ? -1 : 1)
  })
}

/** A rectangle of cells between two corners. */
export interface Range {
  top: number
  bottom: number
  left: number
  right: number
}
export const between = (
  a: { row: number; col: number },
  b: { row: number; col: number },
): Range => ({
  top: Math.min(a.row, b.row),
  bottom: Math.max(a.row, b.row),
  left: Math.min(a.col, b.col),
  right: Math.max(a.col, b.col),
})

/** Rows and cells of a text as spreadsheets put it on the clipboard: tabs part cells,
 * quotes hold what would part. */
export function cellsOf(text: string): string[][] {
  const rows: string[][] = [[]]
  let cell = '',
    quoted = false,
    began = true
  const end = () => {
    rows.at(-1)!.push(cell)
    cell = ''
    began = true
  }
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!
    if (quoted) {
      if (c === '"' && text[i + 1] === '"') {
        cell += '"'
        i++
      } else if (c === '"') quoted = false
      else cell += c
    } else if (c === '"' && began) {
      quoted = true
      began = false
    } else if (c === '\t') end()
    else if (c === '\n' || c === '\r') {
      if (c === '\r' && text[i + 1] === '\n') i++
      end()
      rows.push([])
    } else {
      cell += c
      began = false
    }
  }
  if (cell || rows.at(-1)!.length) end()
  else rows.pop()
  return rows
}

/** The same the other way round. */
export const textOf = (rows: readonly (readonly string[])[]): string =>
  rows
    .map(r => r.map(c => (/[\t\n\r"]/.test(c) ? `"${c.replaceAll('"', '""')}"` : c)).join('\t'))
    .join('\n')

export interface Cell {
  record: string
  field: string
  text: string
}

/** What pasted cells write from a place on: beyond the last record they are new ones,
 * beyond the last field they fall away. One cell fills all that are selected. */
export function pasted(
  rows: readonly string[][],
  at: Range,
  records: readonly Rec[],
  fields: readonly Field[],
): { cells: Cell[]; fresh: number } {
  const cells: Cell[] = []
  let fresh = 0
  const single = rows.length === 1 && rows[0]!.length === 1
  const tall = single ? at.bottom - at.top + 1 : rows.length
  for (let i = 0; i < tall; i++) {
    const row = single ? rows[0]! : rows[i]!
    const record = records[at.top + i]?.id ?? `+${++fresh}`
    const wide = single ? at.right - at.left + 1 : row.length
    for (let j = 0; j < wide; j++) {
      const f = fields[at.left + j]
      if (f) cells.push({ record, field: f.name, text: single ? row[0]! : row[j]! })
    }
  }
  return { cells, fresh }
}
