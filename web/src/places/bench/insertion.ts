import type { Element, Suggestion, Value } from '../../api/client'
import type { InjectionKey } from 'vue'
import { newId, parseTyped } from './tree'

/** What is typed on a new line: "page header | All of them | Tickets" asks for a component,
 * then says its text, then what it is about. */
export function typedLine(query: string): { asked: string; text: string; about: string } {
  const [asked = '', text = '', ...about] = query.split('|')
  return { asked: asked.trim(), text: text.trim(), about: about.join('|').trim() }
}

const presetValue = (v: string): Value => (v === 'true' ? true : v === 'false' ? false : v)

/** The kit's icons, as the Bench knows them. */
export const iconsKey: InjectionKey<() => readonly Icon[]> = Symbol('icons')

/** An icon of the kit with what it means. */
export interface Icon {
  name: string
  meanings?: string[] | null
}

/** The icon that a word names or means; near is what comes nearest where none does. */
export function iconFor(word: string, icons: readonly Icon[]): { name?: string; near: string[] } {
  const asked = word.trim().toLowerCase()
  const says = (i: Icon) => [i.name, ...(i.meanings ?? [])].map(w => w.toLowerCase())
  const found =
    icons.find(i => i.name.toLowerCase() === asked) ??
    icons.find(i => says(i).includes(asked)) ??
    icons.find(i => says(i).some(w => w.split(/[\s-]+/).includes(asked)))
  const near = icons
    .filter(i => says(i).some(w => w.startsWith(asked.slice(0, 3)) || w.includes(asked)))
    .map(i => i.name)
    .slice(0, 3)
  return { name: asked ? found?.name : undefined, near }
}

/** The element that a suggestion puts on a screen, with what was said of it. Of one text
 * what it needs first is said, be that its own or what it is about; of two the first is its
 * own; what is left names its icon. Where nothing is said of what it is about, it is what the
 * other screens say there; that and the norm's settings are marked as filled in. What has no
 * place in it is not dropped: lost says so, in words. */
export function treeFor(
  s: Suggestion,
  text: string,
  about: string,
  id = newId(),
  icons: readonly Icon[] = [],
): { tree: Element; lost: string[] } {
  const props: Record<string, Value> = Object.fromEntries(
    Object.entries(s.preset).map(([k, v]) => [k, presetValue(v)]),
  )
  const filled = Object.keys(props)
  const lost: string[] = []
  let named = ''
  // A third part is what is left, where the second has its place.
  const [first, ...more] = about.split('|').map(p => p.trim())
  if (s.aboutIcon && more.length) {
    about = first ?? ''
    named = more.join(' ')
  }
  // What it is about is its text, where it says nothing else.
  if (!s.about && about && s.takesText && !text) {
    text = about
    about = ''
  }
  if (!s.about && about) {
    named = named || about
    about = ''
  }
  // What is an icon before all is named by its first text, and told about by the next.
  if (!s.takesText && s.about && s.aboutIcon && !s.aboutFirst && text) {
    named = [text, named].filter(Boolean).join(' ')
    text = ''
  }
  if (!s.takesText && !s.about && text) {
    named = [text, named].filter(Boolean).join(' ')
    text = ''
  }
  // Said once more, what it is about anyway would stand there twice.
  const again = !!s.aboutUsual && text.toLowerCase() === s.aboutUsual.toLowerCase()
  const isAbout = !about && (!s.takesText || (!!s.aboutFirst && (!s.aboutUsual || again)))
  if (!s.takesText && about && text) {
    named = named || about
    about = text
  }
  const title = about || (isAbout ? text : '')
  let tree: Element = { id, type: s.type, slot: s.slot || undefined, props, filled }
  if (s.takesText && !isAbout) tree.text = parseTyped(text)
  if (s.about && title) {
    const number = s.aboutNumber && !isNaN(Number(title))
    if (number || !s.aboutNumber) props[s.about] = number ? Number(title) : parseTyped(title)!
    else lost.push(`“${title}” is no number, and ${s.about} of the ${s.title} is one`)
  } else if (s.about && s.aboutUsual && !title) {
    props[s.about] = s.aboutUsual
    filled.push(s.about)
  }
  if (named && s.aboutIcon) {
    let icon = iconFor(named, icons)
    // Said the other way round, it is plain which of the two is the icon.
    const other = iconFor(title, icons)
    if (!icon.name && other.name && s.about && !s.aboutNumber) {
      props[s.about] = parseTyped(named)!
      icon = other
    }
    if (icon.name) {
      props[s.aboutIcon] = icon.name
      const at = filled.indexOf(s.aboutIcon)
      if (at >= 0) filled.splice(at, 1)
    } else
      lost.push(
        `no icon is called “${named}” or means it` +
          (icon.near.length ? `; near it are ${icon.near.join(', ')}` : ''),
      )
  } else if (named) lost.push(`“${named}” has no place in the ${s.title}`)
  // An action of a record leads to the record's own screen, where what it says asks for one.
  const spoken = [text, about, named, props[s.aboutIcon ?? ''] ?? ''].join(' ').toLowerCase()
  const says = ` ${spoken.split(/[^\p{L}\p{N}]+/u).join(' ')} `
  const lead = s.leads?.find(l => l.words.some(w => says.includes(` ${w} `)))
  if (lead && s.leadProp && !(s.leadProp in props)) {
    props[s.leadProp] = { expr: lead.to }
    filled.push(s.leadProp)
  }
  // What makes it right here comes with it.
  for (const w of (s.around ?? []).toReversed())
    tree = {
      id: newId(),
      type: w.type,
      slot: s.slot || undefined,
      children: [{ ...tree, slot: w.slot || undefined }],
    }
  return { tree, lost }
}
