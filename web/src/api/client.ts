import createClient from 'openapi-fetch'
import { ref } from 'vue'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type DocHead = Schemas['ApiDocHead']
export type Finding = Schemas['AuditFinding']
export type Stray = Schemas['NormStray']
export type Choice = Schemas['ApiChoice']
export type Choices = Schemas['ApiChoicesOut']
export type Suggestion = Schemas['ApiSuggestion']
export type Page = Schemas['ApiPage']
export type ChangeOut = Schemas['ApiChangeOut']
export type Fragment = Schemas['ApiFragment']
export type Token = Schemas['KitToken']
export type Component = Schemas['ApiComponentHead']

/** A value as it stands in a workspace. */
export type Value =
  string | number | boolean | { token: string } | { expr: string } | { bound: string }
export interface Repeat {
  model: string
  where?: string
  sort?: string
  limit?: number
  page?: string
}
export interface Element {
  id: string
  type: string
  slot?: string
  name?: string
  text?: Value
  props?: Record<string, Value>
  filled?: string[]
  show?: string
  repeat?: Repeat
  children?: Element[]
  origin?: { file?: string; range?: string; hash?: string }
  spread?: boolean // read from code where more is set than stands there
  same?: boolean // in answers: it stands as it stood
}
export interface Edit {
  op:
    | 'insert'
    | 'remove'
    | 'move'
    | 'duplicate'
    | 'set'
    | 'unset'
    | 'text'
    | 'rename'
    | 'show'
    | 'repeat'
    | 'wrap'
    | 'unwrap'
    | 'replace'
    | 'keep'
  id?: string
  parent?: string
  slot?: string
  after?: string
  tree?: Element
  ids?: Record<string, string>
  many?: string[]
  prop?: string
  value?: Value
  filled?: boolean
  name?: string
  repeat?: Repeat
}
export interface Step {
  do: string
  doc?: string
  base?: number
  edits?: Edit[]
  kind?: string
  document?: unknown
  tuning?: { rule: string; severity: string; settings: Record<string, string> }
  theme?: { id: string }
  icon?: { name: string; meanings?: string[]; svg?: string }
  left?: { tag: string; reason?: string }
  picture?: Schemas['PictureKept']
  plan?: Schemas['PicturePlan']
  state?: { name: string; set?: string; edits?: Edit[] }
}
export interface Change {
  title: string
  steps: Step[]
}

export interface Problem {
  title: string
  status: number
  detail?: string
  where?: string
}

/** An answer that is no success, in the words of the server. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail || problem.title)
  }
  get status() {
    return this.problem.status
  }
}

/** Names this window in events, so that it knows its own. */
export const clientId = crypto.randomUUID()

const client = createClient<paths>({ baseUrl: '/' })
export const { GET, POST } = client

/** Whether the server answered when it was last asked. */
export const reached = ref(true)

/** Unwraps an answer or throws an ApiError. */
export async function ask<T>(
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let got
  try {
    got = await answer
    reached.value = true
  } catch {
    reached.value = false
    throw new ApiError({
      title: 'No connection',
      status: 0,
      detail: 'The server cannot be reached.',
    })
  }
  if (!got.response.ok) {
    const p = got.error as Partial<Problem> | undefined
    throw new ApiError({
      title: p?.title ?? got.response.statusText,
      status: got.response.status,
      detail: p?.detail,
      where: p?.where,
    })
  }
  return got.data as T
}
