const cache = new Map<string, Promise<string[]>>()

/** The kit's styles and the layouts' sheet as texts: the frame itself may fetch
 * nothing, and tiles take them as constructed sheets. */
export function frameStyles(base: string): Promise<string[]> {
  let styles = cache.get(base)
  if (!styles) {
    styles = Promise.all(
      ['kit.css', 'layout.css'].map(async name => {
        const answer = await fetch(base + name)
        if (!answer.ok) throw new Error(`${name}: ${answer.statusText}`)
        return answer.text()
      }),
    )
    cache.set(base, styles)
  }
  return styles
}
