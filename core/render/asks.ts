// Has forms look at their fields before they are sent, where a page is drawn from what the
// workspace says of it.
import { announce, faultOf, onceTyped, type Ask } from './faults.js'

interface Setting {
  key: string
  prop: string
  attr?: string
  as?: unknown
}
interface Check {
  key: string
  holds: string
  label: string
  asks: Record<string, { is?: unknown; of?: Setting }>
  words?: Setting
  mark?: Setting
}

/** How elements are read and set, by their keys. */
export interface Drawn {
  /** The element on the page. */
  at: (key: string) => HTMLElement | undefined
  /** What a control holds. */
  held: (key: string, prop: string) => unknown
  setting: (key: string, prop: string, attr: string) => unknown
  set: (key: string, prop: string, value: unknown) => void
}

/** Elements that are what they are told: components of the page itself. */
export function elements(find: (key: string) => Element | null): Drawn {
  const of = (key: string) => find(key) as unknown as Record<string, unknown> | null
  return {
    at: key => (find(key) as HTMLElement | null) ?? undefined,
    held: (key, prop) => of(key)?.[prop],
    setting: (key, prop, attr) => of(key)?.[prop] ?? find(key)?.getAttribute(attr),
    set: (key, prop, value) => {
      const el = of(key)
      if (el) el[prop] = value
    },
  }
}

/** Takes what is asked, as JSON, and tells whether anything is wrong: then each field says what,
 * all of it is said aloud, and the first has the focus. A field that is put right takes back what
 * it said. */
export function asking(drawn: Drawn): (text: string) => boolean {
  const usual = new Map<string, unknown>()
  const wrong = new Map<string, string>()

  function ask(check: Check): Ask {
    const out: Record<string, unknown> = { label: check.label }
    for (const [rule, { is, of }] of Object.entries(check.asks))
      out[rule] = of ? drawn.setting(of.key, of.prop, of.attr ?? of.prop) : is
    return out as unknown as Ask
  }
  function put(at: Setting, value: unknown, right: boolean) {
    const name = at.key + '|' + at.prop
    if (!usual.has(name)) {
      if (right) return
      usual.set(name, drawn.setting(at.key, at.prop, at.attr ?? at.prop))
    }
    drawn.set(at.key, at.prop, right ? usual.get(name) : value)
    if (right) usual.delete(name)
  }
  function look(check: Check) {
    const at = drawn.at(check.key)
    const fault = at ? faultOf(drawn.held(check.key, check.holds), ask(check)) : ''
    if (check.words) put(check.words, fault, !fault)
    if (check.mark) put(check.mark, check.mark.as, !fault)
    if (fault) wrong.set(check.key, fault)
    else wrong.delete(check.key)
    return fault
  }
  return text => {
    const checks = JSON.parse(text) as Check[]
    const tell = () => {
      const faults = checks.map(c => wrong.get(c.key)).filter((f): f is string => !!f)
      announce(
        faults,
        checks.some(c => !c.words && wrong.has(c.key)),
      )
    }
    const first = checks.filter(c => look(c))[0]
    tell()
    if (!first) return false
    for (const check of checks) {
      const at = drawn.at(check.key)
      if (!at) continue
      onceTyped(at, () => {
        const was = wrong.get(check.key)
        if (was && look(check) !== was) tell()
      })
    }
    focus(drawn.at(first.key))
    return true
  }
}

/** Puts the focus into a control, whatever it is made of. */
function focus(at: HTMLElement | undefined) {
  const inner = at?.matches('input, select, textarea, button')
    ? at
    : (at?.querySelector<HTMLElement>('input, select, textarea, button') ?? at)
  inner?.focus()
}
