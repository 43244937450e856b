/**
 * What every reader of markup gives: one tree for all frameworks, each part with the place
 * it has in its file. Places are offsets in bytes of the file as UTF-8.
 */

/** A value as it stands in code. */
export interface Value {
  /**
   * text, number and flag are literals; "one" is known to be one of values (a constant, a
   * conditional, a default); "key" is text by its key, "values" then what it is without one; "bound" is computed, "handler" a
   * function, "unset" what says that nothing is set.
   */
  kind: 'text' | 'number' | 'flag' | 'one' | 'key' | 'bound' | 'handler' | 'unset'
  value: string
  /** of one: all that it may be; of bound: what it may be besides what is computed */
  values?: string[]
  /** how a literal is written, so that another can stand in its place */
  form?: 'attribute' | 'script' | 'bare' | 'content'
  /** place of the literal, quotes included */
  at?: [number, number]
}

export interface Attribute extends Value {
  name: string
  /** place of the whole attribute */
  span: [number, number]
}

export interface Node {
  kind: 'element' | 'text' | 'value' | 'slot' | 'group'
  name?: string
  span: [number, number]
  /** of an element: the place of its opening tag, and where another attribute may stand */
  tag?: [number, number]
  room?: number
  attributes?: Attribute[]
  /** something unknown is set besides, so that what is not set is not known to be so */
  spread?: boolean
  /** all that is passed on to it: the component's own props */
  passes?: boolean
  value?: Value
  /** classes that it has by an expression, as far as they are written there */
  look?: string
  slot?: string
  /** template of Angular in which it stands, as the component around it knows that: "#header",
   * "ng-template[acTemplate=header]" */
  template?: string
  show?: string
  repeat?: string
  /** stands somewhere in the code, not in the tree: under this name */
  under?: string
  children?: Node[]
}

export interface Prop {
  name: string
  type: 'text' | 'yes/no' | 'number' | 'choice' | 'data'
  values?: string[]
  open?: boolean
  default?: string
  required?: boolean
  deprecated?: string
  /** its type is declared elsewhere under this name */
  ref?: string
}

/** What a component declares of its props. */
export interface Declared {
  props: Prop[]
  /** types that it takes over, by name */
  extends?: string[]
}

export interface Component {
  name: string
  /** names it is exported under */
  exported: string[]
  span: [number, number]
  selector?: string
  template?: string
  declared?: Declared
  slots?: string[]
  roots: Node[]
}

export interface Import {
  local: string
  /** "default", "*" or a name */
  name: string
  from: string
}
export interface Export {
  name: string
  /** of the file itself, or of the module that it is from; name "*" is everything */
  local: string
  from?: string
}
export interface Target {
  local?: string
  from?: string
  name?: string
}
export interface Route {
  path: string
  /** from the outermost in: the components drawn around each other */
  chain: Target[]
  /** list of routes that it is in, by the name of its constant */
  list?: string
  /** further routes below it, from another list */
  below?: Target
  /** no screen by itself: it sends one on, or others stand in it */
  only?: boolean
  at: number
}
export interface Problem {
  at: number
  what: string
}

/** Another name of a file for something: "Form.Item" for "Item", "Root" for "Dialog.Root". */
export interface Name {
  name: string
  means: string
}

/** Texts by their keys, as a file holds them; under is their language where it says so. */
export interface Texts {
  under: string
  of: Record<string, string>
}

/** What a bundler's settings let stand for a path, from the folder of the file. */
export interface Alias {
  find: string
  to: string
}

export interface Module {
  language: string
  imports: Import[]
  exports: Export[]
  components: Component[]
  types: Record<string, { values?: string[]; declared?: Declared }>
  routes: Route[]
  problems: Problem[]
  aliases?: Alias[]
  /** what else is called by names of the file */
  names?: Name[]
  /** components that are registered for a whole application, by the name they are used under */
  registered?: { name: string; local: string }[]
  texts?: Texts[]
}

export const empty = (language: string): Module => ({
  language,
  imports: [],
  exports: [],
  components: [],
  types: {},
  routes: [],
  problems: [],
})

/** Offsets of a text in bytes, from those in UTF-16 units. */
export function bytes(text: string): (at: number) => number {
  // eslint-disable-next-line no-control-regex
  if (/^[\x00-\x7f]*$/.test(text)) return at => at
  const table = new Uint32Array(text.length + 1)
  let n = 0
  for (let i = 0; i < text.length; i++) {
    table[i] = n
    const c = text.charCodeAt(i)
    n += c < 0x80 ? 1 : c < 0x800 ? 2 : c >= 0xd800 && c < 0xe000 ? 2 : 3
  }
  table[text.length] = n
  return at => table[Math.max(0, Math.min(at, text.length))]
}

/** Turns all places of a module into bytes. */
export function settle(module: Module, text: string): Module {
  const offset = bytes(text)
  const done = new Set<object>()
  const inBytes = (pair?: [number, number]): void => {
    if (!pair || done.has(pair)) return
    done.add(pair)
    pair[0] = offset(pair[0])
    pair[1] = offset(pair[1])
  }
  const node = (n: Node): void => {
    if (done.has(n)) return
    done.add(n)
    inBytes(n.span)
    inBytes(n.tag)
    if (n.room !== undefined) n.room = offset(n.room)
    inBytes(n.value?.at)
    for (const a of n.attributes ?? []) {
      inBytes(a.span)
      inBytes(a.at)
    }
    n.children?.forEach(node)
  }
  for (const c of module.components) {
    inBytes(c.span)
    c.roots.forEach(node)
  }
  for (const r of module.routes) r.at = offset(r.at)
  for (const p of module.problems) p.at = offset(p.at)
  return module
}

/** Text of code, short enough to be shown. */
export const clipped = (text: string): string => {
  const one = text.replace(/\s+/g, ' ').trim()
  return one.length > 160 ? one.slice(0, 159) + '…' : one
}
