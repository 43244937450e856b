/**
 * Finds where a delivery connects to a repository: where its routes are listed, where the
 * application begins, and where the plugin that reads Vue's templates is set. Nothing of the repository is run. The question comes as
 * JSON on standard input, the answer goes as JSON to standard output:
 *
 *   { "dir": "/repo", "target": "react", "skip": "src/office" }
 *
 * skip is the folder of the delivery itself. Places are given in bytes.
 */
import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import type * as t from '@babel/types'
import { parsed, visitAll } from './markup/script'
import { bare, nameOf } from './markup/values'

interface Question {
  dir: string
  target: 'vue' | 'react' | 'angular'
  skip?: string
}

/** Where something can be put into a file. */
interface Place {
  /** A list of routes, routes as elements, the beginning of the application, or the plugin of Vue. */
  what: 'routes' | 'elements' | 'entry' | 'plugin'
  path: string
  at: number
  /** Where what is put around something ends; 0 for what stands by itself. */
  until: number
  /** Where an import statement can stand; 0 for the beginning. */
  import: number
  /** What has to stand before and after what is put there. */
  before: string
  after: string
  /** Texts stand in double quotes. */
  double: boolean
  semi: boolean
  /** It has settings of its own already. */
  has: boolean
}

/** A route that the application has of its own: its whole address, each parameter as ":". */
interface Taken {
  path: string
  name?: string
  file: string
}

interface File {
  rel: string
  text: string
  body: t.Statement[]
  tree: t.File
}

const asked = JSON.parse(readFileSync(0, 'utf8')) as Question
const places: Place[] = []
const problems: string[] = []
const routes: Taken[] = []

const MOST_FILES = 4000
const MOST_TEXT = 400_000
const MAKERS = {
  vue: ['createRouter'],
  react: ['createBrowserRouter', 'createHashRouter', 'createMemoryRouter', 'useRoutes'],
  angular: ['provideRouter'],
}
const makers = MAKERS[asked.target]
/** What an application begins with. */
const BEGINS = {
  vue: ['createApp', 'createSSRApp'],
  react: ['createRoot', 'hydrateRoot', 'render'],
  angular: ['bootstrapApplication', 'bootstrapModule'],
}
const begins = BEGINS[asked.target]
/** What makes a router of routes that stand as elements. */
const OF_ELEMENTS = ['createRoutesFromElements', 'createRoutesFromChildren']

function* sources(dir: string, depth = 0): Generator<string> {
  if (depth > 8) return
  for (const e of readdirSync(dir, { withFileTypes: true })) {
    const at = path.join(dir, e.name)
    const rel = path.relative(asked.dir, at).split(path.sep).join('/')
    if (rel === asked.skip || ['node_modules', 'dist', 'build'].includes(e.name)) continue
    if (e.name.startsWith('.')) continue
    if (e.isDirectory()) yield* sources(at, depth + 1)
    else if (
      /\.(m?[jt]s|[jt]sx)$/.test(e.name) &&
      !/\.(d|spec|test|stories)\.[mjt]*sx?$/.test(e.name)
    )
      yield rel
  }
}

function filesOf(): File[] {
  const out: File[] = []
  for (const rel of sources(asked.dir)) {
    if (out.length > MOST_FILES) break
    const text = readFileSync(path.join(asked.dir, rel), 'utf8')
    if (text.length > MOST_TEXT) continue
    const speaks = [...makers, ...begins].some(m => text.includes(m)) || /routes/i.test(text)
    if (!speaks && !text.includes('plugin-vue')) continue
    try {
      const tree = parsed(text, rel)
      out.push({ rel, text, tree, body: tree.program.body })
    } catch (e) {
      problems.push(`${rel} cannot be parsed: ${String((e as Error).message).split('\n')[0]}`)
    }
  }
  return out
}

function put(what: Place['what'], file: File, at: number, more: Partial<Place>) {
  const imports = file.body.filter(s => s.type === 'ImportDeclaration')
  const last = imports[imports.length - 1]
  const bytes = (n: number) => Buffer.byteLength(file.text.slice(0, n))
  places.push({
    what,
    path: file.rel,
    at: bytes(at),
    import: last ? bytes(last.end!) : 0,
    double: last ? file.text[last.source.start!] === '"' : false,
    semi: last ? file.text[last.end! - 1] === ';' : false,
    before: '',
    after: '',
    has: false,
    ...more,
    until: more.until ? bytes(more.until) : 0,
  })
}

/** The property of an object, or what stands for it by its name alone. */
function property(of: t.ObjectExpression, name: string): t.Node | undefined {
  for (const p of of.properties)
    if (p.type === 'ObjectProperty' && nameOf(p.key) === name) return bare(p.value as t.Expression)
  return undefined
}

const joined = (above: string, way: string) =>
  way.startsWith('/') ? way : `${above === '/' ? '' : above}/${way}`.replace(/\/$/, '') || '/'

function route(file: File, above: string, way: string, name: string): string {
  const whole = joined(above, way)
  // What catches all that is left takes no address from others.
  if (!whole.includes('*'))
    routes.push({ path: whole.replace(/:\w+/g, ':'), name: name || undefined, file: file.rel })
  return whole
}

const textOf = (node: t.Node | undefined) => (node?.type === 'StringLiteral' ? node.value : '')

/** The routes of a list, with those below them. One that only stands around others is none. */
function listed(file: File, list: t.ArrayExpression, above: string) {
  for (const e of list.elements) {
    const of = e && bare(e as t.Expression)
    if (of?.type !== 'ObjectExpression') continue
    const way = property(of, 'path')
    const below = property(of, 'children')
    const index = property(of, 'index')
    let whole = above
    if (way?.type === 'StringLiteral' || index) {
      whole = joined(above, textOf(way))
      if (below?.type !== 'ArrayExpression')
        route(file, above, textOf(way), textOf(property(of, 'name')))
    }
    if (below?.type === 'ArrayExpression') listed(file, below, whole)
  }
}

/** The routes among elements. */
function stood(file: File, around: t.JSXElement, above: string) {
  for (const e of around.children) {
    if (e.type !== 'JSXElement') continue
    const attribute = (name: string) =>
      e.openingElement.attributes.find(a => a.type === 'JSXAttribute' && nameOf(a.name) === name)
    const said = attribute('path')
    const way =
      said?.type === 'JSXAttribute' && said.value?.type === 'StringLiteral' ? said.value.value : ''
    const inner = e.children.some(k => k.type === 'JSXElement')
    if (tagOf(e) === 'Route' && !inner && (way || attribute('index'))) route(file, above, way, '')
    stood(file, e, way ? joined(above, way) : above)
  }
}

/** What stands on the line before a place. */
const lineBefore = (text: string, at: number) => text.slice(text.lastIndexOf('\n', at - 1) + 1, at)

/** What else is put into a list stands last, before what leads nowhere else, each on a line where the others do. */
function intoList(file: File, array: t.ArrayExpression) {
  const list = array.elements.filter(e => e !== null)
  const last = list[list.length - 1]
  if (!last) return put('routes', file, array.end! - 1, {})
  const rest = list.find(e => {
    const of = e && bare(e)
    const way = of?.type === 'ObjectExpression' ? property(of, 'path') : undefined
    return way?.type === 'StringLiteral' && /^(\*\*|\*|\/:.*\*.*)$/.test(way.value)
  })
  const indent = lineBefore(file.text, last.start!)
  const between = /^\s*$/.test(indent) ? '\n' + indent : ' '
  const comma = /^\s*,/.exec(file.text.slice(last.end!))
  if (rest) put('routes', file, rest.start!, { after: ',' + between })
  else if (comma) put('routes', file, last.end! + comma[0].length, { before: between, after: ',' })
  else put('routes', file, last.end!, { before: ',' + between })
}

/** What else is put among elements stands before the tag that ends them. */
function amongElements(file: File, around: t.JSXElement) {
  const end = around.closingElement!.start!
  const kids = around.children.filter(k => k.type !== 'JSXText')
  const last = kids[kids.length - 1]
  const indent = last && lineBefore(file.text, last.start!)
  const closing = lineBefore(file.text, end)
  if (/^\s*$/.test(closing)) {
    const inner = indent !== undefined && /^\s*$/.test(indent) ? indent : closing + '  '
    put('elements', file, end, { before: inner.slice(closing.length), after: '\n' + closing })
  } else put('elements', file, end, {})
}

const tagOf = (node: t.JSXElement) =>
  node.openingElement.name.type === 'JSXIdentifier' ? node.openingElement.name.name : ''

/** Whether a call begins the application; "render" is that of the page alone. */
function beginning(file: File, node: t.CallExpression): boolean {
  const name = nameOf(node.callee)
  if (!begins.includes(name)) return false
  const of = node.callee.type === 'MemberExpression' ? nameOf(node.callee.object) : ''
  return name !== 'render' ? true : of === 'ReactDOM' && file.text.includes('react-dom')
}

/** Files that begin an application, before others that show a part of it somewhere. */
const BEGINNING = /^(src\/)?(main|index|entry[\w.-]*|bootstrap)\.\w+$/

function entry(file: File, node: t.CallExpression) {
  const before = places.findIndex(p => p.what === 'entry')
  if (before >= 0) {
    if (BEGINNING.test(places[before]!.path) || !BEGINNING.test(file.rel)) return
    places.splice(before, 1)
  }
  if (asked.target === 'vue') return put('entry', file, node.start!, { until: node.end! })
  const around = file.body.find(s => s.start! <= node.start! && node.end! <= s.end!)
  if (around) put('entry', file, around.start!, {})
}

const lists = new Map<string, { file: File; node: t.ArrayExpression }[]>() // by their names
const wanted: { file: File; node: t.Node }[] = [] // lists of routes, or names of such
const around: { file: File; node: t.JSXElement }[] = [] // elements that hold routes

function look(file: File) {
  const imported = (name: string, module: string) =>
    file.body.some(
      s =>
        s.type === 'ImportDeclaration' &&
        s.source.value === module &&
        s.specifiers.some(x => x.type === 'ImportDefaultSpecifier' && x.local.name === name),
    )
  const routed = file.body.some(
    s =>
      s.type === 'ImportDeclaration' &&
      /^react-router(-dom)?$/.test(s.source.value) &&
      s.specifiers.some(x => x.local.name === 'Routes'),
  )
  visitAll(file.tree.program, node => {
    if (node.type === 'VariableDeclarator' && node.id.type === 'Identifier' && node.init) {
      const is = bare(node.init)
      if (is?.type === 'ArrayExpression')
        lists.set(node.id.name, [...(lists.get(node.id.name) ?? []), { file, node: is }])
    }
    if (node.type === 'JSXElement' && tagOf(node) === 'Routes' && node.closingElement && routed)
      around.push({ file, node })
    if (node.type !== 'CallExpression') return true
    if (beginning(file, node)) entry(file, node)
    if (node.callee.type !== 'Identifier') return true
    const first = node.arguments[0] && bare(node.arguments[0] as t.Expression)
    if (makers.includes(node.callee.name) && first) {
      const of =
        asked.target === 'vue' && first.type === 'ObjectExpression'
          ? property(first, 'routes')
          : first
      if (of) wanted.push({ file, node: of })
    }
    if (OF_ELEMENTS.includes(node.callee.name) && first?.type === 'JSXElement') {
      if (first.closingElement) around.push({ file, node: first })
    }
    if (asked.target === 'vue' && imported(node.callee.name, '@vitejs/plugin-vue')) {
      const has = node.arguments.length > 0
      put('plugin', file, has ? node.arguments[0]!.start! : node.end! - 1, { has })
    }
    return true
  })
}

for (const file of filesOf()) look(file)

for (const { file, node } of wanted) {
  let at: { file: File; node: t.Node } | undefined = { file, node }
  if (node.type === 'Identifier') {
    const named = lists.get(node.name) ?? []
    at = named.find(l => l.file === file) ?? named[0]
  }
  if (at?.node.type !== 'ArrayExpression') continue
  listed(at.file, at.node, '/')
  intoList(at.file, at.node)
  break
}
if (asked.target === 'react' && !places.some(p => p.what === 'routes')) {
  const count = (e: t.JSXElement) => e.children.filter(k => k.type === 'JSXElement').length
  const most = around.sort((a, b) => count(b.node) - count(a.node))[0]
  if (most) {
    stood(most.file, most.node, '/')
    amongElements(most.file, most.node)
  }
}
process.stdout.write(JSON.stringify({ places, routes, problems }))
