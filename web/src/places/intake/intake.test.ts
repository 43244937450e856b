import { describe, expect, it } from 'vitest'
import { kindWords, shows, size, type Entry, type KitView } from './intake'

const entry = (over: Partial<Entry>) =>
  ({ tag: 'ac-a', change: 'new', guesses: [], ...over }) as Entry

describe('a batch', () => {
  it('is filtered by what changed, by what cannot be drawn and by what is unsure', () => {
    expect(shows('gone', entry({ change: 'gone' }), {})).toBe(true)
    expect(shows('all', entry({ change: 'gone' }), {})).toBe(false)
    expect(shows('broken', entry({}), { 'ac-a': 'no parent' })).toBe(true)
    expect(shows('broken', entry({}), {})).toBe(false)
    const guesses = [{ what: 'family', value: 'others', certainty: 0.2, why: 'x' }]
    expect(shows('unsure', entry({ guesses }), {})).toBe(true)
    expect(shows('unsure', entry({}), {})).toBe(false)
  })
  it('says what it would be here', () => {
    const kit = (over: Partial<KitView>) =>
      ({ state: 'waits', kind: 'another', ...over }) as KitView
    expect(kindWords(kit({}))).toBe('another kit')
    expect(kindWords(kit({ kind: 'version' }))).toBe('another version')
    expect(kindWords(kit({ state: 'in use' }))).toBe('in use')
  })
  it('has a size that people read', () => {
    expect(size(10)).toBe('1 KB')
    expect(size(3 << 20)).toBe('3.0 MB')
  })
})
