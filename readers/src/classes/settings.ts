/**
 * Reads settings of classes without running them: objects, lists, texts and numbers are what is
 * written; what code would have to compute is left out and said.
 */
import { parse } from '@babel/parser'
import type * as t from '@babel/types'
import colors from 'tailwindcss/colors'
import defaults from 'tailwindcss/defaultTheme'

/** What could not be read. */
const unknown = Symbol('unknown')

/** Functions of settings that ask for other settings: theme('spacing.4'). */
type Value = unknown

const known: Record<string, Value> = {
  'tailwindcss/colors': colors,
  'tailwindcss/defaultTheme': defaults,
}

export function settings(
  file: string,
  read: (file: string) => string,
  say: (what: string) => void,
): object {
  const source = read(file)
  const program = parse(source, {
    sourceType: 'unambiguous',
    errorRecovery: true,
    plugins: ['typescript'],
  }).program
  const names = new Map<string, t.Node | { module: Value }>()
  const short = file.split('/').pop()
  const left = (what: string, n: t.Node): typeof unknown => {
    say(`${short}:${n.loc?.start.line}: ${what} is code, and is not run`)
    return unknown
  }

  function member(of: Value, key: Value): Value {
    if (of === unknown || key === unknown || of === null || of === undefined) return unknown
    return (of as Record<string, Value>)[String(key)] ?? unknown
  }

  function value(n: t.Node, depth = 0): Value {
    if (depth > 60) return unknown
    const down = (m: t.Node) => value(m, depth + 1)
    switch (n.type) {
      case 'StringLiteral':
      case 'NumericLiteral':
      case 'BooleanLiteral':
        return n.value
      case 'NullLiteral':
        return null
      case 'TemplateLiteral': {
        const parts = n.expressions.map(e => down(e))
        if (parts.includes(unknown)) return left('a text', n)
        return n.quasis
          .map((q, i) => (q.value.cooked ?? '') + (i < parts.length ? String(parts[i]) : ''))
          .join('')
      }
      case 'UnaryExpression': {
        const of = down(n.argument)
        return n.operator === '-' && typeof of === 'number'
          ? -of
          : n.operator === '!'
            ? !of
            : unknown
      }
      case 'BinaryExpression': {
        const [a, b] = [down(n.left), down(n.right)]
        if (a === unknown || b === unknown) return unknown
        if (n.operator === '+') return (a as string) + (b as string)
        return unknown
      }
      case 'ArrayExpression':
        return n.elements.flatMap(e => {
          if (!e) return []
          if (e.type === 'SpreadElement') {
            const of = down(e.argument)
            return Array.isArray(of) ? of : []
          }
          const one = down(e)
          return one === unknown ? [] : [one]
        })
      case 'ObjectExpression': {
        const out: Record<string, Value> = {}
        for (const p of n.properties) {
          if (p.type === 'SpreadElement') {
            const of = down(p.argument)
            if (of && typeof of === 'object') Object.assign(out, of)
            continue
          }
          if (p.type !== 'ObjectProperty') {
            left('what is called ' + ('name' in p.key ? p.key.name : 'so'), p)
            continue
          }
          const key = p.computed
            ? down(p.key)
            : p.key.type === 'Identifier'
              ? p.key.name
              : down(p.key)
          if (key === unknown || key === '__proto__') continue
          const one = down(p.value)
          if (one !== unknown) out[String(key)] = one
        }
        return out
      }
      case 'TSAsExpression':
      case 'TSSatisfiesExpression':
      case 'TSNonNullExpression':
      case 'ParenthesizedExpression':
        return down(n.expression)
      case 'Identifier': {
        const to = names.get(n.name)
        if (!to) return n.name === 'undefined' ? undefined : left(n.name, n)
        return 'module' in to ? to.module : down(to)
      }
      case 'MemberExpression': {
        const key = n.computed
          ? down(n.property)
          : n.property.type === 'Identifier'
            ? n.property.name
            : unknown
        return member(down(n.object), key)
      }
      case 'CallExpression': {
        const called = n.callee.type === 'Identifier' ? n.callee.name : ''
        const first = n.arguments[0]
        if (called === 'require' && first?.type === 'StringLiteral') {
          const module = known[first.value]
          return module ?? left(`"${first.value}"`, n)
        }
        // What only hands on what it is given: defineConfig({ … }), withTheme({ … }).
        if (first?.type === 'ObjectExpression') {
          if (called !== 'defineConfig') left(`${called || 'a function'}()`, n)
          return down(first)
        }
        return left(`${called || 'a function'}()`, n)
      }
      default:
        return left('a value', n)
    }
  }

  let settingsAt: t.Node | undefined
  for (const s of program.body) {
    if (s.type === 'ImportDeclaration')
      for (const i of s.specifiers)
        names.set(i.local.name, {
          module:
            known[s.source.value] === undefined
              ? unknown
              : i.type === 'ImportSpecifier'
                ? member(
                    known[s.source.value],
                    i.imported.type === 'Identifier' ? i.imported.name : i.imported.value,
                  )
                : known[s.source.value],
        })
    if (s.type === 'VariableDeclaration')
      for (const d of s.declarations) {
        if (d.id.type === 'Identifier' && d.init) names.set(d.id.name, d.init)
        if (d.id.type === 'ObjectPattern' && d.init) {
          const of = value(d.init)
          for (const p of d.id.properties)
            if (
              p.type === 'ObjectProperty' &&
              p.key.type === 'Identifier' &&
              p.value.type === 'Identifier'
            )
              names.set(p.value.name, { module: member(of, p.key.name) })
        }
      }
    if (s.type === 'ExportDefaultDeclaration') settingsAt = s.declaration
    if (
      s.type === 'ExpressionStatement' &&
      s.expression.type === 'AssignmentExpression' &&
      s.expression.left.type === 'MemberExpression' &&
      source.slice(s.expression.left.start!, s.expression.left.end!) === 'module.exports'
    )
      settingsAt = s.expression.right
  }
  const out = settingsAt ? value(settingsAt) : unknown
  if (!out || typeof out !== 'object') {
    say(`${short}: no settings were found that are written out`)
    return {}
  }
  const { content: _, plugins: __, presets: ___, ...rest } = out as Record<string, Value>
  if (Array.isArray(___) && ___.length) say(`${short}: presets are code, and are not run`)
  return { ...rest, content: [] }
}
