// Draws components of Vue 3: one application whose context all trees share, many roots.
// A node that stays the same object keeps its vnode, and Vue does not look into it.
import { createApp, h, render } from 'vue'

export function make(kit) {
  const app = createApp({ render: () => null })
  const errors = []
  app.config.warnHandler = () => {}
  app.config.errorHandler = e => errors.push(String(e?.message ?? e))
  for (const plugin of kit.setup ?? []) app.use(plugin)
  const Root = {
    props: ['v'],
    render() {
      return this.v
    },
  }
  const drawn = new WeakMap() // root -> nodes with their vnodes

  function one(n, known) {
    const hit = known.get(n)
    if (hit) return hit
    const C = n.html ? n.c : kit.components[n.c]
    const props = { ...n.props, key: n.id, 'data-e': n.id }
    let v
    if (typeof C === 'string') {
      const kids = [...(n.text ? [n.text] : []), ...(n.slots[''] ?? []).map(k => one(k, known))]
      v = h(C, props, kids)
    } else if (!C) {
      v = h('span', { key: n.id, 'data-e': n.id, 'data-broken': '' }, 'The kit gives no ' + n.c)
    } else {
      const slots = {}
      for (const [name, list] of Object.entries(n.slots)) {
        const vs = list.map(k => one(k, known))
        if (name === '' && n.text) vs.unshift(n.text)
        if (vs.length) slots[name || 'default'] = () => vs
      }
      if (n.text && !slots.default) slots.default = () => [n.text]
      v = h(C, props, slots)
    }
    v.memo = [] // what v-memo does: a mounted vnode is not cloned
    known.set(n, v)
    return v
  }

  return {
    draw(root, node, theme) {
      errors.length = 0
      const known = drawn.get(root) ?? new WeakMap()
      drawn.set(root, known)
      const inner = one(node, known)
      const v = kit.wrap
        ? h(kit.wrap, kit.settings?.(theme) ?? {}, { default: () => inner })
        : inner
      const top = h(Root, { v })
      top.appContext = app._context
      render(top, root)
      return errors[0]
    },
    drop(root) {
      render(null, root)
      drawn.delete(root)
    },
    settled: async () => {
      for (let i = 0; i < 3; i++) await new Promise(done => setTimeout(done))
    },
    find(root, id) {
      const out = []
      const seen = new Set()
      const hosts = v => {
        if (!v) return []
        if (v.component) return hosts(v.component.subTree)
        if (v.suspense) return hosts(v.suspense.activeBranch)
        if (v.el?.nodeType === 1 && !Array.isArray(v.type) && typeof v.type === 'string')
          return [v.el]
        if (Array.isArray(v.children)) return v.children.flatMap(hosts)
        return v.el?.nodeType === 1 ? [v.el] : []
      }
      const walk = v => {
        if (!v || typeof v !== 'object' || seen.has(v)) return false
        seen.add(v)
        if (v.key === id && v.props?.['data-e'] === id) {
          out.push(...hosts(v))
          return true
        }
        if (v.component && walk(v.component.subTree)) return true
        if (v.suspense && walk(v.suspense.activeBranch)) return true
        return Array.isArray(v.children) && v.children.some(walk)
      }
      walk(root._vnode)
      return out
    },
  }
}
