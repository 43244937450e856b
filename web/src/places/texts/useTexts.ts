import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ask, clientId, GET, POST, type ChangeOut, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'
import { grouped, kinds, type Kind } from './texts'

/** All texts beside one language, and how that is changed. What is looked at stands in the
 * address. */
export function useTexts() {
  const ws = useWorkspace()
  const route = useRoute()
  const router = useRouter()
  const data = shallowRef<Schemas['ApiTextsOut']>()
  const error = ref('')

  const asked = (name: string) =>
    typeof route.query[name] === 'string' ? String(route.query[name]) : ''
  const look = (change: Record<string, string | undefined>) =>
    router.replace({ query: { ...route.query, ...change } })
  const language = computed({
    get: () => {
      const known = data.value?.languages.filter(l => !l.written).map(l => l.id) ?? []
      const wanted = asked('language')
      return known.includes(wanted) || !data.value ? wanted : (known[0] ?? '')
    },
    set: id => void look({ language: id || undefined }),
  })
  const kind = computed({
    get: () => (asked('of') in kinds ? (asked('of') as Kind) : 'all'),
    set: of => void look({ of: of === 'all' ? undefined : of }),
  })
  const search = computed({
    get: () => asked('q'),
    set: q => void look({ q: q || undefined }),
  })

  let latest = 0
  async function load() {
    const mine = ++latest
    try {
      const out = await ask(
        GET('/api/texts', { params: { query: { language: language.value || undefined } } }),
      )
      if (mine === latest) {
        data.value = out
        error.value = ''
      }
    } catch (e) {
      if (mine === latest) error.value = (e as Error).message
    }
  }
  watch([language, () => ws.data?.seq], load, { immediate: true })

  const titles = computed(() => new Map(ws.data?.docs.map(d => [`${d.kind}:${d.id}`, d.title])))
  const groups = computed(() =>
    grouped(data.value?.texts ?? [], kind.value, search.value, titles.value),
  )
  const shown = computed(() => data.value?.languages.find(l => l.id === language.value))

  /** Takes a change in; what went wrong is told, and given back. */
  async function taken(change: Promise<ChangeOut>): Promise<string> {
    try {
      ws.note(await change)
      await ws.load()
      return ''
    } catch (e) {
      return (e as Error).message
    }
  }
  const say = (key: string, is: string) =>
    taken(
      ask(
        POST('/api/texts/say', { body: { language: language.value, key, is, client: clientId } }),
      ),
    )
  /** Texts that are not said, and the same words are elsewhere: of those that are looked at. */
  const alike = computed(() =>
    groups.value.flatMap(g => g.entries).filter(e => !e.is && e.like !== undefined),
  )
  const sayAlike = () =>
    taken(
      ask(
        POST('/api/changes', {
          body: {
            change: {
              title: `${alike.value.length} texts in ${language.value} as elsewhere`,
              steps: alike.value.map(e => ({
                do: 'translate' as const,
                said: { language: language.value, key: e.key, is: e.like ?? '', of: e.message },
              })),
            },
            client: clientId,
          },
        }),
      ),
    )
  const change = (id: string, how: { drop?: boolean; written?: boolean }) =>
    taken(ask(POST('/api/texts/language', { body: { id, ...how, client: clientId } })))

  return {
    data,
    error,
    language,
    kind,
    search,
    groups,
    titles,
    shown,
    load,
    say,
    alike,
    sayAlike,
    change,
  }
}
