import { parse, type ParserPlugin } from '@babel/parser'
import type * as t from '@babel/types'
import { aliasesOf, bundles } from './aliases'
import { besides, declaredIn, typesOf, variantsOf } from './declared'
import { Markup, type Pieces } from './jsx'
import { namesIn } from './names'
import { empty, type Component, type Module, type Node, type Route, type Target } from './neutral'
import { textsIn } from './texts'
import { bare, nameOf, nothingKnown, type Known } from './values'

type AnyNode = t.Node

/** What a node holds that is no part of the code. */
const BESIDE = new Set([
  'loc',
  'extra',
  'errors',
  'tokens',
  'leadingComments',
  'trailingComments',
  'innerComments',
])
const partsOf = new WeakMap<AnyNode, AnyNode[]>()

/** The nodes right below a node. A tree is gone through many times: they are looked for once. */
export function parts(n: AnyNode): AnyNode[] {
  const known = partsOf.get(n)
  if (known) return known
  const out: AnyNode[] = []
  for (const key in n) {
    const value = (n as unknown as Record<string, unknown>)[key]
    if (typeof value !== 'object' || !value || BESIDE.has(key)) continue
    if (Array.isArray(value)) {
      for (const v of value as (AnyNode | null)[]) if (typeof v?.type === 'string') out.push(v)
    } else if (typeof (value as AnyNode).type === 'string') out.push(value as AnyNode)
  }
  partsOf.set(n, out)
  return out
}

/** Visits a tree, outermost first; visit tells whether to go on below. */
export function visitAll(n: AnyNode, visit: (n: AnyNode) => boolean): void {
  if (visit(n)) for (const p of parts(n)) visitAll(p, visit)
}

export function parsed(source: string, file: string): t.File {
  const plugins: ParserPlugin[] = [
    'decorators-legacy',
    'importAttributes',
    'explicitResourceManagement',
  ]
  const typed = /\.(ts|mts|cts)$/.test(file)
  if (/\.(js|jsx|mjs|cjs)$/.test(file) && /@flow/.test(source.slice(0, 2000))) plugins.push('flow')
  else plugins.push('typescript')
  if (!typed) plugins.push('jsx')
  return parse(source, {
    sourceType: 'unambiguous',
    allowReturnOutsideFunction: true,
    allowImportExportEverywhere: true,
    allowUndeclaredExports: true,
    errorRecovery: true,
    plugins,
  })
}

/** Modules that expressions load when they are needed: lazy(() => import('./x')). */
export function loadedBy(e: AnyNode | null | undefined): Target | undefined {
  let found: Target | undefined
  if (!e) return undefined
  // As Angular once had it: "./beds/beds.module#BedsModule".
  if (e.type === 'StringLiteral' && e.value.includes('#')) {
    const [from, name] = e.value.split('#', 2)
    return { from, name }
  }
  visitAll(e, n => {
    if (n.type === 'CallExpression' || n.type === 'ImportExpression') {
      const source =
        n.type === 'ImportExpression'
          ? n.source
          : n.callee.type === 'Import'
            ? n.arguments[0]
            : undefined
      if (source?.type === 'StringLiteral') found ??= { from: source.value, name: 'default' }
    }
    return true
  })
  if (found)
    visitAll(e, n => {
      // (await import('./x')).Name
      if (n.type === 'MemberExpression' && bare(n.object).type === 'AwaitExpression')
        found!.name = nameOf(n)
      // .then(m => m.Name), .then(m => ({ default: m.Name })), .then(({ Name }) => …)
      if (n.type === 'CallExpression' && nameOf(n.callee) === 'then') {
        const take = n.arguments[0]
        if (take?.type === 'ArrowFunctionExpression') {
          const first = take.params[0]
          if (first?.type === 'ObjectPattern' && first.properties[0]?.type === 'ObjectProperty')
            found!.name = nameOf(first.properties[0].key)
          visitAll(take.body, m => {
            if (
              m.type === 'MemberExpression' &&
              m.object.type === 'Identifier' &&
              first?.type === 'Identifier' &&
              m.object.name === first.name
            )
              found!.name = nameOf(m)
            return true
          })
        }
        return false
      }
      return true
    })
  return found
}

function known(file: t.File): Known {
  const out = nothingKnown()
  const literal = (e: AnyNode): string | undefined => {
    const b = bare(e as t.Expression)
    if (b.type === 'StringLiteral') return b.value
    if (b.type === 'NumericLiteral') return String(b.value)
    if (b.type === 'TemplateLiteral' && b.expressions.length === 0)
      return b.quasis[0].value.cooked ?? undefined
    return undefined
  }
  visitAll(file, n => {
    if (n.type === 'VariableDeclaration' && n.kind === 'const')
      for (const d of n.declarations) {
        if (d.id.type !== 'Identifier' || !d.init) continue
        const value = literal(d.init)
        if (value !== undefined) {
          // The same name with two values in one file: whose it is, is not looked into.
          const had = out.values.get(d.id.name)
          out.values.set(d.id.name, had ? [...had, value] : [value])
          continue
        }
        const init = bare(d.init)
        if (init.type !== 'ObjectExpression') continue
        const of = new Map<string, string>()
        for (const p of init.properties)
          if (p.type === 'ObjectProperty') {
            const v = literal(p.value)
            if (v !== undefined) of.set(nameOf(p.key), v)
          }
        if (of.size) out.of.set(d.id.name, of)
      }
    if (n.type === 'TSEnumDeclaration') {
      const of = new Map<string, string>()
      for (const m of n.members ?? []) {
        const v = m.initializer ? literal(m.initializer) : undefined
        if (v !== undefined) of.set(nameOf(m.id), v)
      }
      if (of.size) out.of.set(n.id.name, of)
    }
    return true
  })
  return out
}

/** Reads imports, exports and what a file loads later. */
function links(program: t.Program, out: Module): void {
  for (const s of program.body) {
    switch (s.type) {
      case 'ImportDeclaration':
        for (const i of s.specifiers)
          out.imports.push({
            local: i.local.name,
            name:
              i.type === 'ImportDefaultSpecifier'
                ? 'default'
                : i.type === 'ImportNamespaceSpecifier'
                  ? '*'
                  : nameOf(i.imported),
            from: s.source.value,
          })
        if (s.specifiers.length === 0)
          out.imports.push({ local: '', name: '', from: s.source.value })
        break
      case 'ExportAllDeclaration':
        out.exports.push({ name: '*', local: '*', from: s.source.value })
        break
      case 'ExportNamedDeclaration':
        for (const x of s.specifiers) {
          const local =
            x.type === 'ExportNamespaceSpecifier'
              ? '*'
              : x.type === 'ExportDefaultSpecifier'
                ? 'default'
                : nameOf(x.local)
          out.exports.push({
            name: nameOf(x.exported),
            local,
            ...(s.source ? { from: s.source.value } : {}),
          })
        }
        if (s.declaration)
          for (const name of declaredNames(s.declaration)) out.exports.push({ name, local: name })
        break
      case 'ExportDefaultDeclaration': {
        let d: AnyNode = s.declaration
        while (d.type === 'CallExpression' && d.arguments[0]) d = d.arguments[0]
        const name: string =
          d.type === 'Identifier' ? d.name : 'id' in d && d.id ? nameOf(d.id as AnyNode) : ''
        out.exports.push({ name: 'default', local: name || 'default' })
        break
      }
      case 'VariableDeclaration':
        for (const d of s.declarations) later(d, out)
        break
    }
    if (s.type === 'ExportNamedDeclaration' && s.declaration?.type === 'VariableDeclaration')
      for (const d of s.declaration.declarations) later(d, out)
  }
}

function later(d: t.VariableDeclarator, out: Module): void {
  if (d.id.type !== 'Identifier' || d.init?.type !== 'CallExpression') return
  const first = d.init.arguments[0]
  const loads =
    first &&
    (first.type === 'ArrowFunctionExpression' ||
      first.type === 'FunctionExpression' ||
      first.type === 'ObjectExpression')
  const target = loads ? loadedBy(d.init) : undefined
  if (target) out.imports.push({ local: d.id.name, name: target.name!, from: target.from! })
}

const declaredNames = (d: AnyNode): string[] => {
  if (d.type === 'VariableDeclaration')
    return d.declarations.flatMap(v => (v.id.type === 'Identifier' ? [v.id.name] : []))
  return 'id' in d && d.id ? [nameOf(d.id as AnyNode)] : []
}

const joined = (outer: string, path: string): string =>
  path.startsWith('/') ? path : `${outer.replace(/\/$/, '')}/${path}`.replace(/\/$/, '') || '/'

const shown = ['element', 'component', 'Component', 'lazy', 'loadComponent', 'components']

/** What a route shows, by the property that says so. */
function target(value: AnyNode): Target | undefined {
  const e = bare(value as t.Expression)
  if (e.type === 'Identifier') return { local: e.name }
  if (e.type === 'MemberExpression' && e.object.type === 'Identifier')
    return { local: `${e.object.name}.${nameOf(e)}` }
  if (e.type === 'JSXElement') {
    // The innermost that stands alone: <Guard><Page /></Guard> shows the page.
    let at: t.JSXElement = e
    for (;;) {
      const inside = at.children.filter((c): c is t.JSXElement => c.type === 'JSXElement')
      if (inside.length !== 1) break
      at = inside[0]
    }
    const n = at.openingElement.name
    return {
      local:
        n.type === 'JSXMemberExpression' ? `${nameOf(n.object)}.${n.property.name}` : nameOf(n),
    }
  }
  if (e.type === 'ObjectExpression') {
    // named views: the usual one is called default
    for (const p of e.properties)
      if (p.type === 'ObjectProperty' && (nameOf(p.key) === 'default' || e.properties.length === 1))
        return target(p.value)
    return undefined
  }
  return loadedBy(e)
}

interface Below {
  path: string
  chain: Target[]
  list?: string
}

/** What a file registers for a whole application of Vue: app.component('Name', Component). */
function registeredIn(program: t.Program): Module['registered'] {
  const out: NonNullable<Module['registered']> = []
  visitAll(program, n => {
    if (n.type !== 'CallExpression' || n.callee.type !== 'MemberExpression') return true
    const [name, local] = n.arguments
    if (nameOf(n.callee) !== 'component' || local?.type !== 'Identifier') return true
    if (name?.type === 'StringLiteral') out.push({ name: name.value, local: local.name })
    else if (name?.type === 'MemberExpression' && nameOf(name) === 'name')
      out.push({ name: local.name, local: local.name }) // by its own
    return true
  })
  return out
}

/** Reads the routes of a file; gives what is written in them, which shows nothing by itself. */
function routesOf(program: t.Program, out: Module): Set<AnyNode> {
  const taken = new Set<AnyNode>()
  const below = (value: AnyNode, from: Below): void => {
    const list = bare(value as t.Expression)
    if (list.type === 'ArrayExpression')
      for (const e of list.elements) if (e?.type === 'ObjectExpression') object(e, from, true)
    if (list.type === 'Identifier')
      out.routes.push({
        path: from.path,
        chain: from.chain,
        below: { local: list.name },
        at: list.start ?? 0,
        list: from.list,
      })
  }
  // Inside a list of routes one may only hold others together, and say nothing else of them.
  const object = (o: t.ObjectExpression, from: Below, inside = false): boolean => {
    const of = new Map<string, AnyNode>()
    for (const p of o.properties) {
      if (p.type === 'ObjectProperty') of.set(nameOf(p.key), p.value)
      if (p.type === 'ObjectMethod') of.set(nameOf(p.key), p.body)
    }
    const path = of.get('path') ?? of.get('route')
    const says = shown.find(k => of.has(k))
    const children = of.get('children')
    const text =
      path?.type === 'StringLiteral'
        ? path.value
        : path?.type === 'TemplateLiteral' && !path.expressions.length
          ? (path.quasis[0].value.cooked ?? '')
          : undefined
    if (text === undefined && !of.has('index') && !((says || inside) && children)) return false
    const sent = of.has('redirect') || of.has('redirectTo')
    if (!says && !children && !of.has('loadChildren') && !sent) return false
    taken.add(o)
    const here = joined(from.path, text ?? '')
    // What only sends one on, and what others stand in, is no screen of its own, and is there.
    if (text !== undefined && (children || (sent && !says)))
      out.routes.push({ path: here, chain: [], only: true, at: o.start ?? 0, list: from.list })
    const shows = says ? target(of.get(says)!) : undefined
    const chain = shows ? [...from.chain, shows] : from.chain
    const loads = of.get('loadChildren')
    if (loads) {
      const t = loadedBy(loads)
      if (t) out.routes.push({ path: here, chain, below: t, at: o.start ?? 0, list: from.list })
    }
    if (children) below(children, { path: here, chain, list: from.list })
    if (
      shows &&
      !(
        children &&
        bare(children as t.Expression).type === 'ArrayExpression' &&
        (bare(children as t.Expression) as t.ArrayExpression).elements.length > 0
      )
    )
      out.routes.push({ path: here, chain, at: o.start ?? 0, list: from.list } satisfies Route)
    return true
  }
  const element = (e: t.JSXElement, from: Below): boolean => {
    if (!/Route$/.test(nameOf(e.openingElement.name))) return false
    taken.add(e)
    const of = new Map<string, AnyNode>()
    for (const a of e.openingElement.attributes)
      if (a.type === 'JSXAttribute')
        of.set(
          nameOf(a.name),
          a.value?.type === 'JSXExpressionContainer' ? a.value.expression : (a.value ?? a),
        )
    const path = of.get('path')
    const here = path?.type === 'StringLiteral' ? joined(from.path, path.value) : from.path
    const says = ['element', 'component', 'Component', 'render', 'lazy'].find(k => of.has(k))
    const inside = e.children.filter((c): c is t.JSXElement => c.type === 'JSXElement')
    const nested = inside.filter(c => /Route$/.test(nameOf(c.openingElement.name)))
    const shows = says
      ? target(of.get(says)!)
      : nested.length === 0 && inside.length === 1
        ? target(inside[0])
        : undefined
    const chain = shows ? [...from.chain, shows] : from.chain
    for (const c of nested) element(c, { path: here, chain, list: from.list })
    if (path && nested.length > 0)
      out.routes.push({ path: here, chain: [], only: true, at: e.start ?? 0, list: from.list })
    if (shows && nested.length === 0 && (path || of.has('index')))
      out.routes.push({ path: here, chain, at: e.start ?? 0, list: from.list })
    return true
  }
  const look = (n: AnyNode, list?: string): void =>
    visitAll(n, m => {
      if (taken.has(m)) return false
      const from: Below = { path: '', chain: [], list }
      if (m.type === 'ObjectExpression') return !object(m, from)
      if (m.type === 'JSXElement') return !element(m, from)
      return true
    })
  for (const s of program.body) {
    const d = s.type === 'ExportNamedDeclaration' ? s.declaration : s
    if (d?.type === 'VariableDeclaration')
      for (const v of d.declarations) look(v, v.id.type === 'Identifier' ? v.id.name : undefined)
    else if (s.type === 'ExportDefaultDeclaration') look(s, 'default')
    else look(s)
  }
  return taken
}

/** Declarations at the top of a file, with the names they have and are exported under. */
interface Top {
  name: string
  node: AnyNode
}
function tops(program: t.Program): Top[] {
  const out: Top[] = []
  for (const s of program.body) {
    const d =
      s.type === 'ExportNamedDeclaration' || s.type === 'ExportDefaultDeclaration'
        ? s.declaration
        : s
    if (!d) continue
    if (d.type === 'VariableDeclaration') {
      for (const v of d.declarations)
        if (v.id.type === 'Identifier' && v.init) out.push({ name: v.id.name, node: v.init })
    } else if (d.type === 'FunctionDeclaration' || d.type === 'ClassDeclaration')
      out.push({ name: d.id?.name ?? 'default', node: d })
    else if (s.type === 'ExportDefaultDeclaration' && d.type !== 'Identifier')
      out.push({ name: 'default', node: d })
    else if (
      s.type === 'ExpressionStatement' ||
      d.type === 'IfStatement' ||
      d.type === 'CallExpression'
    )
      out.push({ name: '', node: d })
    // Button.Group = function () { … }
    if (
      s.type === 'ExpressionStatement' &&
      s.expression.type === 'AssignmentExpression' &&
      s.expression.left.type === 'MemberExpression' &&
      s.expression.left.object.type === 'Identifier'
    )
      out[out.length - 1] = {
        name: `${s.expression.left.object.name}.${nameOf(s.expression.left)}`,
        node: s.expression.right,
      }
  }
  return out
}

export interface Script {
  module: Module
  routes: Set<AnyNode>
  program: t.Program
  known: Known
  source: string
}

/** Reads a script without its markup, which is elsewhere: in a template, or there is none. */
export function script(source: string, file: string, language: string): Script {
  const module = empty(language)
  const tree = parsed(source, file)
  for (const e of (tree as { errors?: { pos?: number; message: string }[] }).errors ?? [])
    module.problems.push({ at: e.pos ?? 0, what: e.message })
  const program = tree.program
  links(program, module)
  module.types = typesOf(program)
  const others = namesIn(program)
  if (others.length) module.names = others
  const routes = routesOf(program, module)
  if (bundles(file)) module.aliases = aliasesOf(program)
  if (source.includes('.component(')) module.registered = registeredIn(program)
  const byLanguage = /\b(messages|resources|translations)\b/.test(source)
  if (language === 'script' || byLanguage) {
    const texts = textsIn(program, byLanguage ? visitAll : undefined)
    if (texts.length) module.texts = texts
  }
  return { module, routes, program, known: known(tree), source }
}

/** Whether there is markup in it, and not only values. */
const shows = (n: Node): boolean =>
  n.kind === 'element' || n.kind === 'slot' || (n.children ?? []).some(shows)

/** Reads a file with JSX, or a plain script. */
export function jsx(source: string, file: string): Module {
  const read = script(source, file, /x$/.test(file) ? 'tsx' : 'script')
  const { module, program } = read
  const variants = variantsOf(program)
  const beside = besides(program)
  const markup = new Markup(source, read.known, read.routes)
  const names = new Map<string, string[]>()
  for (const e of module.exports)
    if (!e.from) names.set(e.local, [...(names.get(e.local) ?? []), e.name])
  // Under the name of what is made of it, where it has none of its own.
  for (const { name, means } of module.names ?? []) {
    const under = names.get(name)
    if (under && !names.has(means)) names.set(means, under)
  }
  const found: { top: Top; pieces: Pieces }[] = []
  const list = tops(program)
  const helper = (top: Top) => /^[a-z]/.test(top.name) && top.name !== 'default'
  for (const top of list) if (helper(top)) markup.share(top.name, top.node)
  for (const top of list) {
    if (top.name === 'default' && !names.has('default')) continue // another name for one of the file
    const pieces = markup.read(top.node)
    if (pieces.roots.some(shows)) found.push({ top, pieces })
  }
  for (const { top, pieces } of found) {
    // What another one of the file calls or hands on stands there.
    if (helper(top) && markup.followed.has(top.name) && !names.has(top.name)) continue
    const component: Component = {
      name: top.name,
      exported: names.get(top.name) ?? [],
      span: [top.node.start ?? 0, top.node.end ?? 0],
      roots: pieces.roots,
    }
    const declared = declaredIn(top.node, variants, beside.get(top.name))
    if (declared) component.declared = declared
    module.components.push(component)
  }
  return module
}
