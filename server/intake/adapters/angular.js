// Draws components of Angular without its compiler and without evaluating text: the tree
// is walked into the instructions that the compiler would have written, so an adapter
// holds for the majors that have them.
import { createApplication } from '@angular/platform-browser'
import { box, provided } from 'ubiquant:angular-version'
import {
  createComponent,
  ErrorHandler,
  ɵɵadvance,
  ɵɵdefineComponent,
  ɵɵelementEnd,
  ɵɵelementStart,
  ɵɵlistener,
  ɵɵproperty,
  ɵɵtemplate,
  ɵɵtemplateRefExtractor,
  ɵɵtext,
  ɵɵtextInterpolate,
} from '@angular/core'

// What Angular says by number alone once it is built, or by the ways in which it looked.
const inWords = text => {
  const [, asked] = /NullInjectorError: No provider for ([\w$]+)/.exec(text) ?? []
  if (asked)
    return `it asks for ${asked}, which only the application or another component around it gives`
  return text.replace(/^(NG0?\d+).*$/s, (all, code) =>
    code === 'NG0201' || code === 'NG0203'
      ? `it asks for what only another component around it gives (${code})`
      : code === 'NG0950' || code === 'NG0951'
        ? `a setting or a part that it cannot do without is missing (${code})`
        : all,
  )
}

// A selector as the compiler writes it: a tag, attributes, classes, and what it must not be. None
// where it says more than that.
const CLASS = 8
const NOT_ATTRIBUTE = 3
function compiled(selector) {
  const out = ['']
  let rest = selector.trim()
  while (rest) {
    const part =
      /^(?:([A-Za-z][\w-]*)|\[([\w.:-]+)(?:=["']?([^"'\]]*)["']?)?\]|\.([\w-]+)|:not\(\[([\w.:-]+)(?:=["']?([^"'\]]*)["']?)?\]\))/.exec(
        rest,
      )
    if (!part) return
    const [all, tag, attribute, value, cls, not, notValue] = part
    if (tag) out[0] = tag
    else if (attribute) out.push(attribute, value ?? '')
    else if (cls) out.push(CLASS, cls)
    else out.push(NOT_ATTRIBUTE, not, notValue ?? '')
    rest = rest.slice(all.length)
  }
  return out
}

export function make(kit) {
  let app
  let failed
  const live = new WeakMap()
  const def = C => C?.ɵcmp || C?.ɵdir
  const kids = n => Object.entries(n.slots).flatMap(([slot, list]) => list.map(k => [slot, k]))
  const shape = n => [
    n.c,
    n.props[kit.chosen?.[n.c]],
    n.id,
    n.text ? 1 : 0,
    Object.keys(n.props),
    kids(n).map(([s, k]) => [s, shape(k)]),
  ]

  function program(tree, at) {
    const consts = []
    const used = new Set(kit.always ?? [])

    /** The instructions of one view: of the page, or of a template in it. */
    function view(list) {
      const creates = []
      const updates = []
      let decls = 0
      let vars = 0
      // What stands in templates of a component stands in views of its own.
      const template = (slot, inside) => {
        const i = decls++
        const [, name, value] = /^ng-template\[([^=\]]+)=?(.*)\]$/.exec(slot) ?? []
        const attrs = name ? [name, value] : []
        const refs = name ? undefined : consts.push([slot.slice(1), '']) - 1
        const c = consts.push(attrs) - 1
        const inner = view(inside)
        creates.push(() =>
          ɵɵtemplate(
            i,
            inner.run,
            inner.decls,
            inner.vars,
            'ng-template',
            c,
            refs,
            ɵɵtemplateRefExtractor,
          ),
        )
      }
      const walk = (n, slot) => {
        const i = decls++
        const C = n.html ? undefined : kit.components[n.c]
        const D = def(C)
        const attrs = ['data-e', n.id]
        let tag = n.html ? n.c : 'span'
        if (D) {
          used.add(C)
          const s = kit.ways?.[n.c] ?? D.selectors[0]
          tag = s[0] || 'div'
          // Of several attributes it bears the one that is chosen.
          const chosen = n.props[kit.chosen?.[n.c]]
          if (chosen) attrs.push(chosen, '')
          else
            for (let k = 1; k < s.length; k += 2)
              if (typeof s[k] === 'string' && s[k]) attrs.push(s[k], s[k + 1])
        }
        // A place for content is named by a selector. What is to stand there bears the attribute that
        // it asks for, or comes as if it were what it asks for.
        const [first] = slot.split(',')
        const attribute = /^\s*\[([\w-]+)\]\s*$/.exec(first)
        if (attribute) attrs.push(attribute[1], '')
        // Of an element of its own kind settings are properties; of the page's they are attributes.
        const written = k => n.html && (!n.c.includes('-') || k === 'slot' || k.startsWith('data-'))
        const hears = Object.keys(n.props).filter(k => typeof n.props[k] === 'function')
        const names = Object.keys(n.props).filter(
          k => !written(k) && !hears.includes(k) && k !== kit.chosen?.[n.c],
        )
        for (const k of Object.keys(n.props))
          if (written(k) && !hears.includes(k)) attrs.push(k, String(n.props[k]))
        const gives = Object.values(D?.outputs ?? {})
        const event = k => (gives.includes(k) ? k : k.charAt(2).toLowerCase() + k.slice(3))
        const bound = [...names, ...hears.map(event)]
        if (bound.length) attrs.push(3, ...bound) // 3: what is bound
        const as = first.trim() && !attribute && compiled(first)
        if (as) attrs.push(5, as) // 5: what it comes as
        const c = consts.push(attrs) - 1
        creates.push(() => {
          ɵɵelementStart(i, tag, c)
          for (const k of hears) ɵɵlistener(event(k), given => at(n.id).props[k]?.(given))
        })
        if (names.length) {
          vars += names.length
          updates.push([
            i,
            () => {
              const { props } = at(n.id)
              for (const k of names) ɵɵproperty(k, props[k])
            },
          ])
        }
        if (n.text) {
          const j = decls++
          creates.push(() => ɵɵtext(j))
          vars++
          updates.push([j, () => ɵɵtextInterpolate(at(n.id).text)])
        }
        for (const [s, list] of Object.entries(n.slots))
          if (s.startsWith('#') || s.startsWith('ng-template[')) template(s, list)
          else for (const k of list) walk(k, s)
        creates.push(() => ɵɵelementEnd())
      }
      for (const n of list) walk(n, '')
      const run = flags => {
        if (flags & 1) creates.forEach(f => f())
        if (flags & 2) {
          let p = 0
          for (const [i, f] of updates) {
            if (i > p) {
              ɵɵadvance(i - p)
              p = i
            }
            f()
          }
        }
      }
      return { run, decls, vars }
    }
    const page = view([tree])
    class Tree {}
    Tree.ɵfac = () => new Tree()
    Tree.ɵcmp = ɵɵdefineComponent({
      type: Tree,
      selectors: [['u-tree']],
      decls: page.decls,
      vars: page.vars,
      consts,
      dependencies: [...used],
      encapsulation: 2,
      template: page.run,
    })
    return Tree
  }

  return {
    async ready() {
      app = await createApplication({
        providers: [
          ...provided(),
          ...(kit.setup ?? []).flat(),
          { provide: ErrorHandler, useValue: { handleError: e => (failed ??= e) } },
        ],
      })
    },
    draw(root, node) {
      const nodes = new Map()
      const walk = n => {
        nodes.set(n.id, n)
        kids(n).forEach(([, k]) => walk(k))
      }
      walk(node)
      const key = JSON.stringify(shape(node))
      const was = live.get(root)
      failed = undefined
      // What goes wrong while all is looked at is handed over, and what comes after it is left as it was.
      const looked = () => {
        app.tick()
        if (failed) throw failed
      }
      try {
        if (was?.key === key) {
          was.nodes.set(nodes)
          return looked()
        }
        was?.ref.destroy()
        live.delete(root)
        const now = box(nodes)
        const ref = createComponent(
          program(node, id => now.get().get(id)),
          { environmentInjector: app.injector },
        )
        live.set(root, { key, nodes: now, ref })
        app.attachView(ref.hostView)
        root.replaceChildren(ref.location.nativeElement)
        looked()
      } catch (e) {
        failed = undefined
        // It stays as far as it was drawn, and is looked at no more: else what is wrong with it
        // would be told of every other picture, and these would not be looked at to the end.
        const here = live.get(root)
        if (here) {
          app.detachView(here.ref.hostView)
          here.key = ''
        }
        return inWords(String(e?.message ?? e))
      }
    },
    drop(root) {
      live.get(root)?.ref.destroy()
      live.delete(root)
      root.replaceChildren()
    },
    settled: async () => {
      if (app.whenStable) await app.whenStable()
      else await new Promise(done => app.isStable.subscribe(stable => stable && done()))
      return failed && inWords(String(failed.message ?? failed))
    },
    find: (root, id) => [...root.querySelectorAll(`[data-e="${CSS.escape(id)}"]`)],
  }
}
