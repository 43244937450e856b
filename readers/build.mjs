// Builds each reader into one file that Node runs without anything beside it: the parsers
// are in it, and the declarations of the language's own library.
import { mkdirSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { build } from 'esbuild'

const require = createRequire(import.meta.url)
const lib = dirname(require.resolve('typescript'))
const wanted =
  /^lib\.(es5|es20(1[5-9]|2[0-2])[a-z.]*|dom|dom\.iterable|dom\.asynciterable|decorators|decorators\.legacy|scripthost)\.d\.ts$/
const libs = Object.fromEntries(
  readdirSync(lib)
    .filter(name => wanted.test(name) || name === 'lib.es2022.d.ts')
    .map(name => [name, readFileSync(join(lib, name), 'utf8')]),
)

const sheets = dirname(require.resolve('tailwindcss/package.json'))
const given = Object.fromEntries(
  ['index', 'theme', 'preflight', 'utilities'].flatMap(name => {
    const text = readFileSync(join(sheets, `${name}.css`), 'utf8')
    return name === 'index'
      ? [
          ['tailwindcss', text],
          ['tailwindcss/index', text],
        ]
      : [
          [`tailwindcss/${name}`, text],
          [`./${name}`, text],
        ]
  }),
)

// Engines of templates in other languages, which the compiler of single files asks for when it meets one.
const engines = {
  name: 'engines',
  setup(b) {
    const has = createRequire(require.resolve('@vue/compiler-sfc'))
    b.onResolve({ filter: /^[a-z@]/ }, a => {
      if (!a.importer.includes('compiler-sfc.cjs')) return
      try {
        has.resolve(a.path)
      } catch {
        return { path: a.path, external: true }
      }
    })
  },
}

rmSync('dist', { recursive: true, force: true })
mkdirSync('dist')
await build({
  entryPoints: [
    'src/declarations.ts',
    'src/markup.ts',
    'src/places.ts',
    'src/classes.ts',
    'src/single.ts',
  ],
  outdir: 'dist',
  outExtension: { '.js': '.cjs' },
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  minify: true,
  legalComments: 'none',
  plugins: [engines],
  define: { LIBS: JSON.stringify(libs), SHEETS: JSON.stringify(given) },
  logLevel: 'warning',
})
