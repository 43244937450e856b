import { describe, expect, it } from 'vitest'
import { languageOf, toned } from './tones'

const back = (code: string, language: string) =>
  toned(code, language)
    .map(line => line.map(s => s.text).join(''))
    .join('\n')
const toneOf = (code: string, language: string, text: string) =>
  toned(code, language)
    .flat()
    .find(s => s.text.includes(text))?.tone

describe('code in tones', () => {
  const samples: [string, string][] = [
    ['tsx', "// a\nconst a = <b c='d'>{e}</b>\n\nreturn `x\n${y}`\n"],
    [
      'vue',
      '<script setup lang="ts">\nconst a = 1 // b\n</script>\n\n<template>\n  <p :a="b">c &amp; d</p>\n</template>\n',
    ],
    ['css', '.a {\n  color: red; /* b */\n}\n'],
    ['json', '{ "a": [1, true, "b"] }'],
    ['txt', 'const a = <b>\n'],
    ['ts', '"unfinished\nconst </script> ` ${'],
  ]
  it.each(samples)('loses nothing of %s', (name, code) => {
    expect(back(code, languageOf(name))).toBe(code)
  })
  it('tells words, what is said, and what is said aside', () => {
    expect(toneOf('const a = "b" // c', 'typescript', 'const')).toBe('word')
    expect(toneOf('const a = "b" // c', 'typescript', 'b')).toBe('said')
    expect(toneOf('const a = "b" // c', 'typescript', 'c')).toBe('word') // of const
    expect(toneOf('<my-button kind="soft">Go</my-button>', 'xml', 'my-button')).toBe('word')
    expect(toneOf('<my-button kind="soft">Go</my-button>', 'xml', 'soft')).toBe('said')
    expect(toneOf('<my-button kind="soft">Go</my-button>', 'xml', 'Go')).toBe('')
  })
  it('tells them in the script of a page, too', () => {
    expect(toneOf('<script setup lang="ts">\nconst a = 1\n</script>', 'xml', 'const')).toBe('word')
  })
  it('knows languages by the ends of names, and shows others plain', () => {
    expect(languageOf('src/app/A.vue')).toBe('xml')
    expect(languageOf('react')).toBe('typescript')
    expect(languageOf('README')).toBe('')
    expect(toned('const a', '').flat()).toEqual([{ text: 'const a', tone: '' }])
  })
  it('shows very long code plain', () => {
    const long = 'const a = 1\n'.repeat(20_000)
    expect(toned(long, 'typescript')[0]).toEqual([{ text: 'const a = 1', tone: '' }])
  })
})
