import { describe, expect, it } from 'vitest'
import { grouped, is, where, type Entry } from './texts'

const entry = (over: Partial<Entry>): Entry => ({
  key: 'screens.loans.button-2.text',
  doc: 'screen:loans',
  prop: 'text',
  message: 'Return it',
  values: [],
  ...over,
})
const titles = new Map([
  ['screen:loans', 'Loans'],
  ['shell:staff', 'Staff'],
])

describe('texts that are looked at', () => {
  it('are of a kind', () => {
    expect(is(entry({}), 'missing')).toBe(true)
    expect(is(entry({ is: 'Zurück' }), 'missing')).toBe(false)
    expect(is(entry({ is: 'Zurück', was: 'Bring it' }), 'changed')).toBe(true)
    expect(is(entry({ is: 'Zurück', doubt: 'it does not say n' }), 'wrong')).toBe(true)
    expect(is(entry({ is: 'Zurück' }), 'all')).toBe(true)
  })
  it('stand by their documents, in their order', () => {
    const list = [
      entry({ key: 'shells.staff.text-1.text', doc: 'shell:staff' }),
      entry({}),
      entry({ key: 'shells.staff.text-2.text', doc: 'shell:staff' }),
    ]
    expect(grouped(list, 'all', '', titles).map(g => [g.title, g.entries.length])).toEqual([
      ['Staff', 2],
      ['Loans', 1],
    ])
  })
  it('have all words that are searched for', () => {
    const list = [entry({ is: 'Zurück' }), entry({ message: 'Lend it' })]
    expect(grouped(list, 'all', 'ret zur', titles)[0]?.entries).toEqual([list[0]])
    expect(grouped(list, 'all', 'loans it', titles)[0]?.entries).toHaveLength(2)
    expect(grouped(list, 'all', 'nowhere', titles)).toEqual([])
  })
  it('say where they stand', () => {
    expect(where(entry({}))).toBe('button-2 · text')
    expect(where(entry({ key: 'screens.loans@no-loans.button-2.text' }))).toBe(
      'button-2 · text, no-loans',
    )
    expect(where(entry({ key: 'screens.loans.title', prop: 'title' }))).toBe('title')
  })
})
