/** What a library itself gives to components that need it. */
import ts from 'typescript'
import { at, checker, moduleSymbol } from './program'
import type { Entry } from './question'
import { ANYTHING } from './says'

/** What a component that provides cannot do without may be what the library itself gives: values of
 * just that type. */
export function handed(e: Entry, symbol: ts.Symbol) {
  const needs = e.props.filter(p => p.required && p.type === 'data')
  if (!needs.length) return
  const type = checker.getTypeOfSymbolAtLocation(symbol, at)
  const first = type.getCallSignatures().at(-1)?.parameters[0]
  const settings = first && checker.getTypeOfSymbolAtLocation(first, at)
  for (const p of needs) {
    const wants = settings?.getProperty(p.name)
    const wanted = wants && checker.getNonNullableType(checker.getTypeOfSymbolAtLocation(wants, at))
    // What takes anything with anything in it is no sign.
    if (!wanted || wanted.flags & ANYTHING || wanted.getProperties().length < 3) continue
    const given = values().filter(v => checker.isTypeAssignableTo(v.type, wanted))
    if (given.length) p.given = given.slice(0, 8).map(v => v.name)
  }
}

/** What the modules give that is neither a component nor a function. */
function values() {
  const out: { name: string; type: ts.Type }[] = []
  for (const m of moduleSymbol ? checker.getExportsOfModule(moduleSymbol) : []) {
    const target = m.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(m) : m
    if (!(target.flags & ts.SymbolFlags.Module)) continue
    for (const e of checker.getExportsOfModule(target)) {
      const s = e.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(e) : e
      if (!(s.flags & ts.SymbolFlags.Variable)) continue
      const type = checker.getTypeOfSymbolAtLocation(s, at)
      const code = type.getCallSignatures().length || type.getConstructSignatures().length
      if (!code && !(type.flags & ANYTHING)) out.push({ name: e.name, type })
    }
  }
  return out
}
