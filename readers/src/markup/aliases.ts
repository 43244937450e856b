import type * as t from '@babel/types'
import type { Alias } from './neutral'
import { parts, visitAll } from './script'
import { bare, nameOf } from './values'

type AnyNode = t.Node

/** Whether a file says how a bundler finds modules. */
export const bundles = (file: string): boolean =>
  /(^|\/)([\w.-]+\.)?(config|conf|aliases|webpack[\w.-]*)\.[mc]?[jt]s$/.test(file) ||
  /(^|\/)(config|build|webpack)\/[\w.-]+\.[mc]?[jt]s$/.test(file)

/** Where names that stand for a path lead, as far as they are written out. */
class Paths {
  private named = new Map<string, AnyNode>()
  constructor(program: t.Program) {
    visitAll(program, n => {
      if (n.type === 'VariableDeclarator' && n.id.type === 'Identifier' && n.init)
        this.named.set(n.id.name, n.init)
      if (n.type === 'FunctionDeclaration' && n.id) this.named.set(n.id.name, n)
      return true
    })
  }

  /** A path from the file's own folder; undefined where it is computed, or no path. */
  of(e: AnyNode | null | undefined, given?: Map<string, string>, depth = 0): string | undefined {
    if (!e || depth > 8) return undefined
    const n = bare(e as t.Expression) as AnyNode
    switch (n.type) {
      case 'StringLiteral':
        return n.value
      case 'TemplateLiteral': {
        let out = ''
        for (const [i, q] of n.quasis.entries()) {
          out += q.value.cooked ?? ''
          const inner = n.expressions[i]
          if (!inner) continue
          const part = this.of(inner, given, depth + 1)
          if (part === undefined) return undefined
          out += part
        }
        return out
      }
      case 'Identifier': {
        if (n.name === '__dirname') return '.'
        const known = given?.get(n.name)
        return known ?? this.of(this.named.get(n.name), given, depth + 1)
      }
      case 'MemberExpression': {
        const name = nameOf(n)
        if (name === 'dirname' || name === 'rootDir') return '.'
        if (name === 'pathname' || name === 'href') return this.of(n.object, given, depth + 1)
        return undefined
      }
      case 'NewExpression': // new URL('./src', import.meta.url)
        return nameOf(n.callee) === 'URL' ? this.of(n.arguments[0], given, depth + 1) : undefined
      case 'BinaryExpression': {
        const [a, b] = [this.of(n.left, given, depth + 1), this.of(n.right, given, depth + 1)]
        return n.operator === '+' && a !== undefined && b !== undefined ? a + b : undefined
      }
      case 'CallExpression':
        return this.called(n, given, depth)
    }
    return undefined
  }

  private called(
    n: t.CallExpression,
    given: Map<string, string> | undefined,
    depth: number,
  ): string | undefined {
    const name = nameOf(n.callee)
    const args = n.arguments.map(a => this.of(a, given, depth + 1))
    // A helper of the file's own: const at = dir => path.resolve(__dirname, dir)
    const own = n.callee.type === 'Identifier' ? this.named.get(n.callee.name) : undefined
    if (own && (own.type === 'ArrowFunctionExpression' || own.type.startsWith('Function'))) {
      const fn = own as t.ArrowFunctionExpression | t.FunctionDeclaration | t.FunctionExpression
      const inner = new Map(given)
      fn.params.forEach((p, i) => {
        if (p.type === 'Identifier' && args[i] !== undefined) inner.set(p.name, args[i])
      })
      if (fn.body.type !== 'BlockStatement') return this.of(fn.body, inner, depth + 1)
      const back = parts(fn.body).find(s => s.type === 'ReturnStatement')
      return back ? this.of((back as t.ReturnStatement).argument, inner, depth + 1) : undefined
    }
    if (name === 'cwd') return '.'
    if (name === 'fileURLToPath' || name === 'dirname' || name === 'normalizePath')
      return name === 'dirname' && args[0] === undefined ? '.' : args[0]
    if (name === 'resolve' || name === 'join') {
      if (!args.length || args.some(a => a === undefined)) return undefined
      return args.join('/')
    }
    return undefined
  }
}

/** Aliases that the settings of a bundler name: an object or a list under "alias", or set one by
 * one on something called so. What leads to a package, or is computed, is left out. */
export function aliasesOf(program: t.Program): Alias[] {
  const out: Alias[] = []
  const paths = new Paths(program)
  const put = (find: string | undefined, to: string | undefined): void => {
    if (!find || !to || !/^[./]/.test(to)) return
    out.push({
      find: find.replace(/\/?\*?$/, ''),
      to: to.replace(/^\/(?!\/)/, './').replace(/\/\*?$/, ''),
    })
  }
  const literal = (e: AnyNode | null | undefined): string | undefined =>
    e?.type === 'StringLiteral' ? e.value : undefined
  const entry = (o: t.ObjectExpression): void => {
    const of = new Map<string, AnyNode>()
    for (const p of o.properties)
      if (p.type === 'ObjectProperty') of.set(nameOf(p.key) || (literal(p.key) ?? ''), p.value)
    put(literal(of.get('find')), paths.of(of.get('replacement')))
  }
  visitAll(program, n => {
    if (n.type === 'ObjectProperty' && (nameOf(n.key) || literal(n.key)) === 'alias') {
      const value = bare(n.value as t.Expression)
      if (value.type === 'ObjectExpression')
        for (const p of value.properties) {
          if (p.type !== 'ObjectProperty' || p.computed) continue
          put(literal(p.key) ?? nameOf(p.key), paths.of(p.value))
        }
      if (value.type === 'ArrayExpression')
        for (const e of value.elements) if (e?.type === 'ObjectExpression') entry(e)
    }
    // config.resolve.alias.set('@', resolve('src')).set(…)
    if (n.type === 'CallExpression' && nameOf(n.callee) === 'set' && n.arguments.length === 2) {
      let chained = false
      visitAll(n.callee, m => {
        chained ||= m.type === 'MemberExpression' && nameOf(m) === 'alias'
        return !chained
      })
      if (chained) put(literal(n.arguments[0]), paths.of(n.arguments[1]))
    }
    return true
  })
  return out
}
