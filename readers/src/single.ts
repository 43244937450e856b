/**
 * Makes modules of Vue's single files and style sheets of Sass, as a build of the team's would. Nothing of
 * the repository is run. The question comes as JSON on standard input:
 *
 *   { "dir": "/work/shop", "before": "what the build puts before each sheet of Sass",
 *     "paths": ["folders of it in which the build looks for sheets, too"],
 *     "files": [{ "file": "/work/shop/src/ui/Press.vue", "text": "…" }],
 *     "sheets": [{ "file": "/work/shop/src/main.scss", "text": "…" }] }
 *
 * and the answer goes to standard output, one for each file in its order:
 *
 *   { "files": [{ "js": "…", "ts": true, "css": ["…"], "left": ["what was not understood"], "why": "" }],
 *     "sheets": [{ "css": "…", "left": ["what it asks for and is not there"], "why": "" }] }
 *
 * "why" says why there is nothing of a file.
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
import { type Build, css, wrong } from './sass'

registerTS(() => ts)

interface Answer {
  js: string
  ts: boolean
  css: string[]
  left: string[]
  why: string
}

const said = (e: unknown) => wrong(e) ?? (e instanceof Error ? e.message : String(e)).split('\n')[0]

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

/** The styles of a file as CSS; undefined where they are in a language that is not known here. */
function plain(build: Build, file: string, text: string, lang = 'css') {
  if (lang === 'css' || lang === 'postcss') return { css: text, left: [] }
  if (lang !== 'scss' && lang !== 'sass') return undefined
  return css(build, file, text, lang === 'sass' ? 'indented' : 'scss')
}

function answer(build: Build, file: string, text: string): Answer {
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
    let source: string | undefined
    try {
      const made = plain(build, file, s.content, s.lang)
      source = made?.css
      if (made) out.left.push(...made.left)
      else out.left.push(`its styles are written in ${s.lang}`)
    } catch (e) {
      out.left.push(`its styles: ${said(e)}`)
    }
    if (source === undefined) continue
    const made = compileStyle({
      source,
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

interface Asked {
  file: string
  text: string
}

const q = JSON.parse(readFileSync(0, 'utf8')) as Build & {
  files?: Asked[]
  sheets?: Asked[]
}
/** What is made of each, or why it is not. */
function each<T extends { why: string }>(
  list: Asked[] | undefined,
  none: Omit<T, 'why'>,
  make: (f: Asked) => T,
) {
  return (list ?? []).map(f => {
    try {
      return make(f)
    } catch (e) {
      return { ...none, why: said(e) }
    }
  })
}
process.stdout.write(
  JSON.stringify({
    files: each<Answer>(q.files, { js: '', ts: false, css: [], left: [] }, f =>
      answer(q, f.file, f.text),
    ),
    sheets: each<{ css: string; left: string[]; why: string }>(
      q.sheets,
      { css: '', left: [] },
      f => ({ ...css(q, f.file, f.text, f.file.endsWith('.sass') ? 'indented' : 'scss'), why: '' }),
    ),
  }),
)
