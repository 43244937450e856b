// Tansy: components of Vue, written without templates so that a compiler of types alone
// builds them.
import { defineComponent, h, type PropType, type SlotsType, type VNode } from 'vue'

type Size = 'small' | 'medium' | 'large'
type Tone = 'neutral' | 'good' | 'careful' | 'bad'
type Look = 'solid' | 'outline' | 'quiet'

const size = { type: String as PropType<Size>, default: 'medium' }
const tone = { type: String as PropType<Tone>, default: 'neutral' }
const yes = { type: Boolean, default: false }

/** A press that does something. */
export const TsButton = defineComponent({
  name: 'TsButton',
  props: {
    /** How much it stands out. */
    look: { type: String as PropType<Look>, default: 'outline' },
    size,
    /** It does harm, or it is usual. */
    tone,
    disabled: yes,
    /** It waits for an answer. */
    waiting: yes,
  },
  emits: { press: (_: MouseEvent) => true },
  slots: Object as SlotsType<{ default?: [] }>,
  setup(props, { slots, emit }) {
    return () =>
      h(
        'button',
        {
          type: 'button',
          class: ['ts-button', `ts-${props.look}`, `ts-${props.size}`, `ts-tone-${props.tone}`],
          disabled: props.disabled || props.waiting,
          'aria-busy': props.waiting || undefined,
          onClick: (e: MouseEvent) => emit('press', e),
        },
        slots.default?.(),
      )
  },
})

/** Leads to another place. */
export const TsLink = defineComponent({
  name: 'TsLink',
  props: { href: { type: String, default: '#' }, subtle: yes },
  slots: Object as SlotsType<{ default?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h(
        'a',
        { href: props.href, class: ['ts-link', props.subtle && 'ts-subtle'] },
        slots.default?.(),
      ),
})

const field = {
  /** What it asks for. */
  label: { type: String, required: true as const },
  /** Words of help below it. */
  hint: { type: String, default: '' },
  /** What is wrong with it. */
  problem: { type: String, default: '' },
  disabled: yes,
}
let count = 0
function around(
  props: { label: string; hint: string; problem: string },
  control: (id: string) => VNode,
) {
  const id = `ts-${++count}`
  return h('div', { class: ['ts-field', props.problem && 'ts-wrong'] }, [
    h('label', { for: id }, props.label),
    control(id),
    props.problem
      ? h('p', { class: 'ts-problem' }, props.problem)
      : props.hint
        ? h('p', { class: 'ts-hint' }, props.hint)
        : null,
  ])
}

/** One line of text. */
export const TsTextField = defineComponent({
  name: 'TsTextField',
  props: {
    ...field,
    modelValue: { type: String, default: '' },
    kind: { type: String as PropType<'text' | 'email' | 'search' | 'password'>, default: 'text' },
    placeholder: { type: String, default: '' },
  },
  emits: { 'update:modelValue': (_: string) => true },
  setup:
    (props, { emit }) =>
    () =>
      around(props, id =>
        h('input', {
          id,
          type: props.kind,
          value: props.modelValue,
          placeholder: props.placeholder,
          disabled: props.disabled,
          onInput: (e: Event) => emit('update:modelValue', (e.target as HTMLInputElement).value),
        }),
      ),
})

/** A number, with limits. */
export const TsNumberField = defineComponent({
  name: 'TsNumberField',
  props: {
    ...field,
    modelValue: { type: Number, default: 0 },
    least: { type: Number },
    most: { type: Number },
  },
  emits: { 'update:modelValue': (_: number) => true },
  setup:
    (props, { emit }) =>
    () =>
      around(props, id =>
        h('input', {
          id,
          type: 'number',
          value: props.modelValue,
          min: props.least,
          max: props.most,
          disabled: props.disabled,
          onInput: (e: Event) =>
            emit('update:modelValue', Number((e.target as HTMLInputElement).value)),
        }),
      ),
})

/** A day. */
export const TsDateField = defineComponent({
  name: 'TsDateField',
  props: { ...field, modelValue: { type: String, default: '' } },
  emits: { 'update:modelValue': (_: string) => true },
  setup:
    (props, { emit }) =>
    () =>
      around(props, id =>
        h('input', {
          id,
          type: 'date',
          value: props.modelValue,
          disabled: props.disabled,
          onInput: (e: Event) => emit('update:modelValue', (e.target as HTMLInputElement).value),
        }),
      ),
})

/** One of a few. */
export const TsSelect = defineComponent({
  name: 'TsSelect',
  props: {
    ...field,
    modelValue: { type: String, default: '' },
    options: { type: Array as PropType<string[]>, default: () => [] },
  },
  emits: { 'update:modelValue': (_: string) => true },
  setup:
    (props, { emit }) =>
    () =>
      around(props, id =>
        h(
          'select',
          {
            id,
            disabled: props.disabled,
            onChange: (e: Event) =>
              emit('update:modelValue', (e.target as HTMLSelectElement).value),
          },
          props.options.map(o => h('option', { value: o, selected: o === props.modelValue }, o)),
        ),
      ),
})

/** Yes or no, with its words beside it. */
export const TsCheckbox = defineComponent({
  name: 'TsCheckbox',
  props: { label: { type: String, required: true }, modelValue: yes, disabled: yes },
  emits: { 'update:modelValue': (_: boolean) => true },
  setup:
    (props, { emit }) =>
    () =>
      h('label', { class: 'ts-check' }, [
        h('input', {
          type: 'checkbox',
          checked: props.modelValue,
          disabled: props.disabled,
          onChange: (e: Event) => emit('update:modelValue', (e.target as HTMLInputElement).checked),
        }),
        props.label,
      ]),
})

/** On or off, at once. */
export const TsSwitch = defineComponent({
  name: 'TsSwitch',
  props: { label: { type: String, required: true }, modelValue: yes },
  emits: { 'update:modelValue': (_: boolean) => true },
  setup:
    (props, { emit }) =>
    () =>
      h(
        'button',
        {
          type: 'button',
          role: 'switch',
          'aria-checked': props.modelValue,
          class: 'ts-switch',
          onClick: () => emit('update:modelValue', !props.modelValue),
        },
        [h('i'), props.label],
      ),
})

/** Things that belong together. */
export const TsCard = defineComponent({
  name: 'TsCard',
  props: { title: { type: String, default: '' }, raised: yes },
  slots: Object as SlotsType<{ default?: []; footer?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h('section', { class: ['ts-card', props.raised && 'ts-raised'] }, [
        props.title ? h('h3', props.title) : null,
        slots.default?.(),
        slots.footer ? h('footer', slots.footer()) : null,
      ]),
})

/** A state in a word. */
export const TsTag = defineComponent({
  name: 'TsTag',
  props: { tone },
  slots: Object as SlotsType<{ default?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h('span', { class: ['ts-tag', `ts-tone-${props.tone}`] }, slots.default?.()),
})

/** Somebody's initials. */
export const TsAvatar = defineComponent({
  name: 'TsAvatar',
  props: { name: { type: String, required: true }, size },
  setup: props => () =>
    h(
      'span',
      { class: ['ts-avatar', `ts-${props.size}`], title: props.name },
      props.name
        .split(' ')
        .map(w => w[0])
        .join('')
        .slice(0, 2),
    ),
})

/** Something that people are told. */
export const TsNotice = defineComponent({
  name: 'TsNotice',
  props: { tone, title: { type: String, default: '' } },
  slots: Object as SlotsType<{ default?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h('div', { class: ['ts-notice', `ts-tone-${props.tone}`], role: 'status' }, [
        props.title ? h('b', props.title) : null,
        h('span', slots.default?.()),
      ]),
})

/** A question in front of everything. */
export const TsModal = defineComponent({
  name: 'TsModal',
  props: { title: { type: String, required: true }, open: yes },
  emits: { close: () => true },
  slots: Object as SlotsType<{ actions?: []; default?: [] }>,
  setup:
    (props, { slots, emit }) =>
    () =>
      props.open
        ? h('div', { class: 'ts-veil' }, [
            h('div', { class: 'ts-modal', role: 'dialog', 'aria-label': props.title }, [
              h('h2', props.title),
              slots.default?.(),
              h(
                'footer',
                slots.actions?.() ?? [h(TsButton, { onPress: () => emit('close') }, () => 'Close')],
              ),
            ]),
          ])
        : null,
})

/** The bar on top of an application. */
export const TsTopBar = defineComponent({
  name: 'TsTopBar',
  props: { brand: { type: String, default: '' } },
  slots: Object as SlotsType<{ default?: []; end?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h('header', { class: 'ts-bar' }, [
        h('b', props.brand),
        h('nav', slots.default?.()),
        h('span', slots.end?.()),
      ]),
})

/** One place in the bar. */
export const TsNavLink = defineComponent({
  name: 'TsNavLink',
  props: { href: { type: String, required: true }, current: yes },
  slots: Object as SlotsType<{ default?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h(
        'a',
        { href: props.href, class: 'ts-nav', 'aria-current': props.current ? 'page' : undefined },
        slots.default?.(),
      ),
})

/** What a page is, and what can be done with it. */
export const TsPageHeader = defineComponent({
  name: 'TsPageHeader',
  props: { title: { type: String, required: true }, subtitle: { type: String, default: '' } },
  slots: Object as SlotsType<{ actions?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h('div', { class: 'ts-page' }, [
        h('div', [h('h1', props.title), props.subtitle ? h('p', props.subtitle) : null]),
        h('div', slots.actions?.()),
      ]),
})

/** A heading of the outline. */
export const TsHeading = defineComponent({
  name: 'TsHeading',
  props: { level: { type: Number as PropType<1 | 2 | 3 | 4>, default: 2 } },
  slots: Object as SlotsType<{ default?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h(`h${props.level}`, { class: 'ts-heading' }, slots.default?.()),
})

/** A run of text. */
export const TsText = defineComponent({
  name: 'TsText',
  props: { muted: yes, size },
  slots: Object as SlotsType<{ default?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h(
        'p',
        { class: ['ts-text', `ts-${props.size}`, props.muted && 'ts-subtle'] },
        slots.default?.(),
      ),
})

export interface Column {
  key: string
  title: string
}
/** Records as rows. */
export const TsTable = defineComponent({
  name: 'TsTable',
  props: {
    columns: { type: Array as PropType<Column[]>, default: () => [] },
    rows: { type: Array as PropType<Record<string, unknown>[]>, default: () => [] },
    dense: yes,
  },
  slots: Object as SlotsType<{ default?: [] }>,
  setup:
    (props, { slots }) =>
    () =>
      h('table', { class: ['ts-table', props.dense && 'ts-dense'] }, [
        h(
          'thead',
          h(
            'tr',
            props.columns.map(c => h('th', c.title)),
          ),
        ),
        h(
          'tbody',
          slots.default?.() ??
            props.rows.map(r =>
              h(
                'tr',
                props.columns.map(c => h('td', String(r[c.key] ?? ''))),
              ),
            ),
        ),
      ]),
})

/** How far something is. */
export const TsProgress = defineComponent({
  name: 'TsProgress',
  props: { value: { type: Number, required: true }, label: { type: String, default: 'Progress' } },
  setup: props => () =>
    h(
      'div',
      {
        class: 'ts-progress',
        role: 'progressbar',
        'aria-label': props.label,
        'aria-valuenow': props.value,
      },
      [h('i', { 'data-w': Math.round(props.value / 10) })],
    ),
})

/** A line between things. */
export const TsDivider = defineComponent({
  name: 'TsDivider',
  setup: () => () => h('hr', { class: 'ts-divider' }),
})
