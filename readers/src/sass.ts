/**
 * Makes CSS of a sheet in Sass, as a build of the team's would. Sheets are no programs that reach anything:
 * they load other sheets, of the repository and of packages installed for it, and nothing else.
 */
import { existsSync, readFileSync, realpathSync, statSync } from 'node:fs'
import { basename, dirname, extname, join, resolve, sep } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { compileString, Exception, type Importer, Logger } from 'sass'

export type Syntax = 'scss' | 'indented'

const most = 4 << 20
const endings = ['.scss', '.sass', '.css']

const isFile = (file: string) => existsSync(file) && statSync(file).isFile()

/** The file that a path without ending, and without the line that begins a part's name, stands for.
 * Source: Sass specification, "Resolving a file: URL" and "Resolving a file: URL for partials". */
function partOf(path: string): string | undefined {
  const named = (at: string) => {
    const ends = endings.includes(extname(at)) ? [''] : endings
    return ends.flatMap(end => [at + end, join(dirname(at), `_${basename(at)}${end}`)])
  }
  return [...named(path), ...named(join(path, 'index'))].find(isFile)
}

/** What a package says its sheet is. */
function sheetOf(folder: string): string | undefined {
  if (!isFile(join(folder, 'package.json'))) return undefined
  const pkg = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as {
    sass?: string
    style?: string
    main?: string
  }
  const named = [pkg.sass, pkg.style, pkg.main].find(f => f && endings.includes(extname(f)))
  return named && partOf(join(folder, named))
}

/** What stands for a sheet of a package that is not installed: it has nothing in it. */
const absent = 'absent:'

/** Finds sheets for those of one repository; paths are folders of it in which its build looks, too, and
 * left is told what is not there. */
function importer(dir: string, paths: string[], left: (what: string) => void): Importer<'sync'> {
  const root = realpathSync(dir)
  const allowed = (file: string) => {
    const real = realpathSync(file)
    return real.startsWith(root + sep) || real.includes(`${sep}node_modules${sep}`)
  }
  const find = (spec: string, from: string): string | undefined => {
    const name = spec.replace(/^(pkg:|~)(?!\/)/, '')
    const beside = name === spec ? partOf(resolve(from, spec)) : undefined
    if (beside) return beside
    for (let at = from; at.startsWith(root); at = dirname(at)) {
      const there = join(at, 'node_modules', name)
      const file = partOf(there) ?? sheetOf(there)
      if (file) return file
    }
    // As most builds have it: "@/x" and "~/x" begin at the sources, others at the repository.
    const inside = spec.replace(/^[@~]\//, '')
    return [...paths, 'src', ''].map(at => partOf(join(root, at, inside))).find(Boolean)
  }
  return {
    canonicalize(spec, { containingUrl }) {
      const from = containingUrl ? dirname(fileURLToPath(containingUrl)) : root
      if (spec.startsWith(absent)) return new URL(spec)
      const file = spec.startsWith('file:') ? partOf(fileURLToPath(spec)) : find(spec, from)
      if (file) return allowed(file) ? pathToFileURL(file) : null
      // What the packages of others would add is left out, and the rest stands: what asks more of it says so.
      if (/^[a-z]+:/.test(spec) && !spec.startsWith('pkg:')) return null
      left(
        `${spec}, which ${basename(from)}/${containingUrl ? basename(fileURLToPath(containingUrl)) : ''} asks for, is not there`,
      )
      return new URL(absent + encodeURIComponent(spec))
    },
    load(url) {
      if (url.protocol === absent) return { contents: '', syntax: 'scss' }
      const file = fileURLToPath(url)
      if (statSync(file).size > most) throw new Error(`${file} is larger than ${most >> 20} MB`)
      const syntax = { '.sass': 'indented', '.css': 'css' }[extname(file)] ?? 'scss'
      return { contents: readFileSync(file, 'utf8'), syntax: syntax as 'scss' }
    },
  }
}

/** How the sheets of one repository are made. */
export interface Build {
  dir: string
  /** What the build puts before each sheet. */
  before?: string
  /** Folders of the repository in which the build looks for sheets, too. */
  paths?: string[]
}

/** The CSS of a sheet, and what is left out of it; throws with what is wrong and where. What the build puts
 * before each stands on its first line, so that the lines of the sheet keep their numbers. */
export function css(build: Build, file: string, text: string, syntax: Syntax) {
  const first = syntax === 'scss' ? (build.before ?? '').replace(/\s*\n\s*/g, ' ') : ''
  const left = new Set<string>()
  const from = importer(build.dir, build.paths ?? [], what => left.add(what))
  const made = compileString(first + text, {
    syntax,
    url: pathToFileURL(file),
    importer: from,
    importers: [from],
    logger: Logger.silent,
    sourceMap: false,
  })
  return { css: made.css, left: [...left] }
}

/** What is wrong in a sheet, and where; undefined for what is no fault of a sheet. */
export function wrong(e: unknown): string | undefined {
  if (!(e instanceof Exception)) return undefined
  const at = e.span.url ? `${basename(fileURLToPath(e.span.url))}:` : ''
  return `${e.sassMessage.replace(/\.$/, '')} (${at}${e.span.start.line + 1})`
}
