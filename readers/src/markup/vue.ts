import {
  isCoreComponent,
  parse,
  NodeTypes,
  type AttributeNode,
  type DirectiveNode,
  type ElementNode,
  type SimpleExpressionNode,
  type TemplateChildNode,
} from '@vue/compiler-dom'
import type * as t from '@babel/types'
import { declaredBy, takes } from './declared'
import {
  clipped,
  empty,
  type Attribute,
  type Declared,
  type Module,
  type Node,
  type Prop,
} from './neutral'
import { script, visitAll, type Script } from './script'
import { looksIn, nameOf, nothingKnown, valueIn, type Known } from './values'

const nameFrom = (file: string) => {
  const base = file
    .split('/')
    .pop()!
    .replace(/\.vue$/, '')
  return base === 'index' ? (file.split('/').at(-2) ?? base) : base
}

/** What is left of a script when its place in the file is to be kept: blanks before it. */
const padded = (source: string, start: number, end: number) =>
  source.slice(0, start).replace(/[^\n]/g, ' ') + source.slice(start, end)

/** Props by defineProps, in either form, with the defaults that stand beside them. */
function declared(read: Script, out: Module): Declared | undefined {
  let found: Declared | undefined
  const usual = new Map<string, string>()
  const literal = (n: t.Node | null | undefined): string | undefined =>
    n?.type === 'StringLiteral'
      ? n.value
      : n?.type === 'BooleanLiteral' || n?.type === 'NumericLiteral'
        ? String(n.value)
        : undefined
  const kinds: Record<string, Prop['type']> = {
    String: 'text',
    Number: 'number',
    Boolean: 'yes/no',
  }
  const fromObject = (o: t.Node): Declared | undefined => {
    if (o.type === 'ArrayExpression')
      return {
        props: o.elements.flatMap(e =>
          e?.type === 'StringLiteral' ? [{ name: e.value, type: 'data' as const }] : [],
        ),
      }
    if (o.type !== 'ObjectExpression') return undefined
    const props: Prop[] = []
    for (const p of o.properties) {
      if (p.type !== 'ObjectProperty') continue
      const prop: Prop = { name: nameOf(p.key), type: 'data' }
      const type = (n: t.Node): void => {
        if (n.type === 'Identifier') prop.type = kinds[n.name] ?? 'data'
        if (n.type === 'ArrayExpression' && n.elements[0]) type(n.elements[0])
        if (n.type === 'TSAsExpression') {
          type(n.expression)
          const args =
            n.typeAnnotation.type === 'TSTypeReference'
              ? (n.typeAnnotation.typeParameters?.params ?? [])
              : []
          const said = args[0] ? takes(args[0]) : undefined
          if (said && (said.values || said.ref)) Object.assign(prop, said)
        }
      }
      if (p.value.type === 'ObjectExpression') {
        for (const q of p.value.properties) {
          if (q.type === 'ObjectMethod' && nameOf(q.key) === 'validator') values(q.body, prop)
          if (q.type !== 'ObjectProperty') continue
          if (nameOf(q.key) === 'type') type(q.value)
          if (nameOf(q.key) === 'default') prop.default = literal(q.value)
          if (nameOf(q.key) === 'required' && literal(q.value) === 'true') prop.required = true
          if (nameOf(q.key) === 'validator') values(q.value, prop)
        }
      } else type(p.value)
      props.push(prop)
    }
    return { props }
  }
  // ['small', 'large'].includes(value)
  const values = (body: t.Node, prop: Prop): void =>
    visitAll(body, n => {
      if (
        n.type === 'ArrayExpression' &&
        n.elements.length > 1 &&
        n.elements.every(e => e?.type === 'StringLiteral')
      ) {
        prop.values = n.elements.map(e => (e as t.StringLiteral).value)
        prop.type = 'choice'
      }
      return true
    })
  visitAll(read.program, n => {
    if (
      n.type === 'CallExpression' &&
      nameOf(n.callee) === 'withDefaults' &&
      n.arguments[1]?.type === 'ObjectExpression'
    )
      for (const p of n.arguments[1].properties)
        if (p.type === 'ObjectProperty') {
          const d = literal(p.value)
          if (d !== undefined) usual.set(nameOf(p.key), d)
        }
    if (
      n.type === 'VariableDeclarator' &&
      n.id.type === 'ObjectPattern' &&
      n.init?.type === 'CallExpression' &&
      nameOf(n.init.callee) === 'defineProps'
    )
      for (const p of n.id.properties)
        if (p.type === 'ObjectProperty' && p.value.type === 'AssignmentPattern') {
          const d = literal(p.value.right)
          if (d !== undefined) usual.set(nameOf(p.key), d)
        }
    if (n.type === 'CallExpression' && nameOf(n.callee) === 'defineProps') {
      const type =
        n.typeParameters && 'params' in n.typeParameters ? n.typeParameters.params[0] : undefined
      found = type
        ? declaredBy(type as t.Node)
        : n.arguments[0]
          ? fromObject(n.arguments[0])
          : undefined
    }
    if (n.type === 'ExportDefaultDeclaration') {
      const o = n.declaration.type === 'CallExpression' ? n.declaration.arguments[0] : n.declaration
      if (o?.type === 'ObjectExpression')
        for (const p of o.properties)
          if (p.type === 'ObjectProperty' && nameOf(p.key) === 'props')
            found ??= fromObject(p.value)
    }
    return true
  })
  if (!found) return undefined
  // Types of the file itself are looked up here; a prop with the default true or false is one.
  for (const name of found.extends ?? []) {
    const of = out.types[name]?.declared
    if (of)
      found = {
        props: [...found.props, ...of.props],
        extends: [...(found.extends ?? []).filter(e => e !== name), ...(of.extends ?? [])],
      }
  }
  return {
    ...found,
    props: found.props.map(p => ({
      ...p,
      ...(usual.has(p.name) ? { default: usual.get(p.name) } : {}),
    })),
  }
}

class Template {
  constructor(
    private source: string,
    private known: Known,
  ) {}
  slots: string[] = []

  private span(n: {
    loc: { start: { offset: number }; end: { offset: number } }
  }): [number, number] {
    return [n.loc.start.offset, n.loc.end.offset]
  }
  private expression(e: DirectiveNode['exp']) {
    const loc = e!.loc
    return valueIn(
      this.source.slice(loc.start.offset, loc.end.offset),
      loc.start.offset,
      this.known,
    )
  }

  children(list: TemplateChildNode[]): Node[] {
    const out: Node[] = []
    for (const c of list) {
      if (c.type === NodeTypes.TEXT) {
        const raw = this.source.slice(...this.span(c))
        if (!raw.trim()) continue
        const start = c.loc.start.offset + (raw.length - raw.trimStart().length)
        const at: [number, number] = [start, start + raw.trim().length]
        out.push({
          kind: 'text',
          span: this.span(c),
          value: {
            kind: 'text',
            value: c.content.replace(/\s+/g, ' ').trim(),
            form: 'content',
            at,
          },
        })
      }
      if (c.type === NodeTypes.INTERPOLATION)
        out.push({
          kind: 'value',
          span: this.span(c),
          value: this.expression(c.content as SimpleExpressionNode),
        })
      if (c.type === NodeTypes.ELEMENT) out.push(...this.element(c))
    }
    return out
  }

  private directive(e: ElementNode, ...names: string[]) {
    return e.props.find(
      (p): p is DirectiveNode => p.type === NodeTypes.DIRECTIVE && names.includes(p.name),
    )
  }

  private element(e: ElementNode): Node[] {
    if (e.tag === 'slot') {
      const named = e.props.find(
        (p): p is AttributeNode => p.type === NodeTypes.ATTRIBUTE && p.name === 'name',
      )
      const name = named?.value?.content ?? ''
      this.slots.push(name === 'default' ? '' : name)
      return [
        {
          kind: 'slot',
          span: this.span(e),
          name: name === 'default' ? '' : name,
          children: this.children(e.children),
        },
      ]
    }
    const repeat = this.directive(e, 'for')
    const when = this.directive(e, 'if', 'else-if', 'show')
    const otherwise = this.directive(e, 'else')
    const into = this.directive(e, 'slot')
    const around = {
      ...(repeat?.forParseResult
        ? { repeat: clipped(repeat.forParseResult.source.loc.source) }
        : {}),
      ...(when?.exp ? { show: clipped(when.exp.loc.source) } : otherwise ? { show: '(else)' } : {}),
    }
    let slot = into?.arg && 'content' in into.arg ? into.arg.content : ''
    if (slot === 'default') slot = ''
    // Vue's own components draw nothing: what stands in them stands there.
    if (e.tag === 'template' || isCoreComponent(e.tag)) {
      const inside = this.children(e.children)
      for (const n of inside) {
        if (slot) n.slot = slot
        Object.assign(n, around)
      }
      return inside
    }
    const named = e.props.find(
      (p): p is AttributeNode => p.type === NodeTypes.ATTRIBUTE && p.name === 'slot',
    )
    if (named?.value) slot = named.value.content
    const open = this.openingEnd(e)
    const last = e.props.at(-1)
    const node: Node = {
      kind: 'element',
      name: e.tag,
      span: this.span(e),
      tag: [e.loc.start.offset, open],
      room: last ? last.loc.end.offset : e.loc.start.offset + 1 + e.tag.length,
      attributes: [],
      ...around,
      ...(slot ? { slot } : {}),
      children: [],
    }
    for (const p of e.props) this.attribute(node, p)
    const html = this.directive(e, 'text', 'html')
    if (html?.exp)
      node.children!.push({
        kind: 'value',
        span: this.span(html),
        value: this.expression(html.exp),
      })
    node.children!.push(...this.children(e.children))
    return [node]
  }

  private openingEnd(e: ElementNode): number {
    const from = e.props.at(-1)?.loc.end.offset ?? e.loc.start.offset
    const at = this.source.indexOf('>', from)
    return at < 0 ? e.loc.end.offset : at + 1
  }

  private attribute(node: Node, p: AttributeNode | DirectiveNode): void {
    const span = this.span(p)
    const add = (a: Omit<Attribute, 'span'>): void => void node.attributes!.push({ span, ...a })
    if (p.type === NodeTypes.ATTRIBUTE) {
      if (p.name === 'slot') return
      if (!p.value)
        return add({ name: p.name, kind: 'flag', value: 'true', form: 'bare', at: span })
      return add({
        name: p.name,
        kind: 'text',
        value: p.value.content,
        form: 'attribute',
        at: this.span(p.value),
      })
    }
    const arg = p.arg && 'content' in p.arg && p.arg.isStatic ? p.arg.content : ''
    if (p.name === 'bind') {
      if (!p.arg) {
        node.spread = true
        if (/^(\$attrs|\$props|props)$/.test(p.exp && 'content' in p.exp ? p.exp.content : ''))
          node.passes = true
        return
      }
      if (!arg) {
        node.spread = true
        return
      }
      if (!p.exp) return add({ name: arg, kind: 'bound', value: arg })
      if (arg === 'class') {
        const look = looksIn(p.exp.loc.source, this.known).trim().replace(/\s+/g, ' ')
        if (look) node.look = look
      }
      return add({ name: arg, ...this.expression(p.exp) })
    }
    if (p.name === 'model')
      return add({
        name: arg || 'modelValue',
        kind: 'bound',
        value: p.exp ? clipped(p.exp.loc.source) : '',
      })
    if (p.name === 'on' && arg)
      return add({
        name: `@${arg}`,
        kind: 'handler',
        value: p.exp ? clipped(p.exp.loc.source) : '',
      })
  }
}

/** Reads a Vue single file: its scripts and its template. */
export function vue(source: string, file: string): Module {
  const out = empty('vue')
  const root = parse(source, {
    parseMode: 'sfc',
    comments: false,
    onError: e => out.problems.push({ at: e.loc?.start.offset ?? 0, what: e.message }),
  })
  let known = nothingKnown()
  const name = nameFrom(file)
  const component: Module['components'][number] = {
    name,
    exported: ['default'],
    span: [0, source.length],
    roots: [],
  }
  const block = (e: ElementNode): [number, number] => {
    const inner = (e as { innerLoc?: { start: { offset: number }; end: { offset: number } } })
      .innerLoc
    return inner ? [inner.start.offset, inner.end.offset] : [e.loc.end.offset, e.loc.end.offset]
  }
  const attribute = (e: ElementNode, key: string) => {
    const a = e.props.find(
      (p): p is AttributeNode => p.type === NodeTypes.ATTRIBUTE && p.name === key,
    )
    return a ? (a.value?.content ?? 'true') : undefined
  }
  for (const b of root.children) {
    if (b.type !== NodeTypes.ELEMENT || b.tag !== 'script') continue
    const [start, end] = block(b)
    const lang = attribute(b, 'lang') ?? 'js'
    const read = script(padded(source, start, end), `x.${lang}`, 'vue')
    out.imports.push(...read.module.imports)
    out.routes.push(...read.module.routes)
    out.problems.push(...read.module.problems)
    Object.assign(out.types, read.module.types)
    known = {
      values: new Map([...known.values, ...read.known.values]),
      of: new Map([...known.of, ...read.known.of]),
    }
    const props = declared(read, out)
    if (props) component.declared = props
  }
  out.exports.push({ name: 'default', local: name })
  for (const b of root.children) {
    if (b.type !== NodeTypes.ELEMENT || b.tag !== 'template') continue
    const lang = attribute(b, 'lang')
    if (lang && lang !== 'html') {
      out.problems.push({ at: b.loc.start.offset, what: `a template in ${lang} is not read` })
      continue
    }
    const template = new Template(source, known)
    component.roots.push(...template.children(b.children))
    component.slots = template.slots
  }
  out.components.push(component)
  return out
}
