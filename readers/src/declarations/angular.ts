/** Components of Angular. */
import ts from 'typescript'
import { at, checker } from './program'
import { simple } from './props'
import { left, type Entry, type Prop } from './question'
import { calls, deprecatedOf, docOf, fileOf, textOf, valuesOf } from './says'

const literal = (n: ts.Node | undefined): string | undefined =>
  n && ts.isLiteralTypeNode(n) && ts.isStringLiteral(n.literal) ? n.literal.text : undefined

type Arguments = ts.NodeArray<ts.TypeNode>

/** The arguments of the type of a static property, in which the compiler says what it knows. */
const told = (t: ts.Type, property: string): Arguments | undefined => {
  const node = t.getProperty(property)?.valueDeclaration
  if (node && ts.isPropertyDeclaration(node) && node.type && ts.isTypeReferenceNode(node.type))
    return node.type.typeArguments
  return
}

/** NgModules by the classes that they give to those who take them, of one module of code. */
const within = new Map<ts.Symbol, string>()

/** Classes that a module of code gives. */
const classes = new Set<ts.Symbol>()

/** Tells whether a value is a class that is given beside it, under another name: code knows both by one selector. */
export const renamed = (s: ts.Symbol, type: ts.Type) =>
  !!type.symbol && type.symbol !== s && classes.has(type.symbol)

/** Looks which of what a module of code gives are NgModules, and what they give in turn. */
export function modules(given: ts.Symbol[]) {
  within.clear()
  classes.clear()
  for (const s of given) {
    const target = s.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(s) : s
    if (!(target.flags & ts.SymbolFlags.Class)) continue
    classes.add(target)
    const list = told(checker.getTypeOfSymbolAtLocation(target, at), 'ɵmod')?.[3]
    if (!list || !ts.isTupleTypeNode(list)) continue
    for (const of of list.elements) {
      const name = ts.isTypeQueryNode(of) && checker.getSymbolAtLocation(of.exprName)
      if (!name) continue
      const cls = name.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(name) : name
      if (!within.has(cls)) within.set(cls, s.name)
    }
  }
}

/** The ways of a selector with those first that bear the component's own name: of
 * "ac-plain-chip, ac-chip" for AcChip the second. */
function byName(selector: string, name: string): string {
  const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')
  const own = [name, name.replace(/(Component|Directive)$/, '')].map(plain)
  const ways = selector.split(/,(?![^(]*\))/).map(way => way.trim().replace(/\s+/g, ' '))
  const rank = (way: string) => {
    const [tag = '', attribute = ''] = /^([\w-]*)(?:\[([\w-]+)\])?/.exec(way)?.slice(1) ?? []
    return own.includes(plain(attribute || tag)) ? 0 : 1
  }
  return ways
    .filter(Boolean)
    .sort((a, b) => rank(a) - rank(b))
    .join(', ')
}

/** What is there or not by its name alone: older libraries declare it as anything. */
const flags =
  /^(visible|open|opened|shown|expanded|collapsed|disabled|readonly|required|checked|selected|loading|modal|closable)$/i

/** Elements of HTML that nothing stands in. */
const EMPTY = /^(area|br|col|embed|hr|img|input|source|track|wbr|textarea|ng-template)\b/

/** Angular writes into its declarations what its compiler knows: selector, inputs,
 * outputs and places for content, as arguments of the type of a static property. */
export function angular(name: string, type: ts.Type, symbol: ts.Symbol): Entry | undefined {
  const marks = (t: ts.Type): [Arguments, boolean] | undefined => {
    const component = told(t, 'ɵcmp')
    const args = component ?? told(t, 'ɵdir')
    return args && [args, !!component]
  }
  const own = marks(type)
  if (!own) return
  const [args, component] = own
  const said = literal(args[1])
  if (!said) return
  const selector = byName(said, name)
  const instance = checker.getDeclaredTypeOfSymbol(symbol)
  const chain = [args]
  const up = (t: ts.Type | undefined) =>
    t?.symbol && t.symbol.flags & ts.SymbolFlags.Class
      ? checker.getBaseTypes(((t as ts.TypeReference).target ?? t) as ts.InterfaceType)[0]
      : undefined
  for (let base = up(instance), n = 0; base && n < 16; base = up(base), n++) {
    const above = base.symbol && marks(checker.getTypeOfSymbolAtLocation(base.symbol, at))
    if (above && !chain.includes(above[0])) chain.push(above[0])
  }
  const members = (i: number) =>
    chain.flatMap(a => {
      const node = a[i]
      return node && ts.isTypeLiteralNode(node) ? [...node.members] : []
    })
  const entry: Entry = {
    export: name,
    class: name,
    selector,
    summary: docOf(symbol),
    deprecated: deprecatedOf(symbol),
    props: [],
    slots: [],
    events: [],
  }
  const key = (m: ts.TypeElement) =>
    m.name && (ts.isStringLiteral(m.name) || ts.isIdentifier(m.name)) ? m.name.text : ''
  for (const m of members(3)) {
    const field = key(m)
    const info = (m as ts.PropertySignature).type
    let alias = literal(info)
    let required = false
    if (info && ts.isTypeLiteralNode(info))
      for (const x of info.members) {
        const t = (x as ts.PropertySignature).type
        if (key(x) === 'alias') alias = literal(t)
        if (key(x) === 'required') required = t?.getText().trim() === 'true'
      }
    const symbolOf = instance.getProperty(field)
    let t = symbolOf && checker.getTypeOfSymbolAtLocation(symbolOf, at)
    if (t && /Signal(WithTransform)?</.test(textOf(t)))
      t = t.aliasTypeArguments?.[0] ?? checker.getTypeArguments(t as ts.TypeReference)[0] ?? t
    const v = t ? valuesOf(t) : { values: [], loose: true, yesNo: false, numbers: false }
    const prop: Prop = {
      name: alias || field,
      type: 'text',
      from: 'types',
      declared: symbolOf && fileOf(symbolOf),
      summary: (symbolOf && docOf(symbolOf)) || undefined,
      deprecated: symbolOf && deprecatedOf(symbolOf),
      required: required || undefined,
    }
    if (t && calls(checker.getNonNullableType(t))) {
      left.push({ where: name, what: `only code can give ${prop.name}: a function` })
      continue
    }
    if (v.values.length > 1) {
      prop.type = 'choice'
      prop.values = v.values
      prop.numbers = v.numbers || undefined
      prop.open = v.loose || undefined
    } else if (v.yesNo || (t && t.flags & ts.TypeFlags.Any && flags.test(prop.name)))
      prop.type = 'yes/no'
    else if (t) {
      prop.type = simple(checker.getNonNullableType(t))
      prop.shape = textOf(t).slice(0, 200)
    }
    if (!entry.props.some(p => p.name === prop.name)) entry.props.push(prop)
  }
  for (const m of members(4)) {
    const event = literal((m as ts.PropertySignature).type)
    if (event && !entry.events.some(e => e.name === event)) entry.events.push({ name: event })
  }
  const places = args[6]
  if (places && ts.isTupleTypeNode(places))
    for (const place of places.elements) {
      const select = literal(place)?.trim().replace(/\s+/g, ' ')
      if (select) entry.slots.push({ name: select === '*' ? '' : select })
    }
  // A directive draws nothing itself: what stands in its element stays there.
  if (!component && !EMPTY.test(selector.trim())) entry.slots.push({ name: '' })
  const alone = args[7]
  const standalone =
    !!alone && ts.isLiteralTypeNode(alone) && alone.literal.kind === ts.SyntaxKind.TrueKeyword
  if (!standalone) {
    entry.brings = within.get(symbol)
    if (!entry.brings)
      left.push({
        where: name,
        what: 'it cannot be taken alone, and no NgModule beside it gives it: code that is delivered will not compile with it',
      })
  }
  return entry
}
