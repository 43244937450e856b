import type { Element, Suggestion, Value } from '../../api/client'
import { newId, parseTyped } from './tree'

/** What is typed on a new line: "page header | All of them | Tickets" asks for a component,
 * then says its text, then what it is about. */
export function typedLine(query: string): { asked: string; text: string; about: string } {
  const [asked = '', text = '', ...about] = query.split('|')
  return { asked: asked.trim(), text: text.trim(), about: about.join('|').trim() }
}

const presetValue = (v: string): Value => (v === 'true' ? true : v === 'false' ? false : v)

/** The element that a suggestion puts on a screen, with what was said of it. Of one text
 * what it needs first is said, be that its own or what it is about; of two the first is its
 * own. Where nothing is said of what it is about, it is what the other screens say there;
 * that and the norm's settings are marked as filled in. */
export function treeFor(s: Suggestion, text: string, about: string, id = newId()): Element {
  const props: Record<string, Value> = Object.fromEntries(
    Object.entries(s.preset).map(([k, v]) => [k, presetValue(v)]),
  )
  const filled = Object.keys(props)
  // Said once more, what it is about anyway would stand there twice.
  const again = !!s.aboutUsual && text.toLowerCase() === s.aboutUsual.toLowerCase()
  const isAbout = !about && (!s.takesText || (!!s.aboutFirst && (!s.aboutUsual || again)))
  const title = about || (isAbout ? text : '')
  let tree: Element = { id, type: s.type, slot: s.slot || undefined, props, filled }
  if (s.takesText && !isAbout) tree.text = parseTyped(text)
  if (s.about && title) {
    const number = s.aboutNumber && !isNaN(Number(title))
    if (number || !s.aboutNumber) props[s.about] = number ? Number(title) : parseTyped(title)!
  } else if (s.about && s.aboutUsual && !title) {
    props[s.about] = s.aboutUsual
    filled.push(s.about)
  }
  // What makes it right here comes with it.
  for (const w of (s.around ?? []).toReversed())
    tree = {
      id: newId(),
      type: w.type,
      slot: s.slot || undefined,
      children: [{ ...tree, slot: w.slot || undefined }],
    }
  return tree
}
