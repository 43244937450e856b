import css from 'highlight.js/lib/languages/css'
import json from 'highlight.js/lib/languages/json'
import typescript from 'highlight.js/lib/languages/typescript'
import xml from 'highlight.js/lib/languages/xml'
import { createLowlight } from 'lowlight'

/** What a stretch of code is, as far as it wears a tone of its own. */
export type Tone = '' | 'word' | 'said' | 'aside' | 'name'
export interface Stretch {
  text: string
  tone: Tone
}

// What stands in a script of a page goes by the name of the plain language.
const reader = createLowlight({ css, json, typescript, javascript: typescript, xml })
/** From so many letters on code is shown plain: nobody waits for its tones. */
const most = 200_000

/** The language of a file by its name, or of a delivery's target. */
export function languageOf(name: string): string {
  const end = /[^./]*$/.exec(name.toLowerCase())?.[0] ?? ''
  return (
    {
      tsx: 'typescript',
      ts: 'typescript',
      js: 'typescript',
      mjs: 'typescript',
      react: 'typescript',
    }[end] ??
    { vue: 'xml', html: 'xml', svg: 'xml', angular: 'xml' }[end] ??
    { css: 'css', json: 'json', webmanifest: 'json' }[end] ??
    ''
  )
}

const tones: Record<string, Tone> = {
  'hljs-comment': 'aside',
  'hljs-meta': 'aside',
  'hljs-string': 'said',
  'hljs-regexp': 'said',
  'hljs-number': 'said',
  'hljs-literal': 'word',
  'hljs-keyword': 'word',
  'hljs-tag': '',
  'hljs-name': 'word',
  'hljs-selector-class': 'word',
  'hljs-selector-tag': 'word',
  'hljs-attr': 'name',
  'hljs-attribute': 'name',
}

interface Node {
  type: string
  value?: string
  properties?: { className?: unknown }
  children?: Node[]
}

/** Code line by line, each in stretches of one tone. All of it is there, in its order. */
export function toned(code: string, language: string): Stretch[][] {
  const lines: Stretch[][] = [[]]
  const put = (text: string, tone: Tone) => {
    text.split('\n').forEach((part, i) => {
      if (i) lines.push([])
      if (part) lines.at(-1)!.push({ text: part, tone })
    })
  }
  const walk = (node: Node, tone: Tone) => {
    if (node.value !== undefined) put(node.value, tone)
    const classes = Array.isArray(node.properties?.className) ? node.properties.className : []
    const own = classes.map(c => tones[String(c)]).find(t => t !== undefined)
    for (const child of node.children ?? []) walk(child, own ?? tone)
  }
  if (language && code.length <= most) walk(reader.highlight(language, code) as Node, '')
  else put(code, '')
  return lines
}

/** The classes that a tone wears. */
export const wears: Record<Tone, string> = {
  '': '',
  word: 'text-moss',
  said: 'text-slate',
  aside: 'text-ink2 italic',
  name: 'text-ink2',
}
