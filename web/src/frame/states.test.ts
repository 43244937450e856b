import { beforeEach, describe, expect, it } from 'vitest'
import { force, withMarks } from './states'

describe('states that are shown and not had', () => {
  it('lets rules hold for marked elements too', () => {
    expect(withMarks('a:hover:not(:disabled) { x: 1 }')).toBe(
      'a:is(:hover,[data-u-hover]):not(:disabled) { x: 1 }',
    )
    expect(withMarks(':host(:hover) b {}')).toBe(':host(:is(:hover,[data-u-hover])) b {}')
    expect(withMarks(':focus-visible {} :focus {} :focus-within {}')).toBe(
      ':is(:focus-visible,[data-u-focus]) {} :is(:focus,[data-u-focus]) {} :is(:focus-within,[data-u-within]) {}',
    )
    expect(withMarks('.hover, .x-hover, a::before {}')).toBe('.hover, .x-hover, a::before {}')
  })
  let screen: HTMLElement
  beforeEach(() => {
    document.body.innerHTML = '<div id="s"><p>text</p><x-a></x-a></div>'
    screen = document.querySelector('#s')!
  })
  it('marks what would take the pointer, through shadow trees, and all round it', () => {
    const host = screen.querySelector('x-a')!
    const root = host.attachShadow({ mode: 'open' })
    root.innerHTML = '<span><button disabled></button><button id="b"></button></span>'
    expect(force(screen, 'hover')).toBe(true)
    expect(root.querySelector('#b')!.hasAttribute('data-u-hover')).toBe(true)
    expect(host.hasAttribute('data-u-hover')).toBe(true)
    expect(screen.hasAttribute('data-u-hover')).toBe(false)
    expect(force(screen, 'focus')).toBe(true)
    expect(root.querySelector('#b')!.hasAttribute('data-u-focus')).toBe(true)
    expect(host.hasAttribute('data-u-focus')).toBe(false)
    expect(host.hasAttribute('data-u-within')).toBe(true)
  })
  it('says when nothing takes a state', () => {
    expect(force(screen, 'focus')).toBe(false)
  })
})
