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
 * files those that define custom elements, drawing those with the code of one each, names are types whose values are asked for. What is met and not taken is in "left".
 */
import { readFileSync } from 'node:fs'
import path from 'node:path'
import ts from 'typescript'

declare const LIBS: Record<string, string>

interface Question {
  dir: string
  package: string
  drawn: 'elements' | 'vue' | 'react' | 'angular'
  specs: string[]
  files?: string[]
  drawing?: string[] // modules of elements, one each, whose code says what may stand in them
  names?: string[] // types that another source names and does not say
  seconds?: number // after which components are known by their names alone
  code?: boolean // the modules are code without declarations: what their objects say of themselves counts
}
interface Named {
  name: string
  summary?: string
  /** file that declares it, while what all have is looked for */
  declared?: string
}
interface Prop extends Named {
  type: 'text' | 'yes/no' | 'number' | 'choice' | 'data'
  values?: string[]
  open?: boolean
  numbers?: boolean
  shape?: string
  default?: string
  required?: boolean
  deprecated?: string
  from: string
  given?: string[] // exports that can be handed to it
}
interface Entry {
  export?: string
  default?: boolean // the module gives it without a name
  module?: string
  class?: string
  tag?: string
  selector?: string
  summary?: string
  deprecated?: string
  props: Prop[]
  slots: Named[]
  events: Named[]
}
interface Left {
  where: string
  what: string
}

/** Types that say nothing of what may stand. */
const ANYTHING = ts.TypeFlags.Any | ts.TypeFlags.Unknown | ts.TypeFlags.Never

/** More values than these are no choice that a person makes. */
const MOST_VALUES = 40

const question = JSON.parse(readFileSync(0, 'utf8')) as Question
const left: Left[] = []

const LIB_DIR = path.join(question.dir, '__lib__')
const probe = path.join(question.dir, '__probe__.ts')
const lines: string[] = []
question.specs.forEach((spec, i) => lines.push(`export * as m${i} from ${JSON.stringify(spec)};`))
;(question.files ?? []).forEach((file, i) =>
  lines.push(`export * as f${i} from ${JSON.stringify(file)};`),
)
const source = lines.join('\n')

const options: ts.CompilerOptions = {
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ESNext,
  moduleResolution: ts.ModuleResolutionKind.Bundler,
  jsx: ts.JsxEmit.ReactJSX,
  strict: true,
  skipLibCheck: true,
  noEmit: true,
  types: [],
  lib: ['lib.es2022.d.ts', 'lib.dom.d.ts', 'lib.dom.iterable.d.ts'],
  allowJs: !!question.code,
  experimentalDecorators: true,
}
if (question.code) options.maxNodeModuleJsDepth = 2
const host = ts.createCompilerHost(options)
const readFile = host.readFile.bind(host)
const fileExists = host.fileExists.bind(host)
const getSourceFile = host.getSourceFile.bind(host)
const libOf = (file: string) =>
  path.dirname(file) === LIB_DIR ? LIBS[path.basename(file)] : undefined
host.getDefaultLibLocation = () => LIB_DIR
host.getDefaultLibFileName = o => path.join(LIB_DIR, ts.getDefaultLibFileName(o))
host.readFile = f => (f === probe ? source : (libOf(f) ?? readFile(f)))
host.fileExists = f => f === probe || libOf(f) !== undefined || fileExists(f)
host.getSourceFile = (f, o) => {
  const own = f === probe ? source : libOf(f)
  return own !== undefined ? ts.createSourceFile(f, own, o) : getSourceFile(f, o)
}
const program = ts.createProgram([probe], options, host)
const checker = program.getTypeChecker()
const at = program.getSourceFile(probe)!
const moduleSymbol = checker.getSymbolAtLocation(at)

for (const d of program.getSemanticDiagnostics(at))
  left.push({
    where: 'types',
    what: ts.flattenDiagnosticMessageText(d.messageText, ' ').slice(0, 300),
  })

const fileOf = (s: ts.Symbol) => s.declarations?.[0]?.getSourceFile().fileName ?? ''
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
const docOf = onceDeclared(s =>
  ts
    .displayPartsToString(s.getDocumentationComment(checker))
    .split(/\n\s*\n/)[0]!
    .replace(/\s+/g, ' ')
    .slice(0, 400),
)
const tagsOf = onceDeclared(s => s.getJsDocTags(checker))
const tagOf = (s: ts.Symbol, ...names: string[]) => {
  const t = tagsOf(s).find(t => names.includes(t.name))
  return t && ts.displayPartsToString(t.text).trim()
}
const deprecatedOf = (s: ts.Symbol) => {
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
const textOf = once((t: ts.Type) => {
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
const foreign = (s: ts.Symbol) => {
  const files = (s.declarations ?? []).map(d => d.getSourceFile().fileName)
  return files.length > 0 && files.every(f => FOREIGN.test(f))
}

interface Values {
  values: string[]
  loose: boolean // something else than the values may stand
  yesNo: boolean
  numbers: boolean
}
const valuesOf = once((type: ts.Type): Values => {
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
  if (out.values.length > MOST_VALUES) {
    out.values = []
    out.loose = true
  }
  return out
})

const NODE = /\b(ReactNode|ReactElement|JSX\.Element|VNode|VNodeChild|Slot|Element\b)/
const LABEL =
  /(label|title|text|heading|header|caption|legend|message|description|summary|placeholder|content|subtitle|helper|hint|error)$/i

const simple = (t: ts.Type): 'text' | 'number' | 'data' => {
  const parts = t.isUnion() ? t.types : [t]
  const real = parts.filter(
    p => !(p.flags & (ts.TypeFlags.Undefined | ts.TypeFlags.Null | ts.TypeFlags.Void)),
  )
  if (real.length && real.every(p => p.flags & (ts.TypeFlags.Number | ts.TypeFlags.NumberLiteral)))
    return 'number'
  if (
    real.some(
      p =>
        p.flags &
        (ts.TypeFlags.StringLike |
          ts.TypeFlags.TemplateLiteral |
          ts.TypeFlags.Any |
          ts.TypeFlags.Unknown |
          ts.TypeFlags.TypeParameter),
    )
  )
    return 'text'
  if (real.some(p => p.isIntersection() && p.types.some(x => x.flags & ts.TypeFlags.String)))
    return 'text'
  if (real.some(p => p.flags & ts.TypeFlags.Object)) return 'data'
  return 'text'
}
const calls = (t: ts.Type) => {
  const parts = t.isUnion() ? t.types : [t]
  const real = parts.filter(
    p => !(p.flags & (ts.TypeFlags.Undefined | ts.TypeFlags.Null | ts.TypeFlags.Void)),
  )
  return real.length > 0 && real.every(p => p.getCallSignatures().length > 0)
}

const partsOf = (t: ts.Type) => (t.isUnion() ? t.types : [t])
/** One of many kinds of values may be an element, whatever else may stand there. */
const takesElement = (t: ts.Type) =>
  t.isUnion() &&
  t.types.some(p => /^(ReactElement|ReactPortal)$/.test(p.symbol?.name ?? '') || isJsx(p))
const isJsx = (t: ts.Type) =>
  t.symbol?.name === 'Element' && /JSX\.Element$/.test(checker.getFullyQualifiedName(t.symbol))
const takesWords = (t: ts.Type) => partsOf(t).some(p => p.flags & ts.TypeFlags.String)

interface Read {
  props: Prop[]
  slots: Named[]
  events: Named[]
}
const EVENT = /^on[A-Z:]/
/** Handlers that the page gives every element; of them these are worth knowing. */
const TOLD = new Set(['onClick', 'onChange', 'onSubmit', 'onInput'])
/** Handlers of the way down, which no component of a library has of its own. */
const CAUGHT = /^on[A-Z]\w*Capture$/
/** What a field of the page has, and one sets on whatever component is such a field. */
const FIELD = new Set([
  'value',
  'checked',
  'name',
  'type',
  'placeholder',
  'required',
  'disabled',
  'min',
  'max',
])
/** Of the two that say what a field holds it has one: what is ticked is told by its name. */
const holdsBy = (name: string, who: string) => {
  const ticked = /check|radio|switch|toggle/i.test(who)
  return !(name === 'checked' && !ticked) && !((name === 'value' || name === 'type') && ticked)
}
const OWN_AFFAIR =
  /^(key|ref|ref_for|ref_key|class|className|style|id|is|slot|sx|css|classNames|styles|onVnode.*|[$@].*|v-slots|__.*|_.*|#.*)$/

/** The settings, slots and events in a type of properties. */
function propsOf(type: ts.Type, who: string, drawn: string): Read {
  const out: Read = { props: [], slots: [], events: [] }
  const functions: string[] = []
  const all = checker.getPropertiesOfType(checker.getApparentType(type))
  // What takes all that a field of a page takes has nothing in it.
  const field = all.some(p => p.name === 'maxLength' && foreign(p))
  for (const p of all) {
    const { name } = p
    if (OWN_AFFAIR.test(name)) continue
    const isForeign = foreign(p)
    if (drawn === 'react' && name === 'children') {
      const t = checker.getTypeOfSymbolAtLocation(p, at)
      if (!(t.flags & (ts.TypeFlags.Never | ts.TypeFlags.Undefined)) && !(field && isForeign))
        out.slots.push({ name: '' })
      continue
    }
    // Of what the page gives a declaration may pick names that are not there: anything is.
    if (CAUGHT.test(name)) continue
    if (isForeign && TOLD.has(name) && drawn === 'react') out.events.push({ name })
    if (isForeign && !(drawn === 'react' && field && FIELD.has(name) && holdsBy(name, who)))
      continue
    if (/^(aria-|data-)/.test(name) && drawn !== 'elements') continue
    const whole = checker.getTypeOfSymbolAtLocation(p, at)
    const type = checker.getNonNullableType(whole)
    const shape = textOf(type).slice(0, 200)
    if (EVENT.test(name) && (calls(type) || /=>|Function|Handler/.test(shape))) {
      out.events.push({ name, summary: docOf(p) || undefined, declared: fileOf(p) })
      continue
    }
    const prop: Prop = {
      name,
      type: 'text',
      from: 'types',
      declared: fileOf(p),
      summary: docOf(p) || undefined,
      default: tagOf(p, 'default', 'defaultValue'),
      deprecated: deprecatedOf(p),
      // What an element always has, nobody has to set.
      required:
        drawn === 'elements' ||
        p.flags & ts.SymbolFlags.Optional ||
        whole.flags & (ts.TypeFlags.Any | ts.TypeFlags.Unknown)
          ? undefined
          : !(whole.isUnion() && whole.types.some(t => t.flags & ts.TypeFlags.Undefined)),
    }
    if (calls(type)) {
      const method =
        drawn === 'elements' &&
        p.declarations?.some(d => ts.isMethodDeclaration(d) || ts.isMethodSignature(d))
      if (!method) functions.push(name)
      continue
    }
    if (drawn === 'elements' && isMethodOrReadonly(p)) continue
    const drawable = drawn !== 'elements' && takesElement(type)
    const node = NODE.test(shape) && drawn !== 'elements' && !/HTML\w*Element/.test(shape)
    if (node || drawable) {
      out.slots.push({ name, summary: docOf(p) || undefined })
      if (!LABEL.test(name) || !(/ReactNode|VNodeChild|string/.test(shape) || takesWords(type)))
        continue
      prop.shape = shape // words may stand there as well
      prop.required = undefined
      out.props.push(prop)
      continue
    }
    const v = valuesOf(type)
    if (v.values.length > 1 || (v.values.length === 1 && !v.yesNo && !v.loose)) {
      prop.type = 'choice'
      prop.values = v.values
      prop.numbers = v.numbers || undefined
      prop.open = v.loose || undefined
      if (v.loose || v.yesNo) prop.shape = shape
    } else if (v.yesNo) {
      prop.type = 'yes/no'
      // What it takes beside is said in full, whatever it is called.
      if (v.loose)
        prop.shape = (type.isUnion() ? type.types.map(textOf).join(' | ') : shape).slice(0, 200)
    } else {
      prop.type = simple(type)
      prop.shape = shape
    }
    out.props.push(prop)
  }
  if (functions.length)
    left.push({
      where: who,
      what: `only code can give ${functions.slice(0, 12).join(', ')}: functions`,
    })
  return out
}

const literal = (n: ts.Node | undefined): string | undefined =>
  n && ts.isLiteralTypeNode(n) && ts.isStringLiteral(n.literal) ? n.literal.text : undefined

type Arguments = ts.NodeArray<ts.TypeNode>

/** Angular writes into its declarations what its compiler knows: selector, inputs,
 * outputs and places for content, as arguments of the type of a static property. */
function angular(name: string, type: ts.Type, symbol: ts.Symbol): Entry | undefined {
  const marks = (t: ts.Type): [Arguments, boolean] | undefined => {
    const component = t.getProperty('ɵcmp')
    const def = component ?? t.getProperty('ɵdir')
    const node = def?.valueDeclaration
    if (
      !node ||
      !ts.isPropertyDeclaration(node) ||
      !node.type ||
      !ts.isTypeReferenceNode(node.type)
    )
      return
    return node.type.typeArguments ? [node.type.typeArguments, !!component] : undefined
  }
  const own = marks(type)
  if (!own) return
  const [args] = own
  const selector = literal(args[1])
  if (!selector) return
  const instance = checker.getDeclaredTypeOfSymbol(symbol)
  const chain = [args]
  const up = (t: ts.Type | undefined) =>
    t?.symbol && t.symbol.flags & ts.SymbolFlags.Class
      ? checker.getBaseTypes(((t as ts.TypeReference).target ?? t) as ts.InterfaceType)[0]
      : undefined
  for (let base = up(instance), n = 0; base && n < 16; base = up(base), n++) {
    const above = base.symbol && marks(checker.getTypeOfSymbolAtLocation(base.symbol, at))
    if (above && !chain.includes(above[0])) chain.push(above[0])
  }
  const members = (i: number) =>
    chain.flatMap(a => {
      const node = a[i]
      return node && ts.isTypeLiteralNode(node) ? [...node.members] : []
    })
  const entry: Entry = {
    export: name,
    class: name,
    selector,
    summary: docOf(symbol),
    deprecated: deprecatedOf(symbol),
    props: [],
    slots: [],
    events: [],
  }
  const key = (m: ts.TypeElement) =>
    m.name && (ts.isStringLiteral(m.name) || ts.isIdentifier(m.name)) ? m.name.text : ''
  for (const m of members(3)) {
    const field = key(m)
    const info = (m as ts.PropertySignature).type
    let alias = literal(info)
    let required = false
    if (info && ts.isTypeLiteralNode(info))
      for (const x of info.members) {
        const t = (x as ts.PropertySignature).type
        if (key(x) === 'alias') alias = literal(t)
        if (key(x) === 'required') required = t?.getText().trim() === 'true'
      }
    const symbolOf = instance.getProperty(field)
    let t = symbolOf && checker.getTypeOfSymbolAtLocation(symbolOf, at)
    if (t && /Signal(WithTransform)?</.test(textOf(t)))
      t = t.aliasTypeArguments?.[0] ?? checker.getTypeArguments(t as ts.TypeReference)[0] ?? t
    const v = t ? valuesOf(t) : { values: [], loose: true, yesNo: false, numbers: false }
    const prop: Prop = {
      name: alias || field,
      type: 'text',
      from: 'types',
      declared: symbolOf && fileOf(symbolOf),
      summary: (symbolOf && docOf(symbolOf)) || undefined,
      deprecated: symbolOf && deprecatedOf(symbolOf),
      required: required || undefined,
    }
    if (t && calls(checker.getNonNullableType(t))) {
      left.push({ where: name, what: `only code can give ${prop.name}: a function` })
      continue
    }
    if (v.values.length > 1) {
      prop.type = 'choice'
      prop.values = v.values
      prop.numbers = v.numbers || undefined
      prop.open = v.loose || undefined
    } else if (v.yesNo) prop.type = 'yes/no'
    else if (t) {
      prop.type = simple(checker.getNonNullableType(t))
      prop.shape = textOf(t).slice(0, 200)
    }
    if (!entry.props.some(p => p.name === prop.name)) entry.props.push(prop)
  }
  for (const m of members(4)) {
    const event = literal((m as ts.PropertySignature).type)
    if (event && !entry.events.some(e => e.name === event)) entry.events.push({ name: event })
  }
  const places = args[6]
  if (places && ts.isTupleTypeNode(places))
    for (const place of places.elements) {
      const select = literal(place)
      if (select) entry.slots.push({ name: select === '*' ? '' : select })
    }
  return entry
}

const single = (name: string) => name.replace(/[^\w$.]/g, '')

/** A component of a framework, by the type of what the module gives. */
function component(name: string, type: ts.Type, symbol: ts.Symbol): Entry | undefined {
  const about = {
    export: name,
    class: name,
    summary: docOf(symbol) || undefined,
    deprecated: deprecatedOf(symbol),
  }
  if (question.drawn === 'angular') return angular(name, type, symbol)
  const made = type.getConstructSignatures()[0]
  const instance = made && checker.getReturnTypeOfSignature(made)
  if (question.drawn === 'vue') {
    const settings = instance?.getProperty('$props')
    if (instance && settings) {
      const read = propsOf(checker.getTypeOfSymbolAtLocation(settings, at), name, 'vue')
      const slots = instance.getProperty('$slots')
      const slotType =
        slots && checker.getNonNullableType(checker.getTypeOfSymbolAtLocation(slots, at))
      for (const s of slotType?.getProperties() ?? []) {
        const slot = s.name === 'default' ? '' : s.name
        if (!/^[\w:-]*$/.test(slot)) continue
        if (!read.slots.some(o => o.name === slot))
          read.slots.push({ name: slot, summary: docOf(s) || undefined })
      }
      const emit = instance.getProperty('$emit')
      const emits = emit && checker.getTypeOfSymbolAtLocation(emit, at)
      for (const s of emits?.getCallSignatures() ?? []) {
        const first = s.parameters[0] && checker.getTypeOfSymbolAtLocation(s.parameters[0], at)
        for (const t of first?.isUnion() ? first.types : first ? [first] : [])
          if (t.isStringLiteral()) read.events.push({ name: t.value })
      }
      const event = (n: string) => n.replace(/^on([A-Z])/, (_, c: string) => c.toLowerCase())
      const events = new Map(read.events.map(e => [event(e.name), { ...e, name: event(e.name) }]))
      return { ...about, ...read, events: [...events.values()] }
    }
    const call = type.getCallSignatures().at(-1)
    if (
      call &&
      call.parameters.length <= 2 &&
      /VNode/.test(textOf(checker.getReturnTypeOfSignature(call)))
    ) {
      const first = call.parameters[0]
      const read = first
        ? propsOf(checker.getTypeOfSymbolAtLocation(first, at), name, 'vue')
        : { props: [], slots: [], events: [] }
      return { ...about, ...read }
    }
    const told = question.code && optionsOf(symbol)
    return told ? { ...about, ...told } : undefined
  }
  // React: a class with render, or a function of its properties.
  let settings: ts.Type | undefined
  if (instance?.getProperty('render') && instance.getProperty('props'))
    settings = checker.getTypeOfSymbolAtLocation(instance.getProperty('props')!, at)
  else {
    const call = type.getCallSignatures().at(-1)
    if (!call || call.parameters.length > 2) return
    const returns = textOf(checker.getReturnTypeOfSignature(call))
    // What React makes of a component is marked, whatever it is said to give.
    if (!/Element|ReactNode|ReactPortal/.test(returns) && !type.getProperty('$$typeof')) return
    if (/HTML\w*Element/.test(returns)) return
    if (!call.parameters.length) return { ...about, props: [], slots: [], events: [] }
    settings = checker.getTypeOfSymbolAtLocation(call.parameters[0]!, at)
  }
  if (settings.symbol?.name === 'ProviderProps') return // it hands on a context, and draws nothing
  if (settings.flags & ts.TypeFlags.Any) {
    left.push({ where: name, what: 'its properties are declared as any' })
    return { ...about, props: [], slots: [{ name: '' }], events: [] }
  }
  const read = propsOf(settings, name, 'react')
  // What becomes whatever element it is told takes what that takes, so also children.
  const void_ = settings.getProperties().some(p => p.name === 'maxLength' && foreign(p))
  const generic = !void_ && type.getCallSignatures().some(c => c.typeParameters?.length)
  if (generic && !read.slots.some(s => s.name === '')) read.slots.push({ name: '' })
  return { ...about, ...read }
}

/** What code wraps an object in: its first argument is what counts. */
function unwrapped(n: ts.Expression | undefined, depth = 0): ts.Expression | undefined {
  if (!n || depth > 8) return n
  if (ts.isParenthesizedExpression(n)) return unwrapped(n.expression, depth + 1)
  if (ts.isCallExpression(n)) return unwrapped(n.arguments[0], depth + 1)
  if (ts.isIdentifier(n)) {
    const s = checker.getSymbolAtLocation(n)
    const d = s?.valueDeclaration
    return d && ts.isVariableDeclaration(d) ? unwrapped(d.initializer, depth + 1) : undefined
  }
  return n
}

/** All objects that an expression puts together: what is spread, and what helpers merge. */
function objectsOf(n: ts.Expression | undefined, depth = 0): ts.ObjectLiteralExpression[] {
  if (!n || depth > 8) return []
  if (ts.isObjectLiteralExpression(n)) return [n]
  if (ts.isCallExpression(n)) return n.arguments.flatMap(a => objectsOf(a, depth + 1))
  const is = unwrapped(n)
  return is && is !== n ? objectsOf(is, depth + 1) : []
}

const memberOf = (o: ts.Expression | undefined, name: string): ts.Expression | undefined => {
  if (!o || !ts.isObjectLiteralExpression(o)) return
  for (const p of o.properties)
    if (ts.isPropertyAssignment(p) && p.name.getText().replace(/['"]/g, '') === name)
      return p.initializer
}

/** What a component of Vue says of itself where it is an object of options: its props with the kinds
 * of their values, and what it tells. */
function optionsOf(symbol: ts.Symbol): Pick<Entry, 'props' | 'slots' | 'events'> | undefined {
  const d = symbol.valueDeclaration ?? symbol.declarations?.[0]
  const o = unwrapped(
    d && ts.isVariableDeclaration(d)
      ? d.initializer
      : d && ts.isExportAssignment(d)
        ? d.expression
        : undefined,
  )
  if (!o || !ts.isObjectLiteralExpression(o)) return
  const has = (name: string) =>
    o.properties.some(p => p.name?.getText().replace(/['"]/g, '') === name)
  if (!['setup', 'render', 'template', 'data', 'methods', 'computed', 'mixins'].some(has)) return
  const props: Prop[] = []
  const told = (from: ts.ObjectLiteralExpression, depth: number) => {
    const mixins = unwrapped(memberOf(from, 'mixins'))
    if (depth < 4 && mixins && ts.isArrayLiteralExpression(mixins))
      for (const m of mixins.elements) {
        const mixed = unwrapped(m)
        if (mixed && ts.isObjectLiteralExpression(mixed)) told(mixed, depth + 1)
      }
    const list = unwrapped(memberOf(from, 'props'))
    if (list && ts.isArrayLiteralExpression(list))
      for (const e of list.elements)
        if (ts.isStringLiteralLike(e)) props.push({ name: e.text, type: 'text', from: 'types' })
    for (const o of objectsOf(memberOf(from, 'props'))) each(o, 0)
  }
  const each = (list: ts.ObjectLiteralExpression, depth: number) => {
    for (const p of list.properties) {
      if (ts.isSpreadAssignment(p) && depth < 4)
        for (const o of objectsOf(p.expression)) each(o, depth + 1)
      if (!ts.isPropertyAssignment(p)) continue
      const name = p.name.getText().replace(/['"]/g, '')
      if (props.some(q => q.name === name)) continue
      const is = ts.isObjectLiteralExpression(p.initializer) ? p.initializer : undefined
      const kinds = (is ? memberOf(is, 'type') : p.initializer)?.getText() ?? ''
      const usual = memberOf(is, 'default')
      const some = (k: string) => new RegExp(`\\b${k}\\b`).test(kinds)
      if (kinds === 'Function') continue
      props.push({
        name,
        from: 'types',
        type:
          kinds === 'Boolean' || usual?.kind === ts.SyntaxKind.TrueKeyword
            ? 'yes/no'
            : kinds === 'Number'
              ? 'number'
              : some('String')
                ? 'text'
                : some('Array') || some('Object')
                  ? 'data'
                  : some('Boolean')
                    ? 'yes/no'
                    : 'text',
        shape: kinds.length < 60 ? kinds : undefined,
        required: memberOf(is, 'required')?.kind === ts.SyntaxKind.TrueKeyword || undefined,
        default:
          usual && (ts.isStringLiteralLike(usual) || ts.isNumericLiteral(usual))
            ? usual.text
            : usual?.kind === ts.SyntaxKind.TrueKeyword
              ? 'true'
              : undefined,
      })
    }
  }
  told(o, 0)
  const emits = unwrapped(memberOf(o, 'emits'))
  const events: Named[] = []
  if (emits && ts.isArrayLiteralExpression(emits)) {
    for (const e of emits.elements) if (ts.isStringLiteralLike(e)) events.push({ name: e.text })
  } else if (emits && ts.isObjectLiteralExpression(emits))
    for (const p of emits.properties)
      if (p.name) events.push({ name: p.name.getText().replace(/['"]/g, '') })
  return { props, slots: [{ name: '' }], events }
}

/** What a component that provides cannot do without may be what the library itself gives: values of
 * just that type. */
function handed(e: Entry) {
  const needs = e.props.filter(p => p.required && p.type === 'data')
  const symbol = [...known].find(([, entry]) => entry === e)?.[0]
  if (!needs.length || !symbol) return
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

/** When nothing more is looked into, so that what is known by then is told. */
const late = () => performance.now() > 1000 * (question.seconds ?? Infinity)
const byName: string[] = []
/** What may be a component, and was not looked into any more. */
function unread(name: string, type: ts.Type): Entry | undefined {
  if (question.drawn === 'angular') return
  if (!type.getCallSignatures().length && !type.getConstructSignatures().length) return
  byName.push(name)
  return { export: name, class: name, props: [], slots: [{ name: '' }], events: [] }
}

const entries: Entry[] = []
const known = new Map<ts.Symbol, Entry>()
const types = new Map<ts.Type, Entry>()
/** Parts of components, looked at once all that stands by itself is known. */
const parts: (() => void)[] = []

function take(name: string, symbol: ts.Symbol, module: string, depth: number) {
  const s = symbol.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(symbol) : symbol
  if (!(s.flags & ts.SymbolFlags.Value)) return
  let type: ts.Type
  try {
    type = checker.getTypeOfSymbolAtLocation(s, at)
    const before = known.get(s) ?? (depth > 0 ? types.get(type) : undefined)
    if (type.getProperty('Provider') && type.getProperty('Consumer')) return // a context
    if (before) {
      // The same under two names: the shorter one counts.
      if (before.export && name.length < before.export.length && depth === 0) before.export = name
      return
    }
    const entry = late() ? unread(name, type) : component(name, type, s)
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

/** A custom element by the class of its instances. */
function element(tag: string, type: ts.Type, cls: string, module: string) {
  if (entries.some(e => e.tag === tag)) return
  const read = propsOf(type, `<${tag}>`, 'elements')
  const s = type.symbol
  entries.push({
    tag,
    class: cls,
    module,
    summary: (s && docOf(s)) || undefined,
    deprecated: s && deprecatedOf(s),
    props: read.props,
    slots: [],
    events: heardOf(type),
  })
}

/** The events that an element's declaration lets one listen to by their names: those of the maps
 * that addEventListener takes its names from, but for what every element of a page tells. */
function heardOf(type: ts.Type): Named[] {
  const listen = type.getProperty('addEventListener')
  const out = new Map<string, Named>()
  for (const d of listen?.declarations ?? []) {
    if (!ts.isMethodSignature(d) && !ts.isMethodDeclaration(d)) continue
    const names = d.typeParameters?.[0]?.constraint
    if (!names || !ts.isTypeOperatorNode(names) || names.operator !== ts.SyntaxKind.KeyOfKeyword)
      continue
    for (const p of checker.getPropertiesOfType(checker.getTypeFromTypeNode(names.type)))
      if (!foreign(p)) out.set(p.name, { name: p.name, summary: docOf(p) || undefined })
  }
  return [...out.values()]
}

/** What the code of elements says may stand in them: the places that it draws, and those that
 * remarks at its classes name. Of a file that has one element. */
function placesOf(file: string): { tag: string; slots: Named[] } | undefined {
  const text = readFile(file)
  if (!text || text.length > 1_000_000 || !/slot/.test(text)) return
  const tree = ts.createSourceFile(file, text, ts.ScriptTarget.ES2022, true, ts.ScriptKind.JS)
  const tags = new Set(defines(file).map(d => d.tag))
  const slots = new Map<string, Named>()
  const put = (name: string, summary?: string) => {
    const known = slots.get(name)
    slots.set(name, { name, summary: known?.summary ?? summary })
  }
  const inMarkup = (markup: string) => {
    for (const [, attributes = ''] of markup.matchAll(/<slot((?:\s[^>]*)?)>/g))
      put(/\sname\s*=\s*["']?([\w-]+)/.exec(attributes)?.[1] ?? '')
  }
  const visit = (n: ts.Node) => {
    if (
      ts.isGetAccessorDeclaration(n) &&
      n.name.getText() === 'is' &&
      n.body?.statements[0] &&
      ts.isReturnStatement(n.body.statements[0])
    ) {
      const is = n.body.statements[0].expression
      if (is && ts.isStringLiteralLike(is)) tags.add(is.text)
    }
    if (ts.isClassLike(n))
      for (const tag of ts.getJSDocTags(n))
        if (tag.tagName.text === 'slot') {
          const says = ts.getTextOfJSDocComment(tag.comment) ?? ''
          const [, name = '', what] = /^(?:([\w-]+)\s*)?(?:-\s*(.*))?$/s.exec(says.trim()) ?? []
          put(name === 'default' ? '' : name, what?.trim() || undefined)
        }
    if (ts.isCallExpression(n)) {
      const [what, settings] = n.arguments
      if (what && ts.isStringLiteralLike(what) && what.text === 'slot') {
        let name: string | undefined = ''
        if (settings && ts.isObjectLiteralExpression(settings))
          for (const p of settings.properties)
            if (ts.isPropertyAssignment(p) && p.name.getText() === 'name')
              name = ts.isStringLiteralLike(p.initializer) ? p.initializer.text : undefined
        if (name !== undefined) put(name)
      }
    }
    if (
      ts.isNoSubstitutionTemplateLiteral(n) ||
      ts.isTemplateHead(n) ||
      ts.isTemplateMiddleOrTemplateTail(n)
    )
      inMarkup(n.text)
    ts.forEachChild(n, visit)
  }
  visit(tree)
  const [tag, other] = tags
  return tag && !other ? { tag, slots: [...slots.values()] } : undefined
}

/** What a class has and nobody sets. */
function isMethodOrReadonly(p: ts.Symbol): boolean {
  const d = p.declarations?.[0]
  if (!d) return true
  const flags = ts.getCombinedModifierFlags(d)
  if (
    flags &
    (ts.ModifierFlags.Private |
      ts.ModifierFlags.Protected |
      ts.ModifierFlags.Readonly |
      ts.ModifierFlags.Static)
  )
    return true
  return ts.isGetAccessor(d) && !p.declarations!.some(ts.isSetAccessor)
}

/** Tags that a module's script defines, with the class's name. */
function defines(file: string): { tag: string; cls: string }[] {
  const text = readFile(file)
  if (!text) return []
  const out: { tag: string; cls: string }[] = []
  const tree = ts.createSourceFile(file, text, ts.ScriptTarget.ES2022, true, ts.ScriptKind.JS)
  const visit = (n: ts.Node) => {
    if (ts.isCallExpression(n)) {
      const f = n.expression
      const first = n.arguments[0]
      const name = ts.isIdentifier(f) ? f.text : ts.isPropertyAccessExpression(f) ? f.name.text : ''
      if (first && ts.isStringLiteralLike(first) && first.text.includes('-')) {
        if (name === 'define' && n.arguments[1] && ts.isIdentifier(n.arguments[1]))
          out.push({ tag: first.text, cls: n.arguments[1].text })
        else if (name === 'customElement') {
          let up: ts.Node = n
          while (up.parent && !ts.isBinaryExpression(up) && !ts.isClassDeclaration(up))
            up = up.parent
          const cls =
            ts.isBinaryExpression(up) && ts.isIdentifier(up.left)
              ? up.left.text
              : ts.isClassDeclaration(up)
                ? (up.name?.text ?? '')
                : ''
          out.push({ tag: first.text, cls })
        }
      }
    }
    ts.forEachChild(n, visit)
  }
  visit(tree)
  return out
}

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
for (const e of entries) if (/Provider$/.test(e.export ?? '') && !late()) handed(e)
if (byName.length)
  left.push({
    where: 'types',
    what: `${byName.length} components are known by their names alone, since ${question.seconds} s had gone by: ${byName.slice(0, 12).join(', ')}${byName.length > 12 ? ' …' : ''}`,
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
