/** The settings, slots and events that a type of properties holds. */
import ts from 'typescript'
import { at, checker } from './program'
import { left, type Named, type Prop } from './question'
import { calls, deprecatedOf, docOf, fileOf, foreign, tagOf, textOf, valuesOf } from './says'

const NODE = /\b(ReactNode|ReactElement|JSX\.Element|VNode|VNodeChild|Slot|Element\b)/
const LABEL =
  /(label|title|text|heading|header|caption|legend|message|description|summary|placeholder|content|subtitle|helper|hint|error)$/i

export const simple = (t: ts.Type): 'text' | 'number' | 'data' => {
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
export const TOLD = new Set(['onClick', 'onChange', 'onSubmit', 'onInput'])
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
export function propsOf(type: ts.Type, who: string, drawn: string, fields = false): Read {
  const out: Read = { props: [], slots: [], events: [] }
  const functions: string[] = []
  // Of a class that is declared as what it is in use, the methods are nothing that is set.
  const all = checker
    .getPropertiesOfType(checker.getApparentType(type))
    .filter(p => !fields || !(p.flags & ts.SymbolFlags.Method))
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
