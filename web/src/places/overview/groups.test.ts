import { describe, expect, it } from 'vitest'
import type { DocHead } from '../../api/client'
import { groupings } from './groups'

const screen = (id: string, more: Partial<DocHead>) =>
  ({ kind: 'screen', id, title: id, removed: false, ...more }) as DocHead
const known = {
  docs: [{ kind: 'shell', id: 'staff', title: 'Staff' } as DocHead],
  owners: { ida: 'Ida Fenn' },
  apps: [{ id: 'ops', name: 'Operations' }],
}

describe('screens in groups', () => {
  it('are offered by what tells them apart alone', () => {
    const list = [
      screen('a', { route: '/beds', owner: 'ida', app: 'ops', shell: 'staff' }),
      screen('b', { route: '/beds/new', owner: 'ida', app: 'ops' }),
    ]
    expect(groupings(list, known).map(w => w.id)).toEqual(['shell'])
  })
  it('go by names that people know', () => {
    const list = [
      screen('a', { route: '/beds', owner: 'ida', shell: 'staff', source: 'src/pages/Beds.vue' }),
      screen('b', { route: '/', shell: 'gone' }),
    ]
    const of = (id: string) => list.map(groupings(list, known).find(w => w.id === id)!.of)
    expect(of('route')).toEqual(['/beds', '/'])
    expect(of('shell')).toEqual(['Staff', 'gone'])
    expect(of('owner')).toEqual(['Ida Fenn', 'Without an owner'])
    expect(of('folder')).toEqual(['src/pages', 'Assembled here'])
  })
})
