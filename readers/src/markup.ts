/**
 * Reads the markup of a repository's files into one tree for all frameworks. Nothing of the
 * repository is run. Files come as JSON lines on standard input, answers go as JSON lines to
 * standard output, in their order:
 *
 *   { "file": "src/Home.tsx", "text": "…", "as": "" }
 *
 * "as" is "template" for a template of Angular in a file of its own, and "parse" for a file that
 * is parsed and no more. What cannot be read of
 * a file stands in its "problems"; a file that cannot be parsed at all has only those.
 */
import { createInterface } from 'node:readline'
import { angular, template } from './markup/angular'
import { empty, settle, type Module } from './markup/neutral'
import { jsx, parsed } from './markup/script'
import { vue } from './markup/vue'

interface Question {
  file: string
  text: string
  as?: string
}

function answer(q: Question): Module {
  if (q.as === 'template') {
    const out = empty('angular')
    template(q.text, q.file, out)
    return out
  }
  if (q.as === 'parse') {
    parsed(q.text, q.file)
    return empty('')
  }
  if (q.file.endsWith('.vue')) return vue(q.text, q.file)
  if (/\.[mc]?ts$/.test(q.file) && /@(Component|Directive)\s*\(/.test(q.text))
    return angular(q.text, q.file)
  return jsx(q.text, q.file)
}

async function main(): Promise<void> {
  for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
    if (!line.trim()) continue
    const q = JSON.parse(line) as Question
    let out: Module
    try {
      out = settle(answer(q), q.text)
    } catch (e) {
      const at = (e as { pos?: number }).pos ?? 0
      out = empty('')
      out.problems.push({ at: Buffer.byteLength(q.text.slice(0, at)), what: (e as Error).message })
    }
    process.stdout.write(JSON.stringify(out) + '\n')
  }
}

void main()
