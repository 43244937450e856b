import { onUnmounted, type Ref } from 'vue'

/** What a place calls its home: the line under work, the grid of records. It has the focus
 * when nothing else does. */
export const home = () =>
  document.querySelector<HTMLElement>('[role=dialog] [data-home]') ??
  document.querySelector<HTMLElement>('[data-home]')

/** Whether nobody in particular has the focus: it may be taken. */
export const nobody = () => {
  const at = document.activeElement
  return !at || at === document.body || at.id === 'place'
}

/** Gives the focus back to what had it before, where that is still there, else takes it
 * home; only where nobody has it. What is behind a dialog takes it once that is gone, and
 * what comes in an element's place once it is there, so it is tried for a moment; at last
 * the place itself has it. Nothing else decides where the focus goes. */
export function giveBack(before?: Element | null, tries = 20) {
  if (!nobody()) return
  const old = before instanceof HTMLElement && before !== document.body ? before : undefined
  if (old?.isConnected) old.focus({ preventScroll: true })
  if (nobody() && (!old?.isConnected || tries < 10)) home()?.focus({ preventScroll: true })
  if (!nobody()) return
  if (tries > 0) setTimeout(() => giveBack(before, tries - 1), 40)
  else document.querySelector<HTMLElement>('#place')?.focus({ preventScroll: true })
}

/** For a dialog: whenever nobody in it has the focus, because it holds nothing that takes
 * it or because what had it is gone, the dialog itself does, for as long as it is open. What
 * lies behind is inert, but keeps the focus until the page is drawn again. */
export function useKeepIn(inner: Ref<HTMLElement | undefined>) {
  const timer = setInterval(() => {
    if (nobody() || document.activeElement?.closest('[inert]'))
      inner.value?.focus({ preventScroll: true })
  }, 80)
  onUnmounted(() => clearInterval(timer))
}

/** For what opens over a place: who opened it has the focus again once it is gone. */
export function useGiveBack() {
  const before = document.activeElement
  onUnmounted(() => setTimeout(() => giveBack(before), 30))
}

/** Watches that the focus is not lost with an element that goes: after an undo, a removal,
 * a pane that closes. What a pointer takes it from by itself stays as people know it. */
export function keepFocus(root: HTMLElement = document.body) {
  let last: Element | undefined
  const came = (e: FocusEvent) => {
    const to = e.target instanceof Element ? e.target : undefined
    last = to?.closest('[role=dialog]') ? undefined : to // a dialog gives back by itself
  }
  root.addEventListener('focusin', came)
  // An element that is taken away tells nobody that it had the focus.
  const gone = new MutationObserver(() => {
    if (!last || last.isConnected) return
    last = undefined
    // What comes in its place may take a moment to be there.
    setTimeout(() => giveBack(), 30)
  })
  gone.observe(root, { childList: true, subtree: true })
  return () => {
    root.removeEventListener('focusin', came)
    gone.disconnect()
  }
}
