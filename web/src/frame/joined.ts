/** Draws what several bundles bring together: a kit and parts from elsewhere, each with a framework
 * of its own. What belongs to another bundle than what stands around it is an island: its bundle
 * draws it into a box that the outer one holds. */
import type { Drawer, DrawNode } from './plan'

/** The box of an island; it takes no room of its own. */
export const islandTag = 'u-part'

interface Island {
  host: Element
  drawer: number
}

/** A drawer that hands each node to the bundle that it belongs to; elements of the page are drawn
 * by whichever draws around them. */
export function joined(drawers: (Drawer | undefined)[]): Drawer | undefined {
  const first = drawers.findIndex(Boolean)
  if (first < 0) return undefined
  if (drawers.filter(Boolean).length === 1) return drawers[first]
  const islands = new WeakMap<Element, Map<string, Island>>()
  // A node that stays the same object is not drawn anew; so must what stands in its place.
  const outer = new WeakMap<DrawNode, Map<number, DrawNode>>()
  const inside = new WeakMap<Element, { id: string; node: DrawNode }[]>()

  function part(node: DrawNode, owner: number, found: { id: string; node: DrawNode }[]): DrawNode {
    if (!node.html && node.part !== owner && drawers[node.part]) {
      found.push({ id: node.id, node })
      const known = outer.get(node)?.get(-1)
      if (known) return known
      const box: DrawNode = {
        id: node.id,
        c: islandTag,
        html: true,
        part: owner,
        props: { 'data-part': node.id },
        text: '',
        slots: {},
      }
      if (typeof node.slot === 'string' && node.slot) box.props['slot'] = node.slot
      outer.set(node, new Map([[-1, box]]))
      return box
    }
    let same = true
    const slots: Record<string, DrawNode[]> = {}
    for (const [name, list] of Object.entries(node.slots))
      slots[name] = list.map(n => {
        const made = part(n, owner, found)
        same &&= made === n
        return made
      })
    if (same) return node
    const known = outer.get(node)?.get(owner)
    const unchanged =
      known &&
      Object.entries(slots).every(
        ([name, list]) =>
          list.length === known.slots[name]?.length &&
          list.every((n, i) => n === known.slots[name]![i]),
      )
    if (unchanged) return known
    const made = { ...node, slots }
    outer.set(node, (outer.get(node) ?? new Map<number, DrawNode>()).set(owner, made))
    return made
  }

  const themes = new WeakMap<Element, string>()
  const owners = new WeakMap<Element, number>()

  function drawIn(root: Element, node: DrawNode, theme: string, owner: number) {
    const found: { id: string; node: DrawNode }[] = []
    const made = part(node, owner, found)
    inside.set(root, found)
    themes.set(root, theme)
    owners.set(root, owner)
    return drawers[owner]!.draw(root, made, theme)
  }

  /** Draws the islands of a root, and theirs, once their boxes stand. */
  async function settle(root: Element): Promise<string | undefined> {
    let failed = (await drawers[owners.get(root) ?? first]!.settled(root)) || undefined
    const known = islands.get(root) ?? new Map<string, Island>()
    const now = new Map<string, Island>()
    for (const { id, node } of inside.get(root) ?? []) {
      // What a dialog or a menu holds may stand beside the root, in the same picture.
      const box = `${islandTag}[data-part="${CSS.escape(id)}"]`
      const host = root.querySelector(box) ?? root.closest('.u-screen')?.querySelector(box)
      if (!host) continue
      now.set(id, { host, drawer: node.part })
      failed ??= drawIn(host, node, themes.get(root) ?? '', node.part)
      failed ??= await settle(host)
    }
    for (const [id, island] of known)
      if (now.get(id)?.host !== island.host) dropIn(island.host, island.drawer)
    islands.set(root, now)
    return failed
  }

  function dropIn(root: Element, owner: number) {
    for (const island of islands.get(root)?.values() ?? []) dropIn(island.host, island.drawer)
    islands.delete(root)
    drawers[owner]!.drop(root)
  }

  function findIn(root: Element, id: string, owner: number): Element[] {
    for (const [at, island] of islands.get(root) ?? []) {
      const within = findIn(island.host, id, island.drawer)
      if (within.length || at === id) return within
    }
    return drawers[owner]!.find(root, id)
  }

  return {
    ready: async () => {
      for (const d of drawers) await d?.ready?.()
    },
    draw: (root, node, theme) => drawIn(root, node, theme, first),
    settled: settle,
    find: (root, id) => findIn(root, id, first),
    drop: root => dropIn(root, first),
  }
}
