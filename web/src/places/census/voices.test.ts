import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { reasonsFor, voices, waiting } from './voices'

const answer = (by: string, value: string, why?: string) =>
  ({ id: by, key: 'q', by, value, words: value, why, when: '2026-11-30' }) as Schemas['AuditAnswer']
const question = (answers: Schemas['AuditAnswer'][], people?: string[]) =>
  ({
    id: 'q',
    sides: [{ value: 'start' }, { value: 'end' }],
    answers,
    asked: people && { people },
  }) as unknown as Schemas['ApiQuestionView']

describe('what people say to a question', () => {
  it('stands beside the side that they are on, and none of it is lost', () => {
    const q = question([answer('noor', 'end'), answer('tam', 'start'), answer('lise', 'middle')])
    const { by, others } = voices(q)
    expect(by.get('end')!.map(a => a.by)).toEqual(['noor'])
    expect(by.get('start')!.map(a => a.by)).toEqual(['tam'])
    expect(others.map(a => a.by)).toEqual(['lise'])
  })
  it('tells for whom one waits', () => {
    expect(waiting(question([answer('noor', 'end')], ['noor', 'tam']))).toEqual(['tam'])
    expect(waiting(question([answer('noor', 'end')]))).toEqual([])
  })
  it('gives the reasons for a side', () => {
    const q = question([
      answer('noor', 'end', 'The thumb is there.'),
      answer('tam', 'end'),
      answer('lise', 'start', 'It was so.'),
    ])
    expect(reasonsFor(q, 'end', n => n.toUpperCase())).toBe('NOOR: The thumb is there.')
  })
})
