import type { Schemas } from '../../api/client'
import { exampleTree, padded } from '../shelf/example'

export type KitView = Schemas['ApiKitView']
export type Batch = Schemas['ApiBatchOut']
export type Entry = Schemas['ApiBatchEntry']
export type Carry = Schemas['ApiCarryOut']

/** A size in words, as people read it. */
export const size = (bytes: number) =>
  bytes < 1 << 20
    ? `${Math.max(1, Math.round(bytes / 1024))} KB`
    : `${(bytes / (1 << 20)).toFixed(1)} MB`

/** A version as its makers number it, without what stands beside it here. */
export const published = (version: string) => version.split('+')[0]!

/** How components are drawn, in words. */
export const drawn: Record<string, string> = {
  elements: 'web components',
  vue: 'Vue',
  react: 'React',
  angular: 'Angular',
}

export const changeWords: Record<string, string> = {
  new: 'new',
  changed: 'changed',
  same: 'as it was',
  gone: 'gone',
}

/** What a stored kit would be here, in words. */
export function kindWords(k: KitView): string {
  if (k.state === 'in use') return k.version.includes('+') ? 'in use, with parts' : 'in use'
  if (k.state === 'left') return 'left'
  if (k.state === 'beside') return 'beside the kit'
  return k.kind === 'version' ? 'another version' : 'another kit'
}

/** A certainty in words, with its share. */
export const sure = (certainty: number) => `${Math.round(certainty * 100)} %`

/** Whether an entry is shown by a filter of the wall. */
export function shows(filter: string, e: Entry, broken: Record<string, string>): boolean {
  switch (filter) {
    case 'new':
    case 'changed':
    case 'gone':
      return e.change === filter
    case 'broken':
      return !!broken[e.tag]
    case 'unsure':
      return (e.guesses ?? []).some(g => g.what === 'family' && g.certainty < 0.6)
    default:
      return e.change !== 'gone'
  }
}

/** An entry with its example, to be looked at. */
export const lookOf = (e: Entry) => padded(exampleTree(e), e)
