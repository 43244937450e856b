import type * as t from '@babel/types'
import type { Texts } from './neutral'
import { bare, nameOf } from './values'

const MOST = 20_000
const language = /^[a-z]{2}([-_][a-zA-Z]{2,4})?$/

/** What is exported or handed over as it is, or by functions that only pass it on. */
function objectIn(e: t.Node | null | undefined): t.ObjectExpression | undefined {
  let at = e
  while (at) {
    at = bare(at as t.Expression)
    if (at.type === 'ObjectExpression') return at
    if (at.type !== 'CallExpression' || at.arguments.length !== 1) return undefined
    at = at.arguments[0]
  }
  return undefined
}

/** Texts below an object by their paths; others counts what is no text. */
function gather(o: t.ObjectExpression, prefix: string, into: Map<string, string>): number {
  let others = 0
  for (const p of o.properties) {
    if (p.type === 'SpreadElement') {
      const inside = objectIn(p.argument)
      if (inside) others += gather(inside, prefix, into)
      continue
    }
    if (p.type !== 'ObjectProperty' || (p.computed && p.key.type !== 'StringLiteral')) {
      others++
      continue
    }
    const name = p.key.type === 'NumericLiteral' ? String(p.key.value) : nameOf(p.key)
    const key = prefix ? `${prefix}.${name}` : name
    const value = bare(p.value as t.Expression)
    if (value.type === 'StringLiteral') into.set(key, value.value)
    else if (value.type === 'TemplateLiteral' && value.expressions.length === 0)
      into.set(key, value.quasis[0].value.cooked ?? '')
    else if (value.type === 'ObjectExpression') others += gather(value, key, into)
    else if (value.type !== 'Identifier') others++ // texts of another file stand there as such
    if (into.size > MOST) return Infinity
  }
  return others
}

/**
 * Reads objects that hold texts and hardly anything else: those that a file exports, and those
 * that stand by languages below "messages" or "resources", as they are handed to a translator.
 * Whether they are what keys ask for, the path of the file tells, or the language. Without visit
 * only what is exported is looked at.
 */
export function textsIn(program: t.Program, visit?: Visit): Texts[] {
  const out: Texts[] = []
  const take = (o: t.ObjectExpression | undefined, under: string) => {
    const of = new Map<string, string>()
    if (o && gather(o, '', of) <= of.size / 4 && of.size > 0)
      out.push({ under, of: Object.fromEntries(of) })
  }
  const named = new Map<string, t.ObjectExpression>()
  for (const s of program.body) {
    const d = s.type === 'ExportNamedDeclaration' ? s.declaration : s
    if (d?.type === 'VariableDeclaration')
      for (const v of d.declarations) {
        const o = objectIn(v.init)
        if (!o || v.id.type !== 'Identifier') continue
        named.set(v.id.name, o)
        if (s.type === 'ExportNamedDeclaration') take(o, '')
      }
    if (s.type === 'ExportDefaultDeclaration')
      take(
        s.declaration.type === 'Identifier'
          ? named.get(s.declaration.name)
          : objectIn(s.declaration),
        '',
      )
    if (
      s.type === 'ExpressionStatement' &&
      s.expression.type === 'AssignmentExpression' &&
      nameOf(s.expression.left) === 'exports'
    )
      take(objectIn(s.expression.right), '')
  }
  visit?.(program, n => {
    if (n.type !== 'ObjectProperty' || !/^(messages|resources|translations)$/.test(nameOf(n.key)))
      return true
    const value = bare(n.value as t.Expression)
    const list = value.type === 'Identifier' ? named.get(value.name) : objectIn(value)
    for (const p of list?.properties ?? [])
      if (p.type === 'ObjectProperty' && language.test(nameOf(p.key))) {
        const v = bare(p.value as t.Expression)
        take(v.type === 'Identifier' ? named.get(v.name) : objectIn(v), nameOf(p.key))
      }
    return true
  })
  return out
}

type Visit = (n: t.Node, visit: (n: t.Node) => boolean) => void
