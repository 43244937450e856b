import { describe, expect, it } from 'vitest'
import { decoded } from './decode'

const wide = (s: string, big: boolean) =>
  new Uint8Array(
    [...s].flatMap(c =>
      big
        ? [c.charCodeAt(0) >> 8, c.charCodeAt(0) & 255]
        : [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8],
    ),
  )

describe('a file that was chosen', () => {
  it('is read in what it is encoded in', () => {
    const name = 'Größe,N'
    expect(decoded(new TextEncoder().encode(name))).toEqual({ text: name, as: 'utf-8' })
    expect(decoded(new Uint8Array([...name].map(c => c.charCodeAt(0))))).toEqual({
      text: name,
      as: 'windows-1252',
    })
    expect(decoded(new Uint8Array([0xff, 0xfe, ...wide(name, false)]))).toEqual({
      text: name,
      as: 'utf-16le',
    })
    expect(decoded(wide(name, true))).toEqual({ text: name, as: 'utf-16be' })
  })
})
