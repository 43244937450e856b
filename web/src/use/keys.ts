/** Whether a key goes into a text, where single letters must not act. */
export function typing(e: KeyboardEvent): boolean {
  const t = e.target as HTMLElement | null
  return !!t && (t.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(t.tagName))
}

/** All keys, as the help shows them. */
export const keyTable: { group: string; keys: [string, string][] }[] = [
  {
    group: 'Everywhere',
    keys: [
      ['Ctrl K', 'Find anything'],
      ['?', 'These keys'],
      ['Ctrl Z', 'Undo'],
      ['Ctrl Shift Z', 'Redo'],
    ],
  },
  {
    group: 'Lines',
    keys: [
      ['↑ ↓', 'Walk the lines'],
      ['Enter', 'Edit the text'],
      ['n  N', 'New line after, before'],
      ['i', 'New line inside'],
      ['Tab  Ctrl Enter', 'On a new line: take it and go on inside, after it'],
      ['Alt ↑ ↓', 'Move up, down'],
      ['Alt → ←', 'Nest deeper, less deep'],
      ['Shift ↑ ↓', 'Select more'],
      ['c', 'Copy beside'],
      ['p', 'Set a prop by typing: emphasis strong'],
      ['r', 'Repeat the last insertion'],
      ['Ctrl C X V', 'Copy, cut, paste; between screens too'],
      ['e', 'Extract a piece'],
      ['f', 'Repair what is found here'],
      ['o', 'Lines as code'],
      ['w', 'Wrap in a stack'],
      ['u', 'Unwrap'],
      ['Delete', 'Remove'],
      ['← →', 'Fold, unfold'],
      ['s  S', 'Next, previous stray or finding'],
    ],
  },
  {
    group: 'Worklist',
    keys: [
      ['↑ ↓', 'Walk'],
      ['→ ←', 'Unfold, fold'],
      ['n  N', 'Next, previous group'],
      ['Space', 'Choose, or no longer'],
      ['a', 'Choose all alike'],
      ['A', 'Choose all that is shown'],
      ['f', 'Repair what is chosen, or this'],
      ['l', 'Let it stand, or no longer'],
      ['g', 'Give it to somebody'],
      ['Enter', 'Open it on the Bench'],
      ['Esc', 'Choose none'],
    ],
  },
  {
    group: 'Line-up',
    keys: [
      ['← → ↑ ↓', 'Walk the uses'],
      ['Space', 'Choose, or no longer'],
      ['m', 'Bring what is chosen, or this, into line with the most used'],
      ['Enter', 'Open it on the Bench'],
    ],
  },
  {
    group: 'Expressions',
    keys: [
      ['↑ ↓', 'Walk what may stand'],
      ['Tab', 'Take it'],
      ['Alt ↑ ↓', 'Try it on another record'],
    ],
  },
  {
    group: 'Samples',
    keys: [
      ['Enter', 'Edit the cell'],
      ['Shift ↑ ↓ ← →', 'Select more'],
      ['Ctrl D', 'Fill down'],
      ['Ctrl C V', 'Copy, paste'],
      ['Delete', 'Clear'],
      ['Ctrl Enter', 'New record'],
      ['Ctrl Delete', 'Remove records'],
    ],
  },
  {
    group: 'Shelf',
    keys: [
      ['← → ↑ ↓', 'Walk the wall'],
      ['c', 'Copy the example’s code'],
    ],
  },
  {
    group: 'Boxes of a picture',
    keys: [
      ['↑ ↓', 'Walk the boxes'],
      ['Alt ↑ ↓ → ←', 'Move, nest deeper, less deep'],
      ['u', 'Keep only what is inside'],
      ['Delete', 'Remove'],
    ],
  },
  {
    group: 'Choices',
    keys: [
      ['Tab', 'Into the choices'],
      ['↑ ↓', 'Walk the choices'],
      ['1 … 9', 'Choose'],
      ['m', 'Take the most used value'],
      ['Esc', 'Back to the line'],
    ],
  },
]
