import { parseExpression } from '@babel/parser'
import type * as t from '@babel/types'
import { clipped, type Value } from './neutral'

/** What constants of a file hold, by name; "of" are objects with constants in them. */
export interface Known {
  values: Map<string, string[]>
  of: Map<string, Map<string, string>>
}
export const nothingKnown = (): Known => ({ values: new Map(), of: new Map() })

/** Functions that give a text by its key, by the name they are called under. */
const translators = new Set([
  't',
  '$t',
  'tc',
  '$tc',
  'translate',
  'formatMessage',
  'gettext',
  '__',
  'instant',
  'trans',
])
const translating = new Set(['translate', 'transloco', 't', 'i18n'])

type Expression = t.Expression | t.JSXEmptyExpression | t.PrivateName | t.SpreadElement

export function bare(e: Expression): Expression {
  while (
    e.type === 'TSAsExpression' ||
    e.type === 'TSSatisfiesExpression' ||
    e.type === 'TSNonNullExpression' ||
    e.type === 'ParenthesizedExpression' ||
    e.type === 'TSTypeAssertion'
  )
    e = e.expression
  return e
}

export const nameOf = (n: t.Node | null | undefined): string => {
  if (!n) return ''
  switch (n.type) {
    case 'Identifier':
    case 'JSXIdentifier':
      return n.name
    case 'StringLiteral':
      return n.value
    case 'MemberExpression':
    case 'OptionalMemberExpression':
      return n.computed ? '' : nameOf(n.property)
    default:
      return ''
  }
}

/** The key of a text, where an expression asks for one by it. */
function keyOf(e: Expression): string {
  if (e.type === 'CallExpression' || e.type === 'OptionalCallExpression') {
    const callee = e.callee as t.Expression
    if (!translators.has(nameOf(callee))) return ''
    const first = e.arguments[0]
    if (first?.type === 'StringLiteral') return first.value
    if (first?.type === 'TemplateLiteral' && first.expressions.length === 0)
      return first.quasis[0].value.cooked ?? ''
    if (first?.type === 'ObjectExpression')
      for (const p of first.properties)
        if (
          p.type === 'ObjectProperty' &&
          nameOf(p.key) === 'id' &&
          p.value.type === 'StringLiteral'
        )
          return p.value.value
  }
  // A pipe, in Angular's templates, reads as a bitwise or.
  if (e.type === 'BinaryExpression' && e.operator === '|') {
    const pipe = bare(e.right)
    const key = bare(e.left as Expression)
    if (translating.has(nameOf(pipe as t.Node)) && key.type === 'StringLiteral') return key.value
  }
  return ''
}

/** The words that stand where no text has the key: t('save', 'Save'), { defaultMessage: 'Save' }. */
function otherwiseOf(e: Expression): string {
  if (e.type !== 'CallExpression' && e.type !== 'OptionalCallExpression') return ''
  // Of others than these a second text is no words: where the texts are, or their language.
  const words = /^\$?t$/.test(nameOf(e.callee as t.Expression))
  for (const a of e.arguments.slice(0, 2)) {
    if (words && a.type === 'StringLiteral' && a !== e.arguments[0] && a.value.length > 2)
      return a.value
    if (a.type !== 'ObjectExpression') continue
    for (const p of a.properties)
      if (
        p.type === 'ObjectProperty' &&
        ['defaultMessage', 'defaultValue', 'default'].includes(nameOf(p.key)) &&
        p.value.type === 'StringLiteral'
      )
        return p.value.value
  }
  return ''
}

/** Reads an expression: what is written there, where that can be known. */
export function valueOf(whole: Expression, source: string, known: Known, shift = 0): Value {
  const e = bare(whole)
  const at: [number, number] = [(e.start ?? 0) + shift, (e.end ?? 0) + shift]
  const text = () => clipped(source.slice(e.start ?? 0, e.end ?? 0))
  const one = (values: string[]): Value => ({
    kind: 'one',
    value: text(),
    values: [...new Set(values)],
  })
  switch (e.type) {
    case 'StringLiteral':
      return { kind: 'text', value: e.value, form: 'script', at }
    case 'TemplateLiteral':
      if (e.expressions.length === 0)
        return { kind: 'text', value: e.quasis[0].value.cooked ?? '', form: 'script', at }
      break
    case 'NumericLiteral':
      return { kind: 'number', value: String(e.value), form: 'script', at }
    case 'BooleanLiteral':
      return { kind: 'flag', value: String(e.value), form: 'script', at }
    case 'NullLiteral':
      return { kind: 'unset', value: 'null' }
    case 'UnaryExpression':
      if (e.operator === '-' && e.argument.type === 'NumericLiteral')
        return { kind: 'number', value: String(-e.argument.value), form: 'script', at }
      break
    case 'ArrowFunctionExpression':
    case 'FunctionExpression':
      return { kind: 'handler', value: text() }
    case 'Identifier': {
      if (e.name === 'undefined') return { kind: 'unset', value: 'undefined' }
      const values = known.values.get(e.name)
      if (values) return one(values)
      break
    }
    case 'MemberExpression': {
      const value = e.object.type === 'Identifier' && known.of.get(e.object.name)?.get(nameOf(e))
      if (value !== undefined && value !== false) return one([value])
      break
    }
    case 'ConditionalExpression':
    case 'LogicalExpression': {
      const sides =
        e.type === 'ConditionalExpression'
          ? [e.consequent, e.alternate]
          : e.operator === '&&'
            ? [e.right]
            : [e.left, e.right]
      const read = sides.map(s => valueOf(s, source, known, shift))
      const values = read.flatMap(v =>
        v.kind === 'text' || v.kind === 'number' || v.kind === 'flag'
          ? [v.value]
          : (v.values ?? []),
      )
      const all =
        e.type === 'ConditionalExpression' &&
        read.every(v => ['text', 'number', 'flag', 'one'].includes(v.kind))
      if (all) return one(values)
      return {
        kind: 'bound',
        value: text(),
        ...(values.length ? { values: [...new Set(values)] } : {}),
      }
    }
  }
  const key = keyOf(e)
  if (key) {
    const otherwise = otherwiseOf(e)
    return { kind: 'key', value: key, ...(otherwise ? { values: [otherwise] } : {}) }
  }
  return { kind: 'bound', value: text() }
}

/** The classes that an expression gives whatever else it computes: 'flex', cn('flex', late && 'red'). */
export function looks(whole: Expression, known: Known): string {
  const e = bare(whole)
  const all = (list: (Expression | t.ArgumentPlaceholder | null)[]) =>
    list.map(x => (x && x.type !== 'ArgumentPlaceholder' ? looks(x, known) : '')).join(' ')
  switch (e.type) {
    case 'StringLiteral':
      return e.value
    case 'TemplateLiteral':
      return e.quasis
        .map(
          (q, i) =>
            (q.value.cooked ?? '') +
            (e.expressions[i] ? looks(e.expressions[i] as Expression, known) : ''),
        )
        .join('')
    case 'Identifier':
      return known.values.get(e.name)?.[0] ?? ''
    case 'ConditionalExpression': // as it usually is
      return looks(e.alternate, known)
    case 'LogicalExpression':
      return e.operator === '&&' ? '' : looks(e.right, known)
    case 'BinaryExpression':
      return e.operator === '+' ? all([e.left, e.right]) : ''
    case 'CallExpression':
      return all(e.arguments)
    case 'ArrayExpression':
      return all(e.elements)
    default:
      return ''
  }
}

/** The same of an expression that stands alone as text. */
export function looksIn(text: string, known: Known): string {
  try {
    return looks(parseExpression(text, { plugins: ['typescript'] }), known)
  } catch {
    return ''
  }
}

/** Reads an expression that stands alone as text, as in attributes of templates. */
export function valueIn(text: string, start: number, known: Known): Value {
  try {
    const e = parseExpression(text, { plugins: ['typescript'], errorRecovery: false })
    return valueOf(e, text, known, start)
  } catch {
    return { kind: 'bound', value: clipped(text) }
  }
}
