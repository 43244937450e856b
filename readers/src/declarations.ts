/**
 * Reads components out of type declarations, with TypeScript's own checker: custom
 * elements, React's function and class components, Vue's and Angular's. Nothing of the
 * library is run. The question comes as JSON on standard input, the answer goes as JSON
 * to standard output:
 *
 *   { "dir": "/repo", "package": "@acme/ui", "drawn": "react", "specs": ["@acme/ui"],
 *     "files": ["/repo/node_modules/@acme/ui/dist/button.js"], "names": ["ButtonKind"] }
 *
 * dir is the folder whose node_modules hold the package, specs are what code imports,
 * files those that define custom elements, drawing those with the code of one each, names are types
 * whose values are asked for. What is met and not taken is in "left". Where "seconds" have gone by,
 * what was not looked into by then is known by its name.
 */
import path from 'node:path'
import ts from 'typescript'
import { modules, renamed } from './declarations/angular'
import { component } from './declarations/component'
import { defines, element, placesOf } from './declarations/elements'
import { handed } from './declarations/given'
import { LIB_DIR, at, checker, moduleSymbol, probe, program } from './declarations/program'
import { TOLD } from './declarations/props'
import {
  entries,
  known,
  left,
  question,
  type Entry,
  type Named,
  type Prop,
} from './declarations/question'
import { fileOf, foreign, valuesOf } from './declarations/says'

const single = (name: string) => name.replace(/[^\w$.]/g, '')

/** When nothing more is looked into, so that what is known by then is told. */
const late = () => performance.now() > 1000 * (question.seconds ?? Infinity)
const some = (names: string[]) => names.slice(0, 12).join(', ') + (names.length > 12 ? ' …' : '')
const byName: string[] = []
/** What may be a component, and was not looked into any more. */
function unread(name: string, type: ts.Type): Entry | undefined {
  if (question.drawn === 'angular') return
  if (!type.getCallSignatures().length && !type.getConstructSignatures().length) return
  byName.push(name)
  return { export: name, class: name, props: [], slots: [{ name: '' }], events: [] }
}

/** Functions and classes with a component's name that are taken for none. */
const untaken = new Set<string>()
const mayDraw = (type: ts.Type) =>
  type.getConstructSignatures().length > 0 ||
  type.getCallSignatures().some(call => call.parameters.length <= 2)

const types = new Map<ts.Type, Entry>()
/** Parts of components, looked at once all that stands by itself is known. */
const parts: (() => void)[] = []

/**
 * What a part of a component is another name of: of what it is declared to be the type of, of what
 * has the very same type where that is declared for one, else of what stands by itself under its name.
 * Many parts are typed alike (all that takes what a <div> does), and are components of their own.
 */
function sameAs(name: string, part: ts.Symbol, type: ts.Type): Entry | undefined {
  const declared = part.valueDeclaration
  const said =
    declared && (ts.isPropertySignature(declared) || ts.isVariableDeclaration(declared))
      ? declared.type
      : undefined
  if (said && ts.isTypeQueryNode(said)) {
    const of = checker.getSymbolAtLocation(said.exprName)
    const target = of && (of.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(of) : of)
    if (target && known.has(target)) return known.get(target)
  }
  const before = types.get(type)
  const flags = (type as ts.ObjectType).objectFlags ?? 0
  if (!before?.export || !(flags & (ts.ObjectFlags.Reference | ts.ObjectFlags.Instantiated)))
    return before
  const last = name.slice(name.lastIndexOf('.') + 1)
  return !before.export.includes('.') && before.export.endsWith(last) ? before : undefined
}

function take(name: string, symbol: ts.Symbol, module: string, depth: number) {
  const s = symbol.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(symbol) : symbol
  if (!(s.flags & ts.SymbolFlags.Value)) return
  let type: ts.Type
  try {
    type = checker.getTypeOfSymbolAtLocation(s, at)
    const before = known.get(s) ?? (depth > 0 ? sameAs(name, s, type) : undefined)
    if (type.getProperty('Provider') && type.getProperty('Consumer')) return // a context
    if (question.drawn === 'angular' && renamed(s, type)) return
    if (before) {
      // The same under two names: the shorter one counts.
      if (before.export && name.length < before.export.length && depth === 0) before.export = name
      return
    }
    const entry = late() ? unread(name, type) : component(name, type, s)
    if (!entry && depth === 0 && question.drawn !== 'angular' && mayDraw(type)) untaken.add(name)
    if (entry) {
      entry.module = module
      known.set(s, entry)
      types.set(type, entry)
      entries.push(entry)
    }
    if (depth < 2 && (entry || type.flags & ts.TypeFlags.Object) && question.drawn !== 'angular')
      for (const part of type.getProperties())
        if (
          /^[A-Z][A-Za-z0-9]*$/.test(part.name) &&
          !foreign(part) &&
          part.name !== 'Provider' &&
          part.name !== 'Consumer'
        )
          parts.push(() => take(`${name}.${part.name}`, part, module, depth + 1))
  } catch (e) {
    left.push({ where: name, what: `its declaration cannot be read: ${String(e).slice(0, 200)}` })
  }
}

/** "date-field" as "DateField". */
const pascal = (name: string) =>
  name.replace(/(^|[^A-Za-z0-9]+)([A-Za-z0-9])/g, (_, __, c: string) => c.toUpperCase())

if (moduleSymbol) {
  const all = checker.getExportsOfModule(moduleSymbol)
  const exportsOf = (name: string) => {
    const s = all.find(e => e.name === name)
    if (!s) return []
    const target = s.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(s) : s
    return target.flags & ts.SymbolFlags.Module ? checker.getExportsOfModule(target) : []
  }
  if (question.drawn === 'elements') {
    const map = checker.resolveName(
      'HTMLElementTagNameMap',
      undefined,
      ts.SymbolFlags.Interface,
      false,
    )
    const tags = map ? checker.getPropertiesOfType(checker.getDeclaredTypeOfSymbol(map)) : []
    for (const t of tags) {
      if (foreign(t) || !t.name.includes('-')) continue
      const type = checker.getTypeOfSymbolAtLocation(t, at)
      element(t.name, type, type.symbol?.name ?? '', fileOf(t).split('/node_modules/').pop() ?? '')
    }
    ;(question.files ?? []).forEach((file, i) => {
      const given = exportsOf('f' + i)
      for (const { tag, cls } of defines(file)) {
        const s =
          given.find(e => e.name === cls) ?? given.find(e => e.name === 'default') ?? given[0]
        const target = s && s.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(s) : s
        const module = file.split('/node_modules/').pop() ?? file
        if (target && target.flags & ts.SymbolFlags.Class)
          element(tag, checker.getDeclaredTypeOfSymbol(target), cls, module)
        else if (!entries.some(e => e.tag === tag)) {
          left.push({
            where: module,
            what: `<${tag}> is defined there, and no declaration says what it takes`,
          })
          entries.push({ tag, class: cls, module, props: [], slots: [], events: [] })
        }
      }
    })
    for (const file of [...(question.files ?? []), ...(question.drawing ?? [])]) {
      const places = placesOf(file)
      const entry = places && entries.find(e => e.tag === places.tag)
      if (entry && !entry.slots.length) entry.slots = places.slots
    }
  } else
    question.specs.forEach((spec, i) => {
      const given = exportsOf('m' + i)
      if (question.drawn === 'angular') modules(given)
      for (const s of given)
        if (s.name !== 'default' && /^[A-Z]/.test(single(s.name))) take(s.name, s, spec, 0)
      // What a module gives without a name is called after the module, unless it has one there.
      const bare = given.find(s => s.name === 'default')
      if (!bare) return
      const before = entries.length
      const called = question.specs.length > 1 ? spec : question.package
      take(pascal(path.basename(called).replace(/\.[cm]?[jt]sx?$/, '')), bare, spec, 0)
      if (entries.length > before) entries[before]!.default = true
    })
}

for (let next = parts.shift(); next; next = parts.shift()) next()
for (const [symbol, e] of known) if (/Provider$/.test(e.export ?? '') && !late()) handed(e, symbol)
if (byName.length)
  left.push({
    where: 'types',
    what: `${byName.length} components are known by their names alone, since ${question.seconds} s had gone by: ${some(byName)}`,
  })

if (untaken.size)
  left.push({
    where: 'types',
    what: `${untaken.size} names are declared as nothing that draws, and taken for no components: ${some([...untaken])}`,
  })

// What comes from one declaration and stands on more than a third of the components are
// the library's system props, told once, and the events that it gives every element, of which
// those worth knowing are told.
const counts = new Map<string, number>()
const keyOf = (p: Prop | Named) => `${p.declared}#${p.name}`
if (question.drawn !== 'elements')
  for (const e of entries)
    for (const p of [...e.props, ...e.events])
      if (p.declared) counts.set(keyOf(p), (counts.get(keyOf(p)) ?? 0) + 1)
const limit = Math.max(8, entries.length / 3)
const system = new Map<string, Prop>()
for (const e of entries)
  e.props = e.props.filter(p => {
    const common = (counts.get(keyOf(p)) ?? 0) > limit
    if (common) system.set(keyOf(p), p)
    return !common
  })
for (const e of entries)
  e.events = e.events.filter(v => (counts.get(keyOf(v)) ?? 0) <= limit || TOLD.has(v.name))
/** What the names that were asked for stand for, wherever the library declares them. */
function namedTypes() {
  const asked = new Set(question.names)
  const out: { name: string; file: string; values: string[] }[] = []
  if (!asked.size) return out
  for (const file of program.getSourceFiles()) {
    if (file.fileName === probe || path.dirname(file.fileName) === LIB_DIR) continue
    for (const s of file.statements) {
      if (!ts.isEnumDeclaration(s) && !ts.isTypeAliasDeclaration(s)) continue
      if (!asked.has(s.name.text)) continue
      const symbol = checker.getSymbolAtLocation(s.name)
      const known = symbol && valuesOf(checker.getDeclaredTypeOfSymbol(symbol))
      if (known && !known.loose && !known.yesNo && known.values.length > 1)
        out.push({ name: s.name.text, file: file.fileName, values: known.values })
    }
  }
  return out
}

const plain = <T extends Prop | Named>({ declared: _, ...p }: T) => p
process.stdout.write(
  JSON.stringify({
    format: '',
    components: entries.map(e => ({
      ...e,
      props: e.props.map(plain),
      events: e.events.map(plain),
    })),
    system: [...system.values()].map(plain),
    named: namedTypes(),
    left,
  }),
)
