/** What code of Vue says where nothing is declared. */
import ts from 'typescript'
import { checker } from './program'
import type { Entry, Named, Prop } from './question'

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
export function optionsOf(
  symbol: ts.Symbol,
): Pick<Entry, 'props' | 'slots' | 'events'> | undefined {
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
