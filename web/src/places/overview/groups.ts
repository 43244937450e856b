import type { DocHead } from '../../api/client'

/** A way to put screens into groups, by a title. */
export interface Grouping {
  id: string
  words: string
  of: (s: DocHead) => string
}

/** The ways in which these screens fall into more than one group. */
export function groupings(
  screens: DocHead[],
  known: { docs: DocHead[]; owners: Record<string, string>; apps: { id: string; name: string }[] },
): Grouping[] {
  const shells = new Map(known.docs.filter(d => d.kind === 'shell').map(d => [d.id, d.title]))
  const apps = new Map(known.apps.map(a => [a.id, a.name]))
  const all: Grouping[] = [
    {
      id: 'route',
      words: 'by part of the route',
      of: s => '/' + ((s.route ?? '').split('/')[1] ?? ''),
    },
    {
      id: 'shell',
      words: 'by shell',
      of: s => (s.shell ? (shells.get(s.shell) ?? s.shell) : 'In no shell'),
    },
    {
      id: 'owner',
      words: 'by owner',
      of: s => (s.owner ? (known.owners[s.owner] ?? s.owner) : 'Without an owner'),
    },
    {
      id: 'application',
      words: 'by application',
      of: s => apps.get(s.app ?? '') ?? s.app ?? '',
    },
    {
      id: 'folder',
      words: 'by folder of the code',
      of: s => (s.source ? s.source.replace(/\/[^/]*$/, '') : 'Assembled here'),
    },
    {
      id: 'signed',
      words: 'by sign-off',
      of: s => (s.signed ? 'Signed off' : s.was ? 'Changed since' : 'Not signed off'),
    },
  ]
  return all.filter(way => new Set(screens.map(way.of)).size > 1)
}
