/** Makes a kit's style sheet hold for tiles: what it says to the page as a whole it says to
 * each tile as well, and what it says for a dark system it says to dark tiles. So light
 * and dark stand side by side, whatever the system wishes. */

/** Properties that a page has and a tile does not take over. */
const pageOnly = [
  'height',
  'min-height',
  'overflow',
  'overflow-x',
  'overflow-y',
  'position',
  'margin',
  'padding',
  'width',
  'min-width',
]

const page = /(^|[\s,>+~(])(:root|html|body|:host)(?![\w-])/

/** A selector with tiles beside the page: "html.dark a" is "html.dark a, .u-screen.dark a". */
export function forTiles(selector: string): string {
  // A sheet of one theme says it to the page and to whoever asks for that theme: tiles ask.
  const themed = splitList(selector).some(part => /dark/i.test(part))
  const parts = splitList(selector).filter(part => !themed || !/^(:root|html|:host)$/.test(part))
  const out: string[] = []
  for (const part of parts) {
    out.push(part)
    if (!page.test(part)) continue
    let tile = part
    for (let n = 0; page.test(tile) && n < 6; n++) tile = tile.replace(page, '$1.u-screen')
    // Of "html body" one tile is left.
    tile = tile.replace(/\.u-screen([^\s>]*)\s*>?\s*\.u-screen/g, '.u-screen$1')
    if (!out.includes(tile)) out.push(tile)
  }
  return out.join(', ')
}

/** A selector below dark tiles alone. */
export function whereDark(selector: string): string {
  return splitList(forTiles(selector))
    .filter(part => !page.test(part))
    .map(part =>
      part.includes('.u-screen')
        ? part.replace('.u-screen', '.u-screen[data-theme~="dark"]')
        : `.u-screen[data-theme~="dark"] ${part}`,
    )
    .join(', ')
}

/** The parts of a list of selectors; commas in brackets part nothing. */
export function splitList(selector: string): string[] {
  const out: string[] = []
  let depth = 0
  let quote = ''
  let from = 0
  for (let i = 0; i < selector.length; i++) {
    const c = selector[i]!
    if (quote) {
      if (c === '\\') i++
      else if (c === quote) quote = ''
    } else if (c === '"' || c === "'") quote = c
    else if (c === '(' || c === '[') depth++
    else if (c === ')' || c === ']') depth--
    else if (c === ',' && depth === 0) {
      out.push(selector.slice(from, i).trim())
      from = i + 1
    }
  }
  out.push(selector.slice(from).trim())
  return out.filter(Boolean)
}

const prefersDark = /prefers-color-scheme:\s*dark/
const prefersLight = /prefers-color-scheme:\s*light/

function rewrite(rules: CSSRuleList, dark: boolean): string {
  let out = ''
  for (const rule of rules) {
    if (rule instanceof CSSStyleRule) {
      const own = dark ? whereDark(rule.selectorText) : forTiles(rule.selectorText)
      if (!own) continue
      const inner = rule.cssText.slice(rule.cssText.indexOf('{'))
      const dropped = splitList(rule.selectorText).some(part => !splitList(own).includes(part))
      if (dark || dropped || own === rule.selectorText || !page.test(rule.selectorText)) {
        out += `${own} ${inner}\n`
        continue
      }
      // What fits the page alone stays with it; the rest goes to tiles, too.
      out += `${rule.selectorText} ${inner}\n`
      const tiles = splitList(own).filter(p => !splitList(rule.selectorText).includes(p))
      const kept = [...rule.style]
        .filter(name => !pageOnly.includes(name) && !/^(margin|padding|overflow)-/.test(name))
        .map(
          name =>
            `${name}:${rule.style.getPropertyValue(name)}${rule.style.getPropertyPriority(name) ? '!important' : ''}`,
        )
      if (kept.length && tiles.length) out += `${tiles.join(', ')} {${kept.join(';')}}\n`
    } else if (rule instanceof CSSMediaRule && prefersDark.test(rule.conditionText)) {
      out += rewrite(rule.cssRules, true)
    } else if (rule instanceof CSSMediaRule && prefersLight.test(rule.conditionText)) {
      out += rewrite(rule.cssRules, dark)
    } else if (rule instanceof CSSGroupingRule) {
      out += `${rule.cssText.slice(0, rule.cssText.indexOf('{'))}{\n${rewrite(rule.cssRules, dark)}}\n`
    } else out += rule.cssText + '\n'
  }
  return out
}

/** A sheet's text as tiles take it. */
export function tileSheet(text: string): CSSStyleSheet {
  const read = new CSSStyleSheet()
  read.replaceSync(text)
  if (!page.test(text) && !prefersDark.test(text)) return read
  const out = new CSSStyleSheet()
  out.replaceSync(rewrite(read.cssRules, false))
  return out
}
