/** What settings of a component are where nothing is set, by its code: declarations seldom tell. */
import path from 'node:path'
import ts from 'typescript'
import { codeOf, literal, memberOf, named, standing, type Code } from './code'
import { question, type Prop } from './question'
import { drawings } from './slots'

type Draws = ts.FunctionLikeDeclaration | ts.ClassDeclaration | ts.ClassExpression
const draws = (n: ts.Node): n is Draws =>
  ts.isFunctionDeclaration(n) ||
  ts.isFunctionExpression(n) ||
  ts.isArrowFunction(n) ||
  ts.isClassDeclaration(n) ||
  ts.isClassExpression(n)

const without = (n: ts.Node): ts.Node =>
  ts.isParenthesizedExpression(n) || ts.isAsExpression(n) ? without(n.expression) : n

interface Found {
  code: Code
  is: Draws
  name: string
}

/** What a name of a file stands for, with the name under which it was found at last. */
function meant(code: Code, name: string, depth = 0): Found | undefined {
  if (depth > 6) return
  const [head, part, ...more] = name.split('.')
  const top = standing(code, head!)
  if (!top || more.length) return
  if (!part) return through(top.code, top.is, top.name, depth)
  const of = top.code.parts.get(`${top.name}.${part}`) ?? partOf(top.code, top.is, part)
  return of && through(top.code, of, part, depth)
}

/** A part of what is put together: List of Object.assign(Tabs, { List }) and of { List }. */
function partOf(code: Code, of: ts.Node | undefined, part: string): ts.Expression | undefined {
  const e = of && without(of)
  if (!e) return
  if (ts.isObjectLiteralExpression(e)) return memberOf(e, part)
  if (ts.isCallExpression(e))
    for (const a of e.arguments.slice(1)) {
      const found = ts.isObjectLiteralExpression(a) ? memberOf(a, part) : undefined
      if (found) return found
    }
}

/** The function or class that an expression hands on, wrapped or under another name. */
function through(code: Code, n: ts.Node, name: string, depth: number): Found | undefined {
  const e = without(n)
  if (draws(e)) return { code, is: e, name }
  if (depth > 6) return
  if (ts.isIdentifier(e)) return e.text === name ? undefined : meant(code, e.text, depth + 1)
  if (ts.isCallExpression(e))
    for (const a of e.arguments.slice(0, 2)) {
      if (!draws(without(a)) && !ts.isCallExpression(a) && !ts.isIdentifier(a)) continue
      const found = through(code, a, name, depth + 1)
      if (found) return found
    }
}

/** Takes what a pattern sets where nothing is given: { size = "m" }. */
function ofPattern(p: ts.ObjectBindingPattern, out: Map<string, string>): void {
  for (const e of p.elements) {
    const name = named(e.propertyName ?? e.name)
    const value = literal(e.initializer)
    if (name && value !== undefined && !out.has(name)) out.set(name, value)
  }
}

function ofObject(o: ts.Node | undefined, out: Map<string, string>): void {
  if (!o || !ts.isObjectLiteralExpression(o)) return
  for (const p of o.properties) {
    if (!ts.isPropertyAssignment(p)) continue
    const value = literal(p.initializer)
    if (value !== undefined && !out.has(named(p.name))) out.set(named(p.name), value)
  }
}

/** All names that code speaks of, in a function. */
function spokenOf(n: ts.Node, out = new Set<string>()): Set<string> {
  if (ts.isIdentifier(n)) out.add(n.text)
  ts.forEachChild(n, c => void spokenOf(c, out))
  return out
}

function find<T extends ts.Node>(n: ts.Node, is: (n: ts.Node) => n is T): T | undefined {
  return is(n) ? n : ts.forEachChild(n, c => find(c, is))
}
const usual = (n: ts.Node): n is ts.PropertyAssignment =>
  ts.isPropertyAssignment(n) && named(n.name) === 'defaultVariants'

/** What a property of the settings is read as: props.size, also props['size']. */
function readOf(e: ts.Expression, given: Set<string>): string | undefined {
  if (ts.isPropertyAccessExpression(e) || ts.isElementAccessExpression(e)) {
    if (!ts.isIdentifier(e.expression) || !given.has(e.expression.text)) return
    return ts.isPropertyAccessExpression(e) ? e.name.text : literal(e.argumentExpression)
  }
}

/** Takes what a function sets in its body: const { size = "m" } = props, also of what a call made of
 * them, and as older compilers write it, size = given === void 0 ? "m" : given. */
function ofBody(is: ts.FunctionLikeDeclaration, first: string, out: Map<string, string>): void {
  const given = new Set(first ? [first] : [])
  const held = new Map<string, string>()
  for (const s of is.body && ts.isBlock(is.body) ? is.body.statements : []) {
    if (!ts.isVariableStatement(s)) continue
    for (const d of s.declarationList.declarations) {
      const from = d.initializer
      if (!from) continue
      const prop = readOf(from, given)
      if (prop && ts.isIdentifier(d.name)) held.set(d.name.text, prop)
      else if (ts.isConditionalExpression(from) && ts.isBinaryExpression(from.condition)) {
        const { left, right, operatorToken } = from.condition
        const of = ts.isIdentifier(left) ? held.get(left.text) : readOf(left, given)
        const value = literal(from.whenTrue)
        const unset =
          ts.isVoidExpression(right) || (ts.isIdentifier(right) && right.text === 'undefined')
        if (operatorToken.kind !== ts.SyntaxKind.EqualsEqualsEqualsToken || !unset) continue
        if (of && value !== undefined && !out.has(of)) out.set(of, value)
      } else if ([...spokenOf(from)].some(n => given.has(n))) {
        if (ts.isObjectBindingPattern(d.name)) ofPattern(d.name, out)
        else if (ts.isIdentifier(d.name)) given.add(d.name.text)
      }
    }
  }
}

/** What a function or class of React sets where nothing is given. */
function ofReact(code: Code, is: Draws, name: string): Map<string, string> {
  const out = new Map<string, string>()
  if (ts.isClassDeclaration(is) || ts.isClassExpression(is)) {
    for (const m of is.members)
      if (ts.isPropertyDeclaration(m) && named(m.name) === 'defaultProps')
        ofObject(m.initializer, out)
  } else {
    const first = is.parameters[0]?.name
    if (first && ts.isObjectBindingPattern(first)) ofPattern(first, out)
    ofBody(is, first && ts.isIdentifier(first) ? first.text : '', out)
    // Variants of looks are told beside, in a table with what each is where nothing is said, and so
    // are props, as objects that say what each may be.
    for (const spoken of spokenOf(is)) {
      const of = code.tops.has(spoken) || code.from.has(spoken) ? standing(code, spoken) : undefined
      if (!of) continue
      if (ts.isCallExpression(of.is)) ofObject(find(of.is, usual)?.initializer, out)
      if (!ts.isObjectLiteralExpression(of.is)) continue
      const told = new Map<string, string | undefined>()
      ofOptions(of.code, of.is, told)
      for (const [prop, value] of told)
        if (value !== undefined && !out.has(prop)) out.set(prop, value)
    }
  }
  ofObject(code.parts.get(`${name}.defaultProps`), out)
  return out
}

/** What an object of Vue says of one prop, among others: { type: String, default: "m" }. */
const OF_A_PROP = /^(type|required|default|validator|values)$/
function ofOptions(code: Code, n: ts.Node, out: Map<string, string | undefined>, depth = 0): void {
  // ...common, ...makeCommon({ size: "m" })
  const call = ts.isSpreadAssignment(n) ? n.expression : n
  const spoken = ts.isCallExpression(call) ? call.expression : call
  if (
    (ts.isSpreadAssignment(n) || ts.isCallExpression(n)) &&
    ts.isIdentifier(spoken) &&
    depth < 5
  ) {
    const said = new Map<string, string>()
    if (ts.isCallExpression(call)) ofObject(call.arguments[0], said)
    for (const [name, value] of said) if (!out.has(name)) out.set(name, value)
    const of = standing(code, spoken.text)
    if (of && of.is !== n && !draws(of.is)) {
      const more = new Map<string, string | undefined>()
      ofOptions(of.code, of.is, more, depth + 1)
      for (const [name, value] of more) if (!out.has(name)) out.set(name, value)
    }
  }
  if (ts.isPropertyAssignment(n) && ts.isObjectLiteralExpression(n.initializer)) {
    const usual = memberOf(n.initializer, 'default')
    const typed = !!memberOf(n.initializer, 'type')
    if (usual && (typed || n.initializer.properties.every(p => OF_A_PROP.test(named(p.name))))) {
      const name = named(n.name)
      const value = literal(usual)
      // Two of a name in one file: whose is whose is not looked into.
      out.set(name, out.has(name) && out.get(name) !== value ? undefined : value)
      return
    }
  }
  // mergeDefaults(props, { size: "m" })
  if (
    ts.isCallExpression(n) &&
    ts.isIdentifier(n.expression) &&
    /Defaults\b/.test(n.expression.text)
  )
    for (const a of n.arguments.slice(1)) {
      const given = new Map<string, string>()
      ofObject(a, given)
      for (const [name, value] of given) if (!out.has(name)) out.set(name, value)
    }
  ts.forEachChild(n, c => void ofOptions(code, c, out, depth))
}

const letters = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '')
/** The object that says of itself that it is a component, in a file with many: of what ends with its
 * name what has the least before it, AcButton and not AcSplitButton. */
function optionsOf(n: ts.Node, name: string): ts.ObjectLiteralExpression | undefined {
  let best: ts.ObjectLiteralExpression | undefined
  let least = Infinity
  const look = (n: ts.Node): void => {
    if (ts.isObjectLiteralExpression(n) && n.properties.some(p => named(p.name) === 'props')) {
      const said = letters(literal(memberOf(n, 'name')) ?? literal(memberOf(n, '__name')) ?? '')
      if (said.endsWith(letters(name)) && said.length < least) {
        best = n
        least = said.length
      }
    }
    ts.forEachChild(n, look)
  }
  look(n)
  return best
}

/** What a component of Vue sets where nothing is given: by what it says of itself, by all that its own
 * file and those beside it that it imports say of props. */
function ofVue(
  code: Code,
  name: string,
  own: boolean,
): Map<string, string | undefined> | undefined {
  const out = new Map<string, string | undefined>()
  const options = optionsOf(code.source, name)
  const props = options && memberOf(options, 'props')
  const said =
    props && ts.isIdentifier(props) ? standing(code, props.text) : props && { code, is: props }
  if (said) {
    ofOptions(said.code, said.is, out)
    return out
  }
  if (!own) return
  const files = [code]
  for (const s of code.source.statements) {
    const from = ts.isImportDeclaration(s) && s.moduleSpecifier
    if (!from || !ts.isStringLiteral(from) || !/^\.\/[\w.-]+$/.test(from.text)) continue
    const base = path.join(path.dirname(code.file), from.text)
    const more = codeOf(base) ?? codeOf(base + '.js') ?? codeOf(base + '.mjs')
    if (more && files.length < 9) files.push(more)
  }
  for (const f of files) ofOptions(f, f.source, out, 9)
  return out
}

/** Whether a value may be what a prop is: others are of another of the same name. */
const fits = (p: Prop, value: string) =>
  p.type === 'choice'
    ? !!p.open || !!p.values?.includes(value)
    : p.type === 'yes/no'
      ? value === 'true' || value === 'false'
      : p.type === 'number'
        ? value !== '' && Number.isFinite(Number(value))
        : p.type === 'text' && value !== ''

const entries = new Map<string, string[]>()
/** The modules that a package gives under a specifier, as its package.json says. */
function modulesOf(declared: string): string[] {
  let root = path.dirname(declared)
  while (!ts.sys.fileExists(path.join(root, 'package.json'))) {
    if (root === path.dirname(root)) return []
    root = path.dirname(root)
  }
  let out = entries.get(root)
  if (out) return out
  entries.set(root, (out = []))
  const all = new Set<string>()
  const collect = (v: unknown) => {
    if (typeof v === 'string' && /\.m?js$/.test(v)) all.add(v)
    else if (v && typeof v === 'object')
      for (const [key, of] of Object.entries(v))
        if (!/^(types|require|node)$/.test(key)) collect(of)
  }
  try {
    const said = JSON.parse(ts.sys.readFile(path.join(root, 'package.json')) ?? '{}')
    collect(said.exports)
    collect(said.module)
    collect(said.main)
  } catch {
    return out
  }
  for (const f of [...all].slice(0, 40)) {
    const file = path.join(root, f)
    if (file.startsWith(root + path.sep)) out.push(file)
  }
  return out
}

/** Fills in what props of a component are where nothing is set, as far as its code says so. */
export function usualOf(symbol: ts.Symbol, name: string, props: Prop[]): void {
  const open = props.filter(p => p.default === undefined && p.type !== 'data')
  const declared = symbol.declarations?.[0]?.getSourceFile().fileName
  if (!open.length || !declared) return
  const own = drawings(symbol, name)
  for (const file of new Set([...own, ...modulesOf(declared)])) {
    const code = codeOf(file)
    if (!code) continue
    const said =
      question.drawn === 'vue' ? ofVue(code, name, own.includes(file)) : inReact(code, symbol, name)
    if (!said) continue
    for (const p of open) {
      const value = said.get(p.name)
      if (value !== undefined && fits(p, value)) p.default = value
    }
    return
  }
}

function inReact(code: Code, symbol: ts.Symbol, name: string): Map<string, string> | undefined {
  const found = meant(code, name) ?? meant(code, symbol.name)
  return found && ofReact(found.code, found.is, found.name)
}
