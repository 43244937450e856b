// Does what elements are told to: data-does names the event, then what happens at it,
// "sorrel-press|open:new-ticket|state:loading".

/** Listens in a root for what its elements answer to. find gives an element by its key,
 * tell takes what is not the elements' own affair: go, state and theme, and for a theme
 * whether it is turned on, where the element says; refused takes what a form asks of its fields,
 * and whether what follows is not to happen. Returns what is to be called whenever elements were
 * added. */
export function hear(root, find, tell, refused) {
  const heard = new Set()
  const does = (node, type) => node instanceof Element && node.dataset?.does?.startsWith(type + '|')
  function act(event) {
    // What elements send of themselves is theirs alone; a click may hit what is in them.
    const el =
      event.type === 'click'
        ? event.composedPath().find(n => does(n, 'click'))
        : does(event.target, event.type) && event.target
    if (!el || el.disabled) return
    for (const part of el.dataset.does.split('|').slice(1)) {
      const [verb, rest = ''] = part.split(':')
      const to = decodeURIComponent(rest)
      if (verb === 'check') {
        if (refused(to)) return
      } else if (verb === 'open' || verb === 'close') {
        const other = find(to)
        if (other) other[other.dataset?.opens ?? 'open'] = verb === 'open'
      } else if (verb === 'submit') formOf(el)?.requestSubmit()
      else if (verb === 'set') hold(to)
      else if (verb === 'touch') tell(verb, filled(to))
      else
        tell(
          verb,
          to,
          [el.on, el.checked].find(v => typeof v === 'boolean'),
        )
    }
  }
  /** A control holds something else, and tells it as if a person had chosen it. */
  function hold(to) {
    const at = to.indexOf('=')
    const name = to.slice(0, at)
    for (const el of root.querySelectorAll('[data-holds]')) {
      const [type, prop, own] = el.dataset.holds.split('|')
      if (own !== name) continue
      el[prop] = JSON.parse(to.slice(at + 1))
      el.dispatchEvent(new CustomEvent(type, { bubbles: true, composed: true }))
    }
  }
  /** What is done to a record, with what the form holds for it. */
  function filled(text) {
    const { from, ...touch } = JSON.parse(text)
    if (from)
      touch.set = Object.fromEntries(
        Object.entries(from).map(([name, [key, prop]]) => [name, find(key)?.[prop] ?? '']),
      )
    return JSON.stringify(touch)
  }
  function formOf(el) {
    for (let up = el.parentElement; up; up = up.parentElement)
      if (typeof up.requestSubmit === 'function') return up
  }
  return () => {
    for (const el of root.querySelectorAll('[data-does]')) {
      const type = el.dataset.does.split('|')[0]
      if (!heard.has(type)) {
        heard.add(type)
        root.addEventListener(type, act, true)
      }
    }
  }
}

/** Tells what controls hold whenever that changes: data-holds names the event, the
 * property and the control, "sorrel-change|value|q". Returns what is to be called
 * whenever elements were added. */
export function follow(root, tell) {
  const heard = new Set()
  function changed(event) {
    const { target } = event // once it was told, an event forgets who told it
    const [type, prop, name] = target.dataset?.holds?.split('|') ?? []
    // What answers to the event itself may not have its property set yet.
    if (type === event.type) queueMicrotask(() => tell(name, target[prop]))
  }
  return () => {
    for (const el of root.querySelectorAll('[data-holds]')) {
      const type = el.dataset.holds.split('|')[0]
      if (!heard.has(type)) {
        heard.add(type)
        root.addEventListener(type, changed, true)
      }
    }
  }
}

/** Themes are words that stand together; this turns one on or off among them. Of those
 * that show light or dark only one stands at a time. */
export function turned(themes, name, usual, on) {
  const list = themes.split(' ').filter(Boolean)
  const is = list.includes(name)
  if ((on ?? !is) === is) return themes
  const rest = list.filter(t => t !== name)
  return is
    ? [usual, ...rest.filter(t => t !== usual)].join(' ')
    : [...rest.filter(t => t !== usual), name].join(' ')
}
