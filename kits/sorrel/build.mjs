// Builds the kit: icons, manifest, style sheet, module and types. Same sources give the same bytes.
//
//   node build.mjs [--next] [--out DIR]
//
// --next builds the version after this one: these sources with the edits of next/
// made to a copy. --out builds in a copy as well, and leaves this folder alone.
import { execFileSync } from 'node:child_process'
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { build } from 'esbuild'

const { values: asked } = parseArgs({
  options: { next: { type: 'boolean' }, out: { type: 'string' } },
})
const read = path => readFileSync(path, 'utf8')
const run = (bin, ...args) =>
  execFileSync(`node_modules/.bin/${bin}`, args, { stdio: ['ignore', 'ignore', 'inherit'] })

const out = asked.out ?? (asked.next && '.next')
if (out) {
  rmSync(out, { recursive: true, force: true })
  mkdirSync(out, { recursive: true })
  for (const name of [
    'package.json',
    'CHANGELOG.md',
    'sorrel.tokens.json',
    'sorrel.notes.json',
    'icons.json',
    'tsconfig.json',
    'custom-elements-manifest.config.mjs',
    'src',
  ])
    cpSync(name, join(out, name), { recursive: true })
  if (asked.next) cpSync('next/src', join(out, 'src'), { recursive: true })
  if (!existsSync(join(out, 'node_modules')))
    symlinkSync(resolve('node_modules'), join(out, 'node_modules'))
  const edits = asked.next ? (await import('./next/edits.mjs')).default : undefined
  process.chdir(out)
  edits?.({
    edit(file, find, put) {
      const text = read(file)
      const times =
        typeof find === 'string'
          ? text.split(find).length - 1
          : (text.match(new RegExp(find, 'g')) ?? []).length
      if (times !== 1)
        throw new Error(
          `next/edits.mjs: ${JSON.stringify(String(find))} stands ${times} times in ${file}`,
        )
      writeFileSync(
        file,
        text.replace(find, () => put),
      )
    },
    json(file, change) {
      const value = JSON.parse(read(file))
      change(value)
      writeFileSync(file, JSON.stringify(value, undefined, 1) + '\n')
    },
  })
}

const icons = JSON.parse(read('icons.json'))
const shape = from =>
  read(`node_modules/lucide-static/icons/${from}.svg`)
    .replace(/<!--.*?-->/gs, '')
    .match(/<svg[^>]*>(.*)<\/svg>/s)[1]
    .replace(/\s+/g, ' ')
    .trim()
writeFileSync(
  'src/icons.gen.ts',
  `/** Shapes by icon name, inlined from the icon package by the build. */\nexport const icons: Record<string, string> = ${JSON.stringify(Object.fromEntries(icons.map(i => [i.name, shape(i.from)])), null, 1)}\n`,
)

rmSync('dist', { recursive: true, force: true })
mkdirSync('dist/fonts', { recursive: true })
run('cem', 'analyze', '--quiet')

const tokens = JSON.parse(read('sorrel.tokens.json'))
const alias = value =>
  value.replace(/^\{(.+)\}$/, (_, path) => `var(--sorrel-${path.replaceAll('.', '-')})`)
const px = v => `${v.value}${v.unit}`
const cssValue = (type, v) =>
  typeof v === 'string'
    ? alias(v)
    : typeof v === 'number'
      ? String(v)
      : type === 'color'
        ? v.hex
        : type === 'dimension' || type === 'duration'
          ? px(v)
          : type === 'cubicBezier'
            ? `cubic-bezier(${v.join(', ')})`
            : type === 'fontFamily'
              ? v.map(f => (/\s/.test(f) ? `'${f}'` : f)).join(', ')
              : `${px(v.offsetX)} ${px(v.offsetY)} ${px(v.blur)} ${px(v.spread)} rgb(${v.color.components.map(n => Math.round(n * 255)).join(' ')} / ${v.color.alpha})`
const variables = groups =>
  Object.entries(groups)
    .filter(([g]) => !g.startsWith('$'))
    .flatMap(([g, set]) =>
      Object.entries(set)
        .filter(([k]) => !k.startsWith('$'))
        .map(
          ([k, t]) =>
            `  --sorrel-${g}-${k}: ${cssValue(t.$type ?? tokens[g]?.$type ?? set.$type, t.$value)};`,
        ),
    )
    .join('\n')

const fontDir = 'node_modules/@fontsource/alegreya-sans/files'
const faces = [400, 500, 700]
  .flatMap(w =>
    ['latin', 'latin-ext'].map(set => {
      const file = `alegreya-sans-${set}-${w}-normal.woff2`
      cpSync(`${fontDir}/${file}`, `dist/fonts/${file}`)
      const range =
        set === 'latin'
          ? 'U+0000-00FF, U+2000-206F, U+20AC, U+2190-2193'
          : 'U+0100-02AF, U+1E00-1EFF'
      return `@font-face { font-family: 'Alegreya Sans'; font-weight: ${w}; font-display: swap; src: url('./fonts/${file}') format('woff2'); unicode-range: ${range}; }`
    }),
  )
  .join('\n')
const base =
  'font-family: var(--sorrel-font-text); font-size: var(--sorrel-text-m); color: var(--sorrel-color-ink); background: var(--sorrel-color-ground);'
writeFileSync(
  'dist/sorrel.css',
  `${faces}
:root, [data-theme~='light'] {
${variables(tokens)}
}
${Object.entries(tokens.$extensions.ubiquant.themes)
  .filter(([, set]) => Object.keys(set).length)
  .map(([name, set]) => `[data-theme~='${name}'] {\n${variables(set)}\n}`)
  .join('\n')}
body, [data-theme] { ${base} }
`,
)
const how = {
  absWorkingDir: process.cwd(),
  preserveSymlinks: true,
  bundle: true,
  format: 'esm',
  target: 'es2022',
  minify: true,
  legalComments: 'eof',
}
await build({ ...how, entryPoints: ['src/index.ts'], outfile: 'dist/sorrel.js' })
// The same by parts, for applications that take only some of it; what they share is in files of its own.
await build({
  ...how,
  entryPoints: readdirSync('src/components')
    .sort()
    .map(f => `src/components/${f}`),
  splitting: true,
  outdir: 'dist/parts',
  chunkNames: 'shared-[hash]',
})
run('tsc', '-p', 'tsconfig.json')
