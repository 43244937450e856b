/** What a form asks of one of its fields. Numbers may be given as text, days are YYYY-MM-DD. */
export interface Ask {
  label: string
  required?: boolean | undefined
  kind?: string | undefined
  least?: string | number | undefined
  most?: string | number | undefined
  shortest?: string | number | undefined
  longest?: string | number | undefined
  pattern?: string | undefined
  choices?: readonly string[] | undefined
}

/** What is said of a field: {label} is what it is called, {bound} what it is held against. */
export const words = {
  required: '{label} is needed.',
  email: '{label} is no e-mail address.',
  url: '{label} is no web address.',
  number: '{label} is no number.',
  date: '{label} is no date.',
  time: '{label} is no time of day.',
  least: '{label} must be {bound} or more.',
  most: '{label} must be {bound} or less.',
  earliest: '{label} must be {bound} or later.',
  latest: '{label} must be {bound} or earlier.',
  shortest: '{label} needs {bound} letters or more.',
  longest: '{label} takes {bound} letters or fewer.',
  pattern: '{label} is not written as it should be.',
  choices: '{label} must be one of these: {bound}.',
  summary: 'Not sent: {bound}',
}

const day = /^\d{4}-\d{2}-\d{2}$/
const clock = /^\d{2}:\d{2}(:\d{2})?$/
const kinds: Record<string, (text: string) => boolean> = {
  email: text => /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(text),
  url: text => URL.canParse(text),
  number: text => !Number.isNaN(Number(text)),
  date: text => day.test(text) && !Number.isNaN(Date.parse(text)),
  time: text => clock.test(text),
}

const given = (bound: string | number | undefined): bound is string | number =>
  bound !== undefined && bound !== ''

const say = (rule: keyof typeof words, label: string, bound: string | number = '') =>
  words[rule].replace(/\{(label|bound)\}/g, (_, name) => (name === 'label' ? label : String(bound)))

/** Whether one comes before the other: days and times as texts, all else as numbers; undefined
 * where they cannot be compared. */
function below(text: string, bound: string | number): boolean | undefined {
  const [is, limit] = [Number(text), Number(bound)]
  for (const kind of [day, clock])
    if (kind.test(text) && kind.test(String(bound))) return text < String(bound)
  return Number.isNaN(is) || Number.isNaN(limit) ? undefined : is < limit
}

/** What is wrong with a value; empty where nothing is. What is left empty is only ever missing. */
export function faultOf(value: unknown, ask: Ask): string {
  const { label, kind = '', least, most } = ask
  const empty =
    value === false ||
    value === null ||
    value === undefined ||
    (Array.isArray(value) ? !value.length : String(value as string).trim() === '')
  if (empty) return ask.required ? say('required', label) : ''
  if (typeof value === 'boolean' || Array.isArray(value)) return ''
  const text = String(value as string).trim()
  if (kinds[kind]?.(text) === false) return say(kind as keyof typeof words, label)
  for (const [bound, early, low, high] of [
    [least, true, 'least', 'earliest'],
    [most, false, 'most', 'latest'],
  ] as const) {
    if (!given(bound)) continue
    const counts = !Number.isNaN(Number(bound))
    const past = early ? below(text, bound) : below(String(bound), text)
    if (past) return say(counts ? low : high, label, bound)
    if (past === undefined && counts) return say('number', label)
  }
  const letters = [...text].length
  if (given(ask.shortest) && letters < Number(ask.shortest))
    return say('shortest', label, ask.shortest)
  if (given(ask.longest) && letters > Number(ask.longest)) return say('longest', label, ask.longest)
  if (ask.pattern && !matches(text, ask.pattern)) return say('pattern', label)
  if (ask.choices?.length && !ask.choices.includes(text))
    return say('choices', label, ask.choices.join(', '))
  return ''
}

function matches(text: string, pattern: string): boolean {
  try {
    return new RegExp(`^(?:${pattern})$`, 'u').test(text)
  } catch {
    return true // as a browser does with a pattern that is none
  }
}

const heard = new WeakMap<Element, () => void>()

/** Has a field looked at again once something else is typed or chosen in it; what was to be done
 * then before is done no more. */
export function onceTyped(at: Element, look: () => void) {
  const again = () => setTimeout(() => heard.get(at)?.())
  if (!heard.has(at)) for (const typed of ['input', 'change']) at.addEventListener(typed, again)
  heard.set(at, look)
}

const hidden = 'position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%)'
const seen =
  'position:fixed;inset:auto 16px 16px;z-index:9999;padding:12px 16px;border:2px solid;border-radius:4px;background:Canvas;color:CanvasText'

/** Says aloud what is wrong with all fields of a form, and shows it where they have no place of
 * their own for it; nothing wrong takes back what was said. */
export function announce(faults: readonly string[], shown: boolean) {
  let told = document.getElementById('faults')
  if (!told) {
    if (!faults.length) return
    told = document.createElement('div')
    told.id = 'faults'
    told.setAttribute('role', 'alert')
    document.body.append(told)
  }
  told.style.cssText = shown ? seen : hidden
  told.textContent = faults.length ? say('summary', '', faults.join(' ')) : ''
  told.hidden = !faults.length
}
