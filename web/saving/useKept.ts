import { useCallback, useState } from 'react'

const kept = new Map<string, unknown>()

/** Forgets what screens kept, since somebody else is at the page. */
export const forgetKept = (): void => kept.clear()

/** State that is there again when one comes back to a screen; in memory alone, so that it ends with the page. */
export function useKept<T>(key: string, initial: () => T): [T, (next: T | ((now: T) => T)) => void] {
  const [state, setState] = useState(() => (kept.has(key) ? (kept.get(key) as T) : initial()))
  const set = useCallback(
    (next: T | ((now: T) => T)) =>
      setState((now) => {
        const value = typeof next === 'function' ? (next as (now: T) => T)(now) : next
        kept.set(key, value)
        return value
      }),
    [key],
  )
  return [state, set]
}
