import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'

const answers: object[] = []
vi.mock('../../api/client', () => ({
  GET: () => undefined,
  ask: async () => answers.shift(),
}))
const { useFetching } = await import('./fetching')

const at = (id: number, state: string) => ({ registries: [], fetching: { id, state } })
beforeEach(() => vi.useFakeTimers())
afterEach(() => {
  answers.length = 0
  vi.useRealTimers()
})

it('tells how a fetching ended once, also to who left the place meanwhile', async () => {
  const told: string[] = []
  const enter = () => {
    const scope = effectScope()
    return { scope, door: scope.run(() => useFetching(is => told.push(is.state)))! }
  }
  answers.push(at(3, 'done'))
  const first = enter()
  await first.door.load()
  expect(told).toEqual([]) // what ended before is nobody's news

  answers.push(at(4, 'running'), at(4, 'running'))
  await first.door.begun(4)
  await vi.advanceTimersByTimeAsync(700)
  first.scope.stop()
  await vi.advanceTimersByTimeAsync(5000)
  expect(answers).toEqual([]) // nobody asks from elsewhere

  answers.push(at(4, 'failed'), at(4, 'failed'))
  const second = enter()
  await second.door.load()
  await second.door.load()
  expect(told).toEqual(['failed'])
  second.scope.stop()
})
