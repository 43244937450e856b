/** What is asked, what is answered, and where it is gathered. */
import { readFileSync } from 'node:fs'
import ts from 'typescript'

interface Question {
  dir: string
  package: string
  drawn: 'elements' | 'vue' | 'react' | 'angular'
  specs: string[]
  files?: string[]
  drawing?: string[] // modules of elements, one each, whose code says what may stand in them
  names?: string[] // types that another source names and does not say
  seconds?: number // after which components are known by their names alone
  code?: boolean // the modules are code without declarations: what their objects say of themselves counts
}
export interface Named {
  name: string
  summary?: string
  /** file that declares it, while what all have is looked for */
  declared?: string
}
export interface Prop extends Named {
  type: 'text' | 'yes/no' | 'number' | 'choice' | 'data'
  values?: string[]
  open?: boolean
  numbers?: boolean
  shape?: string
  default?: string
  required?: boolean
  deprecated?: string
  from: string
  given?: string[] // exports that can be handed to it
}
export interface Entry {
  export?: string
  default?: boolean // the module gives it without a name
  module?: string
  class?: string
  tag?: string
  selector?: string
  brings?: string // what its module gives that code takes instead of it
  summary?: string
  deprecated?: string
  props: Prop[]
  slots: Named[]
  events: Named[]
}
interface Left {
  where: string
  what: string
}

export const question = JSON.parse(readFileSync(0, 'utf8')) as Question
export const left: Left[] = []

export const entries: Entry[] = []
export const known = new Map<ts.Symbol, Entry>()
