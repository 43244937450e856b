import { expect, test } from 'vitest'
import { pictureAt, size } from './pictures'

test('a kept picture is found by its address, and nothing else is', () => {
  expect(pictureAt('/pictures/oak-in-march-0123456789abcdef.jpg')).toBe(
    '/api/pictures/0123456789abcdef/file',
  )
  expect(pictureAt('data:image/png;base64,AA==')).toBe('data:image/png;base64,AA==')
  for (const other of [
    '/oak.svg',
    '/pictures/oak.jpg',
    'https://a.example/pictures/x',
    7,
    undefined,
  ])
    expect(pictureAt(other)).toBeUndefined()
})

test('sizes are said in words', () => {
  expect([size(12), size(81_400), size(2_400_000)]).toEqual(['1 kB', '81 kB', '2.4 MB'])
})
