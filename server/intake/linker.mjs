// Links what Angular's libraries ship, with the linker of the folder's own Angular:
// { dir, files } on standard input, the linked texts by file on standard output.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import { pathToFileURL } from 'node:url'

const { dir, files } = JSON.parse(readFileSync(0, 'utf8'))
const require = createRequire(path.join(dir, 'package.json'))
const cli = path.dirname(require.resolve('@angular/compiler-cli/package.json'))
const fromCli = createRequire(path.join(cli, 'package.json'))
const babel = fromCli('@babel/core')
const given = JSON.parse(readFileSync(path.join(cli, 'package.json'), 'utf8')).exports[
  './linker/babel'
]
const entry = typeof given === 'string' ? given : given.default
const { createEs2015LinkerPlugin } = await import(pathToFileURL(path.join(cli, entry)).href)
const plugin = createEs2015LinkerPlugin({
  fileSystem: {
    resolve: path.resolve,
    exists: () => false,
    dirname: path.dirname,
    relative: path.relative,
    readFile: f => readFileSync(f, 'utf8'),
  },
  logger: { level: 1, debug() {}, info() {}, warn() {}, error() {} },
  linkerJitMode: false,
})
const out = {}
for (const file of files) {
  const r = babel.transformSync(readFileSync(file, 'utf8'), {
    filename: file,
    plugins: [plugin],
    compact: false,
    configFile: false,
    babelrc: false,
    sourceMaps: false,
  })
  out[file] = r.code
}
process.stdout.write(JSON.stringify(out))
