/**
 * Makes modules of Vue's single files, as a build of the team's would. Nothing of the repository is
 * run. The question comes as JSON on standard input:
 *
 *   { "files": [{ "file": "/work/shop/src/ui/Press.vue", "text": "…" }] }
 *
 * and the answer goes to standard output, one for each file in its order:
 *
 *   [{ "js": "…", "ts": true, "css": ["…"], "left": ["what was not understood"], "why": "" }]
 *
 * "why" says why there is no module of a file.
 */
import { createHash } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import {
  compileScript,
  compileStyle,
  compileTemplate,
  parse,
  registerTS,
  type SFCDescriptor,
} from '@vue/compiler-sfc'
import ts from 'typescript'

registerTS(() => ts)

interface Answer {
  js: string
  ts: boolean
  css: string[]
  left: string[]
  why: string
}

const said = (e: unknown) => (e instanceof Error ? e.message : String(e)).split('\n')[0]

/** The script of a file, with its template as a function in it. */
function script(d: SFCDescriptor, id: string): string {
  const scoped = d.styles.some(s => s.scoped)
  const compilerOptions = { scopeId: scoped ? `data-v-${id}` : undefined }
  const fs = { fileExists: existsSync, readFile: (f: string) => readFileSync(f, 'utf8') }
  const inline = !!d.scriptSetup
  let js = 'const component = {}\n'
  let bindings
  if (d.script || d.scriptSetup) {
    const made = compileScript(d, {
      id,
      inlineTemplate: inline,
      isProd: true,
      fs,
      genDefaultAs: 'component',
      templateOptions: { compilerOptions },
    })
    js = `${made.content}\n`
    bindings = made.bindings
  }
  if (d.template && !inline) {
    const made = compileTemplate({
      source: d.template.content,
      filename: d.filename,
      id,
      scoped,
      isProd: true,
      compilerOptions: { ...compilerOptions, bindingMetadata: bindings },
    })
    if (made.errors.length) throw made.errors[0]
    js += `${made.code}\ncomponent.render = render\n`
  }
  if (scoped) js += `component.__scopeId = ${JSON.stringify(`data-v-${id}`)}\n`
  return `${js}export default component\n`
}

function answer(file: string, text: string): Answer {
  const out: Answer = { js: '', ts: false, css: [], left: [], why: '' }
  const { descriptor: d, errors } = parse(text, { filename: file, sourceMap: false })
  if (errors.length) return { ...out, why: said(errors[0]) }
  const id = createHash('sha256').update(file).digest('hex').slice(0, 8)
  if (d.template?.lang && d.template.lang !== 'html')
    return { ...out, why: `its template is written in ${d.template.lang}` }
  try {
    out.js = script(d, id)
    out.ts = /^tsx?$/.test(d.scriptSetup?.lang ?? d.script?.lang ?? '')
  } catch (e) {
    return { ...out, why: said(e) }
  }
  for (const s of d.styles) {
    if (s.lang && s.lang !== 'css' && s.lang !== 'postcss') {
      out.left.push(`its styles are written in ${s.lang}`)
      continue
    }
    const made = compileStyle({
      source: s.content,
      filename: file,
      id: `data-v-${id}`,
      scoped: s.scoped,
      isProd: true,
    })
    if (made.errors.length) out.left.push(`its styles: ${said(made.errors[0])}`)
    else out.css.push(made.code)
  }
  return out
}

const q = JSON.parse(readFileSync(0, 'utf8')) as { files: { file: string; text: string }[] }
process.stdout.write(
  JSON.stringify(
    q.files.map(f => {
      try {
        return answer(f.file, f.text)
      } catch (e) {
        return { js: '', ts: false, css: [], left: [], why: said(e) }
      }
    }),
  ),
)
