import { useState } from 'react'
import { page } from '../api/client'
import { vault } from '../saving/vault'

/**
 * What a person has set for themselves and this browser keeps for them, sealed.
 * @param name of it, with what it is about
 * @param usual while nothing is kept
 */
export function useKeptHere<T>(name: string, usual: T): [value: T, keep: (next: T) => void] {
  const key = `level-table-set ${name} ${page.personId}`
  const [value, setValue] = useState<T>(() => {
    const kept = vault.get(key)
    return kept === null ? usual : (JSON.parse(kept) as T)
  })
  const keep = (next: T) => {
    vault.set(key, JSON.stringify(next))
    setValue(next)
  }
  return [value, keep]
}
