import { describe, expect, it } from 'vitest'
import { decided, draftOf, type Theme } from './useTheme'

const theme = (over: Partial<Theme>): Theme => ({
  id: 'dusk',
  name: 'Dusk',
  from: 'dark',
  own: true,
  changed: false,
  making: { accent: '#112233' },
  tokens: { 'space.1': '3px' },
  failing: 0,
  missing: [],
  ...over,
})

describe('a draft of a theme', () => {
  it('begins as the theme is kept, and is a copy', () => {
    const kept = theme({})
    const draft = draftOf(kept)
    expect(draft).toEqual({
      id: 'dusk',
      name: 'Dusk',
      from: 'dark',
      making: { accent: '#112233' },
      tokens: { 'space.1': '3px' },
    })
    draft.making.accent = '#000000'
    draft.tokens['space.2'] = '4px'
    expect(kept.making.accent).toBe('#112233')
    expect(Object.keys(kept.tokens)).toEqual(['space.1'])
  })
  it('of a theme of the kit has no name of its own', () => {
    expect(draftOf(theme({ id: 'dark', own: false, changed: true })).name).toBe('')
  })
  it('begins empty where there is none', () => {
    expect(draftOf(undefined, 'compact')).toEqual({
      id: '',
      name: '',
      from: 'compact',
      making: {},
      tokens: {},
    })
  })
  it('leaves to the start what nobody decided, and keeps a nought', () => {
    expect(decided({ accent: '', radius: 0, step: Number.NaN, size: 14, font: undefined })).toEqual(
      { radius: 0, size: 14 },
    )
  })
})
