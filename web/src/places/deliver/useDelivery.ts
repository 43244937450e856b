import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { ask, clientId, GET, POST, type Schemas } from '../../api/client'
import { useWorkspace } from '../../use/workspace'

type Change = Schemas['ApiChangeView']
/** A file as the list shows it, whether it is looked at or put into a repository. */
export interface Listed {
  path: string
  dir: string
  name: string
  size?: number
  own: boolean
  what?: Change['what']
  why?: string
}

/** What a delivery is of, where it goes, and what comes of it; wanted is the target to
 * begin with. */
export function useDelivery(wanted?: string) {
  const ws = useWorkspace()
  const targets = shallowRef<Schemas['ApiTargetView'][]>([])
  const repositories = shallowRef<Schemas['ApiRepositoryView'][]>([])
  const target = ref('')
  const into = ref('') // name of a repository; empty: an application of its own
  const off = ref(new Set<string>())
  const asked = ref(false)
  /** Texts stand in files of their own: where somebody wants it, or the screens are translated. */
  const texts = computed({
    get: () => asked.value || !!ws.data?.languages.length,
    set: on => (asked.value = on),
  })
  const files = shallowRef<Schemas['ApiFileView'][]>([])
  const plan = shallowRef<Schemas['ApiIntoOut']>()
  const notes = shallowRef<Schemas['DeliverNote'][]>([])
  const busy = ref(false)
  const error = ref('')
  /** What was read from code is there already. */
  const screens = computed(() => ws.screens.filter(s => !s.source))
  const inCode = computed(() => ws.screens.length - screens.value.length)
  const chosen = computed(() => screens.value.filter(s => !off.value.has(s.id)).map(s => s.id))
  const repository = computed(() => repositories.value.find(r => r.name === into.value))

  onMounted(async () => {
    const [known, allowed] = await Promise.all([
      ask(GET('/api/targets')),
      ask(GET('/api/repositories')),
    ])
    targets.value = known.targets
    repositories.value = allowed.repositories
    // A kit that is code of a repository is of use nowhere else.
    into.value = allowed.repositories.find(r => r.home && !r.problem)?.name ?? ''
    const usable = known.targets.filter(t => !t.refuses)
    target.value = (usable.find(t => t.id === wanted) ?? usable[0])?.id ?? ''
  })

  let latest = 0
  async function look() {
    const mine = ++latest
    error.value = ''
    if (!chosen.value.length || !target.value) {
      files.value = []
      plan.value = undefined
      return
    }
    busy.value = true
    try {
      if (into.value) {
        const out = await ask(POST('/api/repositories/plan', { body: there() }))
        if (mine !== latest) return
        plan.value = out
        notes.value = out.notes ?? []
      } else {
        const out = await ask(POST('/api/deliver', { body: body() }))
        if (mine !== latest) return
        plan.value = undefined
        files.value = out.files
        notes.value = out.notes ?? []
      }
    } catch (e) {
      if (mine === latest) {
        plan.value = undefined
        error.value = (e as Error).message
      }
    } finally {
      if (mine === latest) busy.value = false
    }
  }
  watch([target, chosen, into, texts], look)

  const body = () => ({
    target: target.value,
    screens: chosen.value,
    texts: texts.value,
  })
  const there = () => ({ ...body(), repository: into.value })

  /** Does something, and looks again; false where it could not be done. */
  async function then(done: () => Promise<unknown>) {
    busy.value = true
    error.value = ''
    try {
      await done()
      await look()
      return true
    } catch (e) {
      error.value = (e as Error).message
      return false
    } finally {
      busy.value = false
    }
  }

  /** Writes what was planned, and what the application needs besides where that is wanted. */
  const write = (connect: boolean) =>
    then(() => ask(POST('/api/repositories/deliver', { body: { ...there(), connect } })))

  /** Takes what was edited by hand into the screens. */
  const take = () =>
    then(async () => {
      ws.note(await ask(POST('/api/repositories/take', { body: { ...there(), client: clientId } })))
    })

  const listed = computed<Listed[]>(() =>
    (into.value ? (plan.value?.changes ?? []) : files.value).map(f => {
      const at = f.path.lastIndexOf('/') + 1
      const more = 'what' in f ? { what: f.what, why: f.why } : { size: f.size }
      return {
        path: f.path,
        dir: f.path.slice(0, at),
        name: f.path.slice(at),
        own: !!f.own,
        ...more,
      }
    }),
  )

  function toggle(id: string) {
    const next = new Set(off.value)
    if (!next.delete(id)) next.add(id)
    off.value = next
  }

  return {
    targets,
    repositories,
    target,
    texts,
    into,
    off,
    files,
    plan,
    notes,
    busy,
    error,
    screens,
    inCode,
    chosen,
    repository,
    listed,
    toggle,
    write,
    take,
  }
}
