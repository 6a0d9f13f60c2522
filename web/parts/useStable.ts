import { useCallback, useLayoutEffect, useRef } from 'react'

/** A handler that stays the same while what it does follows the latest drawing; for what many rows are given. */
export function useStable<A extends unknown[], R>(handler: (...args: A) => R): (...args: A) => R {
  const latest = useRef(handler)
  useLayoutEffect(() => void (latest.current = handler))
  return useCallback((...args: A) => latest.current(...args), [])
}
