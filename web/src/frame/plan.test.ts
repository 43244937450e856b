import { describe, expect, it } from 'vitest'
import { handlerOf, told } from './plan'

describe('what a control tells', () => {
  it('is what its event’s field has', () => {
    expect(told([{ target: { value: 'fern' } }], 'value')).toBe('fern')
    expect(told([{ target: { type: 'checkbox', checked: true, value: 'on' } }], 'checked')).toBe(
      true,
    )
  })
  it('is the value itself, or the one behind an event', () => {
    expect(told(['fern'], 'value')).toBe('fern')
    expect(told([{ kind: 'event' }, 'fern'], 'value')).toBe('fern')
    expect(told([['a', 'b']], 'value')).toEqual(['a', 'b'])
    expect(told([null], 'value')).toBe(null)
  })
  it('is what an account of the change says of the prop, and no other part of it', () => {
    expect(told([{ checked: true, source: {} }], 'checked')).toBe(true)
    expect(told([{ source: {} }], 'checked')).toEqual({ source: {} })
  })
})

describe('what a framework is told to call', () => {
  it('is named after the event', () => {
    expect(handlerOf('click')).toBe('onClick')
    expect(handlerOf('update:modelValue')).toBe('onUpdate:modelValue')
    expect(handlerOf('onSelectionChange')).toBe('onSelectionChange')
  })
})
