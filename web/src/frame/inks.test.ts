// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest'
import { contrast, inksOf } from './inks'

/** A page with letters in an element that a framework drew within a layout of ours. */
function page(): { root: Element; tag: Element } {
  document.body.innerHTML = `<div data-e="stack" style="background-color: rgb(255, 255, 255); color: rgb(0, 0, 0)">
    <span class="tag" style="background-color: rgb(76, 175, 80); color: rgb(255, 255, 255)"><b style="background-color: rgba(0, 0, 0, 0); color: rgb(255, 255, 255)">Running</b></span></div>`
  vi.spyOn(Element.prototype, 'getClientRects').mockReturnValue([{}] as unknown as DOMRectList)
  return { root: document.body.firstElementChild!, tag: document.querySelector('.tag')! }
}

describe('letters and their ground', () => {
  afterEach(() => vi.restoreAllMocks())

  it('are told of the element that drew them, which need not bear its key', () => {
    const { root, tag } = page()
    const [ink] = inksOf(root, new Map([[tag, 'tag']]))
    expect(ink).toMatchObject({ sample: 'Running', ink: '#FFFFFF', ground: '#4CAF50' })
    expect(ink!.keys).toEqual(['tag'])
    expect(ink!.ratio).toBeCloseTo(contrast([255, 255, 255], [76, 175, 80]), 3)
  })

  it('are told of what bears a key around them where nobody says more', () => {
    const { root } = page()
    expect(inksOf(root)[0]!.keys).toEqual(['stack'])
  })
})
