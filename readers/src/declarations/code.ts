/** Files of a library's code: what stands at their tops, and what they have from each other. */
import path from 'node:path'
import ts from 'typescript'

/** Code above this many letters is not looked into. */
const MOST = 6_000_000

export interface Code {
  file: string
  source: ts.SourceFile
  /** what stands at the top of the file, by its name */
  tops: Map<string, ts.Node>
  /** Tabs.List = List: by "Tabs.List" */
  parts: Map<string, ts.Expression>
  /** names of the file by those they are exported under */
  exported: Map<string, string>
  /** what is from other files of the library, by its name here; "*" are those handed on whole */
  from: Map<string, { file: string; name: string }>
  whole: string[]
}

const read = new Map<string, Code | undefined>()
export function codeOf(file: string): Code | undefined {
  if (read.has(file)) return read.get(file)
  const text = ts.sys.fileExists(file) ? ts.sys.readFile(file) : undefined
  const out = text && text.length <= MOST ? taken(file, text) : undefined
  read.set(file, out)
  return out
}

function taken(file: string, text: string): Code {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.ES2022, false, ts.ScriptKind.JSX)
  const out: Code = {
    file,
    source,
    tops: new Map(),
    parts: new Map(),
    exported: new Map(),
    from: new Map(),
    whole: [],
  }
  const elsewhere = (s: ts.ImportDeclaration | ts.ExportDeclaration) => {
    const said = s.moduleSpecifier
    return said && ts.isStringLiteral(said) && said.text.startsWith('.')
      ? path.join(path.dirname(file), said.text)
      : undefined
  }
  for (const s of source.statements) {
    if (ts.isVariableStatement(s))
      for (const d of s.declarationList.declarations) {
        if (ts.isIdentifier(d.name) && d.initializer) out.tops.set(d.name.text, d.initializer)
      }
    else if ((ts.isFunctionDeclaration(s) || ts.isClassDeclaration(s)) && s.name)
      out.tops.set(s.name.text, s)
    else if (ts.isExpressionStatement(s) && ts.isBinaryExpression(s.expression)) {
      const { left, right } = s.expression
      if (ts.isPropertyAccessExpression(left) && ts.isIdentifier(left.expression))
        out.parts.set(`${left.expression.text}.${left.name.text}`, right)
    } else if (ts.isExportAssignment(s) && ts.isIdentifier(s.expression))
      out.exported.set('default', s.expression.text)
    else if (ts.isImportDeclaration(s)) {
      const from = elsewhere(s)
      if (!from) continue
      if (s.importClause?.name)
        out.from.set(s.importClause.name.text, { file: from, name: 'default' })
      const given = s.importClause?.namedBindings
      if (given && ts.isNamedImports(given))
        for (const e of given.elements)
          out.from.set(e.name.text, { file: from, name: (e.propertyName ?? e.name).text })
    } else if (ts.isExportDeclaration(s)) {
      const from = elsewhere(s)
      if (!s.exportClause && from) out.whole.push(from)
      if (s.exportClause && ts.isNamedExports(s.exportClause))
        for (const e of s.exportClause.elements) {
          const name = (e.propertyName ?? e.name).text
          if (from) out.from.set(e.name.text, { file: from, name })
          else if (!s.moduleSpecifier) out.exported.set(e.name.text, name)
        }
    }
  }
  return out
}

/** A file of a library by what another calls it. */
const fileBy = (base: string): Code | undefined => {
  for (const end of ['', '.js', '.mjs', '/index.js', '/index.mjs'])
    if (ts.sys.fileExists(base + end)) return codeOf(base + end)
}

/** What stands under a name of a file, with the file in which it does. */
export function standing(
  code: Code,
  name: string,
  depth = 0,
): { code: Code; is: ts.Node; name: string } | undefined {
  if (depth > 6) return
  for (const local of [code.exported.get(name) ?? name, name]) {
    const is = code.tops.get(local)
    if (is) return { code, is, name: local }
    const from = code.from.get(local)
    const other = from && fileBy(from.file)
    const found = other && standing(other, from!.name, depth + 1)
    if (found) return found
  }
  for (const file of code.whole) {
    const other = name === 'default' ? undefined : fileBy(file)
    const found = other && standing(other, name, depth + 1)
    if (found) return found
  }
}

/** A literal as it is written in settings; nothing for anything else. */
export function literal(e: ts.Expression | undefined): string | undefined {
  if (!e) return
  if (ts.isStringLiteralLike(e) || ts.isNumericLiteral(e)) return e.text
  if (e.kind === ts.SyntaxKind.TrueKeyword) return 'true'
  if (e.kind === ts.SyntaxKind.FalseKeyword) return 'false'
  // minified: !0 and !1
  if (ts.isPrefixUnaryExpression(e) && ts.isNumericLiteral(e.operand)) {
    if (e.operator === ts.SyntaxKind.MinusToken) return '-' + e.operand.text
    if (e.operator === ts.SyntaxKind.ExclamationToken) return String(e.operand.text === '0')
  }
}

export const named = (n: ts.PropertyName | ts.BindingName | undefined) =>
  n && (ts.isIdentifier(n) || ts.isStringLiteralLike(n)) ? n.text : ''

export const memberOf = (
  o: ts.ObjectLiteralExpression,
  name: string,
): ts.Expression | undefined => {
  for (const p of o.properties) {
    if (ts.isPropertyAssignment(p) && named(p.name) === name) return p.initializer
    if (ts.isShorthandPropertyAssignment(p) && p.name.text === name) return p.name
  }
}
