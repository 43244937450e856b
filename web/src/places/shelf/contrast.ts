import type { Component, Element, Schemas } from '../../api/client'
import type { Ink } from '../../frame/messages'
import { exampleTree } from './example'

export interface Pair {
  key: string
  theme: string
  ink: string
  ground: string
  inkName: string
  groundName: string
  ratio: number
  needed: number
  large: boolean
  fails: boolean
  sample: string
  tags: string[]
}

/** A component's example with every value of each of its choices, one at a time. */
export function variantsTree(c: Pick<Component, 'tag' | 'example' | 'props'>): Element {
  const variants = [exampleTree(c)]
  for (const p of c.props)
    for (const v of p.values ?? [])
      if (v !== p.default) variants.push(exampleTree(c, { [p.name]: v }))
  return {
    id: 'all',
    type: 'stack',
    props: { gap: '2', padding: '2' },
    children: variants.map(v => ({ ...v, slot: undefined })),
  }
}

/** The pairs that were met, by "theme tag", each once with all who show it: those
 * too weak first, then by contrast. Colours that are tokens are named. */
export function gather(
  seen: ReadonlyMap<string, Ink[]>,
  kit: Pick<Schemas['ApiKitOut'], 'tokens' | 'themes'>,
): Pair[] {
  const names = new Map(
    kit.themes.map(theme => [
      theme,
      new Map(
        kit.tokens
          .filter(t => t.type === 'color')
          .map(t => [t.values[theme]?.toUpperCase() ?? '', t.path.replace(/^color\./, '')]),
      ),
    ]),
  )
  const out = new Map<string, Pair>()
  for (const [where, inks] of seen) {
    const [theme, tag] = where.split(' ') as [string, string]
    for (const i of inks) {
      const key = [theme, i.ink, i.ground, i.large].join(' ')
      let p = out.get(key)
      if (!p) {
        const needed = i.large ? 3 : 4.5
        out.set(
          key,
          (p = {
            key,
            theme,
            ink: i.ink,
            ground: i.ground,
            inkName: names.get(theme)?.get(i.ink) ?? '',
            groundName: names.get(theme)?.get(i.ground) ?? '',
            ratio: i.ratio,
            needed,
            large: i.large,
            fails: i.ratio < needed,
            sample: i.sample,
            tags: [],
          }),
        )
      }
      if (!p.tags.includes(tag)) p.tags.push(tag)
    }
  }
  return [...out.values()].sort((a, b) => Number(b.fails) - Number(a.fails) || a.ratio - b.ratio)
}
