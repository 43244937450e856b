import { describe, expect, it } from 'vitest'
import { arranged, between, cellsOf, pasted, shown, textOf, type Field, type Rec } from './grid'

const fields = [
  { name: 'name', type: 'text' },
  { name: 'height', type: 'number' },
  { name: 'price', type: 'money' },
  { name: 'bed', type: 'reference', model: 'beds' },
  { name: 'on', type: 'yes/no' },
] as Field[]
const records: Rec[] = [
  { id: 'a', name: 'Oak', height: 12, price: 1250, bed: 'b2', on: true },
  { id: 'b', name: 'elm', height: 3 },
  { id: 'c', name: 'Ash', bed: 'b1' },
]
const names = {
  beds: [
    { id: 'b1', name: 'North' },
    { id: 'b2', name: 'South' },
  ],
}

describe('the grid of records', () => {
  it('shows values as they are typed back', () => {
    expect(fields.map(f => shown(f, records[0]![f.name], names))).toEqual([
      'Oak',
      '12',
      '12.50',
      'South',
      'yes',
    ])
    expect(shown(fields[3]!, 'gone', names)).toBe('gone')
  })
  it('shows lists, the records referred to, and amounts in their currency', () => {
    const [tags, beds, yen] = [
      { name: 't', type: 'list' },
      { name: 'b', type: 'references', model: 'beds' },
      { name: 'y', type: 'money', currency: 'JPY' },
    ] as Field[]
    expect(shown(tags!, ['old', 'tall'])).toBe('old, tall')
    expect(shown(tags!, ['old, very', 'tall'])).toBe('old, very; tall;')
    expect(shown(beds!, ['b2', 'gone'], names)).toBe('South, gone')
    expect(shown(yen!, 1250)).toBe('1250')
    expect(shown({ ...yen!, currency: 'USD' }, 1250)).toBe('12.50')
  })
  it('finds in what is shown, and sorts with what is missing last either way', () => {
    expect(arranged(records, fields, 'sou', '', names).map(r => r.id)).toEqual(['a'])
    expect(arranged(records, fields, '', 'height', names).map(r => r.id)).toEqual(['b', 'a', 'c'])
    expect(arranged(records, fields, '', '-height', names).map(r => r.id)).toEqual(['a', 'b', 'c'])
    expect(arranged(records, fields, '', 'name', names).map(r => r.id)).toEqual(['c', 'b', 'a'])
    expect(arranged(records, fields, '', 'gone', names).map(r => r.id)).toEqual(['a', 'b', 'c'])
  })
  it('reads what a spreadsheet copies, and writes the same', () => {
    const rows = [
      ['a', 'b\tc'],
      ['two\nlines', 'says "x"'],
      ['', '7'],
    ]
    expect(cellsOf(textOf(rows))).toEqual(rows)
    expect(cellsOf('a\tb\r\nc\td\r\n')).toEqual([
      ['a', 'b'],
      ['c', 'd'],
    ])
    expect(cellsOf('5" pot\tx')).toEqual([['5" pot', 'x']])
    expect(cellsOf('')).toEqual([])
  })
  it('pastes from a place on: new records below, nothing beyond the last field', () => {
    const at = between({ row: 2, col: 3 }, { row: 2, col: 3 })
    expect(
      pasted(
        [
          ['North', 'yes', 'lost'],
          ['South', 'no'],
        ],
        at,
        records,
        fields,
      ),
    ).toEqual({
      fresh: 1,
      cells: [
        { record: 'c', field: 'bed', text: 'North' },
        { record: 'c', field: 'on', text: 'yes' },
        { record: '+1', field: 'bed', text: 'South' },
        { record: '+1', field: 'on', text: 'no' },
      ],
    })
  })
  it('fills what is selected with one cell', () => {
    const out = pasted([['9']], between({ row: 1, col: 2 }, { row: 0, col: 1 }), records, fields)
    expect(out.cells.map(c => c.record + c.field + c.text)).toEqual([
      'aheight9',
      'aprice9',
      'bheight9',
      'bprice9',
    ])
  })
})
