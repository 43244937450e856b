import { describe, expect, it } from 'vitest'
import { kindWords, published, shows, size, type Entry, type KitView } from './intake'

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
      ({ state: 'waits', kind: 'another', version: '1.0.0', ...over }) as KitView
    expect(kindWords(kit({}))).toBe('another kit')
    expect(kindWords(kit({ kind: 'version' }))).toBe('another version')
    expect(kindWords(kit({ state: 'in use' }))).toBe('in use')
    const joined = kit({ state: 'in use', version: '1.0.0+plum-day.2.1.0' })
    expect(kindWords(joined)).toBe('in use, with parts')
    expect(published(joined.version)).toBe('1.0.0')
    expect(kindWords(kit({ state: 'beside', kind: 'part' }))).toBe('beside the kit')
  })
  it('has a size that people read', () => {
    expect(size(10)).toBe('1 KB')
    expect(size(3 << 20)).toBe('3.0 MB')
  })
})
