import type * as t from '@babel/types'
import type { Declared, Module, Prop } from './neutral'
import { visitAll } from './script'
import { bare, nameOf } from './values'

type AnyNode = t.Node

/** Values of props that are told beside the types: const looks = kind({ variants: … }). */
export type Variants = Map<string, Prop[]>

const variantsIn = new WeakMap<t.Program, Variants>()

/** Reads objects of the form { variants: { size: { small: …, large: … } }, defaultVariants: … }. */
export function variantsOf(program: t.Program): Variants {
  const known = variantsIn.get(program)
  if (known) return known
  const out: Variants = new Map()
  variantsIn.set(program, out)
  visitAll(program, n => {
    if (
      n.type !== 'VariableDeclarator' ||
      n.id.type !== 'Identifier' ||
      n.init?.type !== 'CallExpression'
    )
      return true
    for (const a of n.init.arguments) {
      if (a.type !== 'ObjectExpression') continue
      const of = (name: string, from: t.ObjectExpression = a) =>
        from.properties.find(
          (p): p is t.ObjectProperty => p.type === 'ObjectProperty' && nameOf(p.key) === name,
        )?.value
      const variants = of('variants')
      if (variants?.type !== 'ObjectExpression') continue
      const usual = of('defaultVariants')
      const props: Prop[] = []
      for (const p of variants.properties) {
        if (p.type !== 'ObjectProperty' || p.value.type !== 'ObjectExpression') continue
        const values = p.value.properties.flatMap(v =>
          v.type === 'ObjectProperty' ? [nameOf(v.key)] : [],
        )
        const d = usual?.type === 'ObjectExpression' ? literal(of(nameOf(p.key), usual)) : undefined
        const flags =
          values.length > 0 && values.every(v => v === 'true' || v === 'false' || v === '')
        props.push({
          name: nameOf(p.key),
          type: flags ? 'yes/no' : 'choice',
          ...(flags ? {} : { values }),
          ...(d !== undefined ? { default: d } : {}),
        })
      }
      if (props.length) out.set(n.id.name, props)
    }
    return true
  })
  return out
}

function literal(n: AnyNode | null | undefined): string | undefined {
  if (!n) return undefined
  const e = bare(n as t.Expression)
  if (e.type === 'StringLiteral') return e.value
  if (e.type === 'NumericLiteral' || e.type === 'BooleanLiteral') return String(e.value)
  return undefined
}

/** What a type says a prop takes. */
export function takes(type: AnyNode | null | undefined): Omit<Prop, 'name'> {
  if (!type) return { type: 'data' }
  switch (type.type) {
    case 'TSStringKeyword':
      return { type: 'text' }
    case 'TSBooleanKeyword':
      return { type: 'yes/no' }
    case 'TSNumberKeyword':
      return { type: 'number' }
    case 'TSParenthesizedType':
      return takes(type.typeAnnotation)
    case 'TSLiteralType':
      if (type.literal.type === 'StringLiteral')
        return { type: 'choice', values: [type.literal.value] }
      if (type.literal.type === 'NumericLiteral')
        return { type: 'choice', values: [String(type.literal.value)] }
      return { type: 'yes/no' }
    case 'TSUnionType': {
      const known = type.types.filter(
        m => m.type !== 'TSUndefinedKeyword' && m.type !== 'TSNullKeyword',
      )
      const each = known.map(m => takes(m))
      if (each.length === 1) return each[0]
      if (each.length > 0 && each.every(p => p.type === 'yes/no')) return { type: 'yes/no' }
      const values = each.flatMap(p => p.values ?? [])
      if (values.length > 0)
        return {
          type: 'choice',
          values,
          ...(each.some(p => p.type !== 'choice') ? { open: true } : {}),
        }
      const refs = each.map(p => p.ref).filter(Boolean)
      if (each.every(p => p.type === 'text')) return { type: 'text' }
      return { type: 'data', ...(refs.length === 1 ? { ref: refs[0] } : {}) }
    }
    case 'TSTypeReference': {
      const name = nameOf(type.typeName)
      if (/^(ReactNode|ReactElement|JSX|Element|VNode)$/.test(name)) return { type: 'data' }
      return { type: 'data', ref: name }
    }
    case 'TSIntersectionType': // string & {}, beside literals, leaves a choice open
      return type.types.some(m => m.type === 'TSStringKeyword')
        ? { type: 'text' }
        : { type: 'data' }
  }
  return { type: 'data' }
}

function deprecatedBy(n: AnyNode): string | undefined {
  for (const c of n.leadingComments ?? []) {
    const m = /@deprecated\s*([^\n*]*)/.exec(c.value)
    if (m) return m[1].trim() || 'deprecated'
  }
  return undefined
}

/** Members of an object type as props. */
function members(list: AnyNode[]): Prop[] {
  const out: Prop[] = []
  for (const m of list) {
    if (m.type !== 'TSPropertySignature') continue
    const type =
      m.typeAnnotation?.type === 'TSTypeAnnotation' ? m.typeAnnotation.typeAnnotation : undefined
    if (type?.type === 'TSFunctionType') continue
    const deprecated = deprecatedBy(m)
    out.push({
      name: nameOf(m.key),
      ...takes(type),
      ...(m.optional ? {} : { required: true }),
      ...(deprecated ? { deprecated } : {}),
    })
  }
  return out
}

export function declaredBy(
  type: AnyNode | null | undefined,
  variants?: Variants,
): Declared | undefined {
  if (!type) return undefined
  switch (type.type) {
    case 'TSTypeLiteral':
      return { props: members(type.members) }
    case 'TSInterfaceBody':
      return { props: members(type.body) }
    case 'TSParenthesizedType':
      return declaredBy(type.typeAnnotation, variants)
    case 'TSIntersectionType': {
      const all = type.types.map(m => declaredBy(m, variants)).filter(d => d !== undefined)
      return all.length
        ? { props: all.flatMap(d => d.props), extends: all.flatMap(d => d.extends ?? []) }
        : undefined
    }
    case 'TSTypeReference':
    case 'TSExpressionWithTypeArguments' as never: {
      const ref = type as t.TSTypeReference & {
        expression?: AnyNode
        typeParameters?: { params: AnyNode[] } | null
      }
      const name = nameOf(ref.typeName ?? ref.expression)
      const inside = ref.typeParameters?.params ?? []
      const query = inside[0]
      // What a list of variants takes: VariantProps<typeof looks>
      if (query?.type === 'TSTypeQuery' && variants?.has(nameOf(query.exprName)))
        return { props: variants.get(nameOf(query.exprName))! }
      if (
        /^(Omit|Pick|Partial|Required|Readonly|PropsWithChildren|FC|FunctionComponent)$/.test(name)
      )
        return declaredBy(query, variants)
      return name ? { props: [], extends: [name] } : undefined
    }
  }
  return undefined
}

/** Types that a file declares, by name: unions of literals, and objects. */
export function typesOf(program: t.Program): Module['types'] {
  const out: Module['types'] = {}
  const variants = variantsOf(program)
  for (const s of program.body) {
    const d = s.type === 'ExportNamedDeclaration' ? s.declaration : s
    if (d?.type === 'TSInterfaceDeclaration') {
      const own = declaredBy(d.body)!
      const more = (d.extends ?? [])
        .map(x => declaredBy(x as AnyNode, variants))
        .filter(x => x !== undefined)
      out[d.id.name] = {
        declared: {
          props: [...own.props, ...more.flatMap(m => m.props)],
          extends: more.flatMap(m => m.extends ?? []),
        },
      }
    }
    if (d?.type === 'TSTypeAliasDeclaration') {
      const one = takes(d.typeAnnotation)
      if (one.values && !one.open) out[d.id.name] = { values: one.values }
      else {
        const declared = declaredBy(d.typeAnnotation, variants)
        if (declared) out[d.id.name] = { declared }
      }
    }
    if (d?.type === 'TSEnumDeclaration') {
      const values = (d.members ?? [])
        .flatMap(m => (m.initializer ? [literal(m.initializer)] : []))
        .filter(v => v !== undefined)
      if (values.length) out[d.id.name] = { values }
    }
  }
  return out
}

/** What a validator of props takes: PropTypes.oneOf([…]), PropTypes.bool.isRequired. */
function validated(n: AnyNode): Omit<Prop, 'name'> {
  if (n.type === 'MemberExpression' && nameOf(n) === 'isRequired')
    return { ...validated(n.object), required: true }
  if (n.type === 'MemberExpression') {
    const kind = nameOf(n)
    return {
      type:
        kind === 'string'
          ? 'text'
          : kind === 'bool'
            ? 'yes/no'
            : kind === 'number'
              ? 'number'
              : 'data',
    }
  }
  if (n.type === 'CallExpression') {
    const list = n.arguments[0]
    if (nameOf(n.callee) === 'oneOf' && list?.type === 'ArrayExpression') {
      const values = list.elements
        .flatMap(e => (e ? [literal(e)] : []))
        .filter(v => v !== undefined)
      if (values.length && values.every(v => v === 'true' || v === 'false'))
        return { type: 'yes/no' }
      if (values.length) return { type: 'choice', values }
    }
    if (nameOf(n.callee) === 'oneOfType' && list?.type === 'ArrayExpression') {
      const each = list.elements.flatMap(e =>
        e && e.type !== 'SpreadElement' ? [validated(e)] : [],
      )
      return each.find(p => p.type === 'choice')
        ? { ...each.find(p => p.type === 'choice')!, open: true }
        : (each[0] ?? { type: 'data' })
    }
  }
  return { type: 'data' }
}

/** Props by validators and defaults that stand beside a component: Button.propTypes = { … }. */
export function besides(
  program: t.Program,
): Map<string, { props: Prop[]; usual: Map<string, string> }> {
  const out = new Map<string, { props: Prop[]; usual: Map<string, string> }>()
  const take = (name: string, what: string, value: AnyNode | null | undefined): void => {
    if (!value || value.type !== 'ObjectExpression' || !name) return
    const of = out.get(name) ?? { props: [] as Prop[], usual: new Map<string, string>() }
    out.set(name, of)
    for (const p of value.properties) {
      if (p.type !== 'ObjectProperty') continue
      if (what === 'propTypes') {
        const said = validated(p.value)
        if (!(p.value.type === 'MemberExpression' && nameOf(p.value) === 'func'))
          of.props.push({ name: nameOf(p.key), ...said })
      } else {
        const d = literal(p.value)
        if (d !== undefined) of.usual.set(nameOf(p.key), d)
      }
    }
  }
  for (const s of program.body) {
    if (s.type === 'ExpressionStatement' && s.expression.type === 'AssignmentExpression') {
      const { left, right } = s.expression
      if (
        left.type === 'MemberExpression' &&
        left.object.type === 'Identifier' &&
        /^(propTypes|defaultProps)$/.test(nameOf(left))
      )
        take(left.object.name, nameOf(left), right)
    }
    const d =
      s.type === 'ExportNamedDeclaration' || s.type === 'ExportDefaultDeclaration'
        ? s.declaration
        : s
    if (d?.type === 'ClassDeclaration')
      for (const m of d.body.body)
        if (
          m.type === 'ClassProperty' &&
          m.static &&
          /^(propTypes|defaultProps)$/.test(nameOf(m.key))
        )
          take(nameOf(d.id), nameOf(m.key), m.value)
  }
  return out
}

/** Props that a component's first parameter declares, with the defaults of its pattern. */
export function declaredIn(
  top: AnyNode,
  variants: Variants,
  beside?: { props: Prop[]; usual: Map<string, string> },
): Declared | undefined {
  let found = undefined as Declared | undefined
  const usual = new Map(beside?.usual)
  const take = (d: Declared | undefined) => {
    if (d && (d.props.length || d.extends?.length)) found ??= d
  }
  const look = (n: AnyNode, outermost: boolean): void => {
    switch (n.type) {
      case 'ArrowFunctionExpression':
      case 'FunctionExpression':
      case 'FunctionDeclaration': {
        let p: AnyNode | undefined = n.params[0]
        if (p?.type === 'AssignmentPattern') p = p.left
        if (p && 'typeAnnotation' in p && p.typeAnnotation?.type === 'TSTypeAnnotation')
          take(declaredBy(p.typeAnnotation.typeAnnotation, variants))
        if (p?.type === 'ObjectPattern') {
          for (const x of p.properties)
            if (x.type === 'ObjectProperty' && x.value.type === 'AssignmentPattern') {
              const d = literal(x.value.right)
              if (d !== undefined) usual.set(nameOf(x.key), d)
            }
          // Without types, the names of the pattern are at least known.
          if (!found && outermost)
            found = {
              props: p.properties.flatMap(x =>
                x.type === 'ObjectProperty' && nameOf(x.key) !== 'children'
                  ? [{ name: nameOf(x.key), type: 'data' as const }]
                  : [],
              ),
            }
        }
        return
      }
      case 'CallExpression':
        // forwardRef<Ref, Props>(…)
        for (const x of n.typeParameters && 'params' in n.typeParameters
          ? n.typeParameters.params
          : [])
          take(declaredBy(x as AnyNode, variants))
        for (const a of n.arguments) look(a, outermost)
        return
      case 'ClassDeclaration':
      case 'ClassExpression':
        for (const x of n.superTypeParameters && 'params' in n.superTypeParameters
          ? n.superTypeParameters.params
          : [])
          take(declaredBy(x as AnyNode, variants))
        return
    }
  }
  look(top, true)
  if (beside) {
    const had = new Map<string, Prop>((found?.props ?? []).map(p => [p.name, p]))
    for (const p of beside.props)
      if (!had.has(p.name) || had.get(p.name)!.type === 'data')
        had.set(p.name, { ...had.get(p.name), ...p })
    found = { ...found, props: [...had.values()] }
  }
  if (!found) return undefined
  const props = found.props.map(p =>
    usual.has(p.name) && p.default === undefined ? { ...p, default: usual.get(p.name) } : p,
  )
  // A prop that is only given a default is still one.
  for (const [name, value] of usual)
    if (!props.some(p => p.name === name))
      props.push({
        name,
        type: value === 'true' || value === 'false' ? 'yes/no' : 'data',
        default: value,
      })
  return { props, ...(found.extends?.length ? { extends: [...new Set(found.extends)] } : {}) }
}
