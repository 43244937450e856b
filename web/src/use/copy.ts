import { useWorkspace } from './workspace'

/** Puts a text on the clipboard and says so, or says why it could not be. */
export function useCopy() {
  const ws = useWorkspace()
  return async (text: string, what: string) => {
    try {
      await navigator.clipboard.writeText(text)
      ws.say(`${what} is on the clipboard.`)
    } catch {
      ws.say(`The browser does not let ${what.toLowerCase()} onto the clipboard.`)
    }
  }
}
