/** The modules that are asked about as one program, of which nothing is run. */
import path from 'node:path'
import ts from 'typescript'
import { left, question } from './question'

declare const LIBS: Record<string, string>

export const LIB_DIR = path.join(question.dir, '__lib__')
export const probe = path.join(question.dir, '__probe__.ts')
const lines: string[] = []
question.specs.forEach((spec, i) => lines.push(`export * as m${i} from ${JSON.stringify(spec)};`))
;(question.files ?? []).forEach((file, i) =>
  lines.push(`export * as f${i} from ${JSON.stringify(file)};`),
)
let source = lines.join('\n')

const options: ts.CompilerOptions = {
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ESNext,
  moduleResolution: ts.ModuleResolutionKind.Bundler,
  jsx: ts.JsxEmit.ReactJSX,
  strict: true,
  skipLibCheck: true,
  noEmit: true,
  types: [],
  lib: ['lib.es2022.d.ts', 'lib.dom.d.ts', 'lib.dom.iterable.d.ts'],
  allowJs: !!question.code,
  experimentalDecorators: true,
}
if (question.code) options.maxNodeModuleJsDepth = 2
const host = ts.createCompilerHost(options)
export const readFile = host.readFile.bind(host)
const fileExists = host.fileExists.bind(host)
const getSourceFile = host.getSourceFile.bind(host)
const libOf = (file: string) =>
  path.dirname(file) === LIB_DIR ? LIBS[path.basename(file)] : undefined
host.getDefaultLibLocation = () => LIB_DIR
host.getDefaultLibFileName = o => path.join(LIB_DIR, ts.getDefaultLibFileName(o))
host.readFile = f => (f === probe ? source : (libOf(f) ?? readFile(f)))
host.fileExists = f => f === probe || libOf(f) !== undefined || fileExists(f)
const parsed = new Map<string, ts.SourceFile | undefined>()
host.getSourceFile = (f, o) => {
  if (f === probe) return ts.createSourceFile(f, source, o)
  if (!parsed.has(f)) {
    const own = libOf(f)
    parsed.set(f, own === undefined ? getSourceFile(f, o) : ts.createSourceFile(f, own, o))
  }
  return parsed.get(f)
}

/**
 * The global names of what is drawn, which newer declarations of React keep to their module
 * and libraries of before still speak of: without them what is declared by them is anything.
 */
const DRAWN = `
import type * as Drawn from 'react';
declare global {
  namespace JSX {
    type ElementType = Drawn.JSX.ElementType;
    interface Element extends Drawn.JSX.Element {}
    interface ElementClass extends Drawn.JSX.ElementClass {}
    interface IntrinsicElements extends Drawn.JSX.IntrinsicElements {}
  }
}`
function build(): ts.Program {
  const first = ts.createProgram([probe], options, host)
  const has = (name: string, what: ts.SymbolFlags) =>
    first.getTypeChecker().resolveName(name, undefined, what, false)
  const react = first.getSourceFiles().some(f => /\/@types\/react\/index\.d\.ts$/.test(f.fileName))
  if (question.drawn !== 'react' || !react || has('JSX', ts.SymbolFlags.Namespace)) return first
  source += DRAWN
  return ts.createProgram([probe], options, host)
}
export const program = build()
export const checker = program.getTypeChecker()
export const at = program.getSourceFile(probe)!
export const moduleSymbol = checker.getSymbolAtLocation(at)

for (const d of program.getSemanticDiagnostics(at))
  left.push({
    where: 'types',
    what: ts.flattenDiagnosticMessageText(d.messageText, ' ').slice(0, 300),
  })
