import type { Ink } from './messages'

type Rgb = [number, number, number, number]

const canvas = document.createElement('canvas')
canvas.width = canvas.height = 1
const brush = canvas.getContext('2d', { willReadFrequently: true })
const known = new Map<string, Rgb>()

/** A computed colour, whatever its notation, as red, green, blue and opacity. */
function read(colour: string): Rgb {
  let out = known.get(colour)
  if (!out) {
    const plain = colour.match(/^rgba?\(([\d.]+), ([\d.]+), ([\d.]+)(?:, ([\d.]+))?\)$/)
    if (plain) out = [Number(plain[1]), Number(plain[2]), Number(plain[3]), Number(plain[4] ?? 1)]
    else if (brush) {
      brush.clearRect(0, 0, 1, 1)
      brush.fillStyle = colour
      brush.fillRect(0, 0, 1, 1)
      const [r, g, b, a] = brush.getImageData(0, 0, 1, 1).data
      out = [r!, g!, b!, a! / 255]
    } else out = [0, 0, 0, 1]
    known.set(colour, out)
  }
  return out
}

const over = (top: Rgb, below: Rgb): Rgb =>
  [0, 1, 2].map(i => top[i]! * top[3] + below[i]! * (1 - top[3])).concat(1) as Rgb
const hex = (c: Rgb) =>
  '#' +
  c
    .slice(0, 3)
    .map(n => Math.round(n).toString(16).padStart(2, '0'))
    .join('')
    .toUpperCase()

/** Relative luminance and contrast as WCAG 2.2 defines them. */
export function luminance([r, g, b]: readonly number[]): number {
  const [x, y, z] = [r!, g!, b!].map(n => {
    const s = n / 255
    return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * x! + 0.7152 * y! + 0.0722 * z!
}
export function contrast(a: readonly number[], b: readonly number[]): number {
  const [x, y] = [luminance(a), luminance(b)].sort((m, n) => n - m)
  return (x! + 0.05) / (y! + 0.05)
}

const parentOf = (n: Node): Element | null => {
  const slot = (n as Element).assignedSlot
  return (
    slot ?? n.parentElement ?? ((n.getRootNode() as ShadowRoot).host as Element | undefined) ?? null
  )
}

/** The key of the element that something stands in: by what a framework drew, or borne by it. */
function keyOf(from: Element, drawn?: ReadonlyMap<Element, string>): string {
  for (let at: Element | null = from; at; at = parentOf(at)) {
    const key = drawn?.get(at) ?? at.getAttribute('data-e')
    if (key) return key
  }
  return ''
}

/**
 * All pairs of letters and ground below a node, through shadow roots, each once. drawn are the
 * keys of what a framework drew, whose elements do not bear theirs.
 */
export function inksOf(root: Element, drawn?: ReadonlyMap<Element, string>): Ink[] {
  const out = new Map<string, Ink>()
  const note = (text: string, from: Element) => {
    const style = getComputedStyle(from)
    const below: Rgb[] = []
    for (let at: Element | null = from; at; at = parentOf(at)) {
      const c = read(getComputedStyle(at).backgroundColor)
      if (c[3] > 0) below.push(c)
      if (c[3] === 1) break
    }
    const ground = below.reduceRight<Rgb>((under, c) => over(c, under), [255, 255, 255, 1])
    const ink = over(read(style.color), ground)
    const px = parseFloat(style.fontSize)
    const large = px >= 24 || (px >= 18.66 && Number(style.fontWeight) >= 700)
    const key = hex(ink) + hex(ground) + large
    const of = keyOf(from, drawn)
    const met = out.get(key)
    if (met) {
      if (of && !met.keys!.includes(of) && met.keys!.length < 50) met.keys!.push(of)
    } else
      out.set(key, {
        keys: of ? [of] : [],
        ink: hex(ink),
        ground: hex(ground),
        ratio: contrast(ink, ground),
        large,
        sample: text.slice(0, 40),
      })
  }
  const visit = (node: Element) => {
    const style = getComputedStyle(node)
    if (style.display === 'none' || style.visibility === 'hidden') return
    // Letters of an element with a shadow stand where their slot is.
    const said =
      node instanceof HTMLInputElement ||
      node instanceof HTMLTextAreaElement ||
      node instanceof HTMLSelectElement
        ? [{ text: written(node), at: node }]
        : [...node.childNodes]
            .filter((c): c is Text => c.nodeType === Node.TEXT_NODE)
            .flatMap(c =>
              node.shadowRoot && !c.assignedSlot
                ? []
                : [{ text: c.data, at: c.assignedSlot ?? node }],
            )
    for (const { text, at } of said)
      if (text.trim() && node.getClientRects().length && !disabled(node)) note(text.trim(), at)
    if (node instanceof HTMLSelectElement) return
    for (const c of node.shadowRoot?.children ?? []) visit(c)
    for (const c of node.children) if (!node.shadowRoot || c.assignedSlot) visit(c)
  }
  visit(root)
  return [...out.values()]
}

/** The letters in an input; boxes, handles and the like show none. */
const written = (input: HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement) =>
  ['checkbox', 'radio', 'range', 'file', 'color'].includes(input.type) ? '' : input.value

/** What cannot be used now needs no contrast (WCAG 2.2, 1.4.3). */
const disabled = (n: Element): boolean => {
  for (let at: Element | null = n; at; at = parentOf(at))
    if ((at as HTMLInputElement).disabled === true) return true
  return false
}
