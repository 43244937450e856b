import { describe, expect, it } from 'vitest'
import type { Choice, Element } from '../../api/client'
import { abbreviates, editFor, shared, typed, typing } from './choices'

const choice = (over: Partial<Choice>): Choice =>
  ({
    prop: 'tone',
    type: 'choice',
    default: 'plain',
    values: [
      { value: 'plain', uses: 0, screens: 0 },
      { value: 'bad', uses: 0, screens: 0 },
    ],
    ...over,
  }) as Choice

describe('a setting that is typed', () => {
  const list = [
    choice({ prop: 'heading', type: 'text', values: [], default: '' }),
    choice({
      prop: 'level',
      values: [1, 2, 3].map(n => ({ value: String(n), uses: 0, screens: 0 })),
    }),
    choice({
      prop: 'emphasis',
      values: ['strong', 'soft', 'bare'].map(value => ({ value, uses: 0, screens: 0 })),
    }),
    choice({ prop: 'emptyText', type: 'text', values: [] }),
    choice({
      prop: 'disabled',
      type: 'yes/no',
      value: 'false',
      values: ['false', 'true'].map(value => ({ value, uses: 0, screens: 0 })),
    }),
    choice({
      prop: 'does',
      type: 'action',
      values: [
        { value: 'open e1', words: 'open dialog “Settings”', uses: 0, screens: 0 },
        { value: 'theme dark', words: 'turn the theme dark on or off', uses: 0, screens: 0 },
      ],
    }),
  ]
  const read = (text: string) => typing(text, list, ['tickets', 'beds'])
  it('is meant by its beginning, the exact one first', () => {
    expect(read('he Work tickets')).toMatchObject({ prop: 'heading', value: 'Work tickets' })
    expect(read('emp st')).toMatchObject({ prop: 'emphasis', value: 'strong', values: ['strong'] })
    expect(read('empt Nothing yet')).toMatchObject({ prop: 'emptyText', value: 'Nothing yet' })
    expect(read('lev')).toMatchObject({ prop: 'level', set: false })
    expect(read('zz 3').prop).toBe('')
  })
  it('takes only what is among the choices, and expressions', () => {
    expect(read('emphasis loud').value).toBeUndefined()
    expect(read('emphasis s')).toMatchObject({ value: 'strong', values: ['strong', 'soft'] })
    expect(read('emphasis = record.kind').value).toBe('= record.kind')
    expect(read('heading=record.name').value).toBe('=record.name')
    expect(read('does sett').value).toBe('open e1')
    expect(read('does dark').value).toBe('theme dark')
  })
  it('turns a yes or no over, and knows what every element has', () => {
    expect([read('dis').value, read('disabled no').value, read('disabled y').value]).toEqual([
      'true',
      'false',
      'true',
    ])
    expect(read('each tick')).toMatchObject({ prop: 'each', value: 'tickets' })
    expect(read('each')).toMatchObject({ prop: 'each', value: '' })
    expect(read('name saveButton')).toMatchObject({ prop: 'name', value: 'saveButton' })
    expect(read('if = size(beds) > 0')).toMatchObject({ prop: 'if', value: '= size(beds) > 0' })
  })
})

describe('what is typed in short', () => {
  it('begins words of what is said, one after the other', () => {
    expect(abbreviates('change state back', 'change state to back')).toBe(true)
    expect(abbreviates('ch b', 'change state to back')).toBe(true)
    expect(abbreviates('open lend', 'open dialog “lend a tool”')).toBe(true)
    expect(abbreviates('back change', 'change state to back')).toBe(false)
    expect(abbreviates('change change', 'change state to back')).toBe(false)
  })
})

describe('choices of several elements', () => {
  it('tells the value they share, defaults included', () => {
    const list: Element[] = [
      { id: 'a', type: 't' },
      { id: 'b', type: 't', props: { tone: 'plain' } },
    ]
    expect(shared(choice({}), list)).toEqual({ value: 'plain', mix: [['plain', 2]] })
  })
  it('tells how many have each where they differ', () => {
    const list: Element[] = [
      { id: 'a', type: 't', props: { tone: 'bad' } },
      { id: 'b', type: 't' },
      { id: 'c', type: 't' },
    ]
    expect(shared(choice({}), list)).toEqual({
      value: undefined,
      mix: [
        ['plain', 2],
        ['bad', 1],
      ],
    })
  })
  it('takes off what would be the default, and only where it is set', () => {
    expect(editFor(choice({}), 'a', 'plain', true)).toEqual([
      { op: 'unset', id: 'a', prop: 'tone' },
    ])
    expect(editFor(choice({}), 'a', 'plain', false)).toEqual([])
    expect(editFor(choice({ prop: 'tone@640' }), 'a', 'plain', false)).toEqual([
      { op: 'set', id: 'a', prop: 'tone@640', value: 'plain' },
    ])
  })
  it('keeps numbers and yes or no what they are', () => {
    expect(typed(choice({ type: 'yes/no' }), 'true')).toBe(true)
    expect(typed(choice({ values: [{ value: '1', uses: 0, screens: 0 }] }), '2')).toBe(2)
    expect(typed(choice({ type: 'text' }), '2')).toBe('2')
  })
})
