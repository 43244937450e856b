/** Shows elements as they are under the pointer or with the focus, though they are
 * neither: rules for these states are made to hold for marked elements as well. */
export type State = 'hover' | 'focus'

const reachable =
  'button:not(:disabled), a[href], input:not(:disabled), select, textarea, summary, [tabindex]:not([tabindex="-1"])'
const rewritten = new WeakMap<CSSStyleSheet, CSSStyleSheet>()

/** A selector's text with marks beside the states of the moment. */
export function withMarks(css: string): string {
  return css.replace(
    /:(hover|focus-visible|focus-within|focus)(?![\w-])/g,
    (state, name: string) =>
      `:is(${state},[data-u-${name === 'hover' ? 'hover' : name === 'focus-within' ? 'within' : 'focus'}])`,
  )
}

function marked(sheet: CSSStyleSheet): CSSStyleSheet {
  let out = rewritten.get(sheet)
  if (!out) {
    let text: string
    try {
      text = [...sheet.cssRules].map(r => r.cssText).join('\n')
    } catch {
      return sheet // of another origin
    }
    const next = withMarks(text)
    out = sheet
    if (next !== text) {
      out = new CSSStyleSheet()
      out.replaceSync(next)
    }
    rewritten.set(sheet, out)
    rewritten.set(out, out)
  }
  return out
}

/** The first element in reading order that takes the focus, in shadow trees too. */
function target(root: ParentNode): Element | undefined {
  for (const el of root.querySelectorAll('*')) {
    if (el.matches(reachable)) return el
    const inner = el.shadowRoot && target(el.shadowRoot)
    if (inner) return inner
  }
  return undefined
}

/** Puts what a tile shows into a state. False where nothing in it takes one. */
export function force(screen: Element, state: State): boolean {
  const el = target(screen)
  if (!el) return false
  if (state === 'focus') el.setAttribute('data-u-focus', '')
  for (let at: Element | null = el; at && at !== screen;) {
    at.setAttribute(state === 'hover' ? 'data-u-hover' : 'data-u-within', '')
    const tree = at.getRootNode()
    if (tree instanceof ShadowRoot || tree instanceof Document)
      tree.adoptedStyleSheets = tree.adoptedStyleSheets.map(marked)
    at = at.parentElement ?? (tree instanceof ShadowRoot ? tree.host : null)
  }
  return true
}
