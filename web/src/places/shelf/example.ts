import type { Component, Element, Schemas, Value } from '../../api/client'

type Example = Schemas['KitExample']

function typed(v: string): Value {
  return v === 'true' ? true : v === 'false' ? false : v
}
let count = 0
function element(e: Example, type: string): Element {
  return {
    id: 'x' + ++count,
    type: e.type || type,
    slot: e.slot || undefined,
    text: e.text || undefined,
    props: Object.fromEntries(Object.entries(e.props ?? {}).map(([k, v]) => [k, typed(v)])),
    children: (e.children ?? []).map(c => element(c, c.type ?? '')),
  }
}

/** A tree with room round it, to be looked at. */
export const padded = (
  el: Element,
  c: Pick<Component, 'family' | 'level' | 'within'>,
  align: 'start' | 'center' = 'start',
): Element => {
  // A part is drawn in its whole.
  for (const whole of (c.within ?? []).toReversed())
    el = { ...element(whole, whole.type ?? ''), children: [{ ...el, slot: undefined }] }
  const wide = c.level === 'composite' || !['actions', 'identity', 'icons'].includes(c.family)
  return {
    id: 'pad',
    type: 'stack',
    props: { padding: '3', ...(wide ? {} : { align }) },
    children: [{ ...el, slot: undefined }],
  }
}

/** The sample use of a component for a tile on a wall, in the middle of which it stands. */
export const onWall = (c: Component | Schemas['ApiBatchEntry']): Element =>
  padded(exampleTree(c), c, 'center')

/** The sample use that the kit's notes give, some of its props set otherwise. */
export function exampleTree(
  c: Pick<Component, 'tag' | 'example' | 'props'>,
  props: Record<string, string> = {},
): Element {
  const el = element(c.example, c.tag)
  for (const [k, v] of Object.entries(props)) {
    const def = c.props.find(p => p.name === k)
    el.props![k] =
      def?.values?.length && def.values.every(x => /^\d+$/.test(x)) ? Number(v) : typed(v)
  }
  return el
}

/** A tree whose root does not say what is the default anyway. */
export function withoutDefaults(el: Element, c: Pick<Component, 'props'>): Element {
  return {
    ...el,
    props: Object.fromEntries(
      Object.entries(el.props ?? {}).filter(
        ([k, v]) => c.props.find(p => p.name === k)?.default !== String(v),
      ),
    ),
  }
}

/** The states that a component's own props put it in. */
const flags = [
  'disabled',
  'invalid',
  'busy',
  'loading',
  'readonly',
  'required',
  'checked',
  'selected',
  'active',
  'open',
]
export function statesOf(
  c: Pick<Component, 'props'>,
): { name: string; props: Record<string, string> }[] {
  const out = flags
    .filter(f => c.props.some(p => p.name === f && p.type === 1))
    .map(f => ({ name: f, props: { [f]: 'true' } as Record<string, string> }))
  const error = c.props.find(p => p.name === 'error' && !p.values?.length)
  if (error)
    out.splice(out.findIndex(s => s.name === 'disabled') + 1, 0, {
      name: 'invalid',
      props: { error: 'This is needed' },
    })
  return out.slice(0, 5)
}
