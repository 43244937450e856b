import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { contrast, luminance } from '../../frame/inks'
import { gather, variantsTree } from './contrast'

const kit = {
  themes: ['light', 'dark'],
  tokens: [
    { path: 'color.ink', type: 'color', values: { light: '#172326', dark: '#E8F0F1' } },
    { path: 'color.surface', type: 'color', values: { light: '#ffffff', dark: '#000000' } },
  ],
} as unknown as Schemas['ApiKitOut']
const ink = (ink: string, ground: string, ratio: number, large = false) => ({
  ink,
  ground,
  ratio,
  large,
  sample: 'Aa',
})

describe('contrast', () => {
  it('is what WCAG says of black and white, and of one colour', () => {
    expect(contrast([0, 0, 0], [255, 255, 255])).toBeCloseTo(21, 5)
    expect(contrast([90, 90, 90], [90, 90, 90])).toBe(1)
    expect(contrast([119, 119, 119], [255, 255, 255])).toBeCloseTo(4.48, 2)
    expect(luminance([255, 0, 0])).toBeCloseTo(0.2126, 4)
  })
  it('does not depend on which of two comes first', () => {
    expect(contrast([10, 40, 200], [240, 230, 0])).toBe(contrast([240, 230, 0], [10, 40, 200]))
  })
})

describe('the pairs', () => {
  it('stand once with all who show them, the weak ones first', () => {
    const pairs = gather(
      new Map([
        ['light x-a', [ink('#172326', '#FFFFFF', 15), ink('#999999', '#FFFFFF', 2.8)]],
        ['light x-b', [ink('#172326', '#FFFFFF', 15)]],
        ['dark x-a', [ink('#E8F0F1', '#000000', 18)]],
      ]),
      kit,
    )
    expect(pairs.map(p => [p.theme, p.inkName, p.groundName, p.fails, p.tags.join()])).toEqual([
      ['light', '', 'surface', true, 'x-a'],
      ['light', 'ink', 'surface', false, 'x-a,x-b'],
      ['dark', 'ink', 'surface', false, 'x-a'],
    ])
  })
  it('ask less of large letters', () => {
    expect(
      gather(
        new Map([['light x', [ink('#888', '#FFF', 3.5, true), ink('#888', '#FFF', 3.5)]]]),
        kit,
      ).map(p => [p.needed, p.fails]),
    ).toEqual([
      [4.5, true],
      [3, false],
    ])
  })
  it('are looked for on every value of every choice', () => {
    const tree = variantsTree({
      tag: 'x-b',
      example: { type: '', slot: '', text: 'Go', props: null, children: null },
      props: [
        { name: 'tone', values: ['a', 'b', 'c'], default: 'a' },
        { name: 'label', values: null, default: '' },
      ],
    } as unknown as Parameters<typeof variantsTree>[0])
    expect(tree.children!.map(c => c.props?.tone)).toEqual([undefined, 'b', 'c'])
  })
})
