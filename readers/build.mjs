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

rmSync('dist', { recursive: true, force: true })
mkdirSync('dist')
await build({
  entryPoints: ['src/declarations.ts', 'src/markup.ts', 'src/places.ts'],
  outdir: 'dist',
  outExtension: { '.js': '.cjs' },
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  minify: true,
  legalComments: 'none',
  define: { LIBS: JSON.stringify(libs) },
  logLevel: 'warning',
})
