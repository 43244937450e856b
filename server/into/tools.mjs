// Asked by a delivery: formats code by the repository's own prettier. Reads a question as
// JSON from standard input, writes the answer as JSON to standard output.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import { pathToFileURL } from 'node:url'

const asked = JSON.parse(readFileSync(0, 'utf8'))
const answer = { prettier: '', texts: [], problems: [] }
const require = createRequire(path.join(asked.dir, 'package.json'))
const load = async name => {
  const found = await import(pathToFileURL(require.resolve(name)).href)
  return found.default ?? found
}

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

process.stdout.write(JSON.stringify(answer))
