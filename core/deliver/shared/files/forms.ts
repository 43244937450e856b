import { announce, faultOf, onceTyped, type Ask } from './faults'
import { controlIn, partOf, valueIn } from './page'

/** A field of a form: what it asks, its control's name where that is another, and the property
 * that holds its value. */
export interface Field extends Ask {
  name?: string
  holds: string
  /** It has no place of its own for what is wrong with it. */
  silent?: boolean
}

/** Whether what a form holds can be sent. Else each field says what is wrong with it, all of it is
 * said aloud, and the first has the focus; a field that is put right takes back what it said. asks
 * gives what is asked now; blame keeps what a field says, nothing where it is right. */
export function fine<N extends string>(
  event: unknown,
  asks: () => Readonly<Record<N, Field>>,
  blame: (field: N, words: string) => void,
): boolean {
  const fields = Object.entries(asks()) as [N, Field][]
  const part = partOf(
    event,
    fields.map(([key, field]) => field.name ?? key),
  )
  const said = new Map<N, string>()
  const look = (key: N) => {
    const field = asks()[key]
    const name = field.name ?? key
    const at = controlIn(part, name)
    const words = at ? faultOf(valueIn(part, name, field.holds), field) : ''
    blame(key, words)
    said.set(key, words)
    return words ? at : undefined
  }
  const wrong = fields.map(([key]) => look(key)).filter(at => at !== undefined)
  const tell = () => {
    announce(
      [...said.values()].filter(words => words),
      fields.some(([key, field]) => said.get(key) && field.silent),
    )
  }
  tell()
  for (const [key, field] of wrong.length ? fields : []) {
    const at = controlIn(part, field.name ?? key)
    if (!at) continue
    onceTyped(at, () => {
      const was = said.get(key)
      if (!was) return
      look(key)
      if (said.get(key) !== was) tell()
    })
  }
  wrong[0]?.focus()
  return wrong.length === 0
}
