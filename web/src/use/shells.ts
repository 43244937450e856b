import type { DocHead, Step } from '../api/client'

type Said = Partial<Pick<DocHead, 'title' | 'route' | 'owner' | 'shell'>>

/** The step that says something else of a document; what is not named stays as it is. */
export const metaStep = (head: DocHead, said: Said): Step => ({
  do: 'meta',
  doc: `${head.kind}:${head.id}`,
  kind: head.kind,
  document: {
    id: head.id,
    title: head.title,
    route: head.route ?? '',
    owner: head.owner ?? '',
    shell: head.shell ?? '',
    ...said,
    root: { id: 'unused', type: 'section' },
  },
})

/** The shells that a document can stand in: none stands in itself, however far around. */
export function shellsFor(docs: DocHead[], head?: DocHead): DocHead[] {
  const shells = docs.filter(d => d.kind === 'shell' && !d.removed)
  if (head?.kind !== 'shell') return shells
  const around = (d: DocHead): boolean => {
    const seen = new Set<string>()
    for (let at: DocHead | undefined = d; at && !seen.has(at.id);) {
      if (at.id === head.id) return true
      seen.add(at.id)
      const up: string | undefined = at.shell
      at = shells.find(s => s.id === up)
    }
    return false
  }
  return shells.filter(d => !around(d))
}
