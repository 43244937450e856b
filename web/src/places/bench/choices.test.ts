import { describe, expect, it } from 'vitest'
import type { Choice, Element } from '../../api/client'
import { editFor, shared, typed } from './choices'

const choice = (over: Partial<Choice>): Choice => ({ prop: 'tone', type: 'choice', default: 'plain', values: [{ value: 'plain', uses: 0, screens: 0 }, { value: 'bad', uses: 0, screens: 0 }], ...over }) as Choice

describe('choices of several elements', () => {
  it('tells the value they share, defaults included', () => {
    const list: Element[] = [{ id: 'a', type: 't' }, { id: 'b', type: 't', props: { tone: 'plain' } }]
    expect(shared(choice({}), list)).toEqual({ value: 'plain', mix: [['plain', 2]] })
  })
  it('tells how many have each where they differ', () => {
    const list: Element[] = [{ id: 'a', type: 't', props: { tone: 'bad' } }, { id: 'b', type: 't' }, { id: 'c', type: 't' }]
    expect(shared(choice({}), list)).toEqual({ value: undefined, mix: [['plain', 2], ['bad', 1]] })
  })
  it('takes off what would be the default, and only where it is set', () => {
    expect(editFor(choice({}), 'a', 'plain', true)).toEqual([{ op: 'unset', id: 'a', prop: 'tone' }])
    expect(editFor(choice({}), 'a', 'plain', false)).toEqual([])
    expect(editFor(choice({ prop: 'tone@640' }), 'a', 'plain', false)).toEqual([{ op: 'set', id: 'a', prop: 'tone@640', value: 'plain' }])
  })
  it('keeps numbers and yes or no what they are', () => {
    expect(typed(choice({ type: 'yes/no' }), 'true')).toBe(true)
    expect(typed(choice({ values: [{ value: '1', uses: 0, screens: 0 }] }), '2')).toBe(2)
    expect(typed(choice({ type: 'text' }), '2')).toBe('2')
  })
})
