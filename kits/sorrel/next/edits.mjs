// What version 1.1 changes against the version beside it. Each edit must fit exactly
// once: when the version it stands on moves, the build says so.
export default ({ edit, json }) => {
  json('package.json', p => {
    p.version = '1.1.0'
  })
  edit(
    'CHANGELOG.md',
    '# Change log\n',
    `# Change log

## 1.1.0

- New: timeline and moment.
- New: stat takes a size.
- New icons: rain and bench.
- Changed: tables are tight where nothing else is said.
- Changed: the accent is a little darker, boxes are less round; shade is a new colour.
- Removed: tag, deprecated since 1.0 (use chip).
- Removed: color of text, deprecated since 1.0 (use tone).
`,
  )
  json('sorrel.tokens.json', t => {
    t.color.accent.$value = {
      colorSpace: 'srgb',
      components: [0.0902, 0.3294, 0.3882],
      hex: '#175463',
    }
    t.radius.box.$value.value = 8
    t.color.shade = {
      $value: { colorSpace: 'srgb', components: [0.902, 0.9255, 0.9294], hex: '#E6ECED' },
    }
    t.$extensions.ubiquant.themes.dark.color.shade = {
      $value: { colorSpace: 'srgb', components: [0.0745, 0.1137, 0.1255], hex: '#131D20' },
    }
  })
  json('icons.json', list => {
    list.push(
      { name: 'rain', from: 'cloud-rain', meanings: ['weather', 'wet', 'shower'] },
      { name: 'bench', from: 'armchair', meanings: ['seat', 'rest'] },
    )
  })
  json('sorrel.notes.json', n => {
    delete n.components['sorrel-tag']
    n.components['sorrel-timeline'] = {
      family: 'data',
      aliases: ['history', 'activity', 'log', 'events'],
      level: 'composite',
      slots: { '': { accepts: ['sorrel-moment'] } },
      telling: ['label'],
      example: {
        props: { label: 'Care' },
        children: [
          { type: 'sorrel-moment', text: 'Planted in the long bed', props: { when: '3 March' } },
          { type: 'sorrel-moment', text: 'Pruned', props: { when: '9 June', tone: 'good' } },
        ],
      },
    }
    n.components['sorrel-moment'] = {
      family: 'data',
      aliases: ['event', 'step of a history'],
      slots: { '': { text: true } },
      parents: ['sorrel-timeline'],
      telling: ['when'],
      example: { text: 'Pruned', props: { when: '9 June' } },
    }
  })
  edit(
    'src/index.ts',
    "export * from './components/showing.js'\n",
    "export * from './components/showing.js'\nexport * from './components/timeline.js'\n",
  )
  edit(
    'src/components/data.ts',
    "density: 'roomy' | 'tight' = 'roomy'",
    "density: 'roomy' | 'tight' = 'tight'",
  )
  edit(
    'src/components/data.ts',
    '  /** Which way it moves. */',
    "  /** How large its number is set. */\n  @property({ reflect: true }) size: 'm' | 'l' = 'm'\n  /** Which way it moves. */",
  )
  edit(
    'src/components/data.ts',
    '      .label {\n        color: var(--sorrel-color-ink-2);\n      }\n      .note',
    "      :host([size='l']) .value {\n        font-size: calc(1.5 * var(--sorrel-text-xxl));\n      }\n      .label {\n        color: var(--sorrel-color-ink-2);\n      }\n      .note",
  )
  edit('src/components/content.ts', / {2}\/\*\* A colour of its own\.[\s\S]*?\n {2}\}\n/, '')
  edit('src/components/feedback.ts', /\n\/\*\*\n \* A label in a small box\.[\s\S]*?\n}\n/, '')
}
