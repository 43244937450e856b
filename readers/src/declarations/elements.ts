/** Custom elements. */
import ts from 'typescript'
import { checker, readFile } from './program'
import { propsOf } from './props'
import { entries, type Named } from './question'
import { deprecatedOf, docOf, foreign } from './says'

/** A custom element by the class of its instances. */
export function element(tag: string, type: ts.Type, cls: string, module: string) {
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
export function placesOf(file: string): { tag: string; slots: Named[] } | undefined {
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

/** Tags that a module's script defines, with the class's name. */
export function defines(file: string): { tag: string; cls: string }[] {
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
