/** A file's text, whatever it is encoded in, and in what it was taken to be. */
export function decoded(bytes: Uint8Array): { text: string; as: string } {
  const as = encodingOf(bytes)
  return { text: new TextDecoder(as).decode(bytes), as }
}

function encodingOf(b: Uint8Array): string {
  if (b[0] === 0xff && b[1] === 0xfe) return 'utf-16le'
  if (b[0] === 0xfe && b[1] === 0xff) return 'utf-16be'
  const zeros = [0, 0]
  b.subarray(0, 4000).forEach((c, i) => {
    if (c === 0) zeros[i % 2]!++
  })
  // Every other byte of what is written with few signs is zero.
  if (zeros[0]! + zeros[1]! > Math.min(b.length, 4000) * 0.3)
    return zeros[1]! > zeros[0]! ? 'utf-16le' : 'utf-16be'
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(b)
    return 'utf-8'
  } catch {
    return 'windows-1252'
  }
}
