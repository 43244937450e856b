import { expect, it } from 'vitest'
import { slug } from './slug'

it('makes an id of a title, letters without their marks', () => {
  expect(slug('Crème brûlée, twice!')).toBe('creme-brulee-twice')
  expect(slug('— 客户 —')).toBe('')
  expect(slug('A very long title', 6)).toBe('a-very')
})
