// Has the lists of a page act: what its controls hold filters, sorts and pages them, and
// what counts them follows.
import { follow } from './acts.js'
import * as x from './x.js'

/** lists are the repeats by their names, acting or merely counted; follows are texts,
 * settings and visibilities that follow the controls: [element, what, value, list]. */
export function act({ controls, count, pages, lists, follows }) {
  const kept = new Map() // elements by their keys, those taken away too
  const find = key => {
    if (!kept.has(key)) kept.set(key, document.querySelector('[data-e="' + CSS.escape(key) + '"]'))
    return kept.get(key)
  }
  const before = node => {
    const mark = document.createComment('')
    node.before(mark)
    return mark
  }
  const passing = list => x.rows(list.records, list.where, list.order())
  for (const [name, list] of Object.entries(lists)) {
    Object.defineProperty(count, name, { get: () => passing(list).length })
    Object.defineProperty(pages, name, { get: () => x.pages(count[name], list.size) })
    if (!list.acts) continue
    list.rows = list.records.map(record => find(list.key + '#' + record.id)).filter(Boolean)
    if (list.rows.length) list.mark = before(list.rows[0])
  }
  const each = follows.flatMap(([id, what, value, records]) => {
    const found = records
      ? records.map(record => [find(id + '#' + record.id), () => value(record)])
      : [[find(id), value]]
    return found
      .filter(([node]) => node)
      .map(([node, value]) => ({
        node,
        what,
        value,
        mark: what === 'show' ? before(node) : undefined,
      }))
  })
  function set(node, what, value) {
    if (what === 'text') {
      const text = [...node.childNodes].find(n => n.nodeType === Node.TEXT_NODE)
      if (text) text.textContent = x.text(value)
      else node.prepend(x.text(value))
    } else if (typeof value === 'boolean') node.toggleAttribute(what, value)
    else if (value == null) node.removeAttribute(what)
    else node.setAttribute(what, x.text(value))
  }
  function update() {
    for (const list of Object.values(lists)) {
      if (!list.mark) continue
      const wanted = x
        .rows(list.records, list.where, list.order(), list.size, list.page())
        .map(record => find(list.key + '#' + record.id))
        .filter(Boolean)
      const stays = new Set(wanted)
      for (const row of list.rows) if (!stays.has(row)) row.remove()
      // What stands where it should is not moved, so that it keeps the focus.
      let at = list.mark
      for (const row of wanted) {
        if (at.nextSibling !== row) at.after(row)
        at = row
      }
    }
    for (const { node, what, value, mark } of each) {
      let is
      try {
        is = value()
      } catch (error) {
        console.warn(error)
      } // a number is missing in this record
      if (what !== 'show') set(node, what, is)
      else if (!is) node.remove()
      else if (mark.nextSibling !== node) mark.after(node)
    }
  }
  update()
  follow(document, (name, value) => {
    controls[name] = value
    update()
  })()
  document.querySelector('[data-waits]')?.removeAttribute('data-waits')
}
