// How elements are measured in a browser, for whoever judges where they came to stand.

/** The height in pixels from which words may take more than one line. */
const roomy = 34

/** Whether something inside the picture scrolls what an element reaches out of. */
function scrolled(el, root) {
  for (
    let up = el.assignedSlot ?? el.parentNode;
    up && up !== root;
    up = up instanceof ShadowRoot ? up.host : (up.assignedSlot ?? up.parentNode)
  )
    if (
      up instanceof Element &&
      up.scrollWidth > up.clientWidth + 1 &&
      ['auto', 'scroll'].includes(getComputedStyle(up).overflowX)
    )
      return true
  return false
}

/** How many lines an element's own words take. */
function linesOf(el) {
  const n = el.firstChild
  // Words come before what stands beside them, as they are drawn.
  if (!n || n.nodeType !== Node.TEXT_NODE || !n.data.trim()) return 0
  const range = document.createRange(),
    tops = new Set()
  range.selectNodeContents(n)
  for (const r of range.getClientRects()) tops.add(Math.round(r.top / 4))
  return tops.size
}

/** The boxes of all elements that have a key, those without room left out: in pixels from
 * the root's corner, at a scale. keyOf tells the key where it does not stand on them. */
export function measure(all, root, scale = 1, keyOf = el => el.getAttribute('data-e')) {
  const origin = root.getBoundingClientRect(),
    boxes = []
  for (const el of all) {
    const r = el.getBoundingClientRect()
    if (!r.width || !r.height) continue
    const box = {
      key: keyOf(el),
      x: (r.x - origin.x) / scale,
      y: (r.y - origin.y) / scale,
      w: r.width / scale,
      h: r.height / scale,
    }
    // What scrolls by itself may hold more than it shows.
    const over = el.scrollWidth - el.clientWidth
    if (
      over > 2 &&
      el.clientWidth > 0 &&
      !['auto', 'scroll'].includes(getComputedStyle(el).overflowX)
    )
      box.over = over
    // What reaches past the page or what it stands in is looked at more closely; few do.
    const past =
      r.right > origin.right + 1 ||
      r.right >
        (el.parentElement?.closest('[data-e]')?.getBoundingClientRect().right ?? Infinity) + 1
    if (past && scrolled(el, root)) box.scrolls = true
    if (r.height > roomy * scale) {
      const lines = linesOf(el)
      if (lines > 1) box.lines = lines
    }
    boxes.push(box)
  }
  return boxes
}
