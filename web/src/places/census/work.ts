import type { Schemas } from '../../api/client'

export type Work = Schemas['LiveWork']

/** What groups may be made by: the words of the choice, and an item's group and its name. */
export const groupings = {
  cause: { words: 'cause', of: (w: Work) => [w.cause, w.why] },
  rule: { words: 'rule', of: (w: Work) => [w.rule, w.ruleName] },
  spot: { words: 'spot', of: (w: Work) => [w.spot, w.spotName] },
  component: { words: 'component', of: (w: Work) => [w.type, w.typeName] },
  screen: { words: 'screen', of: (w: Work) => [w.doc, w.title] },
  owner: { words: 'owner', of: (w: Work) => [w.owner ?? '', w.owner || 'nobody'] },
  given: { words: 'who sees to it', of: (w: Work) => [w.given?.to ?? '', w.given?.to || 'nobody'] },
} satisfies Record<string, { words: string; of: (w: Work) => [string, string] }>
export type Grouping = keyof typeof groupings

/** What is shown of all there is; empty fields leave nothing out. */
export interface Filter {
  level: string
  owner: string
  given: string
  component: string
  words: string
}
export const levels: [string, string][] = [
  ['error', 'errors'],
  ['warning', 'warnings'],
  ['stray', 'strays'],
  ['question', 'questions'],
  ['note', 'notes'],
  ['hint', 'more likely meant'],
  ['stood', 'let stand'],
]
export const levelOf = (w: Work) =>
  w.stood ? 'stood' : w.kind === 'finding' ? (w.severity ?? '') : w.kind

/** Those that pass; what is more likely meant, and what is let stand, shows only where it is
 * asked for. */
export function matching(all: Work[], f: Filter): Work[] {
  const words = f.words.toLowerCase().split(/\s+/).filter(Boolean)
  return all.filter(w => {
    if (f.level ? levelOf(w) !== f.level : w.kind === 'hint' || w.stood) return false
    if (f.owner && (w.owner ?? '') !== (f.owner === '-' ? '' : f.owner)) return false
    if (f.given && (w.given?.to ?? '') !== (f.given === '-' ? '' : f.given)) return false
    if (f.component && w.type !== f.component) return false
    if (!words.length) return true
    const said =
      `${w.title} ${w.path} ${w.message} ${w.why} ${w.rule} ${w.element} ${w.doc} ${w.code ?? ''} ${w.stood?.reason ?? ''}`.toLowerCase()
    return words.every(word => said.includes(word))
  })
}

export interface Group {
  id: string
  name: string
  items: Work[]
  screens: number
}

/** Groups in the order of what matters most: by the heaviest in them, then by how many
 * screens they reach, then by how many there are. */
export function grouped(list: Work[], by: Grouping): Group[] {
  const found = new Map<string, Group & { docs: Set<string> }>()
  for (const w of list) {
    const [id, name] = groupings[by].of(w) as [string, string]
    let g = found.get(id)
    if (!g) found.set(id, (g = { id, name, items: [], screens: 0, docs: new Set() }))
    g.items.push(w)
    g.docs.add(w.doc)
  }
  return [...found.values()]
    .map(({ docs, ...g }) => ({ ...g, screens: docs.size }))
    .sort(
      (a, b) =>
        b.items[0]!.weight - a.items[0]!.weight ||
        b.screens - a.screens ||
        b.items.length - a.items.length ||
        a.name.localeCompare(b.name),
    )
}

export type Row = { group: Group; item?: Work; id: string; nth: number; of: number }

/** The rows to show: each group, and what is in those that are open. */
export function rowsOf(groups: Group[], open: Set<string>): Row[] {
  return groups.flatMap((group, i) => [
    { group, id: `g:${group.id}`, nth: i + 1, of: groups.length },
    ...(open.has(group.id)
      ? group.items.map((item, j) => ({
          group,
          item,
          id: `w:${item.key}:${j}`,
          nth: j + 1,
          of: group.items.length,
        }))
      : []),
  ])
}
