import type { Schemas } from '../../api/client'

export type Entry = Schemas['TextsEntry']

/** What of the texts is looked at. */
export const kinds = {
  all: 'all',
  missing: 'missing',
  changed: 'of words that changed',
  wrong: 'wrong or doubtful',
} as const
export type Kind = keyof typeof kinds

/** Whether a text is of a kind. */
export function is(e: Entry, kind: Kind): boolean {
  if (kind === 'missing') return !e.is
  if (kind === 'changed') return !!e.was
  if (kind === 'wrong') return !!e.wrong || !!e.doubt
  return true
}

/** The texts of one document. */
export interface Group {
  doc: string
  title: string
  entries: Entry[]
}

/** What is looked at, by documents in their order: of a kind, and with all words that are
 * searched for in the text, its key, or what it is in the language. */
export function grouped(
  list: readonly Entry[],
  kind: Kind,
  search: string,
  titles: ReadonlyMap<string, string>,
): Group[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean)
  const out = new Map<string, Group>()
  for (const e of list) {
    const says = `${e.message} ${e.key} ${e.is ?? ''} ${titles.get(e.doc) ?? ''}`.toLowerCase()
    if (!is(e, kind) || !words.every(w => says.includes(w))) continue
    let group = out.get(e.doc)
    if (!group) {
      group = { doc: e.doc, title: titles.get(e.doc) ?? e.doc, entries: [] }
      out.set(e.doc, group)
    }
    group.entries.push(e)
  }
  return [...out.values()]
}

/** Where a text stands within its document, as its key says it. */
export function where(e: Entry): string {
  const parts = e.key.split('.')
  const state = parts[1]?.split('@')[1]
  const at = parts.slice(2).join(' · ')
  return state ? `${at}, ${state}` : at
}
