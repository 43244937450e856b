/** Draws a page though some of its components throw: what cannot be drawn is found by leaving
 * components out one after the other, and a box with its name stands for it, with what is in it. */
import type { Drawer, DrawNode } from './plan'

/** How long components are looked for that a page is to be drawn without, in milliseconds. */
const longest = 2500

interface Spared {
  /** Components that throw here, and why. */
  why: Map<string, string>
  /** What was drawn without them: where it stays the same, so does what is left out. */
  at: string
}

const all = (n: DrawNode): DrawNode[] => Object.values(n.slots).flat()

/** The components of a tree, each once, the innermost first. */
function names(n: DrawNode, out = new Set<string>()): Set<string> {
  for (const k of all(n)) names(k, out)
  if (!n.html) out.add(n.c)
  return out
}

/** Where components of some names stand in a tree, and how they are set: other ones may be drawn. */
function traces(n: DrawNode, of: Map<string, string>, around = ''): string[] {
  const here = n.html || !of.has(n.c) ? [] : [`${around}>${n.id} ${JSON.stringify(n.props)}`]
  return [...here, ...all(n).flatMap(k => traces(k, of, `${around}>${n.c}`))]
}

/** A tree with boxes for the components of some names; what has none of them stays the same object. */
export function without(n: DrawNode, of: ReadonlyMap<string, string>): DrawNode {
  const slots: Record<string, DrawNode[]> = {}
  let same = true
  for (const [name, list] of Object.entries(n.slots)) {
    slots[name] = list.map(k => without(k, of))
    same &&= slots[name].every((k, i) => k === list[i])
  }
  const why = n.html ? undefined : of.get(n.c)
  if (why === undefined) return same ? n : { ...n, slots }
  return {
    ...n,
    c: 'span',
    html: true,
    props: { 'data-broken': n.c, title: why },
    text: n.text || n.c,
    slots: { '': Object.values(slots).flat() },
  }
}

/** What is said of a page of which nothing can be drawn. */
export const whole = (why: string) => `It cannot be drawn: ${why}`

/** A drawer that spares a page what some of its components throw. */
export function spared(drawer: Drawer): Drawer {
  const known = new WeakMap<Element, Spared>()
  const said = (why: Map<string, string>) =>
    [...why].map(([name, because]) => `${name} cannot be drawn: ${because}`).join('; ') || undefined

  return {
    ...drawer,
    draw(root, node, theme) {
      const draw = (of: ReadonlyMap<string, string>) => {
        try {
          return drawer.draw(root, of.size ? without(node, of) : node, theme)
        } catch (e) {
          return String((e as Error)?.message ?? e)
        }
      }
      const before = known.get(root)
      if (before && before.at === traces(node, before.why).join() && !draw(before.why))
        return said(before.why)
      known.delete(root)
      const failed = draw(new Map())
      if (!failed) return undefined
      const list = [...names(node)]
      const until = performance.now() + longest
      const found = (why: Map<string, string>) => {
        known.set(root, { why, at: traces(node, why).join() })
        return said(why)
      }
      if (list.length + (node.html ? 1 : 0) < 2) return whole(failed)
      for (const name of list)
        if (performance.now() < until && !draw(new Map([[name, failed]])))
          return found(new Map([[name, failed]]))
      // Several of them: without each until the page stands, then with each that lets it stand.
      const why = new Map<string, string>()
      let now: string | undefined = failed
      for (const name of list) {
        if (!now || performance.now() > until) break
        why.set(name, now)
        now = draw(why)
      }
      for (const name of now ? [] : [...why.keys()]) {
        if (performance.now() > until) break
        const fewer = new Map(why)
        fewer.delete(name)
        const still = draw(fewer)
        if (still) why.set(name, still)
        else why.delete(name)
      }
      if (now) {
        draw(new Map())
        return whole(failed)
      }
      draw(why)
      return found(why)
    },
    async settled(root) {
      const late = await drawer.settled(root)
      return late ? whole(late) : undefined
    },
    drop(root) {
      known.delete(root)
      drawer.drop(root)
    },
  }
}
