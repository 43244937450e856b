// Asked by a delivery: formats code by the repository's own prettier, and finds by the
// repository's own TypeScript where its routes and settings stand. Reads a question as
// JSON from standard input, writes the answer as JSON to standard output.
import { readdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import { pathToFileURL } from 'node:url'

const asked = JSON.parse(readFileSync(0, 'utf8'))
const answer = { prettier: '', texts: [], places: [], problems: [] }
const require = createRequire(path.join(asked.dir, 'package.json'))
const load = async name => {
  const found = await import(pathToFileURL(require.resolve(name)).href)
  return found.default ?? found
}

if (asked.format) {
  const prettier = await load('prettier')
  answer.prettier = prettier.version
  for (const { path: file, text } of asked.format) {
    const filepath = path.join(asked.dir, file)
    try {
      const info = await prettier.getFileInfo(filepath, {
        ignorePath: path.join(asked.dir, '.prettierignore'),
      })
      if (info.ignored) continue
      const options = await prettier.resolveConfig(filepath, { editorconfig: true })
      answer.texts.push({ path: file, text: await prettier.format(text, { ...options, filepath }) })
    } catch (e) {
      answer.problems.push(`${file}: ${String(e?.message ?? e).split('\n')[0]}`)
    }
  }
}

if (asked.places) {
  try {
    await places(await load('typescript'))
  } catch (e) {
    answer.problems.push(String(e?.message ?? e).split('\n')[0])
  }
}
process.stdout.write(JSON.stringify(answer))

function* sources(dir, depth = 0) {
  if (depth > 8) return
  for (const e of readdirSync(dir, { withFileTypes: true })) {
    const at = path.join(dir, e.name)
    const rel = path.relative(asked.dir, at).split(path.sep).join('/')
    if (rel === asked.skip || e.name === 'node_modules' || e.name === 'dist' || e.name[0] === '.') continue
    if (e.isDirectory()) yield* sources(at, depth + 1)
    else if (/\.(m?[jt]s|[jt]sx)$/.test(e.name) && !/\.(d|spec|test|stories)\.[mjt]*sx?$/.test(e.name)) yield rel
  }
}

async function places(ts) {
  const makers = {
    vue: ['createRouter'],
    react: ['createBrowserRouter', 'createHashRouter', 'createMemoryRouter', 'useRoutes'],
    angular: ['provideRouter'],
  }[asked.places]
  const files = []
  for (const rel of sources(asked.dir)) {
    if (files.length > 4000) break
    const text = readFileSync(path.join(asked.dir, rel), 'utf8')
    if (text.length > 400_000) continue
    if (!makers.some(m => text.includes(m)) && !/routes/i.test(text) && !text.includes('plugin-vue')) continue
    files.push({ rel, text, tree: ts.createSourceFile(rel, text, ts.ScriptTarget.Latest, true) })
  }
  const lists = new Map() // arrays by their names: [file, node]
  const wanted = [] // arrays of routes, or names of such
  for (const file of files) {
    const visit = node => {
      if (ts.isVariableDeclaration(node) && ts.isIdentifier(node.name) && node.initializer) {
        let is = node.initializer
        while (ts.isAsExpression(is) || ts.isSatisfiesExpression?.(is)) is = is.expression
        if (ts.isArrayLiteralExpression(is)) {
          const known = lists.get(node.name.text) ?? []
          lists.set(node.name.text, [...known, { file, node: is }])
        }
      }
      if (ts.isCallExpression(node) && ts.isIdentifier(node.expression)) {
        if (makers.includes(node.expression.text) && node.arguments[0]) {
          let routes = node.arguments[0]
          if (asked.places === 'vue' && ts.isObjectLiteralExpression(routes)) {
            const p = routes.properties.find(p => p.name?.getText() === 'routes')
            routes = p && ts.isPropertyAssignment(p) ? p.initializer : p?.name
          }
          if (routes) wanted.push({ file, node: routes })
        }
        if (asked.places === 'vue' && plugin(file, node.expression.text)) {
          put('plugin', file, node.arguments.length ? node.arguments[0].pos : node.end - 1, {
            has: node.arguments.length > 0,
          })
        }
      }
      ts.forEachChild(node, visit)
    }
    visit(file.tree)
  }
  for (const { file, node } of wanted) {
    let at = { file, node }
    if (ts.isIdentifier(node)) {
      const named = lists.get(node.text) ?? []
      at = named.find(l => l.file === file) ?? named[0]
    }
    if (!at || !ts.isArrayLiteralExpression(at.node)) continue
    const list = at.node.elements
    // What leads nowhere else stays last; each stands on a line where the others do.
    const text = at.file.text
    const line = pos => text.slice(text.lastIndexOf('\n', pos - 1) + 1, pos)
    const rest = list.findIndex(
      e =>
        ts.isObjectLiteralExpression(e) &&
        e.properties.some(
          p =>
            p.name?.getText() === 'path' &&
            /^['"](\*\*|\*|\/:.*\*.*)['"]$/.test(p.initializer?.getText() ?? ''),
        ),
    )
    if (!list.length) {
      put('routes', at.file, at.node.end - 1, {})
      return
    }
    const last = list[list.length - 1]
    const indent = line(last.getStart())
    const apart = /^\s*$/.test(indent)
    const between = apart ? '\n' + indent : ' '
    if (rest >= 0) put('routes', at.file, list[rest].getStart(), { after: ',' + between })
    else if (list.hasTrailingComma) put('routes', at.file, list.end, { before: between, after: ',' })
    else put('routes', at.file, last.end, { before: ',' + between })
    return
  }

  function plugin(file, name) {
    return file.tree.statements.some(
      s => ts.isImportDeclaration(s) && s.moduleSpecifier.text === '@vitejs/plugin-vue' && s.importClause?.name?.text === name,
    )
  }
  function put(what, file, at, more) {
    const imports = file.tree.statements.filter(s => ts.isImportDeclaration(s))
    const last = imports[imports.length - 1]
    const quoted = last?.moduleSpecifier.getText() ?? ''
    const bytes = n => Buffer.byteLength(file.text.slice(0, n))
    answer.places.push({
      what,
      path: file.rel,
      at: bytes(at),
      import: last ? bytes(last.end) : 0,
      double: quoted[0] === '"',
      semi: last ? last.getText().endsWith(';') : false,
      before: '',
      after: '',
      has: false,
      ...more,
    })
  }
}
