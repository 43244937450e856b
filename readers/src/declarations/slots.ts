/** The places that a component of Vue has by its code, where its declaration leaves them open. */
import path from 'node:path'
import ts from 'typescript'
import { checker } from './program'
import type { Named } from './question'

/** Code above this many letters holds more than one component. */
const MOST = 200_000

const code = (file: string) => {
  const text = ts.sys.fileExists(file) ? ts.sys.readFile(file) : undefined
  return text && text.length <= MOST ? text : undefined
}

/** The code that a declaration file speaks of, beside it. */
function beside(file: string): { file: string; text: string } | undefined {
  const base = file.replace(/(\.vue)?\.d\.[cm]?ts$/, '')
  for (const end of ['.js', '.mjs', '.vue.js', '.vue.mjs', '.vue2.js', '.vue2.mjs']) {
    const text = code(base + end)
    if (text !== undefined) return { file: base + end, text }
  }
}

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '')
const HANDED =
  /\bimport\s+(\w+)\s+from\s*["'](\.[^"']+)["']|\bexport\s*\{[^}]*\}\s*from\s*["'](\.[^"']+)["']/g

/** The file that another hands a component on from: what it is imported as, or what the file is called,
 * says the most of the component's name. */
function handed(text: string, name: string): string | undefined {
  const of = plain(name)
  let best: string | undefined
  let most = 2
  for (const [, imported = '', from, again] of text.matchAll(HANDED)) {
    const file = from ?? again!
    for (const said of [plain(imported), plain(path.basename(file).replace(/\..*$/, ''))])
      if (said.length > most && of.endsWith(said)) {
        best = file
        most = said.length
      }
  }
  return best
}

const named = new Map<string, Map<string, string>>()
/** The file of a package that is called as a component is, wherever it stands: declarations may have a
 * folder of their own. */
function called(declared: string, name: string): { file: string; text: string } | undefined {
  let root = path.dirname(declared)
  while (!ts.sys.fileExists(path.join(root, 'package.json'))) {
    if (root === path.dirname(root)) return
    root = path.dirname(root)
  }
  let files = named.get(root)
  if (!files) {
    named.set(root, (files = new Map()))
    for (const f of ts.sys.readDirectory(
      root,
      ['.js', '.mjs'],
      ['**/node_modules'],
      undefined,
      8,
    )) {
      const is = plain(path.basename(f).replace(/\..*$/, ''))
      if (!files.has(is)) files.set(is, f)
    }
  }
  const file = files.get(plain(name))
  const text = file && code(file)
  return text ? { file: file!, text } : undefined
}

/** The files that may hold a component's code, the likeliest first. */
export function drawings(symbol: ts.Symbol, name: string): string[] {
  const declared = symbol.declarations?.[0]?.getSourceFile().fileName
  if (!declared) return []
  const [head, ...rest] = name.split('.')
  const found = [
    beside(declared),
    called(declared, name.replaceAll('.', '')),
    called(declared, head!),
  ]
  if (rest.length) found.push(called(declared, rest.at(-1)!))
  return [...new Set(found.flatMap(f => (f ? [f.file] : [])))]
}

/** The code that draws a component: beside its declaration, or where that hands it on from. */
function drawing(symbol: ts.Symbol, name: string): string | undefined {
  const is = symbol.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(symbol) : symbol
  const declared = is.declarations?.[0]?.getSourceFile().fileName
  let at = declared ? (beside(declared) ?? called(declared, name)) : undefined
  for (let depth = 0; at && depth < 3; depth++) {
    const from = handed(at.text, name)
    const next = from && path.join(path.dirname(at.file), from)
    const text = next ? (code(next) ?? code(next + '.js') ?? code(next + '.mjs')) : undefined
    // What a component of a single file imports by its own name is its other half.
    if (!next || text === undefined || SLOT.test(at.text) || HELPED.test(at.text)) break
    at = { file: next, text }
  }
  SLOT.lastIndex = 0
  return at?.text
}

const SLOT =
  /(?<![\w/.-])(?:\w+\.)?\$?slots\d*\)?\s*(?:\?\.|\.|,\s*["']|\[["'])\s*([A-Za-z_][\w:-]*)/g
/** A helper that draws what stands there, else what a setting says: renderContent("default"). */
const HELPED = /\b\w*(?:render|slot|content|node)\w*\(\s*["']default["']/i
const METHODS =
  /^(value|length|concat|map|filter|forEach|includes|hasOwnProperty|indexOf|call|apply)$/

/** All of the places handed on to what a component is drawn by. */
const HANDS_ON = /\b_?(?:createVNode|createBlock|h)\([^;]*?,\s*(?:\w+\.)?\$?slots\s*\)/

/** The places of a component by its code; none where there is no code of its own beside its declaration. */
export function slotsInCode(symbol: ts.Symbol, name: string): Named[] {
  const names = new Set<string>()
  const text = drawing(symbol, name) ?? ''
  for (const [, slot] of text.matchAll(SLOT))
    if (!METHODS.test(slot!)) names.add(slot === 'default' ? '' : slot!)
  if (HANDS_ON.test(text) || HELPED.test(text)) names.add('')
  return [...names].sort().map(n => ({ name: n }))
}
