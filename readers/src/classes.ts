/**
 * Makes a style sheet of one that leaves it to a build what classes stand for. Nothing of the
 * repository is run: settings are read as what is written in them. The question comes as JSON on
 * standard input:
 *
 *   { "dir": "/work/shop", "file": "/work/shop/src/index.css", "text": "…", "words": ["flex", …],
 *     "config": "/work/shop/tailwind.config.js" }
 *
 * and the answer goes to standard output: { "css": "…", "left": ["what was not understood"] }.
 */
import { existsSync, readFileSync, realpathSync, statSync } from 'node:fs'
import { dirname, isAbsolute, join, resolve, sep } from 'node:path'
import { compile, type Config } from 'tailwindcss'
import { settings } from './classes/settings'
import { before } from './classes/before'

declare const SHEETS: Record<string, string>

interface Question {
  dir: string
  file: string
  text: string
  words: string[]
  config?: string
}

const most = 4 << 20
/** Folder of the repository. */
let dir = ''

/** Reads a file of the repository, or of a package that is installed for it, and nothing else. */
function read(file: string): string {
  const real = realpathSync(file)
  const root = realpathSync(dir)
  if (!real.startsWith(root + sep) && !real.includes(`${sep}node_modules${sep}`))
    throw new Error(`${file} is not of the repository`)
  if (statSync(file).size > most) throw new Error(`${file} is larger than ${most >> 20} MB`)
  return readFileSync(file, 'utf8')
}

type Exports = string | null | undefined | Exports[] | { [key: string]: Exports }

/** The file that a package gives for a sheet: by its exports, its "style", or its name. */
function given(exports: Exports): string | undefined {
  if (typeof exports === 'string') return exports
  if (Array.isArray(exports)) return exports.map(given).find(Boolean)
  for (const key of ['style', 'import', 'default']) {
    const file = exports && given(exports[key])
    if (file?.endsWith('.css')) return file
  }
  return undefined
}

/** What stands behind a name in a package's exports, which may be for the package itself alone. */
function behind(exports: Exports, key: string): Exports {
  const named = exports && typeof exports === 'object' && !Array.isArray(exports) && '.' in exports
  return named ? exports[key] : key === '.' ? exports : undefined
}

function sheetOf(id: string, base: string): string | undefined {
  const inside = [id, `${id}.css`].map(name => resolve(base, name))
  const there = inside.find(file => existsSync(file) && statSync(file).isFile())
  if (there && (id.startsWith('.') || isAbsolute(id))) return there
  const [name, rest] = id.startsWith('@')
    ? [id.split('/').slice(0, 2).join('/'), id.split('/').slice(2).join('/')]
    : [id.split('/')[0], id.split('/').slice(1).join('/')]
  for (let at = base; at.startsWith(dir) || dir.startsWith(at); at = dirname(at)) {
    const folder = join(at, 'node_modules', name)
    if (existsSync(join(folder, 'package.json'))) {
      const pkg = JSON.parse(read(join(folder, 'package.json'))) as {
        style?: string
        main?: string
        exports?: Exports
      }
      const key = rest ? `./${rest}` : '.'
      const tries = [
        given(behind(pkg.exports, key)),
        rest || pkg.style || (pkg.main?.endsWith('.css') ? pkg.main : undefined),
        rest && `${rest}.css`,
        rest ? undefined : 'index.css',
      ]
      for (const one of tries) {
        const file = one && join(folder, one)
        if (file && file.startsWith(folder + sep) && existsSync(file) && statSync(file).isFile())
          return file
      }
    }
    if (at === dirname(at)) break
  }
  return there
}

/** A plugin that gives nothing: what it would give is said to be left out. */
const nothing = Object.assign(() => () => {}, { __isOptionsFunction: true as const })

async function answer(q: Question): Promise<{ css: string; left: string[] }> {
  const left: string[] = []
  const say = (what: string) => {
    if (!left.includes(what)) left.push(what)
  }
  const old = /@tailwind\s+(base|components|screens|variants)\b/.test(q.text)
  let text = old ? before(q.text) : q.text
  const config =
    q.config && (old || !/@theme\b|@import\s+["']tailwindcss/.test(q.text)) ? q.config : ''
  if (config && !/@config\b/.test(text)) text += `\n@config ${JSON.stringify(config)};\n`
  // A sheet that only speaks of classes, and has none of its own, looks up what they are.
  if (!/@tailwind\b|@import\s+["']tailwindcss|@reference\b/.test(text))
    text = `@reference "tailwindcss";\n${text}`
  const made = await compile(text, {
    base: dirname(q.file),
    from: q.file,
    loadStylesheet: async (id, base) => {
      const own = SHEETS[id.replace(/\.css$/, '')]
      if (own !== undefined) return { path: id, base: q.dir, content: own }
      const file = sheetOf(id, base)
      if (!file) {
        say(`@import ${JSON.stringify(id)} was not found`)
        return { path: id, base, content: '' }
      }
      return { path: file, base: dirname(file), content: read(file) }
    },
    loadModule: async (id, base, kind) => {
      if (kind === 'plugin') {
        say(`the plugin ${JSON.stringify(id)} is code, and is not run`)
        return { path: id, base, module: nothing as never }
      }
      const file = isAbsolute(id) ? id : resolve(base, id)
      return { path: file, base: dirname(file), module: settings(file, read, say) as Config }
    },
  })
  return { css: made.build(q.words), left }
}

async function main(): Promise<void> {
  const q = JSON.parse(readFileSync(0, 'utf8')) as Question
  dir = q.dir
  process.stdout.write(JSON.stringify(await answer(q)))
}

main().catch((e: unknown) => {
  process.stderr.write(`Error: ${(e as Error).message}\n`)
  process.exitCode = 1
})
