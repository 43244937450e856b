import { shallowRef, type Ref } from 'vue'
import { ask, POST, type ChangeOut, type Page, type Schemas } from '../../api/client'
import type { Patch } from '../../frame/messages'

/** What is drawn of a document: the page as the server rendered it, and the patches that
 * were taken since. Whoever draws it anew, for whatever reason, draws both. */
export interface Picture {
  page: Page
  since: Patch[]
  revision: number // of the document that it shows, patches included
  edited: boolean // some of the patches come from edits
}

/** What a press does to a record. */
export type Touch = Schemas['SampleTouch']

/** Beyond so many patches a page is asked for anew. */
const MOST = 400

/** What the document on the bench looks like, in one place: nothing else says what the
 * Proof shows. Calls that change it are made one at a time (see inTurn of the bench). */
export function usePicture(look: {
  doc: Ref<string>
  set: Ref<string>
  state: Ref<string>
  language: Ref<string>
}) {
  const picture = shallowRef<Picture>()
  /** How those who draw it take patches; resolves when they are painted. */
  const paint = shallowRef<(list: Patch[], token: number) => Promise<unknown>>()
  let held: Record<string, unknown> = {} // what the preview's controls hold, by name
  let touched: Touch[] = [] // what presses did to records, in the preview alone

  /** The page as it is looked at now; nothing where that is another one meanwhile. */
  async function rendered(): Promise<Page | undefined> {
    const [doc, set, state] = [look.doc.value, look.set.value, look.state.value]
    const language = look.language.value
    const out = await ask(POST('/api/pages', { body: { docs: [doc], set, state, language } }))
    return look.doc.value === doc && look.set.value === set && look.language.value === language
      ? out.pages[0]
      : undefined
  }

  function draw(page: Page) {
    const old = picture.value
    const same =
      old &&
      !old.edited &&
      old.page.key === page.key &&
      old.page.html === page.html &&
      JSON.stringify(old.page.props) === JSON.stringify(page.props)
    if (same) {
      // What was chosen in its controls stays.
      picture.value = { ...old, page: { ...old.page, problems: page.problems } }
      picture.value.revision = page.revision
      return
    }
    held = {}
    touched = []
    picture.value = { page, since: [], revision: page.revision, edited: false }
  }

  async function redraw() {
    const page = await rendered()
    if (page) draw(page)
  }

  async function patch(list: Patch[], token: number, to: { revision: number; edited: boolean }) {
    const p = picture.value!
    // Kept before they are sent: a frame that is not there yet draws them with the page.
    p.since.push(...list)
    p.revision = to.revision
    p.edited ||= to.edited
    await paint.value?.(list, token)
  }

  /** Takes in what a change did; known is the revision that it was asked with. */
  async function adopt(out: ChangeOut, known: number | undefined) {
    const p = picture.value
    if (out.page) {
      if (look.language.value) await redraw()
      else draw(out.page)
    } else if (
      !p ||
      p.revision !== known ||
      look.language.value || // patches speak as the screens are written
      Object.keys(held).length ||
      touched.length ||
      p.since.length + out.patches.length > MOST
    ) {
      await redraw() // the patches start from another page than the one drawn
    } else {
      await patch(out.patches, out.seq, { revision: out.view!.head.revision, edited: true })
    }
  }

  /** A control of the preview was used: what follows from that is drawn. */
  const hold = (name: string, value: unknown) => follow({ ...held, [name]: value }, touched)

  /** A press of the preview touched a record: what follows from that is drawn. */
  const touch = (what: Touch) => follow(held, [...touched, what])

  async function follow(to: typeof held, touches: Touch[]): Promise<string | undefined> {
    const from = held
    const drawn = picture.value
    const out = await ask(
      POST('/api/held', {
        body: {
          doc: look.doc.value,
          set: look.set.value,
          state: look.state.value,
          language: look.language.value,
          from,
          to,
          touched,
          touches,
        },
      }),
    )
    if (!drawn || picture.value !== drawn) return undefined // drawn anew meanwhile
    held = to
    touched = touches
    if (out.page)
      picture.value = { page: out.page, since: [], revision: drawn.revision, edited: drawn.edited }
    else await patch(out.patches, Date.now(), { revision: drawn.revision, edited: false })
    return out.problems[0]
  }

  return { picture, paint, draw, redraw, rendered, adopt, hold, touch }
}
