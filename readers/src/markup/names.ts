/** Names that a file gives to what has a name already: parts of a whole, and what is wrapped. */
import type * as t from '@babel/types'
import type { Name } from './neutral'
import { bare as without, nameOf } from './values'

const bare = (e: t.Node) => without(e as t.Expression) as t.Expression

/** "Dialog.Root", as it is written; empty where what it is of is computed. */
function path(e: t.Expression): string {
  if (e.type === 'Identifier') return e.name
  if (e.type !== 'MemberExpression' || e.computed) return ''
  const of = path(bare(e.object))
  return of && `${of}.${nameOf(e.property)}`
}

/** Whether a name may be that of a component: its last part begins with a capital. */
const ofComponent = (name: string) => /(^|\.)[A-Z][\w$]*$/.test(name)

/**
 * Reads what names of a file stand for: Form.Item of Object.assign(Form, { Item }), of
 * Form.Item = Item and of Form = { Item }; Root of Root = Dialog.Root; and what a function makes of
 * a component (memo, styled, connect), which is that component, set otherwise.
 */
export function namesIn(program: t.Program): Name[] {
  const out: Name[] = []
  const members = (of: string, o: t.ObjectExpression, depth: number): void => {
    for (const p of o.properties) {
      if (p.type !== 'ObjectProperty' || p.computed) continue
      const key = nameOf(p.key)
      if (key) stands(`${of}.${key}`, p.value as t.Expression, depth + 1)
    }
  }
  const stands = (name: string, value: t.Expression, depth = 0): void => {
    if (depth > 3) return
    const e = bare(value)
    switch (e.type) {
      case 'Identifier':
      case 'MemberExpression': {
        const means = path(e)
        // What begins small is no component where it stands by itself: <button> is the page's own.
        const named = ofComponent(name) || name.includes('.') || name === 'default'
        if (named && ofComponent(means) && means !== name) out.push({ name, means })
        return
      }
      case 'ObjectExpression':
        members(name, e, depth)
        return
      case 'TaggedTemplateExpression':
        made(name, e.tag as t.Expression, depth)
        return
      case 'CallExpression':
        made(name, e, depth)
    }
  }
  /** What a call makes is what it is given first, or what the call before was given. */
  const made = (name: string, e: t.Expression, depth: number): void => {
    if (e.type !== 'CallExpression') return
    const [first, ...rest] = e.arguments
    const callee = bare(e.callee)
    if (path(callee) === 'Object.assign')
      for (const a of rest) if (a.type === 'ObjectExpression') members(name, a, depth)
    const given = first && bare(first)
    if (given?.type === 'CallExpression') made(name, given, depth)
    else if (given && ofComponent(path(given))) stands(name, given, depth)
    else if (callee.type === 'CallExpression') made(name, callee, depth)
    else if (callee.type === 'MemberExpression') made(name, bare(callee.object), depth)
  }
  for (const s of program.body) {
    const d = s.type === 'ExportNamedDeclaration' ? s.declaration : s
    if (d?.type === 'VariableDeclaration') {
      for (const v of d.declarations)
        if (v.id.type === 'Identifier' && v.init) stands(v.id.name, v.init)
    } else if (s.type === 'ExportDefaultDeclaration')
      stands('default', s.declaration as t.Expression)
    else if (
      s.type === 'ExpressionStatement' &&
      s.expression.type === 'AssignmentExpression' &&
      s.expression.left.type === 'MemberExpression'
    ) {
      const name = path(s.expression.left)
      if (ofComponent(name)) stands(name, s.expression.right)
    }
  }
  return out
}
