// Draws components of React: what a kit puts around everything is drawn once and changes
// happen below it. There is never anything of ours around an element, since selects, tabs
// and steppers look at their children; which box is whose is read from React's own tree
// by the key.
import { Component, createElement as h, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { flushSync } from 'react-dom'

export function make(kit) {
  const roots = new WeakMap()
  const made = new WeakMap() // node -> element
  let failed

  class Guard extends Component {
    constructor(props) {
      super(props)
      this.state = { e: null, of: null }
    }
    static getDerivedStateFromError(e) {
      return { e }
    }
    componentDidCatch(e) {
      failed = String(e?.message ?? e)
    }
    render() {
      return this.state.e ? h('span', { 'data-broken': '' }, '') : this.props.children
    }
  }
  function Holder({ s }) {
    const [, again] = useState(0)
    s.again = () => again(n => n + 1)
    return s.el
  }
  const find = name => name.split('.').reduce((o, k) => o?.[k], kit.components)
  const attributes = {
    class: 'className',
    for: 'htmlFor',
    tabindex: 'tabIndex',
    colspan: 'colSpan',
    rowspan: 'rowSpan',
    readonly: 'readOnly',
    maxlength: 'maxLength',
    minlength: 'minLength',
    autocomplete: 'autoComplete',
    novalidate: 'noValidate',
    datetime: 'dateTime',
  }
  // What a field begins with, so that people can go on from there.
  const begins = { value: 'defaultValue', checked: 'defaultChecked' }
  const fields = ['input', 'select', 'textarea']

  function one(n) {
    let el = made.get(n)
    if (el) return el
    const C = n.html ? n.c : (kit.components[n.c] ?? find(n.c))
    if (!C) return h('span', { key: n.id, 'data-broken': '' }, 'The kit gives no ' + n.c)
    const props = {}
    // Elements of a kind of their own have properties of their own names.
    const own = n.html && !n.c.includes('-')
    for (const [k, v] of Object.entries(n.props)) {
      const name = (n.html && fields.includes(n.c) && begins[k]) || attributes[k] || k
      props[own ? name : k] = v
    }
    if (n.html) props['data-e'] = n.id
    const kids = [...(n.text ? [n.text] : [])]
    for (const [slot, list] of Object.entries(n.slots)) {
      if (slot === '' || slot === 'children') kids.push(...list.map(one))
      else if (list.length) props[slot] = list.length === 1 ? one(list[0]) : list.map(one)
    }
    props.key = n.id
    el = kids.length ? h(C, props, ...kids) : h(C, props)
    made.set(n, el)
    return el
  }

  return {
    draw(root, node, theme) {
      failed = undefined
      let s = roots.get(root)
      if (s && s.theme === theme && !s.broken) {
        s.el = one(node)
        flushSync(s.again)
      } else {
        if (s) s.root.unmount()
        s = {
          el: one(node),
          theme,
          root: createRoot(root, {
            onUncaughtError: e => (failed ??= String(e?.message ?? e)),
            onCaughtError: e => (failed ??= String(e?.message ?? e)),
          }),
        }
        roots.set(root, s)
        const held = h(Guard, null, h(Holder, { s }))
        flushSync(() =>
          s.root.render(kit.wrap ? h(kit.wrap, kit.settings?.(theme, root) ?? null, held) : held),
        )
      }
      s.broken = !!failed
      return failed
    },
    drop(root) {
      roots.get(root)?.root.unmount()
      roots.delete(root)
    },
    settled: async () => {
      for (let i = 0; i < 2; i++) await new Promise(done => setTimeout(done))
    },
    find(root, id) {
      const key = Object.keys(root).find(k => k.startsWith('__reactContainer$'))
      const out = []
      // 5 and 27 are the page's own elements; siblings follow.
      const hosts = f => {
        for (; f; f = f.sibling) {
          if (f.tag === 5 || f.tag === 27) out.push(f.stateNode)
          else hosts(f.child)
        }
      }
      const walk = f => {
        for (; f; f = f.sibling) {
          if (f.key != null && (f.key === id || f.key.endsWith('$' + id))) {
            if (f.tag === 5 || f.tag === 27) out.push(f.stateNode)
            else hosts(f.child)
            return true
          }
          if (f.child && walk(f.child)) return true
        }
        return false
      }
      if (key) walk(root[key].stateNode.current)
      return out
    },
  }
}
