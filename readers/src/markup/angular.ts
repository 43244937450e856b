import * as ng from '@angular/compiler'
import type * as t from '@babel/types'
import { takes } from './declared'
import {
  clipped,
  type Attribute,
  type Component,
  type Declared,
  type Module,
  type Node,
  type Prop,
} from './neutral'
import { script, visitAll } from './script'
import { nameOf, nothingKnown, valueIn, type Known } from './values'

type Span = { start: { offset: number }; end: { offset: number } }

class Template {
  constructor(
    private source: string,
    private known: Known,
    private shift: number,
  ) {}
  slots: string[] = []

  private span(s: Span): [number, number] {
    return [s.start.offset + this.shift, s.end.offset + this.shift]
  }
  private slice(s: Span): string {
    return this.source.slice(s.start.offset, s.end.offset)
  }
  private value(s: Span) {
    return valueIn(this.slice(s), s.start.offset + this.shift, this.known)
  }
  private set(nodes: Node[], what: Partial<Node>): Node[] {
    for (const n of nodes) {
      if (what.show) n.show = n.show ? `${what.show} && ${n.show}` : what.show
      if (what.repeat) n.repeat ??= what.repeat
    }
    return nodes
  }

  nodes(list: ng.TmplAstNode[]): Node[] {
    return list.flatMap(n => this.node(n))
  }

  private node(n: ng.TmplAstNode): Node[] {
    if (n instanceof ng.TmplAstElement) return [this.element(n)]
    if (n instanceof ng.TmplAstTemplate) return this.template(n)
    if (n instanceof ng.TmplAstText) return this.text(n)
    if (n instanceof ng.TmplAstBoundText) return this.bound(n)
    if (n instanceof ng.TmplAstContent) {
      const name = n.selector === '*' ? '' : n.selector.replace(/^\[?(?:slot=)?|\]$/g, '')
      this.slots.push(name)
      return [{ kind: 'slot', span: this.span(n.sourceSpan), name }]
    }
    if (n instanceof ng.TmplAstIfBlock)
      return n.branches.flatMap(b =>
        this.set(this.nodes(b.children), {
          show: b.expression ? this.head(b.startSourceSpan) : '(else)',
        }),
      )
    if (n instanceof ng.TmplAstForLoopBlock)
      return [
        ...this.set(this.nodes(n.children), { repeat: clipped(n.expression.source ?? '') }),
        ...(n.empty ? this.set(this.nodes(n.empty.children), { show: '(empty)' }) : []),
      ]
    if (n instanceof ng.TmplAstSwitchBlock)
      return n.cases.flatMap(c =>
        this.set(this.nodes(c.children), { show: this.head(c.startSourceSpan) }),
      )
    if (n instanceof ng.TmplAstDeferredBlock) return this.nodes(n.children)
    return []
  }

  private head(s: Span): string {
    return clipped(this.slice(s).replace(/^[^(]*\(|\)\s*\{\s*$/g, ''))
  }

  private text(n: ng.TmplAstText): Node[] {
    const raw = this.slice(n.sourceSpan)
    if (!raw.trim()) return []
    const start = n.sourceSpan.start.offset + this.shift + (raw.length - raw.trimStart().length)
    return [
      {
        kind: 'text',
        span: this.span(n.sourceSpan),
        value: {
          kind: 'text',
          value: n.value.replace(/\s+/g, ' ').trim(),
          form: 'content',
          at: [start, start + raw.trim().length],
        },
      },
    ]
  }

  /** Words with values among them: each is a part of its own. */
  private bound(n: ng.TmplAstBoundText): Node[] {
    const raw = this.slice(n.sourceSpan)
    const from = n.sourceSpan.start.offset
    const out: Node[] = []
    const words = (start: number, end: number) => {
      const piece = raw.slice(start, end)
      if (!piece.trim()) return
      const lead = piece.length - piece.trimStart().length
      const at: [number, number] = [
        from + start + lead + this.shift,
        from + start + lead + piece.trim().length + this.shift,
      ]
      out.push({
        kind: 'text',
        span: at,
        value: { kind: 'text', value: piece.replace(/\s+/g, ' ').trim(), form: 'content', at },
      })
    }
    let last = 0
    for (const m of raw.matchAll(/\{\{([\s\S]*?)\}\}/g)) {
      words(last, m.index)
      const inner = m[1]
      const lead = inner.length - inner.trimStart().length
      out.push({
        kind: 'value',
        span: [from + m.index + this.shift, from + m.index + m[0].length + this.shift],
        value: valueIn(inner.trim(), from + m.index + 2 + lead + this.shift, this.known),
      })
      last = m.index + m[0].length
    }
    words(last, raw.length)
    return out
  }

  private template(n: ng.TmplAstTemplate): Node[] {
    const inside = this.nodes(n.children)
    for (const a of n.templateAttrs) {
      if (a.name === 'ngIf') this.set(inside, { show: this.said(a) })
      if (a.name === 'ngForOf') this.set(inside, { repeat: this.said(a) })
    }
    const called = n.tagName === 'ng-template' && this.called(n)
    if (called) for (const node of inside) if (node.kind === 'element') node.template ??= called
    return inside
  }

  /** What the component around a template may know it by: a name that nothing else here speaks of, or
   * what is written on it. */
  private called(n: ng.TmplAstTemplate): string | undefined {
    for (const { name } of n.references) {
      const speaks = new RegExp(
        `(\\b(else|then)\\b[\\s:]*|\\]\\s*=\\s*["']\\s*|ngTemplateOutlet\\s*=\\s*["']\\s*)${name.replace(/\$/g, '\\$&')}\\b`,
      )
      return speaks.test(this.source) ? undefined : `#${name}`
    }
    const [a] = n.attributes
    return a && `ng-template[${a.name}${a.value ? `=${a.value}` : ''}]`
  }
  private said(a: { valueSpan?: Span; sourceSpan: Span }): string {
    return clipped(this.slice(a.valueSpan ?? a.sourceSpan))
  }

  private element(e: ng.TmplAstElement): Node {
    const tag = this.span(e.startSourceSpan)
    const all = [...e.attributes, ...e.inputs, ...e.outputs].map(a => a.sourceSpan.end.offset)
    const node: Node = {
      kind: 'element',
      name: e.name.replace(/^:\w+:/, ''),
      span: this.span(e.sourceSpan),
      tag,
      room:
        (all.length ? Math.max(...all) : e.startSourceSpan.start.offset + 1 + e.name.length) +
        this.shift,
      attributes: [],
      children: [],
    }
    for (const a of e.attributes) {
      const span = this.span(a.sourceSpan)
      if (a.name === 'slot') {
        node.slot = a.value
        continue
      }
      const add: Attribute = a.valueSpan
        ? {
            name: a.name,
            span,
            kind: 'text',
            value: a.value,
            form: 'attribute',
            at: this.quoted(a.valueSpan),
          }
        : { name: a.name, span, kind: 'flag', value: 'true', form: 'bare', at: span }
      node.attributes!.push(add)
    }
    for (const a of e.inputs) {
      const span = this.span(a.sourceSpan)
      if (a.type === ng.BindingType.Class || a.type === ng.BindingType.Style) continue
      node.attributes!.push({
        name: a.name,
        span,
        ...(a.valueSpan ? this.value(a.valueSpan) : { kind: 'bound', value: '' }),
      })
    }
    for (const o of e.outputs)
      node.attributes!.push({
        name: `@${o.name}`,
        span: this.span(o.sourceSpan),
        kind: 'handler',
        value: clipped(this.slice(o.handlerSpan)),
      })
    node.children!.push(...this.nodes(e.children))
    return node
  }

  /** With the quotes around it, where there are any. */
  private quoted(s: Span): [number, number] {
    const before = this.source[s.start.offset - 1]
    const [a, b] = this.span(s)
    return (before === '"' || before === "'") && this.source[s.end.offset] === before
      ? [a - 1, b + 1]
      : [a, b]
  }
}

function read(
  source: string,
  known: Known,
  shift: number,
  out: Module,
): { roots: Node[]; slots: string[] } {
  const tree = ng.parseTemplate(source, 'template.html', {
    preserveWhitespaces: true,
    enableBlockSyntax: true,
    enableLetSyntax: true,
    alwaysAttemptHtmlToR3AstConversion: true,
  })
  for (const e of tree.errors ?? [])
    out.problems.push({ at: e.span.start.offset + shift, what: e.msg })
  const template = new Template(source, known, shift)
  return { roots: template.nodes(tree.nodes), slots: template.slots }
}

/** Reads a template that stands in a file of its own. */
export function template(source: string, file: string, out: Module): void {
  const { roots, slots } = read(source, nothingKnown(), 0, out)
  out.components.push({
    name: file.split('/').pop()!,
    exported: ['default'],
    span: [0, source.length],
    roots,
    slots,
  })
}

/** Reads a file of classes: those that @Component describes, with their templates. */
export function angular(source: string, file: string): Module {
  const { module: out, program, known } = script(source, file, 'angular')
  visitAll(program, n => {
    if (n.type !== 'ClassDeclaration' && n.type !== 'ClassExpression') return true
    const mark = (n.decorators ?? []).find(
      d =>
        d.expression.type === 'CallExpression' &&
        /^(Component|Directive)$/.test(nameOf(d.expression.callee)),
    )
    if (!mark) return true
    const settings = (mark.expression as t.CallExpression).arguments[0]
    const name = nameOf(n.id)
    const component: Component = {
      name,
      exported: out.exports.filter(e => !e.from && e.local === name).map(e => e.name),
      span: [n.start ?? 0, n.end ?? 0],
      roots: [],
      declared: inputs(n),
    }
    if (settings?.type === 'ObjectExpression')
      for (const p of settings.properties) {
        if (p.type !== 'ObjectProperty') continue
        const v = p.value
        if (nameOf(p.key) === 'selector' && v.type === 'StringLiteral') component.selector = v.value
        if (nameOf(p.key) === 'templateUrl' && v.type === 'StringLiteral')
          component.template = v.value
        if (
          nameOf(p.key) === 'template' &&
          (v.type === 'StringLiteral' ||
            (v.type === 'TemplateLiteral' && v.expressions.length === 0))
        ) {
          // Read as it is written; what is escaped in it would shift the places behind it.
          const text = source.slice((v.start ?? 0) + 1, (v.end ?? 0) - 1)
          const t = read(text, known, (v.start ?? 0) + 1, out)
          component.roots.push(...t.roots)
          component.slots = t.slots
        }
      }
    out.components.push(component)
    return false
  })
  return out
}

/** Inputs of a class: by decorator or by function. */
function inputs(n: t.ClassDeclaration | t.ClassExpression): Declared {
  const props: Prop[] = []
  for (const m of n.body.body) {
    if (m.type !== 'ClassProperty') continue
    const type =
      m.typeAnnotation?.type === 'TSTypeAnnotation' ? m.typeAnnotation.typeAnnotation : undefined
    const literal = (e: t.Node | null | undefined) =>
      e?.type === 'StringLiteral'
        ? e.value
        : e?.type === 'BooleanLiteral' || e?.type === 'NumericLiteral'
          ? String(e.value)
          : undefined
    const name = nameOf(m.key)
    const decorated = (m.decorators ?? []).some(
      d =>
        nameOf(d.expression.type === 'CallExpression' ? d.expression.callee : d.expression) ===
        'Input',
    )
    const call = m.value?.type === 'CallExpression' ? m.value : undefined
    const callee =
      call &&
      (nameOf(call.callee) === 'required' && call.callee.type === 'MemberExpression'
        ? nameOf(call.callee.object) + '.required'
        : nameOf(call.callee))
    if (decorated) {
      const usual = literal(m.value)
      const guess: Prop['type'] =
        m.value?.type === 'BooleanLiteral'
          ? 'yes/no'
          : m.value?.type === 'StringLiteral'
            ? 'text'
            : 'data'
      props.push({
        name,
        ...(type ? takes(type) : { type: guess }),
        ...(usual !== undefined ? { default: usual } : {}),
      })
    } else if (call && (callee === 'input' || callee === 'input.required' || callee === 'model')) {
      const args =
        call.typeParameters && 'params' in call.typeParameters ? call.typeParameters.params : []
      const usual = callee === 'input.required' ? undefined : literal(call.arguments[0])
      const guess: Prop['type'] =
        usual === 'true' || usual === 'false'
          ? 'yes/no'
          : call.arguments[0]?.type === 'StringLiteral'
            ? 'text'
            : 'data'
      props.push({
        name,
        ...(args[0] ? takes(args[0] as t.Node) : { type: guess }),
        ...(usual !== undefined ? { default: usual } : {}),
        ...(callee === 'input.required' ? { required: true } : {}),
      })
    }
  }
  return { props }
}
