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
