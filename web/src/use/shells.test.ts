import { describe, expect, it } from 'vitest'
import type { DocHead } from '../api/client'
import { metaStep, shellsFor } from './shells'
import { freeSlug } from './slug'

const doc = (kind: string, id: string, more: Partial<DocHead> = {}) =>
  ({ kind, id, title: id, removed: false, ...more }) as DocHead

describe('a document in its shell', () => {
  it('keeps what is not said anew', () => {
    const head = doc('screen', 'beds', { route: '/beds', owner: 'ida', shell: 'staff' })
    expect(metaStep(head, { shell: '' })).toMatchObject({
      doc: 'screen:beds',
      document: { title: 'beds', route: '/beds', owner: 'ida', shell: '' },
    })
  })
  it('never stands in itself, however far around', () => {
    const docs = [
      doc('shell', 'bar'),
      doc('shell', 'side', { shell: 'bar' }),
      doc('shell', 'inner', { shell: 'side' }),
      doc('shell', 'gone', { removed: true }),
      doc('screen', 'beds', { shell: 'inner' }),
    ]
    const ids = (head?: DocHead) => shellsFor(docs, head).map(d => d.id)
    expect(ids(docs[0])).toEqual([])
    expect(ids(docs[1])).toEqual(['bar'])
    expect(ids(docs[2])).toEqual(['bar', 'side'])
    expect(ids(docs[4])).toEqual(['bar', 'side', 'inner'])
  })
  it('ends where shells go round in a circle', () => {
    const docs = [doc('shell', 'a', { shell: 'b' }), doc('shell', 'b', { shell: 'a' })]
    expect(shellsFor(docs, doc('shell', 'c')).map(d => d.id)).toEqual(['a', 'b'])
  })
})

describe('an id made of a title', () => {
  it('is one that nothing has', () => {
    expect(freeSlug('Staff desk', 'shell', ['staff-desk', 'staff-desk-2'])).toBe('staff-desk-3')
    expect(freeSlug('養蜂', 'shell', [])).toBe('shell')
  })
})
