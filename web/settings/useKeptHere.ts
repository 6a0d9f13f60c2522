import { useState } from 'react'

/**
 * What a person has set for themselves and this browser keeps.
 * @param name of it, with what it is about
 * @param usual while nothing is kept
 */
export function useKeptHere<T>(name: string, usual: T): [value: T, keep: (next: T) => void] {
  const [value, setValue] = useState<T>(() => {
    const kept = localStorage.getItem(name)
    return kept === null ? usual : (JSON.parse(kept) as T)
  })
  const keep = (next: T) => {
    localStorage.setItem(name, JSON.stringify(next))
    setValue(next)
  }
  return [value, keep]
}
