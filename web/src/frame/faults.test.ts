import { describe, expect, it } from 'vitest'
import { announce, faultOf, words, type Ask } from '../../../core/render/faults'

const ask = (rules: Partial<Ask>): Ask => ({ label: 'Due', ...rules })

describe('what is wrong with a value', () => {
  it('tells what is missing, and asks nothing else of what is left empty', () => {
    for (const empty of ['', '  ', undefined, null, false, []]) {
      expect(faultOf(empty, ask({ required: true }))).toBe('Due is needed.')
      expect(faultOf(empty, ask({ kind: 'email', least: 3, shortest: 2, choices: ['a'] }))).toBe('')
    }
    for (const full of ['x', 0, true, ['a']])
      expect(faultOf(full, ask({ required: true }))).toBe('')
  })

  it('reads what kind of text it is', () => {
    const cases: [kind: string, right: string[], wrong: string[]][] = [
      ['email', ['a@b.example', 'ida.fenn+x@fernhollow.example'], ['a', 'a@b', 'a b@c.d', '@c.d']],
      ['url', ['https://a.example/x', 'mailto:a@b.example'], ['a', '//a', 'a.example']],
      ['number', ['1', '-2.5', '1e3'], ['one', '1,5', '2 3']],
      ['date', ['2026-02-28'], ['2026-2-8', '28.2.2026', '2026-13-01']],
      ['time', ['08:30', '23:59:10'], ['8:30', 'noon']],
    ]
    for (const [kind, right, wrong] of cases) {
      for (const text of right) expect(faultOf(text, ask({ kind })), text).toBe('')
      for (const text of wrong) expect(faultOf(text, ask({ kind })), text).toContain('Due is no ')
    }
    expect(faultOf('anything', ask({ kind: 'secret' }))).toBe('')
  })

  it('holds bounds, as numbers, days and times', () => {
    expect(faultOf('9', ask({ least: '10' }))).toBe('Due must be 10 or more.')
    expect(faultOf('10', ask({ least: 10, most: 10 }))).toBe('')
    expect(faultOf(11, ask({ most: 10 }))).toBe('Due must be 10 or less.')
    expect(faultOf('ten', ask({ most: 10 }))).toBe('Due is no number.')
    expect(faultOf('2026-01-09', ask({ least: '2026-01-10' }))).toBe(
      'Due must be 2026-01-10 or later.',
    )
    expect(faultOf('2026-01-11', ask({ most: '2026-01-10' }))).toBe(
      'Due must be 2026-01-10 or earlier.',
    )
    // A bound that is none hides nothing that is asked besides.
    expect(faultOf('ab1', ask({ least: 'none', pattern: '[a-z]+' }))).toBe(
      'Due is not written as it should be.',
    )
    expect(faultOf('09:00', ask({ least: '08:30', most: '09:00' }))).toBe('')
    // What bounds nothing yet, another field that is empty, asks nothing.
    expect(faultOf('2026-01-11', ask({ least: '', most: undefined }))).toBe('')
  })

  it('counts letters as people do, and reads patterns as browsers do', () => {
    expect(faultOf('🌿🌿', ask({ longest: 2 }))).toBe('')
    expect(faultOf('🌿🌿🌿', ask({ longest: 2 }))).toBe('Due takes 2 letters or fewer.')
    expect(faultOf('a', ask({ shortest: '2' }))).toBe('Due needs 2 letters or more.')
    expect(faultOf('ab1', ask({ pattern: '[a-z]+' }))).toBe('Due is not written as it should be.')
    expect(faultOf('ab', ask({ pattern: '[a-z]+|\\d' }))).toBe('')
    expect(faultOf('ab', ask({ pattern: '[' }))).toBe('')
    expect(faultOf('c', ask({ choices: ['a', 'b'] }))).toBe('Due must be one of these: a, b.')
  })

  it('says a label as it is, whatever stands in it', () => {
    for (const label of ['{bound}', "$& $' $1", '<b>'])
      expect(faultOf('', { label, required: true })).toBe(`${label} is needed.`)
  })

  it('says all of it aloud, in one place, and takes it back', () => {
    announce([], true)
    expect(document.getElementById('faults')).toBeNull()
    announce(['A is needed.', 'B is needed.'], false)
    const told = document.getElementById('faults')!
    expect(told.getAttribute('role')).toBe('alert')
    expect(told.textContent).toBe('Not sent: A is needed. B is needed.')
    announce([], false)
    expect(told.textContent).toBe('')
    expect(told.hidden).toBe(true)
    expect(Object.values(words).every(w => !w.includes('undefined'))).toBe(true)
  })
})
