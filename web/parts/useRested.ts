import { useEffect, useState } from 'react'

const REST_MS = 120

/** A value once it has stayed the same for a moment: what is walked past is not asked for. */
export function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), REST_MS)
    return () => clearTimeout(timer)
  }, [value])
  return rested
}
