import { useCallback, useState } from 'react'

/** Values by their names, and what sets one of them. */
export function useKept<T extends object>(
  usual: T,
): [kept: T, keep: <K extends keyof T>(name: K, value: T[K]) => void] {
  const [kept, setKept] = useState(usual)
  const keep = useCallback(<K extends keyof T>(name: K, value: T[K]) => {
    setKept(now => ({ ...now, [name]: value }))
  }, [])
  return [kept, keep]
}

/** As kept, where whoever uses the component may give some of the values and is told of them. */
export function useHeld<T extends object>(
  given: T,
  tell: { [K in keyof T]?: ((value: T[K]) => void) | undefined },
): [held: T, hold: <K extends keyof T>(name: K, value: T[K]) => void] {
  const [kept, keep] = useKept(given)
  const held = { ...kept }
  for (const name in tell) if (tell[name]) held[name] = given[name]
  const hold = <K extends keyof T>(name: K, value: T[K]) => {
    keep(name, value)
    tell[name]?.(value)
  }
  return [held, hold]
}
