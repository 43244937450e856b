import type { Schemas } from '../../api/client'

type Question = Schemas['ApiQuestionView']
type Answer = Schemas['AuditAnswer']

/** What people say to a question, by the side that they are on; others gave an answer that is no
 * side of it any more. */
export function voices(q: Question): { by: Map<string, Answer[]>; others: Answer[] } {
  const by = new Map<string, Answer[]>(q.sides.map(s => [s.value, []]))
  const others: Answer[] = []
  for (const a of q.answers) (by.get(a.value) ?? others).push(a)
  return { by, others }
}

/** Who was asked and has not answered. */
export const waiting = (q: Question): string[] =>
  (q.asked?.people ?? []).filter(p => !q.answers.some(a => a.by === p))

/** The reasons that people gave for a side, as a reason to settle on it. */
export const reasonsFor = (q: Question, value: string, name: (user: string) => string): string =>
  q.answers
    .filter(a => a.value === value && a.why)
    .map(a => `${name(a.by)}: ${a.why}`)
    .join('\n')
