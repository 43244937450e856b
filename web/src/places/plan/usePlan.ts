import { computed, ref, shallowRef } from 'vue'
import { ask, clientId, GET, POST, type Page, type Schemas } from '../../api/client'
import { base64 } from '../../use/pictures'
import { slug } from '../../use/slug'
import { useWorkspace } from '../../use/workspace'
import * as boxes from './boxes'

/** What a file may be; the server says so, too. */
export const accepted = ['image/png', 'image/jpeg', 'image/webp']

/** A screen's plan: the picture, its boxes and what becomes of them. Each change is kept at
 * once, and taken back like any other. */
export function usePlan(screen: () => string) {
  const ws = useWorkspace()
  const data = shallowRef<Schemas['ApiPlanOut']>()
  const page = shallowRef<Page>()
  const error = ref('')
  const busy = ref('')
  const left = ref<string[]>([])
  const selected = ref('')
  const plan = computed(() => data.value?.plan)
  const root = computed(() => plan.value?.root)
  const part = computed(() => root.value && boxes.find(root.value, selected.value))
  const stands = computed(
    () => !!plan.value?.stood && JSON.stringify(plan.value.stood) === JSON.stringify(root.value),
  )

  let latest = 0
  async function load() {
    const mine = ++latest
    try {
      const got = await ask(GET('/api/plans/{screen}', { params: { path: { screen: screen() } } }))
      const drawn = await ask(POST('/api/pages', { body: { docs: ['screen:' + screen()] } }))
      if (mine !== latest) return
      data.value = got
      page.value = drawn.pages[0]
      if (got.plan && !boxes.find(got.plan.root, selected.value))
        selected.value = got.plan.root.parts?.[0]?.id ?? ''
    } catch (e) {
      if (mine === latest) error.value = (e as Error).message
    }
  }

  let turn: Promise<unknown> = Promise.resolve()
  /** In turn, with what failed said. */
  function run(what: string, make: () => Promise<void>): Promise<boolean> {
    const result = turn.then(async () => {
      if (!ws.canBuild) {
        ws.say('Readers look; a builder changes screens.')
        return false
      }
      busy.value = what
      error.value = ''
      try {
        await make()
        return true
      } catch (e) {
        error.value = (e as Error).message
        return false
      } finally {
        busy.value = ''
        await load()
      }
    })
    turn = result
    return result
  }

  const read = (file: File) =>
    run('Reading the picture …', async () => {
      if (!accepted.includes(file.type))
        throw new Error(
          `${file.name || 'The file'} is ${file.type || 'of no known kind'}; accepted: PNG, JPEG, WebP`,
        )
      const got = await ask(
        POST('/api/plans/read', { body: { title: file.name, data: await base64(file) } }),
      )
      await ws.take({
        title: `Plan ${data.value?.title ?? screen()} from a picture`,
        steps: [
          { do: 'picture', picture: got.picture },
          { do: 'plan', plan: { screen: screen(), picture: got.picture.id, root: got.root } },
        ],
      })
      left.value = []
    })

  /** The tree that a change makes is shown at once, and kept. */
  function keep(title: string, next: boxes.Part): Promise<boolean> {
    const was = plan.value
    if (!was || next === was.root) return Promise.resolve(false)
    const now = { ...was, root: next }
    if (data.value) data.value = { ...data.value, plan: now }
    return run('', async () => {
      await ws.take({ title, steps: [{ do: 'plan', plan: now }] })
    })
  }
  const change = (title: string, make: (root: boxes.Part) => boxes.Part) =>
    root.value ? keep(title, make(root.value)) : Promise.resolve(false)

  const seen = () => ({ client: clientId })
  const stand = () =>
    run('Making the screen …', async () => {
      const out = await ask(POST('/api/plans/stand', { body: { screen: screen(), seen: seen() } }))
      if (out.change) ws.note(out.change)
      left.value = out.left
    })
  const piece = (title: string) =>
    run('Making the piece …', async () => {
      const id = slug(title, 40)
      ws.note(
        await ask(
          POST('/api/plans/piece', {
            body: {
              screen: screen(),
              part: selected.value,
              id: id || 'piece',
              title,
              seen: seen(),
            },
          }),
        ),
      )
    })
  const step = (back: boolean) =>
    run('', async () => {
      const last = (back ? ws.done : ws.undone).at(-1)
      if (await (back ? ws.undo() : ws.redo()))
        ws.say(`${back ? 'Taken back' : 'Brought back'}: ${last?.title}`)
    })

  return {
    data,
    plan,
    root,
    part,
    page,
    error,
    busy,
    left,
    selected,
    stands,
    load,
    read,
    change,
    stand,
    piece,
    step,
  }
}
export type UsedPlan = ReturnType<typeof usePlan>
