import { describe, expect, it } from 'vitest'
import { exampleTree, padded, statesOf, withoutDefaults } from './example'

const component = {
  tag: 'x-heading',
  family: 'content',
  level: 'basic',
  props: [
    { name: 'level', values: ['1', '2'] },
    { name: 'size', values: ['s', 'm'] },
    { name: 'quiet', values: null },
  ],
  example: {
    type: '',
    slot: '',
    text: 'Beds',
    props: { level: '2', quiet: 'true' },
    children: [{ type: 'x-icon', slot: 'lead', text: '', props: { name: 'leaf' }, children: null }],
  },
} as unknown as Parameters<typeof exampleTree>[0] & Parameters<typeof padded>[1]

describe('an example', () => {
  it('is a tree with ids of its own', () => {
    const a = exampleTree(component),
      b = exampleTree(component)
    expect(a).toMatchObject({
      type: 'x-heading',
      text: 'Beds',
      props: { quiet: true },
      children: [{ type: 'x-icon', slot: 'lead', text: undefined }],
    })
    expect(a.id).not.toBe(b.id)
    expect(a.children![0]!.id).not.toBe(a.id)
  })
  it('takes other settings, numbers as numbers', () => {
    expect(exampleTree(component, { level: '1', size: 's', quiet: 'false' }).props).toEqual({
      level: 1,
      size: 's',
      quiet: false,
    })
  })
  it('does not say what is the default anyway, also where the example says it', () => {
    const props = [
      { name: 'shape', values: ['round', 'square'], default: 'round' },
      { name: 'tone', default: 'plain' },
    ] as unknown as Parameters<typeof withoutDefaults>[1]['props']
    expect(
      withoutDefaults({ id: 'a', type: 'x', props: { shape: 'round', tone: 'good' } }, { props })
        .props,
    ).toEqual({ tone: 'good' })
  })
  it('has the states that its own props put it in', () => {
    const props = [
      { name: 'disabled', type: 1 },
      { name: 'error', type: 0, values: null },
      { name: 'open', type: 0 },
      { name: 'busy', type: 1 },
    ] as unknown as Parameters<typeof statesOf>[0]['props']
    expect(statesOf({ props }).map(s => s.name)).toEqual(['disabled', 'invalid', 'busy'])
  })
  it('stands as wide as it would on a screen', () => {
    expect(padded(exampleTree(component), component).props).toEqual({ padding: '3' })
    expect(padded(exampleTree(component), { family: 'actions', level: 'basic' }).props).toEqual({
      padding: '3',
      align: 'start',
    })
    expect(
      padded({ id: 'x', type: 'x', slot: 'lead' }, component).children![0]!.slot,
    ).toBeUndefined()
  })
})
