/** What symbols and types say, in words. */
import ts from 'typescript'
import { at, checker } from './program'

/** Types that say nothing of what may stand. */
export const ANYTHING = ts.TypeFlags.Any | ts.TypeFlags.Unknown | ts.TypeFlags.Never

/** More values than these are no choice that a person makes. */
const MOST_VALUES = 40

export const fileOf = (s: ts.Symbol) => s.declarations?.[0]?.getSourceFile().fileName ?? ''
/** What is worked out once for each of what it is worked out from: components share most of theirs. */
function once<K extends object, V>(work: (of: K) => V): (of: K) => V {
  const known = new Map<K, V>()
  return of => {
    if (known.has(of)) return known.get(of)!
    const made = work(of)
    known.set(of, made)
    return made
  }
}
/** Likewise of a symbol: one that a type makes anew says what its one declaration says. */
function onceDeclared<V>(work: (of: ts.Symbol) => V): (of: ts.Symbol) => V {
  const known = new Map<ts.Declaration, V>()
  return of => {
    const [only, other] = of.declarations ?? []
    if (!only || other) return work(of)
    if (!known.has(only)) known.set(only, work(of))
    return known.get(only)!
  }
}
export const docOf = onceDeclared(s =>
  ts
    .displayPartsToString(s.getDocumentationComment(checker))
    .split(/\n\s*\n/)[0]!
    .replace(/\s+/g, ' ')
    .slice(0, 400),
)
const tagsOf = onceDeclared(s => s.getJsDocTags(checker))
export const tagOf = (s: ts.Symbol, ...names: string[]) => {
  const t = tagsOf(s).find(t => names.includes(t.name))
  return t && ts.displayPartsToString(t.text).trim()
}
export const deprecatedOf = (s: ts.Symbol) => {
  const said = tagOf(s, 'deprecated')
  return said === undefined ? undefined : said.split('\n')[0]!.slice(0, 200) || 'Deprecated.'
}
/** An object without a name that has more than these is written with some of them alone. */
const MOST_WRITTEN = 12
const large = (t: ts.Type) =>
  !t.aliasSymbol &&
  !!(t.flags & ts.TypeFlags.Object) &&
  !!((t as ts.ObjectType).objectFlags & (ts.ObjectFlags.Anonymous | ts.ObjectFlags.Mapped)) &&
  checker.getPropertiesOfType(t).length > MOST_WRITTEN
export const textOf = once((t: ts.Type) => {
  const parts = t.isUnionOrIntersection() && !t.aliasSymbol ? t.types : [t]
  return checker.typeToString(
    t,
    at,
    ts.TypeFormatFlags.UseAliasDefinedOutsideCurrentScope |
      (parts.some(large) ? 0 : ts.TypeFormatFlags.NoTruncation),
  )
})

/** Declarations of the frameworks and of the page, which say nothing of a component. */
const FOREIGN =
  /\/node_modules\/(@types\/(react|react-dom|prop-types)|csstype|@vue\/(runtime-core|runtime-dom|reactivity|shared)|vue|@angular\/core|typescript\/lib|lit|lit-element|@lit\/reactive-element|@lit\/task)\/|\/__lib__\//
export const foreign = (s: ts.Symbol) => {
  const files = (s.declarations ?? []).map(d => d.getSourceFile().fileName)
  return files.length > 0 && files.every(f => FOREIGN.test(f))
}

/** What CSS lets stand in any place, and its types list everywhere. */
const ANYWHERE = ['-moz-initial', 'inherit', 'initial', 'revert', 'revert-layer', 'unset']

interface Values {
  values: string[]
  loose: boolean // something else than the values may stand
  yesNo: boolean
  numbers: boolean
}
export const valuesOf = once((type: ts.Type): Values => {
  const out: Values = { values: [], loose: false, yesNo: false, numbers: true }
  const parts = type.isUnion() ? type.types : [type]
  for (const p of parts) {
    if (p.isStringLiteral()) {
      out.values.push(p.value)
      out.numbers = false
    } else if (p.isNumberLiteral()) out.values.push(String(p.value))
    else if (p.flags & ts.TypeFlags.EnumLiteral && 'value' in p) {
      const { value } = p as ts.LiteralType
      out.values.push(String(value))
      if (typeof value === 'string') out.numbers = false
    } else if (p.flags & (ts.TypeFlags.BooleanLiteral | ts.TypeFlags.Boolean)) out.yesNo = true
    else if (!(p.flags & (ts.TypeFlags.Undefined | ts.TypeFlags.Null | ts.TypeFlags.Void)))
      out.loose = true
  }
  out.values = [...new Set(out.values)]
  if (ANYWHERE.every(v => out.values.includes(v)))
    out.values = out.values.filter(v => !ANYWHERE.includes(v))
  if (out.values.length > MOST_VALUES) {
    out.values = []
    out.loose = true
  }
  return out
})

export const calls = (t: ts.Type) => {
  const parts = t.isUnion() ? t.types : [t]
  const real = parts.filter(
    p => !(p.flags & (ts.TypeFlags.Undefined | ts.TypeFlags.Null | ts.TypeFlags.Void)),
  )
  return real.length > 0 && real.every(p => p.getCallSignatures().length > 0)
}
