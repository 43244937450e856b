import { describe, expect, it } from 'vitest'
import type { Suggestion } from '../../api/client'
import { iconFor, treeFor as made, typedLine } from './insertion'

const treeFor = (...args: Parameters<typeof made>) => made(...args).tree

const suggestion = (more: Partial<Suggestion>): Suggestion => ({
  type: 'x-button',
  title: 'button',
  summary: '',
  family: '',
  probability: 1,
  screens: 3,
  preset: {},
  takesText: true,
  asksText: true,
  slot: '',
  ...more,
})

describe('a new line', () => {
  it('says a component, its text and what it is about', () => {
    expect(typedLine('page header | All of them | Tickets')).toEqual({
      asked: 'page header',
      text: 'All of them',
      about: 'Tickets',
    })
    expect(typedLine('  button ')).toEqual({ asked: 'button', text: '', about: '' })
    expect(typedLine('a | b | c | d').about).toBe('c | d')
  })
  it('leads to the own record, where what it says asks for that', () => {
    const row = suggestion({
      about: 'label',
      aboutIcon: 'icon',
      takesText: false,
      leadProp: 'to',
      leads: [
        { title: 'Ticket', to: "'/tickets/' + record.id", words: ['show', 'view', 'open'] },
        { title: 'Edit', to: "'/tickets/' + record.id + '/edit'", words: ['edit', 'change'] },
      ],
    })
    const edit = treeFor(row, 'pencil', 'Edit ticket', 'n', [{ name: 'pencil' }])
    expect(edit.props).toMatchObject({ to: { expr: "'/tickets/' + record.id + '/edit'" } })
    expect(edit.filled).toContain('to')
    expect(treeFor(row, '', 'Open it', 'n').props).toMatchObject({
      to: { expr: "'/tickets/' + record.id" },
    })
    expect(treeFor(row, '', 'Remove', 'n').props).not.toHaveProperty('to')
    expect(treeFor(row, '', 'Credit', 'n').props).not.toHaveProperty('to')
    expect(treeFor({ ...row, preset: { to: '/here' } }, '', 'Edit', 'n').props).toMatchObject({
      to: '/here',
    })
  })

  it('puts the text in, with the settings of the norm marked as filled in', () => {
    expect(
      treeFor(
        suggestion({ preset: { emphasis: 'strong', wide: 'true' }, slot: 'actions' }),
        'Save',
        '',
        'n',
      ),
    ).toEqual({
      id: 'n',
      type: 'x-button',
      slot: 'actions',
      text: 'Save',
      props: { emphasis: 'strong', wide: true },
      filled: ['emphasis', 'wide'],
    })
    expect(treeFor(suggestion({}), '= record.name', '', 'n').text).toEqual({ expr: 'record.name' })
  })
  it('says of one text what is needed first', () => {
    expect(
      treeFor(suggestion({ about: 'label', aboutFirst: true }), 'Tickets', '', 'n'),
    ).toMatchObject({ props: { label: 'Tickets' } })
    expect(
      treeFor(suggestion({ about: 'label', aboutFirst: true }), 'Tickets', '', 'n').text,
    ).toBeUndefined()
    expect(treeFor(suggestion({ about: 'heading' }), 'Few words', '', 'n')).toMatchObject({
      text: 'Few words',
      props: {},
    })
    expect(
      treeFor(suggestion({ about: 'label', takesText: false }), 'Name', '', 'n').props,
    ).toEqual({ label: 'Name' })
  })
  it('is about what the other screens say, where nothing else is said', () => {
    const header = suggestion({ about: 'heading', aboutFirst: true, aboutUsual: 'Tickets' })
    expect(treeFor(header, 'Few words', '', 'n')).toMatchObject({
      text: 'Few words',
      props: { heading: 'Tickets' },
      filled: ['heading'],
    })
    expect(treeFor(header, 'Few words', 'Others', 'n')).toMatchObject({
      text: 'Few words',
      props: { heading: 'Others' },
      filled: [],
    })
    const once = treeFor(header, 'tickets', '', 'n')
    expect(once.text, 'what is said once is drawn once').toBeUndefined()
    expect(once.props).toEqual({ heading: 'tickets' })
  })
  it('takes a number where a number is meant, and nothing else', () => {
    const level = suggestion({ about: 'level', aboutNumber: true })
    expect(treeFor(level, 'Shifts', '3', 'n').props).toEqual({ level: 3 })
    expect(treeFor(level, 'Shifts', 'x', 'n').props).toEqual({})
  })
  it('comes with what makes it right where it stands', () => {
    const tree = treeFor(
      suggestion({
        slot: 'top',
        around: [
          { type: 'x-row', title: 'row', slot: 'cells' },
          { type: 'x-cell', title: 'cell', slot: '' },
        ],
      }),
      'a',
      '',
      'n',
    )
    expect(tree).toMatchObject({
      type: 'x-row',
      slot: 'top',
      children: [{ type: 'x-cell', slot: 'cells', children: [{ id: 'n', type: 'x-button' }] }],
    })
  })
  it('names an icon by its meaning, and says what it cannot take', () => {
    const icons = [
      { name: 'pencil', meanings: ['edit', 'change'] },
      { name: 'bin', meanings: ['delete', 'throw away'] },
    ]
    expect(iconFor('Edit', icons).name).toBe('pencil')
    expect(iconFor('away', icons).name).toBe('bin')
    expect(iconFor('editor', icons)).toEqual({ name: undefined, near: ['pencil'] })
    const icon = suggestion({ takesText: false, aboutIcon: 'icon', title: 'icon' })
    expect(made(icon, 'edit', '', 'n', icons)).toMatchObject({
      tree: { props: { icon: 'pencil' } },
      lost: [],
    })
    expect(made(icon, 'sparkle', '', 'n', icons).lost).toEqual([
      'no icon is called “sparkle” or means it',
    ])
    const sign = suggestion({ takesText: false, about: 'label', aboutIcon: 'name' })
    expect(made(sign, 'edit', 'Change', 'n', icons).tree.props).toEqual({
      name: 'pencil',
      label: 'Change',
    })
    const tool = suggestion({
      takesText: false,
      about: 'label',
      aboutFirst: true,
      aboutIcon: 'icon',
    })
    expect(made(tool, 'Change it', 'edit', 'n', icons)).toMatchObject({
      tree: { props: { label: 'Change it', icon: 'pencil' } },
      lost: [],
    })
    // The other way round it is as plain.
    expect(made(tool, 'away', 'Give back', 'n', icons)).toMatchObject({
      tree: { props: { label: 'Give back', icon: 'bin' } },
      lost: [],
    })
    expect(made(suggestion({}), 'Save', 'strong', 'n').lost).toEqual([
      '“strong” has no place in the button',
    ])
    expect(made(suggestion({ takesText: false, title: 'divider' }), 'so', '', 'n').lost).toEqual([
      '“so” has no place in the divider',
    ])
    expect(made(suggestion({}), '', 'Done', 'n')).toMatchObject({
      tree: { text: 'Done' },
      lost: [],
    })
    const level = suggestion({ about: 'level', aboutNumber: true, title: 'heading' })
    expect(made(level, 'Shifts', 'big', 'n').lost).toEqual([
      '“big” is no number, and level of the heading is one',
    ])
  })
})
