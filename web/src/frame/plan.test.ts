import { describe, expect, it } from 'vitest'
import { handlerOf, nodeOf, told, type Tells } from './plan'

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

describe('a plan', () => {
  it('loses nothing that stands in a place of a plain element', () => {
    const page = document.createElement('div')
    page.innerHTML =
      '<div data-e="a"><p data-e="b" slot="render">Beds</p></div><u-c data-c="Card" data-p="{}" data-e="c"><p data-e="d" slot="head">Fern</p></u-c>'
    const [plain, card] = [...page.children].map(el => nodeOf(el, {} as Tells))
    expect(plain!.slots['']!.map(n => n.text)).toEqual(['Beds'])
    expect(card!.slots['head']!.map(n => n.text)).toEqual(['Fern'])
  })
})
