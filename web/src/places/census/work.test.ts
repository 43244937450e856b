import { expect, test } from 'vitest'
import { grouped, groupings, matching, rowsOf, type Filter, type Grouping, type Work } from './work'

const nothing: Filter = { level: '', owner: '', given: '', component: '', words: '' }
let n = 0
const work = (over: Partial<Work>): Work =>
  ({
    key: `k${n++}`,
    kind: 'finding',
    severity: 'warning',
    weight: 300,
    rule: 'field-label',
    ruleName: 'Fields have labels',
    cause: 'c',
    why: 'w',
    doc: 'screen:beds',
    title: 'Beds',
    element: 'e',
    path: 'Section ▸ Search',
    type: 'sorrel-search',
    typeName: 'Search',
    spot: 's',
    spotName: 'search',
    message: 'no label',
    ...over,
  }) as Work
const some = () => [
  work({ severity: 'error', weight: 400, cause: 'a', title: 'Gates', doc: 'screen:gates' }),
  work({ kind: 'stray', weight: 260, cause: 'b', owner: 'noor' }),
  work({
    cause: 'c',
    given: { id: '1', key: 'x', to: 'ida', by: 'noor', when: '2026-11-29' },
  }),
  work({ cause: 'c', doc: 'screen:tickets', title: 'Tickets' }),
  work({ kind: 'hint', weight: 30, cause: 'd' }),
]

test('groups by whatever hold each item once', () => {
  const all = some()
  for (const by of Object.keys(groupings) as Grouping[])
    expect(
      grouped(all, by)
        .flatMap(g => g.items.map(w => w.key))
        .sort(),
    ).toEqual(all.map(w => w.key).sort())
})

test('what matters most stands first, then what reaches most screens', () => {
  const list = [work({ cause: 'one' }), work({ cause: 'two' }), work({ cause: 'two', doc: 'd' })]
  expect(grouped([...some(), ...list], 'cause').map(g => g.id)).toEqual([
    'a',
    'c',
    'two',
    'one',
    'b',
    'd',
  ])
})

test('filters narrow, and all words must be met somewhere', () => {
  const all = some()
  const count = (f: Partial<Filter>) => matching(all, { ...nothing, ...f }).length
  expect(count({})).toBe(4) // the hint only where it is asked for
  expect(count({ level: 'hint' })).toBe(1)
  expect(count({ level: 'error' })).toBe(1)
  expect(count({ owner: 'noor' })).toBe(1)
  expect(count({ owner: '-' })).toBe(3)
  expect(count({ given: 'ida' })).toBe(1)
  expect(count({ words: 'gates LABEL' })).toBe(1)
  expect(count({ words: 'gates nowhere' })).toBe(0)
})

test('rows are the groups, and the items of those that are open', () => {
  const groups = grouped(matching(some(), nothing), 'cause')
  expect(rowsOf(groups, new Set())).toHaveLength(3)
  const rows = rowsOf(groups, new Set(['c']))
  expect(rows).toHaveLength(5)
  expect(rows.filter(r => r.item).map(r => [r.nth, r.of])).toEqual([
    [1, 2],
    [2, 2],
  ])
  expect(new Set(rows.map(r => r.id)).size).toBe(5)
})
