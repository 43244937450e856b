/** Components of React and Vue. */
import ts from 'typescript'
import { angular } from './angular'
import { optionsOf } from './options'
import { usualOf } from './defaults'
import { slotsInCode } from './slots'
import { at, checker } from './program'
import { propsOf } from './props'
import { left, question, type Entry } from './question'
import { ANYTHING, deprecatedOf, docOf, foreign, textOf } from './says'

/**
 * Whether a function that may give anything is a component: it is called by a name of its own
 * in what is drawn, or takes what React gives to components alone.
 */
function takesWhatIsDrawn(type: ts.Type, call: ts.Signature): boolean {
  if (type.getProperty('displayName')) return true
  const first = call.parameters[0]
  const settings = first && checker.getTypeOfSymbolAtLocation(first, at)
  return !!settings && ['children', 'className', 'ref'].some(name => settings.getProperty(name))
}

/** Elements of a page in which nothing stands. */
const VOID = ['input', 'textarea', 'img', 'hr', 'br', 'embed', 'area', 'col', 'source', 'track']
/** Whether a component becomes such an element, unless it is told another. */
function isVoid(call: ts.Signature): boolean {
  return (call.typeParameters ?? []).some(p => {
    const first = checker.getDefaultFromTypeParameter(p)
    const kinds = first?.isUnion() ? first.types : first ? [first] : []
    return kinds.length > 0 && kinds.every(t => t.isStringLiteral() && VOID.includes(t.value))
  })
}

/** A component of a framework, by the type of what the module gives. */
export function component(name: string, type: ts.Type, symbol: ts.Symbol): Entry | undefined {
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
      // As Vue had it before: class Button extends Vue { size: string }
      if (!read.props.length && symbol.flags & ts.SymbolFlags.Class) {
        const fields = propsOf(instance, name, 'vue', true).props
        read.props = fields.map(p => ({ ...p, required: undefined }))
        read.slots.push({ name: '' })
      }
      const slots = instance.getProperty('$slots')
      const slotType =
        slots && checker.getNonNullableType(checker.getTypeOfSymbolAtLocation(slots, at))
      for (const s of slotType?.getProperties() ?? []) {
        const slot = s.name === 'default' ? '' : s.name
        if (!/^[\w:-]*$/.test(slot)) continue
        if (!read.slots.some(o => o.name === slot))
          read.slots.push({ name: slot, summary: docOf(s) || undefined })
      }
      if (slotType && checker.getIndexInfoOfType(slotType, ts.IndexKind.String))
        for (const s of slotsInCode(symbol, name))
          if (!read.slots.some(o => o.name === s.name)) read.slots.push(s)
      usualOf(symbol, name, read.props)
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
    const gives = checker.getReturnTypeOfSignature(call)
    const returns = textOf(gives)
    // What React makes of a component is marked, whatever it is said to give.
    const draws = /Element|ReactNode|ReactPortal/.test(returns) || type.getProperty('$$typeof')
    if (!draws && !(gives.flags & ANYTHING && takesWhatIsDrawn(type, call))) return
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
  usualOf(symbol, name, read.props)
  // What becomes whatever element it is told takes what that takes, so also children.
  const void_ = settings.getProperties().some(p => p.name === 'maxLength' && foreign(p))
  const bare = void_ || type.getCallSignatures().some(isVoid)
  if (bare) read.slots = read.slots.filter(s => s.name !== '')
  const generic = !bare && type.getCallSignatures().some(c => c.typeParameters?.length)
  if (generic && !read.slots.some(s => s.name === '')) read.slots.push({ name: '' })
  return { ...about, ...read }
}
