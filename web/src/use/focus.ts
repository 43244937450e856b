import { onUnmounted } from 'vue'

/** Where the focus goes when what had it is gone: to what a place calls its home (the
 * selected line, the cell under work), else to the place itself. Nothing else decides. */
export function home(): HTMLElement | null {
  return (
    document.querySelector<HTMLElement>('[role=dialog] [data-home]') ??
    document.querySelector<HTMLElement>('[data-home]') ??
    document.querySelector<HTMLElement>('#place')
  )
}

const lost = () => !document.activeElement || document.activeElement === document.body

/** Gives the focus back to what had it before, where that is still there, else takes it
 * home; only where nobody has it. What is behind a dialog takes it once that is gone, and
 * what comes in an element's place once it is there, so it is tried for a moment. */
export function giveBack(before?: Element | null, tries = 20) {
  if (!lost()) return
  const old = before instanceof HTMLElement && before !== document.body ? before : undefined
  if (old?.isConnected) old.focus({ preventScroll: true })
  if (lost() && (!old?.isConnected || tries < 10)) home()?.focus({ preventScroll: true })
  if (lost() && tries > 0) setTimeout(() => giveBack(before, tries - 1), 40)
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
