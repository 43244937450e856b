import type * as t from '@babel/types'
import { clipped, type Attribute, type Node } from './neutral'
import { bare, nameOf, valueOf, type Known, looks } from './values'
import { parts } from './script'

type AnyNode = t.Node

/** What is found in one declaration: the markup it gives, and what else stands in it. */
export interface Pieces {
  roots: Node[]
}

const isMarkup = (n: AnyNode): n is t.JSXElement | t.JSXFragment =>
  n.type === 'JSXElement' || n.type === 'JSXFragment'

const isFunction = (
  n: AnyNode,
): n is
  | t.ArrowFunctionExpression
  | t.FunctionExpression
  | t.FunctionDeclaration
  | t.ObjectMethod
  | t.ClassMethod =>
  n.type === 'ArrowFunctionExpression' ||
  n.type === 'FunctionExpression' ||
  n.type === 'FunctionDeclaration' ||
  n.type === 'ObjectMethod' ||
  n.type === 'ClassMethod'

/** What a function returns, and on which condition; none where that is always. */
interface Returned {
  node: AnyNode
  when: string
}

/** Markup that is there on a condition. */
function shown(nodes: Node[], when: string): Node[] {
  for (const n of nodes) n.show = n.show ? `${when} && ${n.show}` : when
  return nodes
}

/** Words of a JSX text as they are shown: lines joined, those at the ends cut off. */
function words(raw: string): string {
  const lines = raw.split(/\r\n|\n|\r/)
  return lines
    .map((line, i) => {
      let s = line.replace(/\t/g, ' ')
      if (i > 0) s = s.replace(/^ +/, '')
      if (i < lines.length - 1) s = s.replace(/ +$/, '')
      return s
    })
    .filter(Boolean)
    .join(' ')
}

/** Names that a pattern of parameters takes all the rest under. */
function passedNames(n: AnyNode, out: Set<string>): void {
  if (!isFunction(n)) return
  const first = n.params[0]
  const pattern = first?.type === 'AssignmentPattern' ? first.left : first
  if (pattern?.type === 'Identifier') out.add(pattern.name)
  if (pattern?.type === 'ObjectPattern')
    for (const p of pattern.properties)
      if (p.type === 'RestElement' && p.argument.type === 'Identifier') out.add(p.argument.name)
}

/** Reads JSX into the neutral tree. */
export class Markup {
  constructor(
    private source: string,
    private known: Known,
    private routes: Set<AnyNode>,
  ) {}

  /** markup kept in variables and functions of the declaration being read, by name */
  private kept = new Map<string, AnyNode>()
  private used = new Set<AnyNode>()
  private open = new Set<string>()
  private passed = new Set<string>()

  /** helpers at the top of the file, which others call or hand on */
  private shared = new Map<string, AnyNode>()
  readonly followed = new Set<string>()

  share(name: string, node: AnyNode): void {
    if (this.holds(node)) this.shared.set(name, node)
  }

  read(top: AnyNode): Pieces {
    this.kept = new Map(this.shared)
    this.used = new Set()
    this.passed = new Set()
    this.gather(top)
    const other = this.renamed(top)
    if (other) return { roots: [other] }
    const returned: Returned[] = []
    const main = this.mainOf(top)
    if (main) {
      passedNames(main, this.passed)
      this.returns(main, returned)
    }
    const roots = this.given(returned)
    // What is written elsewhere in it, and reached through nothing that is followed.
    for (const { node, under } of this.rest(top))
      roots.push({ kind: 'group', span: this.span(node), under, children: this.expression(node) })
    return { roots }
  }

  /** A component that is another one, as it is or wrapped: const Link = styled(KitLink)`…` */
  private renamed(top: AnyNode): Node | undefined {
    if (this.holds(top)) return undefined
    let e: AnyNode = bare(top as t.Expression)
    while (e.type === 'TaggedTemplateExpression' || e.type === 'CallExpression') {
      const inner: AnyNode | undefined =
        e.type === 'TaggedTemplateExpression'
          ? e.tag
          : e.arguments.length
            ? e.arguments[0]
            : e.callee
      if (!inner) return undefined
      if (
        e.type === 'CallExpression' &&
        e.callee.type === 'CallExpression' &&
        inner.type !== 'Identifier'
      )
        e = e.callee
      else e = inner
    }
    const name =
      e.type === 'Identifier'
        ? e.name
        : e.type === 'MemberExpression' && e.object.type === 'Identifier'
          ? `${e.object.name}.${nameOf(e)}`
          : ''
    if (!/^[A-Z]/.test(name)) return undefined
    return {
      kind: 'element',
      name,
      span: this.span(e),
      tag: this.span(e),
      attributes: [],
      spread: true,
      passes: true,
      children: [],
    }
  }

  private span(n: AnyNode): [number, number] {
    return [n.start ?? 0, n.end ?? 0]
  }
  private text(n: AnyNode): string {
    return clipped(this.source.slice(n.start ?? 0, n.end ?? 0))
  }

  /** Keeps what variables and functions hold in the way of markup. */
  private gather(top: AnyNode): void {
    const visit = (n: AnyNode, outermost: boolean): void => {
      if (
        n.type === 'VariableDeclarator' &&
        n.id.type === 'Identifier' &&
        n.init &&
        this.holds(n.init)
      )
        this.kept.set(n.id.name, n.init)
      if (n.type === 'FunctionDeclaration' && !outermost && n.id && this.holds(n))
        this.kept.set(n.id.name, n)
      if ((n.type === 'ClassMethod' || n.type === 'ClassProperty') && this.holds(n))
        this.kept.set(`this.${nameOf(n.key)}`, n)
      for (const p of parts(n)) visit(p, false)
    }
    visit(top, true)
  }

  private held = new Map<AnyNode, boolean>()
  private holds(n: AnyNode): boolean {
    if (isMarkup(n)) return true
    const had = this.held.get(n)
    if (had !== undefined) return had
    const out = parts(n).some(p => this.holds(p))
    this.held.set(n, out)
    return out
  }

  /** The function that draws: through memo, forwardRef and the like; of a class, render. */
  private mainOf(n: AnyNode): AnyNode | undefined {
    if (isFunction(n)) return n
    if (n.type === 'ClassDeclaration' || n.type === 'ClassExpression')
      return n.body.body.find(
        m =>
          (m.type === 'ClassMethod' && nameOf(m.key) === 'render') ||
          (m.type === 'ClassProperty' &&
            nameOf(m.key) === 'render' &&
            m.value &&
            isFunction(m.value)),
      )
    if (n.type === 'CallExpression') {
      for (const a of n.arguments) {
        const m = this.mainOf(a)
        if (m) return m
      }
    }
    if (n.type === 'ClassProperty' && n.value) return this.mainOf(n.value)
    if (isMarkup(n)) return n
    const b = n.type.startsWith('TS') ? bare(n as t.Expression) : n
    return b === n ? undefined : this.mainOf(b)
  }

  /** What a function returns, its inner functions left out, and on which condition. */
  private returns(n: AnyNode, out: Returned[]): void {
    if (isMarkup(n)) {
      out.push({ node: n, when: '' })
      return
    }
    if (!isFunction(n)) return
    if (n.body.type !== 'BlockStatement') {
      out.push({ node: n.body, when: '' })
      return
    }
    const visit = (m: AnyNode, when: string): void => {
      const and = (more: string): string => (when ? `${when} && ${more}` : more)
      switch (m.type) {
        case 'ReturnStatement':
          if (m.argument) out.push({ node: m.argument, when })
          return
        case 'IfStatement':
          visit(m.consequent, and(this.text(m.test)))
          if (m.alternate) visit(m.alternate, and(`!(${this.text(m.test)})`))
          return
        case 'SwitchStatement':
          for (const c of m.cases) {
            const asked = `${this.text(m.discriminant)} === ${c.test ? this.text(c.test) : '…'}`
            c.consequent.forEach(s => visit(s, and(asked)))
          }
          return
      }
      if (isFunction(m) || m.type === 'ClassDeclaration') return
      parts(m).forEach(x => visit(x, when))
    }
    visit(n.body, '')
  }

  /** The markup of what is returned. Of several, all but what comes last are there at times only. */
  private given(list: Returned[]): Node[] {
    return list.flatMap(r => {
      const nodes = this.expression(r.node as t.Expression)
      return r.when && list.length > 1 ? shown(nodes, r.when) : nodes
    })
  }

  /** Markup that nothing led to: in columns, in handlers, in helpers. */
  private rest(top: AnyNode): { node: t.Expression; under: string }[] {
    const out: { node: t.Expression; under: string }[] = []
    const visit = (n: AnyNode, under: string): void => {
      if (this.used.has(n) || this.routes.has(n)) return
      if (isMarkup(n)) {
        out.push({ node: n as t.Expression, under })
        return
      }
      let next = under
      if (
        n.type === 'ObjectProperty' ||
        n.type === 'ObjectMethod' ||
        n.type === 'ClassMethod' ||
        n.type === 'ClassProperty'
      )
        next = nameOf(n.key) || under
      if (n.type === 'CallExpression') next = nameOf(n.callee) || under
      parts(n).forEach(p => visit(p, next))
    }
    visit(top, '')
    return out
  }

  /** Reads an expression that gives markup. */
  private expression(whole: AnyNode): Node[] {
    const e = bare(whole as t.Expression)
    switch (e.type) {
      case 'JSXElement':
        return [this.element(e)]
      case 'JSXFragment':
        this.used.add(e)
        return this.children(e.children)
      case 'StringLiteral':
      case 'TemplateLiteral':
      case 'NumericLiteral': {
        const value = valueOf(e, this.source, this.known)
        if (value.kind === 'text' && value.value.trim() === '') return []
        return [
          {
            kind: value.kind === 'text' || value.kind === 'number' ? 'text' : 'value',
            span: this.span(e),
            value,
          },
        ]
      }
      case 'NullLiteral':
      case 'BooleanLiteral':
      case 'JSXEmptyExpression':
        return []
      case 'LogicalExpression':
        if (e.operator === '&&')
          return this.holds(e.right) || this.reaches(e.right)
            ? shown(this.expression(e.right), this.text(e.left))
            : this.plain(e)
        if (!this.holds(e) && !this.reaches(e.left) && !this.reaches(e.right)) return this.plain(e)
        return [...this.expression(e.left), ...this.expression(e.right)]
      case 'ConditionalExpression':
        if (!this.holds(e) && !this.reaches(e.consequent) && !this.reaches(e.alternate))
          return this.plain(e)
        return [
          ...shown(this.expression(e.consequent), this.text(e.test)),
          ...shown(this.expression(e.alternate), `!(${this.text(e.test)})`),
        ]
      case 'ArrayExpression':
        return e.elements.flatMap(x => (x && x.type !== 'SpreadElement' ? this.expression(x) : []))
      case 'ArrowFunctionExpression':
      case 'FunctionExpression': {
        const out: Returned[] = []
        this.returns(e, out)
        return this.given(out)
      }
      case 'Identifier':
      case 'MemberExpression': {
        const name =
          e.type === 'Identifier'
            ? e.name
            : e.object.type === 'ThisExpression'
              ? `this.${nameOf(e)}`
              : ''
        if (e.type === 'Identifier' && (name === 'children' || name === '$slots'))
          return [{ kind: 'slot', span: this.span(e), name: '' }]
        if (e.type === 'MemberExpression' && nameOf(e) === 'children')
          return [{ kind: 'slot', span: this.span(e), name: '' }]
        return this.follow(name) ?? this.plain(e)
      }
      case 'CallExpression':
      case 'OptionalCallExpression':
        return this.call(e)
      case 'AwaitExpression':
        return this.expression(e.argument)
    }
    return this.holds(e) ? this.loose(e) : this.plain(e)
  }

  private reaches(e: AnyNode): boolean {
    const b = bare(e as t.Expression)
    if (b.type === 'Identifier') return this.kept.has(b.name) || b.name === 'children'
    if (b.type === 'CallExpression')
      return this.reaches(b.callee) || b.arguments.some(a => isFunction(a) && this.holds(a))
    if (b.type === 'MemberExpression')
      return (
        (b.object.type === 'ThisExpression' && this.kept.has(`this.${nameOf(b)}`)) ||
        nameOf(b) === 'children'
      )
    return false
  }

  /** The markup that a variable holds or a function gives, the first time it is asked for. */
  private follow(name: string): Node[] | undefined {
    const node = this.kept.get(name)
    if (!node || this.open.has(name)) return undefined
    this.open.add(name)
    this.followed.add(name)
    let out: Node[]
    const main = this.mainOf(node) ?? node
    if (isFunction(main)) {
      const list: Returned[] = []
      this.returns(main, list)
      out = this.given(list)
    } else out = this.expression(main)
    this.open.delete(name)
    return out
  }

  private call(e: t.CallExpression | t.OptionalCallExpression): Node[] {
    const callee = e.callee as AnyNode
    const method =
      callee.type === 'MemberExpression' || callee.type === 'OptionalMemberExpression'
        ? nameOf(callee)
        : ''
    const from =
      callee.type === 'MemberExpression' || callee.type === 'OptionalMemberExpression'
        ? callee.object
        : undefined
    if ((method === 'map' || method === 'flatMap') && e.arguments[0]) {
      const given = e.arguments[0]
      const nodes =
        given.type === 'Identifier'
          ? this.follow(given.name)
          : isFunction(given)
            ? this.expression(given)
            : undefined
      if (nodes?.length) {
        for (const n of nodes) n.repeat = this.text(from!)
        return nodes
      }
    }
    if (method === 'from' && e.arguments[1] && isFunction(e.arguments[1])) {
      const nodes = this.expression(e.arguments[1])
      for (const n of nodes) n.repeat = this.text(e.arguments[0])
      return nodes
    }
    if (callee.type === 'Identifier') {
      const nodes = this.follow(callee.name)
      if (nodes) return nodes
    }
    if (callee.type === 'MemberExpression' && callee.object.type === 'ThisExpression') {
      const nodes = this.follow(`this.${method}`)
      if (nodes) return nodes
    }
    return this.holds(e) ? this.loose(e) : this.plain(e)
  }

  /** Markup inside an expression that says nothing of how it is used. */
  private loose(e: AnyNode): Node[] {
    const out: Node[] = []
    const visit = (n: AnyNode): void => {
      if (isMarkup(n)) out.push(...this.expression(n))
      else parts(n).forEach(visit)
    }
    visit(e)
    return out
  }

  private plain(e: AnyNode): Node[] {
    const value = valueOf(e as t.Expression, this.source, this.known)
    return value.kind === 'unset' ? [] : [{ kind: 'value', span: this.span(e), value }]
  }

  private children(list: AnyNode[]): Node[] {
    return list.flatMap(c => {
      switch (c.type) {
        case 'JSXText': {
          const value = words(c.value)
          if (!value.trim()) return []
          const raw = this.source.slice(c.start ?? 0, c.end ?? 0)
          const lead = raw.length - raw.trimStart().length
          const at: [number, number] = [
            (c.start ?? 0) + lead,
            (c.end ?? 0) - (raw.length - raw.trimEnd().length),
          ]
          return [
            {
              kind: 'text',
              span: this.span(c),
              value: { kind: 'text', value: value.trim(), form: 'content', at },
            } satisfies Node,
          ]
        }
        case 'JSXExpressionContainer':
          return this.expression(c.expression)
        case 'JSXSpreadChild':
          return this.expression(c.expression)
        case 'JSXElement':
        case 'JSXFragment':
          return this.expression(c)
      }
      return []
    })
  }

  private tagName(n: t.JSXElement['openingElement']['name']): string {
    if (n.type === 'JSXMemberExpression') return `${this.tagName(n.object)}.${n.property.name}`
    if (n.type === 'JSXNamespacedName') return `${n.namespace.name}:${n.name.name}`
    return n.name
  }

  private element(e: t.JSXElement): Node {
    this.used.add(e)
    const tag = e.openingElement
    const node: Node = {
      kind: 'element',
      name: this.tagName(tag.name),
      span: this.span(e),
      tag: this.span(tag),
      room: (tag.attributes.at(-1)?.end ?? tag.typeParameters?.end ?? tag.name.end) as number,
      attributes: [],
      children: [],
    }
    for (const a of tag.attributes) {
      if (a.type === 'JSXSpreadAttribute') {
        const from = bare(a.argument)
        node.spread = true
        if (from.type === 'Identifier' && this.passed.has(from.name)) node.passes = true
        if (
          from.type === 'MemberExpression' &&
          from.object.type === 'ThisExpression' &&
          nameOf(from) === 'props'
        )
          node.passes = true
        continue
      }
      this.attribute(node, a)
    }
    node.children!.push(...this.children(e.children))
    return node
  }

  private attribute(node: Node, a: t.JSXAttribute): void {
    const name =
      a.name.type === 'JSXNamespacedName'
        ? `${a.name.namespace.name}:${a.name.name.name}`
        : a.name.name
    const span = this.span(a)
    const add = (v: Omit<Attribute, 'name' | 'span'>) => node.attributes!.push({ name, span, ...v })
    const v = a.value
    if (!v) return void add({ kind: 'flag', value: 'true', form: 'bare', at: span })
    if (v.type === 'StringLiteral')
      return void add({ kind: 'text', value: v.value, form: 'attribute', at: this.span(v) })
    const e = v.type === 'JSXExpressionContainer' ? v.expression : v
    if (e.type === 'JSXEmptyExpression') return
    if (this.holds(e) || (name !== 'children' && this.reaches(e))) {
      const nodes = this.expression(e)
      if (name === 'children') return void node.children!.push(...nodes)
      for (const n of nodes) n.slot = name
      node.children!.push(...nodes)
      // That it is set is known; what it is, stands in the slot.
      return void add({ kind: 'bound', value: this.text(e) })
    }
    if (name === 'children') return void node.children!.push(...this.expression(e))
    const value = valueOf(e, this.source, this.known)
    if ((name === 'className' || name === 'class') && value.kind !== 'text') {
      const look = looks(e, this.known).trim().replace(/\s+/g, ' ')
      if (look) node.look = look
    }
    add(value)
  }
}
