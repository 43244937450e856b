/** Components of Angular. */
import ts from 'typescript'
import { at, checker } from './program'
import { simple } from './props'
import { left, type Entry, type Prop } from './question'
import { calls, deprecatedOf, docOf, fileOf, textOf, valuesOf } from './says'

const literal = (n: ts.Node | undefined): string | undefined =>
  n && ts.isLiteralTypeNode(n) && ts.isStringLiteral(n.literal) ? n.literal.text : undefined

type Arguments = ts.NodeArray<ts.TypeNode>

/** Angular writes into its declarations what its compiler knows: selector, inputs,
 * outputs and places for content, as arguments of the type of a static property. */
export function angular(name: string, type: ts.Type, symbol: ts.Symbol): Entry | undefined {
  const marks = (t: ts.Type): [Arguments, boolean] | undefined => {
    const component = t.getProperty('ɵcmp')
    const def = component ?? t.getProperty('ɵdir')
    const node = def?.valueDeclaration
    if (
      !node ||
      !ts.isPropertyDeclaration(node) ||
      !node.type ||
      !ts.isTypeReferenceNode(node.type)
    )
      return
    return node.type.typeArguments ? [node.type.typeArguments, !!component] : undefined
  }
  const own = marks(type)
  if (!own) return
  const [args] = own
  const selector = literal(args[1])
  if (!selector) return
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
    } else if (v.yesNo) prop.type = 'yes/no'
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
      const select = literal(place)
      if (select) entry.slots.push({ name: select === '*' ? '' : select })
    }
  return entry
}
