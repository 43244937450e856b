export interface Box {
  key: string
  x: number
  y: number
  w: number
  h: number
  over?: number
  lines?: number
  scrolls?: boolean
}
export function measure(
  all: Iterable<Element>,
  root: Element,
  scale?: number,
  keyOf?: (el: Element) => string | null | undefined,
): Box[]
