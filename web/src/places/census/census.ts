import { inject, onMounted, shallowRef, watch, type InjectionKey, type ShallowRef } from 'vue'
import { ask, POST, type Fragment, type Page, type Schemas } from '../../api/client'

export type Census = Schemas['ApiCensusOut']
export const censusKey: InjectionKey<{
  census: ShallowRef<Census | undefined>
  load: () => Promise<void>
}> = Symbol('census')
export const useCensus = () => inject(censusKey)!

const keyOf = (f: Fragment) => `${f.doc}#${f.element}`
/** Rendered parts of screens, fetched in batches as they are asked for. */
export function useFragments(wanted: () => Fragment[]) {
  const pages = shallowRef<Record<string, Page>>({})
  async function load() {
    const items = wanted().filter(f => f.doc)
    const got: Record<string, Page> = {}
    for (let i = 0; i < items.length; i += 60) {
      const batch = items.slice(i, i + 60)
      const out = await ask(POST('/api/fragments', { body: { items: batch } }))
      out.pages.forEach(p => {
        got[p.key] = p
      })
      pages.value = { ...got }
    }
  }
  onMounted(load)
  watch(() => wanted().map(keyOf).join(), load)
  return { pages, load, page: (f: Fragment): Page | undefined => pages.value[keyOf(f)] }
}
export const bench = (doc: string, element: string) => `/bench/${doc.replace(':', '/')}#${element}`
