import { useDebounceFn } from '@vueuse/core'
import { computed, onScopeDispose, reactive, ref, shallowRef, watch } from 'vue'
import { ApiError, ask, clientId, GET, POST, type Schemas } from '../../api/client'
import { useDress } from '../../use/dress'
import { useWorkspace } from '../../use/workspace'

export type Theme = Schemas['ApiThemeView']
export type Making = Schemas['KitMaking']
export type Preview = Schemas['ApiThemePreview']
export interface Draft {
  id: string
  name: string
  from: string
  making: Making
  tokens: Record<string, unknown>
}

/** The draft that a theme begins as: as it is kept, or a new one from a start. */
export function draftOf(theme: Theme | undefined, from = 'light'): Draft {
  return theme
    ? {
        id: theme.id,
        name: theme.own ? theme.name : '',
        from: theme.from,
        making: { ...theme.making },
        tokens: { ...theme.tokens },
      }
    : { id: '', name: '', from, making: {}, tokens: {} }
}

/** What of a making is decided: empty ones are left to the start. */
export function decided(making: Making): Making {
  return Object.fromEntries(
    Object.entries(making).filter(
      ([, v]) => v !== '' && v !== undefined && v !== null && !Number.isNaN(v),
    ),
  ) as Making
}

/** Themes and the one that is being made: every change of the draft is shown at once
 * in all frames as the theme "draft", with its contrast and what it reaches. Nothing
 * is kept before it is said. */
export function useTheme() {
  const ws = useWorkspace()
  const dress = useDress()
  const data = shallowRef<Schemas['ApiThemesOut']>()
  const draft = reactive<Draft>(draftOf(undefined))
  const preview = shallowRef<Preview>()
  const error = ref('') // of the draft, as it stands
  const refused = ref('') // of the last thing that was asked for
  const where = ref('') // token that the error is at
  const busy = ref(false)
  const theme = computed(() => data.value?.themes.find(t => t.id === draft.id))
  const changed = computed(
    () => JSON.stringify({ ...draft, making: decided(draft.making) }) !== start.value,
  )
  const start = ref('')
  const body = () => ({
    id: draft.id,
    name: draft.name || 'Draft',
    from: draft.from,
    making: decided(draft.making),
    tokens: { ...draft.tokens },
  })

  async function load() {
    data.value = await ask(GET('/api/themes'))
  }
  let opened = 0 // drafts, so far
  function open(next: Draft) {
    opened++
    refused.value = ''
    Object.assign(draft, next)
    start.value = JSON.stringify({ ...next, making: decided(next.making) })
  }
  let latest = 0
  async function look() {
    const mine = ++latest
    try {
      const out = await ask(POST('/api/themes/preview', { body: body() }))
      if (mine !== latest) return
      preview.value = out
      dress.draft = out.css
      error.value = where.value = ''
    } catch (e) {
      if (mine !== latest) return
      error.value = (e as Error).message
      where.value = e instanceof ApiError ? (e.problem.where ?? '') : ''
    }
  }
  const later = useDebounceFn(look, 60)
  watch(draft, () => void later(), { deep: true })
  onScopeDispose(() => {
    dress.draft = ''
  })

  async function taken(out: Schemas['ApiChangeOut']) {
    ws.note(out)
    await Promise.all([ws.load(), load()])
  }
  async function attempt<T>(run: () => Promise<T>): Promise<T | undefined> {
    busy.value = true
    refused.value = ''
    try {
      return await run()
    } catch (e) {
      refused.value = (e as Error).message
      return undefined
    } finally {
      busy.value = false
    }
  }
  const keep = () =>
    attempt(async () => {
      const before = new Set(data.value?.themes.map(t => t.id))
      const mine = opened
      const out = await ask(
        POST('/api/themes', { body: { ...body(), name: draft.name, client: clientId } }),
      )
      await taken(out)
      const kept =
        data.value?.themes.find(t => t.id === draft.id) ??
        data.value?.themes.find(t => !before.has(t.id))
      // Who began another meanwhile goes on with that.
      if (kept && opened === mine) open(draftOf(kept))
      ws.say(`${out.title}: kept, undo takes it back.`)
      return true
    })
  const drop = (id: string) =>
    attempt(async () => {
      await taken(
        await ask(
          POST('/api/changes', {
            body: {
              change: {
                title: `Take away the theme ${id}`,
                steps: [{ do: 'untheme', theme: { id } }],
              },
              client: clientId,
            },
          }),
        ),
      )
    })
  const readFile = (file: File) =>
    attempt(async () => {
      const out = await ask(
        POST('/api/themes/read', { body: { text: await file.text(), from: draft.from } }),
      )
      draft.tokens = out.tokens as Record<string, unknown>
      draft.making = {}
      if (!draft.id) draft.name ||= file.name.replace(/(\.tokens)?\.json$/, '')
      ws.say(`${Object.keys(out.tokens).length} tokens differ from ${draft.from}.`)
    })
  const addFont = (file: File) =>
    attempt(async () => {
      const bytes = new Uint8Array(await file.arrayBuffer())
      let text = ''
      for (const b of bytes) text += String.fromCharCode(b)
      await taken(await ask(POST('/api/fonts', { body: { data: btoa(text), client: clientId } })))
      await look()
    })
  const removeFont = (file: string) =>
    attempt(async () => {
      await taken(await ask(POST('/api/fonts/remove', { body: { file, client: clientId } })))
      await look()
    })
  return {
    data,
    draft,
    theme,
    preview,
    error,
    refused,
    where,
    busy,
    changed,
    load,
    open,
    look,
    keep,
    drop,
    readFile,
    addFont,
    removeFont,
  }
}
