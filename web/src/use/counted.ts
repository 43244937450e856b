/** So many of something, in words: one screen, two screens. */
export const counted = (n: number, one: string, many = one + 's'): string =>
  `${n} ${n === 1 ? one : many}`
