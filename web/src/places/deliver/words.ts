/** What happens to a file, in words, and whether it wants to be looked at. */
export const happens: Record<string, { words: string; tone: 'quiet' | 'new' | 'warn' }> = {
  add: { words: 'new', tone: 'new' },
  renew: { words: 'renewed', tone: 'new' },
  merge: { words: 'merged', tone: 'new' },
  restore: { words: 'written again', tone: 'warn' },
  remove: { words: 'goes', tone: 'warn' },
  conflict: { words: 'conflict', tone: 'warn' },
  left: { words: 'left to you', tone: 'warn' },
  edited: { words: 'edited', tone: 'quiet' },
  kept: { words: 'yours', tone: 'quiet' },
  same: { words: 'same', tone: 'quiet' },
}
/** The order in which they are told: what waits for somebody first. */
export const order = Object.keys(happens).sort((a, b) => rank(a) - rank(b))
function rank(what: string) {
  return [
    'conflict',
    'restore',
    'remove',
    'left',
    'merge',
    'renew',
    'add',
    'edited',
    'kept',
    'same',
  ].indexOf(what)
}
