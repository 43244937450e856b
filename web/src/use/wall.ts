/** Arrows walk a wall as it is seen: along a line, or to the nearest in the line above or below.
 * What can be walked to bears data-wall. above is called where an arrow leads out at the top. */
export function walkWall(e: KeyboardEvent, above?: () => void) {
  const from = (e.target as HTMLElement).closest<HTMLElement>('[data-wall]')
  const step = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowDown: [0, 1], ArrowUp: [0, -1] }[
    e.key
  ]
  if (!from || !step) return
  e.preventDefault()
  const all = [...document.querySelectorAll<HTMLElement>('[data-wall]')]
  const here = from.getBoundingClientRect()
  if (step[0]) {
    all[all.indexOf(from) + step[0]]?.focus()
    return
  }
  const lines = all
    .map(el => ({ el, r: el.getBoundingClientRect() }))
    .filter(x => (x.r.top - here.top) * step[1]! > 8)
  const nearest =
    step[1]! > 0 ? Math.min(...lines.map(x => x.r.top)) : Math.max(...lines.map(x => x.r.top))
  const beside = lines
    .filter(x => Math.abs(x.r.top - nearest) < 8)
    .sort((a, b) => Math.abs(a.r.left - here.left) - Math.abs(b.r.left - here.left))[0]
  if (beside) beside.el.focus()
  else if (step[1]! < 0) above?.()
}
