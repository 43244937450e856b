import { createContext } from 'react'

/** The state of the screen around, and what sets it. */
export const ScreenState = createContext<{ state: string; setState: (state: string) => void }>({
  state: 'ready',
  setState: () => undefined,
})
