import { inject, onMounted, ref, shallowRef, watch, type InjectionKey, type ShallowRef } from 'vue'
import { ask, clientId, POST, type Fragment, type Page, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'

export type Census = Schemas['ApiCensusOut']
export const censusKey: InjectionKey<{
  census: ShallowRef<Census | undefined>
  load: () => Promise<void>
}> = Symbol('census')
export const useCensus = () => inject(censusKey)!

const keyOf = (f: Fragment) =>
  `${f.doc}#${f.element}` + (f.set || f.state ? `#${f.set ?? ''}#${f.state ?? ''}` : '')
/** Rendered parts of screens, fetched in batches as they are asked for; load fetches all of
 * them anew, after a change. */
export function useFragments(wanted: () => Fragment[]) {
  const pages = shallowRef<Record<string, Page>>({})
  let asked = 0
  async function fetchParts(anew: boolean) {
    const mine = ++asked
    const items = wanted().filter(f => f.doc)
    const known = anew ? {} : pages.value
    const got: Record<string, Page> = {}
    for (const f of items) {
      const page = known[keyOf(f)]
      if (page) got[keyOf(f)] = page
    }
    const missing = items.filter(f => !got[keyOf(f)])
    for (let i = 0; i < missing.length; i += 60) {
      const out = await ask(POST('/api/fragments', { body: { items: missing.slice(i, i + 60) } }))
      if (mine !== asked) return // others are wanted now
      out.pages.forEach(p => {
        got[p.key] = p
      })
      pages.value = { ...got }
    }
  }
  const load = () => fetchParts(true)
  onMounted(load)
  watch(
    () => wanted().map(keyOf).join(),
    () => void fetchParts(false),
  )
  return { pages, load, page: (f: Fragment): Page | undefined => pages.value[keyOf(f)] }
}
/** Sends what a dialog decides: it can be undone, and the workspace is read anew; else the
 * error is told in the dialog. */
export function useDecision(send: () => Promise<Schemas['ApiChangeOut']>, done: () => void) {
  const ws = useWorkspace()
  const error = ref('')
  async function decide() {
    try {
      ws.note(await send())
      await ws.load()
      done()
    } catch (e) {
      error.value = (e as Error).message
    }
  }
  return { error, decide }
}
/** How far a let-stand reaches beyond one element, in words. */
export const reach: Record<string, string> = {
  screen: ' on the whole screen',
  spot: ' in its spot',
  rule: ' everywhere',
}
/** No longer lets something stand; why it cannot be is told. */
export function useLift(done: () => unknown) {
  const ws = useWorkspace()
  return async (keys: string[]) => {
    try {
      ws.note(
        await ask(
          POST('/api/census/let-stand', {
            body: { keys, reason: '', drop: true, client: clientId },
          }),
        ),
      )
      await ws.load()
      await done()
    } catch (e) {
      ws.say((e as Error).message)
    }
  }
}
export const standWords = (s?: Schemas['AuditLetStand']) =>
  s
    ? `${s.reason} (${s.by}, ${s.when}${reach[s.scope ?? ''] ?? ''}${s.until ? ', until ' + s.until : ''})`
    : ''
export const bench = (doc: string, element: string) => `/bench/${doc.replace(':', '/')}#${element}`
